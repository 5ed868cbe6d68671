"""A repeated cycle on a drive: amperes by brute force, torque and time above its rating on both sides."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import planner
from tests.examples import examples
from vinegate.core.drive.cycle import rms_of, stretch_of
from vinegate.core.grade import Verdict

FAN = planner("skerry-sound.json", "F-3")
PARTS = st.lists(st.tuples(st.integers(0, 200), st.integers(1, 300)), min_size=1, max_size=5)


@given(PARTS, st.integers(10, 900))
@examples(60)
def test_rms_is_that_of_the_worst_window(parts, period):
    """Second by second, every window that begins on one."""
    amps = np.concatenate([np.full(seconds, float(one)) for one, seconds in parts])
    long = np.tile(amps, 2 + period // amps.size + 1) ** 2
    sums = np.concatenate([[0.0], np.cumsum(long)])
    worst = max(sums[begin + period] - sums[begin] for begin in range(amps.size))
    assert rms_of(parts, period) == pytest.approx(math.sqrt(worst / period))


@given(PARTS, st.integers(0, 200))
@examples(60)
def test_a_stretch_goes_on_from_the_cycles_end(parts, rated):
    above = np.concatenate([np.full(seconds, one > rated) for one, seconds in parts])
    if above.all():
        assert stretch_of(parts, rated) == math.inf
        return
    longest = run = 0
    for one in np.tile(above, 2):
        run = run + 1 if one else 0
        longest = max(longest, run)
    assert stretch_of(parts, rated) == longest


def amperes(cycle, **more):
    return FAN({"drive.cycle": cycle, **{key.replace("__", "."): text for key, text in more.items()}}).gate(
        "drive.cycle_amperes"
    )


@pytest.mark.parametrize(("seconds", "verdict"), [(29, "passes"), (31, "fails")])
def test_above_its_rating_no_longer_than_its_overload(seconds, verdict):
    """At 150 % of the load's torque it draws more than its 61 A; of 30 s of overload."""
    cycle = f"100 %; 150 %; {seconds}\n100 %; 20 %; 1000"
    found = amperes(cycle, drive__overload="200 %", drive__overload_time="30 s")
    assert found.verdict == verdict, found.sentence


@pytest.mark.parametrize(("rest", "verdict"), [(300, "passes"), (10, "fails")])
def test_what_it_gives_above_is_rested_from(rest, verdict):
    cycle = f"100 %; 150 %; 50\n100 %; 20 %; {rest}"
    found = amperes(cycle, drive__overload="200 %", drive__overload_time="60 s")
    assert found.verdict == verdict, found.sentence


@pytest.mark.parametrize(("load", "verdict"), [("115 %", Verdict.PASSES), ("150 %", Verdict.FAILS)])
def test_its_torque_is_there_at_every_part(load, verdict):
    """110 % of 61 A for a short time: 116 N·m at full speed, a tenth to spare, where the load's own are 87."""
    plan = FAN({"drive.cycle": f"100 %; {load}; 3\n100 %; 20 %; 600"})
    assert plan.gate("drive.cycle_torque").verdict is verdict
    assert plan.gate("drive.cycle_breakdown").verdict is Verdict.PASSES
    assert not [gate for gate in FAN().gates if gate.key.startswith("drive.cycle")]


def test_amperes_rest_on_a_load_that_is_estimated():
    """Of a part whose torque is the curve's; one that is typed leaves the band."""
    bare = {"load.power": None, "load.flow": None, "load.pressure": None, "load.head": None}
    whole, typed = (f"100 %; {load}; 300\n60 %; 30 %; 300" for load in ("", "80 %"))
    taken = FAN(bare).load.power
    assert taken.wide
    for cycle, rests in ((whole, True), (typed, False)):
        gate = FAN(bare | {"drive.cycle": cycle}).gate("drive.cycle_amperes")
        assert (taken.label in gate.rests_on) is rests
