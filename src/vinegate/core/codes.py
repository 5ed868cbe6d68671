"""What a plate's codes mean: one decoder a kind."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Final

from vinegate.core.numbers import write
from vinegate.core.place.explain import Part, explain, explain_cabinet
from vinegate.core.plate.duty import read_duty
from vinegate.core.plate.enclosed import cooling_code, enclosure_code
from vinegate.core.plate.ie_class import ie_class
from vinegate.core.plate.insulation import class_letter
from vinegate.core.plate.protector import read_protector
from vinegate.core.records import dataclass
from vinegate.core.tables import load

_NOT_WORD: Final = re.compile(r"[\s.\-_/,()]+")


@dataclass(frozen=True, slots=True, kw_only=True)
class Meaning:
    """One part of a code: what kind of code, the part as written, what it says, and which standard says so."""

    kind: str
    part: str
    text: str
    standard: str


KIND_NAMES: Final = {
    "letter": "Code letter",
    "design": "Design letter",
    "frame": "Frame",
    "insulation": "Insulation class",
    "enclosure": "Enclosure",
    "ip": "Degree of protection",
    "cooling": "Cooling",
    "mounting": "Mounting",
    "duty": "Duty",
    "efficiency": "Efficiency class",
    "thermal": "Thermal protection",
    "tcode": "Temperature code",
    "rotation": "Rotation",
    "capacitor": "Capacitor",
    "marking": "Hazardous-area marking",
    "cabinet": "Enclosure type",
}

_PREFIXES: Final = {
    "design": r"(?:NEMA)?DES(?:IGN)?",
    "insulation": r"(?:INS(?:UL(?:ATION)?)?)?(?:CLASS|CL)?",
    "mounting": r"IM",
    "duty": r"DUTY",
    "thermal": r"(?:THERMAL)?(?:PROT(?:ECTION|ECTED)?)?",
    "tcode": r"(?:TEMP(?:ERATURE)?)?(?:CODE)?",
    "rotation": r"ROT(?:ATION)?",
}
_SYNONYMS: Final = {
    "duty": {"CONTINUOUS": "CONT", "INTERMITTENT": "INT"},
    "rotation": {
        "CCW": "CCWODE",
        "CW": "CWODE",
        "CCWOPPOSITEDRIVEEND": "CCWODE",
        "CWOPPOSITEDRIVEEND": "CWODE",
        "CCWDRIVEEND": "CCWDE",
        "CWDRIVEEND": "CWDE",
        "CCWLEADEND": "CCWODE",
        "CWLEADEND": "CWODE",
    },
}


def decode(kind: str, text: str) -> tuple[Meaning, ...]:
    """What the code of this kind says; empty when it is not one. `kind` is a key of KIND_NAMES.

    >>> [m.text for m in decode("frame", "256TCZ")][0]
    'shaft height 6.25 in: the first two digits are four times it (25 ÷ 4)'
    """
    special: dict[str, Callable[[str], tuple[Meaning, ...]]] = {
        "frame": _frame,
        "ip": _ip,
        "letter": code_letter,
        "capacitor": _capacitor,
        "duty": _duty,
        "marking": _marking,
        "cabinet": _cabinet,
        "thermal": _thermal,
        "mounting": _mounting,
        "insulation": _insulation,
        "cooling": lambda stamped: _listed("cooling", cooling_code(stamped) or stamped),
        "enclosure": lambda stamped: _listed("enclosure", enclosure_code(stamped) or stamped),
        "efficiency": lambda stamped: _listed("efficiency", ie_class(stamped) or stamped),
    }
    return special[kind](text) if kind in special else _listed(kind, text)


def _plain(text: str) -> str:
    return _NOT_WORD.sub("", text).upper()


def _listed(kind: str, text: str) -> tuple[Meaning, ...]:
    """A code that stands in the table of meanings, with or without its kind's word before it."""
    code = _plain(text)
    prefix = _PREFIXES.get(kind)
    if prefix:
        code = re.sub(f"^{prefix}(?=.)", "", code)
    code = _SYNONYMS.get(kind, {}).get(code, code)
    row = load("codes").find(kind=kind, code=code)
    if row is None:
        return ()
    return (Meaning(kind=kind, part=code, text=row["meaning"], standard=row["standard"]),)


