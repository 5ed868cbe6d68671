"""A soft starter whose volts go with time: marched on the speed axis, each step solved for the time it takes."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass
from vinegate.core.start.connection import Behaviour, Connection, behave
from vinegate.core.start.courses import outcome_at
from vinegate.core.start.plant import Plant
from vinegate.core.start.run_up import RunUp, at_speed_place, run_up, stop_after
from vinegate.core.start.trace import Course, Outcome, Piece, piece_between, running, settled, volts_along

_LEVELS = 13
_WAITS = 6
_SHOWN_PARTS = 60
_FIRST, _LAST, _FINER, _WIDER = 3, 8, 4, 4
"""So many speeds at both ends are stepped finer: static friction fades at the first, and at the last the machine
follows the rising volts. Between them one speed in four is enough: against thirty times finer steps a start of random
load and ramp takes 0.04 % more or less, its largest current 0.1 %."""
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

    def held_along(self, times: Array) -> Array:
        """Share of volts at these times, the kick's while it lasts."""
        done = np.clip((times - self.kick_s) / self.ramp_s, 0, 1)
        even = self.initial + (1 - self.initial) * done
        of_torque = np.sqrt(self.initial**2 + (1 - self.initial**2) * done)
        ramp = of_torque if self.of_torque else even
        return np.asarray(np.where(times < self.kick_s, self.kick, ramp))


@dataclass(frozen=True, slots=True)
class _Grid:
    """Torque to spare at levels of volts and speeds, (levels, speeds), with the speeds of synchronous."""

    plant: Plant
    behaviour: Behaviour
    spare_nm: Array
    speed_pu: Array


def _finer(plant: Plant, behaviour: Behaviour, enough: float) -> tuple[_Grid, float]:
    """The plant's speeds, those at both ends divided, with straight lines between; and where `enough` lies on them."""
    begins = max(int(enough) - _LAST, _FIRST)
    ends = max(min(int(enough) + 1, plant.points - 1), begins)
    places = np.concatenate(
        [
            np.arange(_FIRST * _FINER) / _FINER,
            np.arange(_FIRST, begins, _WIDER),
            begins + np.arange((ends - begins) * _FINER) / _FINER,
            np.arange(ends, plant.points),
        ]
    )
    low = np.minimum(places.astype(int), plant.points - 2)
    spare, part = behaviour.torque - plant.load_nm, places - low
    grid = _Grid(
        plant=plant,
        behaviour=behaviour,
        spare_nm=spare[:, low] + part * (spare[:, low + 1] - spare[:, low]),
        speed_pu=plant.speed_pu[low] + part * (plant.speed_pu[low + 1] - plant.speed_pu[low]),
    )
    return grid, float(np.interp(enough, places, np.arange(places.size)))


@dataclass(frozen=True, slots=True)
class _Way:
    """Speeds of synchronous against time, with the share of volts at each."""

    times: Array
    speeds: Array
    held: Array


def ramped(plant: Plant, full: RunUp, ramp: Ramp) -> Course:
    """The start on the ramp, and on full volts after it. A machine that a kick does not keep moving starts anew."""
    shares = np.sqrt(np.linspace(min(ramp.initial, ramp.kick or 1.0) ** 2, 1.0, _LEVELS))
    behaviour = behave(plant, [Connection(key=f"{s:.4f}", hold=float(s)) for s in shares])
    settles = stop_after(full, full.row("full"), 0.0)
    target = at_speed_place(full, settles)
    enough = target if outcome_at(full, settles) is Outcome.REACHES else float(plant.points - 1)
    grid, there_at = _finer(plant, behaviour, enough)
    way = _march(grid, shares, ramp, there_at)
    piece = _piece(grid, shares, way)
    place = float(np.interp(way.speeds[-1], plant.speed_pu, plant.axis))
    row = full.row("full")
    stop = stop_after(full, row, place)
    reached = outcome_at(full, stop)
    there = reached is Outcome.REACHES and place >= at_speed_place(full, stop) - 1e-6
    pieces: tuple[Piece, ...] = (piece,)
    if not there:
        end = max(at_speed_place(full, stop), place) if reached is Outcome.REACHES else stop
        pieces = (piece, piece_between(full, row, place, end, float(way.times[-1])))
    return Course(
        pieces=pieces,
        outcome=reached,
        duration_s=float(pieces[-1].time_s[-1]) if reached is Outcome.REACHES else None,
        final_speed_pu=full.speed_pu_at(stop),
        settled_pu=settled(full, row, stop),
    )


