"""What is read off a start, on curves whose answers are known in closed form."""

import math
from dataclasses import replace

import numpy as np
import pytest

from tests.core.recordings import start
from vinegate.core.capture.features import features, onset, read_curve
from vinegate.core.capture.mapping import guess, mapped
from vinegate.core.capture.process import course_of

STEP = 0.01


def course(found):
    return course_of(mapped(found, guess(found)))


def axis(seconds):
    return np.arange(0.0, seconds, STEP)


@pytest.mark.parametrize("ends", [0.8, 2.0, 4.5])
def test_it_is_up_where_the_current_falls_through_one_and_a_half_times_its_running_one(ends):
    """500 A to `ends`, then exponentially to 90: through 135 A after τ·ln(410/45)."""
    t, tau = axis(8.0), 0.05
    i = np.where(t < ends, 500.0, 90 + 410 * np.exp(-(t - ends) / tau))
    found = read_curve(t, i)
    assert found.time_s == pytest.approx(ends + tau * math.log(410 / 45), abs=STEP / 4)
    assert found.running_a == pytest.approx(90.0, rel=1e-3)
    assert found.plateau_a == pytest.approx(500.0)
    assert found.largest_a == pytest.approx(500.0)
    assert found.steps_s == ()


def test_between_two_readings_the_fall_is_taken_straight():
    """From 180 A at 2.00 s to 100 at 2.01: through 150 A three eighths of the way."""
    t = axis(6.0)
    i = np.where(t < 1.995, 500.0, np.where(t < 2.005, 180.0, 100.0))
    assert read_curve(t, i).time_s == pytest.approx(2.0 + STEP * 30 / 80, abs=1e-9)


def test_near_its_most_to_the_end_it_is_not_up():
    t = axis(5.0)
    assert read_curve(t, np.full(t.size, 300.0) + np.where(t < 1, 100.0, 0.0)).time_s is None


@pytest.mark.parametrize("change", [1.5, 3.0])
def test_a_change_over_is_a_step_up_and_the_start_ends_after_it(change):
    t = axis(9.0)
    i = np.where(t < change, 190.0 - 20 * t, np.where(t < change + 0.4, 480.0, 90.0))
    found = read_curve(t, i)
    assert found.steps_s == pytest.approx((change,), abs=0.05)
    assert found.time_s == pytest.approx(change + 0.4, abs=2 * STEP)


def test_a_rise_of_a_sixth_is_no_step_and_of_a_third_is_one():
    t = axis(6.0)
    for times, steps in ((1.16, 0), (1.33, 1)):
        i = np.where(t < 2.0, 300.0, np.where(t < 4.0, 300.0 * times, 60.0))
        assert len(read_curve(t, i).steps_s) == steps, times


@pytest.mark.parametrize(("jump", "steps"), [(50.0, 0), (72.0, 1)])
def test_a_jump_off_its_own_slope_counts_from_a_seventh_of_it_and_a_thirtieth_of_the_most(jump, steps):
    """At 300 A, falling by 100 A a second from 500: from 0.15 · 294 + 0.03 · 500 = 59 A on."""
    t = axis(6.0)
    i = np.where(t < 2.0, 500.0 - 100 * t, np.where(t < 3.0, 500.0 - 100 * t + jump, 90.0))
    assert len(read_curve(t, i).steps_s) == steps


def test_two_steps_within_a_fifth_of_a_second_are_one():
    t = axis(6.0)
    i = np.where(t < 2.0, 150.0, np.where(t < 2.12, 250.0, np.where(t < 4.0, 420.0, 60.0)))
    assert len(read_curve(t, i).steps_s) == 1


def test_the_plateau_is_that_near_rest():
    """Falling from 600 A by 50 A a second: an eighth of a four-second start is its first half second."""
    t = axis(8.0)
    i = np.where(t < 4.0, 600.0 - 50 * t, 90.0)
    assert read_curve(t, i).plateau_a == pytest.approx(600 - 50 * (0.04 + 0.5) / 2, abs=1.5)


