"""A soft starter whose volts go with time: marched on the speed axis, each step solved for the time it takes."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from vinegate.core.machine.circuit import Array
from vinegate.core.starting.connection import Connection, behave
from vinegate.core.starting.courses import outcome_at
from vinegate.core.starting.plant import Plant
from vinegate.core.starting.run_up import RunUp, at_speed_place, run_up, stop_after
from vinegate.core.starting.trace import Course, Outcome, Piece, piece_between, sums, volts_along

_LEVELS = 13
_WAITS = 6
_SHOWN_PARTS = 60
_TINY = 1e-12
_NEARLY = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Ramp:
    """Share of volts behind the starter against time: from `initial` to full in `ramp_s`, even in volts or in torque.

    A kick of `kick` for `kick_s` may stand before it.
    """

    initial: float
    ramp_s: float
    of_torque: bool
    kick: float = 0.0
    kick_s: float = 0.0

    @property
    def ends_s(self) -> float:
        return self.kick_s + self.ramp_s

    def squared(self, t: float) -> tuple[float, float]:
        """Share squared, as torque goes with it, at a time past the kick; and how fast it rises."""
        begun, left = self.initial, 1 - self.initial
        done = (t - self.kick_s) / self.ramp_s
        if done >= 1:
            return 1.0, 0.0
        if self.of_torque:
            rise = 1 - begun * begun
            return begun * begun + rise * done, rise / self.ramp_s
        share = begun + left * done
        return share * share, 2 * share * left / self.ramp_s

    def held(self, t: float) -> float:
        """Share of volts at a time past the kick."""
        return math.sqrt(self.squared(t)[0])


@dataclass(frozen=True, slots=True)
class _Way:
    """Speeds of synchronous against time, with the share of volts at each."""

    times: Array
    speeds: Array
    held: Array


def ramped(plant: Plant, full: RunUp, ramp: Ramp) -> Course:
    """The start on the ramp, and on full volts after it. A machine that a kick does not keep moving starts anew."""
    shares = np.sqrt(np.linspace(min(ramp.initial, ramp.kick or 1.0) ** 2, 1.0, _LEVELS))
    grid = run_up(plant, behave(plant, [Connection(key=f"{s:.4f}", hold=float(s)) for s in shares]))
    settles = stop_after(full, full.row("full"), 0.0)
    target = at_speed_place(full, settles)
    enough = target if outcome_at(full, settles) is Outcome.REACHES else float(plant.points - 1)
    way = _march(grid, shares, ramp, enough)
    piece, rates = _piece(grid, shares, way)
    place = float(np.interp(way.speeds[-1], plant.speed_pu, plant.axis))
    row = full.row("full")
    stop = stop_after(full, row, place)
    reached = outcome_at(full, stop)
    there = reached is Outcome.REACHES and place >= at_speed_place(full, stop) - 1e-6
    locked = plant.locked_current_a / plant.amps_per_pu
    heat = {
        "rotor_j": float(np.trapezoid(rates["rotor_w"], piece.time_s)),
        "heat_j": float(np.trapezoid(rates["heat_w"], piece.time_s)),
        "i2t_s": float(np.trapezoid((piece.motor_a / plant.amps_per_pu / locked) ** 2, piece.time_s)),
    }
    pieces: tuple[Piece, ...] = (piece,)
    if not there:
        end = max(at_speed_place(full, stop), place) if reached is Outcome.REACHES else stop
        pieces = (piece, piece_between(full, row, place, end, float(way.times[-1])))
        more = sums(full, [(row, place, end)])
        heat = {name: heat[name] + more[name] for name in heat}
    return Course(
        pieces=pieces,
        outcome=reached,
        duration_s=float(pieces[-1].time_s[-1]) if reached is Outcome.REACHES else None,
        final_speed_pu=full.speed_pu_at(stop),
        changes_s=(),
        **heat,
    )


@dataclass(slots=True)
class _Log:
    """Collects a way while it is marched."""

    times: list[float]
    speeds: list[float]
    held: list[float]

    def add(self, time: float, speed: float, held: float) -> None:
        self.times.append(time)
        self.speeds.append(speed)
        self.held.append(held)


class _Gain:
    """Acceleration and how fast it rises with the volts: at rest, and in the middle of each step between two speeds."""

    def __init__(self, grid: RunUp, shares: Array, ramp: Ramp, enough: float) -> None:
        plant, spare = grid.plant, grid.spare_nm
        rate = 1 / (plant.inertia_kgm2 * plant.synchronous_rad_s)
        middle = (spare[:, :-1] + spare[:, 1:]) / 2
        last, part = int(enough), enough - int(enough)
        if last < plant.points - 1:  # the last step ends inside its cell
            middle[:, last] = spare[:, last] + part / 2 * (spare[:, last + 1] - spare[:, last])
        self.cells: list[list[float]] = (middle * rate).T.tolist()
        self.rest: list[float] = (spare[:, 0] * rate).tolist()
        self.ramp, self.first_square = ramp, float(shares[0]) ** 2
        self.per_level = (_LEVELS - 1) / (1.0 - self.first_square) if self.first_square < 1 else 0.0

    def __call__(self, cell: list[float], at: float) -> tuple[float, float]:
        square, slope = self.ramp.squared(at)
        level = min(max((square - self.first_square) * self.per_level, 0.0), _LEVELS - 1 - 1e-9)
        row = int(level)
        low, high = cell[row], cell[row + 1]
        return low + (level - row) * (high - low), (high - low) * self.per_level * slope

    def waits(self, cell: list[float], now: float) -> float:
        """The moment at which the rising volts balance the load, by Newton; the ramp's end at the latest."""
        begun, last = now, self.ramp.ends_s * (1 - 1e-9)  # at its very end the ramp no longer rises
        value, rise = self(cell, now)
        for _ in range(_WAITS if value <= 0 else 0):
            if rise <= _TINY:
                break
            now = min(max(now - value / rise, begun), last)
            value, rise = self(cell, now)
        return self.ramp.ends_s if value < -_NEARLY and rise > _TINY else now


