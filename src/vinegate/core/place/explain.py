"""What each part of a marking says, and of enclosures' codes."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.place.ex_mark import ExMark
from vinegate.core.place.listing import Listed, read_marking
from vinegate.core.tables import load

Part = tuple[str, str, str]  # as written, what it says, which standard says so

_LEVELS: Final = {
    "Ga": "very high level of protection, gas: zones 0, 1 and 2",
    "Gb": "high level of protection, gas: zones 1 and 2",
    "Gc": "enhanced level of protection, gas: zone 2",
    "Da": "very high level of protection, dust: zones 20, 21 and 22",
    "Db": "high level of protection, dust: zones 21 and 22",
    "Dc": "enhanced level of protection, dust: zone 22",
}
_GROUPS: Final = {
    "I": "mines",
    "II": "all gases, where group does not matter to this type",
    "IIA": "gases as propane",
    "IIB": "gases as ethylene, and IIA",
    "IIB+H2": "as IIB, and hydrogen",
    "IIC": "gases as hydrogen and acetylene, and IIB and IIA",
    "IIIA": "fibres and flyings",
    "IIIB": "dusts that do not conduct, and IIIA",
    "IIIC": "dusts that conduct, and IIIB and IIIA",
}
_CLASSES: Final = {"I": "gases and vapours", "II": "combustible dusts", "III": "fibres and flyings"}
_NEC_GROUPS: Final = {
    "A": "acetylene",
    "B": "hydrogen and its like",
    "C": "ethylene and its like",
    "D": "propane and its like",
    "E": "metal dusts",
    "F": "coal and carbon dusts",
    "G": "grain, wood, plastic and other dusts",
}


def explain(text: str) -> tuple[Part, ...]:
    """Each part of what stands on a plate; what is not understood is said to be so."""
    marking = read_marking(text)
    found: list[Part] = []
    for one in marking.listed:
        found += _listed(one)
    if marking.temperature:
        found.append(_temperature(marking.temperature))
    for mark in marking.ex:
        found += _ex(mark)
    if found:
        found += [(word, "not understood: read it again, or ask its maker", "") for word in marking.unread]
    return tuple(found)


def _listed(one: Listed) -> list[Part]:
    standard = "NFPA 70:2023 500.5, 500.6, 500.8(C)"
    found = [(f"Class {one.hazard_class}", _CLASSES[one.hazard_class], standard)]
    if one.division:
        text = (
            "where it is present in normal work; division 2 too"
            if one.division == "1"
            else "abnormally only; not division 1"
        )
        found.append((f"Division {one.division}", text, standard))
    else:
        found.append(("no division", "suitable for both divisions", standard))
    found += [(f"Group {group}", f"{_NEC_GROUPS[group]}; each group must be named", standard) for group in one.groups]
    if one.hazard_class != "III" and not one.groups:
        found.append(("no group", "the listing names no group: it says nothing yet", standard))
    return found


def _temperature(code: str) -> Part:
    row = load("temperature_code").find(code=code)
    if row is None:
        return (code, f"surface stays at or below {code.removeprefix('T')}", "IEC 60079-0")
    standard = load("temperature_code").cite if row["iec"] == "yes" else "NFPA 70:2023 table 500.8(C)(4)"
    return (code, f"surface stays at or below {row['most_c']} °C", standard)


def _ex(mark: ExMark) -> list[Part]:
    found: list[Part] = []
    if mark.zone:
        found.append((f"Class I, Zone {mark.zone}", "zone listing of NFPA 70 article 505", "NFPA 70:2023 505.9(C)"))
    if mark.category:
        found.append((mark.category, "group, category and gas or dust of the European directive", "2014/34/EU"))
    text = "explosion protection, listed to the American zone standards" if mark.american else "explosion protection"
    found.append(("AEx" if mark.american else "Ex", text, "UL 60079-0" if mark.american else "IEC 60079-0"))
    for one in mark.types:
        row = load("protection_type").find(type=one)
        assert row is not None
        found.append((one, row["meaning"], row["part"] if " " in row["part"] else f"IEC {row['part']}"))
    if mark.associated:
        found.append(
            (
                f"[{mark.associated}]",
                "protects circuits outside; this device need not stand there itself",
                "IEC 60079-0",
            )
        )
    if mark.group:
        found.append((mark.group, _GROUPS[mark.group], "IEC 60079-0"))
    if mark.temperature:
        found.append(_temperature(mark.temperature))
    if mark.level:
        found.append((mark.level, _LEVELS[mark.level], "IEC 60079-0"))
    elif mark.protects:
        found.append(
            (f"({mark.protects})", f"level that follows from its types: {_LEVELS[mark.protects]}", "IEC 60079-0")
        )
    if mark.ip:
        found.append((mark.ip, "degree of protection of its housing", "IEC 60529"))
    if mark.ambient_c is not None:
        low, high = mark.ambient_c
        found.append((f"{low:g} to {high:g} °C".replace("-", "−"), "ambient it is certified for", "IEC 60079-0"))
    if mark.condition:
        found.append((mark.condition, _CONDITIONS[mark.condition], "IEC 60079-0"))
    return found


_CONDITIONS: Final = {
    "X": "its certificate lists conditions of use: read them and meet them",
    "U": "a component: not for use by itself",
}


def explain_cabinet(text: str) -> tuple[Part, ...]:
    """NEMA types: what each keeps out and the IP it at least meets, never the other way."""
    found = []
    for name in cabinet_types(text):
        row = load("nema_type").find(type=name)
        assert row is not None
        at_least = f"; meets at least {row['ip']}, and no IP code makes a type" if row["ip"] else ""
        found.append((f"type {name}", f"{row['meaning']}{at_least}", load("nema_type").cite))
    return tuple(found)


_TYPE: Final = re.compile(r"(NEMA)?[\s-]*(TYPES?)?[\s-]*(\d{1,2}[A-Z]{0,2})(\s+[a-z ]+)?", re.I)


def cabinet_types(text: str) -> tuple[str, ...]:
    """The NEMA types in a text, each whole by itself: `type 4X`, `NEMA 3R/12`, `4X`; empty where there is none.

    >>> cabinet_types("NEMA Type 3r"), cabinet_types("NEMA 3R/12, IP54"), cabinet_types("IP65"), cabinet_types("12 mm")
    (('3R',), ('3R', '12'), (), ())
    """
    found = []
    for part in re.split(r"\s*(?:[/,;&+]|\band\b)\s*", text.strip()):
        match = _TYPE.fullmatch(part)
        if match is None or (match[4] and not (match[1] or match[2])):
            continue
        if load("nema_type").find(type=match[3].upper()) is not None:
            found.append(match[3].upper())
    return tuple(found)
