"""What a start looks like, in a few numbers: onset, plateau, steps, change-over, time, running, dip, heat."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.capture.process import Course
from vinegate.core.capture.recording import CaptureError
from vinegate.core.records import dataclass

_SETTLED: Final = 1.5
_EDGE: Final = 8  # samples
_MOSTLY: Final = 0.6  # of the swing that a step leaves, where it explains it


@dataclass(frozen=True, slots=True, kw_only=True)
class Features:
    """Times from the onset, s. None where it is not in the capture."""

    onset_s: float
    before_v: float | None
    least_v: float | None
    peak_a: float | None
    first_rms_a: float
    plateau_a: float
    largest_a: float
    running_a: float | None
    running_v: float | None
    time_s: float | None
    dip_pct: float | None
    steps_s: tuple[float, ...]
    change_s: float | None
    i2t: float
    unbalance_i_pct: float | None
    unbalance_u_pct: float | None
    factor_rest: float | None
    factor_running: float | None
    speed_rpm: float | None
    pulses_hz: float | None
    zero_phase: str = ""


def _volts_before(course: Course, volts: Array, begins: int) -> float | None:
    """Before the start; where next to nothing of that was recorded, the most there is after it."""
    if not course.volts:
        return None
    return float(np.median(volts[: max(begins - 2, 1)])) if begins > 3 else float(np.max(volts[begins:]))


def features(course: Course) -> Features:
    """Raises CaptureError where no start is in it."""
    time, amps = course.time_s, course.mean_a()
    if not course.amps:
        raise CaptureError("no current is in it: a start cannot be seen.")
    begins = onset(course)
    after, phases = time >= time[begins], (course.amps_1 or course.amps, course.volts_1 or course.volts)
    t, i = time[after] - time[begins], amps[after]
    seen = read_curve(t, i)
    plateau, ends, steps = seen.plateau_a, seen.time_s, seen.steps_s
    running_known = ends is not None  # one that never falls to its running current is still starting at the end
    volts = course.mean_v()
    u = volts[after]
    before_v = _volts_before(course, volts, begins)
    starting = t <= (ends if ends is not None else t[-1])
    least = float(np.min(u[starting])) if course.volts else None
    settled = t > (ends if ends is not None else t[-1]) * 1.05
    return Features(
        onset_s=float(time[begins]),
        before_v=before_v,
        least_v=least,
        peak_a=course.peak_a,
        first_rms_a=float(np.max(_phase_mean(course)[after][:6])),
        plateau_a=plateau,
        largest_a=seen.largest_a,
        running_a=seen.running_a if running_known else None,
        running_v=float(np.median(u[settled])) if course.volts and settled.any() else None,
        time_s=ends,
        dip_pct=100 * (1 - least / before_v) if least is not None and before_v else None,
        steps_s=steps,
        change_s=steps[0] if steps else None,
        i2t=float(np.sum((i[1:] ** 2 + i[:-1] ** 2) / 2 * np.diff(t))),
        unbalance_i_pct=_apart([one[after] for one in phases[0].values()], t),
        unbalance_u_pct=None if course.by_neutral else _apart([one[after] for one in phases[1].values()], t),
        factor_rest=_factor(course, begins + int(np.searchsorted(t, min(0.25, 0.3 * t[-1])))),
        factor_running=_factor(course, time.size - 2) if running_known else None,
        speed_rpm=float(course.speed_rpm[-1]) if course.speed_rpm is not None else None,
        pulses_hz=_pulses(t, i, ends),
        zero_phase=_zero(course, after),
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """One curve of current against time from the onset, read alike whether it was measured or planned."""

    plateau_a: float
    largest_a: float
    running_a: float
    time_s: float | None
    steps_s: tuple[float, ...]


def read_curve(t: Array, i: Array) -> Seen:
    """Plateau, largest, running, when it is up, and its steps; `i` is the mean of the phases' fundamentals, A."""
    tail = i[t > 0.9 * t[-1]]
    running = float(np.median(tail)) if tail.size else float(i[-1])
    steps = _steps(t, i, running)
    ends = _settles(t, i, running)
    if ends is not None and steps and steps[-1] > ends:
        ends = steps[-1]  # it is not up before its last connection
    later = i[t > 0.04] if (t > 0.04).any() else i
    return Seen(plateau_a=_plateau(t, i, ends), largest_a=float(np.max(later)), running_a=running, time_s=ends,
                steps_s=steps)  # fmt: skip


def onset(course: Course) -> int:
    """Where the current rises and stays: above five times the noise and a tenth of its most, for half a cycle."""
    amps, time = course.mean_a(), course.time_s
    most = float(np.max(amps))
    if most <= 0:
        raise CaptureError("no current flows in it.")
    first = amps[: max(int(np.searchsorted(time, time[0] + 0.15)), 2)]
    noise = float(np.median(np.abs(first - np.median(first))))
    level = max(0.1 * most, float(np.median(first)) + 5 * noise) if float(np.median(first)) < 0.3 * most else 0.0
    above = amps > level
    if not level or not above.any():
        return 0  # it begins while current flows already
    found = int(np.argmax(above))
    return max(found - 1, 0)


def _phase_mean(course: Course) -> Array:
    return np.asarray(np.mean(np.stack(list(course.amps.values())), axis=0))


