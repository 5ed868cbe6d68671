"""A direct-current machine's dynamic braking: the armature across a resistor, the field kept on."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.numbers import write
from vinegate.core.stop.armature import ohms_at, stage_speeds, total_ohms
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import Slowing, Turning, slow, with_steps
from vinegate.core.stop.row import Acting, Doing, StopRow, row_of, unknown_row
from vinegate.core.stop.way import Sizes, Way

_FIELD: Final = {
    "magnets": "Its magnets keep the field: it brakes even when power fails, if the contactor's rest contact joins it.",
    "fed": "The field stays on until it stands; without it, and when power fails, it does nothing.",
    "series": "A series field dies with the current: it must be fed by itself, or reversed against the armature.",
}


def _make(asked: Asked) -> StopRow:
    """Current, and with it torque, falls with speed; each stage brings it back to the first."""
    found = asked.armature
    if found is None:
        return unknown_row(asked, WAY, "The armature's volts, amperes and power are not known.", "")

    def course(turning: Turning) -> Slowing:
        top = float(turning.omega[0])
        finer = turning.at(with_steps(turning.omega, tuple(share * top for share in stage_speeds(asked))))
        ohms = ohms_at(asked, found, finer.omega, top)
        amps = found.k_vs * finer.omega / ohms
        outside = amps**2 * np.maximum(ohms - found.resistance_ohm, 0.0)
        return slow(finer, found.k_vs * amps, line_a=amps, rotor_w=amps**2 * found.resistance_ohm, outside_w=outside)

    stages = asked.stop.armature_stages or 1
    ohms = total_ohms(asked, found) - found.resistance_ohm
    return row_of(
        asked,
        WAY,
        Doing(
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


WAY = Way(
    key="armature",
    name="armature on a resistor",
    phases=(0,),
    make=_make,
    settings=("stop.armature_first", "stop.armature_stages"),
    lacks="the armature's volts, amperes and power",
    slows_first=True,
    sizes=(Sizes(name="Armature", figures=("armature_resistor", "first", "constant")),),
)
