"""Of one phase: whether the new kind breaks the load away, and the capacitors that come with it."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.plate.kind import Family, shown
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair

_STRENGTH: Final = {
    "shaded-pole": 0,
    "permanent-split": 1,
    "split-phase": 2,
    "capacitor-start": 3,
    "capacitor-start-run": 3,
}
_TORQUE: Final = {
    "split-phase": "100 to 175",
    "capacitor-start": "200 to 400",
    "capacitor-start-run": "200 to 450",
    "permanent-split": "30 to 100",
    "shaded-pole": "40 to 80",
}
_PLATE: Final = "its own plate: capacitors are made for one kind of service"
_SOURCE: Final = "breakaway usual by kind, of rated torque; NEMA MG 1:2021 12.32"


def single_rows(pair: Pair) -> list[Row]:
    """None where either is no single-phase machine."""
    if pair.old.plate.family is not Family.SINGLE or pair.new.plate.family is not Family.SINGLE:
        return []
    return [row for row in (_kind(pair), _capacitor(pair, "start"), _capacitor(pair, "run")) if row is not None]


def _kind(pair: Pair) -> Row:
    old, new = (machine.plate.kind or "" for machine in (pair.old, pair.new))
    row = Said("single", "Breakaway", shown(old), shown(new))
    if old == new:
        return row.put(fits=Fits.SAME, text="The same kind.")
    first, second = _STRENGTH.get(old), _STRENGTH.get(new)
    if first is None or second is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("its torque at rest",))
    text = f"{_TORQUE[new]} % of rated torque at rest, for {_TORQUE[old]} %."
    if second >= first:
        return row.put(
            fits=Fits.WITH,
            text=text,
            source=_SOURCE,
            task="Try the heaviest start; its switch or relay comes with it.",
        )
    return row.put(fits=Fits.NOT, text=text, source=_SOURCE, task="A kind that breaks the load away.")


def _capacitor(pair: Pair, which: str) -> Row | None:
    """A new motor has its own: an old one is not moved over."""
    old, new = (getattr(machine.plate, f"{which}_capacitor") or "" for machine in (pair.old, pair.new))
    if not old and not new:
        return None
    row = Said(f"{which}_capacitor", f"{which.capitalize()} capacitor", old, new)
    if not new:
        return row.put(fits=Fits.UNKNOWN, text="", needs=(f"the new motor's {which} capacitor",))
    volts = [_volts(text) for text in (old, new)]
    task = "Fit the new one, never the old; a start capacitor does not run, nor a run capacitor start."
    if volts[0] is not None and volts[1] is not None and volts[1] < volts[0]:
        return row.put(
            fits=Fits.WITH,
            text="Fewer volts than the old one bore: right for the new motor alone.",
            source=_PLATE,
            task=task,
        )
    return row.put(
        fits=Fits.WITH,
        text="Its own, by its plate.",
        source=_PLATE,
        task=task,
    )


def _volts(text: str) -> float | None:
    match = re.search(r"(\d+(?:[.,]\d+)?)\s*V", text)
    return float(match.group(1).replace(",", ".")) if match else None
