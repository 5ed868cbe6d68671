"""Starts put together from connections: one alone, one after another, and a soft starter's ramp in time."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from vinegate.core.machine.circuit import Array
from vinegate.core.starting.connection import Connection, behave
from vinegate.core.starting.plant import Plant, coarser, place_on_axis
from vinegate.core.starting.run_up import RunUp, at_speed_place, run_up, stop_after
from vinegate.core.starting.trace import Course, Outcome, Piece, dead_piece, piece_between, sums, volts_along

_HANGS_BELOW = 0.90  # a machine that settles below this share of synchronous speed hangs
_RAMP_LEVELS = 9
_RAMP_STEPS = 600
_WIDEST = 0.004
_GROWTH = 1.3
_COARSER = 4
_TOP = 0.9999
_HALVINGS = 14


def outcome_at(runs: RunUp, place: float) -> Outcome:
    """What it means to settle at this place."""
    if place <= 0.5:
        return Outcome.STALLS
    return Outcome.HANGS if runs.speed_pu_at(place) < _HANGS_BELOW else Outcome.REACHES


def alone(runs: RunUp, key: str) -> Course:
    """One connection from rest to speed."""
    return in_turn(runs, [Turn(key=key)], dead_s=0.0, before=None)


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
    parts: list[tuple[int, float, float]] = []
    changes: list[float] = []
    waited_heat = {"rotor_j": 0.0, "heat_j": 0.0, "i2t_s": 0.0}
    for turn in turns[:-1]:
        row = runs.row(turn.key)
        stop = stop_after(runs, row, place)
        end, waits = _end_of(runs, row, turn, place, stop, now)
        pieces.append(piece_between(runs, row, place, end, now))
        parts.append((row, place, end))
        now = float(pieces[-1].time_s[-1])
        if waits > 0:
            pieces.append(_standing(pieces[-1], now, waits))
            _add_standing(waited_heat, runs, row, end, waits)
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
    parts.append((row, place, end))
    total = sums(runs, parts)
    return Course(
        pieces=tuple(pieces),
        outcome=reached,
        duration_s=float(pieces[-1].time_s[-1]) if reached is Outcome.REACHES else None,
        final_speed_pu=runs.speed_pu_at(stop),
        changes_s=tuple(changes),
        **{name: total[name] + waited_heat[name] for name in total},
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
    return max(min(wanted, at_speed_place(runs, stop)), place), 0.0


def _standing(piece: Piece, now: float, seconds: float) -> Piece:
    """Standing at the speed where a connection stopped gaining."""

    def twice(values: Array) -> Array:
        return np.repeat(values[..., -1:], 2, axis=-1)

    return Piece(
        key=piece.key,
        time_s=np.array([now, now + seconds]),
        speed_pu=twice(piece.speed_pu),
        line_a=twice(piece.line_a),
        motor_a=twice(piece.motor_a),
        terminal_pu=twice(piece.terminal_pu),
        bus_pu=twice(piece.bus_pu),
        torque_nm=twice(piece.torque_nm),
    )


def _add_standing(found: dict[str, float], runs: RunUp, row: int, place: float, seconds: float) -> None:
    plant, behaviour = runs.plant, runs.behaviour
    locked = plant.locked_current_a / plant.amps_per_pu
    found["rotor_j"] += seconds * runs.read(behaviour.rotor_w, row, place)
    found["heat_j"] += seconds * runs.read(behaviour.heat_w, row, place)
    found["i2t_s"] += seconds * runs.read((behaviour.winding / locked) ** 2, row, place)


def ramped(plant: Plant, full: RunUp, held_at: Callable[[float], float], ramp_s: float) -> Course:
    """A soft starter whose share of volts goes with time: fixed steps until the ramp ends, then the full connection.

    `held_at(t)` is the share of volts at t. Torque is read off a grid of shares and speeds solved beforehand; steps
    are by the midpoint rule.
    """
    least = max(min(held_at(0.0), held_at(ramp_s * 0.02)), 0.05)
    shares = np.sqrt(np.linspace(least**2, 1.0, _RAMP_LEVELS))
    coarse = coarser(plant, _COARSER)
    grid = run_up(coarse, behave(coarse, [Connection(key=f"{s:.4f}", hold=float(s)) for s in shares]))
    settles = stop_after(full, full.row("full"), 0.0)
    enough = full.speed_pu_at(settles) if outcome_at(full, settles) is Outcome.REACHES else 1.0
    times, speeds = _march(grid, shares, held_at, ramp_s, 0.99 * enough)
    held = np.array([held_at(float(t)) for t in times])
    ramp, begun = _ramp_piece(grid, shares, times, speeds, held)
    place = place_on_axis(1 - float(speeds[-1]), plant.points)
    row = full.row("full")
    stop = stop_after(full, row, place)
    reached = outcome_at(full, stop)
    target = at_speed_place(full, stop)
    there = place >= target
    if there:
        ramp, begun = _cut(ramp, begun, full.speed_pu_at(target))
    locked = plant.locked_current_a / plant.amps_per_pu
    heat = {
        "rotor_j": float(np.trapezoid(begun["rotor_w"], ramp.time_s)),
        "heat_j": float(np.trapezoid(begun["heat_w"], ramp.time_s)),
        "i2t_s": float(np.trapezoid((ramp.motor_a / plant.amps_per_pu / locked) ** 2, ramp.time_s)),
    }
    end = target if reached is Outcome.REACHES else stop
    rest = None if there else piece_between(full, row, place, end, float(times[-1]))
    more = dict.fromkeys(heat, 0.0) if there else sums(full, [(row, place, end)])
    pieces = (ramp,) if rest is None else (ramp, rest)
    return Course(
        pieces=pieces,
        outcome=reached,
        duration_s=float(pieces[-1].time_s[-1]) if reached is Outcome.REACHES else None,
        final_speed_pu=full.speed_pu_at(stop),
        changes_s=(),
        **{name: heat[name] + more[name] for name in heat},
    )


def _cut(piece: Piece, rates: dict[str, Array], speed_pu: float) -> tuple[Piece, dict[str, Array]]:
    """A ramp up to the moment it passes this speed."""
    last = int(np.argmax(piece.speed_pu >= speed_pu))
    before, after = piece.speed_pu[last - 1], piece.speed_pu[last]
    share = float((speed_pu - before) / (after - before)) if after > before else 1.0
    place = np.append(np.arange(last, dtype=float), last - 1 + share)
    axis = np.arange(piece.time_s.size, dtype=float)

    def cut(values: Array) -> Array:
        return np.asarray(np.interp(place, axis, values))

    names = ("time_s", "speed_pu", "line_a", "motor_a", "terminal_pu", "torque_nm")
    kept = Piece(
        key=piece.key,
        bus_pu=np.stack([cut(bus) for bus in piece.bus_pu]),
        **{name: cut(getattr(piece, name)) for name in names},
    )
    return kept, {name: cut(values) for name, values in rates.items()}


def _march(
    grid: RunUp, shares: Array, held_at: Callable[[float], float], ramp_s: float, enough: float
) -> tuple[Array, Array]:
    """Speed (of synchronous) against time while the volts ramp, until it is `enough`.

    Midpoint rule, no step longer than a share of the ramp or wider than a share of the speed. Near its balance a step
    would overshoot: the machine then follows the balance.
    """
    plant, spare, points = grid.plant, grid.spare_nm.tolist(), grid.plant.points
    rate = 1 / (plant.inertia_kgm2 * plant.synchronous_rad_s)
    first_square, levels = float(shares[0]) ** 2, len(shares) - 1
    per_level = levels / (float(shares[-1]) ** 2 - first_square or 1.0)

    def gain(at: float, speed: float) -> float:
        level = min(max((held_at(at) ** 2 - first_square) * per_level, 0.0), levels - 1e-9)
        row = int(level)
        place = place_on_axis(1 - speed, points)
        column = min(int(place), points - 2)
        a, b, lower, upper = level - row, place - column, spare[row], spare[row + 1]
        low = lower[column] + b * (lower[column + 1] - lower[column])
        value: float = (low + a * (upper[column] + b * (upper[column + 1] - upper[column]) - low)) * rate
        return value

    now, speed, longest = _breaks_away(gain, ramp_s), 0.0, ramp_s / _RAMP_STEPS
    times, speeds = ([0.0, now], [0.0, 0.0]) if now > 0 else ([0.0], [0.0])
    step = longest / 32
    while now < ramp_s and speed <= enough:
        first = gain(now, speed)
        step = min(longest, _GROWTH * step, _WIDEST / first if first > 0 else longest, ramp_s - now)
        if first > 0:
            middle = min(speed + 0.5 * step * first, _TOP)
            second = gain(now + 0.5 * step, middle)
            new = min(speed + step * second, _TOP)
            if second <= 0 or gain(now + step, new) < 0:
                new = _balance(gain, now + step, speed, max(new, middle))
            speed = max(new, speed)  # volts only rise: it does not fall back
        now = ramp_s if ramp_s - now - step < 1e-9 else now + step
        times.append(now)
        speeds.append(speed)
    return np.array(times), np.array(speeds)


def _breaks_away(gain: Callable[[float, float], float], ramp_s: float) -> float:
    """The moment at which torque at rest first exceeds the load; near the ramp's end when it never does."""
    if gain(0.0, 0.0) > 0:
        return 0.0
    low, high = 0.0, 0.98 * ramp_s
    step = ramp_s / _RAMP_STEPS
    for count in range(1, _RAMP_STEPS):
        if gain(count * step, 0.0) > 0:
            low, high = (count - 1) * step, count * step
            break
    else:
        return high
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (low, middle) if gain(middle, 0.0) > 0 else (middle, high)
    return high


