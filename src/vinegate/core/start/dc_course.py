"""A start of a direct-current machine from its own drive: the bridge holds the armature's current to a limit."""

from __future__ import annotations

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.rectifier import Armature
from vinegate.core.start.drive_course import Rise, first_loss, ramped
from vinegate.core.start.plant import Plant
from vinegate.core.start.run_up import RunUp
from vinegate.core.start.trace import SAMPLES, Course, Piece, running


def dc_course(plant: Plant, full: RunUp, armature: Armature, *, ramp_s: float, limit: float) -> tuple[Course, float]:
    """Acceleration is the ramp's or what the limit leaves, up to the speed that rated armature volts give."""
    natural = plant.gap_nm * plant.plate_pu**2 - plant.drag_nm
    most = np.minimum(armature.torque_at(limit), natural)
    settles = first_loss(natural - plant.load_nm, plant.rated_torque_nm)
    rate = plant.synchronous_rad_s * (full.speed_pu_at(settles) or 1.0) / max(ramp_s, 0.1)  # one that never moves: any
    rise = Rise(most_nm=most, settles=settles, rate=rate)
    return ramped(plant, full, rise, lambda torque, times, end: _piece(plant, armature, torque, times, end))


def _piece(plant: Plant, armature: Armature, torque: Array, times: Array, end: float) -> Piece:
    places, axis = np.linspace(0, end, SAMPLES), plant.axis
    t, nm = np.interp(places, axis, times), np.interp(places, axis, torque)
    speed = np.interp(places, axis, plant.speed_pu)
    amps = armature.amps_for(nm)
    volts = armature.volts_at(amps, speed * plant.synchronous_rad_s)
    line, cosine = armature.line_at(amps, volts, plant.board_v)
    drawn = line / plant.amps_per_pu * (cosine - 1j * np.sqrt(1 - cosine**2))
    copper = amps**2 * armature.ohms
    rated_loss = max(armature.volts_v * armature.rated_a - armature.rated_nm * armature.rated_rad_s, 0.0)
    fixed = max(rated_loss - armature.rated_a**2 * armature.ohms, 0.0)
    return Piece(
        key="dc-drive",
        time_s=t,
        speed_pu=speed,
        line_a=armature.bridge.rms * amps,
        motor_a=amps,
        terminal_pu=volts / armature.volts_v,
        bus_pu=np.abs(plant.seen.volts(drawn)),
        torque_nm=nm,
        rotor_j=running(t, copper),
        heat_j=running(t, copper + fixed),
        i2t_s=running(t, (amps / plant.locked_current_a) ** 2),
    )
