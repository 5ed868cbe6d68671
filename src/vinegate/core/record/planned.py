"""The planned start as a recording: waves of three phases, and what they are made from."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.capture.recording import Channel, Recording
from vinegate.core.record.found import Against
from vinegate.core.records import dataclass

_THIRD: Final = 2 * np.pi / 3
_AHEAD_S: Final = 0.4
_MOST_S: Final = 90.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Envelope:
    """Rms line volts and amperes, speed and phase angle against time from the onset."""

    time_s: Array
    line_a: Array
    line_v: Array
    speed_pu: Array
    angle_rad: Array
    before_v: float
    hertz: float
    synchronous_rpm: float


def envelope(plan: Against) -> Envelope | None:
    """Of the way in use, with a while of running after it; None where it was not simulated."""
    plant, comparison = plan.plant, plan.comparison
    if plant is None or comparison is None or comparison.detail is None:
        return None
    detail = comparison.detail
    time = np.array(detail.time_s)
    ends = min(float(time[-1]) * 1.35 + 1.0, _MOST_S)
    speed = np.array(detail.speed_pct) / 100
    share = np.array(detail.boards_pct[plan.board_at]) / 100
    impedance = plant.z_motor + plant.z_run
    angle = np.interp(speed, plant.speed_pu, np.angle(impedance))

    def on(values: Array) -> Array:
        return np.append(values, values[-1])

    return Envelope(
        time_s=np.append(time, ends), line_a=on(np.array(detail.line_a)), line_v=on(share * plant.board_v),
        speed_pu=on(speed), angle_rad=on(angle), before_v=detail.before_pct[plan.board_at] / 100 * plant.board_v,
        hertz=plant.frequency_hz, synchronous_rpm=plant.synchronous_rad_s * 30 / np.pi,
    )  # fmt: skip


def waves(found: Envelope, *, rate_hz: float = 2000.0, station: str = "PLAN", offset: bool = False) -> Recording:
    """Three line volts, three currents and the speed. With `offset` the first cycles carry their direct part."""
    count = int((_AHEAD_S + float(found.time_s[-1])) * rate_hz)
    time = np.arange(count) / rate_hz
    since = time - _AHEAD_S
    on = since >= 0
    turn = 2 * np.pi * found.hertz * time
    volts = np.where(on, np.interp(since, found.time_s, found.line_v), found.before_v)
    amps = np.where(on, np.interp(since, found.time_s, found.line_a), 0.0)
    angle = np.interp(since, found.time_s, found.angle_rad)
    channels = [Channel(name=name, phase="", unit="V", values=np.sqrt(2) * volts * np.sin(turn - k * _THIRD))
                for k, name in enumerate(("U12", "U23", "U31"))]  # fmt: skip
    begins = 2 * np.pi * found.hertz * _AHEAD_S
    for k, name in enumerate(("I1", "I2", "I3")):
        phase = turn - np.pi / 6 - k * _THIRD - angle
        wave = np.sqrt(2) * amps * np.sin(phase)
        if offset:
            first = np.sqrt(2) * found.line_a[0] * np.sin(begins - np.pi / 6 - k * _THIRD - found.angle_rad[0])
            decay = max(float(np.tan(found.angle_rad[0])) / (2 * np.pi * found.hertz), 1e-3)
            wave = wave - np.where(on, first * np.exp(-np.maximum(since, 0.0) / decay), 0.0)
        channels.append(Channel(name=name, phase="", unit="A", values=wave))
    speed = np.where(on, np.interp(since, found.time_s, found.speed_pu), 0.0) * found.synchronous_rpm
    channels.append(Channel(name="n", phase="", unit="rpm", values=speed))
    return Recording(station=station, edition="", time_s=time, channels=tuple(channels), hertz=found.hertz,
                     trigger_s=_AHEAD_S)  # fmt: skip


def readings(found: Envelope, *, every_s: float = 0.02, station: str = "PLAN") -> Recording:
    """The same as rms: what a meter of so many readings a second would give."""
    time = np.arange(0.0, float(found.time_s[-1]), every_s)
    columns = (("I", "A", found.line_a), ("U", "V", found.line_v), ("n", "rpm", found.speed_pu * found.synchronous_rpm))
    channels = tuple(Channel(name=name, phase="", unit=unit, values=np.interp(time, found.time_s, values))
                     for name, unit, values in columns)  # fmt: skip
    return Recording(station=station, edition="", time_s=time, channels=channels, hertz=found.hertz)
