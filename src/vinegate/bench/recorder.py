"""The recorder: waves of a start with noise, quantisation, a trigger that wavers, samples that are lost; seeded."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from vinegate.bench.faults import FAULTS, made_wrong
from vinegate.core.capture.recording import SIMULATED, Channel, Recording
from vinegate.core.record.found import Against
from vinegate.core.record.planned import waves


def record(
    plan: Against, fault: str = "none", *, seed: int = 1, rate_hz: float = 2000.0, noise_pu: float = 0.004,
    lost: int = 0, reversed_clamp: str = "",
) -> Recording | None:  # fmt: skip
    """A capture of the planned start with this fault; None where the plan cannot be run with it."""
    wrong = FAULTS[fault]
    found = made_wrong(plan, wrong)
    if found is None:
        return None
    clean = waves(found, rate_hz=rate_hz, station=SIMULATED, offset=True)
    chance = np.random.default_rng(seed)
    runs = _runs(clean)
    channels = []
    for channel in clean.channels:
        values = channel.values.copy()
        if channel.name in ("I1", "I2", "I3"):
            share = wrong.phases[int(channel.name[1]) - 1]
            values = np.where(runs, values * share, values) * wrong.amps_times
            values = -values if channel.name == reversed_clamp else values
        if channel.unit == "V":
            values = values * wrong.volts_phases[("U12", "U23", "U31").index(channel.name)]
        most = float(np.max(np.abs(values))) or 1.0
        values += chance.normal(0.0, noise_pu * most, values.size)
        if channel.unit == "A" and wrong.clip_pu:
            values = np.clip(values, -wrong.clip_pu * most, wrong.clip_pu * most)
        step = most / 8000
        values = np.round(values / step) * step
        for place in chance.integers(0, values.size, lost):
            values[place] = np.nan
        channels.append(Channel(name=channel.name, phase=channel.phase, unit=channel.unit, values=values))
    return replace(clean, channels=tuple(channels))


def _runs(found: Recording) -> np.typing.NDArray[np.bool_]:
    """Where it is at speed."""
    speed = next(one.values for one in found.channels if one.unit == "rpm")
    return speed > 0.95 * float(speed[-1])
