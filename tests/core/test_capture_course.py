"""From waves to amperes: the first cycle of an offset start, aliases, reversed clamps, and the features."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.recordings import start
from vinegate.core.capture.doubts import doubts_of
from vinegate.core.capture.features import features
from vinegate.core.capture.mapping import Use, guess, mapped
from vinegate.core.capture.process import course_of
from vinegate.core.capture.recording import CaptureError, Channel, Recording


def course(found, uses=None):
    return course_of(mapped(found, uses or guess(found)))


@pytest.mark.parametrize(("hertz", "rate"), [(60.0, 4000.0), (50.0, 2000.0), (49.3, 5000.0), (60.0, 1024.0)])
def test_rms_and_fundamental_of_a_plain_wave_are_its_own(hertz, rate):
    found = course(start(hertz=hertz, rate=rate, at=0.0, up=9.0, seconds=2.0))
    assert found.hertz == pytest.approx(hertz, rel=5e-4)
    inner = slice(4, -4)
    assert found.amps["i1"][inner] == pytest.approx(500.0, rel=6e-3)
    assert found.amps_1["i1"][inner] == pytest.approx(500.0, rel=6e-3)
    assert found.volts_1["u12"][inner] == pytest.approx(460.0, rel=6e-3)


def test_the_first_cycle_of_a_fully_offset_start_misleads_rms_and_not_the_fundamental():
    """∫(cos − 1)² over a cycle is 3π: √3 times the rms of the wave alone, where the direct part does not decay."""
    best = max(
        (
            course(start(at=at, decay=1e3, seconds=1.0, up=9.0))
            for at in np.linspace(0.4, 0.4 + 1 / 120, 24, endpoint=False)
        ),
        key=lambda one: one.amps["i1"].max(),
    )
    assert best.amps["i1"].max() / 500.0 == pytest.approx(3**0.5, rel=0.02)
    settled = best.time_s > 0.45
    assert best.amps_1["i1"][settled] == pytest.approx(500.0, rel=0.01)


def test_too_few_samples_a_cycle_are_refused_as_aliases():
    with pytest.raises(CaptureError, match="aliases"):
        course(start(rate=700.0))


def test_features_of_a_step():
    found = features(course(start()))
    assert found.onset_s == pytest.approx(0.4, abs=0.02)
    assert found.plateau_a == pytest.approx(500.0, rel=0.01)
    assert found.running_a == pytest.approx(90.0, rel=0.01)
    assert found.time_s == pytest.approx(1.4, abs=0.03)
    assert found.factor_rest == pytest.approx(np.cos(np.radians(65)), abs=0.01)
    assert found.steps_s == ()
    assert found.zero_phase == ""


def test_a_start_that_never_falls_to_its_running_current_is_not_up():
    assert features(course(start(up=9.0))).time_s is None


def test_a_reversed_clamp_is_found_and_named():
    found = start()
    turned = tuple(replace(one, values=-one.values) if one.name == "I2" else one for one in found.channels)
    assert mapped(found, guess(found)).doubts == ()
    assert "I2" in mapped(replace(found, channels=turned), guess(found)).doubts[0]


def test_volts_to_neutral_become_line_to_line():
    found = start()
    time = found.time_s
    star = tuple(
        Channel(
            name=f"U{k + 1}N",
            phase="",
            unit="V",
            values=np.sqrt(2) * 230 * np.sin(2 * np.pi * 60 * time - k * 2 * np.pi / 3),
        )
        for k in range(3)
    )
    whole = replace(found, channels=(*star, *found.channels[3:]))
    assert guess(whole)["U2N"] == Use(role="u2")
    assert course(whole).mean_v()[10] == pytest.approx(230 * 3**0.5, rel=5e-3)


def test_two_line_volts_give_the_third():
    found = start()
    assert course(replace(found, channels=found.channels[1:])).volts_1.keys() == {"u12", "u23", "u31"}


def test_the_skew_of_a_channel_is_taken_out():
    found = start(at=0.0, up=9.0, seconds=1.0)
    late = found.channels[3]
    skewed = replace(late, values=np.interp(found.time_s + 1e-3, found.time_s, late.values), skew_s=1e-3)
    back = mapped(replace(found, channels=(*found.channels[:3], skewed, *found.channels[4:])), guess(found)).amps["i1"]
    inner = slice(20, -20)
    assert back[inner] == pytest.approx(late.values[inner], abs=8.0)


def test_a_logger_of_one_reading_a_second_says_at_least():
    values = np.array([0.0, 245.0, 90.0, 88.0, 88.0, 88.0, 88.0, 88.0])
    slow = Recording(
        station="", edition="", time_s=np.arange(8.0), channels=(Channel(name="I1", phase="", unit="A", values=values),)
    )
    found = course(slow)
    assert not found.wave
    assert "at least" in found.notes[0]


def test_nothing_flows_and_nothing_is_named():
    with pytest.raises(CaptureError, match="no current"):
        features(course(start(amps=0.0, running=0.0)))
    with pytest.raises(CaptureError, match="say which is which"):
        mapped(start(), {})


@pytest.mark.parametrize("amps", [0.3, 0.9, 1.4])
def test_less_than_an_ampere_is_read_as_what_it_is(amps):
    found = course(start(at=0.0, up=9.0, seconds=2.0, amps=amps))
    assert found.amps["i1"][4:-4] == pytest.approx(amps, rel=6e-3)


def readings(**columns):
    """A meter's rms readings, fifty a second."""
    size = max(len(values) for values in columns.values())
    channels = tuple(
        Channel(name=name, phase="", unit="V" if name.startswith("U") else "A", values=np.array(values, dtype=float))
        for name, values in columns.items()
    )
    return Recording(station="", edition="", time_s=np.arange(size) / 50, channels=channels)


