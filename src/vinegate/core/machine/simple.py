"""Simple stated models: single-phase, wound-rotor and direct-current machines from their rated point."""

from __future__ import annotations

import math

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.machine.circuit import Cage, EquivalentCircuit, breakdown_slip
from vinegate.core.machine.tabulated import Tabulated, lost, tabulate
from vinegate.core.records import dataclass

_POINTS = 161
_SUBSTITUTIONS = 40
_GUESS_LEAVES = 0.3  # of `R + √(R² + X²)`; with a half no leakage would be left
_MOST_LOAD = 2.0  # of rated: beyond it loss is counted no further, as it never lasts; assumed
_IDLE_PU = 0.5  # what a single-phase machine draws with nothing coupled, of rated: at least so much; assumed
SWITCH_SLIP = 0.25  # the starting switch opens at about three quarters of synchronous speed


@dataclass(frozen=True, slots=True, kw_only=True)
class RatedPoint:
    """Plate figures in SI; `power_factor` and `loss_w` as far as they follow from the plate."""

    power_w: float
    volts_v: float
    current_a: float
    speed_rpm: float
    frequency_hz: float
    power_factor: float
    loss_w: float = 0.0

    @property
    def torque_nm(self) -> float:
        return self.power_w * 30 / math.pi / self.speed_rpm


def wound_rotor(
    rated: RatedPoint, *, poles: int, breakdown_pu: float, stator_ohm: float | None = None
) -> EquivalentCircuit | None:
    """A circuit with the slip rings shorted, through rated power, speed and current, and the breakdown torque given.

    Leakage is all the rotor's. Without the stator's ohms they are as many as the rotor's, referred, as windings of
    least copper have them: a guess, held to what leaves a breakdown torque. None where those given leave it not.
    Source: Thévenin's form, `T_b = 3·U²/(2·ω_s·(R + √(R² + X²)))` (Fitzgerald, 6th ed., section 6.5); found by
    substitution, as the stator's drop is small.
    """
    synchronous = 4 * math.pi * rated.frequency_hz / poles
    slip = 1 - rated.speed_rpm * math.pi / 30 / synchronous
    phase_v = rated.volts_v / math.sqrt(3)
    stiff_ohm = 3 * phase_v**2 / (2 * synchronous * rated.torque_nm)
    guessed_most = _GUESS_LEAVES * stiff_ohm / breakdown_pu
    cage, xm, r1 = Cage(r_ohm=0.0, x_ohm=0.0), 10 * phase_v / rated.current_a, 0.0
    for _ in range(_SUBSTITUTIONS):
        r1 = min(cage.r_ohm, guessed_most) if stator_ohm is None else stator_ohm
        share = 1 / (1 + r1 / (1j * xm))
        most_ohm = stiff_ohm * abs(share) ** 2
        found = _rotor(r1 * share, most_ohm, breakdown_pu, slip)
        if found is None:
            return None
        cage, rotor = found, complex(found.r_ohm / slip, found.x_ohm)
        xm = _magnetising(rated.current_a, phase_v * share * rotor / (r1 * share + rotor), rotor)
    return EquivalentCircuit(r1_ohm=r1, x1_ohm=0.0, xm_ohm=xm, cages=(cage,), poles=poles,
                             frequency_hz=rated.frequency_hz)  # fmt: skip


def _rotor(stator: complex, most_ohm: float, breakdown_pu: float, slip: float) -> Cage | None:
    """The rotor behind this impedance: its breakdown torque by `R + √(R² + X²)`, rated torque at rated slip."""
    whole = most_ohm / breakdown_pu - stator.real
    if whole <= stator.real:
        return None
    half = most_ohm - stator.real  # (R + r)² + X² = 2·most·r of the rotor's r, its larger root
    r_ohm = slip * (half + math.sqrt(half**2 - whole**2))
    return Cage(r_ohm=r_ohm, x_ohm=math.sqrt(whole**2 - stator.real**2) - stator.imag)


def _magnetising(current_a: float, gap_v: complex, rotor: complex) -> float:
    """The reactance beside the rotor with which they take the rated current."""
    drawn = abs(gap_v) / rotor
    lagging = math.sqrt(max(current_a**2 - drawn.real**2, (1.05 * drawn.imag) ** 2))
    return abs(gap_v) / max(lagging + drawn.imag, 0.05 * current_a)