def _march(grid: RunUp, shares: Array, ramp: Ramp, enough: float) -> _Way:
    """From speed to speed: `Δω = a·Δt + ½·a'·Δt²` solved for Δt, `a` at the step's middle, `a'` by the rising volts.

    Where it does not gain, it waits until the volts have risen so far. Ends at speed, or with the ramp.
    """
    gain, speeds = _Gain(grid, shares, ramp, enough), grid.plant.speed_pu.tolist()
    log = _Log([0.0], [0.0], [ramp.kick or ramp.held(ramp.kick_s)])
    now, index, speed = ramp.kick_s, 0, 0.0
    if ramp.kick_s > 0:
        index, speed = _kicked(grid, shares, ramp)
        log.add(now, speed, ramp.kick)
    while index < len(speeds) - 1 and index < enough and now < ramp.ends_s * (1 - 1e-12):
        step = (speeds[index + 1] if index + 1 <= enough else _speed_at(speeds, enough)) - speed
        if speed == 0.0:  # static friction must be broken first: it fades as soon as the machine turns
            now = gain.waits(gain.rest, now)
        now = gain.waits(gain.cells[index], now)
        value, rise = gain(gain.cells[index], now)
        value = max(value, 0.0)
        if now > log.times[-1]:
            log.add(now, speed, ramp.held(now))
        if now >= ramp.ends_s or (value <= _TINY and rise <= _TINY):
            break
        takes = (math.sqrt(value**2 + 2 * rise * step) - value) / rise if rise > _TINY else step / value
        takes = min(takes, ramp.ends_s - now)
        parts = 1 + int(takes * _SHOWN_PARTS / ramp.ramp_s)  # a slow step is shown in parts: the volts rise meanwhile
        for part in range(1, parts + 1):
            t = takes * part / parts
            log.add(now + t, speed + value * t + 0.5 * rise * t**2, ramp.held(now + t))
        now, speed, index = log.times[-1], log.speeds[-1], index + 1
    return _Way(np.array(log.times), np.array(log.speeds), np.array(log.held))


def _speed_at(speed_at: list[float], place: float) -> float:
    low = int(place)
    return speed_at[low] + (place - low) * (speed_at[low + 1] - speed_at[low])


def _kicked(grid: RunUp, shares: Array, ramp: Ramp) -> tuple[int, float]:
    """Where the kick brings it (index at or below, and speed); at rest again when the ramp's first volts fail it."""
    plant = grid.plant
    alone = run_up(plant, behave(plant, [Connection(key="kick", hold=ramp.kick)]))
    place = alone.place_of_time(0, ramp.kick_s)
    row = int(np.argmin(np.abs(shares - ramp.initial)))
    if grid.spare_nm[row, int(place)] <= 0:
        return 0, 0.0
    return int(place), alone.speed_pu_at(place)


def _level(shares: Array, held: Array) -> Array:
    """Fractional index of these shares of volts on the grid's levels: even in their squares, as torque goes."""
    span = float(shares[-1] ** 2 - shares[0] ** 2) or 1.0
    return np.asarray(np.clip((held**2 - shares[0] ** 2) / span, 0, 1) * (len(shares) - 1))


def _piece(grid: RunUp, shares: Array, way: _Way) -> tuple[Piece, dict[str, Array]]:
    """What the ramp does along its course: currents and volts go with the share of volts, torques with its square."""
    plant, behaviour = grid.plant, grid.behaviour
    level = _level(shares, way.held)
    place = np.clip(np.interp(way.speeds, plant.speed_pu, plant.axis), 0, plant.points - 1 - 1e-9)
    row, column = np.minimum(level.astype(int), len(shares) - 2), place.astype(int)
    as_torque, b = level - row, place - column
    as_current = np.clip((way.held - shares[row]) / (shares[row + 1] - shares[row]), 0, 1)

    def off(values: Array, a: Array = as_current) -> Array:
        low = values[row, column] * (1 - b) + values[row, column + 1] * b
        high = values[row + 1, column] * (1 - b) + values[row + 1, column + 1] * b
        return np.asarray(low * (1 - a) + high * a)

    buses = np.stack([volts_along(grid, index) for index in range(len(shares))], axis=1)
    piece = Piece(
        key="ramp",
        time_s=way.times,
        speed_pu=way.speeds,
        line_a=off(np.abs(behaviour.line)) * plant.amps_per_pu,
        motor_a=off(behaviour.motor) * plant.amps_per_pu,
        terminal_pu=off(behaviour.terminal),
        bus_pu=np.stack([off(bus) for bus in buses]),
        torque_nm=off(behaviour.torque, as_torque),
    )
    return piece, {"rotor_w": off(behaviour.rotor_w, as_torque), "heat_w": off(behaviour.heat_w, as_torque)}
