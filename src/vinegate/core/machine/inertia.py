"""Rotor inertia, where nothing says it."""

from __future__ import annotations

import math


def rotor_inertia_estimate(*, power_kw: float, poles: int) -> float:
    """An estimate of a cage machine's rotor inertia, kg·m²: `0.00104·(P·p)^1.35`, p pole pairs.

    A power law through usual catalogue figures of 5 to 100 kW; within about a factor of 1.5 either way.
    """
    return 0.00104 * math.pow(power_kw * poles / 2, 1.35)
