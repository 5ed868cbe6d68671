"""What is chosen where nothing is said does what is asked over all that is estimated, if any of its kind does."""

from __future__ import annotations

import pytest

from tests.core.good import GOOD
from vinegate.core.grade import Verdict

BLADE = GOOD["NEC, direct"]
LOW = {"protection.overload": "14.1 A"}


@pytest.mark.parametrize(
    ("changes", "trip", "verdict"),
    [
        ({}, "20", Verdict.PASSES),
        ({"machine.inertia": "0.138 kg·m²"}, "10", Verdict.PASSES),
        ({"protection.trip_class": "10"}, "10", Verdict.CHECK),
        ({"machine.stall_hot": "4 s", "machine.stall_cold": "8 s"}, "10", Verdict.CHECK),
    ],
)
def test_class_twenty_where_ten_holds_the_start_as_it_is_taken_alone(changes, trip, verdict):
    """The rotor's inertia is estimated; not where class 20 opens a stall too late, nor where a class is said."""
    gate = BLADE(LOW | changes).gate("protection.class")
    assert (gate.sentence.partition(":")[0], gate.verdict) == (f"Class {trip}", verdict)


@pytest.mark.slow
@pytest.mark.parametrize("efficiency", [f"{tenths / 10} %" for tenths in range(600, 900, 15)])
def test_a_soft_starters_limit_that_was_found_leaves_the_margin_asked(efficiency):
    """The limit is found on coarser speeds than the start is judged on."""
    facts = {"load.gear_efficiency": efficiency, "load.gear_ratio": "1", "start.method": "soft-starter"}
    plan = GOOD["NEC, soft starter"](facts)
    gate = plan.gate("start.torque")
    assert gate.value is not None
    assert gate.limit is not None
    assert gate.value >= gate.limit
    less = plan.comparison.row("soft-starter").value - 0.2
    weaker = GOOD["NEC, soft starter"](facts | {"start.soft_limit": f"{less:.1f}"}).gate("start.torque")
    assert weaker.verdict is not Verdict.PASSES


def test_a_change_over_that_was_found_leaves_the_first_connection_before_its_torque_is_gone():
    """While the step is within the dip: to wait until the first connection stops gaining wins nothing."""
    heavy = {"load.power": "55 hp", "start.method": "wye-delta"}
    plan = GOOD["NEC, wye-delta"](heavy)
    row = plan.comparison.row("wye-delta")
    assert plan.gate("start.torque").verdict is Verdict.PASSES
    assert plan.gate("start.dip").verdict is Verdict.PASSES
    assert row.change.earliest_s < row.changes_at_s < row.change.latest_s
    late = GOOD["NEC, wye-delta"](heavy | {"start.changeover": f"{row.change.latest_s:.1f} s"})
    assert late.gate("start.torque").verdict is Verdict.CHECK
    light = GOOD["NEC, wye-delta"](heavy | {"load.power": "40 hp"}).comparison.row("wye-delta")
    assert light.changes_at_s == pytest.approx(light.change.latest_s)


def test_motors_are_settled_board_by_board():
    """What is typed for one board says nothing of another's load."""
    silent = {"main_board.load_power": "900 kVA", "main_board.motor_power": None, "board_1.load_power": "900 kVA",
              "board_1.motor_power": None, "protection.short_circuit_rating": "14 kA"}  # fmt: skip
    key, none = "protection.short_circuit_rating", {"main_board.motor_power": "0 kVA"}
    gates = [BLADE(silent | said).gate(key) for said in ({}, none, none | {"board_1.motor_power": "0 kVA"})]
    assert [gate.verdict for gate in gates] == [Verdict.CHECK, Verdict.CHECK, Verdict.PASSES]
    assert gates[1].turns is not None
    assert gates[1].turns.path == "board_1.motor_power"


@pytest.mark.parametrize(("power", "factor", "verdict"), [
    ("21 hp", "1.15", Verdict.PASSES), ("25.5 hp", "1.15", Verdict.CHECK), ("29 hp", "1.15", Verdict.FAILS),
    ("25.5 hp", "1.0", Verdict.FAILS),
])  # fmt: skip
def test_a_load_within_the_service_factor_is_to_check_though_its_gear_is_not_known(power, factor, verdict):
    """25 hp, a gear of 85 to 98 %: 25.5 hp are 104 to 120 % of it, 29 hp 118 % at the least."""
    geared = {"load.power": power, "load.gear_ratio": "2", "load.gear_efficiency": None, "plate.service_factor": factor}
    assert BLADE(geared).gate("load.power").verdict is verdict
