"""What the overload relay is set to, by rule set."""

from __future__ import annotations

from vinegate.core.facts import Circuit
from vinegate.core.plate.rated import Rated
from vinegate.core.rules import OverloadRange, RuleSet
from vinegate.core.sheet import Sheet


def overload(sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, *, delta: bool) -> OverloadRange | None:
    """Relay in the line, and in the delta where the machine runs in delta from a wye-delta starter.

    From the *plate* current, never the table current (NFPA 70 430.6(A)(2)).
    """
    if rated.current is None:
        sheet.needs([("plate.full_load_current", rules.words.full_load_current)], "the overload setting")
        return None
    sheet.figures.append(rated.current)
    plate = circuit.plate
    found = rules.overload(sheet, rated.current, plate.service_factor, plate.temperature_rise_k)
    if rules.name == "nec" and plate.service_factor is None and plate.temperature_rise_k is None:
        sheet.needs([("plate.service_factor", "service factor or rise")], "the higher overload percentage")
    if delta:
        sheet.work(
            "in_delta",
            "The same relay inside the delta",
            "I_ph",
            found.normal.value / 3**0.5,
            "A",
            formula=f"{found.normal.symbol}/√3",
            inputs=(found.normal,),
            source="a delta winding carries line current over √3",
        )
    return found
