"""What a plate's codes mean: one decoder a kind, and a shelf that finds the kind itself."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Final

from vinegate.core.numbers import QuantityError, write
from vinegate.core.place.explain import Part, explain, explain_cabinet
from vinegate.core.plate.duty import read_duty
from vinegate.core.plate.enclosed import enclosure_code
from vinegate.core.plate.ie_class import ie_class
from vinegate.core.plate.protector import read_protector
from vinegate.core.quantity import POWER, VOLTAGE, WATT_PER_HP
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
        "letter": _letter,
        "capacitor": _capacitor,
        "duty": _duty,
        "marking": _marking,
        "cabinet": _cabinet,
        "thermal": _thermal,
        "enclosure": lambda stamped: _listed("enclosure", enclosure_code(stamped) or stamped),
        "efficiency": lambda stamped: _listed("efficiency", ie_class(stamped) or stamped),
    }
    return special[kind](text) if kind in special else _listed(kind, text)


_PHRASES: Final = ("duty", "capacitor", "rotation", "thermal")
_IDLE: Final = frozenset(
    [
        "what",
        "does",
        "mean",
        "is",
        "a",
        "the",
        "at",
        "code",
        "class",
        "frame",
        "insulation",
        "of",
        "on",
        "and",
        "hp",
        "kw",
        "v",
    ]
)


def shelf(question: str) -> tuple[Meaning, ...]:
    """Find what a question asks about: codes anywhere in it, of any kind that reads them.

    >>> [m.part for m in shelf("what does IP55 IC411 mean")]
    ['IP5', 'IP_5', 'IC411']
    """
    found: dict[Meaning, None] = dict.fromkeys(_letter_in_words(question))
    question = _marking_in_words(question, found)
    words = [word for word in re.split(r"[\s,;?]+", question) if word]
    index = 0
    while index < len(words):
        taken, meanings = _at(words, index)
        found.update(dict.fromkeys(meanings))
        index += taken
    return tuple(found)


def _at(words: list[str], index: int) -> tuple[int, tuple[Meaning, ...]]:
    """What stands at this word: a code of several words before one of a single word. Returns how many it took."""
    for count in (4, 3, 2):
        phrase = " ".join(words[index : index + count])
        for kind in _PHRASES:
            meanings = decode(kind, phrase)
            if meanings and len(words) >= index + count and meanings != decode(kind, words[index]):
                return count, meanings
    if words[index].casefold() in _IDLE:
        return 1, ()
    return 1, _any_kind(words[index], words[index - 1].casefold() if index else "")


def _any_kind(word: str, before: str) -> tuple[Meaning, ...]:
    """A single letter says nothing by itself: it needs the word before it."""
    hint = {"class": "insulation", "insulation": "insulation", "design": "design", "code": "letter", "frame": "frame"}
    if before in hint:
        return decode(hint[before], word)
    if len(_NOT_WORD.sub("", word)) < 2 or re.fullmatch(r"[\d.,]+", word):
        return ()
    found: list[Meaning] = []
    for kind in KIND_NAMES:
        if kind not in ("letter", "marking"):
            found += decode(kind, word)
    return tuple(found)


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


def _letter(text: str, hp: float | None = None, volts: float | None = None, phases: int = 3) -> tuple[Meaning, ...]:
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


def _letter_in_words(question: str) -> tuple[Meaning, ...]:
    """`code H at 15 hp 230 V`: the letter with power, volts and phases from the same words."""
    match = re.search(r"\bcode(?:\s+letter)?\s+([A-Z])\b", question, re.I)
    if not match:
        return ()
    power = re.search(r"([\d.,/\s½¼¾]*\d)\s*(hp|kw)\b", question, re.I)
    volts = re.search(r"([\d.,]+)\s*k?v(?:olts?)?\b", question, re.I)
    single = bool(re.search(r"single|1\s*-?\s*(?:ph|phase|~)", question, re.I))
    try:
        hp = POWER.read(power.group(0).strip()) / WATT_PER_HP if power else None
        at = VOLTAGE.read(volts.group(0)) if volts else None
    except QuantityError:
        hp = at = None
    return _letter(match.group(1), hp, at, 1 if single else 3)


_MARKING_STARTS: Final = re.compile(
    r"(?:\bCL(?:ASS|\.)?\s*(?:I{1,3}|[123])\b|\bII?\s*[123]\s*G?D?\s+Ex\b|\b(?:AEx|EEx|Ex)\s)", re.I
)


def _marking_in_words(question: str, found: dict[Meaning, None]) -> str:
    """A marking for hazardous areas takes all that follows it; returns what stands before it."""
    start = _MARKING_STARTS.search(question)
    if start is None:
        return question
    meanings = _marking(question[start.start() :].strip(" ?"))
    if not meanings:
        return question
    found.update(dict.fromkeys(meanings))
    return question[: start.start()]


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
    stamped = re.match(r"S\s?\d+|CONT\w*|INT\w*", duty.text)
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
    if found and duty.kind == "S2" and span:
        found.append(Meaning(kind="duty", part=span, text=f"under load for {span}", standard=_DUTY_SOURCE))
    return tuple(found)


_DUTY_SOURCE: Final = "IEC 60034-1 4.2"
_LONGEST_MIN: Final = 60.0  # of the time ratings that MG 1 10.36 lists


def _thermal(text: str) -> tuple[Meaning, ...]:
    """As it is stamped where the table has that, else by what it says."""
    return _listed("thermal", text) or _listed("thermal", read_protector(text) or "")


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
