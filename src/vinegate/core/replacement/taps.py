"""Single-phase machines with several speeds by taps: how fast each turns this load, not what is stamped."""

from __future__ import annotations

import re
from itertools import pairwise
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.machine.circuit import breakdown_slip
from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family
from vinegate.core.plate.usual_single import usual_single
from vinegate.core.records import dataclass
from vinegate.core.replacement.electric import rated_nm, synchronous_rpm
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Machine, Pair
from vinegate.core.replacement.speed import settles_at

_SOURCE: Final = (
    "a tap weakens the field: torque at a slip by the factor that gives the stamped speed with a fan that takes the "
    "rating at the plate's; Kloss's curve, breakdown usual of the kind (decision 0025)"
)
_SAME_RPM: Final = 10.0
_MOST_PU: Final = 0.03
_PLATE_PU: Final = 0.01
_USUAL_BREAKDOWN: Final = 2.0
_POINTS: Final = 4001


@dataclass(frozen=True, slots=True, kw_only=True)
class Tapped:
    """Stamped speeds, rpm, the plate's first, and what each tap's torque is of the whole winding's."""

    stamped: tuple[float, ...]
    shares: tuple[float, ...]
    rated_nm: float
    synchronous_rpm: float
    rated_slip: float
    breakdown_pu: float

    def torque_nm(self, rpm: Array) -> Array:
        """Of the whole winding: Kloss, through the rated point."""
        slip = np.maximum(1 - np.asarray(rpm, dtype=float) / self.synchronous_rpm, 1e-9)
        peak = breakdown_slip(rated_slip=self.rated_slip, breakdown_pu=self.breakdown_pu)
        return np.asarray(self.rated_nm * 2 * self.breakdown_pu / (slip / peak + peak / slip))

    def settles(self, pair: Pair) -> tuple[float | None, ...]:
        """Each tap's speed with this load, rpm; None where it does not carry it."""
        assert pair.load is not None
        rpm = np.linspace(0.02 * self.synchronous_rpm, self.synchronous_rpm, _POINTS)
        asked, gives = pair.load_times * pair.load.running_at(rpm), self.torque_nm(rpm)
        return tuple(settles_at(rpm, share * gives - asked) for share in self.shares)


def speeds_in(text: str) -> tuple[float, ...]:
    """Speeds as stamped, by tap.

    >>> speeds_in("1075/900/750 rpm"), speeds_in("")
    ((1075.0, 900.0, 750.0), ())
    """
    return tuple(float(word) for word in re.findall(r"\d+(?:\.\d+)?", text))


def tapped(machine: Machine, text: str) -> Tapped | None:
    """None where its plate does not give its rated point, or the speeds are no fan's by taps of this machine."""
    speeds, synchronous, torque = speeds_in(text), synchronous_rpm(machine), rated_nm(machine)
    if not speeds or synchronous is None or torque is None or machine.rated.speed is None:
        return None
    rated = machine.rated.speed.value
    if abs(speeds[0] / rated - 1) > _PLATE_PU or any(later >= earlier for earlier, later in pairwise(speeds)):
        return None
    usual = usual_single(machine.plate.kind)
    whole = Tapped(
        stamped=speeds, shares=(1.0,), rated_nm=torque, synchronous_rpm=synchronous, rated_slip=1 - rated / synchronous,
        breakdown_pu=usual.breakdown if usual is not None else _USUAL_BREAKDOWN,
    )  # fmt: skip
    asked = torque * (np.array(speeds) / rated) ** 2
    shares = tuple(float(one) for one in asked / whole.torque_nm(np.array(speeds)))
    if any(later >= earlier for earlier, later in pairwise(shares)):
        return None
    return Tapped(stamped=speeds, shares=shares, rated_nm=torque, synchronous_rpm=synchronous,
                  rated_slip=whole.rated_slip, breakdown_pu=whole.breakdown_pu)  # fmt: skip


def taps_row(pair: Pair) -> Row | None:
    """None where neither has taps."""
    texts = (pair.facts.old_taps or "", pair.facts.new_taps or "")
    if pair.new.plate.family is not Family.SINGLE or not any(texts):
        return None
    row = Said("taps", "Speeds by tap", texts[0], texts[1])
    if not all(texts):
        return row.lacking("speeds by tap")
    old, new = tapped(pair.old, texts[0]), tapped(pair.new, texts[1])
    if old is None or new is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("the speeds by tap as stamped, falling, the plate's first",))
    if pair.load is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("the load",))
    return _judged(pair, row, old.settles(pair), new.settles(pair))


def _judged(pair: Pair, row: Said, old: tuple[float | None, ...], new: tuple[float | None, ...]) -> Row:
    unit = pair.rules.words.speed_unit
    if None in new:
        return row.put(fits=Fits.NOT, text=f"With this load it {_list(new)} {unit}, by tap.", source=_SOURCE,
                       task="A stronger motor, or a higher tap.")  # fmt: skip
    first = [one for one in old if one is not None]
    second = [one for one in new if one is not None]
    text = f"With this load {_list(new)} {unit} for {_list(old)}, by tap."
    if len(second) < len(old):
        return row.put(fits=Fits.NOT, text=f"{text} It has fewer speeds.", source=_SOURCE,
                       task="A motor with as many speeds, or the switch changed to those it has.")  # fmt: skip
    off = [min(second, key=lambda one: abs(one - was)) - was for was in first]
    if max(map(abs, off), default=0.0) <= _SAME_RPM and len(second) == len(first):
        return row.put(fits=Fits.SAME, text=text, source=_SOURCE)
    if all(abs(gap) <= max(_SAME_RPM, _MOST_PU * was) for gap, was in zip(off, first, strict=True)):
        return row.put(fits=Fits.WITH, text=text, source=_SOURCE,
                       task="Taps wired by the new diagram; unused ones insulated one by one.")  # fmt: skip
    return row.put(fits=Fits.NOT, text=text, source=_SOURCE, task="Another motor, or flow settled at its speeds.")


def _list(speeds: tuple[float | None, ...]) -> str:
    return ", ".join("does not carry it" if one is None else write(one, 4) for one in speeds)
