"""Efficiency at the rated point: as stamped, by the stamped power factor, or nominal of a class."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.ie_class import ie_class
from vinegate.core.plate.rated import Rated
from vinegate.core.sheet import Sheet
from vinegate.core.tables.efficiency import nominal_efficiency
from vinegate.core.working import Provenance

_EFFICIENCY_UNKNOWN: Final = 0.85  # assumed
_TOLERANCE: Final = (0.85, 1.15)
_BEST_TIMES: Final = 0.5


def efficiency_of(sheet: Sheet, circuit: Circuit, rated: Rated, power_w: float, poles: int) -> float:
    """Stamped; else from the stamped power factor; else nominal of the stamped IE class, of IE1 where none is."""
    plate = circuit.plate
    if plate.efficiency_pu is not None:
        return plate.efficiency_pu
    assert rated.volts is not None
    assert rated.current is not None
    if plate.power_factor is not None:
        value = power_w / (3**0.5 * rated.volts.value * rated.current.value * plate.power_factor)
        if 0.2 < value < 0.99:
            return value
    nominal, source = _nominal(ie_class(plate.efficiency_class), power_w, poles)
    sheet.given("efficiency", "Efficiency", "η", 100 * nominal, "%", provenance=Provenance.ASSUMED, source=source)
    return nominal


def losses_between(plate: Plate) -> tuple[float, float]:
    """Times the losses that are taken, between which they lie.

    Stated or by a stamped class: within a seventh, as IEC 60034-1:2022 table 20 allows. Where nobody says, from half of
    class IE1's, which is IE4's, up to the same (assumed).
    """
    said = plate.efficiency_pu is not None or plate.power_factor is not None or ie_class(plate.efficiency_class)
    return _TOLERANCE if said else (_BEST_TIMES, _TOLERANCE[1])


def _nominal(stamped: str, power_w: float, poles: int) -> tuple[float, str]:
    """Nominal efficiency of the IE class and what it rests on; a class above the tabulated ones is at least IE3."""
    tabulated = "IE3" if stamped in ("IE4", "IE5") else stamped or "IE1"
    nominal = nominal_efficiency(power_w=power_w, poles=poles, ie_class=tabulated)
    if nominal is None:
        return _EFFICIENCY_UNKNOWN, "assumed: IEC 60034-30-1:2014 gives 0.75 to 200 kW, two to six poles"
    whose = f"class {stamped}, as stamped" if stamped == tabulated else f"class {tabulated}"
    most = f", which {stamped} exceeds" if stamped and stamped != tabulated else ""
    return nominal, f"nominal of {whose}{most}, IEC 60034-30-1:2014, 50 Hz"
