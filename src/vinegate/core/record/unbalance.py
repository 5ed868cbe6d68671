"""How unequal three line volts or amperes are, by both definitions, and what that costs the motor."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

DEVIATION_SOURCE: Final = "NEMA MG 1:2021 12.45, 14.36"
NEGATIVE_SOURCE: Final = "IEC 60034-26:2006; IEC 61000-4-30:2015 5.7"
DERATING_SOURCE: Final = "NEMA MG 1:2021 figure 14-1"
_DERATING: Final = ((0.0, 1.0), (1.0, 1.0), (2.0, 0.95), (3.0, 0.88), (4.0, 0.82), (5.0, 0.75))
"""Read from the figure; to be held against the print."""


def deviation_pct(first: float, second: float, third: float) -> float:
    """Largest distance from the mean, of the mean, in per cent; 0 where all are 0.

    >>> round(deviation_pct(460, 467, 450), 3)
    1.961
    """
    mean = (first + second + third) / 3
    return 100 * max(abs(one - mean) for one in (first, second, third)) / mean if mean else 0.0


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
