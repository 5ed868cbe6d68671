"""A current at rest that nobody gave: the plan is worked with its most, and once more with its least.

Gates of amperes have its band themselves. What is advised for them has not: a device that holds the most, a setting
that is sought, a way that is taken, the time that a start takes on the volts that are left.
"""

from __future__ import annotations

from typing import Any, Final

from vinegate.core.machine.stage import MACHINE
from vinegate.core.numbers import write
from vinegate.core.plate.stage import PLATE
from vinegate.core.records import dataclass
from vinegate.core.start.stage import START
from vinegate.core.start.ways import way_of
from vinegate.core.work import Work

_PATH: Final = "plate.locked_rotor_current"


@dataclass(frozen=True, slots=True)
class LeastAtRest:
    """Where it is typed, what is supposed of its plate, and how that is said."""

    path: str
    supposed: dict[str, dict[str, Any]]
    said: str


def least_at_rest(work: Work) -> LeastAtRest | None:
    """None where plate, machine or tests give it, or a letter tells it within its band; nor where a drive turns the
    motor, and it never flows.
    """
    inrush, current = work.found(MACHINE).inrush, work.found(PLATE).rated.current
    if inrush is None or inrush.high is None or current is None or not inrush.low.soft:
        return None
    if inrush.low.value >= inrush.high.value or current.value <= 0 or way_of(work.found(START).chosen).by_frequency:
        return None
    times = inrush.low.value / current.value
    said = f"at {write(inrush.low.value, 3)} A, {write(times, 3)} times {current.symbol},"
    return LeastAtRest(_PATH, {"plate": {"starting_current_ratio": times}}, said)
