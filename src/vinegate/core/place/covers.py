"""Whether a marking covers an area: classes, divisions and groups, zones and levels, and the way between the two."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Answer, breaks, lacks, meets, on_site
from vinegate.core.place.ex_mark import LEVELS, ExMark
from vinegate.core.place.facts import Area
from vinegate.core.place.listing import Listed, Marking, group_letters
from vinegate.core.rules import RuleSet

_ZONE_LEVEL: Final = {"0": "Ga", "1": "Gb", "2": "Gc", "20": "Da", "21": "Db", "22": "Dc"}
GAS_GROUPS: Final = ("IIA", "IIB", "IIB+H2", "IIC")
DUST_GROUPS: Final = ("IIIA", "IIIB", "IIIC")
# What a zone group asks of a listing by division, each group named; and what a division group asks of a zone marking.
_AS_NEC: Final = {
    "IIA": ("D",),
    "IIB": ("C",),
    "IIB+H2": ("B", "C"),
    "IIC": ("A", "B"),
    "IIIB": ("F", "G"),
    "IIIC": ("E",),
}
_AS_IEC: Final = {"A": "IIC", "B": "IIB+H2", "C": "IIB", "D": "IIA", "E": "IIIC", "F": "IIIB", "G": "IIIB"}
_NOT_ELECTRICAL: Final = {"h"}
_OF_MACHINES: Final = "denpt"
_CLASS_GROUPS: Final = {"I": "ABCD", "II": "EFG", "III": ""}


def lacking(area: Area) -> tuple[str, ...]:
    """What a classified area's description still needs."""
    if area.status == "division":
        asked = [("class", area.hazard_class), ("division", area.division)]
        if area.hazard_class != "III":
            asked.append(("groups", "".join(groups_of(area))))
    elif area.status == "zone":
        asked = [("zone", area.zone), ("gas or dust group", area.group)]
    else:
        return ("how it is classified",) if area.status is None else ()
    return tuple(label for label, value in asked if not value)


def groups_of(area: Area) -> tuple[str, ...]:
    """The NEC groups of an area, in order."""
    return group_letters(area.groups or "")


def odd_group(area: Area) -> str | None:
    """A sentence where class and groups, or zone and group, do not belong together."""
    if area.status == "division" and area.hazard_class:
        strange = [group for group in groups_of(area) if group not in _CLASS_GROUPS[area.hazard_class]]
        return f"Group {', '.join(strange)} is no group of class {area.hazard_class}." if strange else None
    if area.status == "zone" and area.zone and area.group:
        dust = len(area.zone) == 2
        if dust != area.group.startswith("III"):
            return f"{area.group} is no group of zone {area.zone}."
    return None


def level_asked(area: Area) -> str:
    """The protection level: as the document asks, else by the zone (IEC 60079-14:2013 table 2)."""
    return area.level or _ZONE_LEVEL[area.zone or "0"]


def covers(area: Area, marking: Marking, rules: RuleSet) -> Answer:
    """The best answer that any part of the marking gives. The area must not lack anything."""
    answers = [_by_listing(area, one, rules) for one in marking.listed]
    answers += [_by_ex(area, mark, rules) for mark in marking.ex]
    if not answers:
        return lacks("Its marking is not known.")
    return min(answers, key=lambda answer: answer.verdict.rank)


def fits_motor(marking: Marking) -> bool:
    """Whether any of its marks is of a type that machines are built with: flameproof, increased safety, non-sparking,
    pressurized, dust by its housing. Sparks within a few watts (i), casting (m), liquid and sand (o, q) are for others.
    """
    return any(name[0] in _OF_MACHINES for mark in marking.ex for name in mark.types)


def _by_listing(area: Area, one: Listed, rules: RuleSet) -> Answer:
    """Equipment listed by class and division."""
    if area.status == "zone":
        return _listing_in_zone(area, one, rules)
    rule = "NFPA 70:2023 500.8(A) to (C)"
    if one.hazard_class != area.hazard_class:
        return breaks(f"Listed for class {one.hazard_class}; this is class {area.hazard_class}.", rule)
    if area.division == "1" and one.division == "2":
        return breaks("Listed for division 2 only; this is division 1.", rule)
    if not one.groups and groups_of(area):
        return lacks("Its listing names no group: read it again.", rule)
    missing = [group for group in groups_of(area) if group not in one.groups]
    if missing:
        return breaks(f"Its listing does not name group {', '.join(missing)}.", rule)
    return meets("Its listing names this class, division and group.", rule)


