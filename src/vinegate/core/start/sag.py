"""The first moment as a function of the facts behind it: how a fall of volts moves with currents and angles."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import cached_property
from typing import Final

from vinegate.core.assumed import band_of, preset
from vinegate.core.plate.locked_rotor import LockedRotor
from vinegate.core.plate.rated import USUAL_RUNNING
from vinegate.core.records import dataclass
from vinegate.core.supply.source import UTILITY, Source
from vinegate.core.turning import NOT_GIVEN, Taken, less
from vinegate.core.working import Figure

_RATIO_PATHS: Final = {
    "utility_x_over_r": ("supply.fault_x_over_r", "utility X/R"),
    "transformer_x_over_r": ("supply.transformer_x_over_r", "transformer X/R"),
    "generator_x_over_r": ("standby.x_over_r", "generator X/R"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Angle:
    """A part of the source: its ohms per phase at the circuit's volts, and its X/R with its band."""

    ohms: float
    ratio: Taken

    def at(self, ratio: float) -> complex:
        return self.ohms * complex(1, ratio) / math.hypot(1, ratio)


@dataclass(frozen=True, kw_only=True)
class Sag:
    """Source, run and machine in series, as in the hand formulas: no load runs beside it.

    `rests` are the locked-rotor current, its power factor, the source's angles, and what a utility that is left out may
    add: facts of `fall`, `stays` and `draws`, in that order. Where the way in use draws `share` of the locked-rotor
    current, the machine's ohms grow.
    """

    volts_v: float
    plate_v: float
    divisor: float
    run_ohm: complex
    current: Taken
    factor: Taken
    angles: tuple[Angle, ...]
    left_out: tuple[Taken, ...] = ()
    """The utility's fault level, MVA, where nobody gave it, and its X/R, that assumed of utilities."""
    own_mva: float = 0.0
    """Fault level of the transformer behind it."""

    @cached_property
    def rests(self) -> tuple[Taken, ...]:
        return (*less(self.current), self.factor, *(angle.ratio for angle in self.angles), *self.left_out)

    @cached_property
    def _as_taken(self) -> dict[tuple[str | float, ...], float]:
        """Falls and amperes with the facts as taken, by what and share, as they are asked for."""
        return {}

    def _taken(self, what: str, share: float) -> float:
        kept = self._as_taken.get((what, share))
        if kept is None:
            facts = [one.value for one in self.rests]
            kept = self.fall(facts, share) if what == "fall" else self.draws(facts, share)
            self._as_taken[what, share] = kept
        return kept

    def _parts(self, share: float, facts: Sequence[float]) -> tuple[complex, complex]:
        amps, factor = facts[0], facts[1]
        source = 0j
        for place, angle in enumerate(self.angles, 2):
            source += angle.at(facts[place])
        for level, ratio in self._left(facts):
            source += abs(source) * _RISES * complex(1, ratio) / math.hypot(1, ratio) * self.adds(level)
        ohms = self.plate_v / (self.divisor * max(amps, 1e-9) * share)
        return source, ohms * complex(factor, math.sqrt(max(1 - factor * factor, 0.0)))

    def _left(self, facts: Sequence[float]) -> Sequence[tuple[float, float]]:
        """Fault level, MVA, and X/R of the utility that is left out; none where it is given."""
        left = facts[2 + len(self.angles) :]
        return ((left[0], left[1]),) if left else ()

    def adds(self, level_mva: float) -> float:
        """A utility's impedance of the transformer's; of one that is boundless nothing."""
        return max(self.own_mva / max(level_mva, 1e-9) - 1 / _BOUNDLESS, 0.0)

    def fall(self, facts: Sequence[float], share: float = 1.0) -> float:
        """Fall at the main board, of its volts just before."""
        source, motor = self._parts(share, facts)
        beside = self.run_ohm + motor
        return 1 - abs(beside) / abs(source + beside)

    def settles(self, facts: Sequence[float]) -> float:
        """What is left of a fall once it runs, with these facts, of that as taken: `R·cos φ + X·sin φ`."""
        now, taken = (
            (self._parts(1.0, values)[0] * USUAL_RUNNING).real for values in (facts, [one.value for one in self.rests])
        )
        return now / taken if taken > 0 else 1.0

    def stays(self, facts: Sequence[float], share: float = 1.0) -> float:
        """Volts at the terminals, of the plate's."""
        source, motor = self._parts(share, facts)
        return abs(motor) / abs(source + self.run_ohm + motor) * self.volts_v / self.plate_v

    def draws(self, facts: Sequence[float], share: float = 1.0) -> float:
        """Line amperes."""
        source, motor = self._parts(share, facts)
        return self.volts_v / (self.divisor * abs(source + self.run_ohm + motor))

    def higher(self, amps: float, factor: float) -> float:
        """First-cycle peak with this current and power factor at rest, of that as taken: `√2·I·(1+e^(−π·R/X))`."""
        taken = [one.value for one in self.rests]
        return self._peak((amps, factor, *taken[2:])) / self._peak(taken)

    def _peak(self, facts: Sequence[float]) -> float:
        source, motor = self._parts(1.0, facts)
        loop = source + self.run_ohm + motor
        return self.draws(facts) * (1 + math.exp(-math.pi * loop.real / loop.imag) if loop.imag > 0 else 1.0)

    def share_drawing(self, facts: Sequence[float], amps: float, *, most: float = 1.0) -> float:
        """The share, `most` at most, at which it draws so many line amperes: `|Z + Z_m·x| = U/I`, `x = 1/share`."""
        source, motor = self._parts(1.0, facts)
        before = source + self.run_ohm
        a, b = abs(motor) ** 2, 2 * (before * motor.conjugate()).real
        c = abs(before) ** 2 - (self.volts_v / (self.divisor * max(amps, 1e-9))) ** 2
        root = b * b - 4 * a * c
        x = (-b + math.sqrt(root)) / (2 * a) if root > 0 else 0.0
        return 1 / max(x, 1 / most)

    def deeper(self, facts: Sequence[float], share: float = 1.0) -> float:
        """A fall with these facts, of that with the facts as taken. Several gates ask it of the same corners."""
        corner: tuple[str | float, ...] = ("deeper", share, *facts)
        kept = self._as_taken.get(corner)
        if kept is None:
            now = self._taken("fall", share)
            kept = self._as_taken[corner] = self.fall(facts, share) / now if now > 0 else 1.0
        return kept

    def deeper_held(self, facts: Sequence[float], share: float) -> float:
        """The same where electronics hold the amperes: they do not fall with the volts."""
        taken = [one.value for one in self.rests]
        source, motor = self._parts(share, taken)
        beside = self.run_ohm + motor
        amps = beside.conjugate() / abs(beside) / abs(source + beside)

        def fall(at: complex) -> float:
            drop = amps * at
            return 1 + drop.real - math.sqrt(max(1 - drop.imag**2, 0.0))

        before = fall(source)
        return fall(self._parts(share, facts)[0]) / before if before > 0 else 1.0

    def more(self, facts: Sequence[float], share: float = 1.0) -> float:
        """Amperes with these facts, of those with the facts as taken."""
        return self.draws(facts, share) / self._taken("draws", share)


