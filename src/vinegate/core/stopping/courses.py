"""How a machine slows down: time, heat and current along the speed axis, from running speed to rest."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Final

import numpy as np

from vinegate.core.machine.circuit import Array, EquivalentCircuit, operate, rotor_admittance
from vinegate.core.starting.trace import running

POINTS: Final = 241
_BEND: Final = 1.6  # speeds lie closer together towards rest, where DC injection's torque peaks
_STALLS: Final = 1e-4
_AT_REST: Final = 0.005  # of running speed: where a torque that fades towards rest has done its work


@dataclass(frozen=True, slots=True, kw_only=True)
class Turning:
    """What is turning: speeds in rad/s from running down to rest, the load's torque there, N·m, and the inertia."""

    omega: Array
    load_nm: Array
    inertia_kgm2: float
    rated_nm: float

    @property
    def energy_j(self) -> float:
        """Kinetic energy at running speed."""
        return 0.5 * self.inertia_kgm2 * float(self.omega[0]) ** 2

    def lighter(self, share: float, rotor_kgm2: float) -> Turning:
        """The same with a share of the load's torque and inertia; the rotor's own stays."""
        load = max(self.inertia_kgm2 - rotor_kgm2, 0.0)
        return Turning(
            omega=self.omega,
            load_nm=self.load_nm * share,
            inertia_kgm2=rotor_kgm2 + share * load,
            rated_nm=self.rated_nm,
        )


def speeds_down(running_rad_s: float) -> Array:
    """Speeds from running to rest."""
    return running_rad_s * np.linspace(1.0, 0.0, POINTS) ** _BEND


@dataclass(frozen=True, slots=True, kw_only=True)
class Slowing:
    """Against `time_s`: speed in percent of running, torque that brakes, amperes in the line. None: it never stops.

    `rotor_j` is the rotor's heat, `brake_j` what is turned into heat outside the machine.
    """

    time_s: Array
    speed_pct: Array
    brake_nm: Array
    line_a: Array
    stops_s: float | None
    rotor_j: float
    brake_j: float

    def copper_j(self, r1_ohm: float) -> float:
        """Heat of the stator's three windings, wye equivalent, J."""
        return float(running(self.time_s, 3 * self.line_a**2 * r1_ohm)[-1])

    def winding_s(self, locked_a: float) -> float:
        """`∫(I/I_LR)² dt`: seconds at rest under locked-rotor current that heat the winding as much."""
        return float(running(self.time_s, (self.line_a / locked_a) ** 2)[-1])


def slow(turning: Turning, brake_nm: Array, *, line_a: Array, rotor_w: Array, outside_w: Array) -> Slowing:
    """`t = ∫ J dω/(T_brake + T_load)` over the speed axis; it hangs where that torque is not positive.

    `outside_w` is what brake or resistor takes at each speed.
    """
    total = brake_nm + turning.load_nm
    weak = np.flatnonzero(total <= _STALLS * turning.rated_nm)
    last = int(weak[0]) if weak.size else turning.omega.size
    hangs = last < turning.omega.size and turning.omega[last] > _AT_REST * turning.omega[0]
    omega = turning.omega[:last]
    pace = turning.inertia_kgm2 / total[:last]
    times = running(-omega, pace) if last > 1 else np.zeros(1)
    shown = omega if last else turning.omega[:1]
    heat = running(times, rotor_w[: shown.size])
    work = running(times, outside_w[: shown.size])
    return Slowing(
        time_s=times,
        speed_pct=100 * shown / turning.omega[0],
        brake_nm=brake_nm[: shown.size],
        line_a=line_a[: shown.size],
        stops_s=None if hangs else float(times[-1]),
        rotor_j=float(heat[-1]),
        brake_j=float(work[-1]),
    )


def dc_torque(circuit: EquivalentCircuit, omega: Array, direct_a: float) -> Array:
    """Braking torque at these speeds with direct current through two leads, N·m.

    The standing field is that of `√(2/3)·I_dc` alternating; the rotor turns against it at the slip `ω/ω_s`
    (Fitzgerald, Electric Machinery, 6th ed., section 6.5, current-fed). Unsaturated: near rest the real torque is less.
    """
    slip = np.maximum(omega / circuit.synchronous_rad_s(), 1e-9)
    rotor = rotor_admittance(circuit.cages, slip)
    amps = direct_a * math.sqrt(2 / 3)
    gap_v2 = np.abs(amps / (rotor + 1 / (1j * circuit.xm_ohm))) ** 2
    return np.asarray(3 * gap_v2 * rotor.real / circuit.synchronous_rad_s())


def plugging(circuit: EquivalentCircuit, omega: Array, volts_v: float) -> tuple[Array, Array, Array]:
    """Torque, line amperes and rotor watts with two leads exchanged: the same machine at a slip of `1 + ω/ω_s`."""
    run = operate(circuit, 1 + omega / circuit.synchronous_rad_s(), volts_v=volts_v)
    return run.gap_torque_nm, run.line_current_a, run.rotor_loss_w
