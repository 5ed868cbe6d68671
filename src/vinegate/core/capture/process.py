"""From waves to amperes and volts against time: true rms each half cycle, and the fundamental over a whole one.

The measured frequency comes from the volts' own crossings. A fully offset start reads 1.7 times its current by rms in
the first cycle, and nearly once by the fundamental: a plan is compared with the fundamental, heat with rms.
"""

from __future__ import annotations

from functools import cached_property
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.capture.mapping import Mapped, is_wave
from vinegate.core.capture.recording import CaptureError
from vinegate.core.records import dataclass

PER_CYCLE: Final = 64
_LEAST_PER_CYCLE: Final = 16
_ABOUT: Final = (-1, 0, 1, 2)


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """Per phase against `time_s`, at each half cycle's end. `phasor` are the fundamentals (peak/√2, complex).

    `wave` where waves were read; `rate_hz` of samples of the file. `peak_a` is the largest instantaneous current.
    """

    time_s: Array
    amps: dict[str, Array]
    volts: dict[str, Array]
    amps_1: dict[str, Array]
    volts_1: dict[str, Array]
    phasor: dict[str, np.typing.NDArray[np.complex128]]
    speed_rpm: Array | None
    hertz: float | None
    wave: bool
    rate_hz: float
    peak_a: float | None
    clipped: bool
    by_neutral: bool = False
    notes: tuple[str, ...] = ()

    def mean_a(self, *, fundamental: bool = True) -> Array:
        """Mean of the phases."""
        return _mean(self.amps_1 if fundamental and self.amps_1 else self.amps, self.time_s.size)

    def mean_v(self) -> Array:
        return _mean(self.volts_1 or self.volts, self.time_s.size)


def _mean(found: dict[str, Array], size: int) -> Array:
    return np.mean(np.stack(list(found.values())), axis=0) if found else np.full(size, np.nan)


def course_of(found: Mapped) -> Course:
    """Raises CaptureError where the time is too short for a cycle."""
    every = {**found.volts, **found.amps}
    if found.time_s.size < 4:
        raise CaptureError("fewer than four samples.")
    wave = [role for role, values in every.items() if is_wave(values)]
    if not wave:
        return _as_read(found)
    rate = (found.time_s.size - 1) / float(found.time_s[-1] - found.time_s[0])
    hertz = _hertz(found, rate)
    if rate < _LEAST_PER_CYCLE * hertz:
        raise CaptureError(
            f"{rate:.0f} samples a second are {rate / hertz:.1f} a cycle: {_LEAST_PER_CYCLE} are needed to "
            "tell waves from their aliases."
        )
    count = int((found.time_s[-1] - found.time_s[0]) * hertz * PER_CYCLE)
    if count < 2 * PER_CYCLE:
        raise CaptureError("shorter than two cycles.")
    grid = found.time_s[0] + np.arange(count) / (hertz * PER_CYCLE)
    between = _Between(time_s=found.time_s, grid_s=grid)
    even = {role: between.filled(values) for role, values in every.items()}
    half = PER_CYCLE // 2
    ends = np.arange(PER_CYCLE, count, half)
    rms = {role: _rms(values, ends) for role, values in even.items()}
    turns = np.exp(-2j * np.pi * np.arange(count) / PER_CYCLE)
    phasors = {role: _fundamental(values, turns, ends) for role, values in even.items()}
    notes = []
    if rate < 1000:
        notes.append("Below 1000 samples a second peaks and spikes are not seen whole.")
    peaks = [float(np.nanmax(np.abs(values))) for role, values in found.amps.items()]
    return Course(
        time_s=grid[ends] - grid[0], amps={role: rms[role] for role in found.amps},
        volts={role: rms[role] for role in found.volts}, amps_1={role: np.abs(phasors[role]) for role in found.amps},
        volts_1={role: np.abs(phasors[role]) for role in found.volts}, phasor=phasors,
        speed_rpm=between.filled(found.speed_rpm)[ends] if found.speed_rpm is not None else None,
        hertz=hertz, wave=True, rate_hz=rate, peak_a=max(peaks) if peaks else None,
        clipped=any(_clipped(values) for values in found.amps.values()), notes=tuple(notes),
    )  # fmt: skip


def _as_read(found: Mapped) -> Course:
    """Readings that are rms already: taken as they are."""
    time = found.time_s - found.time_s[0]
    rate = (time.size - 1) / float(time[-1]) if time[-1] > 0 else 0.0
    notes = []
    if rate < 50:
        notes.append(f"{rate:.3g} readings a second: the most and the least may lie between them; what is read is at "
                     "least so much, never “low”.")  # fmt: skip
    fill = {role: _filled(found.time_s, values, found.time_s) for role, values in {**found.amps, **found.volts}.items()}
    return Course(
        time_s=time, amps={role: fill[role] for role in found.amps}, volts={role: fill[role] for role in found.volts},
        amps_1={}, volts_1={}, phasor={}, speed_rpm=found.speed_rpm, hertz=found.hertz, wave=False, rate_hz=rate,
        peak_a=None, clipped=False, by_neutral=found.by_neutral, notes=tuple(notes),
    )  # fmt: skip


