"""A machine with a commutator against another: how its field is wound and fed, and the speed that its plate has."""

from __future__ import annotations

from typing import Final

from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family, shown
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair

_SOURCE: Final = "Fitzgerald, Electric Machinery, 6th ed., 7.4"
_SAME_RPM: Final = 10.0
_SAME_PU: Final = 0.02
_FIELD_PU: Final = 0.05
_MOST_PU: Final = 0.03
_WOUND: Final = ("dc-shunt", "dc-compound")
"""With a shunt field that is fed apart."""


def armature_rows(pair: Pair) -> list[Row]:
    """None where either is no direct-current machine."""
    if pair.old.plate.family is not Family.DC or pair.new.plate.family is not Family.DC:
        return []
    return [row for row in (_winding(pair), _field(pair)) if row is not None]


def _winding(pair: Pair) -> Row:
    """Shunt, compound and magnets keep their speed; a series machine's goes with its load, and without one away."""
    old, new = pair.old.plate.kind or "", pair.new.plate.kind or ""
    row = Said("field_winding", "Field", shown(old), shown(new))
    if old == new:
        return row.put(fits=Fits.SAME, text="The same kind.")
    if "dc-series" in (old, new):
        text = (
            "Its speed goes with its load, and without one it runs away." if new == "dc-series"
            else "It keeps its speed where the old one slowed for its load, and pulls less from rest."
        )  # fmt: skip
        return row.put(fits=Fits.NOT, text=text, source=_SOURCE, task="A motor of the same field.")
    if new == "dc-permanent":
        return row.put(fits=Fits.WITH, text="It has no field to feed or to weaken.", source=_SOURCE,
                       task="Field supply and its loss trip off; no speed above its base.")  # fmt: skip
    if old == "dc-permanent":
        return row.put(fits=Fits.WITH, text="It asks for a field that is fed.", source=_SOURCE,
                       task="A field supply by its plate, with a trip on its loss.")  # fmt: skip
    return row.put(fits=Fits.WITH, text="Its speed falls otherwise with load.", source=_SOURCE,
                   task="Series field joined by the direction it turns, or left out by its maker's word.")  # fmt: skip


def _field(pair: Pair) -> Row | None:
    """Volts and amperes of a field that is fed: its supply and the trip on its loss were chosen by them."""
    plates = (pair.old.plate, pair.new.plate)
    if any(plate.kind not in _WOUND for plate in plates):
        return None
    values = [(plate.field_volts_v, plate.field_current_a) for plate in plates]
    texts = [f"{write(volts, 3)} V, {write(amps, 3)} A" if volts and amps else "" for volts, amps in values]
    row = Said("field", "Field supply", texts[0], texts[1])
    (old_v, old_a), (new_v, new_a) = values
    if not (old_v and old_a and new_v and new_a):
        return row.lacking("field volts and amperes")
    if abs(new_v / old_v - 1) > _FIELD_PU:
        return row.put(fits=Fits.NOT, text=f"Its field is made for {write(new_v, 3)} V.", source=_SOURCE,
                       task="A field supply for its volts.")  # fmt: skip
    if abs(new_a / old_a - 1) <= _FIELD_PU:
        return row.put(fits=Fits.SAME, text="The same supply.", source=_SOURCE)
    return row.put(fits=Fits.WITH, text=f"Its field takes {new_a / old_a:.2f} × the amperes.", source=_SOURCE,
                   task=f"Field supply and its loss trip set for {write(new_a, 3)} A.")  # fmt: skip


def by_plates(pair: Pair, row: Said) -> Row:
    """Of a machine without a synchronous speed: the speeds that are stamped, as its volts or its drive are set anew."""
    old, new = pair.old.plate.speed_rpm, pair.new.plate.speed_rpm
    if old is None or new is None:
        return row.lacking("speed")
    more = new / old - 1
    percent = round(100 * more, 1) + 0.0  # no minus before nought
    text = f"By its plate {write(new, 4)} {pair.rules.words.speed_unit} for {write(old, 4)}: {percent:+.1f} % speed."
    if abs(new - old) <= _SAME_RPM and abs(more) <= _SAME_PU:
        return row.put(fits=Fits.SAME, text=text, source=_SOURCE)
    task = "Its speed set anew, and the driven machine's limits looked at."
    if abs(more) <= _MOST_PU or pair.facts.adjusted == "yes":
        return row.put(fits=Fits.WITH, text=text, source=_SOURCE, task=task)
    return row.put(fits=Fits.NOT, text=text, source=_SOURCE, task="Sheave or gear for the new speed.")
