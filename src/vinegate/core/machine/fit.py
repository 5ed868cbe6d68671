"""A double-cage circuit through what the plate says.

Exact: rated current, power and speed, and locked-rotor current. As near as a circuit can come: locked-rotor and
breakdown torque.

Method. Losses at the rated point (from the efficiency) give the stator resistance, the core resistance and the drag by
a stated split. With a trial stator leakage and magnetising reactance, the rotor's admittance is then known as a complex
number at two slips: rated (from power and current) and standstill (from locked-rotor current and torque). Two cages in
parallel have `Y/s = a0·(1 + α·p)/(β0 + β1·p + β2·p²)` with `p = j·s`: four real parameters, linear in the two complex
numbers. The four equations are solved at once for a whole grid of trials; the best of those that are real cages is
refined twice. (Two-cage admittance: Alger, The Nature of Induction Machines, 2nd ed., chapter 8.)
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Final

import numpy as np
import numpy.typing as npt

from vinegate.core.machine.circuit import Array, Cage, ComplexArray, EquivalentCircuit, breakdown, operate

# Share of the losses that are not the rotor's: stator winding, core, and drag (friction, windage, stray).
# Usual for cage machines of 1 to 500 hp (IEEE 112:2017 assigns 1.2 to 1.8 % of output to stray alone).
LOSS_SPLIT: Final = (0.45, 0.25, 0.30)

Mask = npt.NDArray[np.bool_]

_SLIPS: Final = np.geomspace(5e-3, 1.0, 36)
_WEIGHT_BREAKDOWN: Final = 0.7
_WEIGHT_ABOVE_A_FLOOR: Final = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class Target:
    """What the circuit shall meet. SI units; torques in newton metres, at the gap.

    A torque `is_least` where it is a standard's floor: a circuit above it meets it.
    """

    volts_v: float
    frequency_hz: float
    poles: int
    power_w: float
    current_a: float
    speed_rpm: float
    efficiency_pu: float
    locked_rotor_current_a: float
    locked_rotor_torque_nm: float
    breakdown_torque_nm: float
    locked_rotor_torque_is_least: bool = False
    breakdown_torque_is_least: bool = False

    @property
    def slip(self) -> float:
        synchronous = 120 * self.frequency_hz / self.poles
        return (synchronous - self.speed_rpm) / synchronous


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """A circuit and how far it is from each figure, as a share of it: zero where it passes through."""

    circuit: EquivalentCircuit
    residuals: dict[str, float]
    locked_rotor_power_factor: float
    efficiency_pu: float


@dataclass(frozen=True, slots=True, kw_only=True)
class NoFit:
    """No circuit meets the plate: `odd` names the figure whose change lets one in, `reason` says it in words."""

    odd: str
    reason: str


@dataclass(frozen=True, slots=True)
class _Rated:
    """What follows from the rated point alone."""

    phase_v: float
    slip: float
    r1: float
    core_w: float
    drag_w: float
    gap_w: float
    current: complex


@lru_cache(maxsize=2048)
def fit(target: Target) -> Fit | NoFit:
    """The circuit nearest the target, or which of its figures is the odd one out. Cached by its facts."""
    rated = _rated(target)
    if isinstance(rated, NoFit):
        return rated
    found = _search(target, rated)
    return found if found is not None else _odd_one_out(target)


def _rated(target: Target) -> _Rated | NoFit:
    """Split the losses; refuse what cannot be."""
    phase_v = target.volts_v / math.sqrt(3)
    input_w = target.power_w / target.efficiency_pu
    power_factor = input_w / (3 * phase_v * target.current_a)
    slip = target.slip
    if not 0 < slip < 0.3:
        return NoFit(odd="speed", reason="the speed is not just below a synchronous speed")
    if power_factor >= 0.995:
        text = f"power, amperes and efficiency together need a power factor of {power_factor:.2f}"
        return NoFit(odd="full_load_current", reason=text)
    loss_w = input_w - target.power_w
    s_stator, s_core, s_drag = LOSS_SPLIT
    # drag = s_drag·(loss − rotor), rotor = s/(1 − s)·(power + drag)
    k = slip / (1 - slip)
    drag_w = s_drag * (loss_w - k * target.power_w) / (1 + s_drag * k)
    if drag_w <= 0:
        least = target.power_w * (1 + k)
        text = f"the slip alone costs {k * target.power_w:.0f} W of the {loss_w:.0f} W that the efficiency leaves"
        return NoFit(odd="efficiency" if least > input_w else "speed", reason=text)
    rotor_w = k * (target.power_w + drag_w)
    rest_w = loss_w - rotor_w - drag_w
    stator_w = rest_w * s_stator / (s_stator + s_core)
    current = target.current_a * complex(power_factor, -math.sqrt(1 - power_factor**2))
    return _Rated(
        phase_v=phase_v,
        slip=slip,
        r1=stator_w / (3 * target.current_a**2),
        core_w=rest_w - stator_w,
        drag_w=drag_w,
        gap_w=target.power_w + drag_w + rotor_w,
        current=current,
    )


@dataclass(frozen=True, slots=True)
class _Trials:
    """A flat grid: stator leakage, share of the rated gap susceptance that magnetises, locked-rotor torque."""

    x1: Array
    share: Array
    torque: Array


@dataclass(frozen=True, slots=True)
class _Solved:
    """The trials' circuits; `good` marks those with two real cages."""

    xm: Array
    rfe: Array
    r: Array
    x: Array
    good: Mask
    top: Array


