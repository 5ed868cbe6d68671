"""A double-cage circuit through what the plate says.

Exact: rated current, power and speed, and locked-rotor current. As near as a circuit can come: locked-rotor and
breakdown torque.

Method. Losses at the rated point (from the efficiency) give the stator resistance, where it was not measured, the core
resistance and the drag by size. Leakage is full up to breakdown and saturates towards rest, and the rotor is warm at
rated load and cooler in a locked-rotor test: with both, ordinary small machines meet all their stated torques. With a
trial stator leakage, magnetising reactance and saturation, the rotor's admittance is then known as a complex number at
two slips: rated (from power and current) and standstill (from locked-rotor current and torque). Two cages in parallel
have `Y/s = a0·(1 + α·p)/(β0 + β1·p + β2·p²)` with `p = j·s`: four real parameters, linear in the two complex numbers.
The four equations are solved at once for a whole grid of trials; the best of those that are real cages is refined
twice. (Two-cage admittance: Alger, The Nature of Induction Machines, 2nd ed., chapter 8.)
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache
from typing import Final

import numpy as np
import numpy.typing as npt

from vinegate.core.arrays import Array
from vinegate.core.machine.circuit import (
    Cage,
    ComplexArray,
    EquivalentCircuit,
    breakdown,
    left_at,
    operate,
)
from vinegate.core.machine.target import NoFit, RatedPoint, Target, rated_point
from vinegate.core.records import dataclass, replace

Mask = npt.NDArray[np.bool_]

_SLIPS: Final = np.geomspace(1e-2, 1.0, 24)
_LEFT: Final = np.array([0.4, 0.55, 0.7, 0.85, 1.0])
_FINER: Final = 4
_COLD: Final = (1.0, 0.85, 0.7)
_NEAR: Final = 0.05
_LATE: Final = 1.4
_WEIGHT_SADDLE: Final = 0.003
_WEIGHT_SLIP: Final = 0.012
_WEIGHT_LEFT: Final = 0.0005
_WEIGHT_BREAKDOWN: Final = 0.7
_WEIGHT_SPLIT: Final = 0.0001
_SPLIT: Final = 0.67
"""Stator's over rotor's leakage up to breakdown, of ordinary cages: IEEE 112-2017 5.9, design B. What a plate says does
not tell one split from another, and a drive that keeps the flux gives by it: among equals the usual one is taken."""
_WEIGHT_ABOVE_A_FLOOR: Final = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """A circuit and how far it is from each figure, as a share of it: zero where it passes through."""

    circuit: EquivalentCircuit
    residuals: dict[str, float]
    locked_rotor_power_factor: float
    efficiency_pu: float


@lru_cache(maxsize=2048)
def fit(target: Target) -> Fit | NoFit:
    """The circuit nearest the target, or which of its figures is the odd one out. Cached by its facts."""
    rated = rated_point(target)
    if isinstance(rated, NoFit):
        return rated
    found = _best(target, rated)
    return found if found is not None else _odd_one_out(target)


def _best(target: Target, rated: RatedPoint) -> Fit | None:
    """The first rotor, from warm to cold at rest, with which every torque is near; else the nearest of them."""
    best: tuple[float, Fit] | None = None
    for cold in _COLD:
        found = _search(target, rated, cold)
        if found is None:
            continue
        off = _off(target, found)
        if best is None or off < best[0] - _NEAR / 4:
            best = off, found
        if off <= _NEAR:
            break
    return best[1] if best else None


def _off(target: Target, found: Fit) -> float:
    """How far the torques are from those asked; more than a floor is not off."""
    start, top = found.residuals["locked_rotor_torque"], found.residuals["breakdown_torque"]
    late = breakdown(found.circuit, volts_v=target.volts_v).slip / target.breakdown_slip / _LATE - 1
    return max(
        -start if target.locked_rotor_torque_is_least else abs(start),
        -top if target.breakdown_torque_is_least else abs(top),
        min(late, 1.0),
        0.0,
    )


@dataclass(frozen=True, slots=True)
class _Trials:
    """A flat grid: stator leakage, share of the rated gap susceptance that magnetises, locked-rotor torque, leakage
    left at rest.
    """

    x1: Array
    share: Array
    torque: Array
    left: Array
    cold: float


@dataclass(frozen=True, slots=True)
class _Solved:
    """The trials' circuits; `good` marks those with two real cages."""

    xm: Array
    rfe: Array
    r: Array
    x: Array
    good: Mask
    top: Array
    top_slip: Array
    pull_up: Array
    x2: Array


