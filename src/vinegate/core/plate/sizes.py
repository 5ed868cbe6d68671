"""Powers that motors are made for."""

from __future__ import annotations

from typing import Final

from vinegate.core.quantity import WATT_PER_HP

HORSEPOWERS: Final = (
    1, 1.5, 2, 3, 5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60, 75, 100, 125, 150, 200, 250, 300, 350, 400, 450, 500,
)  # fmt: skip
KILOWATTS: Final = (
    0.75, 1.1, 1.5, 2.2, 3, 4, 5.5, 7.5, 11, 15, 18.5, 22, 30, 37, 45, 55, 75, 90, 110, 132, 160, 200, 250, 315, 355,
    400,
)  # fmt: skip
"""Preferred ratings, IEC 60072-1; the horsepowers of NFPA 70 table 430.250."""

_SAME_PU: Final = 0.02


def next_size_w(power_w: float, *, horsepower: bool) -> float | None:
    """The first size that is made above a power, W; None above the largest and below the least.

    >>> next_size_w(2200, horsepower=False), next_size_w(400e3, horsepower=False)
    (3000, None)
    """
    sizes = [one * WATT_PER_HP for one in HORSEPOWERS] if horsepower else [one * 1000 for one in KILOWATTS]
    if power_w < (1 - _SAME_PU) * sizes[0]:
        return None
    return next((one for one in sizes if one > (1 + _SAME_PU) * power_w), None)
