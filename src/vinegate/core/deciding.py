"""Which fact decides a comparison, and from what value: in words, and as one would type it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations
from typing import Final

from vinegate.core.quantity import SAID_TWICE
from vinegate.core.records import replace
from vinegate.core.turning import NOT_GIVEN, Room, Taken, Turn, Turns, best_room, ends_of, may_pass, turning

_ONE_SIDED: Final = 1.0
_OUTSIDE: Final = 2.0
_GIVEN: Final = 5.0
_IN_ORDER: Final = 0.2  # of two facts that settle it alike, the one named first
_FAR_OUT: Final = 10.0  # far outside the band of an estimate no value of it is to be had
_FURTHEST: Final = 3.0  # times past the ends of a band
_NO_END: Final = 100.0  # a band that reaches so many times further has no end worth saying
_MOST_OPEN: Final = 5  # of more it says that it rests on them


def _outward(value: float, way: float) -> float:
    """Three digits, rounded to the side that still holds.

    >>> _outward(9.4321, 1), _outward(9.4321, -1)
    (9.44, 9.43)
    """
    if value <= 0:
        return value
    step = 10.0 ** (math.floor(math.log10(value)) - 2)
    rounded = (math.ceil(value / step - 0.01) if way > 0 else math.floor(value / step + 0.01)) * step
    return float(f"{rounded:.6g}")


def decider(room: Room, taken: Sequence[Taken]) -> Turns | None:
    """The fact that settles a comparison: one that is open and may alone, else several that are open, else any."""
    alone, usual = _alone(room, taken)
    return alone if usual else _jointly(room, taken) or alone


def _alone(room: Room, taken: Sequence[Taken]) -> tuple[Turns | None, bool]:
    """Of the facts that can be typed, one that alone settles it: soft ones first, the nearest turn first.

    With it whether that is an open one that passes at a value it may have.
    """
    best: tuple[float, float, int] | None = None  # what it costs, what it costs where both sides are known, which
    said: tuple[Turns, bool] | None = None
    never = []
    # Each turn takes a dozen rooms: those that cannot be the cheapest any more are not looked for.
    for floor, index in sorted((_floor(room, taken, index), index) for index, one in enumerate(taken) if one.path):
        if best is not None and best[0] < floor:
            break
        one, good = taken[index], turning(room, taken, index, passing=True)
        if good is None:
            never.append(index)
            continue
        cost = _cost(one, index, good, good)
        if cost == math.inf or (best is not None and best[0] < cost):
            continue
        bad = _to_be_had(one, turning(room, taken, index, passing=False))
        found = (cost if bad else cost + _ONE_SIDED, cost, index)
        if best is None or found < best:
            best, said = found, (_said(one, good, bad), _may_be(one, good[0]) and not one.given)
    return said or (_only_failing(room, taken, sorted(never)), False)


def _floor(room: Room, taken: Sequence[Taken], index: int) -> float:
    """The least that a fact can cost: one that passes nowhere within its band turns outside it, if at all."""
    one = taken[index]
    beyond = bool(one.sense) and one.wide and not may_pass(room, taken, index)
    return _least_cost(one, index) + (_OUTSIDE if beyond else 0.0)


def _least_cost(one: Taken, index: int) -> float:
    return (_GIVEN if one.given else 0.0) + _IN_ORDER * index


def _to_be_had(one: Taken, turn: Turn | None) -> Turn | None:
    """A turn that is no more than so many times outside the band of what nobody gave: no such value would be typed."""
    if turn is None or one.given:
        return turn
    return turn if one.low / _FURTHEST <= turn[0] <= one.high * _FURTHEST else None


def _may_be(one: Taken, value: float) -> bool:
    return one.low <= value <= one.high


def _jointly(room: Room, taken: Sequence[Taken]) -> Turns | None:
    """Of the facts that nobody gave, the fewest that settle it together, each within what it may be.

    One has the value at which it turns; the others are as taken, or else at the end of their band that leaves most.
    """
    open_ones = [index for index, one in enumerate(taken) if one.path and one.wide and not one.given]
    if not 1 < len(open_ones) <= _MOST_OPEN:
        return None
    for size in range(1, len(open_ones)):
        for best in (False, True):
            found = []
            for index in open_ones:
                for others in combinations([other for other in open_ones if other != index], size):
                    held = {other: _held(room, taken, other, best=best) for other in others}
                    with_them = [held.get(place, one) for place, one in enumerate(taken)]
                    good = None
                    if may_pass(room, with_them, index):
                        good = turning(room, with_them, index, passing=True, inside=True)
                    if good is not None and _may_be(taken[index], good[0]):
                        cost = _cost(taken[index], index, good, good)
                        found.append((cost, index, good, [held[other] for other in others]))
            if found:
                _, index, good, beside = min(found, key=lambda one: one[:2])
                return _said_with(taken[index], good, beside)
    return None


def _held(room: Room, taken: Sequence[Taken], index: int, *, best: bool) -> Taken:
    """A fact as if it were typed: as it was taken, or at the end of its band that leaves most room."""
    one, value = taken[index], taken[index].value
    if best:
        ends = [[(end,) if place == index else own for place, own in enumerate(ends_of(taken))]
                for end in (one.low, one.high)]  # fmt: skip
        plain = [other.sensed(0) if place == index else other for place, other in enumerate(taken)]
        value = one.high if best_room(room, ends[1], plain) > best_room(room, ends[0], plain) else one.low
    value = float(f"{value:.3g}")
    low, high = one.at(value)
    return replace(one, value=value, low=low, high=high)


def _said_with(one: Taken, good: Turn, beside: Sequence[Taken]) -> Turns:
    """What settles it together: the value of one at which it turns, the others as typed beside it."""
    passes, passes_as = _words(one, good)
    others = " and ".join(f"{other.label} {other.text(other.value)}" for other in beside)
    return Turns(path=one.path, label=one.label, passes=f"{passes} with {others}", passes_as=passes_as,
                 beside=tuple((other.path, other.text(other.value)) for other in beside))  # fmt: skip


def _only_failing(room: Room, taken: Sequence[Taken], places: Sequence[int]) -> Turns | None:
    """The same of facts that make it fail and never pass."""
    found = []
    for index in places:
        bad = turning(room, taken, index, passing=False) if taken[index].path else None
        if bad is not None and (cost := _cost(taken[index], index, None, bad)) < math.inf:
            found.append((cost, _said(taken[index], None, bad)))
    return min(found, key=lambda pair: pair[0])[1] if found else None


def _cost(one: Taken, index: int, good: Turn | None, nearest: Turn) -> float:
    """How hard it is to settle by this fact, where both sides of it are known; infinite past where it can be."""
    far = abs(math.log(max(nearest[0], 1e-12) / max(one.value, 1e-12)))
    inside = one.low <= nearest[0] <= one.high
    if one.hard and not inside:
        return math.inf
    outside = 0.0
    if not inside:
        beyond = one.high if nearest[0] > one.high else one.low
        outside = _OUTSIDE + _FAR_OUT * (
            0.0 if one.given else abs(math.log(max(nearest[0], 1e-12) / max(beyond, 1e-12)))
        )
    return far + (0.0 if good else 10.0) + outside + _least_cost(one, index)


_BEYOND_IT: Final = 0.06
"""So much past its turn stands what nobody gave: once it is typed, all that was taken at its far end is worked anew.
Ours, against the turns of random circuits.
"""


def _said(one: Taken, good: tuple[float, float] | None, bad: tuple[float, float] | None) -> Turns:
    passes, passes_as = _words(one, good)
    fails, fails_as = _words(one, bad)
    return Turns(path=one.path, label=one.label, passes=passes, fails=fails, passes_as=passes_as, fails_as=fails_as)


def _words(one: Taken, turn: tuple[float, float] | None) -> tuple[str, str]:
    """The side of a turn in words, and a value on it as one would type it."""
    if turn is None:
        return "", ""
    value, way = turn
    if one.whole:
        count = math.ceil(value - 1e-3) if way > 0 else math.floor(value + 1e-3)
        if way > 0 and count - value < 1e-3:
            count += 1
        return f"{count} or {'more' if way > 0 else 'fewer'}", f"{count}"
    if one.how == NOT_GIVEN:
        value *= 1 + _BEYOND_IT * way
    rounded = _outward(value, way)
    typed = rounded * (1 + 0.02 * way)
    if one.possible is not None:
        typed = min(max(typed, one.possible[0]), one.possible[1])
    at, over, under = one.text(rounded), "over", "under"
    if at == one.text(one.value):  # the value taken is the last that holds
        over, under = "from", "up to"
    return f"{over if way > 0 else under} {at}", one.text(typed)


def _as_taken(one: Taken) -> str:
    """What it was taken as: the whole band of what nobody gave, as one end of it may pass and the other not."""
    if one.how == NOT_GIVEN:
        return "it is not given"
    taken, low, high = (one.text(value).removesuffix(one.unit).rstrip() for value in (one.value, one.low, one.high))
    unit = f" {one.unit}".rstrip()
    ends = unit if one.unit in SAID_TWICE else ""
    if low == high:
        return f"{taken}{unit} {one.how or 'given'}"
    if not one.how:
        reach = f"up to {high}" if taken == low else f"down to {low}" if taken == high else f"{low} to {high}"
        return f"{taken}{unit} given, {reach}{ends} by its tolerance"
    if one.value > 0 and one.high > _NO_END * one.value:
        return f"{taken}{unit} {one.how}, {low}{ends} or more"
    band = f"{low} to {high}"
    return f"{band}{unit} {one.how}" if taken in (low, high) else f"{taken}{unit} {one.how}, {band}{ends}"


def because(turns: Turns | None, taken: Sequence[Taken]) -> str:
    """What decides, in words."""
    if turns is None:
        soft = [one.label for one in taken if one.wide and one.label]
        return f" It rests on {' and '.join(soft)}." if soft else ""
    one = next((fact for fact in taken if fact.path == turns.path), None)
    was = f"; {_as_taken(one)}" if one is not None else ""
    of = f"with {turns.label}" if turns.label.startswith(("the ", "its ")) else f"for any {turns.label}"
    if turns.passes:
        return f" Passes {of} {turns.passes}{was}."
    return f" Fails {of} {turns.fails}{was}."
