"""A motor's space heater in a classified area."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import lacks, on_site, ruled
from vinegate.core.numbers import write
from vinegate.core.place.checks import Check
from vinegate.core.place.facts import Area
from vinegate.core.place.temperature import lowest
from vinegate.core.rules import RuleSet

_SHARE: Final = 0.8  # of ignition, NFPA 70 501.125(B)
_NAME: Final = "Heater"


def heater_checks(circuit: Circuit, area: Area, rules: RuleSet) -> tuple[Check, ...]:
    """Class I division 2: at most 80 % of ignition. Elsewhere it belongs to the motor's own listing or certificate."""
    if area.status == "division" and area.hazard_class == "I" and area.division == "2":
        return (_division_2(circuit, area, rules),)
    text = "It must be named in the motor's own listing or certificate, with its rated volts: ask."
    return (Check.of(_NAME, on_site(text, rules.papers.heater)),)


def _division_2(circuit: Circuit, area: Area, rules: RuleSet) -> Check:
    rule = "NFPA 70:2023 501.125(B)"
    limit = lowest(area.materials.items, rules) if area.materials else None
    if limit is None:
        return Check.of(_NAME, lacks("What is present is not known.", rule))
    most = _SHARE * limit.most_c
    surface = circuit.place.heater_surface_c
    allowed = f"80 % of {limit.material}'s {write(limit.most_c, 3)} °C is {write(most, 3)} °C"
    if surface is None:
        return Check.of(_NAME, lacks(f"Its surface is not known; {allowed}.", rule))
    fits = surface <= most
    text = f"Its surface at {write(surface, 3)} °C {'stays below' if fits else 'is too hot'}: {allowed}."
    return Check.of(_NAME, ruled(fits, text, rule))
