"""What a course shows, for its row: volts of the boards, its first moment, when its connection changes."""

from __future__ import annotations

import math

from vinegate.core.arrays import Array
from vinegate.core.start.simulation import MethodRun
from vinegate.core.start.trace import Course


def changes_at(run: MethodRun) -> float | None:
    """When its one change-over comes, s; None where there is none, or several, or it never breaks away."""
    if run.changes_at_s:
        return run.changes_at_s
    return run.course.changes_s[0] if len(run.course.changes_s) == 1 else None


def stages(course: Course) -> tuple[tuple[str, float], ...]:
    """The connections before the last, by their keys, each with the moment at which it ends, s.

    A machine that never leaves its first has one piece and no stage.
    """
    keys = dict.fromkeys(piece.key for piece in course.pieces if piece.key != "dead")
    return tuple(zip(keys, course.changes_s, strict=False))


def bus_volts(course: Course, before: Array) -> tuple[tuple[float, float, float], ...]:
    """Volts of each board before, at their least and after, per cent."""
    return tuple(
        (100 * float(was), 100 * float(bus.min()), 100 * float(after))
        for was, bus, after in zip(before, course.all("bus_pu"), course.settled_pu, strict=True)
    )


def first_heat(course: Course) -> float:
    """Winding current at rest in the first connection, of the locked-rotor current, by its heat."""
    first = course.pieces[0]
    seconds = float(first.time_s[1] - first.time_s[0])
    return math.sqrt(float(first.i2t_s[1]) / seconds) if seconds > 0 else 1.0


def first_torque(course: Course) -> float:
    """At rest, N·m."""
    return float(course.pieces[0].torque_nm[0])


def least_terminal(course: Course) -> float:
    """Volts at the motor while it is fed, of its plate's."""
    return min(float(piece.terminal_pu.min()) for piece in course.pieces if piece.key != "dead")
