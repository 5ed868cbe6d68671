"""Overload trip classes: the standard's limits, and the heat of a relay as a first-order model between them."""

from __future__ import annotations

import math
from functools import cache
from itertools import accumulate
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass
from vinegate.core.tables import load

CLASS_TIMES: Final = 7.2
"""Times the setting at which the classes are defined."""
NEVER_TIMES: Final = 1.05
"""From cold, no relay trips within two hours at this multiple (IEC 60947-4-1:2018 table 2)."""
SURE_TIMES: Final = 1.20
"""From there, every relay trips within two hours at this multiple."""


@dataclass(frozen=True, slots=True)
class TripClass:
    """A class with its least and most tripping time at 7.2 times the setting, from cold, in seconds."""

    name: str
    least_s: float
    most_s: float
    most_at_1_5_s: float

    def earliest_s(self, times: float) -> float:
        """Least tripping time from cold at a multiple of the setting; infinite where it must not trip."""
        return _curve(times, _constant(self.least_s, NEVER_TIMES), NEVER_TIMES)

    def latest_s(self, times: float) -> float:
        """Most tripping time from cold at a multiple of the setting; infinite up to where it must.

        The slowest relay that meets both the point at 7.2 times and that at 1.5 times after running at the setting.
        """
        return _curve(times, self._slowest_s, SURE_TIMES)

    @property
    def _slowest_s(self) -> float:
        """Its time constant."""
        after_running = math.log((1.5**2 - 1) / (1.5**2 - SURE_TIMES**2))
        return min(_constant(self.most_s, SURE_TIMES), self.most_at_1_5_s / after_running)

    def left_pu(self, seconds: float) -> float:
        """Share of its heat that the quickest relay still has after so many seconds without current."""
        return math.exp(-seconds / _constant(self.least_s, NEVER_TIMES))

    def heat_along(self, time_s: Array, square_s: Array) -> Array:
        """Heat of the quickest relay of the class, of that at which it trips, from cold.

        `square_s` is the running integral of (current over setting)² at these times. `τ·dθ/dt = i² − θ`, stepped
        exactly with each step's mean square; the trip is at `θ = 1.05²`.
        """
        return self._along(_constant(self.least_s, NEVER_TIMES), time_s, square_s) / NEVER_TIMES**2

    def heat_from(self, square: float, time_s: Array, square_s: Array, *, slow: bool = False) -> Array:
        """The same of the quickest or slowest relay that has long carried a current of this (current over setting)²."""
        trips_at = SURE_TIMES if slow else NEVER_TIMES
        constant = self._slowest_s if slow else _constant(self.least_s, NEVER_TIMES)
        left = np.exp(-(time_s - time_s[0]) / constant)
        return np.asarray((square * left + self._along(constant, time_s, square_s)) / trips_at**2)

    def _along(self, constant: float, time_s: Array, square_s: Array) -> Array:
        """`θ` from cold, in (current over setting)²."""
        steps, gained = time_s[1:] - time_s[:-1], square_s[1:] - square_s[:-1]
        share = -np.expm1(-steps / constant)
        driven = gained / np.where(steps > 0, steps, 1.0) * share
        heat = np.zeros(time_s.size)
        since = (time_s[1:] - time_s[0]) / constant
        if since.size and since[-1] < _NOT_BEYOND:  # Σ driven·e^(t/τ), brought back by e^(−t/τ)
            grown = np.exp(since)
            (driven * grown).cumsum(out=heat[1:])
            heat[1:] /= grown
        else:
            along = zip((1 - share).tolist(), driven.tolist(), strict=True)
            heat[:] = list(accumulate(along, lambda hot, step: hot * step[0] + step[1], initial=0.0))
        return heat


_NOT_BEYOND: Final = 300.0
"""Time constants up to which `e^(t/τ)` stays a number with all its digits."""


@cache
def classes() -> tuple[TripClass, ...]:
    """The tabulated classes, quickest first."""
    return tuple(
        TripClass(row["class"], float(row["least_s"]), float(row["most_s"]), float(row["most_at_1_5_s"]))
        for row in load("trip_class").rows
    )


def trip_class(name: str) -> TripClass:
    """The class of this name. Raises KeyError."""
    for one in classes():
        if one.name == name:
            return one
    raise KeyError(name)


def _constant(seconds: float, trips_at: float) -> float:
    """Time constant of a relay that trips after so many seconds at 7.2 times: `τ = t/ln(7.2²/(7.2² − k²))`."""
    return seconds / math.log(CLASS_TIMES**2 / (CLASS_TIMES**2 - trips_at**2))


def _curve(times: float, constant: float, trips_at: float) -> float:
    """`t = τ·ln(i²/(i² − k²))` from cold."""
    square, least = times**2, trips_at**2
    return constant * math.log(square / (square - least)) if square > least else math.inf
