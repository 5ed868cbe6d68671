"""Flicker: the flickermeter's weighting against its standard's own points, shape factors, and the formula."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import planner, whole
from vinegate.core.start.flicker import LAMP_120, LAMP_230, lamp_at, sampled, sensation, severity, shape_factor

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
    plan = whole("harrowmere-lock.json", "P-11")({"start.starts_per_hour": "12", "limits.flicker": "1"})
    assert not p11().gate("start.flicker").weighs  # nobody asked

    def pst(method):
        row = plan.comparison.row(method)
        gate = next(gate for gate in row.gates if gate.key == "start.flicker")
        return gate.value / severity(dip_pct=row.dip_pct, changes_in_ten_minutes=2)

    assert pst("full-voltage") > 0.9
    assert pst("drive") < 0.3
    assert pst("soft-ramp") < pst("full-voltage")


FULL = {"start.method": "full-voltage", "limits.flicker": "1", "limits.dip": "10 %"}


@pytest.mark.parametrize(("per_hour", "windows"), [("3", 6), ("6", 12), ("12", 12)])
def test_two_hours_count_the_windows_that_hold_a_start(p11, per_hour, windows):
    """P_lt of IEC 61000-3-3: the cube root of the mean of twelve cubes; ten minutes without a start are nought."""
    plan = p11(FULL | {"start.starts_per_hour": per_hour})
    short, long = plan.gate("start.flicker"), plan.gate("start.flicker_long")
    assert long.value == pytest.approx((windows * short.value**3 / 12) ** (1 / 3))
    assert long.limit == pytest.approx(0.65)


def test_a_window_holds_one_start_or_more(p11):
    once, six, twelve = (p11(FULL | {"start.starts_per_hour": n}).gate("start.flicker").value for n in ("1", "6", "12"))
    assert once == pytest.approx(six)
    assert twelve == pytest.approx(six * 2 ** (1 / 3.2))


@pytest.mark.parametrize(("switching", "most"), [(None, 4), ("automatic", 4), ("manual", 6), ("rare", 7)])
def test_the_largest_change_by_how_it_is_switched(p11, switching, most):
    """4.8 % at full voltage: too much switched automatically, allowed by hand; P_st is not asked of what is by hand."""
    plan = p11(FULL | {"start.switching": switching})
    gate = plan.gate("start.d_max")
    assert (gate.limit, gate.verdict) == (most, "fails" if most == 4 else "passes")
    assert ("start.flicker" in {one.key for one in plan.gates}) is (switching != "manual")
    assert plan.gate("start.d_c").limit == 3.3


def test_which_standard_bounds_it(h1):
    """81 A is above what the IEC 61000-3 product standards cover; 10.6 A is within 61000-3-3, three times that not."""
    assert "61000-3-7" in h1({"limits.flicker": "1"}).gate("start.flicker").source
    p4 = planner("skerry-sound.json", "P-4")
    for motors, standard in (("1", "61000-3-3:2013"), ("3", "61000-3-11:2017")):
        plan = p4({"limits.flicker": "1", "drive.motors": motors})
        assert standard in plan.gate("start.flicker").source


WEAK = {
    "limits.flicker": "1", "limits.dip": "15 %", "start.method": "full-voltage", "start.switching": "rare",
    "supply.transformer_power": "40 kVA", "main_board.load_power": "10 kVA", "start.locked_rotor_power_factor": "0.6",
    "supply.x_over_r": "8",
}  # fmt: skip


@pytest.mark.parametrize(("inertia", "verdict"), [("0.03 kg·m²", "passes"), ("0.5 kg·m²", "fails")])
def test_what_is_above_3_3_per_cent_lasts_no_longer_than_half_a_second(inertia, verdict):
    """T_max of 61000-3-3, whatever d_max allows: read off the strip that is drawn, between its moments by straight lines."""
    plan = planner("skerry-sound.json", "P-4")(WEAK | {"load.inertia": inertia})
    gate, strip = plan.gate("start.t_max"), plan.comparison.detail
    fall = [1 - volts / strip.before_pct[0] for volts in strip.boards_pct[0]]
    moments = np.linspace(0, strip.time_s[-1], 20001)
    by_hand = float(np.mean(np.interp(moments, strip.time_s, fall) > 0.033)) * strip.time_s[-1]
    assert (gate.verdict, plan.gate("start.d_max").verdict) == (verdict, "passes")
    assert gate.value == pytest.approx(by_hand, rel=0.05)


def test_the_operator_says_how_long_a_large_motor_may_dip(h1, p11):
    """Above 75 A, and where IEEE 1453 counts, no product standard bounds it."""
    for plan in (h1({"limits.flicker": "1"}), p11(FULL)):
        assert "start.t_max" not in {gate.key for gate in plan.gates}
        assert "start.d_max" in {gate.key for gate in plan.gates}


SOUGHT = {"start.method": "soft-starter", "machine.locked_rotor_torque": None, "plate.design_letter": None,
          "limits.dip": None}  # fmt: skip


@pytest.mark.parametrize(
    ("limits", "setting"),
    [
        ({}, "5.3 ×"),  # as much as the weakest machine it may be wants
        ({"limits.flicker": "1"}, "5.0 ×"),  # d_max, 4 %
        ({"limits.flicker": "1", "limits.dip": "6 %"}, "5.0 ×"),
        ({"limits.flicker": "1", "start.switching": "manual"}, "5.3 ×"),  # 6 %
    ],
)
def test_a_limit_that_is_sought_keeps_what_flicker_allows(limits, setting):
    """P-12 of which no torque at rest is known: 3.9 % at five times its amperes, 4.2 at 5.3."""
    plan = planner("harrowmere-lock.json", "P-12")(SOUGHT | limits)
    assert plan.comparison.row("soft-starter").setting == setting
    assert (plan.gate("start.d_max").verdict == "fails") is (limits == {})
