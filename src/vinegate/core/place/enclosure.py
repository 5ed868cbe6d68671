"""Ordinary dangers: what rain, dust, hoses and corrosion ask of an enclosure, as an IP code and as a NEMA type."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Answer, Kind, breaks, depends, lacks, meets, on_site, ruled
from vinegate.core.place.explain import cabinet_types
from vinegate.core.place.facts import Area
from vinegate.core.plate.enclosed import enclosure_row, ip_code, ip_marks
from vinegate.core.rules import RuleSet
from vinegate.core.tables import load
from vinegate.core.turning import Turns

_WATER_DIGIT: Final = {"dry": 0, "drops": 2, "splash": 4, "hose": 5, "under": 7}
_RAIN_DIGIT: Final = 4
_ORDER: Final = ("1", "2", "12", "3R", "3", "3RX", "3X", "4", "4X", "6", "6P")
_RULE: Final = "NEMA 250:2003, IEC 60529:2013"


def surroundings_lacking(area: Area) -> tuple[str, ...]:
    """What is not said of the surroundings."""
    asked = (
        ("indoor or outdoor", area.sky),
        ("water", area.water),
        ("dust", area.dusty),
        ("corrosion", area.corrosive),
    )
    return tuple(label for label, value in asked if value is None)


def ip_asked(area: Area) -> tuple[int, int]:
    """Least digits against solids and water. Unsaid surroundings count as mild: `surroundings_lacking` names them."""
    water = _WATER_DIGIT[area.water or "dry"]
    if area.sky == "outdoor":
        water = max(water, _RAIN_DIGIT)
    solids = 5 if area.dusty == "yes" else 4 if area.sky == "outdoor" else 2
    return solids, water


def type_asked(area: Area) -> str:
    """The plainest NEMA type that keeps out what is there.

    >>> type_asked(Area.model_validate({"sky": "outdoor", "water": "hose", "corrosive": "yes"}))
    '4X'
    """
    return next(name for name in _ORDER if _type_serves(name, area))


def _type_serves(name: str, area: Area) -> bool:
    row = load("nema_type").find(type=name)
    assert row is not None
    wants = {
        "rain": area.sky == "outdoor",
        "dust": area.dusty == "yes",
        "hose": area.water == "hose",
        "corrosion": area.corrosive == "yes",
        "under_water": area.water == "under",
    }
    drips = area.water in ("drops", "splash") and name == "1"
    splashes = area.water == "splash" and row["rain"] == "no"
    return not drips and not splashes and all(row[key] == "yes" for key, wanted in wants.items() if wanted)


def cabinet(area: Area, text: str | None, rules: RuleSet, path: str = "") -> Answer:
    """An enclosure of a starter, drive, brake or push button, typed at `path`, against its surroundings."""
    wanted = asked_text(area, rules)
    if not text:
        return lacks(f"Its enclosure is not known; {wanted} is asked.", _RULE)
    names = cabinet_types(text)
    if not names or (ip_marks(text) and not rules.hazards.types):
        return _by_ip(area, text, rules, path)
    return min((_by_type(area, name, wanted) for name in names), key=lambda found: found.verdict.rank)


def _by_type(area: Area, name: str, wanted: str) -> Answer:
    if name in _HAZARDOUS:
        wet = area.sky == "outdoor" or area.water in ("hose", "under", "splash")
        said = f"Type {name} is an indoor type"
        return ruled(not wet, f"{said}: {wanted} is asked too." if wet else f"{said}, as asked here.", _RULE)
    serves = _type_serves(name, area)
    return ruled(serves, f"Type {name} {'keeps out what is there' if serves else f'is not enough: {wanted} is asked'}.",
                 _RULE)  # fmt: skip


_HAZARDOUS: Final = ("7", "9")  # NEMA 250: explosion-proof and dust-ignition-proof, for indoors; 8 is for both


def asked_text(area: Area, rules: RuleSet) -> str:
    """What to ask for: the type under NEC with the IP code it meets, the IP code under IEC: it meets no type."""
    if rules.hazards.types:
        kind = type_asked(area)
        row = load("nema_type").find(type=kind)
        return f"type {kind} (meets {row['ip']})" if row else f"type {kind}"
    return _as_ip(area)


def ip_digits(text: str) -> tuple[int, int] | None:
    """Digits of an IP code, X as nought.

    >>> ip_digits("IP5X"), ip_digits("type 12")
    ((5, 0), None)
    """
    return next(iter(ip_marks(text)), None)


def _by_ip(area: Area, text: str, rules: RuleSet, path: str) -> Answer:
    marks, wanted = ip_marks(text), ip_asked(area)
    if not marks:
        return lacks(f"“{text}” is neither a NEMA type nor an IP code.", _RULE)
    has = next((one for one in marks if ip_serves(one, wanted)), None)
    if has is None:
        has = marks[0]
        return breaks(f"IP{has[0]}{has[1]} is not enough: {asked_text(area, rules)} is asked.", _RULE)
    if rules.hazards.types:
        kind = type_asked(area)
        said = f"An IP code makes no type: type {kind} also asks corrosion, ice and gasket tests."
        turns = Turns(
            path=path, label="enclosure", passes=f"type {kind}", fails="type 1" if kind not in ("1", "2") else "",
            passes_as=f"type {kind}", fails_as="type 1" if kind not in ("1", "2") else "",
        )  # fmt: skip
        return depends(f"{said} Passes for an enclosure marked type {kind}.", turns, _RULE)
    if area.corrosive == "yes":
        return on_site(f"IP{has[0]}{has[1]} keeps out what is there; corrosion asks for its material.", _RULE)
    return meets(f"IP{has[0]}{has[1]} keeps out what is there.", _RULE)


def ip_serves(has: tuple[int, int], wanted: tuple[int, int]) -> bool:
    """Water digits 7 to 9 do not stand for jets (5, 6) unless both are marked."""
    if wanted[1] in (5, 6) and has[1] not in (5, 6):
        return False
    return has[0] >= wanted[0] and has[1] >= wanted[1]


def machine(area: Area, enclosure: str | None, ip: str | None, *, in_air_stream: bool) -> Answer:
    """A motor's enclosure: by its IP code where it has one, else by what is usual for its kind."""
    row = enclosure_row(enclosure)
    if row is not None and row["code"] == "TEAO" and not in_air_stream:
        return breaks("Cooled by the air it drives: this load drives none over it.", "NEMA MG 1 1.26")
    said = ip_code(enclosure, ip)
    marks = ip_marks(said)
    serves = any(ip_serves(one, ip_asked(area)) for one in marks)
    if serves or (marks and (row is None or area.water in ("splash", "hose", "under"))):
        text = f"{said} keeps out what is there." if serves else f"{said} is not enough: {_as_ip(area)} is asked."
        if serves and area.corrosive == "yes":
            return on_site(f"{text} {_CORRODES}", "IEC 60034-5:2020")
        return ruled(serves, text, "IEC 60034-5:2020")
    if row is None:
        return lacks("Its enclosure is not known.", _MG_1)
    fails = [
        danger
        for danger, there in (
            ("outdoor", area.sky == "outdoor"),
            ("dusty", area.dusty == "yes"),
            ("washdown", area.water in ("hose", "under")),
        )
        if there and row[danger] == "no"
    ]
    if area.water == "splash" and (ip_digits(row["ip"]) or (0, 0))[1] < _WATER_DIGIT["splash"]:
        fails.append("splash")  # drip-proof bears drops within 15° of the vertical, splash-proof to 100° (MG 1 1.25)
    if fails:
        return breaks(f"{row['code']}, {row['meaning']}: not for {_DANGERS[fails[0]]}.", _MG_1)
    text = f"{row['code']}, {row['meaning']}, usually {row['ip']}, {row['ic']}."
    if area.corrosive == "yes":
        return on_site(f"{text} {_CORRODES}", _MG_1)
    return meets(text, _MG_1)


_CORRODES: Final = "Corrosion asks for more: paint, hardware, drains, by its maker."
_DANGERS: Final = {"splash": "splashing water", "outdoor": "outdoors", "dusty": "dust", "washdown": "hoses"}


def machine_asked(area: Area) -> str:
    """The plainest motor enclosure that serves, with its usual cooling and the least IP code."""
    for code in _OFFERED:
        found = machine(area, code, None, in_air_stream=False)
        if found.verdict.usable or found.kind is Kind.CONFIRM:
            row = load("motor_enclosure").find(code=code)
            assert row is not None
            usual, asked = ip_digits(row["ip"]) or (0, 0), ip_asked(area)
            return f"{code} ({row['ic']}, IP{max(asked[0], usual[0])}{max(asked[1], usual[1])})"
    return f"closed, built for it ({_as_ip(area)})"


_OFFERED: Final = ("ODP", "TEFC", "TENV")  # WPI and WPII are made in large sizes, TEBC for drives
_MG_1: Final = "NEMA MG 1:2021 1.25, 1.26"


def _as_ip(area: Area) -> str:
    return "IP{}{}".format(*ip_asked(area))
