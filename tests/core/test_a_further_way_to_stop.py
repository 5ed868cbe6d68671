"""A way to stop more is one module and its place in the list: this file adds one, and nothing else is touched."""

import numpy as np
import pytest

from vinegate.core import field
from vinegate.core.grade import Verdict, rule
from vinegate.core.plan import plan_raw
from vinegate.core.stop import stage, ways
from vinegate.core.stop.courses import slow
from vinegate.core.stop.facts import Stop
from vinegate.core.stop.row import Acting, Doing, row_of
from vinegate.core.stop.way import Handle, Sizes, Way
from vinegate.demo import demo_job
from vinegate.drawing.stops_strip import stops_strip
from vinegate.web.stages.stop.ways import own_settings, settings_of, sizes

TORQUE_NM = 30.0


def make(asked):
    """A paddle in oil: the same torque all the way."""

    def course(turning):
        nothing = np.zeros(turning.omega.size)
        return slow(turning, nothing + TORQUE_NM, line_a=nothing, rotor_w=nothing, outside_w=TORQUE_NM * turning.omega)

    acting = lambda found: (Acting(name="paddle", from_s=0.0, to_s=float(found.time_s[-1])),)  # noqa: E731
    return row_of(
        asked,
        ways.way_of("paddle"),
        Doing(setting="30 N·m", course=course, caution="", steps=("It dips.",), acting=acting),
    )


def with_traits(**traits):
    return Way(
        key="paddle",
        name="paddle in oil",
        phases=(3,),
        make=make,
        settings=("stop.drive_ramp",),
        gates=lambda circuit, asked, row: [rule("stop.oil", "Oil", False, "It is cold.", "a test")],
        handle=Handle(field="stop-drive_ramp", label="It dips until", at=lambda row: row.acting[0].to_s),
        sizes=(Sizes(name="Paddle", figures=("energy",)),),
        **traits,
    )


@pytest.fixture
def listed(monkeypatch):
    usual = ways.WAYS

    def put(**traits):
        more = (*usual, with_traits(**traits))
        for place in (ways, stage):
            monkeypatch.setattr(place, "WAYS", more)

    put()
    yield put
    field._read.cache_clear()  # what was read with the longer list


def plan(group="P-11", **stop):
    demo = demo_job("harrowmere-lock.json")
    facts = dict(demo.circuits)[group]
    return plan_raw(demo.rules, demo.facts, facts | {"stop": facts.get("stop", {}) | {"method": "paddle"} | stop})


def test_it_is_worked_chosen_judged_and_said(listed):
    found = plan()
    used, alone = found.stopping.used, found.stopping.row("coast")
    assert used.method == "paddle"
    assert used.time_s < alone.time_s
    assert used.outside_kj > 0
    assert found.gate("stop.oil").verdict is Verdict.FAILS
    assert "paddle in oil" in str(stops_strip(found.stopping, settings=settings_of(found, found.stopping)))


def test_its_sheet_has_its_facts_its_handle_and_its_sizes(listed):
    found = plan()
    assert own_settings(found)[0] == ("stop.drive_ramp",)
    (setting,) = settings_of(found, found.stopping)
    assert (setting.label, setting.value) == ("It dips until", found.stopping.used.acting[0].to_s)
    name, figures = sizes(found)[0]
    assert (name, [figure.key for figure in figures]) == ("Paddle", ["stop.energy"])


@pytest.mark.parametrize(("traits", "category_1"), [({}, Verdict.FAILS), ({"slows_first": True}, Verdict.UNKNOWN)])
def test_an_emergency_stop_asks_whether_it_slows_first(listed, traits, category_1):
    listed(**traits)
    assert plan(emergency="1").gate("stop.emergency").verdict is category_1


@pytest.mark.parametrize("traits", [{}, {"by_frequency": True}])
def test_what_must_hold_at_rest_asks_whether_a_drive_does_it(listed, traits):
    listed(**traits)
    assert ("It does not hold at rest" in plan(hold="rest").stopping.used.why) is not bool(traits)


def test_a_brake_of_its_own_holds_is_judged_and_has_an_enclosure(listed):
    listed(closes=lambda asked, row: (row.outside_kj * 1000, "T·∫ω dt"))
    found = plan(per_hour="6")
    assert found.gate("stop.release")
    assert found.gate("stop.heat")
    assert found.figure("stop.brake_heat").value == pytest.approx(found.stopping.used.outside_kj)


def test_its_key_is_read_and_offered_only_while_it_is_listed(listed, monkeypatch):
    fact = Stop.fields()["method"]
    assert ("paddle", "paddle in oil") in fact.offered
    monkeypatch.undo()
    field._read.cache_clear()
    assert [error.path for error in plan().errors] == ["stop.method"]
