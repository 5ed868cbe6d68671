"""What an overload relay sees of a start."""

from __future__ import annotations

from vinegate.core.arrays import Array
from vinegate.core.start.plant import Plant
from vinegate.core.start.trace import Course, running
from vinegate.core.tables.trip_class import trip_class


def seen_square_s(plant: Plant, course: Course, *, in_delta: bool) -> Array:
    """`∫(I/I_s)² dt` of a relay set to its share of rated current, s.

    In the motor's leads, behind an autotransformer and ahead of the delta, it sees in wye a third of what it does in
    delta; one in the delta sees its winding's current, in wye 1/√3 of that.
    """
    if in_delta:
        return course.running("i2t_s") * (plant.locked_current_a / plant.rated_current_a) ** 2
    return running(course.all("time_s"), (course.all("motor_a") / plant.rated_current_a) ** 2)


def overload_share(plant: Plant, course: Course, name: str = "10", *, in_delta: bool = False) -> float:
    """Most heat of the quickest overload of a class over the start, from cold, of that at which it trips."""
    return share_seen(course, seen_square_s(plant, course, in_delta=in_delta), name)


def share_seen(course: Course, square_s: Array, name: str) -> float:
    """The same from what the relay sees."""
    return float(trip_class(name).heat_along(course.all("time_s"), square_s).max())
