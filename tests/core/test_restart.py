"""The restart against a search without any windows: every moment of the grid tried, every step of it looked at."""

import itertools
from dataclasses import replace
from random import Random

import numpy as np
import pytest

from vinegate.core.grade import Verdict
from vinegate.core.start.restart import GRID_S, STEP_S, Starter, restart_sequence
from vinegate.drawing.restart_chart import restart_chart


def starter(tag, amps, steps, running=0.2, angle=-1.2, wanted_s=None):
    """It pulls `amps` of per-unit loading for so many steps, then a share of it, at an angle."""
    turn = np.exp(1j * angle)
    return Starter(
        tag=tag,
        method="full voltage",
        loading=tuple([amps * turn] * steps),
        running=running * amps * turn,
        peak_a=1000 * amps,
        wanted_s=wanted_s,
    )


def along(placed, size):
    """The loading of all, by plain sums."""
    total = np.zeros(size, dtype=complex)
    for one, begin in placed:
        for step in range(begin, size):
            total[step] += one.loading[step - begin] if step - begin < len(one.loading) else one.running
    return total


def first_by_hand(before, one, earliest, most, size):
    grid = round(GRID_S / STEP_S)
    for begin in range(-(-earliest // grid) * grid, size // 4, grid):
        if (np.abs(1 + along([*before, (one, begin)], size)[begin:]) <= most + 1e-12).all():
            return begin
    return None


@pytest.mark.slow
@pytest.mark.parametrize("seed", range(6))
def test_each_starts_at_the_first_moment_that_its_board_bears(seed):
    random = Random(seed)
    many = [
        starter(f"M-{number}", random.uniform(0.01, 0.05), random.randint(8, 60), angle=random.uniform(-1.4, -0.3))
        for number in range(4)
    ]
    limit = max(abs(1 + one.loading[0]) for one in many)
    limit_pu = 1 - 1 / (limit * 1.005)  # the largest alone is just borne
    found = restart_sequence(many, dip_limit_pu=limit_pu)
    size, placed, earliest = 4000, [], round(2.0 / STEP_S)
    for one in sorted(many, key=lambda one: one.peak_a):
        begin = first_by_hand(placed, one, earliest, 1 / (1 - limit_pu), size)
        if begin is None:
            break
        slot = next(slot for slot in found.slots if slot.tag == one.tag)
        assert slot.at_s == pytest.approx(begin * STEP_S), one.tag
        assert slot.ends_s == pytest.approx((begin + len(one.loading)) * STEP_S)
        placed.append((one, begin))
        earliest = begin + round(1.0 / STEP_S)
    assert len(placed) >= 3


def test_two_given_moments_add_up():
    """The second closes while the first still starts: their loadings stand together, then one beside one that runs."""
    one, other = starter("A", 0.04, 40, wanted_s=3.0), starter("B", 0.03, 60, wanted_s=4.0)
    found = restart_sequence([one, other], dip_limit_pu=0.05)
    both = along([(one, round(3.0 / STEP_S)), (other, round(4.0 / STEP_S))], 2000)
    dips = 100 * (1 - 1 / np.abs(1 + both))
    slots = {slot.tag: slot for slot in found.slots}
    assert slots["A"].dip_pct == pytest.approx(dips[round(3 / STEP_S) : round(3 / STEP_S) + 40].max())
    assert slots["B"].dip_pct == pytest.approx(dips[round(4 / STEP_S) : round(4 / STEP_S) + 60].max())
    assert min(found.volts_pct) == pytest.approx(100 - dips.max(), abs=1e-3)
    assert found.all_at_once_pct == pytest.approx(100 * (1 - 1 / abs(1 + one.loading[0] + other.loading[0])))


@pytest.mark.parametrize(("limit", "fits"), [(0.040, True), (0.030, False), (None, True)])
def test_a_given_moment_is_judged_by_the_limit(limit, fits):
    one = starter("A", 0.0375, 40, angle=0.0, wanted_s=3.0)  # 1 − 1/1.0375 is 3.6 %
    assert restart_sequence([one], dip_limit_pu=limit).verdict is (Verdict.PASSES if fits else Verdict.FAILS)


def test_where_nothing_fits_it_comes_after_all_that_moves():
    """A machine that alone pulls too low waits until the others run."""
    small, large = starter("A", 0.02, 30), starter("B", 0.5, 30)
    found = restart_sequence([small, large], dip_limit_pu=0.05)
    first, last = (next(slot for slot in found.slots if slot.tag == tag) for tag in ("A", "B"))
    assert last.verdict is Verdict.FAILS
    assert first.ends_s < last.at_s <= first.ends_s + 5.0
    assert first.verdict is Verdict.PASSES


def behind(one, *boards):
    return replace(one, boards=frozenset(boards))


def overlap(one, other):
    return one.at_s < other.ends_s - 1e-9 and other.at_s < one.ends_s - 1e-9


@pytest.mark.parametrize("limit", [0.2, None])
def test_none_starts_while_another_does_behind_the_same_further_board(limit):
    """The main board bears all of them at once: only the shared board keeps them apart, whichever stands deeper."""
    free, near, far = starter("A", 0.01, 70), starter("B", 0.02, 80), starter("C", 0.03, 90)
    apart = restart_sequence([free, behind(near, "board_1"), behind(far, "board_1", "board_2")], dip_limit_pu=limit)
    plain = restart_sequence([free, near, far], dip_limit_pu=limit)
    slots, before = ({slot.tag: slot for slot in found.slots} for found in (apart, plain))
    assert not overlap(slots["B"], slots["C"])
    assert all(slot.beside == () for slot in apart.slots)
    assert slots["A"].at_s == before["A"].at_s
    assert overlap(before["B"], before["C"]) is (limit is not None)


def test_a_gap_is_taken_where_a_start_fits_in_before_a_given_moment():
    late = behind(starter("A", 0.05, 40, wanted_s=5.0), "board_1")
    short, long = (behind(starter("B", 0.01, steps), "board_1") for steps in (60, 61))  # 3 s, and a step more
    begins = [restart_sequence([late, one], dip_limit_pu=0.3).slots for one in (short, long)]
    assert [slot.at_s for slot in begins[0]] == [2.0, 5.0]
    assert [(slot.tag, slot.at_s) for slot in begins[1]] == [("A", 5.0), ("B", 7.0)]


@pytest.mark.parametrize(("wanted", "beside"), [(4.9, ("A",)), (5.0, ())])
def test_given_moments_behind_one_board_are_told_where_they_meet(wanted, beside):
    one = behind(starter("A", 0.01, 40, wanted_s=3.0), "board_1")  # up at 5 s
    other = behind(starter("B", 0.01, 40, wanted_s=wanted), "board_1")
    slots = {slot.tag: slot for slot in restart_sequence([one, other], dip_limit_pu=0.3).slots}
    assert slots["B"].beside == beside
    assert slots["A"].beside == (("B",) if beside else ())


@pytest.mark.parametrize("wanted", [5.0, 599.0, 640.0, 3600.0])
def test_a_moment_however_late_is_judged(wanted):
    one = starter("A", 0.0375, 40, angle=0.0, wanted_s=wanted)
    found = restart_sequence([one], dip_limit_pu=0.03)
    assert found.verdict is Verdict.FAILS
    assert found.slots[0].dip_pct == pytest.approx(100 * (1 - 1 / 1.0375))
    assert found.ends_s == pytest.approx(wanted + 2.0)
    assert restart_chart(found, editable=True).shapes


def test_as_many_as_take_longer_than_was_looked_at_are_all_placed():
    """Two hundred that the board bears one at a time, of four seconds each: 800 s at least, each with its own dip."""
    many = [starter(f"M-{number:03}", 0.0375, 80, running=0.0, angle=0.0) for number in range(200)]
    found = restart_sequence(many, dip_limit_pu=0.04)
    assert found.verdict is Verdict.PASSES
    assert found.ends_s >= 800
    begins = sorted(slot.at_s for slot in found.slots)
    assert min(b - a for a, b in itertools.pairwise(begins)) >= 4.0 - 1e-9
    assert {round(slot.dip_pct, 3) for slot in found.slots} == {round(100 * (1 - 1 / 1.0375), 3)}
