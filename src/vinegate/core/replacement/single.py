"""Of one phase: whether the new kind breaks the load away, and the capacitors that come with it."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.plate.kind import START_CAPACITOR, Family, shown
from vinegate.core.plate.usual_single import usual_single
from vinegate.core.replacement.electric import rated_nm
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair

_STRENGTH: Final = {
    "shaded-pole": 0,
    "permanent-split": 1,
    "split-phase": 2,
    "capacitor-start": 3,
    "capacitor-start-run": 3,
}
_HAVE: Final = {
    "start": START_CAPACITOR,
    "run": ("permanent-split", "capacitor-start-run"),
}
_SPARE: Final = 1.1
"""Of what a load asks at rest, as a start is asked to have torque to spare."""
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
    first, second, was, gives = _STRENGTH.get(old), _STRENGTH.get(new), usual_single(old), usual_single(new)
    if first is None or second is None or was is None or gives is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("its torque at rest",))
    ends = [f"{100 * end:.0f}" for end in (*gives.at_rest_band, *was.at_rest_band)]
    text = "{} to {} % of rated torque at rest, for {} to {} %.".format(*ends)
    asked = _asked_pct(pair)
    if second < first and asked is not None and asked * _SPARE <= 100 * gives.at_rest_band[0]:
        text += f" The load asks {asked:.0f} % of it at most."
        return row.put(fits=Fits.WITH, text=text, source=_SOURCE, task="Try the heaviest start.")
    if second >= first:
        return row.put(
            fits=Fits.WITH,
            text=text,
            source=_SOURCE,
            task="Try the heaviest start; its switch or relay comes with it.",
        )
    return row.put(fits=Fits.NOT, text=text, source=_SOURCE, task="A kind that breaks the load away.")


def _asked_pct(pair: Pair) -> float | None:
    """What the load asks at rest, of the new motor's rated torque; None where its breakaway is not given."""
    rated = rated_nm(pair.new)
    if pair.load is None or rated is None or not (pair.load.breakaway.given and pair.load.power.given):
        return None
    return pair.load.breakaway.high * pair.load_times * pair.load.torque_nm / rated


def _capacitor(pair: Pair, which: str) -> Row | None:
    """A new motor has its own: an old one is not moved over."""
    old, new = (getattr(machine.plate, f"{which}_capacitor") or "" for machine in (pair.old, pair.new))
    if not old and not new:
        return None
    kind = pair.new.plate.kind or ""
    row = Said(f"{which}_capacitor", f"{which.capitalize()} capacitor", old, new)
    if not new and usual_single(kind) is not None and kind not in _HAVE[which]:
        return row.put(fits=Fits.WITH, text="A motor of its kind has none.", source=_PLATE,
                       task="The old one goes with the old motor.")  # fmt: skip
    if not new:
        return row.put(fits=Fits.UNKNOWN, text="", needs=(f"the new motor's {which} capacitor",))
    volts = [_volts(text) for text in (old, new)]
    task = "Fit the new one, never the old; a start capacitor does not run, nor a run capacitor start."
    if which == "start":
        task += " Where the old one had a resistor across it, the new one keeps one: 15 kΩ and 2 W are usual."
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
