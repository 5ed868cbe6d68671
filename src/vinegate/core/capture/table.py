"""A recorder's table as text: any usual mark between fields, decimal comma or point, units in the heads."""

from __future__ import annotations

import re
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.capture.recording import CaptureError, Channel, Recording, base_unit, bounded

_MARKS: Final = (";", "\t", ",")
_MOST_HEAD: Final = 60
_HEAD: Final = re.compile(r"^\s*(.*?)\s*(?:\[([^\]]*)\]|\(([^)]*)\)|/\s*(k?[AVW]|m?s|µs|us|rpm))?\s*$")
_BEHIND: Final = re.compile(r"^(.*?)[\s_]+(kV|mV|kA|mA|kW|Hz|rpm|ms|us|µs|sec|[VAWs])$", re.I)
_TIME: Final = re.compile(r"^(?:t|time|zeit|timestamp|date|datetime|seconds|elapsed)(?![A-Za-z0-9])", re.I)
_SECONDS: Final = {"": 1.0, "s": 1.0, "sec": 1.0, "ms": 1e-3, "µs": 1e-6, "us": 1e-6, "min": 60.0, "h": 3600.0}
_CLOCK: Final = re.compile(r"^(?:(\d+)[ T]days? )?(\d{1,2}):(\d{2}):(\d{2}(?:[.,]\d+)?)$")


_DATE: Final = re.compile(r"^(\d{4}-\d{2}-\d{2})[ T](\d{1,2}:\d{2}:\d{2}(?:[.,]\d+)?)(?:Z|[+-]\d{2}:?\d{2})?$")


def read_table(body: bytes) -> Recording:
    """Raises CaptureError with line and column."""
    lines = _text(body).splitlines()
    mark, first = _begin(lines)
    comma = mark != "," and _comma(lines[first : first + 50])
    heads = _heads(lines, first, mark)
    width = len(lines[first].split(mark))
    rows = [line for line in lines[first:] if line.strip()]
    bounded(len(rows), width)
    when, table = _numbers(rows, mark, width, first, comma=comma)
    names = [*heads, *([("", "")] * width)][:width]
    place = next((at for at, (name, unit) in enumerate(names) if _TIME.match(name)), 0)
    time = _time(when, table, place, names[place][1], first)
    channels = []
    for at, (name, said) in enumerate(names):
        if at == place or not np.isfinite(table[:, at]).any():
            continue
        unit, times = base_unit(said or _unit_of(name))
        channels.append(Channel(name=name or f"column {at + 1}", phase="", unit=unit, values=table[:, at] * times))
    if not channels:
        raise CaptureError("it has no column of numbers beside the time.", line=first + 1)
    station = next((line.split(mark)[-1].strip() for line in lines[:first] if line.lower().startswith("station")), "")
    return Recording(station=station, edition=f"table, “{'tab' if mark == chr(9) else mark}” between fields",
                     time_s=time, channels=tuple(channels))  # fmt: skip


