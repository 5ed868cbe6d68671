"""Flicker: the flickermeter's weighting against its standard's own points, shape factors, and the formula."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from vinegate.core.starting.flicker import LAMP_120, LAMP_230, lamp_at, sampled, sensation, severity, shape_factor

SAMPLES, STEP_S = 5000, 0.01


def of_a_sine(hertz, percent, lamp):
    """Largest sensation of a sine of so many percent from peak to peak, whole cycles of it on the samples."""
    hertz = round(hertz * SAMPLES * STEP_S) / (SAMPLES * STEP_S)
    signal = percent / 200 * np.sin(2 * np.pi * hertz * np.arange(SAMPLES) * STEP_S)
    return sensation(signal, lamp).max()


# Percent from peak to peak that gives a sensation of 1, 230 V 50 Hz (IEC 61000-4-15:2010 table 1); 8 % is allowed.
SINES = {0.5: 2.325, 1: 1.397, 2: 0.879, 3: 0.645, 5: 0.396, 8.8: 0.250, 10: 0.261, 20: 0.704, 25: 1.037}


@pytest.mark.parametrize(("hertz", "percent"), SINES.items())
def test_the_weighting_meets_the_flickermeters_sines(hertz, percent):
    reference = of_a_sine(8.8, SINES[8.8], LAMP_230)
    assert of_a_sine(hertz, percent, LAMP_230) / reference == pytest.approx(1, abs=0.04)


@pytest.mark.parametrize(("per_minute", "percent"), [(1, 2.715), (2, 2.191), (7, 1.450)])
def test_severity_of_the_standards_own_steps(per_minute, percent):
    """Square changes that give Pst 1 at 230 V, 50 Hz (IEC 61000-4-15:2010 table 5); the formula is within 5 %."""
    assert severity(dip_pct=percent, changes_in_ten_minutes=10 * per_minute) == pytest.approx(1, abs=0.05)


def test_severity_goes_with_the_dip_its_shape_and_the_root_of_the_count():
    once = severity(dip_pct=3, changes_in_ten_minutes=1)
    assert severity(dip_pct=6, changes_in_ten_minutes=1) == pytest.approx(2 * once)
    assert severity(dip_pct=6, changes_in_ten_minutes=1, shape=0.5) == pytest.approx(once)
    assert severity(dip_pct=3, changes_in_ten_minutes=2**3.2) == pytest.approx(2 * once)


@pytest.mark.parametrize("lamp", [LAMP_230, LAMP_120])
def test_a_step_is_one_whatever_its_height(lamp):
    for height in (0.01, 0.3):
        assert shape_factor(np.array([0, 3.0]), np.array([height, height]), lamp) == pytest.approx(1, abs=2e-3)
    assert shape_factor(np.array([0, 3.0]), np.zeros(2), lamp) == 0


def test_a_dip_taken_back_within_a_tenth_of_a_second_is_seen_more_than_a_step():
    """Both flanks are seen as one: the rectangle's factor rises to nearly 1.4, and falls to 1 as it gets longer."""
    factors = [rectangle(seconds) for seconds in (0.05, 0.1, 0.2, 0.5, 1, 2, 5)]
    assert 1.3 < factors[0] < 1.42
    assert all(a > b for a, b in itertools.pairwise(factors))
    assert factors[-1] == pytest.approx(1, abs=0.01)


def rectangle(seconds):
    return shape_factor(np.array([0, seconds, seconds + 1e-9, 9]), np.array([1, 1, 0, 0]), LAMP_230)


@given(quick=st.floats(0.05, 3), more=st.floats(1.2, 4))
def test_a_slower_ramp_is_seen_less(quick, more):
    fast, slow = (shape_factor(np.array([0, t, t + 5]), np.array([0, 1, 1]), LAMP_230) for t in (quick, quick * more))
    assert slow < fast < 1


def test_a_change_is_laid_without_a_jump_at_its_ends():
    laid = sampled(np.array([0, 12.0]), np.array([1.0, 0.4]))
    assert laid[0] == 0
    assert laid[-1] == pytest.approx(0, abs=1e-3)
    assert np.abs(np.diff(laid[400:])).max() < 0.005


def test_lamps():
    assert lamp_at(60) is LAMP_120
    assert lamp_at(50) is LAMP_230


def test_a_ramped_start_flickers_less_than_its_dip_as_a_step(p11):
    plan = p11({"start.starts_per_hour": "12", "limits.flicker": "1"})
    assert all(gate.key != "start.flicker" for gate in p11().gates)  # nobody asked

    def pst(method):
        row = plan.comparison.row(method)
        gate = next(gate for gate in row.gates if gate.key == "start.flicker")
        return gate.value / severity(dip_pct=row.dip_pct, changes_in_ten_minutes=2)

    assert pst("full-voltage") > 0.9
    assert pst("drive") < 0.3
    assert pst("soft-ramp") < pst("full-voltage")
