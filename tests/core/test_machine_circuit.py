"""The equivalent circuit against published examples and the laws it must obey."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.examples import examples
from vinegate.core.machine.circuit import Cage, EquivalentCircuit, breakdown, operate

# Chapman, Electric Machinery Fundamentals, 5th ed., examples 6-3 and 6-5: 460 V, 25 hp, 60 Hz, 4 poles.
CHAPMAN = EquivalentCircuit(
    r1_ohm=0.641, x1_ohm=1.106, xm_ohm=26.3, cages=(Cage(r_ohm=0.332, x_ohm=0.464),), poles=4, frequency_hz=60
)
# Fitzgerald, Kingsley, Umans, Electric Machinery, 6th ed., examples 6.2 and 6.3: 220 V, 10 hp, 60 Hz, 6 poles.
FITZGERALD = EquivalentCircuit(
    r1_ohm=0.294, x1_ohm=0.503, xm_ohm=13.25, cages=(Cage(r_ohm=0.144, x_ohm=0.209),), poles=6, frequency_hz=60
)
# Sen, Principles of Electric Machines and Power Electronics, 2nd ed., example 5.4: 460 V, 1740 rpm, 60 Hz, 4 poles.
SEN = EquivalentCircuit(
    r1_ohm=0.25, x1_ohm=0.5, xm_ohm=30.0, cages=(Cage(r_ohm=0.2, x_ohm=0.5),), poles=4, frequency_hz=60
)


def at(circuit, slip, volts):
    return operate(circuit, slip, volts_v=volts)


def thevenin(circuit, volts):
    """Breakdown by the maximum-power theorem on the exact Thévenin source, in complex numbers."""
    z_1, z_m = complex(circuit.r1_ohm, circuit.x1_ohm), complex(0, circuit.xm_ohm)
    return _top(circuit, abs(volts / math.sqrt(3) * z_m / (z_1 + z_m)), z_1 * z_m / (z_1 + z_m))


def _top(circuit, source, z):
    (cage,) = circuit.cages
    reach = math.hypot(z.real, z.imag + cage.x_ohm)
    torque = 3 * source**2 / (2 * circuit.synchronous_rad_s() * (z.real + reach))
    return cage.r_ohm / reach, torque


def torque_at(circuit, source, z, slip):
    """Torque from a Thévenin source and impedance."""
    (cage,) = circuit.cages
    r = cage.r_ohm / slip
    return 3 * source**2 * r / (circuit.synchronous_rad_s() * ((z.real + r) ** 2 + (z.imag + cage.x_ohm) ** 2))


@pytest.mark.parametrize(("circuit", "volts"), [(CHAPMAN, 460), (FITZGERALD, 220), (SEN, 460)])
@pytest.mark.parametrize("slip", [0.01, 0.1, 1.0])
def test_torque_is_that_of_the_exact_thevenin_source(circuit, volts, slip):
    z_1, z_m = complex(circuit.r1_ohm, circuit.x1_ohm), complex(0, circuit.xm_ohm)
    source = abs(volts / math.sqrt(3) * z_m / (z_1 + z_m))
    exact = torque_at(circuit, source, z_1 * z_m / (z_1 + z_m), slip)
    assert at(circuit, slip, volts).gap_torque_nm == pytest.approx(exact, rel=1e-9)


@pytest.mark.parametrize(("circuit", "volts"), [(CHAPMAN, 460), (FITZGERALD, 220), (SEN, 460)])
def test_breakdown_is_that_of_the_exact_thevenin_source(circuit, volts):
    found = breakdown(circuit, volts_v=volts)
    slip, torque = thevenin(circuit, volts)
    assert (found.slip, found.torque_nm) == (pytest.approx(slip, rel=1e-9), pytest.approx(torque, rel=1e-9))


def test_chapman():
    run = at(CHAPMAN, 0.022, 460)
    assert run.line_current_a == pytest.approx(18.88, rel=5e-3)
    assert run.power_factor == pytest.approx(0.833, rel=5e-3)
    assert run.gap_torque_nm == pytest.approx(62.8, rel=5e-3)
    slip, torque = _top(
        CHAPMAN, 255.2, complex(0.590, 1.106)
    )  # the book shortens: R_th ≈ R_1·(X_m/(X_1+X_m))², X_th ≈ X_1
    assert slip == pytest.approx(0.198, rel=5e-3)
    assert torque == pytest.approx(229, rel=5e-3)
    assert breakdown(CHAPMAN, volts_v=460).torque_nm == pytest.approx(229, rel=0.02)
    assert torque_at(CHAPMAN, 255.2, complex(0.590, 1.106), 1.0) == pytest.approx(104, rel=5e-3)


def test_fitzgerald():
    run = at(FITZGERALD, 0.02, 220)
    assert run.line_current_a == pytest.approx(18.8, rel=5e-3)
    assert run.power_factor == pytest.approx(0.844, rel=5e-3)
    top = breakdown(FITZGERALD, volts_v=220)
    assert top.slip == pytest.approx(0.192, rel=5e-3)
    assert top.torque_nm == pytest.approx(175, rel=5e-3)


def test_sen():
    run = at(SEN, 0.0333, 460)
    assert run.line_current_a == pytest.approx(42.754, rel=5e-3)
    assert run.power_factor == pytest.approx(0.941, rel=5e-3)
    assert run.gap_torque_nm == pytest.approx(163.11, rel=5e-3)
    slip, torque = _top(SEN, 261.3, complex(0.24, 0.49))  # the book rounds its Thévenin impedance to two digits
    assert slip == pytest.approx(0.1963, rel=5e-3)
    assert torque == pytest.approx(431.68, rel=5e-3)
    assert breakdown(SEN, volts_v=460).torque_nm == pytest.approx(431.68, rel=6e-3)
    assert torque_at(SEN, 261.3, complex(0.24, 0.49), 1.0) == pytest.approx(185.2, rel=5e-3)


TWO_CAGES = EquivalentCircuit(
    r1_ohm=0.05, x1_ohm=0.2, xm_ohm=6.0, rfe_ohm=90.0, drag_w=900.0, poles=6, frequency_hz=60,
    cages=(Cage(r_ohm=0.04, x_ohm=0.35), Cage(r_ohm=0.25, x_ohm=0.08)),
)  # fmt: skip


@pytest.mark.parametrize("circuit", [CHAPMAN, FITZGERALD, SEN, TWO_CAGES])
@pytest.mark.parametrize("hertz", [25.0, 60.0, 90.0])
def test_power_balances_at_every_slip(circuit, hertz):
    slips = np.concatenate([np.linspace(-1, -1e-4, 200), np.linspace(1e-4, 2, 400)])
    run = operate(circuit, slips, volts_v=440 * hertz / 60, frequency_hz=hertz)
    spent = run.stator_loss_w + run.core_loss_w + run.rotor_loss_w + run.drag_w + run.shaft_w
    assert spent == pytest.approx(run.input_w, rel=1e-9, abs=1e-6)
    shaft = run.torque_nm * (1 - slips) * circuit.synchronous_rad_s(hertz)
    assert shaft == pytest.approx(run.shaft_w, rel=1e-9, abs=1e-6)


def test_array_equals_scalar():
    slips = np.array([0.01, 0.3, 1.0])
    together = operate(TWO_CAGES, slips, volts_v=460)
    for index, slip in enumerate(slips):
        assert operate(TWO_CAGES, slip, volts_v=460).torque_nm == pytest.approx(together.torque_nm[index], rel=1e-12)


def test_limits_of_slip():
    """At synchronous speed the rotor takes nothing; a cage split in two equal halves is the same machine."""
    still = operate(SEN, 1e-9, volts_v=460)
    assert still.gap_torque_nm == pytest.approx(0, abs=1e-4)
    halves = EquivalentCircuit(
        r1_ohm=0.25, x1_ohm=0.5, xm_ohm=30.0, cages=(Cage(r_ohm=0.4, x_ohm=1.0),) * 2, poles=4, frequency_hz=60
    )
    slips = np.geomspace(1e-3, 1, 50)
    assert operate(halves, slips, volts_v=460).torque_nm == pytest.approx(operate(SEN, slips, volts_v=460).torque_nm)
    assert breakdown(halves, volts_v=460).torque_nm == pytest.approx(breakdown(SEN, volts_v=460).torque_nm, rel=1e-6)


@examples(50)
@given(slip=st.floats(min_value=1e-3, max_value=1), volts=st.floats(min_value=50, max_value=700))
def test_torque_goes_with_volts_squared_and_current_with_volts(slip, volts):
    one, two = operate(SEN, slip, volts_v=volts), operate(SEN, slip, volts_v=2 * volts)
    assert two.gap_torque_nm == pytest.approx(4 * one.gap_torque_nm, rel=1e-9)
    assert two.line_current_a == pytest.approx(2 * one.line_current_a, rel=1e-9)


def test_constant_volts_per_hertz_keeps_the_slip_speed_where_resistance_is_small():
    """Without stator resistance, torque at the same slip speed is the same at any frequency of constant V/Hz."""
    ideal = EquivalentCircuit(
        r1_ohm=1e-9, x1_ohm=0.5, xm_ohm=30.0, cages=(Cage(r_ohm=0.2, x_ohm=0.5),), poles=4, frequency_hz=60
    )
    full = operate(ideal, 2 / 60, volts_v=460, frequency_hz=60)
    half = operate(ideal, 2 / 30, volts_v=230, frequency_hz=30)
    assert half.gap_torque_nm == pytest.approx(full.gap_torque_nm, rel=1e-6)
    assert math.isclose(half.line_current_a, full.line_current_a, rel_tol=1e-6)