def current_taken(inrush: LockedRotor, label: str, tolerance: tuple[float, float]) -> Taken:
    """Locked-rotor current with its band; typed, it has the rule set's tolerance."""
    assert inrush.high is not None
    low, high = inrush.low.value, inrush.high.value
    how = "by the letter" if high > low else ""
    if inrush.high.soft or inrush.low.soft:
        how = "assumed"
    elif high == low:
        low, high = low * tolerance[0], high * tolerance[1]
    return Taken(
        path="plate.locked_rotor_current",
        label=label,
        unit="A",
        value=inrush.high.value,
        low=low,
        high=high,
        how=how,
        typed=tolerance,
        given=not how,
        hard=bool(how),
    )


def factor_taken(factor: Figure, band: tuple[float, float] | None, label: str, *, stated: bool) -> Taken:
    """Locked-rotor power factor with its band."""
    low, high = (factor.value, factor.value) if stated or band is None else band
    return Taken(
        path="start.locked_rotor_power_factor",
        label=label,
        value=factor.value,
        low=low,
        high=high,
        how="" if stated else "estimated",
        given=stated,
        possible=(0.05, 1.0),
    )


def left_out_of(source: Source) -> tuple[Taken, ...]:
    """A utility whose fault level is not given, MVA: from twice the transformer's own to any; as taken past all bounds.

    Assumed: networks are usually at least twice as strong as the transformers they feed.
    """
    if not source.stiff:
        return ()
    own = own_mva(source)
    low, high = band_of("utility_x_over_r")
    return (
        Taken(path="supply.fault_level", label=UTILITY, unit="MVA", value=_BOUNDLESS * own, low=_WEAKEST * own,
              high=_BOUNDLESS * own, how=NOT_GIVEN, sense=1),
        Taken(label="utility X/R", value=preset("utility_x_over_r"), low=low, high=high, how="assumed"),
    )  # fmt: skip


def own_mva(source: Source) -> float:
    """Fault level behind a boundless utility: `U²/Z_T`."""
    return source.volts.value**2 / source.z_sum.value / 1000


_WEAKEST: Final = 2.0
_BOUNDLESS: Final = 200.0
_RISES: Final = 1.04  # assumed: what a starter lets flow rises a little as volts fall


def angles_of(source: Source, scale: float) -> tuple[Angle, ...]:
    """The source's parts at the circuit's volts. `scale` is the square of the volts' ratio."""
    found = []
    for ohms, ratio in source.parts:
        path, label = _RATIO_PATHS[ratio.key.rpartition(".")[2]]
        low, high = source.band_of(ratio)
        taken = Taken(
            path=path,
            label=label,
            value=ratio.value,
            low=low,
            high=high,
            how="assumed" if ratio.unsaid else "",
            given=not ratio.unsaid,
        )
        found.append(Angle(ohms=ohms.value / 1000 * scale, ratio=taken))
    return tuple(found)