_FRAME: Final = re.compile(r"^(?:NEMA)?(?:FR(?:AME)?)?(?P<number>\d{2,3})(?P<suffix>[A-Z]{0,4})$")
_IEC_FRAME: Final = re.compile(r"^(?:IEC)?(?:FR(?:AME)?)?(?P<height>\d{2,3})(?P<length>[SML]?)(?P<variant>[A-Z]?\d?)$")
_IEC_HEIGHTS: Final = (56, 63, 71, 80, 90, 100, 112, 132, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450)
_NEMA_SMALL: Final = (42, 48, 56, 66)
_NEMA_SERIES: Final = (14, 16, 18, 20, 21, 22, 25, 28, 32, 36, 40, 44, 50, 58, 68)


def _frame(text: str) -> tuple[Meaning, ...]:
    """NEMA: shaft height in inches is the number over 16 (two digits) or its first two over 4. IEC: height in mm."""
    code = _plain(text)
    iec = _IEC_FRAME.match(code)
    if (
        iec
        and int(iec["height"]) in _IEC_HEIGHTS
        and (iec["length"] or not _FRAME.match(code) or int(iec["height"]) > 68)
    ):
        nema_like = _FRAME.match(code)
        if not (nema_like and int(iec["height"][:2]) in _NEMA_SERIES and iec["length"] == "" and nema_like["suffix"]):
            return _iec_frame(iec)
    match = _FRAME.match(code)
    return _nema_frame(match["number"], match["suffix"]) if match else ()


def _nema_frame(number: str, suffix: str) -> tuple[Meaning, ...]:
    standard = "NEMA MG 1 4.2"
    if len(number) == 2 and int(number) in _NEMA_SMALL:
        height = int(number) / 16
        text = f"shaft height {height:g} in: two digits are sixteen times it ({number} ÷ 16)"
    elif len(number) == 3 and int(number[:2]) in _NEMA_SERIES:
        height = int(number[:2]) / 4
        text = f"shaft height {height:g} in: the first two digits are four times it ({number[:2]} ÷ 4)"
    else:
        return ()
    found = [Meaning(kind="frame", part=number, text=text, standard=standard)]
    if len(number) == 3:
        third = "the third digit stands for the spacing of the feet along the shaft: larger is longer"
        found.append(Meaning(kind="frame", part=number[2], text=third, standard=standard))
    if suffix:
        row = load("codes").find(kind="suffix", code=suffix)
        if row is None:
            text = "suffix not in the standard's list: ask for the drawing"
            found.append(Meaning(kind="frame", part=suffix, text=text, standard=standard))
        else:
            found.append(Meaning(kind="frame", part=suffix, text=row["meaning"], standard=row["standard"]))
    return tuple(found)


def _iec_frame(match: re.Match[str]) -> tuple[Meaning, ...]:
    standard = "IEC 60072-1"
    found = [
        Meaning(kind="frame", part=match["height"], text=f"shaft height {match['height']} mm", standard=standard),
    ]
    lengths = {"S": "short", "M": "medium", "L": "long"}
    if match["length"]:
        text = f"{lengths[match['length']]} spacing of the feet along the shaft"
        found.append(Meaning(kind="frame", part=match["length"], text=text, standard=standard))
    return tuple(found)


