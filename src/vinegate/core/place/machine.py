"""Motors where a listing is not the only way: division 2 and class III of NFPA 70, and what sparks in normal work."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Answer, breaks, depends, lacks, meets
from vinegate.core.place.facts import Area
from vinegate.core.plate.enclosed import EXPLOSION_PROOF, enclosure_code, enclosure_row
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.kind import SWITCHED, Family
from vinegate.core.plate.protector import read_protector
from vinegate.core.turning import Turns

_ARCS: Final = (*SWITCHED, "universal")
_SWITCH: Final = "its starting switch"


_PROTECTOR: Final = Turns(
    path="plate.thermal_protection", label="thermal protector", passes="none", fails="with contacts in the machine",
    passes_as="NONE", fails_as="AUTO",
)  # fmt: skip


def sparks(plate: Plate) -> str | None:
    """What arcs in normal work; None for a cage machine without switch, brushes or a protector's contacts."""
    if plate.family in (Family.WOUND, Family.DC) or plate.kind == "universal":
        return "its brushes"
    if plate.kind in _ARCS:
        return _SWITCH
    protector = read_protector(plate.thermal_protection)
    if protector is not None and protector.sparks:
        return "the contacts of its thermal protector"
    return None


def totally_enclosed(plate: Plate) -> bool | None:
    """Whether its plate says it is closed; None where it says nothing."""
    row = enclosure_row(plate.enclosure)
    return None if row is None else row["open"] == "no"


def without_listing(area: Area, plate: Plate) -> Answer:
    """A motor whose plate names no listing, in a division (501.125, 502.125, 503.125)."""
    if enclosure_code(plate.enclosure) in EXPLOSION_PROOF:
        text = "Explosion-proof, but for which class and groups? Its listing is not given."
        return lacks(text, "NFPA 70:2023 500.8(C)")
    if area.hazard_class == "III":
        return _closed_only(plate, "NFPA 70:2023 503.125")
    if area.division == "1":
        return _division_1(area, plate)
    if area.hazard_class == "I":
        return _without_arcing_parts(plate, "division 2", "NFPA 70:2023 501.125(B)")
    return _closed_only(plate, "NFPA 70:2023 502.125(B)")


def _division_1(area: Area, plate: Plate) -> Answer:
    rule = "NFPA 70:2023 501.125(A)" if area.hazard_class == "I" else "NFPA 70:2023 502.125(A)"
    closed = totally_enclosed(plate)
    if closed:
        text = "Totally enclosed is not explosion-proof: it has no flame paths, and no listing."
        if area.hazard_class == "II":
            text = "Totally enclosed is not dust-ignition-proof: it has no listing for this class."
        return breaks(text, rule)
    if closed is False:
        return breaks("An open machine, without a listing, in division 1.", rule)
    return lacks("Its listing is not known; division 1 asks one.", rule)


def in_gas_zone_2(plate: Plate) -> Answer:
    """A motor whose plate names no certificate, in zone 2 under NFPA 70 (505.20(C), exception)."""
    return _without_arcing_parts(plate, "zone 2", "NFPA 70:2023 505.20(C)")


def _without_arcing_parts(plate: Plate, where: str, rule: str) -> Answer:
    arc = sparks(plate)
    if arc is not None:
        verb = "sparks" if arc == _SWITCH else "spark"
        return breaks(f"Not listed, and {arc} {verb} in normal work.", rule)
    text = f"Cage machine without arcing parts: allowed in {where} without a listing."
    protector = read_protector(plate.thermal_protection)
    if protector is None or protector.sparks is None:
        whether = "whether it has a thermal protector" if protector is None else "what its thermal protection is"
        text += f" Its plate does not say {whether}: contacts in one would spark."
        return depends(f"{text} Passes where it has none.", _PROTECTOR, rule)
    return meets(text, rule)


def _closed_only(plate: Plate, rule: str) -> Answer:
    closed = totally_enclosed(plate)
    if closed is None:
        return lacks("Neither a listing nor its enclosure is known.", rule)
    if not closed:
        return breaks("An open machine: dust settles in it. Totally enclosed or listed is asked.", rule)
    text = "Totally enclosed, no external openings: allowed here without a listing."
    return meets(text, rule)
