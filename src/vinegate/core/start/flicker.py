"""Flicker of a start: its shape factor by the flickermeter's weighting, and short-term severity by the formula."""

from __future__ import annotations

from functools import lru_cache
from typing import Final

import numpy as np
import numpy.typing as npt

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass

Spectrum = npt.NDArray[np.complex128]

_INTERVAL_S: Final = 600.0
_STEP_S: Final = 0.01
_POINTS: Final = (2500, 5000)  # for short changes, and for long ones
_QUIET_S: Final = 2.0
_SHORT_S: Final = 9.0
_LONGEST_S: Final = 25.0
_BACK_SHARE: Final = 0.4  # of the whole: so slowly the change is taken back at the end, unseen


@dataclass(frozen=True, slots=True, kw_only=True)
class Lamp:
    """Eye and lamp (IEC 61000-4-15:2010 table 1, weighting filter), corner frequencies in hertz."""

    k: float
    damping: float
    w1: float
    w2: float
    w3: float
    w4: float
    low_pass: float


LAMP_230: Final = Lamp(k=1.74802, damping=4.05981, w1=9.15494, w2=2.27979, w3=1.22535, w4=21.9, low_pass=35.0)
LAMP_120: Final = Lamp(k=1.6357, damping=4.167375, w1=9.077169, w2=2.939902, w3=1.394468, w4=17.31512, low_pass=42.0)


def lamp_at(frequency_hz: float) -> Lamp:
    """The 120 V lamp on 60 Hz, the 230 V lamp elsewhere."""
    return LAMP_120 if frequency_hz > 55 else LAMP_230


def severity(*, dip_pct: float, changes_in_ten_minutes: float, shape: float = 1.0) -> float:
    """Short-term severity: `t_f = 2.3·(F·d)^3.2`, `P_st = (Σ t_f/600)^(1/3.2)` (IEC 61000-3-3:2013 4.2.3.3).

    >>> round(severity(dip_pct=2.77, changes_in_ten_minutes=10), 2)
    1.0
    """
    impression = 2.3 * (shape * max(dip_pct, 0.0)) ** 3.2  # volts that rise are not a dip
    return float((changes_in_ten_minutes * impression / _INTERVAL_S) ** (1 / 3.2))


def shape_factor(time_s: Array, change: Array, lamp: Lamp) -> float:
    """`F`: the step that is seen as strongly as this change of volts, over its largest value.

    `change` at `time_s`, from nought before; it is held after. `F = √(P(shape)/P(step))` with the largest sensation
    P of the flickermeter (IEC 61000-4-15:2010), where IEC 61000-3-3:2013 reads F off figures 2 to 4. 1 for a step.
    """
    most = float(np.max(np.abs(change)))
    if most == 0:
        return 0.0
    return float(np.sqrt(_largest(time_s, change / most, lamp) / _of_a_step(lamp)))


def sensation(signal: Array, lamp: Lamp) -> Array:
    """Instantaneous sensation of relative volts sampled every 10 ms; not scaled."""
    seen = np.fft.irfft(np.fft.rfft(signal) * _eye(lamp, signal.size), signal.size)
    return np.fft.irfft(np.fft.rfft(seen**2) * _memory(signal.size), signal.size)


def sampled(time_s: Array, change: Array) -> Array:
    """A change laid on the flickermeter's samples: quiet, the change, held, and slowly taken back."""
    points = _POINTS[0 if time_s[-1] <= _SHORT_S else 1]
    quiet, back = int(_QUIET_S / _STEP_S), int(_BACK_SHARE * points)
    laid = np.interp(np.arange(points) * _STEP_S - _QUIET_S, time_s, change)
    laid[:quiet] = 0
    held = min(float(time_s[-1]), _LONGEST_S) + 2 * _QUIET_S
    begins = int(held / _STEP_S)
    laid[begins : begins + back] *= _fading(back)
    laid[begins + back :] = 0
    return np.asarray(laid)


def _largest(time_s: Array, change: Array, lamp: Lamp) -> float:
    return float(np.max(sensation(sampled(time_s, change), lamp)))


@lru_cache(maxsize=4)
def _of_a_step(lamp: Lamp) -> float:
    return _largest(np.array([0.0, 1.0]), np.array([1.0, 1.0]), lamp)


@lru_cache(maxsize=2)
def _fading(points: int) -> Array:
    return np.asarray((1 + np.cos(np.linspace(0, np.pi, points))) / 2)


@lru_cache(maxsize=8)
def _eye(lamp: Lamp, points: int) -> Spectrum:
    """High pass at 0.05 Hz, low pass of sixth order, weighting of lamp and eye."""
    hertz = np.fft.rfftfreq(points, _STEP_S)
    s = 2j * np.pi * hertz
    turn = 2 * np.pi
    high = s / (s + turn * 0.05)
    poles = [np.exp(1j * np.pi * (2 * n + 7) / 12) for n in range(6)]
    low = np.prod([1 / (s / (turn * lamp.low_pass) - pole) for pole in poles], axis=0)
    weighting = lamp.k * turn * lamp.w1 * s / (s**2 + 2 * turn * lamp.damping * s + (turn * lamp.w1) ** 2)
    weighting *= (1 + s / (turn * lamp.w2)) / ((1 + s / (turn * lamp.w3)) * (1 + s / (turn * lamp.w4)))
    return np.asarray(high * low * weighting)


@lru_cache(maxsize=4)
def _memory(points: int) -> Spectrum:
    """First order of 0.3 s."""
    return np.asarray(1 / (1 + 2j * np.pi * np.fft.rfftfreq(points, _STEP_S) * 0.3))