def _balance(gain: Callable[[float, float], float], at: float, low: float, high: float) -> float:
    """Speed between two at which the machine stops gaining; `low` when it does not gain there. By halving."""
    if gain(at, low) <= 0:
        return low
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if gain(at, middle) > 0 else (low, middle)
    return low


def _level(shares: Array, held: Array) -> Array:
    """Fractional index of these shares of volts on the grid's levels: even in their squares, as torque goes."""
    span = float(shares[-1] ** 2 - shares[0] ** 2) or 1.0
    return np.asarray(np.clip((held**2 - shares[0] ** 2) / span, 0, 1) * (len(shares) - 1))


def _ramp_piece(grid: RunUp, shares: Array, times: Array, speeds: Array, held: Array) -> tuple[Piece, dict[str, Array]]:
    """What the ramp does along its course: currents and volts go with the share of volts, torques with its square."""
    plant, behaviour = grid.plant, grid.behaviour
    level = _level(shares, held)
    place = np.clip([place_on_axis(1 - float(s), plant.points) for s in speeds], 0, plant.points - 1 - 1e-9)
    row, column = np.minimum(level.astype(int), len(shares) - 2), place.astype(int)
    as_torque, b = level - row, place - column
    as_current = np.clip((held - shares[row]) / (shares[row + 1] - shares[row]), 0, 1)

    def off(values: Array, a: Array = as_current) -> Array:
        low = values[row, column] * (1 - b) + values[row, column + 1] * b
        high = values[row + 1, column] * (1 - b) + values[row + 1, column + 1] * b
        return np.asarray(low * (1 - a) + high * a)

    buses = np.stack([volts_along(grid, index) for index in range(len(shares))], axis=1)
    piece = Piece(
        key="ramp",
        time_s=times,
        speed_pu=speeds,
        line_a=off(np.abs(behaviour.line)) * plant.amps_per_pu,
        motor_a=off(behaviour.motor) * plant.amps_per_pu,
        terminal_pu=off(behaviour.terminal),
        bus_pu=np.stack([off(bus) for bus in buses]),
        torque_nm=off(behaviour.torque, as_torque),
    )
    return piece, {"rotor_w": off(behaviour.rotor_w, as_torque), "heat_w": off(behaviour.heat_w, as_torque)}
