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
    no value does it. `beside` are paths and texts of what else is then typed, where it passes by several only.
    """

    path: str
    label: str
    passes: str = ""
    fails: str = ""
    passes_as: str = ""
    fails_as: str = ""
    beside: tuple[tuple[str, str], ...] = ()


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
_ACROSS: Final = 0.9 * _NEAR
_STEEP: Final = 0.02
_TINY: Final = 1e-12
_STRIDE: Final = 1.26
_REACH: Final = 24
Turn = tuple[float, float]
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


def turning(
    room: Room, taken: Sequence[Taken], index: int, *, passing: bool, inside: bool = False
) -> Turn | None:  # fmt: skip
    """The same where such a value can be typed for the fact; None where it cannot be. `inside` looks no further than a
    stride past its band.
    """
    found, possible = _turned(room, taken, index, passing=passing, inside=inside), taken[index].possible
    if found is None or possible is None:
        return found
    return found if possible[0] <= found[0] <= possible[1] else None


def may_pass(room: Room, taken: Sequence[Taken], index: int) -> bool:
    """Whether a fact of which more leaves more room, or less, surely passes at the better end of its band."""
    one, ends = taken[index], ends_of(taken)
    if not one.sense:
        return True
    low, high = one.at(one.high if one.sense > 0 else one.low)
    ends[index] = (low, high) if high > low else (low,)
    return worst_room(room, ends, taken) + SLACK >= 0


def _turned(room: Room, taken: Sequence[Taken], index: int, *, passing: bool, inside: bool) -> Turn | None:
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
    if one.sense:
        return _turned_once(surely, one, start, one.sense if passing else -one.sense)
    here = surely(start)
    holds = here >= 0
    for way in (1, -1):
        before, was = start, here
        for _ in range(_REACH):
            if inside and not one.low <= before <= one.high:
                break
            after = before * _STRIDE**way
            now = surely(after)
            if (now >= 0) != holds:
                return _between(surely, (before, was), (after, now)), (-way if holds else way)
            before, was = after, now
    return (start, 1) if holds else None


def _turned_once(surely: Callable[[float], float], one: Taken, start: float, way: int) -> Turn | None:
    """The same of what turns once at most, holding on the side `way`: within its band, else beyond the end of it."""
    low, high = (one.low, one.high) if 0 < one.low < one.high else (start, start)
    good, bad = (high, low) if way > 0 else (low, high)
    best = surely(good)
    least = surely(bad) if bad != good else best
    if best >= 0 > least:
        return _between(surely, (good, best), (bad, least)), way
    if best < 0:
        bad, least, good = good, best, good * _STRIDE ** (way * _REACH)
        best = surely(good)
    else:
        good, best, bad = bad, least, bad * _STRIDE ** (-way * _REACH)
        least = surely(bad)
    if best >= 0 > least:
        return _between(surely, (good, best), (bad, least)), way
    return (start, 1) if least >= 0 else None


def _between(room: Callable[[float], float], one: tuple[float, float], other: tuple[float, float]) -> float:
    """Where the room is gone between two values of different sign: the nearest value found that still holds.

    On the logarithm, by the three last values where they lie smoothly enough, else halved (Chandrupatla 1997; Scherer,
    Computational Physics, 3rd ed., 6.1.7). Close by, the next value is taken across, so that both ends come near.
    """
    (a, over_a), (b, over_b) = ((math.log(value), left) for value, left in (one, other))
    part = over_a / (over_a - over_b)
    part = part if _STEEP < part < 1 - _STEEP else 0.5
    for _ in range(_STEPS):
        middle = a + part * (b - a)
        now = room(math.exp(middle))
        if (now >= 0) == (over_a >= 0):
            (c, over_c), a, over_a = (a, over_a), middle, now
        else:
            (c, over_c), (b, over_b), a, over_a = (b, over_b), (a, over_a), middle, now
        least = _ACROSS / max(abs(b - a), _TINY)
        if least > _ACROSS / _NEAR:
            break
        place, height = (a - b) / (c - b), (over_a - over_b) / (over_c - over_b)
        part = 0.5
        if height * height < place and (1 - height) ** 2 < 1 - place:
            across = over_a / (over_b - over_a) * over_c / (over_b - over_c)
            part = across + (c - a) / (b - a) * over_a / (over_c - over_a) * over_b / (over_c - over_b)
        part = min(max(part, min(least, 0.5)), max(1 - least, 0.5))
    return math.exp(a if over_a >= 0 else b)