def _plateau(t: Array, i: Array, ends: float | None) -> float:
    """Near rest: once the first two cycles are over, to a tenth of a second or an eighth of the start."""
    part = (t >= 0.04) & (t <= max(0.1, 0.125 * (ends if ends is not None else t[-1])))
    return float(np.median(i[part])) if part.any() else float(np.max(i))


def _settles(t: Array, i: Array, running: float) -> float | None:
    """When it last falls through 1.5 times its running current; None where it is still near its most."""
    most = float(np.max(i))
    if running > 0.7 * most:
        return None
    level = min(_SETTLED * running, (running + most) / 2)
    above = np.flatnonzero(i > level)
    if not above.size or above[-1] >= i.size - 2:
        return None
    at = int(above[-1])
    drop = i[at] - i[at + 1]
    return float(t[at] + (t[at + 1] - t[at]) * ((i[at] - level) / drop if drop > 0 else 0.0))


def _steps(t: Array, i: Array, running: float) -> tuple[float, ...]:
    """Moments, after the first tenth of a second, at which it rises by a fifth within 60 ms, or off its own slope."""
    if t.size < 12:
        return ()
    step = float(np.median(np.diff(t)))
    wide, most = max(round(0.06 / step), 1), float(np.max(i))
    if 2 * wide >= i.size:
        return ()
    rises = i[wide:] - i[:-wide] > 0.2 * np.maximum(i[:-wide], 0.02 * most)
    found = [float(t[place]) + wide * step / 2 for place in np.flatnonzero(rises & (t[:-wide] > 0.1))]
    half = max(wide // 2, 1)
    ahead = 2 * i[half:-half] - i[: -2 * half]
    off = (i[2 * half :] - ahead > 0.15 * np.abs(ahead) + 0.03 * most) & (i[2 * half :] > 1.3 * running)
    off &= i[2 * half :] > 0.98 * i[half:-half]  # not merely falling more slowly
    found += [float(t[place + 2 * half]) - step for place in np.flatnonzero(off & (t[half:-half] > 0.1))]
    apart: list[float] = []
    for at in sorted(found):
        if not apart or at - apart[-1] > 0.2:
            apart.append(at)
    return tuple(apart[:8])


def _apart(phases: list[Array], t: Array) -> float | None:
    """Largest deviation from the mean over the last tenth, in per cent."""
    if len(phases) < 3:
        return None
    part = t > 0.9 * t[-1]
    means = [float(np.median(one[part])) for one in phases]
    mean = sum(means) / 3
    return 100 * max(abs(one - mean) for one in means) / mean if mean > 0 else None


def _factor(course: Course, place: int) -> float | None:
    """Power factor of the fundamentals, by the three phases' apparent and active power."""
    if not {"u12", "u23", "u31"} <= course.phasor.keys() or len(course.amps) < 3 or not 0 <= place < course.time_s.size:
        return None
    u12, u31 = course.phasor["u12"][place], course.phasor["u31"][place]
    u23 = course.phasor["u23"][place]
    to_neutral = ((u12 - u31) / 3, (u23 - u12) / 3, (u31 - u23) / 3)
    currents = [course.phasor[role][place] for role in ("i1", "i2", "i3")]
    power = sum(u * np.conj(i) for u, i in zip(to_neutral, currents, strict=True))
    return float(power.real / abs(power)) if abs(power) > 0 else None


def _pulses(t: Array, i: Array, ends: float | None) -> float | None:
    """Frequency at which the running current swings by more than 2 %; None where it is calm."""
    if ends is None:
        return None
    part = t > ends + 0.2 * (t[-1] - ends)
    calm, times = i[part], t[part]
    if calm.size < 64:
        return None
    swing = _even(times, _without_step(calm))
    if np.std(swing) < 0.015 * float(np.mean(calm)):
        return None
    spectrum = np.abs(np.fft.rfft(swing * np.hanning(swing.size)))
    frequencies = np.fft.rfftfreq(swing.size, float(np.median(np.diff(times))))
    place = int(np.argmax(spectrum[2:])) + 2
    if spectrum[place] < 0.3 * float(np.sqrt(np.sum(spectrum[2:] ** 2))):
        return None
    return float(frequencies[place])


def _even(times: Array, values: Array) -> Array:
    """Without its straight trend."""
    since = times - times[0]
    return np.asarray(values - np.polyval(np.polyfit(since, values, 1), since))


def _without_step(values: Array) -> Array:
    """The same with its one largest step taken out: a late change-over, or a load that comes on, is no pulse."""
    about = values - values.mean()
    at = int(np.argmax(np.abs(np.cumsum(about))[_EDGE:-_EDGE])) + _EDGE + 1
    level = np.where(np.arange(values.size) < at, values[:at].mean(), values[at:].mean())
    return np.asarray(values - level) if np.std(values - level) < _MOSTLY * np.std(about) else values


def _zero(course: Course, after: np.typing.NDArray[np.bool_]) -> str:
    """The phase that carries nothing while the others do."""
    last = course.time_s > course.time_s[after][0] + 0.9 * (course.time_s[-1] - course.time_s[after][0])
    means = {role: float(np.median(values[last])) for role, values in course.amps.items()}
    most = max(means.values())
    empty = [role for role, value in means.items() if value < 0.05 * most]
    return empty[0] if len(empty) == 1 and len(means) == 3 else ""
