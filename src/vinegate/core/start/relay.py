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


class RelayHeat:
    """Most heat that the quickest overload of each class gathers over one start, from cold: worked once for each."""

    def __init__(self, plant: Plant, course: Course, *, in_delta: bool) -> None:
        self._course, self._square_s = course, seen_square_s(plant, course, in_delta=in_delta)
        self._shares: dict[str, float] = {}

    def pct(self, name: str) -> float:
        """Of the heat at which that class trips, per cent."""
        if name not in self._shares:
            heat = trip_class(name).heat_along(self._course.all("time_s"), self._square_s)
            self._shares[name] = 100 * float(heat.max())
        return self._shares[name]
