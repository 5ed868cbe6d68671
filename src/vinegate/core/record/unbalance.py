"""How unequal three line volts or amperes are, by both definitions, and what that costs the motor."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.grade import Answer, breaks, changes, meets
from vinegate.core.numbers import write

DEVIATION_SOURCE: Final = "NEMA MG 1:2021 12.45, 14.36"
NEGATIVE_SOURCE: Final = "IEC 60034-26:2006; IEC 61000-4-30:2015 5.7"
DERATING_SOURCE: Final = "NEMA MG 1:2021 figure 14-1"
_DEAD_PU: Final = 0.05
"""Of the largest: less is an instrument's own nought."""
_DERATING: Final = ((0.0, 1.0), (1.0, 1.0), (2.0, 0.95), (3.0, 0.88), (4.0, 0.82), (5.0, 0.75))
"""Read from the figure; to be held against the print."""


def deviation_pct(first: float, second: float, third: float) -> float:
    """Largest distance from the mean, of the mean, in per cent; 0 where all are 0.

    >>> round(deviation_pct(460, 467, 450), 3)
    1.961
    """
    mean = (first + second + third) / 3
    return 100 * max(abs(one - mean) for one in (first, second, third)) / mean if mean else 0.0


def one_is_dead(first: float, second: float, third: float) -> bool:
    """Whether one of three amperes is next to nothing: a fuse, contact or lead is open."""
    amps = (first, second, third)
    return min(amps) < _DEAD_PU * max(amps)


def negative_pct(first: float, second: float, third: float) -> float | None:
    """Negative over positive sequence of three line-to-line volts, in per cent: `√((1 − √(3 − 6β))/(1 + √(3 − 6β)))`.

    None where the three cannot close a triangle: they are no line-to-line volts of one moment.
    """
    squares = first**2 + second**2 + third**2
    longest = max(first, second, third)
    if not squares or longest > (first + second + third - longest) * (1 + 1e-9):
        return None
    beta = (first**4 + second**4 + third**4) / squares**2
    root = math.sqrt(max(3 - 6 * beta, 0.0))
    return 100 * math.sqrt(max(1 - root, 0.0) / (1 + root))


def derating(unbalance_pct: float) -> float | None:
    """Share of rated power that may still be asked; None above 5 %, where it is not to run.

    >>> derating(0.5), derating(1.5), derating(6)
    (1.0, 0.975, None)
    """
    if unbalance_pct > _DERATING[-1][0]:
        return None
    return float(np.interp(unbalance_pct, [u for u, _ in _DERATING], [share for _, share in _DERATING]))


def borne(apart_pct: float, negative_pct: float, *, by_deviation: bool) -> Answer:
    """What a machine bears of unequal volts: by their deviation (MG 1), else by their negative sequence (IEC)."""
    both = f"{write(apart_pct, 2)} % by deviation, {write(negative_pct, 2)} % by negative sequence"
    rise = f"about {2 * apart_pct**2:.0f} % more rise"
    if by_deviation:
        share = derating(apart_pct)
        if share is None:
            return breaks(f"{both}: not to run above 5 %.", DERATING_SOURCE)
        if share >= 1:
            return meets(f"{both}: full power.", DERATING_SOURCE)
        return changes(f"{both}: it may give {100 * share:.0f} % of its power; {rise}.", DERATING_SOURCE)
    text = f"{both}; 1 % negative sequence may last; {rise}."
    if negative_pct <= _LASTING_PCT:
        return meets(text, _LASTING_SOURCE)
    return changes(text, _LASTING_SOURCE) if negative_pct <= _MINUTES_PCT else breaks(text, _LASTING_SOURCE)


_LASTING_PCT: Final = 1.0
_MINUTES_PCT: Final = 1.5
_LASTING_SOURCE: Final = "IEC 60034-1:2022 7.2.1.2"
EVEN_OUT: Final = "Find the phase that is loaded or loose."
