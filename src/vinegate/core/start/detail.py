"""The way in use in full: volts of every board, heats and the overload's state against time."""

from __future__ import annotations

from itertools import accumulate

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass
from vinegate.core.start.plant import Plant
from vinegate.core.start.relay import seen_square_s
from vinegate.core.start.trace import Course
from vinegate.core.tables.trip_class import trip_class

SHOWN_CLASSES = ("10", "20", "30")


@dataclass(frozen=True, slots=True, kw_only=True)
class Overload:
    """Heat of the quickest overload of a class, set to rated current, of that at which it trips, in percent."""

    trip_class: str
    heat_pct: tuple[float, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Detail:
    """Against `time_s`: amperes, N·m, volts of every board in percent of nominal, heats in kJ, overload in percent.

    `before_pct` are the boards' volts just before; `thermal_pct` is the winding's heat, of what it bears from hot.
    """

    time_s: tuple[float, ...]
    speed_pct: tuple[float, ...]
    line_a: tuple[float, ...]
    motor_a: tuple[float, ...]
    torque_nm: tuple[float, ...]
    load_nm: tuple[float, ...]
    boards_pct: tuple[tuple[float, ...], ...]
    before_pct: tuple[float, ...]
    rotor_kj: tuple[float, ...]
    stator_kj: tuple[float, ...]
    thermal_pct: tuple[float, ...] | None
    overload: tuple[Overload, ...]


def thinned(course: Course, points: int) -> np.typing.NDArray[np.int_]:
    """Places of about so many samples along a course, the ends of its pieces always among them."""
    begins = list(accumulate(piece.time_s.size for piece in course.pieces))
    places = evenly(begins.pop(), points)
    return np.array(sorted({*places, *begins, *(place - 1 for place in begins)}))


def evenly(size: int, points: int) -> set[int]:
    """Places of so many samples spread evenly over `size`, both ends among them; all of it where there are no more."""
    if size <= points:
        return set(range(size))
    return {place * (size - 1) // (points - 1) for place in range(points)}


def listed(values: Array, digits: int) -> tuple[float, ...]:
    """Rounded, for showing."""
    return tuple(values.round(digits).tolist())


def detail_of(
    plant: Plant, course: Course, before: Array, stall_hot_s: float | None, points: int, *, in_delta: bool
) -> Detail:
    """Read a course for showing; `in_delta` where the overload stands within the delta."""
    keep = thinned(course, points)
    time_s, i2t, rotor = course.all("time_s"), course.running("i2t_s"), course.running("rotor_j")
    speed = course.all("speed_pu")
    square_s = seen_square_s(plant, course, in_delta=in_delta)
    return Detail(
        time_s=listed(time_s[keep], 4),
        speed_pct=listed(100 * speed[keep], 2),
        line_a=listed(course.all("line_a")[keep], 1),
        motor_a=listed(course.all("motor_a")[keep], 1),
        torque_nm=listed(course.all("torque_nm")[keep], 2),
        load_nm=listed(np.interp(speed[keep], plant.speed_pu, plant.load_nm), 2),
        boards_pct=tuple(listed(100 * bus[keep], 2) for bus in course.all("bus_pu")),
        before_pct=listed(100 * before, 2),
        rotor_kj=listed(rotor[keep] / 1000, 3),
        stator_kj=listed((course.running("heat_j") - rotor)[keep] / 1000, 3),
        thermal_pct=listed(100 * i2t[keep] / stall_hot_s, 2) if stall_hot_s else None,
        overload=tuple(
            Overload(trip_class=name, heat_pct=listed(100 * trip_class(name).heat_along(time_s, square_s)[keep], 2))
            for name in SHOWN_CLASSES
        ),
    )