def _search(target: Target, rated: RatedPoint, cold: float = 1.0) -> Fit | None:
    """Coarse grid, then twice a finer one about the best; the rotor at rest has `cold` of its running resistance."""
    x_lr = target.volts_v / math.sqrt(3) / target.locked_rotor_current_a
    rotor_a = rated.gap_w / (3 * rated.phase_v)
    single_cage = rated.gap_w * rated.slip * (target.locked_rotor_current_a / rotor_a) ** 2
    most = max(
        1.7 * target.locked_rotor_torque_nm, 1.3 * single_cage * target.poles / (4 * math.pi * target.frequency_hz)
    )
    axes: list[Array] = [
        np.linspace(0.1, 0.9, 5) * x_lr,
        np.linspace(0.55, 0.98, 6),
        np.append(
            np.array([0.85, 0.95, 1.0]) * target.locked_rotor_torque_nm,
            np.geomspace(1.1 * target.locked_rotor_torque_nm, most, 5),
        ),
        _LEFT,
    ]
    best: tuple[float, EquivalentCircuit] | None = None
    for _ in range(3):
        trials = _grid(axes, cold)
        solved = _solve(target, rated, trials)
        cost = _cost(target, trials, solved)
        index = int(np.argmin(cost))
        if not np.isfinite(cost[index]):
            break
        if best is None or cost[index] < best[0]:
            best = float(cost[index]), _circuit(target, rated, trials, solved, index)
        chosen = (trials.x1[index], trials.share[index], trials.torque[index], trials.left[index])
        axes = [_closer(axis, float(value)) for axis, value in zip(axes, chosen, strict=True)]
    return _report(target, best[1]) if best else None


def _closer(axis: Array, value: float) -> Array:
    """Five points from one neighbour of the best to the other."""
    place = int(np.searchsorted(axis, value))
    low, high = axis[max(place - 1, 0)], axis[min(place + 1, len(axis) - 1)]
    return np.linspace(low, high, _FINER)


def _grid(axes: Sequence[Array], cold: float) -> _Trials:
    x1, share, torque, left = (grid.ravel() for grid in np.meshgrid(*axes, indexing="ij"))
    return _Trials(x1=x1, share=share, torque=torque, left=left, cold=cold)


def _solve(target: Target, rated: RatedPoint, trials: _Trials) -> _Solved:
    """Rotor admittance at the two slips for every trial, and the two cages that have it."""
    z_1 = rated.r1 + 1j * trials.x1
    gap_v = rated.phase_v - rated.current * z_1
    gap_v2 = np.abs(gap_v) ** 2
    y_total = rated.current / gap_v
    g_core = rated.core_w / (3 * gap_v2)
    b_m = trials.share * -y_total.imag
    y_m = g_core - 1j * b_m
    y_rated = y_total - g_core + 1j * b_m
    y_rated = rated.gap_w / (3 * gap_v2) + 1j * y_rated.imag
    z_lr = rated.phase_v / target.locked_rotor_current_a
    synchronous = 4 * math.pi * target.frequency_hz / target.poles
    i2 = 3 * target.locked_rotor_current_a**2
    z_still = rated.r1 + 1j * trials.x1 * trials.left
    y_still, possible = _standstill(z_lr, z_still, trials, synchronous / i2, y_m)
    r, x, good = _cages(rated.slip, y_rated, y_still, trials)
    good = good & possible & (b_m > 0) & (trials.x1 > 0)
    torque = _torques(rated, target.breakdown_slip, trials, y_m, r, x) * (3 / synchronous)
    best = torque.argmax(axis=0)
    return _Solved(
        xm=1 / b_m,
        rfe=1 / g_core,
        r=r,
        x=x,
        good=good,
        top=torque.max(axis=0),
        top_slip=_SLIPS[best],
        pull_up=torque[_SLIPS >= 0.3].min(axis=0),
        x2=_leakage(target.breakdown_slip, r, x),
    )