@pytest.mark.parametrize(("noise", "at"), [(0.0, 0.4), (3.0, 0.4), (0.0, 1.1)])
def test_the_moment_it_is_switched_on(noise, at):
    found = start(at=at)
    random = np.random.default_rng(1)
    noisy = tuple(replace(one, values=one.values + noise * random.standard_normal(one.values.size))
                  for one in found.channels)  # fmt: skip
    seen = course(replace(found, channels=noisy))
    assert seen.time_s[onset(seen)] == pytest.approx(at, abs=0.02)


def test_the_dip_is_that_of_the_start_against_the_volts_before():
    """460 V before, 430 while it starts, 455 afterwards."""
    found = start(at=0.5, up=1.5, seconds=4.0)
    share = np.where(found.time_s < 0.5, 1.0, np.where(found.time_s < 2.0, 430 / 460, 455 / 460))
    dipped = tuple(replace(one, values=one.values * share) if one.unit == "V" else one for one in found.channels)
    seen = features(course(replace(found, channels=dipped)))
    assert seen.before_v == pytest.approx(460, rel=2e-3)
    assert seen.least_v == pytest.approx(430, rel=5e-3)
    assert seen.dip_pct == pytest.approx(100 * (1 - 430 / 460), abs=0.5)


def test_of_a_capture_that_begins_with_the_start_the_highest_volts_stand_for_those_before():
    """Nothing was recorded ahead of it: 430 V while it starts, 455 afterwards, which is no dip of 460."""
    found = start(at=0.0, up=1.5, seconds=4.0)
    share = np.where(found.time_s < 1.5, 430 / 460, 455 / 460)
    dipped = tuple(replace(one, values=one.values * share) if one.unit == "V" else one for one in found.channels)
    seen = features(course(replace(found, channels=dipped)))
    assert seen.before_v == pytest.approx(455, rel=5e-3)
    assert seen.dip_pct == pytest.approx(100 * (1 - 430 / 455), abs=0.6)


@pytest.mark.parametrize(("swing", "hertz"), [(0.05, 3.0), (0.05, 1.0), (0.004, None)])
def test_a_running_current_that_swings_is_told_by_its_frequency(swing, hertz):
    found = start(seconds=12.0, up=1.0, rate=2000.0)
    wave = 1 + swing * math.sqrt(2) * np.sin(2 * np.pi * (hertz or 3.0) * found.time_s)
    swung = tuple(replace(one, values=one.values * wave) if one.unit == "A" else one for one in found.channels)
    seen = features(course(replace(found, channels=swung)))
    assert seen.pulses_hz == (None if hertz is None else pytest.approx(hertz, abs=0.12))


@pytest.mark.parametrize(("left", "phase"), [(0.0, "i2"), (0.3, "")])
def test_a_phase_that_carries_nothing_is_named(left, phase):
    found = start(seconds=4.0)
    open_ = tuple(replace(one, values=left * one.values) if one.name == "I2" else one for one in found.channels)
    assert features(course(replace(found, channels=open_))).zero_phase == phase


@pytest.mark.parametrize("angle", [20.0, 50.0, 80.0])
def test_the_power_factor_at_rest_is_the_cosine_of_its_angle(angle):
    assert features(course(start(angle=angle))).factor_rest == pytest.approx(math.cos(math.radians(angle)), abs=0.01)


def test_the_power_factor_is_of_all_three_phases():
    """Each phase lags by its own angle, none by the sum's: the cosine of that, by hand."""
    found, angles, amps = start(seconds=2.0, at=0.3, up=9.0), (15.0, 70.0, 35.0), (300.0, 500.0, 400.0)
    turn = 2 * np.pi * 60 * found.time_s
    made = []
    for k, (name, angle, size) in enumerate(zip(("I1", "I2", "I3"), angles, amps, strict=True)):
        lag = np.pi / 6 + k * 2 * np.pi / 3 + math.radians(angle)
        wave = np.where(found.time_s < 0.3, 0.0, math.sqrt(2) * size * np.sin(turn - lag))
        made.append(replace(found.channels[3 + k], name=name, values=wave))
    seen = features(course(replace(found, channels=(*found.channels[:3], *made))))
    power = sum(
        a * complex(math.cos(math.radians(d)), math.sin(math.radians(d))) for a, d in zip(amps, angles, strict=True)
    )
    assert seen.factor_rest == pytest.approx(power.real / abs(power), abs=0.01)
