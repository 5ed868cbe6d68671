"""A controlled bridge between the lines and a direct-current machine: what it can give, and what it draws."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import two_lines
from vinegate.core.records import dataclass

_MOST_FACTOR: Final = 0.97  # fired at once: what commutation leaves of the displacement; assumed
SOURCE: Final = "a smooth current behind a controlled bridge; Mohan, Undeland, Robbins, 3rd ed., 6-3 and 6-4"
_ROOT_2: Final = math.sqrt(2)


@dataclass(frozen=True, slots=True, kw_only=True)
class Bridge:
    """Fully controlled, with a smooth current behind it (Mohan, Undeland, Robbins, 3rd ed., 6-3 and 6-4).

    `three` where it takes all three lines. `ideal` is its mean volts over the line's, fired at once; `rms` and `wave`
    the line's rms amperes and their fundamental, over the armature's.

    >>> round(THREE.ideal, 3), round(THREE.rms, 3), round(THREE.wave, 3)
    (1.35, 0.816, 0.78)
    """

    name: str
    three: bool
    ideal: float
    rms: float
    wave: float


THREE: Final = Bridge(
    name="three-phase", three=True, ideal=3 * _ROOT_2 / math.pi, rms=math.sqrt(2 / 3), wave=math.sqrt(6) / math.pi
)
ONE: Final = Bridge(name="single-phase", three=False, ideal=2 * _ROOT_2 / math.pi, rms=1.0, wave=2 * _ROOT_2 / math.pi)


def bridge_of(job: Job, circuit: Circuit) -> Bridge:
    """As it is said; else of three lines, where the board has them."""
    said = circuit.start.converter_lines
    return ONE if said == "two" or two_lines(job, circuit) else THREE


@dataclass(frozen=True, slots=True, kw_only=True)
class Armature:
    """What feeds an armature, and what it is: `series` is the share of its flux that goes with its current."""

    bridge: Bridge
    volts_v: float
    ohms: float
    rated_a: float
    rated_rad_s: float
    rated_nm: float
    series: float

    def torque_at(self, times: float) -> float:
        """N·m at so many times rated amperes: a series field grows with it, and above rated no more, as iron fills."""
        return self.rated_nm * min(times, float(times ** (1 + self.series)))

    def amps_for(self, torque_nm: Array) -> Array:
        """Amperes for a torque, the other way round."""
        share = np.maximum(torque_nm / self.rated_nm, 0.0)
        return np.asarray(self.rated_a * np.maximum(share, share ** (1 / (1 + self.series))))

    def volts_at(self, amps: Array, omega: Array) -> Array:
        """`U = E + I·R`, the electromotive force with flux and speed."""
        flux = 1 - self.series + self.series * np.minimum(amps / self.rated_a, 1.0)
        rated = self.volts_v - self.rated_a * self.ohms
        return np.asarray(rated * flux * omega / self.rated_rad_s + amps * self.ohms)

    def line_at(self, amps: Array, volts: Array, line_v: float) -> tuple[Array, Array]:
        """Fundamental line amperes and the cosine of their angle, which is that of firing."""
        return self.bridge.wave * amps, np.clip(volts / (self.bridge.ideal * line_v), 0.0, _MOST_FACTOR)