def _standstill(
    z_lr: float, z_1: ComplexArray, trials: _Trials, per_torque: float, y_m: ComplexArray
) -> tuple[ComplexArray, Mask]:
    """Rotor admittance at standstill from the magnitude of the impedance and the gap power of the wanted torque.

    Gap power is input less stator and core loss; core loss hangs on the gap volts, so it is met by three rounds.
    """
    resistance = z_1.real + trials.torque * per_torque
    y_rotor = np.zeros_like(z_1)
    possible = np.zeros(z_1.shape, dtype=bool)
    for _ in range(4):
        possible = resistance < 0.98 * z_lr
        reactance = np.sqrt(np.maximum(z_lr**2 - resistance**2, 0))
        z_gap = resistance + 1j * reactance - z_1
        core = np.abs(z_gap) ** 2 * y_m.real
        resistance = z_1.real + trials.torque * per_torque + core
        y_rotor = 1 / z_gap - y_m
    return y_rotor, possible & (y_rotor.real > 0)


def _cages(slip: float, y_rated: ComplexArray, y_still: ComplexArray, trials: _Trials) -> tuple[Array, Array, Mask]:
    """Two cages with these admittances at `slip` and at 1: arrays (2, n) of ohms, and which are real and positive.

    `Σ s/(c·r + j·s·κ·x)` is `1/c` of the same sum at `p = j·s·κ/c`, with the shares of leakage and resistance at rest.
    """
    rows = []
    for s, y, share, cold in (
        (slip, y_rated, np.ones_like(trials.left), 1.0),
        (1.0, y_still, trials.left, trials.cold),
    ):
        p = 1j * s * share / cold
        h = y * cold / s
        terms = np.stack([h, h * p, h * p * p, np.full_like(h, -p)], axis=-1)
        rows += [terms.real, terms.imag]
    matrix = np.stack(rows, axis=-2)
    right = np.broadcast_to(np.array([1.0, 0.0, 1.0, 0.0]), matrix.shape[:-1])
    with np.errstate(all="ignore"):
        b0, b1, b2, a = np.linalg.solve(matrix, right[..., None])[..., 0].T
        root = np.sqrt(b1**2 - 4 * b0 * b2)
        poles = np.stack([(-b1 + root) / (2 * b2), (-b1 - root) / (2 * b2)])
        # 1/(r + x·p) has the pole −r/x and the residue 1/x
        other = poles[::-1]
        x = b2 * (poles - other) / (1 + a * poles)
        r = -poles * x
    good = np.isfinite(r).all(axis=0) & np.isfinite(x).all(axis=0) & (r > 0).all(axis=0) & (x > 0).all(axis=0)
    return np.where(good, r, 1.0), np.where(good, x, 1.0), good


def _torques(rated: RatedPoint, from_slip: float, trials: _Trials, y_m: ComplexArray, r: Array, x: Array) -> Array:
    """Gap power per phase of each trial over a grid of slips."""
    s = _SLIPS[:, None]
    share, warm = left_at(s, from_slip, trials.left), left_at(s, from_slip, trials.cold)
    y_r = s / (warm * r[0] + 1j * s * share * x[0]) + s / (warm * r[1] + 1j * s * share * x[1])
    gap = rated.phase_v / (1 + (rated.r1 + 1j * share * trials.x1) * (y_r + y_m))
    return np.asarray(np.abs(gap) ** 2 * y_r.real)


def _leakage(slip: float, r: Array, x: Array) -> Array:
    """Of both cages together at this slip, ohms."""
    return np.asarray((1 / (1 / (r / slip + 1j * x)).sum(axis=0)).imag)


