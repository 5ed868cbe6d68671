"""How a machine slows down: time, heat and current along the speed axis, from running speed to rest."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.machine.circuit import EquivalentCircuit, operate
from vinegate.core.records import dataclass, replace
from vinegate.core.start.trace import running

POINTS: Final = 241
TWO_LEADS: Final = math.sqrt(2 / 3)
_BEND: Final = 1.6  # speeds lie closer together towards rest, where DC injection's torque peaks
_STALLS: Final = 1e-4
_AT_REST: Final = 0.005  # of running speed: where a torque that fades towards rest has done its work


@dataclass(frozen=True, slots=True, kw_only=True)
class Turning:
    """What is turning: speeds in rad/s from running down to rest, the load's torque there, N·m, and the inertia.

    A load's torque below nought drives it.
    """

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
        return replace(self, load_nm=self.load_nm * share, inertia_kgm2=rotor_kgm2 + share * load)

    def rubbing(self, times: float) -> Turning:
        """The same with its load's torque so many times as large."""
        return replace(self, load_nm=self.load_nm * times)

    def at(self, omega: Array) -> Turning:
        """The same at other speeds, rad/s; above running speed the torque is that of running speed."""
        load = np.interp(-omega, -self.omega, self.load_nm)
        return replace(self, omega=omega, load_nm=load)


def speeds_down(running_rad_s: float) -> Array:
    """Speeds from running to rest."""
    return running_rad_s * np.linspace(1.0, 0.0, POINTS) ** _BEND


def with_steps(omega: Array, steps: tuple[float, ...]) -> Array:
    """The speeds with a pair about each step, where a torque jumps, so that no interval spans it."""
    pairs = [step * near for step in steps if 0 < step < omega[0] for near in (1 + 1e-9, 1 - 1e-9)]
    return np.unique(np.concatenate([omega, pairs]))[::-1] if pairs else omega


@dataclass(frozen=True, slots=True, kw_only=True)
class Slowing:
    """Against `time_s`: speed in percent of running, torque that brakes, amperes in the line, heat so far.

    `stops_s` is None where it never stops. `rotor_j` is the rotor's heat, `outside_j` what is turned into heat outside
    the machine, each from nought on; `turns` the shaft makes until rest.
    """

    time_s: Array
    speed_pct: Array
    brake_nm: Array
    line_a: Array
    rotor_j: Array
    outside_j: Array
    stops_s: float | None
    turns: float

    def copper_j(self, r1_ohm: float) -> float:
        """Heat of the stator's three windings, wye equivalent, J."""
        return float(running(self.time_s, 3 * self.line_a**2 * r1_ohm)[-1])

    def winding_s(self, locked_a: float) -> float:
        """`∫(I/I_LR)² dt`: seconds at rest under locked-rotor current that heat the winding as much."""
        return float(running(self.time_s, (self.line_a / locked_a) ** 2)[-1])

    def at_speed_s(self, percent: float) -> float:
        """The moment at which it has slowed to a percentage of running speed."""
        return float(np.interp(-percent, -self.speed_pct, self.time_s))


def slow(turning: Turning, brake_nm: Array, *, line_a: Array, rotor_w: Array, outside_w: Array) -> Slowing:
    """`t = ∫ J dω/(T_brake + T_load)` over the speed axis; it hangs where that torque is not positive.

    `outside_w` is what brake or resistor takes at each speed.
    """
    total = brake_nm + turning.load_nm
    weak = np.flatnonzero(total <= _STALLS * turning.rated_nm)
    last = int(weak[0]) if weak.size else turning.omega.size
    hangs = last < turning.omega.size and turning.omega[last] > _AT_REST * turning.omega[0]
    omega = turning.omega[:last]
    times = running(-omega, turning.inertia_kgm2 / total[:last]) if last > 1 else np.zeros(1)
    shown = omega if last else turning.omega[:1]
    size = shown.size
    steps = times[1:] - times[:-1]
    return Slowing(
        time_s=times,
        speed_pct=100 * shown / turning.omega[0],
        brake_nm=brake_nm[:size],
        line_a=line_a[:size],
        rotor_j=_along(steps, rotor_w[:size]),
        outside_j=_along(steps, outside_w[:size]),
        stops_s=None if hangs else float(times[-1]),
        turns=float(np.sum(steps * (shown[1:] + shown[:-1]))) / (4 * math.pi),
    )


def _along(steps: Array, values: Array) -> Array:
    """The running integral over these steps, from nought: trapezoids."""
    found = np.zeros(values.size)
    if values.any():
        (0.5 * steps * (values[1:] + values[:-1])).cumsum(out=found[1:])
    return found


def slowest(stops_s: Sequence[float | None]) -> float | None:
    """The longest of several stops; None where one of them never ends."""
    known = [seconds for seconds in stops_s if seconds is not None]
    return max(known) if len(known) == len(stops_s) else None


