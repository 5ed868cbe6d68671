"""Open transition: what is left of the machine's own volts when the line comes back, and the spike it makes."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from vinegate.core.machine.circuit import EquivalentCircuit, operate
from vinegate.core.records import dataclass
from vinegate.core.start.plant import Plant


@dataclass(frozen=True, slots=True, kw_only=True)
class Spike:
    """Line amperes on reclosing. `least` and `most` are rms with the residual in phase and against; `peak` with offset.

    `residual_pu` of the volts the winding gets back; `decay_s` is the open rotor's time constant; `drift_deg` how far
    the residual has turned against the line in the dead time.
    """

    least_a: float
    most_a: float
    peak_a: float
    residual_pu: float
    decay_s: float
    drift_deg: float


@lru_cache(maxsize=64)
def open_rotor_time_constant(circuit: EquivalentCircuit) -> float:
    """Slowest decay of the rotor's flux with the stator open, seconds.

    One cage: `(X_2 + X_m)/(2π·f·R_2)`. Two cages share the magnetising branch: least eigenvalue of `L⁻¹R`.
    (Kovács and Rácz, Transiente Vorgänge in Wechselstrommaschinen, 1959, chapter 3.)
    """
    count = len(circuit.cages)
    x = np.full((count, count), circuit.xm_ohm) + np.diag([cage.x_ohm for cage in circuit.cages])
    r = np.diag([cage.r_ohm for cage in circuit.cages])
    rates = np.linalg.eigvals(np.linalg.solve(x, r)).real
    return float(1 / (2 * math.pi * circuit.frequency_hz * rates.min()))


def offset_factor(plant: Plant) -> float:
    """First-cycle peak over `√2·I` with full offset: `1 + e^(−π·R/X)` of machine at rest, run and source."""
    z = _loop(plant)
    return 1 + math.exp(-math.pi * z.real / z.imag) if z.imag > 0 else 1.0


def _loop(plant: Plant) -> complex:
    return complex(plant.seen.transfer_pu[plant.at].flat[0]) + plant.z_run + complex(plant.z_motor[0])


def reclosure(plant: Plant, place: float, *, dead_s: float, volts_before_pu: float) -> Spike:
    """The spike after `dead_s` from the speed at a fractional index.

    `volts_before_pu` are the winding's volts before, of those it gets back. The machine then stands behind its
    impedance at standstill, its own volts against the line's at any angle: the band. Peak with full offset.
    """
    slip = float(np.interp(place, plant.axis, plant.slip))
    drift = 360 * plant.frequency_hz * dead_s * slip
    residual, decay = 0.0, 0.0
    if plant.inside is not None:
        decay = open_rotor_time_constant(plant.inside)
        run = operate(plant.inside, slip, volts_v=plant.plate_v)
        phase_v = plant.plate_v / math.sqrt(3)
        angle = complex(run.power_factor, -math.sqrt(max(1 - float(run.power_factor) ** 2, 0)))
        drop = float(run.line_current_a) * angle * complex(plant.inside.r1_ohm, plant.inside.x1_ohm)
        gap = abs(phase_v - drop) / phase_v
        residual = volts_before_pu * gap * (1 - slip) * math.exp(-dead_s / decay)
    base = abs(complex(plant.seen.open_pu[plant.at].flat[0])) / abs(_loop(plant)) * plant.amps_per_pu
    most = base * (1 + residual)
    return Spike(
        least_a=base * (1 - residual),
        most_a=most,
        peak_a=math.sqrt(2) * most * offset_factor(plant),
        residual_pu=residual,
        decay_s=decay,
        drift_deg=drift,
    )