_SOLIDS: Final = {
    "0": "no protection against solids",
    "1": "objects of 50 mm and more kept out",
    "2": "fingers and objects of 12.5 mm and more kept out",
    "3": "tools and objects of 2.5 mm and more kept out",
    "4": "wires and objects of 1 mm and more kept out",
    "5": "dust may enter, not so much as to do harm",
    "6": "no dust enters",
    "X": "protection against solids not stated",
}
_WATER: Final = {
    "0": "no protection against water",
    "1": "drops falling straight down do no harm",
    "2": "drops falling up to 15° from vertical do no harm",
    "3": "spray up to 60° from vertical does no harm",
    "4": "splashes from any side do no harm",
    "5": "jets from any side do no harm",
    "6": "strong jets from any side do no harm",
    "7": "immersion for half an hour at 1 m does no harm",
    "8": "lasting immersion as the maker states does no harm",
    "9": "hot high-pressure jets do no harm",
    "X": "protection against water not stated",
}


def _ip(text: str) -> tuple[Meaning, ...]:
    match = re.match(r"^IP([0-6X])([0-9X])[A-Z]{0,2}$", _plain(text))
    if not match:
        return ()
    solids, water = match.groups()
    standard = "IEC 60529; for machines IEC 60034-5"
    return (
        Meaning(kind="ip", part=f"IP{solids}", text=_SOLIDS[solids], standard=standard),
        Meaning(kind="ip", part=f"IP_{water}", text=_WATER[water], standard=standard),
    )


def code_letter(text: str, hp: float | None = None, volts: float | None = None, phases: int = 3) -> tuple[Meaning, ...]:
    """kVA per hp, and the amperes they are where power and volts are known."""
    code = re.sub(r"^CODE(?=.)", "", _plain(text))
    table = load("code_letter")
    row = table.find(letter=code)
    if row is None:
        return ()
    low, high = table.number(row, "from_kva_per_hp"), table.number(row, "to_kva_per_hp")
    assert low is not None
    band = f"{write(low)} kVA/hp and more" if high is None else f"{write(low)} to below {write(high)} kVA/hp"
    found = [Meaning(kind="letter", part=code, text=f"locked-rotor input {band}", standard=table.cite)]
    if hp and volts:
        root = 3**0.5 if phases == 3 else 1.0
        amps = [write(1000 * value * hp / (root * volts), 3) for value in (low, high) if value is not None]
        shown = " to ".join(amps) if len(amps) == 2 else f"{amps[0]} and more"
        text = f"at {write(hp)} hp and {write(volts)} V {'three' if phases == 3 else 'single'}-phase: {shown} A at rest"
        found.append(Meaning(kind="letter", part=code, text=text, standard="NFPA 70 430.7(B)"))
    return tuple(found)


def _marking(text: str) -> tuple[Meaning, ...]:
    return _meanings("marking", explain(text))


def _cabinet(text: str) -> tuple[Meaning, ...]:
    """A NEMA type, or an IP code."""
    return _meanings("cabinet", explain_cabinet(text)) or _ip(text)


def _meanings(kind: str, parts: tuple[Part, ...]) -> tuple[Meaning, ...]:
    return tuple(Meaning(kind=kind, part=part, text=text, standard=standard) for part, text, standard in parts)


def _duty(text: str) -> tuple[Meaning, ...]:
    """S1 to S10, with the share or minutes that follow; NEMA time ratings in minutes or hours."""
    duty = read_duty(text)
    if duty is None or not duty.kind:
        return ()
    stamped = re.search(r"(?<![A-Z0-9])(?:S\s?\d+|CONT\w*|INT\w*)", duty.text)
    timed = duty.minutes is not None and duty.minutes <= _LONGEST_MIN
    if not (stamped or timed or re.search(r"\b(?:ED|DUTY)\b", duty.text)):
        return ()  # a percentage or some hours of anything else
    span = "" if duty.minutes is None else f"{duty.minutes:g} minutes"
    if stamped is None and duty.kind == "S2":
        meaning = f"may run {span} from cold, then rests until cold"
        return (Meaning(kind="duty", part=duty.text, text=meaning, standard="NEMA MG 1 10.36"),)
    found = list(_listed("duty", stamped[0] if stamped else duty.kind))
    if found and duty.share_pu is not None:
        share = f"{100 * duty.share_pu:g} %"
        found.append(Meaning(kind="duty", part=share, text=f"{share} of each cycle under load", standard=_DUTY_SOURCE))
    if found and duty.periodic and span:
        found.append(Meaning(kind="duty", part=span, text=f"in cycles of {span}", standard=_DUTY_SOURCE))
    if found and duty.kind == "S2" and span:
        found.append(Meaning(kind="duty", part=span, text=f"under load for {span}", standard=_DUTY_SOURCE))
    return tuple(found)


