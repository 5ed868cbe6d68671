"""A drive's ramp: the braking resistor, energy returned to the line, and a brake behind the ramp."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.grade import Answer, breaks
from vinegate.core.quantity import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import Slowing, Turning, slow, with_steps
from vinegate.core.stop.friction import brake_course, brake_torque
from vinegate.core.stop.row import Acting, StopRow, Way, row_of

BUS_TIMES: Final = 1.6
_RAMP_S: Final = 5.0
EFFICIENCY: Final = 0.9  # through motor and drive to the bus
_CLOSES_AT: Final = 0.05
_MOST_TORQUE: Final = 1.5
_CAUTIONS: Final = {
    "drive": "It does nothing when power fails; the resistor gets hot, and is at the bus' volts.",
    "regen": "It does nothing when power fails: the line it feeds back into is gone.",
    "drive-brake": (
        "When power fails the brake alone stops it, from full speed: it must be able to. Its coil is released by the "
        "drive's own contact on running, never from the motor's leads."
    ),
}


def ramp_s(asked: Asked) -> float:
    """The drive's ramp from running speed, s."""
    return asked.stop.drive_ramp_s or asked.stop.within_s or _RAMP_S


def asks_nm(asked: Asked, turning: Turning) -> Array:
    """Torque that keeps the ramp, N·m at the motor's shaft; below nought the drive still drives."""
    return np.asarray(turning.inertia_kgm2 * turning.omega[0] / ramp_s(asked) - turning.load_nm)


def _ramped(asked: Asked, turning: Turning) -> Slowing:
    torque = asks_nm(asked, turning)
    nothing = np.zeros(torque.size)
    return slow(turning, torque, line_a=nothing, rotor_w=nothing, outside_w=np.maximum(torque, 0.0) * turning.omega)


def _way(asked: Asked, method: str, steps: tuple[str, ...]) -> StopRow:
    seconds = ramp_s(asked)
    return row_of(
        asked,
        Way(
            method=method,
            setting=f"{write(seconds, 3)} s",
            course=lambda turning: _ramped(asked, turning),
            caution=_CAUTIONS[method],
            steps=("Stop: the drive lowers frequency and volts along its ramp; nothing is opened yet.", *steps),
            acting=lambda _: (Acting(name="ramp", from_s=0.0, to_s=seconds),),
            special=lambda courses: _too_steep(asked, courses),
        ),
    )


def drive(asked: Asked) -> StopRow:
    """An even ramp: the drive takes back what the load does not eat, a resistor turns it into heat."""
    return _way(
        asked,
        "drive",
        (
            "What comes back raises the bus; above its switching volts the chopper turns it into heat in the resistor.",
            "At rest the drive blocks. A thermostat on the resistor opens the line contactor, not the chopper.",
        ),
    )


def regen(asked: Asked) -> StopRow:
    """The same ramp, what comes back returned to the line."""
    return _way(
        asked,
        "regen",
        ("What comes back goes through a line-side bridge into the supply, which must be able to take it.",),
    )


def _too_steep(asked: Asked, courses: tuple[Slowing, ...]) -> Answer | None:
    """A drive gives about half again rated torque: a steeper ramp stretches."""
    share = max(float(course.brake_nm.max()) for course in courses) / asked.heavy.rated_nm
    if share <= _MOST_TORQUE:
        return None
    text = f"The ramp asks {100 * share:.0f} % of rated torque; a drive gives about {100 * _MOST_TORQUE:.0f} %."
    return breaks(f"{text} It would stretch the ramp, or trip.")


def bus_volts(asked: Asked) -> float:
    """Volts of the drive's bus at which its resistor switches in."""
    return asked.stop.bus_v or BUS_TIMES * asked.line_v


@dataclass(frozen=True, slots=True, kw_only=True)
class Chopped:
    """What the bus takes over a stop: watts at most, joules, and the most ohms that take the watts at its volts."""

    peak_w: float
    joules: float
    most_ohm: float


def resistor(asked: Asked) -> Chopped:
    """`R ≤ U_B²/P_peak`, over every load of the bands."""
    courses = [_ramped(asked, turning) for turning in asked.corners]
    powers = [float((np.maximum(asks_nm(asked, turning), 0.0) * turning.omega).max()) for turning in asked.corners]
    peak = EFFICIENCY * max(powers)
    joules = EFFICIENCY * max(float(course.outside_j[-1]) for course in courses)
    return Chopped(peak_w=peak, joules=joules, most_ohm=bus_volts(asked) ** 2 / peak if peak > 0 else math.inf)


