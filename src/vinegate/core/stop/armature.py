"""A direct-current machine's dynamic braking: the armature across a resistor, the field kept on."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.quantity import write
from vinegate.core.stop.asked import Armature, Asked
from vinegate.core.stop.courses import Slowing, Turning, slow, with_steps
from vinegate.core.stop.row import Acting, StopRow, Way, row_of, unknown_row

_FIRST_TIMES: Final = 2.0
_DROPS_TO: Final = 0.5  # a stage is cut out when the current has fallen to half
_FIELD: Final = {
    "magnets": "Its magnets keep the field: it brakes even when power fails, if the contactor's rest contact joins it.",
    "fed": "The field stays on until it stands; without it, and when power fails, it does nothing.",
    "series": "A series field dies with the current: it must be fed by itself, or reversed against the armature.",
}


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
    return tuple(_DROPS_TO**stage for stage in range(1, asked.stop.armature_stages or 1))


def _ohms_at(asked: Asked, armature: Armature, omega: Array, top: float) -> Array:
    cut = sum((omega < share * top).astype(float) for share in stage_speeds(asked))
    return np.asarray(
        np.maximum(total_ohms(asked, armature) * _DROPS_TO ** (cut + 0.0 * omega), armature.resistance_ohm)
    )


def armature(asked: Asked) -> StopRow:
    """Current, and with it torque, falls with speed; each stage brings it back to the first."""
    found = asked.armature
    if found is None:
        return unknown_row(asked, "armature", "The armature's volts, amperes and power are not known.", "")

    def course(turning: Turning) -> Slowing:
        top = float(turning.omega[0])
        finer = turning.at(with_steps(turning.omega, tuple(share * top for share in stage_speeds(asked))))
        ohms = _ohms_at(asked, found, finer.omega, top)
        amps = found.k_vs * finer.omega / ohms
        outside = amps**2 * np.maximum(ohms - found.resistance_ohm, 0.0)
        return slow(finer, found.k_vs * amps, line_a=amps, rotor_w=amps**2 * found.resistance_ohm, outside_w=outside)

    stages = asked.stop.armature_stages or 1
    ohms = total_ohms(asked, found) - found.resistance_ohm
    return row_of(
        asked,
        Way(
            method="armature",
            setting=f"{write(ohms, 3)} Ω" + (f", {stages} stages" if stages > 1 else ""),
            course=course,
            caution=f"{_FIELD[found.field]} It does not hold at rest.",
            steps=(
                "The armature's line contactor opens; its rest contact puts the resistor across the armature.",
                "The field stays on until it stands.",
                *(
                    f"At {write(100 * share, 3)} % of speed a stage of the resistor is cut out."
                    for share in stage_speeds(asked)
                ),
            ),
            acting=lambda course: (Acting(name="resistor", from_s=0.0, to_s=float(course.time_s[-1])),),
        ),
    )
