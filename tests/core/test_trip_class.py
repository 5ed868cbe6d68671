"""Overload trip classes: the standard's points, and the heat model against a numerical solution."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from vinegate.core.tables.trip_class import CLASS_TIMES, NEVER_TIMES, SURE_TIMES, classes, trip_class

NAMED = pytest.mark.parametrize("one", classes(), ids=lambda c: c.name)


@NAMED
def test_the_band_passes_through_the_standards_points(one):
    """7.2 times from cold; no trip at 1.05; within two hours at 1.2 and a little; 1.5 times after running at it."""
    assert one.earliest_s(CLASS_TIMES) == pytest.approx(one.least_s)
    latest = [one.latest_s(times) for times in (CLASS_TIMES, 1.5)]
    assert one.least_s < latest[0] <= one.most_s * (1 + 1e-9)
    constant = latest[1] / np.log(1.5**2 / (1.5**2 - SURE_TIMES**2))
    assert constant * np.log((1.5**2 - 1) / (1.5**2 - SURE_TIMES**2)) <= one.most_at_1_5_s * (1 + 1e-9)
    assert np.isinf(one.earliest_s(NEVER_TIMES))
    assert np.isinf(one.latest_s(SURE_TIMES))
    assert one.latest_s(SURE_TIMES + 0.01) < 7200


def test_slower_classes_trip_later_and_the_band_has_its_sides():
    times = np.linspace(1.3, 8, 60)
    for quick, slow in zip(classes(), classes()[1:], strict=False):
        assert all(quick.earliest_s(one) <= slow.earliest_s(one) for one in times)
    for one in classes():
        latest = [one.latest_s(at) for at in times]
        assert all(one.earliest_s(at) < late for at, late in zip(times, latest, strict=True))
        assert np.all(np.diff(latest) < 0)


@NAMED
@pytest.mark.parametrize("slow", [False, True])
def test_a_warm_relay_keeps_its_heat_and_trips_by_the_same_curve(one, slow):
    """Long at 0.9 of its setting it stays as warm; from nought it trips at its curve's own time; warm, sooner."""
    times = np.linspace(0, 500, 800)
    even = one.heat_from(0.81, times, 0.81 * times, slow=slow)
    assert even == pytest.approx(0.81 / (SURE_TIMES if slow else NEVER_TIMES) ** 2, rel=1e-9)
    trips = (one.latest_s if slow else one.earliest_s)(3.0)
    times = np.linspace(0, trips, 800)
    assert one.heat_from(0.0, times, 9 * times, slow=slow)[-1] == pytest.approx(1.0, rel=1e-6)
    assert one.heat_from(0.81, times, 9 * times, slow=slow)[-1] > 1.0


@given(amps=st.floats(1.2, 8), share=st.floats(0.2, 1.5))
def test_constant_current_reaches_the_trip_at_the_curves_own_time(amps, share):
    one = trip_class("10")
    seconds = share * one.earliest_s(amps)
    times = np.linspace(0, seconds, 40)
    heat = one.heat_along(times, amps**2 * times)
    assert (heat[-1] >= 1) == (share >= 1) or share == pytest.approx(1)


def test_heat_of_a_falling_current_agrees_with_a_numerical_solution():
    one, times = trip_class("20"), np.linspace(0, 60, 601)
    square = (6 * np.exp(-times / 25)) ** 2
    running = np.concatenate([[0], np.cumsum((square[1:] + square[:-1]) / 2 * np.diff(times))])
    constant = one.least_s / np.log(CLASS_TIMES**2 / (CLASS_TIMES**2 - NEVER_TIMES**2))
    found = solve_ivp(
        lambda t, heat: ((6 * np.exp(-t / 25)) ** 2 - heat) / constant, (0, 60), [0.0], rtol=1e-9, t_eval=[20, 60]
    )
    assert one.heat_along(times, running)[[200, 600]] * NEVER_TIMES**2 == pytest.approx(found.y[0], rel=1e-3)
