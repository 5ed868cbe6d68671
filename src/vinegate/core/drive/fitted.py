"""What a drive's amperes rest on while nobody gave the machine's breakdown torque: its circuit is fitted through it."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.drive.need import Need
from vinegate.core.turning import Taken

_FLUX: Final = 1.5
"""Power of the ratio by which amperes go, for what magnetises and for flux that is not whole: against fits, ours."""


def amperes(times: float, breakdown: float) -> float:
    """Rotor amperes at so many times rated torque, of those at rated torque; both torques in the latter.

    By Kloss, `T = 2·T_b/(s/s_b + s_b/s)`, and `I² ~ T·s` (Chapman, Electric Machinery Fundamentals, 5th ed., 6.5).

    >>> round(amperes(1.0, 2.0), 3), round(amperes(1.25, 2.0), 3), round(amperes(1.25, 1.6), 3)
    (1.0, 1.28, 1.309)
    """
    return math.sqrt(times * _slip(times / breakdown) / _slip(1 / breakdown))


def _slip(share: float) -> float:
    """Slip over that of breakdown, at that share of breakdown torque; past it, at it."""
    share = min(share, 1.0)
    return (1 - math.sqrt(1 - share**2)) / share


def circuit_of(need: Need, most_nm: float) -> tuple[Taken, ...]:
    """The amperes at that torque as the machine's circuit has them, where its breakdown torque is not given."""
    if not need.breakdown or most_nm <= need.rated_nm:
        return ()
    breaks, at = need.breakdown[0], most_nm / need.rated_nm
    ends = [max(end / 100, 1.0) for end in (breaks.value, breaks.low, breaks.high)]
    here, weak, strong = (amperes(at, end) ** _FLUX for end in ends)
    label = "the machine's circuit, its breakdown torque not given"
    return (Taken(label=label, value=1.0, low=strong / here, high=weak / here, how="estimated", sense=-1),)
