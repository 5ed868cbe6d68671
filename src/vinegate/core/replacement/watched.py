"""What watches the winding from inside: the kind of protector, and the sensors that a relay in the circuit reads."""

from __future__ import annotations

from typing import Final

from vinegate.core.plate.protector import Protector, by_ohms, read_protector
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.fixing import said_of
from vinegate.core.replacement.pair import Pair

_NOT_TOLD: Final = (Protector.SOME, Protector.UNREAD)


_SOURCE: Final = "NFPA 70:2023 430.32 and 430.43; IEC 60034-11:2020"


def thermal(pair: Pair) -> Row | None:
    """The kind, how it resets, and whether the circuit's relay finds the sensors that it reads."""
    row = said_of(pair, "thermal", "Thermal protection", "thermal_protection")
    if row.new and row.old.strip().upper() == row.new.strip().upper():
        return row.put(fits=Fits.SAME, text="The same kind.")
    if pair.circuit.protection.thermistor == "yes" and (found := _for_the_relay(row)) is not None:
        return found
    if not row.old and not row.new:
        return None
    if not row.old or not row.new:
        return row.lacking("thermal protection")
    old, new = (read_protector(text) for text in (row.old, row.new))
    if old is new and new not in _NOT_TOLD and by_ohms(row.old) is by_ohms(row.new):
        return row.put(fits=Fits.SAME, text="The same kind.")
    source = _SOURCE
    if new in _NOT_TOLD:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("how the new protection resets",))
    if new is Protector.AUTOMATIC:
        return row.put(
            fits=Fits.NOT,
            text="It switches itself on again where the old one did not.",
            source=source,
            task="A manual one, or nobody near it.",
        )
    if new is Protector.NONE:
        return row.put(
            fits=Fits.WITH,
            text="It has none of its own.",
            source=source,
            task="An overload in the circuit that stands for it.",
        )
    return row.put(fits=Fits.WITH, text="Another kind.", source=source, task="Wire it as its kind asks: relay, reset.")


def _for_the_relay(row: Said) -> Row | None:
    """A relay of thermistors stands in the circuit: what the new winding must have for it. None where it has them and
    both plates say their kind.
    """
    new, silent = read_protector(row.new), not row.old
    row = Said(row.key, row.name, row.old or "thermistors on their relay", row.new)
    if new is None or new in _NOT_TOLD:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether the new winding has thermistors for its relay",))
    if new is not Protector.SENSORS:
        return row.put(fits=Fits.NOT, text="The relay there finds no thermistors in it.", source=_SOURCE,
                       task="A motor with thermistors, or what stands for them in the circuit.")  # fmt: skip
    if by_ohms(row.new):
        return row.put(fits=Fits.WITH, text="Its sensors are read by their ohms.", source=_SOURCE,
                       task="A relay for them in place of that of thermistors.")  # fmt: skip
    return row.put(fits=Fits.SAME, text="The relay there reads them.", source=_SOURCE) if silent else None