_TOP: Final = _LEVELS - 1 - 1e-9


class _Gain:
    """Acceleration and how fast it rises with the volts: at rest, and in the middle of each step between two speeds."""

    def __init__(self, grid: _Grid, shares: Array, ramp: Ramp, enough: float) -> None:
        plant, spare = grid.plant, grid.spare_nm
        rate = 1 / (plant.inertia_kgm2 * plant.synchronous_rad_s)
        middle = (spare[:, :-1] + spare[:, 1:]) / 2
        last, part = int(enough), enough - int(enough)
        if last < spare.shape[1] - 1:  # the last step ends inside its cell
            middle[:, last] = spare[:, last] + part / 2 * (spare[:, last + 1] - spare[:, last])
        # One column is read at a time, at two levels: a list of all of it would cost more than the march.
        self.cells: Array = (middle * rate).T
        self.rest: Array = spare[:, 0] * rate
        self.ramp, self.ends_s, self.first_square = ramp, ramp.ends_s, float(shares[0]) ** 2
        self.per_level = (_LEVELS - 1) / (1.0 - self.first_square) if self.first_square < 1 else 0.0

    def __call__(self, cell: Array, at: float) -> tuple[float, float]:
        square, slope = self.ramp.squared(at)
        level = (square - self.first_square) * self.per_level
        if level < 0.0:
            level = 0.0
        elif level > _TOP:
            level = _TOP
        row = int(level)
        low: float = cell.item(row)
        more: float = cell.item(row + 1) - low
        return low + (level - row) * more, more * self.per_level * slope

    def waits(self, cell: Array, now: float, value: float, rise: float) -> tuple[float, float, float]:
        """The moment from which the rising volts carry the load, by Newton, or the ramp's end; and the gain then.

        `value` and `rise` are those of now.
        """
        begun, last = now, self.ends_s * (1 - 1e-9)  # at its very end the ramp no longer rises
        for _ in range(_WAITS):
            now = min(max(now - value / rise, begun), last)
            value, rise = self(cell, now)
            if rise <= _TINY:
                break
        return (self.ends_s, value, rise) if value < -_NEARLY else (now, value, rise)


def _march(grid: _Grid, shares: Array, ramp: Ramp, enough: float) -> _Way:
    """From speed to speed: `Δω = a·Δt + ½·a'·Δt²` solved for Δt, `a` at the step's middle, `a'` by the rising volts.

    Where it does not gain, it waits until the volts have risen so far. Ends at speed, or with the ramp.
    """
    gain, axis, ends = _Gain(grid, shares, ramp, enough), grid.speed_pu.tolist(), ramp.ends_s
    times, speeds, now, index, speed = [0.0], [0.0], ramp.kick_s, 0, 0.0
    if ramp.kick_s > 0:
        index, speed = _kicked(grid, shares, ramp)
        times, speeds = [0.0, now], [0.0, speed]
    while index < len(axis) - 1 and index < enough and now < ends * (1 - 1e-12):
        step = (axis[index + 1] if index + 1 <= enough else _speed_at(axis, enough)) - speed
        if speed == 0.0:  # static friction must be broken first: it fades as soon as the machine turns
            value, rise = gain(gain.rest, now)
            if value <= 0 and rise > _TINY:
                now, _, _ = gain.waits(gain.rest, now, value, rise)
        value, rise = gain(gain.cells[index], now)
        if value <= 0 and rise > _TINY:
            now, value, rise = gain.waits(gain.cells[index], now, value, rise)
        value = max(value, 0.0)
        if now > times[-1]:
            times.append(now)
            speeds.append(speed)
        if now >= ends or (value <= _TINY and rise <= _TINY):
            break
        takes = (math.sqrt(value * value + 2 * rise * step) - value) / rise if rise > _TINY else step / value
        takes = min(takes, ends - now)
        parts = 1 + int(takes * _SHOWN_PARTS / ramp.ramp_s)  # a slow step is shown in parts: the volts rise meanwhile
        for part in range(1, parts + 1):
            t = takes * part / parts
            times.append(now + t)
            speeds.append(speed + value * t + 0.5 * rise * t * t)
        now, speed, index = times[-1], speeds[-1], index + 1
    along = np.array(times)
    return _Way(along, np.array(speeds), ramp.held_along(along))


