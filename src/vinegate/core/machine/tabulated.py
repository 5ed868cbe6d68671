"""A machine known by its curve: from its maker, or by a simple stated model where no circuit is at hand."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

from vinegate.core.arrays import Array
from vinegate.core.machine.circuit import Operation
from vinegate.core.records import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Tabulated:
    """Torque, line current and power factor at rising speeds, at one voltage.

    `top_rpm` is the speed where torque ends (synchronous, or a DC machine's no-load speed). `phase_factor` makes
    volt-amperes of volts and amperes (√3, or 1). Tuples, so that equal facts give equal machines.
    """

    speed_rpm: tuple[float, ...]
    torque_nm: tuple[float, ...]
    current_a: tuple[float, ...]
    power_factor: tuple[float, ...]
    volts_v: float
    frequency_hz: float
    top_rpm: float
    phase_factor: float
    rated_loss_w: float = 0.0

    def synchronous_rad_s(self, frequency_hz: float | None = None) -> float:
        """Speed at the curve's end, rad/s; it goes with the frequency."""
        return self.top_rpm * math.pi / 30 * (frequency_hz or self.frequency_hz) / self.frequency_hz


def read_off(
    machine: Tabulated, slip: npt.ArrayLike, *, volts_v: float, frequency_hz: float | None = None
) -> Operation:
    """The curve at these slips and volts: torque with volts squared, current with volts (any shape).

    At another frequency the curve keeps its shape against slip, which holds for volts kept in proportion.
    Losses other than the whole are not told apart: they stand under the rotor's.
    """
    s = np.asarray(slip, dtype=float)
    scale = frequency_hz / machine.frequency_hz if frequency_hz else 1.0
    flux = volts_v / machine.volts_v / scale
    speeds = np.asarray(machine.speed_rpm)
    at = (1 - s) * machine.top_rpm
    torque = np.interp(at, speeds, machine.torque_nm) * flux**2
    current = np.interp(at, speeds, machine.current_a) * flux
    factor = np.interp(at, speeds, machine.power_factor)
    synchronous = machine.synchronous_rad_s(frequency_hz)
    shaft_w = torque * synchronous * (1 - s)
    input_w = np.maximum(machine.phase_factor * volts_v * current * factor, shaft_w)
    zero = np.zeros_like(s)
    return Operation(
        slip=s,
        line_current_a=current,
        power_factor=factor,
        input_w=input_w,
        stator_loss_w=zero,
        core_loss_w=zero,
        rotor_loss_w=input_w - shaft_w,
        drag_w=zero,
        shaft_w=shaft_w,
        gap_torque_nm=torque,
        torque_nm=torque,
    )


def tabulate(
    *,
    speed: Array,
    torque: Array,
    current: Array,
    power_factor: Array,
    volts_v: float,
    frequency_hz: float,
    top_rpm: float,
    phase_factor: float,
    rated_loss_w: float,
) -> Tabulated:
    """A Tabulated from arrays of one length, speeds rising."""
    return Tabulated(
        speed_rpm=tuple(speed.tolist()),
        torque_nm=tuple(torque.tolist()),
        current_a=tuple(current.tolist()),
        power_factor=tuple(power_factor.tolist()),
        volts_v=volts_v,
        frequency_hz=frequency_hz,
        top_rpm=top_rpm,
        phase_factor=phase_factor,
        rated_loss_w=rated_loss_w,
    )


def lost(rated_loss_w: float, load_pu: Array) -> Array:
    """Loss by load: half of the rated one is constant and half goes with the square of the load, as at its greatest
    efficiency (Fitzgerald, 6th ed., section 7.7).
    """
    return rated_loss_w * (1 + load_pu**2) / 2
