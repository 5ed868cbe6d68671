"""Rotor inertia and the load inertia a machine must be able to start."""

from __future__ import annotations

import math

LBFT2_TO_KGM2 = 0.042140110093804


def rotor_inertia_estimate(*, power_kw: float, poles: int) -> float:
    """An estimate of a cage machine's rotor inertia, kg·m²: `0.00104·(P·p)^1.35`, p pole pairs.

    A power law through usual catalogue figures of 5 to 100 kW; within about a factor of 1.5 either way.
    """
    return 0.00104 * math.pow(power_kw * poles / 2, 1.35)


def nema_load_inertia(*, power_hp: float, synchronous_rpm: float) -> float:
    """Largest load inertia a NEMA design A or B machine starts twice cold or once hot, kg·m².

    `A·hp^0.95/(n/1000)^2.4 − 0.0685·hp^1.5/(n/1000)^1.8` lb·ft², A = 27 at 3600 rpm, else 24 (NEMA MG 1 12.54).
    """
    n = synchronous_rpm / 1000
    a = 27 if synchronous_rpm > 1800 else 24
    pounds = a * math.pow(power_hp, 0.95) / math.pow(n, 2.4) - 0.0685 * math.pow(power_hp, 1.5) / math.pow(n, 1.8)
    return pounds * LBFT2_TO_KGM2


def iec_load_inertia(*, power_kw: float, poles: int) -> float:
    """Largest load inertia for the starts of IEC 60034-12 design N, kg·m²: `0.04·P^0.9·p^2.5`, p pole pairs."""
    return 0.04 * math.pow(power_kw, 0.9) * math.pow(poles / 2, 2.5)
