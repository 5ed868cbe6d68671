"""The usual tests turned into a circuit."""

from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import brentq

from vinegate.core.machine.circuit import Cage, EquivalentCircuit, operate
from vinegate.core.machine.tests112 import TestReport as Report
from vinegate.core.machine.tests112 import TestsDisagree as Disagree
from vinegate.core.machine.tests112 import circuit_from_tests

# Fitzgerald, Kingsley, Umans, Electric Machinery, 6th ed., example 6.5: 7.5 hp, 220 V, 19 A, 60 Hz, 4 poles, design C.
FITZGERALD = Report(
    dc_resistance_ohm=2 * 0.262, no_load_v=219, no_load_a=5.70, no_load_w=380,
    locked_v=26.5, locked_a=18.57, locked_w=675, locked_hz=15, frequency_hz=60, poles=4, design="C",
)  # fmt: skip


def test_fitzgerald():
    """The book: X_1 = 0.633 Ω, X_2 = 1.47 Ω, X_m = 21.2 Ω, R_2 = 0.447 Ω; it leaves R_2²/X_m out of the locked-rotor
    reactance, which is 6 % of it at 15 Hz."""
    found = circuit_from_tests(FITZGERALD)
    (cage,) = found.cages
    assert found.x1_ohm == pytest.approx(0.633, rel=0.07)
    assert found.xm_ohm == pytest.approx(21.2, rel=0.04)
    assert cage.x_ohm == pytest.approx(1.47, rel=0.07)
    assert cage.r_ohm == pytest.approx(0.447, rel=0.01)


@pytest.mark.parametrize("ratio", [1.0, 0.67, 0.43])
def test_a_machine_that_is_tested_comes_back(ratio):
    """The three tests of a known machine with core loss and friction come back as that machine."""
    design = {1.0: "A", 0.67: "B", 0.43: "C"}[ratio]
    true = EquivalentCircuit(
        r1_ohm=0.3,
        x1_ohm=0.6,
        xm_ohm=30.0,
        cages=(Cage(r_ohm=0.25, x_ohm=0.6 / ratio),),
        poles=4,
        frequency_hz=60,
        rfe_ohm=400,
        drag_w=150,
    )
    still = operate(true, 1.0, volts_v=30, frequency_hz=15)
    slip = brentq(lambda s: float(operate(true, s, volts_v=460).shaft_w), 1e-7, 0.02)
    idle = operate(true, slip, volts_v=460)
    report = Report(
        dc_resistance_ohm=0.6, no_load_v=460, no_load_a=float(idle.line_current_a), no_load_w=float(idle.input_w),
        locked_v=30, locked_a=float(still.line_current_a), locked_w=float(still.input_w), locked_hz=15,
        frequency_hz=60, poles=4, design=design, friction_w=150,
    )  # fmt: skip
    found = circuit_from_tests(report)
    assert found.x1_ohm == pytest.approx(true.x1_ohm, rel=1e-3)
    assert found.xm_ohm == pytest.approx(true.xm_ohm, rel=1e-3)
    assert found.rfe_ohm == pytest.approx(true.rfe_ohm, rel=5e-3)
    assert found.cages[0].r_ohm == pytest.approx(0.25, rel=1e-3)
    assert found.cages[0].x_ohm == pytest.approx(0.6 / ratio, rel=1e-3)
    slips = np.geomspace(0.01, 1, 20)
    without = operate(circuit_from_tests(replace(report, friction_w=None)), slips, volts_v=460)
    assert without.gap_torque_nm == pytest.approx(operate(true, slips, volts_v=460).gap_torque_nm, rel=0.01)


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"locked_w": 200}, "nothing is left for the rotor"),
        ({"no_load_w": 10}, "less than the stator's own loss"),
        ({"no_load_w": 4000}, "not below"),
        ({"locked_v": 400, "locked_w": 5000}, "too large beside"),
    ],
)
def test_tests_that_cannot_be_of_one_machine(changes, words):
    with pytest.raises(Disagree, match=words):
        circuit_from_tests(replace(FITZGERALD, **changes))
