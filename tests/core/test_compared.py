"""A captured start beside the planned one: the words of its lines at their edges, and what it says in a sentence."""

import numpy as np
import pytest

from tests.core.recordings import side
from vinegate.core.record.compared import Compared, Line, current_band, planned_start, said
from vinegate.core.record.rerun import held


def line(found, planned, low=None, high=None, key="time", name="Time to speed", unit="s"):
    return Line(key=key, name=name, unit=unit, found=found, planned=planned, low=low, high=high)


@pytest.mark.parametrize(
    ("found", "planned", "band", "word"),
    [
        (None, 4.0, (3.0, 5.0), "not seen"),
        (4.0, None, (None, None), "not planned"),
        (None, None, (None, None), "not seen"),
        (4.199, 4.0, (3.0, 5.0), "matches"),  # a twentieth
        (3.801, 4.0, (3.0, 5.0), "matches"),
        (4.21, 4.0, (3.0, 5.0), "within the band"),
        (5.0, 4.0, (3.0, 5.0), "within the band"),
        (3.0, 4.0, (3.0, 5.0), "within the band"),
        (5.01, 4.0, (3.0, 5.0), "differs"),
        (2.99, 4.0, (3.0, 5.0), "differs"),
        (4.21, 4.0, (None, None), "differs"),
    ],
)
def test_the_word_for_a_line(found, planned, band, word):
    assert line(found, planned, *band).word == word


def test_the_ratio_is_known_where_both_are():
    assert line(5.0, 4.0).ratio == 1.25
    assert line(None, 4.0).ratio is None
    assert line(5.0, 0.0).ratio is None


def compared(*lines):
    nothing = np.zeros(2)
    return Compared(lines=lines, planned=None, time_s=nothing, found_a=nothing, found_v=None, gap_a=None)


def test_a_sentence_of_what_was_seen():
    amps = {"key": "plateau", "name": "Held while starting", "unit": "A"}
    running = {"key": "running", "name": "Running", "unit": "A"}
    text = said(compared(line(300.0, 313.0, **amps), line(6.0, 4.6, 3.2, 6.0), line(88.0, None, **running)))
    assert text == (
        "Held while starting 300 A, plan 313 A: matches; time to speed 6 s, plan 4.6 s: within the band; "
        "running 88 A: not planned."
    )
    assert said(compared(line(None, 4.6))) == "No start can be compared."


def test_without_captured_volts_it_is_run_on_those_that_were_planned():
    """X-51's star-delta on its own planned volts takes as long as the study says, and less on lower volts."""
    plan = side("X-51")
    own, low = planned_start(plan, None), planned_start(plan, held(0.9 * plan.plant.board_v))
    assert own.time_to_s == pytest.approx(plan.row.time_s, rel=0.05)
    assert low.time_to_s > own.time_to_s
    # An induction machine runs on more amperes on lower volts, and idles on fewer.
    assert low.running_a > own.running_a
    assert low.idle_a < own.idle_a < own.running_a


def test_the_band_of_a_code_letter_reaches_down_to_its_low_end():
    plan = side("X-51")
    low, high = current_band(plan)
    assert low == pytest.approx(plan.locked.low.value / plan.locked.high.value)
    assert high == 1.03
    start = planned_start(plan, None)
    assert start.low_a == pytest.approx(start.line_a * low)
    assert start.high_a == pytest.approx(start.line_a * 1.03)


@pytest.mark.parametrize(
    ("lines", "says"),
    [
        ([line(4.0, 4.0)], "Nothing stands out"),
        ([line(4.0, 4.0), line(6.0, 4.0, 3.0, 5.0, key="plateau")], "It differs"),
        ([line(4.0, None), line(None, 4.0, key="dip")], "nothing of a planned start"),
        ([line(4.0, 4.0), line(4.0, None, key="dip")], "Nothing stands out"),
    ],
)
def test_without_a_cause_it_is_called_as_planned_only_where_it_was_held_against_a_plan(lines, says):
    assert says in compared(*lines).without_cause
