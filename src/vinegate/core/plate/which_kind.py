"""What a plate says of its machine's kind, beside the kind that is chosen."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.kind import Family, shown
from vinegate.core.plate.volts import VoltsDesignation, Winding
from vinegate.core.records import replace

KIND: Final = "plate.kind"
_ONE_PHASE_V: Final = (100.0, 130.0)
"""Three-phase motors are listed for so little only as the delta of a delta and wye: NEMA MG 1:2021 10.30, IEC 60038."""
_FED: Final = {
    "dc": ("direct current", (Family.DC,)),
    "1": ("one phase", (Family.SINGLE,)),
    "3": ("three phases", (Family.CAGE, Family.WOUND)),
    "ac": ("alternating current", (Family.CAGE, Family.WOUND, Family.SINGLE)),
}
_NAME, _SOURCE = "Kind of machine", "NEMA MG 1:2021 10.39, 10.40, 10.66; IEC 60034-1:2022 10.2"


def kind_gate(plate: Plate) -> Gate | None:
    """Fails where the volts are marked for another supply than that of the kind that is chosen; not known where none
    is chosen and the plate speaks for another than a three-phase cage, which is taken then.
    """
    if plate.kind is None:
        why = of_another_kind(plate)
        if not why:
            return None
        gate = unknown(KIND, _NAME, ("the kind of machine",))
        return replace(gate, sentence=f"{gate.sentence} {why}; a three-phase cage is taken.")
    fed, families = _FED.get(plate.volts.system if plate.volts is not None else "", ("", ()))
    if not families or plate.family in families or (plate.kind == "universal" and fed != _FED["3"][0]):
        return None
    text = f"Its volts are marked for {fed}; the kind chosen is {shown(plate.kind)}."
    return rule(KIND, _NAME, False, text, _SOURCE, remedy="Choose the kind that its plate is of.")


def of_another_kind(plate: Plate) -> str:
    """What it bears that no three-phase cage has; empty where nothing speaks for another kind.

    >>> [of_another_kind(Plate(volts=said)) for said in ("115/230", "180 VDC", "230/460", "127/220")]
    ['115 V is of single-phase motors', 'Its volts are marked for direct current', '', '']
    """
    if plate.start_capacitor or plate.run_capacitor:
        return "It has a single-phase motor's capacitor"
    if plate.field_volts_v or plate.field_current_a:
        return "It has a direct-current field"
    if plate.rotor_volts_v or plate.rotor_current_a:
        return "It has a wound rotor's figures"
    return _by_volts(plate.volts) if plate.volts is not None else ""


def _by_volts(volts: VoltsDesignation) -> str:
    if volts.system in ("dc", "1"):
        return f"Its volts are marked for {_FED[volts.system][0]}"
    least = min(volts.connections, key=lambda one: one.low_v)
    low, high = _ONE_PHASE_V
    if volts.system == "3" or not low <= least.low_v <= least.high_v <= high or least.winding is not Winding.NOT_SAID:
        return ""
    return f"{write(least.low_v)} V is of single-phase motors"
