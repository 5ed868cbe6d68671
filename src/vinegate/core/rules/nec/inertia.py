"""The load inertia a machine must be able to start, by NEMA MG 1."""

from __future__ import annotations

import math
from typing import Final

_LBFT2_TO_KGM2: Final = 0.042140110093804


def nema_load_inertia(*, power_hp: float, synchronous_rpm: float) -> float:
    """Largest load inertia a NEMA design A or B machine starts twice cold or once hot, kg·m².

    `A·hp^0.95/(n/1000)^2.4 − 0.0685·hp^1.5/(n/1000)^1.8` lb·ft², A = 27 at 3600 rpm, else 24 (NEMA MG 1 12.54).
    """
    n = synchronous_rpm / 1000
    a = 27 if synchronous_rpm > 1800 else 24
    pounds = a * math.pow(power_hp, 0.95) / math.pow(n, 2.4) - 0.0685 * math.pow(power_hp, 1.5) / math.pow(n, 1.8)
    return pounds * _LBFT2_TO_KGM2