def freely(turning: Turning) -> Slowing:
    """With nothing that brakes but the load."""
    nothing = np.zeros(turning.omega.size)
    return slow(turning, nothing, line_a=nothing, rotor_w=nothing, outside_w=nothing)


def after(turning: Turning, delay_s: float) -> tuple[Slowing, Turning] | None:
    """The delay before a brake acts, and what then turns; a load that drives speeds it up. None: it rests before."""
    if float(turning.load_nm[0]) < 0:
        gained = -float(turning.load_nm[0]) / turning.inertia_kgm2 * delay_s
        ends = float(turning.omega[0]) + gained
        times = np.linspace(0, delay_s, 9)
        omega = turning.omega[0] + gained * times / delay_s
    else:
        free = freely(turning)
        if free.stops_s is not None and free.stops_s <= delay_s:
            return None
        times = np.linspace(0, delay_s, 9)
        omega = np.interp(times, free.time_s, free.speed_pct) / 100 * turning.omega[0]
        ends = float(omega[-1])
    nothing = np.zeros(times.size)
    lead = Slowing(
        time_s=times,
        speed_pct=100 * omega / turning.omega[0],
        brake_nm=nothing,
        line_a=nothing,
        rotor_j=nothing,
        outside_j=nothing,
        stops_s=None,
        turns=float(running(times, omega)[-1]) / (2 * math.pi),
    )
    return lead, turning.at(speeds_down(ends))


def joined(lead: Slowing, rest: Slowing) -> Slowing:
    """One course after another, its percentages of the first's running speed."""
    waits = float(lead.time_s[-1])
    return Slowing(
        time_s=np.concatenate([lead.time_s, waits + rest.time_s]),
        speed_pct=np.concatenate([lead.speed_pct, rest.speed_pct * lead.speed_pct[-1] / 100]),
        brake_nm=np.concatenate([lead.brake_nm, rest.brake_nm]),
        line_a=np.concatenate([lead.line_a, rest.line_a]),
        rotor_j=np.concatenate([lead.rotor_j, rest.rotor_j]),
        outside_j=np.concatenate([lead.outside_j, rest.outside_j]),
        stops_s=None if rest.stops_s is None else waits + rest.stops_s,
        turns=lead.turns + rest.turns,
    )


def cut(turning: Turning, course: Slowing, at_s: float) -> Slowing:
    """A course that a timer cuts before rest: from there nothing acts but the load."""
    keep = course.time_s < at_s

    def until(values: Array) -> Array:
        return np.append(values[keep], np.interp(at_s, course.time_s, values))

    speeds = until(course.speed_pct)
    turned = float(running(until(course.time_s), speeds / 100 * turning.omega[0])[-1]) / (2 * math.pi)
    lead = replace(
        course, time_s=until(course.time_s), speed_pct=speeds, brake_nm=until(course.brake_nm),
        line_a=until(course.line_a), rotor_j=until(course.rotor_j), outside_j=until(course.outside_j), stops_s=None,
        turns=turned,
    )  # fmt: skip
    return joined(lead, freely(turning.at(speeds_down(float(speeds[-1]) / 100 * float(turning.omega[0])))))


def staying(course: Slowing, until_s: float) -> Slowing:
    """A current that flows on at rest until a timer opens it."""
    if course.stops_s is None or until_s <= course.stops_s:
        return course

    def held(values: Array) -> Array:
        return np.append(values, values[-1])

    return replace(
        course,
        time_s=np.append(course.time_s, until_s),
        speed_pct=np.append(course.speed_pct, 0.0),
        brake_nm=np.append(course.brake_nm, 0.0),
        line_a=held(course.line_a),
        rotor_j=held(course.rotor_j),
        outside_j=held(course.outside_j),
    )


def dc_torque(circuit: EquivalentCircuit, omega: Array, standing_a: float, most_gap_v: float | None = None) -> Array:
    """Braking torque at these speeds with direct current that makes the field of `standing_a` alternating, N·m.

    The rotor turns against a standing field at the slip `ω/ω_s` (Fitzgerald, Electric Machinery, 6th ed., section 6.5,
    current-fed). `most_gap_v` is where the iron saturates: the gap's volts at rated frequency, phase to neutral.
    """
    slip = np.maximum(omega / circuit.synchronous_rad_s(), 1e-9)
    rotor = circuit.rotor_admittance(slip)
    gap_v = np.abs(standing_a / (rotor + 1 / (1j * circuit.xm_ohm)))
    if most_gap_v is not None:
        gap_v = np.minimum(gap_v, most_gap_v)
    return np.asarray(3 * gap_v**2 * rotor.real / circuit.synchronous_rad_s())


def plugging(circuit: EquivalentCircuit, omega: Array, volts_v: float) -> tuple[Array, Array, Array]:
    """Torque, line amperes and rotor watts with two leads exchanged: the same machine at a slip of `1 + ω/ω_s`."""
    run = operate(circuit, 1 + omega / circuit.synchronous_rad_s(), volts_v=volts_v)
    return run.gap_torque_nm, run.line_current_a, run.rotor_loss_w
