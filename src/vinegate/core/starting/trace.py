"""The course of one start against time, for drawing and judging."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

import numpy as np

from vinegate.core.machine.circuit import Array
from vinegate.core.starting.connection import Behaviour
from vinegate.core.starting.plant import Plant

if TYPE_CHECKING:
    from vinegate.core.starting.run_up import RunUp

SAMPLES = 32
_COAST_STEPS = 4


class Outcome(StrEnum):
    """How a start ends."""

    REACHES = "reaches speed"
    HANGS = "hangs"
    STALLS = "does not break away"


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """A part of a start in one connection. Arrays over its samples; `bus_pu` is (buses, samples)."""

    key: str
    time_s: Array
    speed_pu: Array
    line_a: Array
    motor_a: Array
    terminal_pu: Array
    bus_pu: Array
    torque_nm: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """A start from rest, piece after piece, with its sums. `duration_s` is None when it never gets there.

    `final_speed_pu` is where the machine settles or hangs, of synchronous speed. `changes_s` are the moments at
    which one connection gives way to the next. `i2t_s` is of winding current over that at rest.
    """

    pieces: tuple[Piece, ...]
    outcome: Outcome
    duration_s: float | None
    final_speed_pu: float
    rotor_j: float
    heat_j: float
    i2t_s: float
    changes_s: tuple[float, ...] = ()

    def all(self, name: str) -> Array:
        """One quantity along the whole course."""
        return np.concatenate([np.atleast_1d(getattr(piece, name)) for piece in self.pieces], axis=-1)


def volts_along(behaviour: Behaviour) -> Array:
    """Volts at every bus over the speed axis: (connections, buses, speeds), per unit."""
    seen, line = behaviour.seen, behaviour.line[:, None, :]
    if seen.open_pu.ndim == 1:
        return np.asarray(np.abs(seen.open_pu[None, :, None] - seen.transfer_pu[None, :, None] * line))
    return np.asarray(np.abs(np.moveaxis(seen.open_pu, 0, 1) - np.moveaxis(seen.transfer_pu, 0, 1) * line))


def shown_of(plant: Plant, behaviour: Behaviour, time_s: Array) -> Array:
    """All that is drawn of a start, stacked: (connections, quantities, speeds), in the order that `Piece` has it."""
    amps = plant.amps_per_pu
    one = (time_s, np.abs(behaviour.line) * amps, behaviour.motor * amps, behaviour.terminal, behaviour.torque)
    speed = np.broadcast_to(plant.speed_pu, time_s.shape)
    return np.concatenate([np.stack([*one, speed], axis=1), volts_along(behaviour)], axis=1)


def piece_between(runs: RunUp, row: int, first: float, last: float, begins_s: float) -> Piece:
    """Samples of one connection between two fractional indices, its time starting at `begins_s`."""
    places = np.linspace(first, last, SAMPLES)
    low = np.minimum(places.astype(int), runs.plant.points - 2)
    before = runs.shown[row][:, low]
    read = before + (places - low) * (runs.shown[row][:, low + 1] - before)
    time, line, motor, terminal, torque, speed = read[:6]
    return Piece(
        key=runs.behaviour.keys[row],
        time_s=begins_s + time - time[0],
        speed_pu=speed,
        line_a=line,
        motor_a=motor,
        terminal_pu=terminal,
        bus_pu=read[6:],
        torque_nm=torque,
    )


def dead_piece(plant: Plant, place: float, seconds: float, begins_s: float, before: Array) -> tuple[Piece, float]:
    """Coasting through an open transition: no current, speed falls with the load. Returns where it ends, too."""
    axis = plant.axis
    speed = float(np.interp(place, axis, 1 - plant.slip))
    loss = (plant.load_nm + plant.drag_nm) / plant.inertia_kgm2 / plant.synchronous_rad_s
    step, coasting = seconds / _COAST_STEPS, speed
    for _ in range(_COAST_STEPS):
        middle = max(coasting - 0.5 * step * float(np.interp(coasting, plant.speed_pu, loss)), 0.0)
        coasting = max(coasting - step * float(np.interp(middle, plant.speed_pu, loss)), 0.0)
    ends = float(np.interp(coasting, plant.speed_pu, axis))
    zero = np.zeros(2)
    piece = Piece(
        key="dead",
        time_s=np.array([begins_s, begins_s + seconds]),
        speed_pu=np.array([speed, coasting]),
        line_a=zero,
        motor_a=zero,
        terminal_pu=zero,
        bus_pu=np.repeat(before[:, None], 2, axis=1),
        torque_nm=zero,
    )
    return piece, ends


def sums(runs: RunUp, parts: list[tuple[int, float, float]]) -> dict[str, float]:
    """Heat and I²t of pieces given as (row, first place, last place)."""
    found = dict.fromkeys(("rotor_j", "heat_j", "i2t_s"), 0.0)
    for row, first, last in parts:
        for name in found:
            values = getattr(runs, name)
            found[name] += runs.read(values, row, last) - runs.read(values, row, first)
    return found