def _search(target: Target, rated: _Rated) -> Fit | None:
    """Coarse grid, then twice a finer one about the best."""
    x_lr = target.volts_v / math.sqrt(3) / target.locked_rotor_current_a
    rotor_a = rated.gap_w / (3 * rated.phase_v)
    single_cage = rated.gap_w * rated.slip * (target.locked_rotor_current_a / rotor_a) ** 2
    most = max(
        1.7 * target.locked_rotor_torque_nm, 1.3 * single_cage * target.poles / (4 * math.pi * target.frequency_hz)
    )
    axes: list[Array] = [
        np.linspace(0.1, 0.6, 6) * x_lr,
        np.linspace(0.55, 0.99, 9),
        np.geomspace(0.35 * target.locked_rotor_torque_nm, most, 13),
    ]
    best: tuple[float, EquivalentCircuit] | None = None
    for _ in range(3):
        trials = _grid(axes)
        solved = _solve(target, rated, trials)
        cost = _cost(target, trials, solved)
        index = int(np.argmin(cost))
        if not np.isfinite(cost[index]):
            break
        if best is None or cost[index] < best[0]:
            best = float(cost[index]), _circuit(target, rated, trials, solved, index)
        chosen = (trials.x1[index], trials.share[index], trials.torque[index])
        axes = [_closer(axis, float(value)) for axis, value in zip(axes, chosen, strict=True)]
    return _report(target, best[1]) if best else None


def _closer(axis: Array, value: float) -> Array:
    """Five points from one neighbour of the best to the other."""
    place = int(np.searchsorted(axis, value))
    low, high = axis[max(place - 1, 0)], axis[min(place + 1, len(axis) - 1)]
    return np.linspace(low, high, 5)


def _grid(axes: Sequence[Array]) -> _Trials:
    x1, share, torque = (grid.ravel() for grid in np.meshgrid(*axes, indexing="ij"))
    return _Trials(x1=x1, share=share, torque=torque)


def _solve(target: Target, rated: _Rated, trials: _Trials) -> _Solved:
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
    y_still, possible = _standstill(z_lr, z_1, trials, synchronous / i2, y_m)
    r, x, good = _cages(rated.slip, y_rated, y_still)
    good = good & possible & (b_m > 0) & (trials.x1 > 0)
    top = _largest_torque(rated, z_1, y_m, r, x, synchronous)
    return _Solved(xm=1 / b_m, rfe=1 / g_core, r=r, x=x, good=good, top=top)


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


def _cages(slip: float, y_rated: ComplexArray, y_still: ComplexArray) -> tuple[Array, Array, Mask]:
    """Two cages with these admittances at `slip` and at 1: arrays (2, n) of ohms, and which are real and positive."""
    rows = []
    for s, y in ((slip, y_rated), (1.0, y_still)):
        p = 1j * s
        h = y / s
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


def _largest_torque(
    rated: _Rated, z_1: ComplexArray, y_m: ComplexArray, r: Array, x: Array, synchronous: float
) -> Array:
    """Largest gap torque of each trial over a grid of slips."""
    s = _SLIPS[:, None]
    y_r = s / (r[0] + 1j * s * x[0]) + s / (r[1] + 1j * s * x[1])
    gap = rated.phase_v / (1 + z_1 * (y_r + y_m))
    return np.asarray((3 * np.abs(gap) ** 2 * y_r.real / synchronous).max(axis=0))


def _cost(target: Target, trials: _Trials, solved: _Solved) -> Array:
    start = trials.torque / target.locked_rotor_torque_nm - 1
    top = solved.top / target.breakdown_torque_nm - 1
    cost = _miss(start, target.locked_rotor_torque_is_least)
    cost = cost + _WEIGHT_BREAKDOWN * _miss(top, target.breakdown_torque_is_least)
    return np.where(solved.good, cost, np.inf)


def _miss(share: Array, is_least: bool) -> Array:
    above = _WEIGHT_ABOVE_A_FLOOR if is_least else 1.0
    return np.where(share > 0, above, 1.0) * share**2


def _circuit(target: Target, rated: _Rated, trials: _Trials, solved: _Solved, index: int) -> EquivalentCircuit:
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
                rated = _rated(changed)
                if isinstance(rated, _Rated) and _search(changed, rated) is not None:
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
