"""The course of one start against time, for drawing and judging."""

from __future__ import annotations

from dataclasses import field
from enum import StrEnum
from typing import TYPE_CHECKING

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass
from vinegate.core.start.connection import Behaviour
from vinegate.core.start.plant import Plant

if TYPE_CHECKING:
    from vinegate.core.start.run_up import RunUp

SAMPLES = 32
_EVENLY = np.linspace(0, 1, SAMPLES)
_COAST_STEPS = 4
_RUNNING = 4  # rows of `shown_of` that run from rest: time and heats
_DRAWN = 9  # rows before the buses


class Outcome(StrEnum):
    """How a start ends."""

    REACHES = "reaches speed"
    HANGS = "hangs"
    STALLS = "does not break away"


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """A part of a start in one connection. Arrays over its samples; `bus_pu` is (buses, samples).

    `rotor_j`, `heat_j` and `i2t_s` run from nought where the piece begins: the rotor's heat, all of the machine's, and
    `∫(I/I_LR)² dt` of its winding.
    """

    key: str
    time_s: Array
    speed_pu: Array
    line_a: Array
    motor_a: Array
    terminal_pu: Array
    bus_pu: Array
    torque_nm: Array
    rotor_j: Array
    heat_j: Array
    i2t_s: Array


HEATS = ("rotor_j", "heat_j", "i2t_s")


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """A start from rest, piece after piece, with its sums. `duration_s` is None when it never gets there.

    `final_speed_pu` is where the machine settles or hangs, of synchronous speed. `changes_s` are the moments at
    which one connection gives way to the next. `settled_pu` are the boards' volts once it has settled.
    """

    pieces: tuple[Piece, ...]
    outcome: Outcome
    duration_s: float | None
    final_speed_pu: float
    settled_pu: Array
    changes_s: tuple[float, ...] = ()
    joined: dict[str, Array] = field(default_factory=dict, repr=False, compare=False)

    def all(self, name: str) -> Array:
        """One quantity along the whole course."""
        if name not in self.joined:
            parts = [getattr(piece, name) for piece in self.pieces]
            self.joined[name] = parts[0] if len(parts) == 1 else np.concatenate(parts, axis=-1)
        return self.joined[name]

    def running(self, name: str) -> Array:
        """One of `HEATS` from rest, along the whole course."""
        totals = np.cumsum([0.0, *(piece_total(piece, name) for piece in self.pieces[:-1])])
        parts = [total + getattr(piece, name) for total, piece in zip(totals, self.pieces, strict=True)]
        return np.concatenate(parts)

    @property
    def rotor_j(self) -> float:
        """Heat of the rotor over the whole start."""
        return sum(piece_total(piece, "rotor_j") for piece in self.pieces)

    @property
    def heat_j(self) -> float:
        """All that the machine turned into heat over the whole start."""
        return sum(piece_total(piece, "heat_j") for piece in self.pieces)

    @property
    def i2t_s(self) -> float:
        """`∫(I/I_LR)² dt` of the winding over the whole start: seconds at rest that heat as much."""
        return sum(piece_total(piece, "i2t_s") for piece in self.pieces)


def piece_total(piece: Piece, name: str) -> float:
    """One of `HEATS` at a piece's end."""
    return float(getattr(piece, name)[-1])


def running(times: Array, rate: Array) -> Array:
    """Running integral of a rate over times, from nought, by the trapezoid rule."""
    found = np.zeros(times.size)
    ((times[1:] - times[:-1]) * (rate[1:] + rate[:-1]) / 2).cumsum(out=found[1:])
    return found


def volts_along(behaviour: Behaviour) -> Array:
    """Volts at every bus over the speed axis: (connections, buses, speeds), per unit."""
    return np.moveaxis(np.abs(behaviour.seen.volts(behaviour.line)), 0, 1)


def shown_of(plant: Plant, behaviour: Behaviour, running: tuple[Array, Array, Array, Array]) -> Array:
    """All that is drawn of a start, stacked: (connections, quantities, speeds). `running`: time, then `HEATS`."""
    amps = plant.amps_per_pu
    one = (np.abs(behaviour.line) * amps, behaviour.motor * amps, behaviour.terminal, behaviour.torque)
    speed = np.broadcast_to(plant.speed_pu, behaviour.torque.shape)
    return np.concatenate([np.stack([*running, *one, speed], axis=1), volts_along(behaviour)], axis=1)


def settled(runs: RunUp, row: int, place: float) -> Array:
    """Volts of every bus where a connection settles."""
    low = min(int(place), runs.plant.points - 2)
    before, after = runs.shown[row][_DRAWN:, low], runs.shown[row][_DRAWN:, low + 1]
    return np.asarray(before + (place - low) * (after - before))


def piece_between(runs: RunUp, row: int, first: float, last: float, begins_s: float) -> Piece:
    """Samples of one connection between two fractional indices, its time starting at `begins_s`."""
    places = first + _EVENLY * (last - first)
    low = np.minimum(places.astype(int), runs.plant.points - 2)
    shown = runs.shown[row]
    before = shown.take(low, axis=1)
    seen = before + (places - low) * (shown.take(low + 1, axis=1) - before)
    seen[:_RUNNING] -= seen[:_RUNNING, :1].copy()
    time, rotor, heat, i2t, line, motor, terminal, torque, speed = seen[:_DRAWN]
    return Piece(
        key=runs.behaviour.keys[row],
        time_s=begins_s + time,
        speed_pu=speed,
        line_a=line,
        motor_a=motor,
        terminal_pu=terminal,
        bus_pu=seen[_DRAWN:],
        torque_nm=torque,
        rotor_j=rotor,
        heat_j=heat,
        i2t_s=i2t,
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
        rotor_j=zero,
        heat_j=zero,
        i2t_s=zero,
    )
    return piece, ends
