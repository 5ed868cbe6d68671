"""Two lines and a neutral: what comes back by the other line passes the ohms of both. By hand, in complex numbers."""

import cmath
import math

import numpy as np
import pytest

from vinegate.core.plan import NOTHING, plan_raw
from vinegate.core.supply.network import solve
from vinegate.core.supply.stage import SUPPLY

MOTOR = {"kind": "capacitor-start", "power": "1.5 hp", "volts": "115/230", "full_load_current": "20/10",
         "frequency": "60 Hz", "speed": "1740 rpm", "locked_rotor_current": "50 A"}  # fmt: skip
UTILITY = {"volts": "120/240", "frequency": "60 Hz", "fault_level": "100000 MVA", "transformer_power": "50 kVA",
           "transformer_impedance": "2 %", "transformer_x_over_r": "2"}  # fmt: skip
GENERATOR = {"generator_power": "20 kVA", "transient_reactance": "16 %", "x_over_r": "12"}


def planned(supply=UTILITY, rules="nec", **job):
    circuit = {"plate": MOTOR, "load": {"kind": "unloaded", "power": "0.8 kW", "inertia": "0.01 kg·m²"},
               "start": {"starts_per_hour": "4", "locked_rotor_power_factor": "0.6"}}  # fmt: skip
    return plan_raw(rules, {"supply": supply, **job}, circuit, beside=NOTHING)


@pytest.mark.parametrize("volts", ["120/240", "240"])
@pytest.mark.parametrize("model", ["impedance", "power"])
def test_what_else_runs_lowers_the_board_by_its_kva_over_the_transformer_s(volts, model):
    """40 kVA on 50 kVA of 2 %: the same share of volts, whether by three lines or by two."""
    load = {"load_power": "40 kVA", "load_power_factor": "0.9", "load_model": model}
    plan = planned(UTILITY | {"volts": volts}, main_board=load)
    z, s = 0.02 * cmath.exp(1j * math.atan(2)), 0.8 * cmath.exp(1j * math.acos(0.9))
    by_hand = 1 / (1 + z * s.conjugate())
    if model == "power":
        for _ in range(50):
            by_hand = 1 - z * (s / by_hand).conjugate()
    seen = np.abs(solve(plan.of(SUPPLY).feed.network))
    assert seen[0] == pytest.approx(abs(by_hand), rel=2e-5)


def test_a_generator_of_one_phase():
    """16 % of U²/S between its lines: what a fault there draws, and how far a start lowers it."""
    plan = planned(UTILITY | {"in_use": "standby"}, standby=GENERATOR)
    loop = 0.16 * 240**2 / 20e3 * cmath.exp(1j * math.atan(12))
    assert plan.figure("supply.fault_at_board").value == pytest.approx(240 / abs(loop) / 1000, rel=1e-6)
    motor = 230 / 50 * complex(0.6, 0.8)
    assert plan.figure("start.full.current").value == pytest.approx(240 / abs(loop + motor), rel=1e-6)
    row = plan.comparison.row("full-voltage")
    assert row.dip_pct == pytest.approx(100 * (1 - abs(motor) / abs(loop + motor)), rel=0.01)


def test_motors_beside_feed_a_fault_between_two_lines():
    """Four times the rated current of 12 kVA: 12 kVA over 240 V, without √3."""
    plan = planned(main_board={"load_power": "30 kVA", "motor_power": "12 kVA"})
    assert plan.figure("supply.motors_fault_main").value == pytest.approx(4 * 12 / 240, rel=1e-9)
    three = planned(UTILITY | {"volts": "240"}, main_board={"load_power": "30 kVA", "motor_power": "12 kVA"})
    assert three.figure("supply.motors_fault_main").value == pytest.approx(4 * 12 / 240 / math.sqrt(3), rel=1e-9)


@pytest.mark.parametrize(("volts", "across"), [("120/240", 240), ("240", 240), ("208Y/120", 120)])
def test_a_contract_s_kva_are_those_of_its_own_lines(volts, across):
    """Volts across it by its amperes: 120 V by twice as many from line to neutral."""
    facts = UTILITY | {"volts": volts}
    plan = planned(facts, limits={"start_power": "14 kVA"})
    row = plan.comparison.row("full-voltage")
    assert plan.gate("start.utility").value == pytest.approx(across * row.peak_a / 1000, rel=1e-3)


@pytest.mark.parametrize(("level", "asked"), [("10 kA", True), ("25 kA", False)])
def test_a_level_stated_at_the_board_s_volts_is_held_against_what_its_transformer_lets_through(level, asked):
    """50 kVA of 2 % let 50/0.24/0.02 = 10.4 kA through between two lines."""
    plan = planned(UTILITY | {"fault_level": level, "fault_level_volts": "240"})
    assert any(gate.key == "supply.fault_twice" for gate in plan.gates) is asked