@pytest.mark.parametrize("names", [("U1N", "U2N", "U3N"), ("U1N", "U2N")])
def test_readings_to_neutral_are_line_volts_by_root_three_and_tell_no_unbalance(names):
    """Differences of what is rms already would be nought."""
    amps = [0.0] * 10 + [500.0] * 40 + [90.0] * 50
    volts = {name: [266.0] * 10 + [250.0] * 40 + [262.0] * 50 for name in names}
    whole = readings(**volts, I1=amps, I2=amps, I3=amps)
    channels = mapped(whole, guess(whole))
    seen = features(course_of(channels))
    assert (seen.before_v, seen.least_v) == (pytest.approx(266 * 3**0.5), pytest.approx(250 * 3**0.5))
    assert seen.dip_pct == pytest.approx(100 * 16 / 266)
    assert seen.unbalance_u_pct is None
    assert "neutral" in channels.doubts[0]
    assert mapped(readings(U1N=volts["U1N"], I1=amps), {"U1N": Use(role="u1"), "I1": Use(role="i1")}).volts == {}


def test_a_time_in_ms_that_does_not_say_so_is_told():
    found = start()
    with pytest.raises(CaptureError, match="60 Hz in ms"):
        course(replace(found, time_s=found.time_s * 1000, hertz=None))


def swapped(found, first, second):
    by = {one.name: one.values for one in found.channels}
    by[first], by[second] = by[second], by[first]
    return replace(found, channels=tuple(replace(one, values=by[one.name]) for one in found.channels))


def turned(found, *names):
    return replace(found, channels=tuple(
        replace(one, values=-one.values) if one.name in names else one for one in found.channels
    ))  # fmt: skip


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda found: found, None),
        (lambda found: swapped(found, "I1", "I2"), "opposite order"),
        (lambda found: swapped(found, "U12", "U31"), "opposite order"),
        (lambda found: turned(found, "I1", "I2", "I3"), "at 65° with all three turned round"),  # as made
        (lambda found: swapped(swapped(found, "I1", "I2"), "I2", "I3"), "at 65° each read with the next phase's"),
        # Two of both are changed over: a machine that turns the other way, and nothing wrong.
        (lambda found: turned(swapped(swapped(found, "I1", "I2"), "U23", "U31"), "U12", "U23", "U31"), None),
    ],
)
def test_channels_that_do_not_fit_each_other_are_told(change, says):
    found = doubts_of(course(change(start(angle=65.0))))
    assert (says is None and found == ()) or says in found[0]


@pytest.mark.parametrize("angle", [2.0, 45.0, 88.0])
def test_a_motors_lag_is_no_doubt(angle):
    assert doubts_of(course(start(angle=angle))) == ()
