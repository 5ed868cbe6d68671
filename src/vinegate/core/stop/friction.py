"""Coasting, and the spring-set brake: drum or disc, on the motor's shaft or behind the gear."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.quantity import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import Slowing, Turning, freely, slow
from vinegate.core.stop.row import Acting, StopRow, Way, after_delay, row_of

BRAKE_TIMES: Final = 1.5
HOIST_TIMES: Final = 2.0
HOLD_FACTOR: Final = 1.5


def coast(asked: Asked) -> StopRow:
    """Nothing acts but the load."""
    return row_of(
        asked,
        Way(
            method="coast",
            setting="",
            course=freely,
            caution="It turns on after the contactor has opened: guard it until it is at rest.",
            steps=("The contactor opens. Nothing else acts.",),
        ),
    )


def brake_torque(asked: Asked) -> float:
    """The brake's torque at the motor's shaft, N·m: as marked, with the gear between them left without loss."""
    entered = asked.stop.brake_torque_nm
    if entered is None:
        return (HOIST_TIMES if asked.hoist else BRAKE_TIMES) * asked.heavy.rated_nm
    return entered / (asked.gear_ratio if asked.stop.brake_side == "driven" else 1.0)


def braked(turning: Turning, torque_nm: float) -> Slowing:
    """A torque that does not change with speed."""
    size = turning.omega.size
    nothing = np.zeros(size)
    return slow(turning, np.full(size, torque_nm), line_a=nothing, rotor_w=nothing, outside_w=torque_nm * turning.omega)


def brake_course(asked: Asked, turning: Turning) -> Slowing:
    """The brake alone from running speed: it closes late, and its lining is at its worst."""
    torque = brake_torque(asked) * (asked.stop.lining_pu or 1.0)
    return after_delay(turning, asked.stop.brake_delay_s or 0.0, lambda rest: braked(rest, torque))


def brake(asked: Asked) -> StopRow:
    """Constant torque from running speed to rest, the lining at its worst; it holds without power."""
    marked, delay = brake_torque(asked), asked.stop.brake_delay_s or 0.0
    kind = {"drum": ", drum", "disc": ", disc"}.get(asked.stop.brake_kind or "", "")

    closes = f"Its springs close it {write(delay, 3)} s later" if delay else "Its springs close it"
    return row_of(
        asked,
        Way(
            method="brake",
            setting=f"{write(marked, 3)} N·m{kind}",
            course=lambda turning: brake_course(asked, turning),
            caution=_CAUTIONS.get(asked.stop.brake_kind or "", "A worn or oily lining brakes less.")
            + " Its release coil is live whenever the motor is; spring-set, it closes when power fails."
            + ("" if asked.stop.brake_side == "driven" else _BEFORE_GEAR),
            steps=(
                "The motor's contactor opens, and with it the release coil's circuit.",
                f"{closes}, and hold it while power is off.",
                "To release it by hand, secure the load first.",
            ),
            acting=lambda found: (Acting(name="brake", from_s=delay, to_s=found.time_s[-1]),),
        ),
    )


_CAUTIONS: Final = {
    "drum": "Shoes wear unevenly and fade when hot; a worn or oily lining brakes less.",
    "disc": "Pads have no servo effect and fade less; worn or oily, they brake less.",
}
_BEFORE_GEAR: Final = " On the motor's shaft it holds through the gear: a broken gear or coupling lets the load go."


def lining_stops(asked: Asked, joules: float) -> float | None:
    """Stops until the lining is worn out, by its maker's work."""
    work = asked.stop.lining_work_j
    return None if work is None or joules <= 0 else work / joules
