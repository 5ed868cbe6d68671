"""What nobody gave of a single-phase machine is what its kind usually gives and draws, wherever it is asked."""

from __future__ import annotations

import pytest

from tests.conftest import planner
from tests.core.good import LOCK
from vinegate.core.working import Provenance

UNSAID = {"plate.code_letter": None}
C71 = planner(LOCK, "C-71")  # 28 A at 230 V
FAN = {"plate.kind": "permanent-split", "load.kind": "fan-open", "load.power": "4 hp"}  # 80 % of its rating


@pytest.mark.parametrize(
    ("kind", "least"), [("split-phase", 5), ("capacitor-start", 4), ("capacitor-start-run", 4), ("permanent-split", 3)]
)
def test_at_rest_it_draws_what_its_kind_does(kind, least):
    """From the least of its kind, to what is stamped on some: letter K, 9 kVA/hp, is 7.2 times of 5 hp and 27 A."""
    plan = C71(UNSAID | {"plate.kind": kind})
    low, high = (plan.figure(f"start.locked_rotor_{end}") for end in ("low", "high"))
    assert (low.value, high.value) == (28 * least, 28 * 8)
    assert (low.provenance, high.provenance) == (Provenance.ASSUMED, Provenance.ASSUMED)


@pytest.mark.parametrize(("limit", "verdict"), [("0.25 %", "fails"), ("0.4 %", "check"), ("0.85 %", "passes")])
def test_a_dip_fails_only_by_the_least_that_it_may_draw(limit, verdict):
    """A permanent split capacitor draws 84 A at least: 0.31 % here, where five times would be 0.51."""
    facts = {"plate.kind": "permanent-split", "limits.dip": limit, "start.locked_rotor_power_factor": "0.68"}
    gate = C71(UNSAID | facts).gate("start.dip")
    assert gate.verdict == verdict


@pytest.mark.parametrize(
    ("breakaway", "verdict"),
    # of the 80 % that the fan asks at speed, with a tenth to be left: it gives 30 to 100 % at full volts
    [("85 %", "check"), ("115 %", "fails")],
)
def test_a_start_fails_only_by_the_most_that_it_may_give(breakaway, verdict):
    gate = C71(UNSAID | FAN | {"load.breakaway": breakaway}).gate("start.torque")
    assert gate.verdict == verdict
    if verdict == "check":
        assert "locked-rotor torque 100 %" in gate.sentence


@pytest.mark.parametrize(("torque", "verdict"), [("120 %", "passes"), ("60 %", "fails")])
def test_a_torque_that_is_stated_decides(torque, verdict):
    facts = {"load.breakaway": "85 %", "machine.locked_rotor_torque": torque, "machine.breakdown_torque": "250 %"}
    assert C71(UNSAID | FAN | {"plate.kind": "capacitor-start"} | facts).gate("start.torque").verdict == verdict


def test_a_letter_decides_what_is_drawn():
    plan = C71({"plate.code_letter": "H", "plate.kind": "permanent-split"})
    assert plan.figure("start.locked_rotor_high").provenance is Provenance.TABLE


def test_in_the_other_motor_s_place_it_gives_the_same():
    facts = {"new_plate.kind": "split-phase", "new_plate.start_capacitor": None}
    row = next(one for one in planner(LOCK, "C-71")(facts).found["replacement"].rows if one.key == "single")
    assert row.text.startswith("100 to 175 % of rated torque at rest, for 200 to 400 %.")


def test_the_angle_of_one_phase_at_rest_is_not_known_to_the_point():
    """Whatever starts it: a dip that passes as taken and not at 0.5 is to check; said, it is a point."""
    said = {power: C71({"limits.dip": "10 %", "start.locked_rotor_power_factor": power}).gate("start.dip").value
            for power in ("0.5", "0.68")}  # fmt: skip
    assert said["0.5"] > 1.03 * said["0.68"]
    between = {"limits.dip": f"{(said['0.5'] + said['0.68']) / 2:.4f} %"}
    assert C71(between).gate("start.dip").verdict == "check"
    assert C71(between | {"start.locked_rotor_power_factor": "0.68"}).gate("start.dip").verdict == "passes"
