"""The resistor across an armature, and its stages."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.stop.asked import Armature, Asked

_FIRST_TIMES: Final = 2.0
_DROPS_TO: Final = 0.5  # a stage is cut out when the current has fallen to half


def first_a(asked: Asked) -> float:
    """The first current through the resistor, A."""
    return (asked.stop.armature_first or _FIRST_TIMES) * asked.rated_a


def total_ohms(asked: Asked, armature: Armature) -> float:
    """Ohms of the first stage, armature and resistor: `k·ω/I_1`."""
    return max(armature.k_vs * float(asked.heavy.omega[0]) / first_a(asked), armature.resistance_ohm)


def time_constant_s(asked: Asked, armature: Armature) -> float:
    """`τ = J·R/k²`: speed falls as `exp(−t/τ)` while nothing else slows it."""
    return asked.heavy.inertia_kgm2 * total_ohms(asked, armature) / armature.k_vs**2


def stage_speeds(asked: Asked) -> tuple[float, ...]:
    """Shares of running speed at which a stage of the resistor is cut out."""
    return speeds_of_stages(asked.stop.armature_stages)


def speeds_of_stages(stages: int | None) -> tuple[float, ...]:
    """The same of so many; none of a resistor in one piece."""
    return tuple(_DROPS_TO**stage for stage in range(1, stages or 1))


def ohms_at(asked: Asked, armature: Armature, omega: Array, top: float) -> Array:
    """Ohms of armature and resistor at each speed, rad/s; `top` is where it begins."""
    cut = sum((omega < share * top).astype(float) for share in stage_speeds(asked))
    return np.asarray(
        np.maximum(total_ohms(asked, armature) * _DROPS_TO ** (cut + 0.0 * omega), armature.resistance_ohm)
    )
