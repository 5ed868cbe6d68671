"""A soft stop: volts ramped down behind a soft starter, against coasting when simply switched off."""

from __future__ import annotations

import math

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass
from vinegate.core.start.connection import Connection, behave
from vinegate.core.start.detail import listed
from vinegate.core.start.plant import Plant

USUAL_RAMP_S = 8.0
_LEVELS = 14
_LEAST_SHARE = 0.1  # below it the machine's torque counts as nothing
_STEPS = 400
_ENOUGH_PU = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class SoftStop:
    """Against `time_s`: speed on the ramp and coasting, in percent of synchronous, and line amperes on the ramp.

    `to_a_tenth_s` and `coasts_to_a_tenth_s` are to a tenth of speed; None where the load alone never stops it so far.
    """

    ramp_s: float
    time_s: tuple[float, ...]
    speed_pct: tuple[float, ...]
    coasting_pct: tuple[float, ...]
    line_a: tuple[float, ...]
    to_a_tenth_s: float | None
    coasts_to_a_tenth_s: float | None
    peak_a: float
    rotor_j: float
    heat_j: float = 0.0
    """All of the machine's; nought in a plan of before it was worked."""


def soft_stop(plant: Plant, *, running_pu: float, ramp_s: float, of_torque: bool) -> SoftStop:
    """March volts down from running speed to nothing in `ramp_s`, evenly in volts or in torque.

    Each step is exact for the torque taken as straight between two speeds (exponential Euler; Hochbruck and Ostermann
    2010, section 2), so that the steep part near synchronous speed needs no small steps.
    """
    squares = np.linspace(_LEAST_SHARE**2, 1.0, _LEVELS)
    behaviour = behave(plant, [Connection(key=f"{share:.4f}", hold=math.sqrt(share)) for share in squares])
    grid = np.vstack([-plant.drag_nm, behaviour.torque]) - plant.load_nm
    levels = np.concatenate([[0.0], squares])
    coast = _coasting_s(plant, running_pu)
    ends = ramp_s + (coast if coast is not None else ramp_s)
    times = np.linspace(0, ends, _STEPS + 1)
    shares = _shares(times, ramp_s, of_torque=of_torque)
    middle = _shares(times[:-1] + ends / _STEPS / 2, ramp_s, of_torque=of_torque)
    speeds = _march(plant, grid, levels, middle, running_pu, ends / _STEPS)
    line = np.vstack([np.zeros(plant.points), np.abs(behaviour.line) * plant.amps_per_pu])
    rotor = np.vstack([np.zeros(plant.points), behaviour.rotor_w])
    amps = _read(plant, line, np.sqrt(levels), np.sqrt(shares), speeds)
    whole = np.vstack([np.zeros(plant.points), behaviour.heat_w])
    heat, all_heat = (_read(plant, watts, levels, shares, speeds) for watts in (rotor, whole))
    coasting = _march(plant, grid, levels, np.zeros(_STEPS), running_pu, ends / _STEPS)
    return SoftStop(
        ramp_s=ramp_s,
        time_s=listed(times, 4),
        speed_pct=listed(100 * speeds, 2),
        coasting_pct=listed(100 * coasting, 2),
        line_a=listed(amps, 1),
        to_a_tenth_s=_falls_below(times, speeds, _ENOUGH_PU),
        coasts_to_a_tenth_s=coast,
        peak_a=float(amps.max()),
        rotor_j=float(np.trapezoid(heat, times)),
        heat_j=float(np.trapezoid(all_heat, times)),
    )


def _shares(times: Array, ramp_s: float, *, of_torque: bool) -> Array:
    """Volts squared that are left, as torque goes with them."""
    left = np.clip(1 - times / ramp_s, 0, 1)
    return np.asarray(left if of_torque else left**2)


def _march(plant: Plant, grid: Array, levels: Array, shares: Array, speed: float, step: float) -> Array:
    """Speeds after each step, from `speed`; it does not turn backwards."""
    rate = 1 / (plant.inertia_kgm2 * plant.synchronous_rad_s)
    axis = plant.speed_pu
    rows = np.clip(np.searchsorted(levels, shares) - 1, 0, levels.size - 2)
    parts = (shares - levels[rows]) / (levels[rows + 1] - levels[rows])
    gains, along = (grid * rate).tolist(), axis.tolist()
    speeds, cell = [speed], int(np.clip(np.searchsorted(axis, speed) - 1, 0, axis.size - 2))
    for row, part in zip(rows.tolist(), parts.tolist(), strict=True):
        while cell > 0 and speed < along[cell]:
            cell -= 1
        while cell < len(along) - 2 and speed > along[cell + 1]:
            cell += 1
        low, high = gains[row], gains[row + 1]
        first = low[cell] + part * (high[cell] - low[cell])
        slope = (low[cell + 1] + part * (high[cell + 1] - low[cell + 1]) - first) / (along[cell + 1] - along[cell])
        here = first + slope * (speed - along[cell])
        by = slope * step
        speed = max(speed + here * (math.expm1(by) / slope if abs(by) > 1e-9 else step), 0.0)
        speeds.append(speed)
    return np.array(speeds)


def _read(plant: Plant, grid: Array, levels: Array, shares: Array, speeds: Array) -> Array:
    """A quantity on the grid of levels and speeds, along the way."""
    places = np.clip(np.interp(speeds, plant.speed_pu, plant.axis), 0, plant.points - 1 - 1e-9)
    columns, rows = places.astype(int), np.clip(np.searchsorted(levels, shares) - 1, 0, levels.size - 2)
    a = np.clip((shares - levels[rows]) / (levels[rows + 1] - levels[rows]), 0, 1)
    b = places - columns
    low = grid[rows, columns] * (1 - b) + grid[rows, columns + 1] * b
    high = grid[rows + 1, columns] * (1 - b) + grid[rows + 1, columns + 1] * b
    return np.asarray(low * (1 - a) + high * a)


def _coasting_s(plant: Plant, running_pu: float) -> float | None:
    """Seconds to a tenth of speed by the load and the machine's own friction; None where they do not slow it."""
    speeds = np.linspace(_ENOUGH_PU, running_pu, plant.points)
    slowing = np.interp(speeds, plant.speed_pu, plant.load_nm + plant.drag_nm)
    if slowing.min() <= 1e-4 * plant.rated_torque_nm:
        return None
    return float(np.trapezoid(plant.inertia_kgm2 / slowing, speeds) * plant.synchronous_rad_s)


def _falls_below(times: Array, speeds: Array, level: float) -> float | None:
    under = np.flatnonzero(speeds < level)
    if not under.size:
        return None
    last = int(under[0])
    share = (speeds[last - 1] - level) / (speeds[last - 1] - speeds[last])
    return float(times[last - 1] + share * (times[last] - times[last - 1]))
