"""The load inertia a machine must be able to start, by IEC 60034-12."""

from __future__ import annotations

import math


def iec_load_inertia(*, power_kw: float, poles: int) -> float:
    """Largest load inertia for the starts of IEC 60034-12 design N, kg·m²: `0.04·P^0.9·p^2.5`, p pole pairs."""
    return 0.04 * math.pow(power_kw, 0.9) * math.pow(poles / 2, 2.5)
