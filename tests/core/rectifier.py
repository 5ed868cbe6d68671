"""Rectifiers on a stiff bus, marched in time: ideal diodes; six pulses of a balanced supply, or one phase.

Per unit of line volts and of the fundamental current. What the table of spectra is checked against.
"""

from __future__ import annotations

import math

import numpy as np

STEPS = 1440
_CYCLES = 3


def _march(ohm: float, bus: float) -> np.ndarray:
    """The current of the first phase over the last of a few cycles: `ohm` is ωL of a line, `bus` its volts."""
    peak = math.sqrt(2 / 3)
    step = 2 * math.pi / STEPS
    volts = [[peak * math.cos(step * n - 2 * math.pi * k / 3) for k in range(3)] for n in range(STEPS)]
    amps, seen = [0.0, 0.0, 0.0], np.empty(STEPS)
    for n in range(_CYCLES * STEPS):
        e = volts[n % STEPS]
        on = [k for k in range(3) if amps[k] != 0.0]
        legs = [math.copysign(bus / 2, amps[k]) if amps[k] else 0.0 for k in range(3)]
        if len(on) < 2:
            high, low = max(range(3), key=e.__getitem__), min(range(3), key=e.__getitem__)
            on = [high, low] if e[high] - e[low] > bus else []
            legs[high], legs[low] = bus / 2, -bus / 2
        elif len(on) == 2:
            third = 3 - sum(on)
            middle = sum(e[k] - legs[k] for k in on) / 2
            free = e[third] - middle
            if abs(free) > bus / 2:
                on = [0, 1, 2]
                legs[third] = math.copysign(bus / 2, free)
        if on:
            middle = sum(e[k] - legs[k] for k in on) / len(on)
            after = [amps[k] + (e[k] - legs[k] - middle) * step / ohm if k in on else 0.0 for k in range(3)]
            # a diode that would carry backwards stops
            amps = [0.0 if k not in on or after[k] * legs[k] < 0 else after[k] for k in range(3)]
            spare = sum(amps)
            running = [k for k in range(3) if amps[k]]
            if len(running) == 1:
                amps = [0.0, 0.0, 0.0]
            elif spare and len(running) == 2:
                amps[running[0]] -= spare
        seen[n % STEPS] = amps[0]
    return seen


def spectrum(reactance_pct: float) -> tuple[dict[int, float], float]:
    """Harmonics and THD in per cent of the fundamental, at the bus volts that draw one per unit of it."""
    ohm = reactance_pct / 100 / math.sqrt(3)
    low, high = 1.0, math.sqrt(2)
    for _ in range(14):
        bus = (low + high) / 2
        wave = np.fft.rfft(_march(ohm, bus)) / STEPS * math.sqrt(2)
        low, high = (bus, high) if abs(wave[1]) > 1 else (low, bus)
    size = np.abs(wave)
    shares = {order: float(100 * size[order] / size[1]) for order in (5, 7, 11, 13, 17, 19)}
    return shares, float(100 * math.sqrt(float((size[2:60] ** 2).sum())) / size[1])


def _march_one(ohm: float, bus: float) -> np.ndarray:
    """The current between two lines over half a cycle, once it repeats: `ohm` is ωL of both together."""
    step, amps, seen = 2 * math.pi / STEPS, 0.0, np.empty(STEPS // 2)
    for _ in range(2):
        for n in range(STEPS // 2):
            drives = math.sqrt(2) * math.sin(step * n) - bus
            if amps > 0 or drives > 0:
                amps = max(amps + drives * step / ohm, 0.0)
            seen[n] = amps
    return np.concatenate([seen, -seen])


def spectrum_of_one(reactance_pct: float) -> tuple[dict[int, float], float]:
    """The same of a single-phase bridge."""
    low, high = 0.5, math.sqrt(2)
    for _ in range(14):
        bus = (low + high) / 2
        wave = np.fft.rfft(_march_one(reactance_pct / 100, bus)) / STEPS * math.sqrt(2)
        low, high = (bus, high) if abs(wave[1]) > 1 else (low, bus)
    size = np.abs(wave)
    share = {order: 100 * float(size[order] / size[1]) for order in range(3, 60, 2)}
    return share, math.sqrt(sum(one**2 for one in share.values()))
