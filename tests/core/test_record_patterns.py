"""Each pattern by hand: signs that are plainly its own, and each of those signs taken away from it."""

import pytest

from vinegate.core.record.causes import Signs, causes

PLAIN = {
    "in_wye": {"current": 1 / 3, "time": 2.0},
    "in_delta": {"current": 3.0, "time": 0.5, "wye": True, "changes": True},
    "strapped_high": {"current": 0.25},
    "strapped_low": {"current": 4.0, "running": 2.0},
    "single_phase": {"zero": True},
    "instrument": {"current": 2.0, "running": 2.0},
    "clipped": {"clipped": True},
    "heavy": {"time": 1.5, "running": 1.15},
    "inertia": {"time": 1.3},
    "unloaded": {"idle": 0.1, "time": 0.9},
    "hangs": {"reached": False},
    "letter": {"current": 1.3, "time": 0.8},
    "timer": {"change_late_s": 0.6, "changes": True},
    "spike": {"spike": 2.5, "changes": True},
    "weak_source": {"dip": 1.8},
    "low_volts": {"before": 0.92},
    "overload": {"running": 1.25},
    "winding": {"running": 1.25, "factor": -0.2},
    "unbalance": {"unequal_u": 2.5, "unequal_i": 10.0},
    "pulses": {"pulses": True, "idle": 1.0},
    "reversed": {"idle": 0.55},
    "limit_low": {"electronic": True, "current": 0.8, "time": 1.5},
    "limit_high": {"electronic": True, "current": 1.25, "time": 0.75},
}
BASE = {"idle": 1.0}


def scores(**signs):
    return {one.key: one.score for one in causes(Signs(**{**BASE, **signs}))}


@pytest.mark.parametrize("key", PLAIN)
def test_its_own_signs_put_it_first(key):
    found = scores(**PLAIN[key])
    assert next(iter(found)) == key
    assert 0.5 < found[key] <= 1


def test_as_planned_nothing_is_named():
    assert scores() == {}


# What takes a pattern away: the same signs with one of them as planned, or past what it explains.
AGAINST = [
    ("in_wye", {"current": 0.45}),
    ("in_wye", {"current": 0.24}),
    ("in_wye", {"time": 1.3}),
    ("in_wye", {"wye": True}),
    ("in_delta", {"wye": False}),
    ("in_delta", {"time": 0.9}),
    ("in_delta", {"current": 2.2}),
    ("strapped_high", {"current": 1 / 3}),
    ("strapped_high", {"current": 0.19}),
    ("strapped_low", {"running": 1.4}),
    ("strapped_low", {"current": 1.8}),
    ("instrument", {"running": 1.0}),
    ("instrument", {"time": 1.4}),
    ("instrument", {"current": 2.4, "running": 2.4}),
    ("heavy", {"running": 1.04}),
    ("heavy", {"time": 1.15}),
    ("heavy", {"time": 3.0}),
    ("heavy", {"current": 1.6}),
    ("heavy", {"reached": False}),
    ("heavy", {"change_late_s": 0.5}),
    ("inertia", {"time": 1.06}),
    ("inertia", {"running": 1.1}),
    ("inertia", {"running": 0.9}),
    ("inertia", {"current": 1.6}),
    ("inertia", {"reached": False}),
    ("inertia", {"change_late_s": 0.5}),
    ("unloaded", {"idle": 0.35}),
    ("unloaded", {"time": 1.05}),
    ("unloaded", {"current": 1.8}),
    ("unloaded", {"reached": False}),
    ("hangs", {"reached": True}),
    ("hangs", {"should_reach": False}),
    ("hangs", {"current": 2.0}),
    ("letter", {"current": 1.1}),
    ("letter", {"current": 2.2}),
    ("letter", {"time": 0.95}),
    ("letter", {"running": 1.3}),
    ("timer", {"changes": False}),
    ("timer", {"change_late_s": 0.2}),
    ("timer", {"change_late_s": 1e9}),
    ("timer", {"current": 1.6}),
    ("spike", {"spike": 1.8}),
    ("spike", {"changes": False}),
    ("spike", {"change_late_s": -0.5}),
    ("weak_source", {"dip": 1.3}),
    ("weak_source", {"current": 1.9}),
    ("low_volts", {"before": 0.96}),
    ("low_volts", {"dip": 1.4}),
    ("overload", {"running": 1.08}),
    ("overload", {"current": 1.6}),
    ("overload", {"time": 1.4}),
    ("overload", {"time": 0.7}),
    ("overload", {"unequal_u": 1.5}),
    ("overload", {"factor": -0.1}),
    ("winding", {"factor": -0.05}),
    ("winding", {"running": 1.08}),
    ("winding", {"unequal_u": 1.5}),
    ("unbalance", {"unequal_u": 1.2}),
    ("unbalance", {"unequal_i": 4.0}),
    ("unbalance", {"zero": True}),
    ("reversed", {"idle": 0.3}),
    ("reversed", {"idle": 0.85}),
    ("reversed", {"time": 1.1}),
    ("reversed", {"current": 1.6}),
    ("reversed", {"reached": False}),
    ("reversed", {"pulses": True}),
    ("limit_low", {"electronic": False}),
    ("limit_low", {"current": 0.95}),
    ("limit_low", {"time": 1.1}),
    ("limit_high", {"electronic": False}),
    ("limit_high", {"current": 1.06}),
    ("limit_high", {"time": 0.97}),
    ("limit_high", {"running": 1.25}),
]


