"""The same start written a second time for `solve_ivp`: node equations and torque at each call, no tables, no axis."""

from __future__ import annotations

import math
from dataclasses import dataclass

from scipy.integrate import solve_ivp

from vinegate.core.machine.circuit import EquivalentCircuit


@dataclass(frozen=True)
class Model:
    """Ohms per phase and volts line to line at one voltage level; a plain series source."""

    circuit: EquivalentCircuit
    emf_v: float
    source: complex
    run: complex
    plate_v: float
    inertia: float
    load: object  # torque at a speed in rad/s
    rated_a: float

    def machine(self, omega):
        """Impedance, gap torque per volt squared and drag at this speed: the circuit solved by hand."""
        c = self.circuit
        ws = 4 * math.pi * c.frequency_hz / c.poles
        s = max(1 - omega / ws, 1e-9)
        y = sum(s / complex(k.r_ohm, s * k.x_ohm) for k in c.cages) + 1 / (1j * c.xm_ohm)
        y_r = sum(s / complex(k.r_ohm, s * k.x_ohm) for k in c.cages)
        y += 1 / c.rfe_ohm if c.rfe_ohm else 0
        z = complex(c.r1_ohm, c.x1_ohm) + 1 / y
        gap = abs((1 / y) / z) ** 2 * y_r.real / ws  # of line volts squared
        drag = c.drag_w / ws * (omega / ws) ** 2
        return z, gap, drag

    def full(
        self, omega, *, series=0j, scale=1.0, run_scale=1.0, gain=1.0, terminal=1.0, shunt=0j, limit=0.0, hold=0.0
    ):
        """Line amperes, torque and board volts (of emf) in one connection."""
        z_m, gap, drag = self.machine(omega)
        e = self.emf_v / math.sqrt(3)
        z = scale * z_m + run_scale * self.run + series
        x = 0.0
        if limit:
            x = math.sqrt(max((e / limit) ** 2 - (z + self.source).real ** 2, 0)) - (z + self.source).imag
        if hold:
            x = math.sqrt(max((abs(z) / hold) ** 2 - z.real**2, 0)) - z.imag
        z += 1j * max(x, 0)
        y = 1 / z + shunt
        board = e / (1 + self.source * y)
        through = board / z
        volts = math.sqrt(3) * abs(through * scale * z_m) * terminal
        return abs(board * y), gain * gap * volts**2 - drag, abs(board) / e

    def run_up(self, torque, omega0, target, t0=0.0, longest=400.0, at_most=None):
        """Integrate J dω/dt = T(t, ω) − T_L(ω) to a speed or a time. Returns times and speeds."""

        def rate(t, w):
            return [(torque(t, w[0]) - self.load(w[0])) / self.inertia]

        def there(t, w):
            return w[0] - target

        there.terminal, there.direction = True, 1
        ends = t0 + longest if at_most is None else at_most
        found = solve_ivp(
            rate, (t0, ends), [omega0], events=there, rtol=1e-8, atol=1e-8, method="LSODA", max_step=(ends - t0) / 50
        )
        return found.t, found.y[0]