def _text(body: bytes) -> str:
    if body[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return body.decode("utf-16", errors="replace")
    if b"\0" in body[:4096]:
        raise CaptureError("this is no text: a recorder's own format? Save it as CSV or COMTRADE.")
    try:
        return body.decode("utf-8-sig")
    except UnicodeDecodeError:
        return body.decode("cp1252", errors="replace")


def _begin(lines: list[str]) -> tuple[str, int]:
    """The mark between fields, and the first line of numbers: two like it follow each other."""
    for at, line in enumerate(lines[:_MOST_HEAD]):
        for mark in _MARKS:
            fields = line.split(mark)
            if len(fields) < 2 or not _row(fields, comma=mark != ","):
                continue
            after = lines[at + 1].split(mark) if at + 1 < len(lines) else []
            if len(after) == len(fields) and _row(after, comma=mark != ","):
                return mark, at
    raise CaptureError(f"no two lines of numbers follow each other within the first {_MOST_HEAD} lines: is it a table?")


def _row(fields: list[str], *, comma: bool) -> bool:
    """Whether these are a sample's: the first a number or a moment, of the rest at least one a number."""
    rest = [one for one in fields[1:] if one.strip()]
    first = fields[0].strip()
    return (_number(first, comma=comma) is not None or _moment(first) is not None) and bool(rest) and all(
        _number(one, comma=comma) is not None or _moment(one.strip()) is not None for one in rest)  # fmt: skip


def _number(text: str, *, comma: bool) -> float | None:
    plain = text.strip().strip('"').replace("−", "-")
    try:
        return float(plain.replace(",", ".") if comma else plain)
    except ValueError:
        return None


def _moment(text: str) -> float | None:
    """Seconds of a clock's time or of a date with one."""
    clock = _CLOCK.match(text.strip('"'))
    if clock:
        days, hours, minutes, seconds = clock.groups()
        return int(days or 0) * 86400 + int(hours) * 3600 + int(minutes) * 60 + float(seconds.replace(",", "."))
    date = _DATE.match(text.strip('"'))
    if date is None:
        return None
    try:
        day = np.datetime64(date.group(1)).astype("datetime64[s]").astype(np.int64)
    except ValueError:
        return None
    return float(day) + (_moment(date.group(2)) or 0.0)


def _comma(lines: list[str]) -> bool:
    """Whether numbers carry a decimal comma."""
    return any(re.search(r"\d,\d", line) for line in lines)


def _heads(lines: list[str], first: int, mark: str) -> list[tuple[str, str]]:
    """Names and units: from the line ahead of the numbers, or the two ahead where the second holds units alone."""
    ahead = [line.split(mark) for line in lines[max(first - 2, 0) : first] if line.count(mark)]
    if not ahead:
        return []
    units = [one.strip().strip('"[]()') for one in ahead[-1]]
    alone = len(ahead) == 2 and all(not one or base_unit(one)[0] in ("A", "V", "W", "rpm", "Hz", "%") or one in _SECONDS
                                    for one in units) and any(units)  # fmt: skip
    found = []
    for at, text in enumerate(ahead[-2] if alone else ahead[-1]):
        match = _HEAD.match(text.strip().strip('"'))
        name = match.group(1) if match else text.strip()
        unit = next((one for one in match.groups()[1:] if one), "") if match else ""
        unit = unit or (units[at] if alone and at < len(units) else "")
        found.append((name, unit) if unit else _parted(name))
    return found


def _parted(name: str) -> tuple[str, str]:
    """A unit that stands behind its name without brackets: one letter counts behind a number or a word for time.

    >>> _parted("I1_A"), _parted("U12 kV"), _parted("time_s"), _parted("I_A"), _parted("time")
    (('I1', 'A'), ('U12', 'kV'), ('time', 's'), ('I_A', ''), ('time', ''))
    """
    behind = _BEHIND.match(name)
    if behind is None:
        return name, ""
    plain, unit = behind.groups()
    sure = len(unit) > 1 or plain[-1:].isdigit() or (unit.lower() == "s" and _TIME.match(plain))
    return (plain, unit) if sure else (name, "")


def _unit_of(name: str) -> str:
    """From the name itself where no unit is written: I1 is in amperes, U12 or V12 in volts."""
    plain = name.strip().upper()
    if re.match(r"^(?:I|CURR|AMP|STROM)", plain):
        return "A"
    if re.match(r"^(?:U|V|VOLT|SPANN)", plain):
        return "V"
    if re.match(r"^(?:N$|RPM|SPEED|DREHZ)", plain):
        return "rpm"
    return ""


def _numbers(rows: list[str], mark: str, width: int, first: int, *, comma: bool) -> tuple[list[str], Array]:
    """The first column as text, and all as numbers: at once where all are, else field by field with what is wrong."""
    plain = [row.replace(",", ".") for row in rows] if comma else rows
    try:
        table = np.loadtxt(plain, delimiter=mark, ndmin=2, comments=None)
        if table.shape[1] == width:
            return [], table
    except ValueError:
        pass
    found, when = np.full((len(rows), width), np.nan), []
    for at, row in enumerate(rows):
        fields = row.split(mark)
        if len(fields) != width and any(one.strip() for one in fields[width:]):
            raise CaptureError(f"{len(fields)} fields where {width} belong.", line=first + at + 1)
        when.append(fields[0].strip())
        for place, text in enumerate(fields[:width]):
            value = _number(text, comma=comma) if text.strip() else np.nan
            if value is None:
                value = _moment(text.strip())
            if value is None and text.strip().lower() not in ("nan", "n/a", "-", "--", "null", "inf", "-inf"):
                raise CaptureError(f"“{text.strip()[:20]}” is no number.", line=first + at + 1,
                                   column=1 + sum(len(one) + 1 for one in fields[:place]))  # fmt: skip
            found[at, place] = np.nan if value is None else value
    found[~np.isfinite(found)] = np.nan
    return when, found


def _time(when: list[str], table: Array, place: int, unit: str, first: int) -> Array:
    """Seconds from the first sample, ever rising."""
    times = 1.0 if when and _moment(when[0]) is not None and place == 0 else _SECONDS.get(unit.strip().lower(), 1.0)
    found = (table[:, place] - table[0, place]) * times
    wrong = np.flatnonzero(~(np.diff(found) > 0))
    if not np.isfinite(found).all() or wrong.size:
        at = int(wrong[0]) + 2 if wrong.size else 1
        raise CaptureError("the time does not rise.", line=first + at)
    return np.asarray(found)
