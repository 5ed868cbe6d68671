"""A way to start more is one module and its place in the list: this file adds one, and nothing else is touched."""

import pytest

from vinegate.core import field
from vinegate.core.grade import breaks, meets
from vinegate.core.plan import plan_raw
from vinegate.core.start import ways
from vinegate.core.start.connection import Connection
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.facts import Start
from vinegate.core.start.simulation import keep
from vinegate.core.start.way import Way
from vinegate.demo import demo_job
from vinegate.exchange.circuit_file import circuit_schema


def run(simulation):
    """Through a thick wire: a little less than full voltage, all the way."""
    keep(simulation, "thick-wire", in_turn(simulation.runs, [Turn(key="thick")], dead_s=0, before=None))


THICK = Way(
    key="thick-wire",
    label="a thick wire",
    name="thick wire",
    order=0,
    needs="a wire",
    phrase=lambda at, words: "a thick wire",
    settings=("start.instantaneous_trip",),
    electronic=True,
    lowers_volts=True,
    possible=lambda asking: breaks("Too thick.") if asking.circuit.plate.leads == 3 else meets(""),
    connections=lambda plant, settings: (Connection(key="thick", series=0.2 * complex(plant.z_motor[0])),),
    run=run,
)


@pytest.fixture
def listed(monkeypatch):
    monkeypatch.setattr(ways, "WAYS", (*ways.WAYS, THICK))
    yield
    field._read.cache_clear()  # what was read with the longer list


def pump(method="thick-wire", **changes):
    demo = demo_job("harrowmere-lock.json")
    facts = dict(demo.circuits)["P-11"]
    facts = facts | {"start": facts["start"] | {"method": method}, "plate": facts["plate"] | changes}
    return plan_raw(demo.rules, demo.facts, facts)


def test_it_is_compared_chosen_judged_and_said(listed):
    plan = pump()
    row = plan.comparison.row("thick-wire")
    assert plan.comparison.chosen == "thick-wire"
    full = plan.comparison.row("full-voltage")
    assert row.peak_a < full.peak_a
    assert row.time_s > full.time_s
    assert {gate.key for gate in row.gates} >= {gate.key for gate in full.gates}
    assert "thick wire" in "".join(piece.text for piece in plan.answer)


def test_later_stages_ask_its_traits(listed):
    """Electronic: its maker rates it. It lowers the volts at the leads: a brake's coil there may not lift."""
    plan = pump()
    assert plan.protected.device("starter").rule == "maker's rating for this start"
    assert plan.comparison.row("thick-wire").harmonics


def test_a_plate_may_not_allow_it(listed):
    row = pump(leads="3").comparison.row("thick-wire")
    assert (row.outcome, row.why) == (None, "Too thick.")


def test_its_key_is_read_offered_and_in_the_schema_only_while_it_is_listed(listed, monkeypatch):
    fact = Start.fields()["method"]
    assert ("thick-wire", "a thick wire") in fact.offered
    assert fact.read("A thick wire") == "thick-wire"
    start = circuit_schema()["properties"]["circuits"]["items"]["properties"]["start"]
    assert "thick-wire" in start["properties"]["method"]["enum"]
    monkeypatch.undo()
    field._read.cache_clear()
    assert [error.path for error in pump().errors] == ["start.method"]