def single_phase(
    rated: RatedPoint,
    *,
    poles: int,
    locked_rotor_current_a: float,
    locked_rotor_pu: float,
    breakdown_pu: float,
    switched: bool,
) -> Tabulated:
    """Running winding by Kloss, and what the starting winding adds: to the switching speed, or to rated speed.

    Through rated torque, speed and current, locked-rotor current and torque, and about the breakdown torque.
    """
    top = 120 * rated.frequency_hz / poles
    speed = top * (1 - np.linspace(1, 0, _POINTS) ** 1.5)
    slip = 1 - speed / top
    rated_slip = 1 - rated.speed_rpm / top
    peak = breakdown_slip(rated_slip=rated_slip, breakdown_pu=breakdown_pu)
    safe = np.maximum(slip, 1e-9)
    running = 2 * breakdown_pu / (safe / peak + peak / safe)
    ends_at = max(SWITCH_SLIP if switched else 0.0, rated_slip)
    at_rest = 2 * breakdown_pu / (1 / peak + peak)
    starts = np.clip((slip - ends_at) / (1 - ends_at), 0, 1)
    current = _drawn(rated, locked_rotor_current_a, slip, starts, rated_slip=rated_slip, peak=peak)
    needs = running * rated.power_w * speed / rated.speed_rpm + lost(rated.loss_w, np.minimum(running, _MOST_LOAD))
    takes = rated.volts_v * np.maximum(current, 1e-9)
    factor = np.where(slip > rated_slip, np.maximum(needs / takes, rated.power_factor), needs / takes)
    return tabulate(
        speed=speed,
        torque=np.maximum(running + (locked_rotor_pu - at_rest) * starts, 0) * rated.torque_nm,
        current=current,
        power_factor=np.clip(factor, 0.02, 1),
        volts_v=rated.volts_v,
        frequency_hz=rated.frequency_hz,
        top_rpm=top,
        phase_factor=1.0,
        rated_loss_w=rated.loss_w,
    )


def _drawn(
    rated: RatedPoint, locked_rotor_current_a: float, slip: Array, starts: Array, *, rated_slip: float, peak: float
) -> Array:
    """Amperes through those at rest and at rated slip. Idle they are what that leaves, at least half of rated; what the
    running winding then does not take at rest, the starting one does.
    """

    def rotor(at: float | Array) -> float | Array:
        return at**2 * (1 + peak**2) / (at**2 + peak**2)

    at_rated, rated2 = float(rotor(rated_slip)), rated.current_a**2
    idle2 = max((rated2 - locked_rotor_current_a**2 * at_rated) / (1 - at_rated), (_IDLE_PU * rated.current_a) ** 2)
    running2 = idle2 + (rated2 - idle2) / at_rated
    started = max(locked_rotor_current_a - math.sqrt(running2), 0.0)
    return np.asarray(np.sqrt(idle2 + (running2 - idle2) * rotor(slip)) + started * starts)


def armature_resistance(*, power_w: float, volts_v: float, current_a: float) -> float:
    """An estimate of the armature circuit's ohms: half of the rated loss is in it, `R = (U·I − P)/(2·I²)`.

    Rule of maximum efficiency, constant loss equal to load loss (Fitzgerald, 6th ed., section 7.7).
    """
    return max(volts_v * current_a - power_w, 0.02 * power_w) / (2 * current_a**2)


def series_share(kind: str | None) -> float:
    """How much of a commutator machine's rated flux goes with its current."""
    return {"dc-series": 1.0, "universal": 1.0, "dc-compound": 0.5}.get(kind or "", 0.0)


def direct_current(rated: RatedPoint, *, kind: str, resistance_ohm: float) -> Tabulated:
    """Torque and armature current against speed at constant volts, without starting resistance.

    Shunt and permanent magnet: constant flux, `U = k·ω + I·R`. Series, and commutator machines on alternating
    current: flux with current, unsaturated, `U = I·(k·ω + R)`. Compound: half of the rated flux of each kind.
    """
    omega_n = rated.speed_rpm * math.pi / 30
    back = rated.volts_v - rated.current_a * resistance_ohm
    series = series_share(kind)
    k = back / omega_n  # V·s at rated flux
    top = rated.speed_rpm * (2.0 if series == 1.0 else min(rated.volts_v / back, 1.6) / (1 - 0.85 * series))
    speed = np.linspace(0, top, _POINTS)
    omega = speed * math.pi / 30
    # flux/rated = (1 − a) + a·I/I_n, so U = k·ω·flux + I·R is linear in I
    current = (rated.volts_v - k * omega * (1 - series)) / (resistance_ohm + k * omega * series / rated.current_a)
    current = np.maximum(current, 0)
    flux = (1 - series) + series * current / rated.current_a
    rotational = k * rated.current_a - rated.torque_nm  # torque lost to friction and iron at the rated point
    torque = np.maximum(k * flux * current - max(rotational, 0) * speed / rated.speed_rpm, 0)
    return tabulate(
        speed=speed,
        torque=torque,
        current=current,
        power_factor=np.full_like(speed, rated.power_factor),
        volts_v=rated.volts_v,
        frequency_hz=rated.frequency_hz,
        top_rpm=float(top),
        phase_factor=1.0,
        rated_loss_w=rated.loss_w,
    )