@dataclass(frozen=True, kw_only=True, eq=False)
class _Between:
    """Samples at `time_s` brought onto other times, `grid_s`."""

    time_s: Array
    grid_s: Array

    def filled(self, values: Array) -> Array:
        """There; holes on the straight line between what is known."""
        known = np.isfinite(values)
        if not known.any():
            return np.zeros(self.grid_s.size)
        if known.all() and values.size > 8 and is_wave(values):
            low, weights = self._cubic
            return np.asarray(sum(share * values[low + shift] for shift, share in zip(_ABOUT, weights, strict=True)))
        return _filled(self.time_s, values, self.grid_s)

    @cached_property
    def _cubic(self) -> tuple[np.typing.NDArray[np.intp], tuple[Array, ...]]:
        """Four neighbors and their weights (Lagrange): straight lines would cut a wave's tops by 1 % at 17 samples a
        cycle.
        """
        place = np.interp(self.grid_s, self.time_s, np.arange(self.time_s.size))
        low = np.clip(place.astype(np.intp), 1, self.time_s.size - 3)
        x = place - low
        ahead, behind = (x + 1) * x, (x - 1) * (x - 2)
        return low, (-x * behind / 6, (x + 1) * behind / 2, -ahead * (x - 2) / 2, ahead * (x - 1) / 6)


def _filled(time: Array, values: Array, grid: Array) -> Array:
    """On straight lines between what is known."""
    known = np.isfinite(values)
    if not known.any():
        return np.zeros(grid.size)
    found: Array = np.interp(grid, time[known], values[known])
    return found


def _hertz(found: Mapped, rate: float) -> float:
    """From crossings of nought of the first volts, else amperes, smoothed; the file's own where there are too few."""
    slow: float | None = None
    for values in (*found.volts.values(), *found.amps.values()):
        if not is_wave(values):
            continue
        known = np.nan_to_num(values - np.nanmean(values))
        width = max(int(rate / 600), 1)
        smooth = np.convolve(known, np.ones(width) / width, "same")
        floor = 0.2 * float(np.percentile(np.abs(smooth), 90))
        state = np.where(smooth > floor, 1, np.where(smooth < -floor, -1, 0))
        said = state[state != 0]
        places = np.flatnonzero(state != 0)
        rises = places[1:][(said[1:] == 1) & (said[:-1] == -1)]
        if rises.size >= 6:
            steps = np.diff(found.time_s[rises])
            middle = float(np.median(steps))
            good = steps[np.abs(steps - middle) < 0.2 * middle]
            hertz = slow = 1 / float(np.mean(good))
            if 10 <= hertz <= 400:
                return hertz
    if found.hertz and 10 <= found.hertz <= 400:
        return found.hertz
    if slow is not None and 10 <= 1000 * slow <= 400:
        raise CaptureError(f"its waves have {slow:.3g} Hz with its time in seconds, {1000 * slow:.3g} Hz in ms: write "
                           "the unit in the column's head.")  # fmt: skip
    raise CaptureError("no frequency can be read from it.")


def _rms(values: Array, ends: np.typing.NDArray[np.int_]) -> Array:
    """True rms over the cycle that ends there."""
    total = np.concatenate([[0.0], np.cumsum(values**2)])
    return np.asarray(np.sqrt(np.maximum((total[ends] - total[ends - PER_CYCLE]) / PER_CYCLE, 0.0)))


def _fundamental(
    values: Array, turns: np.typing.NDArray[np.complex128], ends: np.typing.NDArray[np.int_]
) -> np.typing.NDArray[np.complex128]:
    """Over the cycle that ends there, by the discrete transform: `√2/N·Σ x·e^(−j2πk/N)`, `turns` being that `e`."""
    total = np.concatenate([[0.0], np.cumsum(values * turns)])
    return np.asarray(np.sqrt(2) / PER_CYCLE * (total[ends] - total[ends - PER_CYCLE]))


def _clipped(values: Array) -> bool:
    """Flat tops: many samples in a row at the largest value, either way."""
    known = values[np.isfinite(values)]
    if not is_wave(known):
        return False
    most = float(np.max(np.abs(known)))
    at_top = np.abs(known) >= 0.999 * most
    runs = np.diff(np.flatnonzero(np.diff(np.concatenate([[0], at_top.astype(int), [0]]))))[::2]
    return bool(runs.size and np.sum(runs[runs >= 4]) > 20)
