"""A soft starter whose volts go with time: marched on the speed axis, each step solved for the time it takes."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from vinegate.core.machine.circuit import Array
from vinegate.core.starting.connection import Connection, behave
from vinegate.core.starting.courses import outcome_at
from vinegate.core.starting.plant import Plant, place_on_axis
from vinegate.core.starting.run_up import RunUp, at_speed_place, run_up, stop_after
from vinegate.core.starting.trace import Course, Outcome, Piece, piece_between, sums, volts_along

_LEVELS = 13
_WAITS = 6
_SHOWN_PARTS = 60
_TINY = 1e-12


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
    place = place_on_axis(1 - float(way.speeds[-1]), plant.points)
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


def _march(grid: RunUp, shares: Array, ramp: Ramp, enough: float) -> _Way:
    """From speed to speed: `Δω = a·Δt + ½·a'·Δt²` solved for Δt, `a` at the step's middle, `a'` by the rising volts.

    Where it does not gain, it waits until the volts have risen so far. Ends at speed, or with the ramp.
    """
    plant = grid.plant
    rate = 1 / (plant.inertia_kgm2 * plant.synchronous_rad_s)
    last, part = int(enough), enough - int(enough)
    middle = (grid.spare_nm[:, :-1] + grid.spare_nm[:, 1:]) / 2
    if last < plant.points - 1:  # the last step ends inside its cell
        middle[:, last] = grid.spare_nm[:, last] + part / 2 * (grid.spare_nm[:, last + 1] - grid.spare_nm[:, last])
    middle = (middle * rate).T.tolist()
    speed_at = plant.speed_pu.tolist()
    first_square = float(shares[0]) ** 2
    most_level = _LEVELS - 1 - 1e-9
    per_level = (_LEVELS - 1) / (1.0 - first_square) if first_square < 1 else 0.0
    times, speeds, held = [0.0], [0.0], [ramp.kick or ramp.held(ramp.kick_s)]
    now, index, speed, longest = ramp.kick_s, 0, 0.0, ramp.ramp_s / _SHOWN_PARTS
    if ramp.kick_s > 0:
        index, speed = _kicked(grid, shares, ramp)
        times.append(now)
        speeds.append(speed)
        held.append(ramp.kick)

    def gain(at: float) -> tuple[float, float]:
        square, slope = ramp.squared(at)
        level = min(max((square - first_square) * per_level, 0.0), most_level)
        row = int(level)
        low, high = middle[index][row], middle[index][row + 1]
        return low + (level - row) * (high - low), (high - low) * per_level * slope

    while index < plant.points - 1 and index < enough:
        step = (speed_at[index + 1] if index + 1 <= enough else _speed_at(speed_at, enough)) - speed
        value, rise = gain(now)
        if value <= 0 and rise > _TINY:
            now = _until_it_gains(gain, now, ramp.ends_s)
            value, rise = gain(now)
        if now > times[-1]:
            times.append(now)
            speeds.append(speed)
            held.append(ramp.held(now))
        value = max(value, 0.0)
        if now >= ramp.ends_s or (value <= _TINY and rise <= _TINY):
            break
        takes = (math.sqrt(value**2 + 2 * rise * step) - value) / rise if rise > _TINY else step / value
        takes = min(takes, ramp.ends_s - now)
        parts = 1 + int(takes / longest)  # a slow step is shown in parts: the volts rise on meanwhile
        for part_of in range(1, parts + 1):
            t = takes * part_of / parts
            times.append(now + t)
            speeds.append(speed + value * t + 0.5 * rise * t**2)
            held.append(ramp.held(now + t))
        now, speed = times[-1], speeds[-1]
        index += 1
        if ramp.ends_s - now < 1e-12:
            break
    return _Way(np.array(times), np.array(speeds), np.array(held))


def _until_it_gains(gain: Callable[[float], tuple[float, float]], now: float, ends_s: float) -> float:
    """The moment at which the rising volts balance the load, by Newton; the ramp's end at the latest."""
    begun = now
    for _ in range(_WAITS):
        value, rise = gain(now)
        if rise <= _TINY:
            break
        now = min(max(now - value / rise, begun), ends_s)
    return now


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
    place = np.clip([place_on_axis(1 - float(s), plant.points) for s in way.speeds], 0, plant.points - 1 - 1e-9)
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
