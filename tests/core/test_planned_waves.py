"""The planned start as waves: what a recorder would have written of it."""

import math

import numpy as np
import pytest

from vinegate.core.record.planned import Envelope, waves

AMPS, VOLTS, ANGLE, HERTZ = 500.0, 460.0, math.radians(70), 60.0


def recorded(*, offset):
    steady = np.array([0.0, 2.0])
    found = Envelope(
        time_s=steady, line_a=np.full(2, AMPS), line_v=np.full(2, VOLTS), speed_pu=np.zeros(2),
        angle_rad=np.full(2, ANGLE), before_v=470.0, hertz=HERTZ, synchronous_rpm=1200.0,
    )  # fmt: skip
    made = waves(found, rate_hz=20_000, offset=offset)
    since = made.time_s - made.trigger_s
    return since, {channel.name: channel.values for channel in made.channels}


def test_currents_lag_their_own_phase_and_add_up_to_nothing():
    since, of = recorded(offset=False)
    on = since >= 0
    amps = np.array([of[name] for name in ("I1", "I2", "I3")])[:, on]
    assert np.abs(amps.sum(axis=0)).max() < 1e-6
    assert np.sqrt((amps[0] ** 2).mean()) == pytest.approx(AMPS, rel=1e-3)
    phase_volts = (of["U12"] - of["U31"])[on] / 3
    assert (phase_volts * amps[0]).mean() == pytest.approx(AMPS * VOLTS / math.sqrt(3) * math.cos(ANGLE), rel=1e-3)
    assert np.abs(amps[:, :1]).max() > 100  # switched on in the midst of a wave: it would jump
    assert np.all(of["I1"][~on] == 0)


def test_with_its_direct_part_no_current_jumps_and_that_part_dies_away_by_l_over_r():
    """`i(0+) = 0` in each phase; the direct part falls to 1/e in `tan φ/ω`."""
    since, of = recorded(offset=True)
    _, plain = recorded(offset=False)
    on = int(np.argmax(since >= 0))
    for name in ("I1", "I2", "I3"):
        direct = plain[name] - of[name]
        assert abs(of[name][on]) < 0.02 * AMPS
        if abs(direct[on]) > 50:
            later = on + round(math.tan(ANGLE) / (2 * math.pi * HERTZ) * 20_000)
            assert direct[later] / direct[on] == pytest.approx(math.exp(-1), rel=0.02)
    crest = max(np.abs(of[name]).max() for name in ("I1", "I2", "I3"))
    assert math.sqrt(2) * AMPS < crest < 2 * math.sqrt(2) * AMPS