def _listing_in_zone(area: Area, one: Listed, rules: RuleSet) -> Answer:
    """A division listing in a zone: not in zone 0 or 20, division 2 only in zone 2 or 22 (505.20, 506.20)."""
    if not rules.hazards.listing_in_zones:
        return breaks("A listing by division is no certificate for a zone.", "IEC 60079-14:2013 4.4")
    rule, zone, group = "NFPA 70:2023 505.20, 506.20", area.zone or "", area.group or ""
    wanted_class = "II" if len(zone) == 2 else "I"
    if group == "IIIA":
        wanted_class = "III"
    if one.hazard_class != wanted_class:
        return breaks(f"Listed for class {one.hazard_class}; zone {zone} here is class {wanted_class}.", rule)
    if zone in ("0", "20"):
        return breaks(f"A listing by division is not enough for zone {zone}.", rule)
    if one.division == "2" and zone in ("1", "21"):
        return breaks(f"Listed for division 2 only, which is not enough for zone {zone}.", rule)
    if not one.groups and group in _AS_NEC:
        return lacks("Its listing names no group: read it again.", rule)
    missing = [name for name in _AS_NEC.get(group, ()) if name not in one.groups]
    if missing:
        return breaks(
            f"{group} is group {', '.join(_AS_NEC[group])}: its listing does not name {', '.join(missing)}.", rule
        )
    return meets(f"A listing by division, allowed in zone {zone} of the same gas or dust.", rule)


def _by_ex(area: Area, mark: ExMark, rules: RuleSet) -> Answer:
    """Equipment marked Ex or AEx."""
    if mark.condition == "U":
        return breaks("U: a component, not to be used by itself.", "IEC 60079-0:2017 29")
    if mark.types and set(mark.types) <= _NOT_ELECTRICAL:
        return breaks("Ex h protects what is not electrical: another marking is for what is.", "ISO 80079-36:2016")
    if not mark.types:
        return lacks("Its marking names no type of protection.", "IEC 60079-0:2017 29.4")
    found = _ex_in_division(area, mark) if area.status == "division" else _ex_in_zone(area, mark)
    if not found.verdict.usable:
        return found
    if rules.hazards.american_marks and not mark.american:
        text = f"{found.text} Marked Ex, not AEx: the authority decides whether it is accepted."
        return on_site(text, "NFPA 70:2023 505.9(A), (C)(2)")
    if not rules.hazards.american_marks and mark.american:
        text = f"{found.text} Marked AEx: ask for the certificate that counts here."
        return on_site(text, "IEC 60079-14:2013 4.4")
    return found


def _ex_in_zone(area: Area, mark: ExMark) -> Answer:
    rule, asked, has = "IEC 60079-14:2013 5.3, 5.4", level_asked(area), mark.protects
    if not has:
        return lacks("Its marking gives no protection level.", rule)
    if has[0] != asked[0]:
        return breaks(f"{has} is for {'dust' if has[0] == 'D' else 'gas'}; this zone asks {asked}.", rule)
    if LEVELS.index(has) > LEVELS.index(asked):
        return breaks(f"{has} is not enough: {asked} is asked.", rule)
    if not mark.group:
        return lacks(f"Its marking names no group; {area.group} is asked.", rule)
    if not group_covers(mark.group, area.group or ""):
        return breaks(f"Its group {mark.group} does not cover {area.group}.", rule)
    return meets(f"{has} and {mark.group} cover {asked} and {area.group}.", rule)


def group_covers(has: str, asked: str) -> bool:
    """IIC covers IIB covers IIA, IIIC covers IIIB covers IIIA; II by itself covers all gases."""
    ladder = DUST_GROUPS if asked.startswith("III") else GAS_GROUPS
    if has == "II":
        return ladder is GAS_GROUPS
    return has in ladder and asked in ladder and ladder.index(has) >= ladder.index(asked)


def _ex_in_division(area: Area, mark: ExMark) -> Answer:
    """Zone equipment in a division: Ga in both, Gb and Gc in division 2 only (501.5, 502.6)."""
    rule = "NFPA 70:2023 501.5, 502.6, 503.6"
    dust, has = area.hazard_class != "I", mark.protects
    if not has:
        return lacks("Its marking gives no protection level.", rule)
    if (has[0] == "D") != dust:
        return breaks(f"{has} is for {'dust' if has[0] == 'D' else 'gas'}; this is class {area.hazard_class}.", rule)
    if area.division == "1" and has not in ("Ga", "Da"):
        return breaks(
            f"{has} is for a zone whose division would be 1, but is not accepted in division 1; Ga or Da is.", rule
        )
    asked = [_AS_IEC[group] for group in groups_of(area)] or ["IIIA"]
    missing = [group for group in asked if not group_covers(mark.group, group)]
    if not mark.group:
        return lacks(f"Its marking names no group; {', '.join(asked)} is asked.", rule)
    if missing:
        return breaks(f"Its group {mark.group} does not cover {', '.join(missing)}.", rule)
    return meets(f"Zone equipment, {has} and {mark.group}, allowed here.", rule)
