"""Auxiliary contacts that the control circuit takes."""

from __future__ import annotations

from vinegate.core.protection.need import Need
from vinegate.core.sheet import Sheet
from vinegate.core.start.way import Windings
from vinegate.core.working import Figure, Provenance


def auxiliaries(sheet: Sheet, need: Need) -> Figure:
    """Auxiliary contacts of the control circuit: seal-in, interlocks of start and reversing, signals."""
    reversing = need.circuit.start.reversing == "yes"
    seal = 2.0 if reversing else 1.0
    locks = (2.0 if reversing else 0.0) + (2.0 if need.way.windings is Windings.WYE else 0.0)
    signals = float(need.circuit.protection.signals or 0)
    n_1 = sheet.given(
        "aux_seal", "Seal-in contacts", "n_1", seal, "", provenance=Provenance.TABLE, source="one a direction"
    )
    n_2 = sheet.given(
        "aux_locks", "Interlocking contacts", "n_2", locks, "", provenance=Provenance.TABLE,
        source="two between two directions, two between wye and delta",
    )  # fmt: skip
    said = "entered" if need.circuit.protection.signals is not None else "none asked"
    n_3 = sheet.given("aux_signals", "Signals wanted", "n_3", signals, "", source=said)
    return sheet.work(
        "aux", "Auxiliary contacts, at least", "n", seal + locks + signals, "",
        formula="n_1+n_2+n_3", inputs=(n_1, n_2, n_3), source="counted from the control circuit",
    )  # fmt: skip
