"""The induction machine's equivalent circuit, exact (no approximated Thévenin), over arrays of slip."""

from __future__ import annotations

import math
from typing import Any, Final

import numpy as np
import numpy.typing as npt

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass

_RUNNING_SLIP: Final = 0.02

ComplexArray = npt.NDArray[np.complexfloating[Any, Any]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Cage:
    """One rotor circuit, referred to the stator, ohms per phase at `frequency_hz` of its circuit."""

    r_ohm: float
    x_ohm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class EquivalentCircuit:
    """Per phase of the equivalent wye, ohms at `frequency_hz`.

    `rfe_ohm` stands across the magnetising reactance; None where core loss is counted with the drag.
    `drag_w` is friction, windage and stray at synchronous speed; its torque goes with speed squared.
    """

    r1_ohm: float
    x1_ohm: float
    xm_ohm: float
    cages: tuple[Cage, ...]
    poles: int
    frequency_hz: float
    rfe_ohm: float | None = None
    drag_w: float = 0.0
    saturated: float = 1.0
    cold: float = 1.0
    changes_from: float = 0.15

    def leakage(self, slip: npt.ArrayLike) -> Array:
        """Share of the leakage reactances that is left at these slips of the stator's rated frequency.

        Teeth and slot bridges saturate with the leakage flux (Alger, The Nature of Induction Machines, 2nd ed.,
        chapter 7): `saturated` is left at rest and beyond.
        """
        return left_at(slip, self.changes_from, self.saturated)

    def changed(self, slip: npt.ArrayLike) -> tuple[Array, Array]:
        """Shares left of the leakage reactances and of the rotor's resistance at these slips.

        Leakage as in `leakage`; a plate's slip is warm, its locked-rotor figures are measured `cold` (IEEE 112:2017
        7.2).
        """
        grown = grown_at(slip, self.changes_from)
        return 1 - (1 - self.saturated) * grown, 1 - (1 - self.cold) * grown

    def rotor_admittance(self, slip: Array, scale: float = 1.0) -> ComplexArray:
        """Admittance of the rotor circuits in parallel, `Σ s/(r + j·s·x)`; `scale` is frequency over the ohms' own."""
        leakage, warmth = self.changed(scale * slip)
        return self.rotor_with(slip, scale * leakage, warmth)

    def rotor_with(self, slip: Array, leakage: Array, warmth: Array) -> ComplexArray:
        """The same with the shares that are left given."""
        each = (slip / (warmth * cage.r_ohm + (1j * cage.x_ohm) * (slip * leakage)) for cage in self.cages)
        return np.asarray(sum(each), dtype=np.complex128)

    def synchronous_rad_s(self, frequency_hz: float | None = None) -> float:
        """Synchronous speed, mechanical rad/s."""
        return 4 * math.pi * (frequency_hz or self.frequency_hz) / self.poles


def left_at(slip: npt.ArrayLike, from_slip: float, left: npt.ArrayLike) -> Array:
    """`left` of an ohm at rest, all of it up to breakdown at `from_slip`."""
    return np.asarray(1 - (1 - np.asarray(left)) * grown_at(slip, from_slip))


def grown_at(slip: npt.ArrayLike, from_slip: float) -> Array:
    """How far what changes between breakdown, at `from_slip`, and rest has changed: nought to one.

    It goes with the fourth power of what the current of a single cage, `s/√(s² + s_b²)`, has grown by.
    """
    s = np.minimum(np.abs(np.asarray(slip, dtype=float)), 1.0)
    at_breakdown, at_rest = math.sqrt(0.5), 1 / math.hypot(1, from_slip)
    more = (s / np.sqrt(s * s + from_slip**2) - at_breakdown) / max(at_rest - at_breakdown, 1e-9)
    square = np.minimum(np.maximum(more, 0.0), 1.0) ** 2
    return np.asarray(square * square)


@dataclass(frozen=True, slots=True, kw_only=True)
class Operation:
    """What the machine does at each slip: arrays of the slip's shape. Powers are of all three phases."""

    slip: Array
    line_current_a: Array
    power_factor: Array
    input_w: Array
    stator_loss_w: Array
    core_loss_w: Array
    rotor_loss_w: Array
    drag_w: Array
    shaft_w: Array
    gap_torque_nm: Array
    torque_nm: Array


def operate(
    circuit: EquivalentCircuit, slip: npt.ArrayLike, *, volts_v: float, frequency_hz: float | None = None
) -> Operation:
    """Solve the circuit at these slips: any shape, any sign but zero speed counted at s = 1.

    `volts_v` is line to line. Source: IEEE 112:2017 figure of the equivalent circuit; Fitzgerald,
    Electric Machinery, 6th ed., section 6.3.
    """
    s = np.asarray(slip, dtype=float)
    hertz = frequency_hz or circuit.frequency_hz
    k = hertz / circuit.frequency_hz
    left, warmth = circuit.changed(k * s)
    leakage = k * left
    y_rotor = circuit.rotor_with(s, leakage, warmth)
    y_core = 1 / circuit.rfe_ohm if circuit.rfe_ohm else 0.0
    y_gap = y_rotor + 1 / (1j * k * circuit.xm_ohm) + y_core
    z_1 = circuit.r1_ohm + 1j * leakage * circuit.x1_ohm
    phase_v = volts_v / math.sqrt(3)
    current = phase_v * y_gap / (1 + z_1 * y_gap)
    gap_v2 = np.abs(phase_v - current * z_1) ** 2
    gap_w = 3 * gap_v2 * y_rotor.real
    input_w = 3 * phase_v * current.real
    amperes, speed = np.abs(current), 1 - s
    drag_w = circuit.drag_w * np.abs(k * speed) ** 3
    gap_torque = np.asarray(gap_w / circuit.synchronous_rad_s(hertz), dtype=float)
    shaft_w = gap_w * speed - drag_w
    torque = gap_torque - circuit.drag_w * k**2 * speed * np.abs(speed) / circuit.synchronous_rad_s()
    return Operation(
        slip=s,
        line_current_a=amperes,
        power_factor=input_w / (3 * phase_v * amperes),
        input_w=input_w,
        stator_loss_w=3 * amperes**2 * circuit.r1_ohm,
        core_loss_w=3 * gap_v2 * y_core,
        rotor_loss_w=s * gap_w,
        drag_w=drag_w,
        shaft_w=shaft_w,
        gap_torque_nm=gap_torque,
        torque_nm=torque,
    )


def breakdown_slip(*, rated_slip: float, breakdown_pu: float) -> float:
    """Slip of the largest torque from rated slip and overload capacity: `s_b = s_n·(k + √(k² − 1))`.

    Kloss's formula solved for s_b (Fitzgerald, Electric Machinery, 6th ed., section 6.5, stator resistance neglected).

    >>> round(breakdown_slip(rated_slip=0.03, breakdown_pu=2.5), 4)
    0.1437
    """
    return rated_slip * (breakdown_pu + math.sqrt(breakdown_pu**2 - 1))


@dataclass(frozen=True, slots=True, kw_only=True)
class Breakdown:
    """The point of largest torque of the air gap."""

    slip: float
    torque_nm: float


def breakdown(circuit: EquivalentCircuit, *, volts_v: float, frequency_hz: float | None = None) -> Breakdown:
    """Largest gap torque between standstill and synchronous speed.

    One cage: exact Thévenin, `s = r2/√(R_th² + (X_th + x2)²)` (Chapman, Electric Machinery Fundamentals,
    5th ed., eq. 6-52). More cages: the best of a logarithmic grid, refined by a parabola through its neighbours.
    """
    slips = np.array([_single_cage_slip(circuit, frequency_hz)]) if len(circuit.cages) == 1 else _GRID
    torque = operate(circuit, slips, volts_v=volts_v, frequency_hz=frequency_hz).gap_torque_nm
    best = int(np.argmax(torque))
    slip, value = float(slips[best]), float(torque[best])
    if 0 < best < len(slips) - 1:
        slip = _vertex(np.log(slips[best - 1 : best + 2]), torque[best - 1 : best + 2])
        value = float(operate(circuit, slip, volts_v=volts_v, frequency_hz=frequency_hz).gap_torque_nm)
    return Breakdown(slip=slip, torque_nm=value)


_GRID: Final = np.geomspace(1e-3, 1.0, 400)


def _single_cage_slip(circuit: EquivalentCircuit, frequency_hz: float | None) -> float:
    k = (frequency_hz or circuit.frequency_hz) / circuit.frequency_hz
    y_m = 1 / (1j * k * circuit.xm_ohm) + (1 / circuit.rfe_ohm if circuit.rfe_ohm else 0.0)
    z_1 = circuit.r1_ohm + 1j * k * circuit.x1_ohm
    thevenin = z_1 / (1 + z_1 * y_m)
    cage = circuit.cages[0]
    return cage.r_ohm / math.hypot(thevenin.real, thevenin.imag + k * cage.x_ohm)


def _vertex(log_slip: Array, torque: Array) -> float:
    """Slip at the top of the parabola through three points."""
    (a, b, c), (ya, yb, yc) = log_slip, torque
    top = (b - a) ** 2 * (yb - yc) - (b - c) ** 2 * (yb - ya)
    bottom = 2 * ((b - a) * (yb - yc) - (b - c) * (yb - ya))
    return math.exp(b - top / bottom) if bottom else math.exp(b)


def at_running_slip(circuit: EquivalentCircuit) -> complex:
    """Resistance and reactance of the rotor as one cage, as at running slip, ohms."""
    rotor = _RUNNING_SLIP / complex(circuit.rotor_admittance(np.array([_RUNNING_SLIP]))[0])
    return complex(rotor.real, rotor.imag / _RUNNING_SLIP)


def rotor_constant_s(circuit: EquivalentCircuit) -> float:
    """The open-circuit time constant `(X_m + X_2)/(2π·f·R_2)`, s; of several cages together, as at running slip."""
    rotor = at_running_slip(circuit)
    return (circuit.xm_ohm + rotor.imag) / (2 * math.pi * circuit.frequency_hz * rotor.real)
