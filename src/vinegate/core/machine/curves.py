"""The machine against speed, at any volts and frequency."""

from __future__ import annotations

import math

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.machine.circuit import EquivalentCircuit, Operation, operate
from vinegate.core.machine.tabulated import Tabulated, read_off
from vinegate.core.records import dataclass

Model = EquivalentCircuit | Tabulated


def run_at(model: Model, slip: Array, *, volts_v: float, frequency_hz: float | None = None) -> Operation:
    """What the machine does at these slips, whichever way it is known."""
    if isinstance(model, Tabulated):
        return read_off(model, slip, volts_v=volts_v, frequency_hz=frequency_hz)
    return operate(model, slip, volts_v=volts_v, frequency_hz=frequency_hz)


@dataclass(frozen=True, slots=True, kw_only=True)
class Curves:
    """From standstill to just below synchronous speed. Torque is the shaft's, losses are all but the shaft's power."""

    volts_v: float
    frequency_hz: float
    speed_rpm: Array
    torque_nm: Array
    line_current_a: Array
    power_factor: Array
    loss_w: Array


def curves(circuit: Model, *, volts_v: float, frequency_hz: float | None = None, count: int = 121) -> Curves:
    """Arrays of `count` values over speed, closer together towards synchronous speed, where the curves bend."""
    hertz = frequency_hz or circuit.frequency_hz
    slip = np.linspace(1.0, 0.0, count) ** 1.7
    slip[-1] = 1e-6
    run = run_at(circuit, slip, volts_v=volts_v, frequency_hz=hertz)
    synchronous_rpm = circuit.synchronous_rad_s(hertz) * 30 / math.pi
    return Curves(
        volts_v=volts_v,
        frequency_hz=hertz,
        speed_rpm=synchronous_rpm * (1 - slip),
        torque_nm=run.torque_nm,
        line_current_a=run.line_current_a,
        power_factor=run.power_factor,
        loss_w=run.input_w - run.shaft_w,
    )


def carrying_slip(model: Model, torque_nm: float, *, volts_v: float) -> float | None:
    """The slip at which it carries so much torque at its shaft; None where it gives less at most."""
    slip = np.geomspace(1e-4, 1.0, 161)
    torque = run_at(model, slip, volts_v=volts_v).torque_nm
    top = int(np.argmax(torque)) + 1
    return float(np.interp(torque_nm, torque[:top], slip[:top])) if torque[top - 1] >= torque_nm else None
