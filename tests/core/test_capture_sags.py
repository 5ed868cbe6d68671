"""Sags are counted as power quality counts them: by depth and length, both at their edges."""

import numpy as np
import pytest

from tests.core.recordings import start
from vinegate.core.capture.mapping import guess, mapped
from vinegate.core.capture.process import Course, course_of
from vinegate.core.capture.sags import sags
from vinegate.core.records import replace

CYCLE = 1 / 60


def readings(*volts, each_s=CYCLE / 2):
    """Three phases alike, a reading each half cycle."""
    values = np.array(volts, dtype=float)
    return Course(
        time_s=np.arange(values.size) * each_s, amps={}, volts=dict.fromkeys(("12", "23", "31"), values), amps_1={},
        volts_1={}, phasor={}, speed_rpm=None, hertz=60.0, wave=False, rate_hz=1 / each_s, peak_a=None, clipped=False,
    )  # fmt: skip


@pytest.mark.parametrize(("least", "count"), [(433, 0), (432.1, 0), (431.9, 1), (47.9, 1)])
def test_it_begins_below_nine_tenths_of_the_declared_volts(least, count):
    found = sags(readings(480, least, least, 480), 480.0)
    assert len(found) == count
    if found:
        assert found[0].left_pu == pytest.approx(least / 480)
        assert found[0].text(480.0).startswith("Interruption" if least < 48 else "Sag")


def test_it_ends_two_per_cent_above_where_it_began():
    """431 and 441 V are one sag of three readings; 442 V ends it."""
    assert [one.lasts_s for one in sags(readings(480, 431, 441, 431, 480), 480.0)] == [pytest.approx(1.5 * CYCLE)]
    assert len(sags(readings(480, 431, 442, 431, 480), 480.0)) == 2


def test_one_phase_alone_is_a_sag():
    course = readings(480, 480, 480)
    course = replace(course, volts={**course.volts, "23": np.array([480.0, 400.0, 480.0])})
    assert sags(course, 480.0)[0].left_pu == pytest.approx(400 / 480)


@pytest.mark.parametrize(
    ("lasts", "kind"),
    [(29.6, "instantaneous"), (30.4, "momentary"), (179.6, "momentary"), (180.4, "temporary"),
     (3599, "temporary"), (3601, "sustained under-voltage")],
)  # fmt: skip
def test_its_kind_is_by_its_length_in_cycles_and_seconds(lasts, kind):
    (found,) = sags(readings(480, 400, 480, each_s=lasts * CYCLE), 480.0)
    assert (found.kind, found.ends) == (kind, True)


def test_one_that_is_not_over_is_said_to_last_as_long_and_more():
    (found,) = sags(readings(480, 400, 400, 400), 480.0)
    assert not found.ends
    assert found.text(480.0).startswith(
        "Sag, instantaneous: 400 V left, 83.3 % of 480 V, below 90 % for 0.0167 s and more"
    )


def test_waves_at_their_own_volts_hold_none_and_at_lower_declared_ones_neither():
    found = start(volts=460.0)
    course = course_of(mapped(found, guess(found)))
    assert sags(course, 480.0) == ()
    assert sags(course, 0.0) == ()
    assert len(sags(course, 520.0)) == 1
