"""What is said twice in other words must go together: power, fault level, reactances, speeds, wishes and ways."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Kind, Verdict

P11, M41, C71, D61, R31 = (planner("harrowmere-lock.json", tag) for tag in ("P-11", "M-41", "C-71", "D-61", "R-31"))
F3 = planner("skerry-sound.json", "F-3")

ACROSS = {"start.method": "full-voltage", "limits.dip": "10 %"}
TWO_WIRES = {
    "start.method": "full-voltage", "limits.dip": "10 %", "starter.command": "two-wire", "protection.restart_harmless": "yes",
}  # fmt: skip
NO_TRANSFORMER = {f"board_2.transformer_{name}": None for name in ("power", "impedance", "x_over_r")}

# 69 hp at 1185 r/min are 415 N·m; 300 m³/h raised 44 m take 51.4 kW at an efficiency of 0.70.
CASES = [
    (P11, {"load.torque": "415 N·m"}, "load.twice", None),
    (P11, {"load.torque": "440 N·m"}, "load.twice", None),
    (P11, {"load.torque": "470 N·m"}, "load.twice", "check"),
    (P11, {"load.torque": "100 N·m"}, "load.twice", "check"),
    (P11, {"load.torque": "50 kN·m"}, "load.twice", "fails"),  # 6.2 MW: no such load can be typed
    (P11, {"load.torque": "4150 N·m", "load.gear_ratio": "10"}, "load.twice", None),
    (P11, {"load.flow": "300 m³/h", "load.head": "44 m"}, "load.twice", None),
    (P11, {"load.flow": "300 m³/h", "load.head": "44 m", "load.machine_efficiency": "70 %"}, "load.twice", None),
    (P11, {"load.flow": "300 m³/h", "load.head": "44 m", "load.machine_efficiency": "85 %"}, "load.twice", "check"),
    (P11, {"load.flow": "300 m³/h", "load.head": "80 m"}, "load.twice", "check"),
    (P11, {"load.flow": "300 m³/h", "load.head": "9 m"}, "load.twice", "check"),
    (P11, {"load.flow": "300 m³/h", "load.head": "80 m", "load.power": None}, "load.twice", None),
    (P11, {"load.force": "18 kN", "load.line_speed": "2.6 m/s"}, "load.twice", None),
    (P11, {"load.force": "18 kN", "load.line_speed": "3.4 m/s"}, "load.twice", "check"),
    # 500 kVA at 5 % on 480 V let 12 kA through
    (P11, {"supply.fault_level": "11 kA", "supply.fault_level_volts": "480 V"}, "supply.fault_twice", "check"),
    (P11, {"supply.fault_level": "65 kA", "supply.fault_level_volts": "480 V"}, "supply.fault_twice", None),
    (P11, {"supply.fault_level": "11 kA", "supply.fault_level_volts": "4.16 kV"}, "supply.fault_twice", None),
    (P11, {"supply.fault_level": "9 MVA", "supply.fault_level_volts": "480 V"}, "supply.fault_twice", None),
    (P11, {"supply.transformer_x_over_r": "0.25"}, "supply.transformer_angle", "check"),
    (P11, {"supply.transformer_x_over_r": "R/X 0.25"}, "supply.transformer_angle", None),
    (P11, {"supply.transformer_x_over_r": "60"}, "supply.transformer_angle", "check"),
    (P11, {"supply.transformer_x_over_r": "1"}, "supply.transformer_angle", None),
    (P11, {"supply.transformer_x_over_r": "50"}, "supply.transformer_angle", None),
    (P11, {"supply.transformer_x_over_r": "0.25", "supply.in_use": "standby"}, "supply.transformer_angle", None),
    (P11, {"supply.transformer_x_over_r": "0.8", "supply.transformer_power": "100 kVA"}, "supply.transformer_angle", "check"),
    (P11, {"supply.transformer_x_over_r": "0.8", "supply.transformer_power": "99 kVA"}, "supply.transformer_angle", None),
    (C71, {"board_2.transformer_x_over_r": "0.4", "board_2.transformer_power": "150 kVA"}, "supply.transformer_angle", "check"),
    (C71, {"board_2.transformer_x_over_r": "R/X 0.4", "board_2.transformer_power": "150 kVA"}, "supply.transformer_angle", None),
    (P11, {"supply.transformer_x_over_r": "0.8", "supply.transformer_power": "45 kVA"}, "supply.transformer_angle", None),
    (P11, {"supply.fault_level": "11 kA", "supply.fault_level_volts": "480 V", "supply.transformer_power": None,
           "supply.transformer_impedance": None}, "supply.fault_twice", None),
    (P11, {"standby.subtransient_reactance": "15 %"}, "supply.reactances", None),
    (P11, {"standby.subtransient_reactance": "30 %"}, "supply.reactances", "fails"),
    (M41, {"board_1.motor_power": "30 kVA"}, "supply.motors_within", None),
    (M41, {"board_1.motor_power": "60 kVA"}, "supply.motors_within", "fails"),
    (M41, {"board_1.continuous_power": "45 kVA"}, "supply.hours_within", None),
    (M41, {"board_1.continuous_power": "46 kVA"}, "supply.hours_within", "fails"),
    (P11, {"board_1.motor_power": "60 kVA"}, "supply.motors_within", None),  # it hangs on another board
    (C71, {}, "supply.made", None),
    (C71, NO_TRANSFORMER, "supply.made", "fails"),
    (C71, NO_TRANSFORMER | {"board_2.volts": "480 V"}, "supply.made", None),
    (C71, NO_TRANSFORMER | {"board_2.volts": "277 V"}, "supply.made", None),
    (C71, NO_TRANSFORMER | {"board_2.volts": None}, "supply.made", None),
    (P11, {"start.switching": "rare", "start.starts_per_hour": "2"}, "start.rarely", None),
    (P11, {"start.switching": "rare", "start.starts_per_hour": "3"}, "start.rarely", "fails"),
    (P11, {"start.switching": "manual", "start.starts_per_hour": "3"}, "start.rarely", None),
    (P11, {"starter.control_from": "line", "protection.coil": "480 V"}, "starter.coil_fits", "passes"),
    (P11, {"starter.control_from": "line", "protection.coil": "277 V"}, "starter.coil_fits", "passes"),
    (P11, {"starter.control_from": "line", "protection.coil": "120 V"}, "starter.coil_fits", "fails"),
    (P11, {"starter.control_from": "line", "protection.coil": "277 V", "supply.volts": "480 V"}, "starter.coil_fits",
     "passes"),
    (P11, {"starter.control_from": "transformer", "protection.coil": "120 V"}, "starter.coil_fits", None),
    (P11, TWO_WIRES | {"start.restart": "no"}, "starter.restart", "fails"),
    (P11, TWO_WIRES | {"start.restart": "yes"}, "starter.restart", "passes"),
    (P11, TWO_WIRES | {"starter.command": None, "start.restart": "no"}, "starter.restart", None),
    (P11, TWO_WIRES | {"starter.restart": "10 s", "start.restart_at": "5 s"}, "starter.restart_delay", "fails"),
    (P11, TWO_WIRES | {"starter.restart": "10 s", "start.restart_at": "10.5 s"}, "starter.restart_delay", None),
    (P11, {"start.restart_at": "5 s"}, "starter.wished", None),  # buttons wait for somebody
    (F3, {"drive.power_back": "auto", "start.restart": "no", "protection.restart_harmless": "yes"},
     "drive.restart_hazard", "fails"),
    (F3, {"drive.power_back": "auto", "protection.restart_harmless": "yes"}, "drive.restart_hazard", "passes"),
    (F3, {"drive.stop_mode": "coast"}, "stop.as_set", "fails"),
    (F3, {"drive.stop_mode": "ramp"}, "stop.as_set", None),
    (F3, {"drive.stop_mode": "ramp", "stop.method": "coast"}, "stop.as_set", "fails"),
    (F3, {"drive.stop_mode": "coast", "stop.method": None}, "stop.as_set", None),
    (F3, {"drive.stop_mode": "coast", "start.method": "full-voltage", "start.speed_control": None}, "stop.as_set", None),
    (F3, {"drive.most": "2955 rpm"}, "drive.points_below", None),
    (F3, {"drive.most": "2600 rpm"}, "drive.points_below", "fails"),
    (F3, {"drive.least": "1700 rpm"}, "drive.points_above", None),
    (F3, {"drive.least": "2000 rpm"}, "drive.points_above", "fails"),
    (P11, {"start.method": "soft-starter", "start.soft_stop": "yes"}, "start.wishes", None),
    (P11, {"start.method": "full-voltage", "start.soft_stop": "yes"}, "start.wishes", "fails"),
    (P11, {"start.method": "soft-starter", "start.speed_control": "yes"}, "start.wishes", "fails"),
    (P11, {"start.method": "drive", "start.speed_control": "yes"}, "start.wishes", None),
    (P11, {"start.method": None, "start.soft_stop": "yes"}, "start.wishes", None),
    (D61, {}, "starter.heater", None),
    (D61, {"starter.heater": None}, "starter.heater", None),
    (D61, {"starter.heater": "no"}, "starter.heater", "fails"),
    (D61, {"starter.heater": "no", "place.heater": None}, "starter.heater", None),
    (D61, {"place.heater": None}, "starter.heater", "not known"),
    (P11, {"starter.heater": "yes"}, "starter.heater", None),  # in a pump house nothing limits it
    (D61, {"place.heater": "area_1"}, "place.heater", "fails"),
    (C71, {"start.reversing": "yes", "plate.kind": "shaded-pole"}, "start.reverses", "fails"),
    (P11, ACROSS | {"starter.runs_on": "20 s", "stop.within": "30 s"}, "stop.runs_on", "fails"),  # coasts 13.7 s
    (P11, ACROSS | {"starter.runs_on": "20 s", "stop.within": "34 s"}, "stop.runs_on", "passes"),
    (P11, ACROSS | {"starter.runs_on": "20 s", "stop.within": "34 s", "machine.inertia": None}, "stop.runs_on", "check"),
    (P11, ACROSS | {"starter.runs_on": "20 s"}, "stop.runs_on", None),
    (P11, ACROSS | {"stop.within": "15 s"}, "stop.runs_on", None),
    (C71, {"plate.kind": "shaded-pole"}, "start.reverses", None),
    (P11, {"starter.bypass": "yes"}, "starter.wished", None),  # a soft starter, drawn with one
    (P11, {"starter.bypass": "no"}, "starter.wished", "not known"),
    (P11, {"starter.bypass": "yes", "start.method": "full-voltage"}, "starter.wished", "not known"),
    (F3, {"start.reversing": "yes", "starter.elsewhere": "yes", "protection.trip_class": "10"},
     "starter.bypass_protection_class", "fails"),
    (F3, {"start.reversing": "yes", "starter.elsewhere": "yes"}, "starter.bypass_protection_class", "passes"),
    (F3, {"start.reversing": "yes", "starter.bypass": "no", "protection.trip_class": "10"},
     "starter.bypass_protection_class", None),
]  # fmt: skip


@pytest.mark.parametrize(("plan", "changes", "key", "verdict"), CASES)
def test_what_is_said_twice_goes_together(plan, changes, key, verdict):
    """None: nothing is asked of it."""
    found = [gate for gate in plan(changes).weighing if gate.key == key]
    assert [gate.verdict for gate in found] == ([Verdict(verdict)] if verdict else []), found
    assert all(gate.sentence and (gate.remedy or verdict == "passes") for gate in found)


TURNED = [
    (R31, {"plate.rotation": "CCW ODE"}, "start.one_way", True),
    (R31, {"plate.rotation": "CW/CCW"}, "start.one_way", False),
    (R31, {"plate.rotation": "CW ODE, reversible"}, "start.one_way", False),
    (R31, {"plate.rotation": "CW ODE, not reversible"}, "start.one_way", True),
    (P11, {"plate.rotation": "CCW ODE"}, "start.one_way", False),
    (C71, {"start.reversing": "yes"}, "start.reverses", True),
    (C71, {"start.reversing": "yes", "plate.kind": "permanent-split"}, "start.reverses", False),
    (P11, {"record_rotation.wanted": "clockwise", "plate.rotation": "CCW ODE"}, "record.rotation_made", False),
    (P11, {"record_rotation.wanted": "clockwise", "plate.rotation": "CW ODE"}, "record.rotation_made", True),
    (P11, {"record_rotation.wanted": "clockwise", "plate.rotation": "CW"}, "record.rotation_made", False),
]


def test_a_heater_that_its_listing_must_name_is_not_said_to_pass():
    placed = D61().placed
    assert placed.device("heater").verdict is Verdict.UNKNOWN
    assert placed.device("motor").verdict is Verdict.PASSES
    assert P11({"place.heater": "area_1"}).placed.device("heater").verdict is Verdict.PASSES


@pytest.mark.parametrize(("plan", "changes", "key", "asked"), TURNED)
def test_a_way_to_turn_is_asked_about_where_the_plate_says_otherwise(plan, changes, key, asked):
    found = [gate for gate in plan(changes).gates if gate.key == key]
    assert [gate.kind for gate in found] == ([Kind.CONFIRM] if asked else [])


@pytest.mark.parametrize("changes", [{"load.torque": "470 N·m"}, {"load.flow": "300 m³/h", "load.head": "80 m"}])
def test_the_power_that_is_named_settles_it(changes):
    gate = P11(changes).gate("load.twice")
    again = P11({**changes, "load.power": gate.turns.passes_as})
    assert "load.twice" not in {one.key for one in again.gates}


def test_a_fault_level_counted_twice_would_have_let_a_weak_rating_pass():
    """At the board 11 kA: a rating of 10 kA is too little; with the transformer once more it would be 5.7 kA."""
    behind = {"supply.fault_level": "11 kA", "supply.fault_level_volts": "480 V",
              "protection.short_circuit_rating": "10 kA"}  # fmt: skip
    twice = P11(behind)
    assert twice.gate("protection.short_circuit_rating").verdict is Verdict.PASSES
    assert twice.gate("supply.fault_twice").verdict is Verdict.CHECK
    alone = P11({**behind, "supply.transformer_power": None, "supply.transformer_impedance": None})
    assert alone.gate("protection.short_circuit_rating").verdict is Verdict.FAILS
