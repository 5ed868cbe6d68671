"""A drive's ramp: what it asks, the braking resistor, and what is left for a brake behind it."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.drive.bus import EFFICIENCY, bears_w, ramp_down, shortest_down_s, switching_v
from vinegate.core.grade import Answer, breaks
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import Slowing, Turning, slow
from vinegate.core.stop.friction import brake_torque
from vinegate.core.stop.row import Acting, Doing, StopRow, row_of
from vinegate.core.stop.way import Handle, Sizes, Way
from vinegate.core.turning import Taken

_WITHIN: Final = 0.999  # of an angle, as it is summed in steps
_CLOSES_AT: Final = 0.05
_MOST_TORQUE: Final = 1.5
RAMP_SETTINGS: Final = ("stop.drive_ramp",)
RESISTOR_SETTINGS: Final = ("stop.bus", "stop.drive_least", "stop.resistor", "stop.resistor_power", "stop.lowering")
RAMP_SIZES: Final = Sizes(
    name="Drive",
    figures=("peak", "ohms", "joules", "mean", "duty", "shortest", "returned", "saving"),
)
RAMP_HANDLE: Final = Handle(
    field="stop-drive_ramp",
    label="Ramp down in",
    at=lambda row: row.acting[0].to_s if row.acting and row.time_s is not None else None,
)


def ramp_taken(asked: Asked) -> Taken:
    """The ramp as a fact: as it is set, else by the time, angle and distance that are asked."""
    return ramp_down(asked.stop.drive_ramp_s, _within_s(asked))


def _within_s(asked: Asked) -> float | None:
    """The longest even ramp that keeps all that is asked, `t = 4π·φ/ω_0` for an angle; None where nothing is."""
    stop, turns = asked.stop, []
    if stop.within_turns is not None:
        turns.append(stop.within_turns * asked.gear_ratio)
    if stop.distance_m is not None and asked.metres_a_turn:
        turns.append(stop.distance_m / asked.metres_a_turn)
    of_turns = [_WITHIN * 4 * math.pi * one / float(asked.heavy.omega[0]) for one in turns]
    return min([*of_turns, *([stop.within_s] if stop.within_s else [])], default=None)


def ramp_s(asked: Asked) -> float:
    """The drive's ramp from running speed, s."""
    return ramp_taken(asked).value


def asks_nm(asked: Asked, turning: Turning) -> Array:
    """Torque that keeps the ramp, N·m at the motor's shaft; below nought the drive still drives."""
    return np.asarray(turning.inertia_kgm2 * turning.omega[0] / ramp_s(asked) - turning.load_nm)


def _ramped(asked: Asked, turning: Turning) -> Slowing:
    torque = asks_nm(asked, turning)
    nothing = np.zeros(torque.size)
    return slow(turning, torque, line_a=nothing, rotor_w=nothing, outside_w=np.maximum(torque, 0.0) * turning.omega)


def bus_volts(asked: Asked) -> float:
    """Volts of the drive's bus at which its resistor switches in."""
    return asked.stop.bus_v or switching_v(asked.line_v)


def drive_gives_nm(asked: Asked) -> float:
    """Torque a drive brakes with: as its sheet works it, else about half again rated."""
    return asked.drive_nm if asked.drive_nm is not None else _MOST_TORQUE * asked.heavy.rated_nm


@dataclass(frozen=True, slots=True, kw_only=True)
class Chopped:
    """What the bus takes over a stop: watts at most, joules, and the most ohms that take the watts at its volts."""

    peak_w: float
    joules: float
    most_ohm: float


def resistor(asked: Asked) -> Chopped:
    """`R ≤ U_B²/P_peak`, over every load of the bands; of all motors on the drive."""
    courses = [_ramped(asked, turning) for turning in asked.corners]
    peak = max(peaks_w(asked))
    joules = asked.motors * EFFICIENCY * max(float(course.outside_j[-1]) for course in courses)
    return Chopped(peak_w=peak, joules=joules, most_ohm=bus_volts(asked) ** 2 / peak if peak > 0 else math.inf)


def peaks_w(asked: Asked) -> list[float]:
    """Watts at most that come back over its ramp, for each load of the bands, the heaviest first; of all motors."""
    return [
        asked.motors * EFFICIENCY * float((np.maximum(asks_nm(asked, turning), 0.0) * turning.omega).max())
        for turning in asked.corners
    ]


def lowered_w(asked: Asked) -> float:
    """Watts that a load which drives its machine brings back for as long as it does, of all motors; else nought."""
    if not asked.overhauls:
        return 0.0
    drives_w = max(-float(asked.heavy.load_nm.min()), 0.0) * float(asked.heavy.omega[0])  # near rest no drag helps
    return EFFICIENCY * asked.motors * drives_w


def shortest_ramp_s(asked: Asked, ohms: float) -> float:
    """The ramp whose peak a resistor just takes: `t = J·ω_0/min(P/(η·ω) + T_L)` over speed and bands, s."""
    bears = bears_w(asked.stop.bus_v, asked.line_v, ohms) / EFFICIENCY / asked.motors
    return max(
        shortest_down_s(turning.omega[:-1], turning.load_nm[:-1], turning.inertia_kgm2, bears)
        for turning in asked.corners
    )


def closes_pu(asked: Asked) -> float:
    """Share of running speed at which the brake behind a ramp closes."""
    if asked.stop.brake_at_s is None:
        return _CLOSES_AT
    return max(1 - asked.stop.brake_at_s / ramp_s(asked), 0.0)


def closing_j(asked: Asked) -> float:
    """What the brake takes when it closes behind the drive's ramp, J, the heaviest of the bands, its lining at its
    worst. Infinite where it cannot.
    """
    share, torque = closes_pu(asked), brake_torque(asked) * (asked.stop.lining_pu or 1.0)
    found = []
    for turning in asked.corners:
        rest = turning.at(turning.omega[turning.omega <= share * turning.omega[0]])
        if rest.omega.size < 2:
            found.append(0.0)
            continue
        slowing = torque + float(rest.load_nm.min())
        found.append(turning.energy_j * share**2 * torque / slowing if slowing > 0 else math.inf)
    return max(found)


def ramp_row(asked: Asked, way: Way, caution: str, steps: tuple[str, ...]) -> StopRow:
    """The row of a ramp from running speed to rest."""
    seconds = ramp_s(asked)
    return row_of(
        asked,
        way,
        Doing(
            setting=f"{write(seconds, 3)} s",
            course=lambda turning: _ramped(asked, turning),
            caution=caution,
            steps=("Stop: the drive lowers frequency and volts along its ramp; nothing is opened yet.", *steps),
            acting=lambda _: (Acting(name="ramp", from_s=0.0, to_s=seconds),),
            special=lambda courses: _too_steep(asked, courses),
        ),
    )


def _too_steep(asked: Asked, courses: tuple[Slowing, ...]) -> Answer | None:
    """Steeper than a drive brakes, a ramp stretches."""
    most, rated, gives = (
        max(float(course.brake_nm.max()) for course in courses),
        asked.heavy.rated_nm,
        drive_gives_nm(asked),
    )
    if most <= gives:
        return None
    text = f"The ramp asks {100 * most / rated:.0f} % of rated torque; the drive gives {100 * gives / rated:.0f} %."
    return breaks(f"{text} It would stretch the ramp, or trip.")
