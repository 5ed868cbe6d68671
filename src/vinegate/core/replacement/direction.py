"""Which way a motor turns and how it is turned round: told from the shaft's end, whichever end the plate means."""

from __future__ import annotations

from typing import Final

from vinegate.core.plate.kind import Family
from vinegate.core.plate.rotation import clockwise
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair

_SOURCE: Final = "IEC 60034-8:2007; NEMA MG 1:2021 2.24"


def opposite(pair: Pair) -> bool | None:
    """Whether the new one turns against the old one; None while either plate leaves it open."""
    old, new = (clockwise(machine.plate.rotation or "") for machine in (pair.old, pair.new))
    return None if old is None or new is None else old is not new


def rotation(pair: Pair) -> Row:
    """One way only: tried uncoupled, whatever is stamped."""
    row = Said("rotation", "Rotation", pair.old.plate.rotation or "", pair.new.plate.rotation or "")
    if pair.facts.one_way is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether it may turn one way only",))
    if pair.facts.one_way == "no":
        return row.put(fits=Fits.SAME, text="Either way is right.")
    against = opposite(pair)
    text = {None: "One way only.", False: "One way only: both are stamped the same, seen from the shaft's end.",
            True: "One way only, and it is stamped the other way, seen from the shaft's end."}[against]  # fmt: skip
    if against and pair.facts.reversed_by == "never":
        return row.put(fits=Fits.NOT, text=f"{text} It cannot be turned round.", source=_SOURCE,
                       task="A motor of the other rotation.")  # fmt: skip
    if against and pair.facts.reversed_by is None and pair.new.plate.family is not Family.SINGLE:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether the new motor may turn the other way: its fan",))
    swap = "two leads" if pair.new.plate.family is not Family.SINGLE else "its start winding's leads"
    task = (
        f"Swap {swap} by its own diagram, then turn it for a moment, uncoupled."
        if against
        else f"Turn it for a moment, uncoupled, before it is coupled; swap {swap} where it is wrong."
    )
    return row.put(fits=Fits.WITH, text=text, source=_SOURCE, task=task)


def reversing(pair: Pair) -> Row | None:
    """A single-phase machine turns round by leads, by turning its stator end for end, or not at all."""
    if pair.new.plate.family is not Family.SINGLE or pair.facts.reversed_by is None:
        return None
    said = pair.facts.reversed_by
    shown = {"leads": "by two leads", "stator": "by its stator", "never": "never"}[said]
    row = Said("reversing", "Turned round", "", shown)
    if said == "leads":
        return row.put(fits=Fits.SAME, text="Two leads of its start winding exchanged, by its own diagram.")
    if said == "stator":
        return row.put(
            fits=Fits.WITH,
            text="Its stator is taken out and put in end for end.",
            task="Turn it on the bench before it is mounted; see from which end its arrow is meant.",
        )
    if pair.facts.one_way == "no":
        return row.put(fits=Fits.SAME, text="It turns one way only, and either is right.")
    against = opposite(pair)
    if against is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("which way both turn, and seen from which end",))
    if against:
        return row.put(fits=Fits.NOT, text="It turns the other way and cannot be turned round.", source=_SOURCE,
                       task="A motor of the other rotation.")  # fmt: skip
    return row.put(fits=Fits.SAME, text="It turns one way only: the old one's.", source=_SOURCE)
