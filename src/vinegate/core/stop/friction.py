"""The spring-set brake's torque and course: drum or disc, on the motor's shaft or behind the gear."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import Slowing, Turning, slow
from vinegate.core.stop.row import after_delay
from vinegate.core.stop.way import Sizes

BRAKE_TIMES: Final = 1.5
HOIST_TIMES: Final = 2.0
HOLD_FACTOR: Final = 1.5
SETTINGS: Final = (
    "stop.brake_torque",
    "stop.brake_kind",
    "stop.brake_side",
    "stop.hold_factor",
    "stop.lining",
    "stop.brake_delay",
    "stop.brake_power",
    "stop.brake_stop",
    "stop.lining_work",
    "stop.release_from",
    "stop.release",
)
SIZES: Final = Sizes(
    name="Brake",
    figures=(
        "torque",
        "hold_torque",
        "stop_torque",
        "brake_heat",
        "lining_stops",
        "lining_years",
        "driven_turns",
        "travel",
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


def lining_stops(asked: Asked, joules: float) -> float | None:
    """Stops until the lining is worn out, by its maker's work."""
    work = asked.stop.lining_work_j
    return None if work is None or joules <= 0 else work / joules
