"""What stands over a recorder's columns: names, their units, which is the time and in what."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Final

from vinegate.core.capture.recording import base_unit

SECONDS: Final = {
    word: seconds
    for words, seconds in (
        ("s sec secs second seconds", 1.0),
        ("ms msec msecs millisecond milliseconds", 1e-3),
        ("µs μs us usec µsec microsecond microseconds", 1e-6),
        ("min mins minute minutes", 60.0),
        ("h hr hrs hour hours", 3600.0),
        ("d day days", 86400.0),
    )
    for word in words.split()
}
"""Seconds of each unit of time, by how it is written."""
_HEAD: Final = re.compile(r"^\s*(.*?)\s*(?:\[([^\]]*)\]|\(([^)]*)\)|/\s*(k?[AVW]|m?s|µs|us|rpm))?\s*$")
_LONG: Final = "|".join(sorted((word for word in SECONDS if len(word) > 1), key=len, reverse=True))
_BEHIND: Final = re.compile(rf"^(.*?)[\s_]+(kV|mV|kA|mA|kW|Hz|rpm|{_LONG}|[VAWsh])$", re.I)
_OF_A_STRETCH: Final = re.compile(
    r"^(?!.*\bphase\s+[ABC]\s).*\b([kM]?[AVW]|Hz|rpm)\s+(?:min|max|avg|mean|average|peak)(?:imum)?\.?$", re.I
)
"""What of each stretch is written: RMS V min is no time."""
_TIME: Final = re.compile(
    r"^(?:t|time|zeit|uhrzeit|zeitstempel|timestamp|date|datum|datetime|elapsed|heure|clock)(?![A-Za-z0-9])", re.I
)
_ANYWHERE: Final = re.compile(r"\b(?:time|timestamp|zeit|uhrzeit|clock)\b", re.I)
_DATE: Final = re.compile(r"^(?:date|datum|day)(?![A-Za-z0-9])(?!.*(?:time|zeit))", re.I)
_LINES: Final = re.compile(r"L?[1-3](?:\s*[-/–]?\s*(?:L?[1-3]|N))?", re.I)
_COUNT: Final = re.compile(
    r"^(?:#|no\.?|nr\.?|n°|index|count|sample|samples|sample no\.?|record|row|point|id)(?:\s*(?:#|no\.?))?$", re.I
)
_WORDS: Final = (
    ("A", re.compile(r"^I\s?(?:[L_ -]*[1-3ABCRSTUVW])?\b|^A\s?[1-3]$|^I(?=L?[1-3]|RMS|AVG)|"
                     r"CURRENT|\bAMP(?:S|ERES?)?\b|ARMS\b|STROM|COURANT", re.I)),
    ("V", re.compile(r"^[UV]\s?(?:[L_ -]*[1-3ABCRSTUVWN])*\b|^[UV](?=L?[1-3]|RMS|AVG)|"
                     r"VOLT|VRMS\b|SPANN|TENSION", re.I)),
    ("rpm", re.compile(r"^N$|RPM|SPEED|DREHZ", re.I)),
)  # fmt: skip

Head = tuple[str, str]
"""Name and unit; either may be empty."""


def heads_of(ahead: Sequence[Sequence[str]]) -> list[Head]:
    """From the line ahead of the numbers, or the two ahead where the second holds units alone."""
    if not ahead:
        return []
    units = [one.strip().strip('"[]()') for one in ahead[-1]]
    alone = len(ahead) == 2 and all(not one or is_unit(one) for one in units) and any(units)
    found = []
    for at, text in enumerate(ahead[-2] if alone else ahead[-1]):
        match = _HEAD.match(text.strip().strip('"'))
        name = match.group(1) if match else text.strip()
        unit = next((one for one in match.groups()[1:] if one), "") if match else ""
        if _LINES.fullmatch(unit):  # I(L1), U(L1-L2): what it measures stands in the brackets
            name, unit = f"{name} {unit}", ""
        unit = unit or (units[at] if alone and at < len(units) else "")
        found.append((name, unit) if unit else parted(name))
    return _once(found)


def _once(heads: list[Head]) -> list[Head]:
    """Each name once: what stands twice has a number behind it."""
    seen: dict[str, int] = {}
    found = []
    for name, unit in heads:
        seen[name] = seen.get(name, 0) + 1
        found.append((f"{name} ({seen[name]})" if name and seen[name] > 1 else name, unit))
    return found


def is_unit(text: str) -> bool:
    return base_unit(text)[0] in ("A", "V", "W", "rpm", "Hz", "%") or text.lower() in SECONDS


def parted(name: str) -> Head:
    """A unit that stands behind its name without brackets: one letter counts behind a number or a word for time.

    >>> parted("RMS V min"), parted("I1 min"), parted("Dauer min")
    (('RMS V min', 'V'), ('I1 min', ''), ('Dauer', 'min'))
    >>> parted("I1_A"), parted("U12 kV"), parted("time_s"), parted("I_A"), parted("time"), parted("kW")
    (('I1', 'A'), ('U12', 'kV'), ('time', 's'), ('I_A', ''), ('time', ''), ('kW', 'kW'))
    """
    if name.lower() in ("w", "kw", "rpm", *SECONDS):
        return name, name
    if (of := _OF_A_STRETCH.match(name)) is not None:
        return name, of[1]
    behind = _BEHIND.match(name)
    if behind is None:
        return name, ""
    plain, unit = behind.groups()
    if unit.lower() == "min" and unit_of(plain):
        return name, ""  # the least of a stretch
    sure = len(unit) > 1 or plain[-1:].isdigit() or (unit.lower() in SECONDS and _TIME.match(plain) is not None)
    return (plain, unit) if sure else (name, "")


def unit_of(name: str) -> str:
    """From the name itself where no unit is written: I1 is in amperes, U12 or V12 in volts, "L1 Amps" by its word.

    >>> [unit_of(one) for one in ("I1", "Phase A Current", "Vab", "AN Volts", "Speed", "THD I1", "Index")]
    ['A', 'A', 'V', 'V', 'rpm', '', '']
    """
    return next((unit for unit, word in _WORDS if word.search(name.strip())), "")


def time_places(heads: Sequence[Head]) -> tuple[int | None, int | None]:
    """The column of the time, and that of the date which stands beside a clock."""
    names = [name for name, _ in heads]
    dates = [at for at, name in enumerate(names) if _DATE.match(name)]
    times = [at for at, (name, unit) in enumerate(heads) if at not in dates
             and (_TIME.match(name) or _ANYWHERE.search(name) or name.lower() in SECONDS)]  # fmt: skip
    if times:
        return times[0], dates[0] if dates else None
    return (dates[0] if dates else None), None


def counts(name: str) -> bool:
    """Whether a column numbers its lines.

    >>> counts("No."), counts("Sample"), counts("Sample time")
    (True, True, False)
    """
    return _COUNT.match(name.strip()) is not None