def _speed_at(speed_at: list[float], place: float) -> float:
    low = int(place)
    return speed_at[low] + (place - low) * (speed_at[low + 1] - speed_at[low])


def _kicked(grid: _Grid, shares: Array, ramp: Ramp) -> tuple[int, float]:
    """Where the kick brings it (index at or below, and speed); at rest again when the ramp's first volts fail it."""
    plant = grid.plant
    alone = run_up(plant, behave(plant, [Connection(key="kick", hold=ramp.kick)]))
    place = alone.place_of_time(0, ramp.kick_s)
    row, speed = int(np.argmin(np.abs(shares - ramp.initial))), alone.speed_pu_at(place)
    index = min(int(np.searchsorted(grid.speed_pu, speed, side="right")) - 1, grid.speed_pu.size - 2)
    return (0, 0.0) if grid.spare_nm[row, index] <= 0 else (index, speed)


def _level(shares: Array, held: Array) -> Array:
    """Fractional index of these shares of volts on the grid's levels: even in their squares, as torque goes."""
    span = float(shares[-1] ** 2 - shares[0] ** 2) or 1.0
    return np.asarray(np.clip((held**2 - shares[0] ** 2) / span, 0, 1) * (len(shares) - 1))


def _piece(grid: _Grid, shares: Array, way: _Way) -> Piece:
    """What the ramp does along its course: currents and volts go with the share of volts, torques with its square."""
    plant, behaviour = grid.plant, grid.behaviour
    level = _level(shares, way.held)
    place = np.clip(np.interp(way.speeds, plant.speed_pu, plant.axis), 0, plant.points - 1 - 1e-9)
    row, column = np.minimum(level.astype(int), len(shares) - 2), place.astype(int)
    as_torque, b = level - row, place - column
    between = shares[row + 1] - shares[row]
    as_current = np.clip((way.held - shares[row]) / np.where(between > 0, between, 1.0), 0, 1)

    def off(values: Array, a: Array = as_current) -> Array:
        low = values[row, column] * (1 - b) + values[row, column + 1] * b
        high = values[row + 1, column] * (1 - b) + values[row + 1, column + 1] * b
        return np.asarray(low * (1 - a) + high * a)

    buses = np.moveaxis(volts_along(behaviour), 1, 0)
    motor_a = off(behaviour.motor) * plant.amps_per_pu
    return Piece(
        key="ramp",
        time_s=way.times,
        speed_pu=way.speeds,
        line_a=off(np.abs(behaviour.line)) * plant.amps_per_pu,
        motor_a=motor_a,
        terminal_pu=off(behaviour.terminal),
        bus_pu=np.stack([off(bus) for bus in buses]),
        torque_nm=off(behaviour.torque, as_torque),
        rotor_j=running(way.times, off(behaviour.rotor_w, as_torque)),
        heat_j=running(way.times, off(behaviour.heat_w, as_torque)),
        i2t_s=running(way.times, (motor_a / plant.locked_current_a) ** 2),
    )
