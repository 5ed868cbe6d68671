"""Stand-ins for what one measures with, seeded: noise, ratio, drop-outs, and the wrong settings people make."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Final

import numpy as np

from vinegate.core.record.found import Against
from vinegate.core.record.rerun import running_at

_THREE: Final = ("12", "23", "31")


@dataclass(slots=True)
class Bench:
    """One circuit's bench. `unequal` is how far the three line volts lie apart, a share."""

    plan: Against
    seed: int = 1
    unequal: float = 0.004
    chance: np.random.Generator = field(init=False)

    def __post_init__(self) -> None:
        self.chance = np.random.default_rng(self.seed)

    def _noisy(self, value: float, share: float) -> float:
        return float(value * (1 + self.chance.normal(0.0, share)))

    @property
    def volts_v(self) -> float:
        return self.plan.volts_v or 400.0

    def running(self) -> tuple[float, float]:
        """Amperes and speed, as the plan has them, or the plate where it has none."""
        if self.plan.plant is not None and self.plan.load is not None and self.plan.turns is not None:
            runs = running_at(self.plan.plant, self.plan.load, self.volts_v)
            return runs.amps, runs.rpm
        speed = self.plan.rated.speed.value if self.plan.rated.speed else 1500.0
        drawn = self.plan.rated.drawn
        return 0.9 * (drawn.value if drawn is not None else 10.0), speed


@dataclass(slots=True, kw_only=True)
class Meter:
    """A three-phase meter. `ratio` set wrong multiplies amperes; `swapped` exchanges two phases' currents; `stale`
    repeats its last values; `reversed_phase` turns one clamp round, which its power shows."""

    bench: Bench
    ratio: float = 1.0
    swapped: bool = False
    stale: bool = False
    reversed_phase: int = 0
    _last: dict[str, float] | None = None

    def read(self) -> dict[str, float]:
        """U12, U23, U31, I1, I2, I3 in V and A; P in W; pf; Hz."""
        if self.stale and self._last is not None:
            return self._last
        bench = self.bench
        amps, _ = bench.running()
        volts = [bench._noisy(bench.volts_v * (1 + bench.unequal * one), 0.001) for one in (0.5, -0.5, 0.0)]
        currents = [bench._noisy(amps, 0.003) * self.ratio for _ in _THREE]
        if self.swapped:
            currents[0], currents[1] = currents[1], currents[0]
        factor = 0.85
        signs = [-1.0 if phase == self.reversed_phase else 1.0 for phase in (1, 2, 3)]
        power = sum(sign * current for sign, current in zip(signs, currents, strict=True)) / 3
        mean = sum(volts) / 3
        hertz = self.bench.plan.rated.frequency.value if self.bench.plan.rated.frequency else 50.0
        self._last = {
            **{f"U{pair}": value for pair, value in zip(_THREE, volts, strict=True)},
            **{f"I{phase}": value for phase, value in zip((1, 2, 3), currents, strict=True)},
            "P": math.sqrt(3) * mean * power * factor,
            "pf": factor,
            "Hz": bench._noisy(hertz, 0.0002),
        }
        return self._last


@dataclass(slots=True, kw_only=True)
class Clamp:
    """One value at a time. Two phases in it read as much as one; all three, nothing; twice through, double.

    Its range's end is all that it shows of more; `held` is the greatest seen since it was reset.
    """

    bench: Bench
    range_a: float = 1000.0
    turns: int = 1
    conductors: int = 1
    held: float = 0.0

    def read(self, amps: float) -> float:
        seen = amps * self.turns * (0.0 if self.conductors == 3 else 1.0)
        shown = min(self.bench._noisy(seen, 0.01), self.range_a)
        self.held = max(self.held, shown)
        return round(shown, 1)


@dataclass(slots=True, kw_only=True)
class InsulationTester:
    """Resistance against minutes: charging, absorption, leakage. A wet or dirty winding leaks and hardly absorbs."""

    bench: Bench
    state: str = "dry"

    def read(self, minutes: float, *, volts: float = 500.0) -> float:
        """Ohms after so many minutes of so many volts."""
        leak, absorbed = {"dry": (3e9, 0.7e-6), "wet": (4e6, 2e-6), "dirty": (60e6, 3e-6)}[self.state]
        seconds = max(60 * minutes, 1.0)
        capacitance = 20e-9
        current = volts / leak + absorbed * volts / 500 * (seconds / 60) ** -0.9
        current += volts / 1e6 * math.exp(-seconds / (1e6 * capacitance))
        return self.bench._noisy(volts / current, 0.02)


@dataclass(slots=True, kw_only=True)
class Tachometer:
    """By contact it reads the speed; by flashes every whole part of it looks still too: start from above."""

    bench: Bench

    def contact(self) -> float:
        return round(self.bench._noisy(self.bench.running()[1], 0.0005), 1)

    def flashes_that_look_still(self, least: float = 200.0) -> tuple[float, ...]:
        """Once a turn with one mark: n, and its halves, thirds and so on down to `least`."""
        speed = self.bench.running()[1]
        return tuple(round(speed / part, 1) for part in range(1, int(speed / least) + 1))


@dataclass(slots=True, kw_only=True)
class PhaseSequence:
    """1-2-3 or 1-3-2; nothing where a phase is missing."""

    backward: bool = False
    missing: bool = False

    def read(self) -> str:
        return "" if self.missing else "132" if self.backward else "123"


@dataclass(slots=True, kw_only=True)
class DriveStatus:
    """What a drive says of itself: hertz, amperes, direct volts, kilowatt-hours, its last faults in plain words."""

    bench: Bench
    hertz: float = 50.0
    faults: tuple[str, ...] = ("over-current while starting", "undervoltage of the link")

    def read(self) -> dict[str, object]:
        amps, _ = self.bench.running()
        link = round(self.bench.volts_v * 1.35)
        seen = round(self.bench._noisy(amps, 0.01), 1)
        return {"Hz": self.hertz, "A": seen, "link V": link, "kWh": 1234.5, "faults": self.faults[:10]}
