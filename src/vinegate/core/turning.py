"""Facts as bands, and the value of one of them at which a comparison turns."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import product
from typing import Final

from vinegate.core.numbers import write
from vinegate.core.records import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Turns:
    """The fact that decides a gate: where it is typed, and what settles the gate either way, in words and as typed.

    `settled` is the fact's path ("machine.stall_hot"); `passes_as` and `fails_as` are texts for its field, empty where
    no value does it.
    """

    path: str
    label: str
    passes: str = ""
    fails: str = ""
    passes_as: str = ""
    fails_as: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """A fact behind a comparison: where it is typed, what it is taken as, and the band in which it may lie.

    In its own `unit`. `how` is "assumed" or "estimated"; empty for one that is given, whose band is the standard's
    tolerance. `typed` is the band of a value typed for it, as multiples. Without a `path` it is a model's own
    tolerance, which no single fact settles; where it is `hard`, no value outside its band can be; `whole` is a count.
    `possible` are the ends between which a value for it can be typed, where it is so bounded.
    `sense` is 1 where more of it leaves more room, −1 where less, 0 where that is not said: then both ends are tried.
    """

    path: str = ""
    label: str = ""
    unit: str = ""
    value: float
    low: float
    high: float
    how: str = ""
    typed: tuple[float, float] = (1.0, 1.0)
    given: bool = False
    hard: bool = False
    whole: bool = False
    possible: tuple[float, float] | None = None
    sense: int = 0

    def at(self, value: float) -> tuple[float, float]:
        """The band that a value typed for it would have."""
        return value * self.typed[0], value * self.typed[1]

    def sensed(self, sense: int) -> Taken:
        """The same, said to leave more room (1) or less (−1) the more there is of it."""
        if self.sense == sense:
            return self
        return Taken(
            path=self.path,
            label=self.label,
            unit=self.unit,
            value=self.value,
            low=self.low,
            high=self.high,
            how=self.how,
            typed=self.typed,
            given=self.given,
            hard=self.hard,
            whole=self.whole,
            possible=self.possible,
            sense=sense,
        )

    def text(self, value: float) -> str:
        return f"{write(value, 3)} {self.unit}".rstrip()

    @property
    def wide(self) -> bool:
        return self.high > self.low


NOT_GIVEN: Final = "not given"
"""How a fact was taken that nobody gave and that has no usual value."""


def more(*taken: Taken) -> tuple[Taken, ...]:
    """Facts of which more leaves more room."""
    return tuple(one.sensed(1) for one in taken)


def less(*taken: Taken) -> tuple[Taken, ...]:
    """Facts of which more leaves less room."""
    return tuple(one.sensed(-1) for one in taken)


def point(value: float, *, path: str = "", label: str = "", unit: str = "") -> Taken:
    """A fact that is known: no band."""
    return Taken(path=path, label=label, unit=unit, value=value, low=value, high=value, given=True)


Room = Callable[..., float]
_BEYOND: Final = 1e4
_MOST: Final = 1e300
_STEPS: Final = 24
_NEAR: Final = 3e-6
_STRIDE: Final = 1.26
_REACH: Final = 24
_Turn = tuple[float, float]
_ONE_SIDED: Final = 1.0
_IN_ORDER: Final = 0.2  # of two facts that settle it alike, the one named first
_FAR_OUT: Final = 10.0  # far outside the band of an estimate no value of it is to be had
SLACK: Final = 1e-9


def ends_of(taken: Sequence[Taken]) -> list[tuple[float, ...]]:
    return [(one.low, one.high) if one.wide else (one.value,) for one in taken]


def both_rooms(room: Room, taken: Sequence[Taken]) -> tuple[float, float]:
    """Least and most room over the corners of the facts' bands.

    Where each fact is known to leave more or less room the more there is of it, that is one corner each; where none has
    a band, it is the same one.
    """
    if not any(one.wide for one in taken):
        here = _finite(room(*[one.value for one in taken]))
        return here, here
    if all(one.sense or not one.wide for one in taken):
        least = [(one.low if one.sense > 0 else one.high) if one.wide else one.value for one in taken]
        most = [(one.high if one.sense > 0 else one.low) if one.wide else one.value for one in taken]
        return _finite(room(*least)), _finite(room(*most))
    found = [_finite(room(*corner)) for corner in product(*ends_of(taken))]
    return min(found), max(found)


def worst_room(room: Room, ends: Sequence[tuple[float, ...]], taken: Sequence[Taken]) -> float:
    """Least room over the corners."""
    sides = [
        (end[0] if one.sense > 0 else end[-1],) if one.sense else end for end, one in zip(ends, taken, strict=True)
    ]
    return min(_finite(room(*corner)) for corner in product(*sides))


def best_room(room: Room, ends: Sequence[tuple[float, ...]], taken: Sequence[Taken]) -> float:
    """Most room over the corners."""
    sides = [
        (end[-1] if one.sense > 0 else end[0],) if one.sense else end for end, one in zip(ends, taken, strict=True)
    ]
    return max(_finite(room(*corner)) for corner in product(*sides))


def _finite(value: float) -> float:
    if -_MOST <= value <= _MOST:
        return value
    return -_BEYOND if math.isnan(value) else math.copysign(_MOST, value)


def _turning(room: Room, taken: Sequence[Taken], index: int, *, passing: bool) -> _Turn | None:
    """The same where such a value can be typed for the fact; None where it cannot be."""
    found, possible = _turned(room, taken, index, passing=passing), taken[index].possible
    if found is None or possible is None:
        return found
    return found if possible[0] <= found[0] <= possible[1] else None


def _turned(room: Room, taken: Sequence[Taken], index: int, *, passing: bool) -> _Turn | None:
    """The value of one fact from which the gate surely passes (or fails), and the way it lies (+1 above, −1 below).

    The other facts stand at the end of their bands that is worst for it. None where no value does it.
    """
    one, others = taken[index], ends_of(taken)

    def surely(value: float) -> float:
        """Nought or more where it surely passes, or fails."""
        ends = [*others]
        low, high = one.at(value)
        ends[index] = (low, high) if high > low else (low,)
        return worst_room(room, ends, taken) + SLACK if passing else -best_room(room, ends, taken) - SLACK

    start = one.value if one.value > 0 else max(one.high, 1e-6)
    here = surely(start)
    holds = here >= 0
    for way in (1, -1):
        before, was = start, here
        if one.sense:  # it turns once at most: no need to walk there
            far = start * _STRIDE ** (way * _REACH)
            if ((there := surely(far)) >= 0) != holds:
                return _between(surely, (start, here), (far, there)), (-way if holds else way)
            continue
        for _ in range(_REACH):
            after = before * _STRIDE**way
            now = surely(after)
            if (now >= 0) != holds:
                return _between(surely, (before, was), (after, now)), (-way if holds else way)
            before, was = after, now
    return (start, 1) if holds else None


def _between(room: Callable[[float], float], one: tuple[float, float], other: tuple[float, float]) -> float:
    """Where the room is gone between two values of different sign: the nearest value found that still holds.

    False position on the logarithm, halved where it creeps (the Illinois rule; Dowell and Jarratt 1971).
    """
    yes, no = (one, other) if one[1] >= 0 else (other, one)
    (inside, left), (outside, over) = (math.log(yes[0]), yes[1]), (math.log(no[0]), no[1])
    last = 0
    for _ in range(_STEPS):
        if abs(inside - outside) < _NEAR:
            break
        middle = (inside + outside) / 2
        if math.isfinite(left) and math.isfinite(over) and left > over:
            share = min(max(left / (left - over), 0.02), 0.98)
            middle = inside + share * (outside - inside)
        now = room(math.exp(middle))
        if now >= 0:
            inside, left, over = middle, now, over / 2 if last > 0 else over
        else:
            outside, over, left = middle, now, left / 2 if last < 0 else left
        last = 1 if now >= 0 else -1
    return math.exp(inside)


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
    """Of the facts that can be typed, one that alone settles the gate: soft ones first, the nearest turn first."""
    passing = [
        (index, _turning(room, taken, index, passing=True) if one.path else None) for index, one in enumerate(taken)
    ]
    # Where it surely fails is looked for last, of those alone that may still be the cheapest: each takes ten rooms.
    least = sorted((_cost(taken[index], index, good, good), index, good) for index, good in passing if good)
    best: tuple[float, Turns] | None = None
    for cost, index, good in least:
        if best is not None and best[0] <= cost:
            break
        bad = _turning(room, taken, index, passing=False)
        whole = cost if bad else cost + _ONE_SIDED
        if whole < math.inf and (best is None or whole < best[0]):
            best = whole, _said(taken[index], good, bad)
    return best[1] if best is not None else _only_failing(room, taken, [index for index, good in passing if not good])


def _only_failing(room: Room, taken: Sequence[Taken], places: Sequence[int]) -> Turns | None:
    """The same of facts that make it fail and never pass."""
    found = []
    for index in places:
        bad = _turning(room, taken, index, passing=False) if taken[index].path else None
        if bad is not None and (cost := _cost(taken[index], index, None, bad)) < math.inf:
            found.append((cost, _said(taken[index], None, bad)))
    return min(found, key=lambda pair: pair[0])[1] if found else None


def _cost(one: Taken, index: int, good: _Turn | None, nearest: _Turn) -> float:
    """How hard it is to settle by this fact, where both sides of it are known; infinite past where it can be."""
    far = abs(math.log(max(nearest[0], 1e-12) / max(one.value, 1e-12)))
    inside = one.low <= nearest[0] <= one.high
    if one.hard and not inside:
        return math.inf
    outside = 0.0
    if not inside:
        beyond = one.high if nearest[0] > one.high else one.low
        outside = 2.0 + _FAR_OUT * (0.0 if one.given else abs(math.log(max(nearest[0], 1e-12) / max(beyond, 1e-12))))
    return far + (0.0 if good else 10.0) + (5.0 if one.given else 0.0) + outside + _IN_ORDER * index


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
    if not one.how or low == high:
        return f"{taken}{unit} {one.how or 'given'}"
    band = f"{low} to {high}"
    return f"{band}{unit} {one.how}" if taken in (low, high) else f"{taken}{unit} {one.how}, {band}"


def because(turns: Turns | None, taken: Sequence[Taken]) -> str:
    """What decides, in words."""
    if turns is None:
        soft = [one.label for one in taken if one.wide and one.label]
        return f" It rests on {' and '.join(soft)}." if soft else ""
    one = next((fact for fact in taken if fact.path == turns.path), None)
    was = f"; {_as_taken(one)}" if one is not None else ""
    if turns.passes:
        return f" Passes for any {turns.label} {turns.passes}{was}."
    return f" Fails for any {turns.label} {turns.fails}{was}."
