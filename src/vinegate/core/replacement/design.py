"""Design letters: how much torque they promise at rest, and with how much slip they run."""

from __future__ import annotations

from typing import Final

from vinegate.core.plate.kind import Family
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair

_NORMAL: Final = frozenset({"A", "B", "N", "NE", "NY", "NEY"})
_HIGH: Final = frozenset({"C", "H", "HE", "HY", "HEY"})
"""Torque at rest: MG 1 12.38 has A and B alike and C above them; IEC 60034-12 N and H likewise, E for more kVA at rest
and Y for wye-delta.
"""
_SLIPS: Final = "D"
_SOURCE: Final = "NEMA MG 1:2021 1.19; IEC 60034-12:2016"
_CURVE: Final = "The load's own curve, measured, against the new motor's."


def design_row(pair: Pair, torque: Row | None) -> Row | None:
    """`torque` is how the two curves compare, where they do: what is weaker by its letter must be proved by it."""
    if pair.new.plate.family is not Family.CAGE:
        return None
    old, new = pair.old.plate.design_letter, pair.new.plate.design_letter
    row = Said("design", "Design", old or "", new or "")
    if old is None or new is None:
        return row.lacking("design letter")
    if old == new:
        return row.put(fits=Fits.SAME, text="The same curve of torque.")
    if (old in _NORMAL and new in _NORMAL) or (old in _HIGH and new in _HIGH):
        return row.put(fits=Fits.WITH, text="Nearly its curve of torque.", source=_SOURCE,
                       task="Try the heaviest start.")  # fmt: skip
    if old in _NORMAL and new in _HIGH:
        return row.put(fits=Fits.WITH, text="More torque at rest, less at breakdown.", source=_SOURCE,
                       task="Try the heaviest start; coupling and gear bear the harder push.")  # fmt: skip
    return _other(pair, row, torque)


def _other(pair: Pair, row: Said, torque: Row | None) -> Row:
    """Weaker at rest, or of another slip: not by its letter, but where the load proves that it does."""
    why = {
        row.new: "its slip is larger: slower, and warmer",
        row.old: "it promises less torque at rest, and is stiffer: a flywheel helps it less",
    }.get(_SLIPS, "it promises less torque at rest")
    carries = torque is not None and torque.fits in (Fits.SAME, Fits.WITH)
    if carries and (pair.measured or _SLIPS not in (row.old, row.new)):
        text = f"{row.new} for {row.old}: {why}. By its curve it starts this load."
        return row.put(fits=Fits.WITH, text=text, source=_SOURCE, task="Try the heaviest start.")
    return row.put(fits=Fits.NOT, text=f"{row.new} for {row.old}: {why}.", source=_SOURCE, task=_CURVE)