def _cost(target: Target, trials: _Trials, solved: _Solved) -> Array:
    start = trials.torque / target.locked_rotor_torque_nm - 1
    top = solved.top / target.breakdown_torque_nm - 1
    cost = _miss(start, target.locked_rotor_torque_is_least)
    cost = cost + _WEIGHT_BREAKDOWN * _miss(top, target.breakdown_torque_is_least)
    cost = cost + _WEIGHT_SLIP * np.log(np.maximum(solved.top_slip / target.breakdown_slip, 1)) ** 2
    cost = cost + _WEIGHT_LEFT * (1 - trials.left) ** 2
    split = np.log(trials.x1 / np.maximum(solved.x2, 1e-3 * trials.x1) / _SPLIT)
    cost = cost + _WEIGHT_SPLIT * split**2
    if target.pull_up_torque_nm:
        saddle = solved.pull_up / target.pull_up_torque_nm - 1
        cost = cost + np.where(saddle > 0, _WEIGHT_SADDLE, 1.0) * saddle**2
    return np.where(solved.good, cost, np.inf)


def _miss(share: Array, is_least: bool) -> Array:
    above = _WEIGHT_ABOVE_A_FLOOR if is_least else 1.0
    return np.where(share > 0, above, 1.0) * share**2


def _circuit(target: Target, rated: RatedPoint, trials: _Trials, solved: _Solved, index: int) -> EquivalentCircuit:
    cages = sorted(zip(solved.r[:, index].tolist(), solved.x[:, index].tolist(), strict=True))
    drag_w = rated.drag_w / (1 - rated.slip) ** 3
    return EquivalentCircuit(
        r1_ohm=rated.r1,
        x1_ohm=float(trials.x1[index]),
        xm_ohm=float(solved.xm[index]),
        rfe_ohm=float(solved.rfe[index]),
        cages=tuple(Cage(r_ohm=r, x_ohm=x) for r, x in cages),
        poles=target.poles,
        frequency_hz=target.frequency_hz,
        drag_w=drag_w,
        saturated=float(trials.left[index]),
        cold=trials.cold,
        changes_from=target.breakdown_slip,
    )


def _report(target: Target, circuit: EquivalentCircuit) -> Fit:
    run = operate(circuit, np.array([target.slip, 1.0]), volts_v=target.volts_v)
    top = breakdown(circuit, volts_v=target.volts_v)
    efficiency = float(run.shaft_w[0] / run.input_w[0])
    residuals = {
        "power": float(run.shaft_w[0]) / target.power_w - 1,
        "full_load_current": float(run.line_current_a[0]) / target.current_a - 1,
        "locked_rotor_current": float(run.line_current_a[1]) / target.locked_rotor_current_a - 1,
        "efficiency": efficiency / target.efficiency_pu - 1,
        "locked_rotor_torque": float(run.gap_torque_nm[1]) / target.locked_rotor_torque_nm - 1,
        "breakdown_torque": top.torque_nm / target.breakdown_torque_nm - 1,
    }
    return Fit(
        circuit=circuit,
        residuals=residuals,
        locked_rotor_power_factor=float(run.power_factor[1]),
        efficiency_pu=efficiency,
    )


def _odd_one_out(target: Target) -> NoFit:
    """Change one figure at a time until a circuit passes: the one that needs the least change is the odd one."""
    tries = []
    for step in (0.05, 0.1, 0.2, 0.35):
        for name in ("locked_rotor_current_a", "current_a", "efficiency_pu"):
            for sign in (1, -1):
                value = getattr(target, name) * (1 + sign * step)
                changed = replace(target, **{name: min(value, 0.985) if name == "efficiency_pu" else value})
                rated = rated_point(changed)
                if isinstance(rated, RatedPoint) and _search(changed, rated, _COLD[-1]) is not None:
                    tries.append((step, name, sign))
        if tries:
            break
    if not tries:
        return NoFit(odd="several", reason="no single figure, changed by a third, lets a circuit through the plate")
    step, name, sign = tries[0]
    words = {
        "locked_rotor_current_a": ("locked_rotor_current", "locked-rotor current"),
        "current_a": ("full_load_current", "rated current"),
        "efficiency_pu": ("efficiency", "efficiency"),
    }
    odd, said = words[name]
    more = "higher" if sign > 0 else "lower"
    return NoFit(odd=odd, reason=f"a circuit would pass if the {said} were about {100 * step:.0f} % {more}")
