"""A start from a drive: volts and frequency rise together, current is held to a limit."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.assumed import preset
from vinegate.core.machine.curves import run_at
from vinegate.core.records import dataclass
from vinegate.core.start.courses import outcome_at
from vinegate.core.start.plant import Plant
from vinegate.core.start.run_up import RunUp, at_speed_place, stop_after
from vinegate.core.start.trace import SAMPLES, Course, Outcome, Piece, running

_EFFICIENCY = preset("drive_efficiency")
_COS_PHI = preset("drive_cos_phi")
COUNTED: Final = 0.9
"""Of the speed at which a ramp ends: up to there the torque that is left counts."""


def available_torque(plant: Plant, limit: float, breaks: float = 1.0) -> Array:
    """The most torque at every speed up to synchronous: as the drive's sheet works it. `breaks`: of a machine with so
    many times the breakdown torque that is taken.

    Without that sheet, by the current limit: `T = T_n·√((k²·I_n² − I_0²)/(I_n² − I_0²))`, no more than the machine has.
    """
    if plant.drive is not None:
        return plant.drive.short_at(plant.omega * 30 / math.pi, breaks)
    idle = _idle_a(plant)
    rated2 = plant.rated_current_a**2 - idle**2
    by_current = math.sqrt(max((limit * plant.rated_current_a) ** 2 - idle**2, 0) / rated2) * plant.rated_torque_nm
    own = float((plant.gap_nm * plant.plate_pu**2 - plant.drag_nm).max())
    return np.full_like(plant.slip, min(by_current, breaks * own))


def _idle_a(plant: Plant) -> float:
    """Current without load, kept below the rated."""
    run = run_at(plant.model, np.array([1e-4]), volts_v=plant.plate_v)
    return min(float(run.line_current_a[0]), 0.95 * plant.rated_current_a)


@dataclass(frozen=True, slots=True, kw_only=True)
class Rise:
    """What a ramp is held to: the most torque at every speed, where it settles at its own, and rad/s² asked."""

    most_nm: Array
    settles: float | None
    rate: float


def drive_course(plant: Plant, full: RunUp, *, ramp_s: float, limit: float, loss_share: float) -> tuple[Course, float]:
    """Up the ramp of frequency; `loss_share` is the machine's rated loss over its output."""
    rise = Rise(most_nm=available_torque(plant, limit), settles=None, rate=plant.synchronous_rad_s / max(ramp_s, 0.1))
    return ramped(plant, full, rise, lambda torque, times, end: _piece(plant, torque, times, end, loss_share))


def ramped(
    plant: Plant, full: RunUp, rise: Rise, piece_of: Callable[[Array, Array, float], Piece]
) -> tuple[Course, float]:
    """Acceleration is the ramp's, or what the limit leaves.

    Returns the course and its least margin: available less load torque, over rated.
    """
    spare = rise.most_nm - plant.load_nm
    stop = first_loss(spare, plant.rated_torque_nm)
    settles = rise.settles
    if settles is None:
        settles = stop_after(full, full.row("full"), 0.0 if stop >= plant.points - 1 else stop)
    reached = outcome_at(full, stop)
    if stop >= plant.points - 1:
        settles = _running_place(full) if rise.settles is None else rise.settles
        reached = Outcome.REACHES
    end = at_speed_place(full, settles) if reached is Outcome.REACHES else stop
    gain = np.minimum(rise.rate, np.maximum(spare, 1e-6 * plant.rated_torque_nm) / plant.inertia_kgm2)
    d_omega = np.diff(plant.omega)
    steps = d_omega * (1 / gain[:-1] + 1 / gain[1:]) / 2
    times = np.concatenate([[0.0], np.cumsum(steps)])
    torque = np.minimum(plant.load_nm + plant.inertia_kgm2 * gain, rise.most_nm)  # stalled, it gives no more
    piece = piece_of(torque, times, end)
    counted = plant.speed_pu <= COUNTED * full.speed_pu_at(end)
    margin = float(spare[counted].min()) / plant.rated_torque_nm if counted.any() else 0.0
    course = Course(
        pieces=(piece,),
        outcome=reached,
        duration_s=float(piece.time_s[-1]) if reached is Outcome.REACHES else None,
        settled_pu=piece.bus_pu[:, -1],
        final_speed_pu=full.speed_pu_at(settles if reached is Outcome.REACHES else stop),
    )
    return course, margin


def _running_place(full: RunUp) -> float:
    """Where the machine settles on mains once at speed: the last loss of spare torque."""
    spare = full.spare_nm[full.row("full")]
    gains = np.flatnonzero(spare > 0)
    return float(gains[-1]) if gains.size else float(full.plant.points - 1)


def first_loss(spare: Array, rated_nm: float) -> float:
    """Where the torque that is left is gone first, else the axis' end."""
    lost = np.flatnonzero(spare <= 1e-4 * rated_nm)
    return float(lost[0]) if lost.size else float(spare.size - 1)


def _rated_speed_pu(plant: Plant) -> float:
    torque = plant.gap_nm * plant.plate_pu**2 - plant.drag_nm
    last = np.flatnonzero(torque >= plant.rated_torque_nm)
    return float(1 - plant.slip[last[-1]]) if last.size else 0.97


def _piece(plant: Plant, torque: Array, times: Array, end: float, loss_share: float) -> Piece:
    places, axis = np.linspace(0, end, SAMPLES), plant.axis
    t, nm = np.interp(places, axis, times), np.interp(places, axis, torque)
    speed = np.interp(places, axis, plant.speed_pu)
    idle = _idle_a(plant)
    motor = np.sqrt(idle**2 + (nm / plant.rated_torque_nm) ** 2 * (plant.rated_current_a**2 - idle**2))
    rated_w = plant.rated_torque_nm * plant.synchronous_rad_s
    losses = loss_share * rated_w * (motor / plant.rated_current_a) ** 2
    input_pu = plant.motors * (nm * speed * plant.synchronous_rad_s + losses) / _EFFICIENCY / plant.va_per_pu
    angle = complex(1.0, -math.sqrt(1 / _COS_PHI**2 - 1))
    line = input_pu * angle * (2 if plant.fed_by_one else 1)  # of two lines, there and back
    seen = plant.seen
    buses = np.abs(seen.volts(line))
    slip_speed = (1 - _rated_speed_pu(plant)) * plant.synchronous_rad_s
    return Piece(
        key="drive",
        time_s=t,
        speed_pu=speed,
        line_a=np.abs(line) * plant.amps_per_pu * (3**0.5 / 2 if plant.fed_by_one else 1.0),
        motor_a=motor,
        terminal_pu=speed,
        bus_pu=buses,
        torque_nm=nm,
        rotor_j=running(t, nm * slip_speed * nm / plant.rated_torque_nm),
        heat_j=running(t, losses),
        i2t_s=running(t, (motor / plant.locked_current_a) ** 2),
    )
