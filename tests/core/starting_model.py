"""The same start written a second time for `solve_ivp`: the loop's node equations at each call, no tables, no axis."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.integrate import solve_ivp

from vinegate.core.machine.circuit import EquivalentCircuit

DEAD_S = 0.05


@dataclass
class Course:
    """What came out: time to the target speed, largest line current, least board volts of the emf."""

    time_s: float
    peak_a: float
    volts: float


@dataclass(frozen=True)
class Model:
    """Ohms per phase, volts line to line, a plain series source. `load` is torque at a speed in rad/s."""

    circuit: EquivalentCircuit
    emf_v: float
    source: complex
    run: complex
    inertia: float
    load: Callable[[float], float]

    @property
    def synchronous(self):
        return 4 * math.pi * self.circuit.frequency_hz / self.circuit.poles

    def at_rest(self, s):
        """Shares of leakage and of rotor resistance that are left: as a single cage's current beyond breakdown."""
        c = self.circuit

        def current(slip):
            return slip / math.hypot(slip, c.changes_from)

        grown = (current(s) - current(c.changes_from)) / (current(1) - current(c.changes_from))
        share = max(0.0, min(grown, 1.0)) ** 4
        return 1 - (1 - c.saturated) * share, 1 - (1 - c.cold) * share

    def machine(self, omega):
        """Impedance, gap torque per line volt squared, and drag torque at this speed."""
        c, ws = self.circuit, self.synchronous
        s = max(1 - omega / ws, 1e-9)
        left, cold = self.at_rest(s)
        rotor = sum(s / complex(cold * k.r_ohm, s * left * k.x_ohm) for k in c.cages)
        inner = rotor + 1 / (1j * c.xm_ohm) + (1 / c.rfe_ohm if c.rfe_ohm else 0)
        z = complex(c.r1_ohm, left * c.x1_ohm) + 1 / inner
        return z, abs(1 / (inner * z)) ** 2 * rotor.real / ws, c.drag_w / ws * (omega / ws) ** 2

    def at(self, omega, *, scale=1.0, cable=1.0, series=0j, gain=1.0, tap=1.0, shunt=0j, limit=0.0, hold=0.0):
        """Line amperes, shaft torque and board volts (of emf) of one connection at one speed."""
        z_m, gap, drag = self.machine(omega)
        e = self.emf_v / math.sqrt(3)
        z = scale * z_m + cable * self.run + series
        held = 0.0
        if limit:
            held = math.sqrt(max((e / limit) ** 2 - (z + self.source).real ** 2, 0)) - (z + self.source).imag
        if hold:
            held = math.sqrt(max((abs(z) / hold) ** 2 - z.real**2, 0)) - z.imag
        y = 1 / (z + 1j * max(held, 0))
        board = e / (1 + self.source * (y + shunt))
        volts = math.sqrt(3) * abs(board * y * scale * z_m) * tap
        return abs(board * (y + shunt)), gain * gap * volts**2 - drag, abs(board) / e

    def stage(self, begin, *, until_s=None, target=None, connection=None, held_at=None):
        """Integrate one connection from (time, speed) to a time or a speed. Returns times, speeds and its readings."""
        how = connection or {}

        def reading(t, w):
            return self.at(w, **how) if held_at is None else self.at(w, hold=held_at(t))

        def rate(t, state):
            spare = reading(t, state[0])[1] - self.load(state[0])
            return [max(spare, 0.0) / self.inertia if state[0] <= 1e-9 else spare / self.inertia]

        def there(_, state):
            return state[0] - (target if target is not None else 1e9)

        there.terminal, there.direction = True, 1
        t0, w0 = begin
        ends = until_s if until_s is not None else t0 + 900.0
        if ends <= t0 or (target is not None and w0 >= target * (1 - 1e-9)):
            return np.array([t0]), np.array([w0]), [reading(t0, w0)]
        step = min((ends - t0) / 40, 0.25 if held_at else math.inf)
        found = solve_ivp(rate, (t0, ends), [w0], events=there, rtol=1e-7, atol=1e-7, method="LSODA", max_step=step)
        times, speeds = found.t, found.y[0]
        if found.t_events[0].size:
            times, speeds = np.append(times, found.t_events[0][0]), np.append(speeds, found.y_events[0][0][0])
        return times, speeds, [reading(t, w) for t, w in zip(times, speeds, strict=True)]

    def coast(self, begin):
        """The dead time of an open transition."""
        t0, w0 = begin
        ended = solve_ivp(
            lambda _, s: [-(self.load(s[0]) + self.machine(s[0])[2]) / self.inertia], (t0, t0 + DEAD_S), [w0], rtol=1e-8
        )
        return t0 + DEAD_S, float(ended.y[0][-1])


def summed(*stages):
    """Stages one after another as a Course."""
    readings = [reading for _, _, found in stages for reading in found]
    return Course(float(stages[-1][0][-1]), max(r[0] for r in readings), min(r[2] for r in readings))
