"""DC injection: the current from the time asked, its supply, the order of its contactors."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Final

import numpy as np

from vinegate.core.machine.circuit import rotor_constant_s
from vinegate.core.records import replace
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import TWO_LEADS, Slowing, Turning, dc_torque, slow
from vinegate.core.stop.row import after_delay
from vinegate.core.turning import Taken

STRENGTH: Final = Taken(label="the estimate of its braking torque", value=1.0, low=0.8, high=1.25)
"""Of a machine's circuit fitted to its plate, against a standing or a reversed field; assumed."""
_USUAL_TIMES: Final = 2.5
_LEAST_TIMES: Final = 0.5
_MOST_TIMES: Final = 4.0  # more is its maker's to allow, and is never advised
_SATURATES: Final = 1.25  # of rated volts in the gap
TIME_CONSTANTS: Final = 3.0
_USUAL_DELAY_S: Final = 0.5
TIMER_TIMES: Final = 1.2
# Equivalent alternating current and resistance of the path, of one ampere and of R_1: the sum of the windings' fields.
_PATHS: Final = {"two": (TWO_LEADS, 2.0), "three": (1 / math.sqrt(2), 1.5)}


def path(asked: Asked) -> tuple[float, float]:
    """Alternating amperes of the same field for each direct ampere, and ohms of the path as multiples of R_1.

    Two leads: the field of `√(2/3)·I`; one against two: `I/√2`. A delta is the same seen from its leads
    (the wye equivalent). Source: sum of the windings' fields, Fitzgerald, 6th ed., chapter 4.
    """
    return _PATHS[asked.stop.dc_leads or "two"]


def delay_s(asked: Asked) -> float:
    """From the contactor's opening until the rotor's own field has died, s."""
    return field_dies_s(asked) if asked.stop.dc_delay_s is None else asked.stop.dc_delay_s


def field_dies_s(asked: Asked) -> float:
    """When a twentieth of the rotor's field is left, s: `3·T_r`; a usual time while the machine is not known."""
    if asked.machine is None:
        return _USUAL_DELAY_S
    return max(TIME_CONSTANTS * rotor_constant_s(asked.machine), 0.1)


def _most_gap_v(asked: Asked) -> float | None:
    return _SATURATES * asked.volts_v / math.sqrt(3) if asked.volts_v else None


def dc_course(asked: Asked, turning: Turning, direct: float) -> Slowing:
    assert asked.machine
    machine, standing = asked.machine, path(asked)[0] * direct

    def acts(rest: Turning) -> Slowing:
        torque = asked.strength * dc_torque(machine, rest.omega, standing, _most_gap_v(asked))
        steady = np.full(torque.size, standing)
        inside, outside = ((1 - asked.outside) * torque * rest.omega, asked.outside * torque * rest.omega)
        return slow(rest, torque, line_a=steady, rotor_w=inside, outside_w=outside)

    return after_delay(turning, delay_s(asked), acts)


def slowest_s(asked: Asked, direct: float) -> float:
    return slowest_of(dc_course(asked, turning, direct) for turning in asked.corners)


def slowest_of(courses: Iterable[Slowing]) -> float:
    """Seconds of the slowest; infinite where one never stops."""
    return max(math.inf if course.stops_s is None else course.stops_s for course in courses)


def needed_a(asked: Asked) -> float | None:
    """Direct amperes that stop the slowest of the bands in the time asked, at the least torque; None where none do."""
    within = asked.stop.within_s
    if within is None or asked.machine is None:
        return None
    low, high = _LEAST_TIMES * asked.rated_a, _MOST_TIMES * asked.rated_a
    asked = replace(asked, strength=STRENGTH.low)
    if slowest_s(asked, high) > within:
        return None
    for _ in range(16):
        middle = (low + high) / 2
        low, high = (low, middle) if slowest_s(asked, middle) <= within else (middle, high)
    return high


def direct_a(asked: Asked) -> tuple[float, str]:
    """Direct current in use, A, and where it comes from; searched only while it is not found."""
    if asked.direct is not None:
        return asked.direct
    if asked.stop.dc_current_a is not None:
        return asked.stop.dc_current_a, "entered"
    needed = needed_a(asked)
    if needed is not None:
        return needed, "stops in the time asked with four fifths of the torque that the machine's circuit gives"
    return _USUAL_TIMES * asked.rated_a, "usual: 2.5 times rated"


def timer_s(asked: Asked) -> float | None:
    """When the timer opens it, from the stop: as entered, else a fifth past the slowest; None where it never stands."""
    if asked.stop.dc_time_s is not None:
        return asked.stop.dc_time_s
    if asked.machine is None:
        return None
    waits = delay_s(asked)
    slowest = slowest_s(asked, direct_a(asked)[0])
    return waits + TIMER_TIMES * (slowest - waits) if math.isfinite(slowest) else None


def peak_pu(asked: Asked) -> float | None:
    """Largest braking torque on the way down, of rated."""
    if asked.machine is None:
        return None
    omega = asked.heavy.omega
    torque = dc_torque(asked.machine, omega, path(asked)[0] * direct_a(asked)[0], _most_gap_v(asked))
    return float(torque.max()) / asked.heavy.rated_nm
