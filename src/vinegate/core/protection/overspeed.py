"""A direct-current machine that loses its field or its load runs away."""

from __future__ import annotations

from vinegate.core.grade import Gate, rule, unknown
from vinegate.core.plate.kind import Family
from vinegate.core.protection.need import Need

_KEY, _NAME = "protection.overspeed", "Kept from overspeeding"


def overspeed_gate(need: Need, source: str) -> tuple[Gate, ...]:
    """Asked of what has a field to lose, or a flux that falls with the load; magnets stay."""
    plate, said = need.circuit.plate, need.circuit.protection.overspeed
    if plate.family is not Family.DC or plate.kind == "dc-permanent":
        return ()
    if said is None:
        return (unknown(_KEY, _NAME, ("what keeps it from overspeeding",)),)
    loses = "its load" if plate.kind == "dc-series" else "its field"
    text = f"It is kept from running away when it loses {loses}."
    if said == "no":
        text = f"Nothing keeps it from running away when it loses {loses}."
    remedy = "A field-loss relay or a speed switch that opens its drive; a series machine coupled fast to its load."
    return (rule(_KEY, _NAME, said == "yes", text, source, remedy=remedy),)