_DUTY_SOURCE: Final = "IEC 60034-1 4.2"
_LONGEST_MIN: Final = 60.0  # of the time ratings that MG 1 10.36 lists


_TP: Final = re.compile(r"\bTP[\s-]?([123])([12])([12])\b")
_WARMS: Final = {"1": "slow and fast warming", "2": "slow warming: overload", "3": "fast warming: a stall"}
_ACTS: Final = {"1": "switches off", "2": "warns, then switches off"}


def _thermal(text: str) -> tuple[Meaning, ...]:
    """As it is stamped where the table has that, else by what it says; a designation by its three digits."""
    digits = _TP.search(text.upper())
    if digits:
        warms, acts, category = digits.groups()
        cooler = "lower" if category == "1" else "higher"
        said = f"protected against {_WARMS[warms]}; {_ACTS[acts]}; category {category}: the {cooler} winding limits"
        return (Meaning(kind="thermal", part=f"TP {''.join(digits.groups())}", text=said, standard="IEC 60034-11"),)
    return _listed("thermal", text) or _listed("thermal", read_protector(text) or "")


_CLASS: Final = re.compile(
    r"(?:(?:TH(?:ERMAL)?\.?\s?)?CL(?:ASS)?\.?\s?)?(?:[AEBFHNR]|\d{3}\s?(?:\([AEBFHNR]\))?)", re.I
)


def _insulation(text: str) -> tuple[Meaning, ...]:
    """By its letter, or by its degrees with or without that.

    >>> [_insulation(text)[0].part for text in ("F", "Th.Cl.155(F)", "155 (F)", "Th.Cl.F", "130")]
    ['F', 'F', 'F', 'F', 'B']
    >>> _insulation("155F"), _insulation("156(F) mm")
    ((), ())
    """
    found = _listed("insulation", text)
    if found or _CLASS.fullmatch(text.strip()) is None:
        return found
    return _listed("insulation", class_letter(text) or "")


def _mounting(text: str) -> tuple[Meaning, ...]:
    """By letter and number, or by the four digits that the table's words end with."""
    found = _listed("mounting", text)
    number = re.search(r"^(?:IM)?(\d{4})$", _plain(text))
    if found or number is None:
        return found
    rows = (row for row in load("codes").rows if row["kind"] == "mounting")
    named = next((row["code"] for row in rows if f"(IM {number[1]})" in row["meaning"]), "")
    return _listed("mounting", named)


def _capacitor(text: str) -> tuple[Meaning, ...]:
    """`161-193 MFD 250 VAC`: microfarads and volts. A start capacitor gives a range, a run capacitor one value."""
    body = text.strip().upper().replace("Μ", "µ").replace("UF", "MFD").replace("µF", "MFD").replace("ΜF", "MFD")
    match = re.match(r"^(\d+(?:\.\d+)?)(?:\s*-\s*(\d+(?:\.\d+)?))?\s*MFD\b[\s,/]*(?:(\d+)\s*V?)?", body)
    if not match:
        return ()
    low, high, volts = match.groups()
    kind = "a range: a start capacitor, for seconds only" if high else "one value: a run capacitor, for continuous duty"
    found = [
        Meaning(kind="capacitor", part=f"{low}{'-' + high if high else ''} µF", text=kind, standard="EIA-463; EIA-456")
    ]
    if volts:
        rule = f"{volts} V; replace with the same µF at these or higher volts, new"
        found.append(Meaning(kind="capacitor", part=f"{volts} V", text=rule, standard="NEMA MG 1 10.40"))
    return tuple(found)
