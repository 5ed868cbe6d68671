"""How often it starts and stops: judged where it is said, else what it surely bears stands on the checklist."""

import re

import pytest

from tests.conftest import planner
from tests.core.good import GOOD, SOUND
from vinegate.core.grade import Kind, Verdict

UNSAID = {"start.starts_per_hour": None, "stop.per_hour": None}
FEW = ("NEC, direct", "NEC, soft starter", "NEC, wye-delta", "NEC, 208 V", "IEC, soft starter")


def gate(name, key, **changes):
    plan = GOOD[name](UNSAID | {path.replace("__", "."): text for path, text in changes.items()})
    return next((one for one in plan.gates if one.key == key), None)


@pytest.mark.parametrize("name", FEW)
def test_what_is_said_to_be_borne_passes_once_it_is_typed_and_many_more_do_not(name):
    said = gate(name, "start.often")
    assert (said.kind, said.verdict) == (Kind.CONFIRM, Verdict.UNKNOWN)
    borne = int(re.search(r"bears (\d+) starts?", said.sentence)[1])
    assert gate(name, "start.per_hour", start__starts_per_hour=str(borne)).verdict is Verdict.PASSES
    assert gate(name, "start.per_hour", start__starts_per_hour=str(3 * borne + 3)).verdict is not Verdict.PASSES


def test_its_makers_count_is_named_before_any_estimate():
    said = gate("NEC, direct", "start.often", machine__starts_per_hour="3")
    assert "Its maker allows 3 starts an hour" in said.sentence


@pytest.mark.parametrize(
    ("name", "limit", "says"),
    [
        ("NEC, direct", "1 kg·m²", "maker allows 9 starts"), ("NEC, direct", "0.1 kg·m²", "maker allows"),
        ("NEC, soft starter", "100 kg·m²", "its heat it bears 4 starts"), ("NEC, soft starter", "0.5 kg·m²", "maker allows"),
    ],
)  # fmt: skip
def test_its_makers_count_holds_for_so_much_inertia(name, limit, says):
    """Nine an hour of 0.25 or of 3.2 kg·m²: more than the count is for leaves fewer, and on fewer volts the less of
    count and heat counts.
    """
    way = "soft-starter" if "soft" in name else "full-voltage"
    made = {"machine__starts_per_hour": "9", "machine__load_inertia": limit, "start__method": way}
    said = gate(name, "start.often", **made).sentence
    borne = int(re.search(r"(?:allows|bears) (\d+) starts?", said)[1])
    assert says in said
    assert borne < 9 or limit == "1 kg·m²"
    assert gate(name, "start.per_hour", start__starts_per_hour=str(borne), **made).verdict is Verdict.PASSES


@pytest.mark.parametrize(
    ("name", "changes"),
    [
        ("NEC, direct", {"start__starts_per_hour": "2"}),
        ("NEC, direct", {"start__switching": "rare"}),
        ("IEC, star-delta", {}),  # it bears more than anyone asks for
    ],
)
def test_nobody_is_asked_what_is_said_or_does_not_matter(name, changes):
    assert gate(name, "start.often", **changes) is None


def test_what_a_stop_leaves_in_a_drives_resistor_is_named():
    """As much as is judged once it is said how often: watts over stops a second."""
    plan = planner(SOUND, "F-3")
    (said,) = [one for one in plan(UNSAID).gates if one.key == "stop.resistor_often"]
    assert (said.kind, said.verdict) == (Kind.CONFIRM, Verdict.UNKNOWN)
    known = plan({"stop.per_hour": "36"})
    assert "stop.resistor_often" not in {one.key for one in known.gates}
    kilojoules = float(re.search(r"leaves ([\d.]+) kJ", said.sentence)[1])
    assert known.gate("stop.watts").value == pytest.approx(kilojoules * 1000 * 36 / 3600, rel=0.01)


@pytest.mark.parametrize(
    ("name", "where"),
    [("NEC, wye-delta", "in the motor"), ("IEC, direct", "in the brake"), ("NEC, soft starter", None)],
)
def test_what_a_stop_heats_is_named(name, where):
    """Direct current leaves its heat in the rotor, a brake in its linings, coasting nowhere."""
    said = gate(name, "stop.often")
    assert (said is None) is (where is None)
    assert where is None or where in said.sentence
    assert gate(name, "stop.often", start__starts_per_hour="1") is None
    assert gate(name, "stop.often", start__switching="rare") is None