@pytest.mark.parametrize(("key", "less"), AGAINST)
def test_without_one_of_its_signs_it_is_hardly_named(key, less):
    whole = scores(**PLAIN[key])[key]
    assert scores(**PLAIN[key] | less).get(key, 0.0) < 0.35 * whole


# Near twins that must stay: as far from the plan as an instrument and a day's load go.
STILL = [
    ("in_wye", {"current": 0.345}),
    ("in_wye", {"reached": False, "time": 1.0}),
    ("in_wye", {"current": 1.0, "wye": True, "changes": True, "change_late_s": 1e9, "running": 0.5, "time": 1.0}),
    ("in_delta", {"time": 0.65}),
    ("strapped_high", {"current": 0.26}),
    ("strapped_low", {"current": 3.4}),
    ("instrument", {"current": 10.0, "running": 10.0}),
    ("instrument", {"current": 0.1, "running": 0.1}),
    ("instrument", {"current": 5.0, "running": 5.0}),
    ("instrument", {"current": 0.2, "running": 0.2}),
    ("instrument", {"current": 0.5, "running": 0.5}),
    ("heavy", {"time": 1.27, "current": 1.1}),
    ("heavy", {"time": 2.6}),
    ("inertia", {"time": 1.2, "running": 1.01}),
    ("inertia", {"current": 0.9}),
    ("unloaded", {"current": 1.1}),
    ("hangs", {"current": 1.15}),
    ("letter", {"running": 1.03}),
    ("letter", {"current": 1.7}),
    ("timer", {"change_late_s": -0.6}),
    ("timer", {"current": 1.1}),
    ("spike", {"change_late_s": 0.2}),
    ("weak_source", {"current": 1.1}),
    ("low_volts", {"dip": 1.05}),
    ("overload", {"time": 1.04, "unequal_u": 0.7}),
    ("winding", {"unequal_u": 0.7}),
    ("reversed", {"current": 0.9, "time": 0.95}),
    ("limit_low", {"time": 1.0, "reached": False}),
    ("limit_high", {"current": 2.0, "time": 0.6}),
]


@pytest.mark.parametrize(("key", "more"), STILL)
def test_a_day_that_is_a_little_otherwise_changes_nothing(key, more):
    assert scores(**PLAIN[key] | more)[key] > 0.75 * scores(**PLAIN[key])[key]


def test_more_inertia_is_less_likely_where_the_change_came_late_or_electronics_hold_it():
    whole = scores(**PLAIN["inertia"])["inertia"]
    assert scores(**PLAIN["inertia"], electronic=True)["inertia"] == pytest.approx(0.4 * whole)
