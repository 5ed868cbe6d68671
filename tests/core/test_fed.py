"""Single-phase machines between lines and from line to neutral, worked by hand; 230 V machines on 208 V."""

import cmath
import math

import pytest

from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Verdict
from vinegate.core.plan import NOTHING, plan_raw

SUPPLY = {"frequency": "60 Hz", "transformer_power": "75 kVA", "transformer_impedance": "3 %",
          "transformer_x_over_r": "2", "earthing": "tn-s"}  # fmt: skip
MOTOR = {"kind": "capacitor-start", "power": "1.5 hp", "volts": "115/230", "full_load_current": "20/10",
         "frequency": "60 Hz", "speed": "1740 rpm", "locked_rotor_current": "100/50"}  # fmt: skip


def planned(system, rules=RuleSetName.NEC, size="10 AWG", **plate):
    job = {"supply": SUPPLY | {"volts": system}, "limits": {"dip": "6 %", "terminal": "85 %"}}
    wiring = {"size": size, "metal": "copper", "raceway": "pvc", "length": "20 m", "sets": "1",
              "insulation_iec": "pvc", "method": "C", "ambient": "30 °C", "grouped": "1"}  # fmt: skip
    load = {"kind": "unloaded", "power": "0.8 kW", "inertia": "0.01 kg·m²"}
    start = {"starts_per_hour": "4", "locked_rotor_power_factor": "0.6"}
    return plan_raw(
        rules, job, {"plate": MOTOR | plate, "wiring": wiring, "load": load, "start": start}, beside=NOTHING
    )


def test_115_volts_on_a_208y_120_system_is_line_to_neutral():
    """120 V behind one phase of 75 kVA, 3 %, and twice the run: by Ohm's law in complex numbers."""
    plan = planned("208Y/120", locked_rotor_current="100 A")
    assert plan.figure("plate.volts").value == 115
    assert plan.gate("plate.volts").verdict is Verdict.PASSES
    source = 0.03 * 208**2 / 75e3 * cmath.exp(1j * math.atan(2))
    run = complex(plan.figure("wiring.r").value, plan.figure("wiring.x").value) / 1000
    motor = 1.15 * cmath.exp(1j * math.acos(0.6))
    loop = source + 2 * run + motor
    assert plan.figure("start.full.current").value == pytest.approx(120 / abs(loop), rel=1e-6)
    assert plan.figure("start.full.dip_board").value == pytest.approx(
        100 * (1 - abs(2 * run + motor) / abs(loop)), rel=1e-6
    )
    assert plan.figure("start.full.terminals").value == pytest.approx(100 * abs(motor / loop) * 120 / 115, rel=1e-6)
    row = plan.comparison.row("full-voltage")
    assert row.peak_a == pytest.approx(120 / abs(loop), rel=0.005)
    assert row.terminal_least_pct == pytest.approx(100 * abs(motor / loop) * 120 / 115, rel=0.005)
    fault = 120 / abs(source + 2 * run) / 1000
    assert plan.figure("protection.far_fault").value == pytest.approx(fault * 208 / math.sqrt(3) / 120, rel=1e-3)
    drop = 2 * 20 * (run.real * 0.85 + run.imag * math.sqrt(1 - 0.85**2)) / 120 * 100
    assert plan.figure("wiring.drop").value == pytest.approx(drop, rel=1e-6)
    assert plan.figure("plate.table_current").value == 20


@pytest.mark.parametrize(
    ("volts", "plate_v", "table"),
    [("120/240", 230, 10), ("240/120 high-leg", 230, 10), ("208Y/120", 115, 20), ("240 V", 230, 10)],
)
def test_the_supply_picks_the_connection(volts, plate_v, table):
    plan = planned(volts, locked_rotor_current="80 A")
    assert plan.figure("plate.volts").value == plate_v
    assert plan.figure("plate.table_current").value == table
    assert plan.errors == ()


def test_230_volts_on_400_230_is_line_to_neutral_and_never_on_400():
    plan = planned("400/230", RuleSetName.IEC, "2,5 mm²", volts="230", full_load_current="9", power="1,1 kW",
                   locked_rotor_current="43 A")  # fmt: skip
    assert plan.gate("plate.volts").verdict is Verdict.PASSES
    assert plan.gate("protection.loop").verdict is Verdict.PASSES
    three = planned("400/230", RuleSetName.IEC, "2,5 mm²", volts="230", full_load_current="9", power="1,1 kW",
                    kind="cage")  # fmt: skip
    assert three.gate("plate.volts").verdict is Verdict.FAILS


def test_a_three_wire_supply_has_one_winding_between_its_lines():
    """75 kVA, 3 % at 240 V: 75 000/240/0.03 = 10.4 kA between the lines."""
    plan = planned("120/240", locked_rotor_current="50 A")
    assert plan.figure("supply.fault_at_board").value == pytest.approx(75e3 / 240 / 0.03 / 1000, rel=1e-6)


TEN = {"kind": "cage", "power": "10 hp", "speed": "1755 rpm", "code_letter": "H", "locked_rotor_current": None}


@pytest.mark.parametrize(
    ("volts", "amps", "overload"),
    [
        ("208-230/460", "30.8-28/14", 30.8 * 1.15),
        ("230/460, usable at 208", "28/14", 28 * 230 / 208 * 1.15),
        ("230/460", "28/14", 28 * 1.15),
    ],
)
def test_230_volt_machines_on_208_go_by_its_column(volts, amps, overload):
    """NFPA 70 table 430.250 at 208 V: 30.8 A for 10 hp; 28 A at 230 V."""
    plan = planned("208Y/120", **(TEN | {"volts": volts, "full_load_current": amps}))
    assert plan.figure("plate.table_current").value == 30.8
    assert plan.figure("overload.normal").value == pytest.approx(overload)
    plan = planned("240 V", **(TEN | {"volts": volts, "full_load_current": amps}))
    assert plan.figure("plate.table_current").value == 28


@pytest.mark.parametrize(("system", "verdict"), [("120/240", "fails"), ("240/120 high-leg", "passes"),
                                                 ("240/120 V 3PH 4W", "passes"), ("240 V", "passes")])  # fmt: skip
def test_nothing_three_phase_runs_from_two_lines_and_a_neutral(system, verdict):
    plan = planned(system, **(TEN | {"volts": "230/460", "full_load_current": "28/14"}))
    assert plan.gate("plate.volts").verdict == verdict
