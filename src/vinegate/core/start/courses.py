"""Starts put together from connections: one alone, one after another, and a soft starter's ramp in time."""

from __future__ import annotations

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass, replace
from vinegate.core.start.run_up import RunUp, at_speed_place, stop_after
from vinegate.core.start.trace import Course, Outcome, Piece, dead_piece, piece_between, settled


def outcome_at(runs: RunUp, place: float) -> Outcome:
    """What it means to settle at this place."""
    if place <= 0.5:
        return Outcome.STALLS
    return Outcome.HANGS if runs.speed_pu_at(place) < runs.plant.hangs_below_pu else Outcome.REACHES


@dataclass(frozen=True, slots=True, kw_only=True)
class Turn:
    """A connection in a sequence; it ends at a time from the start, or at a speed, whichever is given."""

    key: str
    until_s: float | None = None
    until_speed_pu: float | None = None


def in_turn(runs: RunUp, turns: list[Turn], *, dead_s: float, before: Array | None) -> Course:
    """Connections one after another. `dead_s` is the open time between them, `before` the volts while it is open.

    A connection that stops gaining before its moment waits there; the last one decides the outcome.
    """
    place, now = 0.0, 0.0
    pieces: list[Piece] = []
    changes: list[float] = []
    for turn in turns[:-1]:
        row = runs.row(turn.key)
        stop = stop_after(runs, row, place)
        end, waits = _end_of(runs, row, turn, place, stop, now)
        pieces.append(piece_between(runs, row, place, end, now))
        now = float(pieces[-1].time_s[-1])
        if waits > 0:
            pieces.append(_standing(runs, row, end, pieces[-1], waits))
            now += waits
        changes.append(now)
        place = end
        if dead_s > 0 and before is not None:
            gap, place = dead_piece(runs.plant, place, dead_s, now, before)
            pieces.append(gap)
            now += dead_s
    row = runs.row(turns[-1].key)
    stop = stop_after(runs, row, place)
    reached = outcome_at(runs, stop)
    end = max(at_speed_place(runs, stop), place) if reached is Outcome.REACHES else stop
    pieces.append(piece_between(runs, row, place, end, now))
    return Course(
        pieces=tuple(pieces),
        outcome=reached,
        duration_s=float(pieces[-1].time_s[-1]) if reached is Outcome.REACHES else None,
        final_speed_pu=runs.speed_pu_at(stop),
        settled_pu=settled(runs, row, stop),
        changes_s=tuple(changes),
    )


def _end_of(runs: RunUp, row: int, turn: Turn, place: float, stop: float, now: float) -> tuple[float, float]:
    """Where a connection ends, and how long it stands still there first."""
    if turn.until_s is not None:
        left = max(turn.until_s - now, 0.0)
        begun = runs.read(runs.time_s, row, place)
        end = max(min(runs.place_of_time(row, begun + left), stop), place) if stop > place else place
        took = runs.read(runs.time_s, row, end) - begun
        return end, max(left - took, 0.0)
    wanted = float(np.interp(turn.until_speed_pu or 1.0, runs.plant.speed_pu, runs.plant.axis))
    return max(wanted if wanted < stop else at_speed_place(runs, stop), place), 0.0


def _standing(runs: RunUp, row: int, place: float, piece: Piece, seconds: float) -> Piece:
    """Standing at the speed where a connection stopped gaining; heat goes on evenly."""
    plant, behaviour = runs.plant, runs.behaviour
    locked = plant.locked_current_a / plant.amps_per_pu

    def twice(values: Array) -> Array:
        return np.repeat(values[..., -1:], 2, axis=-1)

    def evenly(rate: Array) -> Array:
        return np.array([0.0, seconds * runs.read(rate, row, place)])

    return replace(
        piece,
        time_s=piece.time_s[-1] + np.array([0.0, seconds]),
        speed_pu=twice(piece.speed_pu),
        line_a=twice(piece.line_a),
        motor_a=twice(piece.motor_a),
        terminal_pu=twice(piece.terminal_pu),
        bus_pu=twice(piece.bus_pu),
        torque_nm=twice(piece.torque_nm),
        rotor_j=evenly(behaviour.rotor_w),
        heat_j=evenly(behaviour.heat_w),
        i2t_s=evenly((behaviour.winding / locked) ** 2),
    )