def shortest_ramp_s(asked: Asked, ohms: float) -> float:
    """The ramp whose peak a resistor just takes: `t = J·ω_0/min(P/(η·ω) + T_L)` over speed and bands, s."""
    bears = bus_volts(asked) ** 2 / ohms / EFFICIENCY
    found = 0.0
    for turning in asked.corners:
        omega, load = turning.omega[:-1], turning.load_nm[:-1]
        slack = float((bears / omega + load).min())
        if slack <= 0:
            return math.inf
        found = max(found, turning.inertia_kgm2 * float(turning.omega[0]) / slack)
    return found


def closes_pu(asked: Asked) -> float:
    """Share of running speed at which the brake behind a ramp closes."""
    if asked.stop.brake_at_s is None:
        return _CLOSES_AT
    return max(1 - asked.stop.brake_at_s / ramp_s(asked), 0.0)


def closing_j(asked: Asked) -> float:
    """What the brake takes when it closes behind the drive's ramp, J, the heaviest of the bands."""
    share, torque = closes_pu(asked), brake_torque(asked)
    found = []
    for turning in asked.corners:
        rest = turning.at(turning.omega[turning.omega <= share * turning.omega[0]])
        if rest.omega.size < 2:
            found.append(0.0)
            continue
        slowing = torque + float(rest.load_nm.min())
        found.append(turning.energy_j * share**2 * torque / slowing if slowing > 0 else math.inf)
    return max(found)


def drive_then_brake(asked: Asked) -> StopRow:
    """The drive slows it nearly to rest, the brake closes on what is left and holds: the lining hardly wears."""
    seconds, torque_nm, share = ramp_s(asked), brake_torque(asked), closes_pu(asked)
    marked = torque_nm * (asked.stop.lining_pu or 1.0)

    def course(turning: Turning) -> Slowing:
        finer = turning.at(with_steps(turning.omega, (share * float(turning.omega[0]),)))
        torque = np.where(finer.omega > share * finer.omega[0], asks_nm(asked, finer), marked)
        nothing = np.zeros(torque.size)
        taken = np.maximum(torque, 0.0) * finer.omega
        return slow(finer, torque, line_a=nothing, rotor_w=nothing, outside_w=taken)

    closes = (1 - share) * seconds
    return row_of(
        asked,
        Way(
            method="drive-brake",
            setting=f"{write(seconds, 3)} s, {write(torque_nm, 3)} N·m",
            course=course,
            caution=_CAUTIONS["drive-brake"],
            steps=(
                "Stop: the drive lowers frequency and volts along its ramp, the brake's coil stays live.",
                f"After {write(closes, 3)} s, at {write(100 * share, 2)} % of speed, the drive's contact on running "
                "opens the coil's circuit.",
                "The brake closes on what is left, and holds; the drive lets go only then.",
            ),
            acting=lambda found: (
                Acting(name="ramp", from_s=0.0, to_s=closes),
                Acting(name="brake", from_s=closes, to_s=float(found.time_s[-1])),
            ),
            special=lambda _: _too_steep_before(asked, share) or _alone(asked),
        ),
    )


def _too_steep_before(asked: Asked, share: float) -> Answer | None:
    """The ramp's own torque, not the brake's."""
    before = [asks_nm(asked, turning)[turning.omega > share * turning.omega[0]] for turning in asked.corners]
    most = max((float(torque.max()) for torque in before if torque.size), default=0.0)
    if most <= _MOST_TORQUE * asked.heavy.rated_nm:
        return None
    text = f"The ramp asks {100 * most / asked.heavy.rated_nm:.0f} % of rated torque; a drive gives about"
    return breaks(f"{text} {100 * _MOST_TORQUE:.0f} %. It would stretch the ramp, or trip.")


def _alone(asked: Asked) -> Answer | None:
    """When power fails the brake must do it from full speed."""
    if all(brake_course(asked, turning).stops_s is not None for turning in asked.corners):
        return None
    return breaks("When power fails the brake alone cannot stop it from full speed.")
