"""A recorder's table as text: any usual mark between fields, decimal comma or point, units in the heads."""

from __future__ import annotations

import csv
import re
from collections.abc import Sequence
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.capture.heads import SECONDS, Head, counts, heads_of, time_places, unit_of
from vinegate.core.capture.moments import DAY_S, Reader, is_moment, reader_of
from vinegate.core.capture.preamble import interval_s
from vinegate.core.capture.recording import CaptureError, Channel, Recording, base_unit, bounded

_BLANK: Final = " "
_MARKS: Final = (";", "\t", ",", "|", _BLANK)
_NAMES: Final = {"\t": "tab", _BLANK: "blank"}
_MOST_HEAD: Final = 60
_NOTHING: Final = ("", "nan", "n/a", "na", "-", "--", "---", "null", "inf", "-inf", "#n/a", "ovl", "over", "ol")
_SERIAL_DAYS: Final = (20_000.0, 80_000.0)
"""Days since 1900 as spreadsheets count them: of the years 1954 to 2119."""
_EPOCHS: Final = ((1e17, 1e-9), (1e14, 1e-6), (1e11, 1e-3))
"""A time above it is no count of seconds since 1970, but of so many of them."""
_MEASURED: Final = ("A", "V", "W", "rpm", "Hz", "%")

_THOUSANDS: Final = re.compile(r"[+-]?[1-9]\d{0,2}(?:,\d{3})+")

Line = tuple[int, str]
"""Its number in the file, and its text."""


def read_table(body: bytes) -> Recording:
    """Raises CaptureError with line and column."""
    written = _text(body).splitlines()
    lines = _bare(written)
    mark, first = _begin(lines)
    rows = _rows(lines, first, mark)
    sample = [_split(text, mark) for _, text in rows[:50]]
    comma = _comma(sample, mark)
    width = len(sample[0])
    bounded(len(rows), width)
    names = [*heads_of([_split_head(line, mark, width) for line in _ahead(lines, first, mark)]), *([("", "")] * width)]
    table, when = _numbers(rows, mark, width, comma=comma)
    time, used = _counted(lines[:first], len(rows), names[:width], when) or _time(table, names[:width], when, rows)
    beside = _beside(written[first], mark)
    channels = []
    for at, (name, said) in enumerate(names[:width]):
        if at in used or counts(name) or not np.isfinite(table[:, at]).any():
            continue
        unit, times = base_unit(said or unit_of(name))
        if (own := beside.get(at)) is not None:  # its cells have theirs, and are in its base already
            unit, times = own, 1.0
        channels.append(Channel(name=name or f"column {at + 1}", phase="", unit=unit, values=table[:, at] * times))
    if not channels:
        raise CaptureError("it has no column of numbers beside the time.", line=first + 1)
    station = next((line.split(mark)[-1].strip() for line in lines[:first] if line.lower().startswith("station")), "")
    return Recording(station=station, edition=f"table, “{_NAMES.get(mark, mark)}” between fields", time_s=time,
                     channels=tuple(channels))  # fmt: skip


def _bare(lines: list[str]) -> list[str]:
    """Lines whose numbers are without the units beside them, in amperes, volts and watts: 0.46 kA is 0.46e3."""
    lines = [_TIMED.sub(lambda cell: f"{cell[1]}{_SECONDS[cell[2]]}", line) for line in lines]
    if not any(_WITH_UNIT.search(line) or _WITH_UNIT_POINT.search(line) for line in lines[: 2 * _MOST_HEAD]):
        return lines
    return [(_WITH_UNIT if re.search(r"[;\t|]", line) else _WITH_UNIT_POINT).sub(_in_base, line) for line in lines]


def _in_base(cell: re.Match[str]) -> str:
    return f"{cell[1]}{_POWERS[cell[2] or '']}"


def _beside(line: str, mark: str) -> dict[int, str]:
    """Units in a line's own cells, by column."""
    found = {at: _CELL.fullmatch(one.strip().strip('"')) for at, one in enumerate(_split(line, mark))}
    return {at: cell[3] for at, cell in found.items() if cell is not None}


_TIMED: Final = re.compile(r"^\s*(\d[\d.,]*)\s*(m?s)\s*(?=[;\t|,])")
_SECONDS: Final = {"s": "", "ms": "e-3"}
_UNIT: Final = r"\s*([kmM])?(A|V|W|Hz|rpm|%)"
_WITH_UNIT: Final = re.compile(rf"(?<=[;\t|])\s*([-+−]?\d[\d.,]*){_UNIT}\s*(?=[;\t|]|$)")
_WITH_UNIT_POINT: Final = re.compile(rf"(?<=,)\s*([-+−]?\d[\d.]*){_UNIT}\s*(?=,|$)")
_CELL: Final = re.compile(rf"([-+−]?\d[\d.,]*){_UNIT}")
_POWERS: Final = {"": "", "k": "e3", "m": "e-3", "M": "e6"}


def _text(body: bytes) -> str:
    if body[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return body.decode("utf-16", errors="replace")
    if b"\0" in body[:4096]:
        raise CaptureError("this is no text: a recorder's own format? Save it as CSV or COMTRADE.")
    try:
        return body.decode("utf-8-sig")
    except UnicodeDecodeError:
        return body.decode("cp1252", errors="replace")


def _split(line: str, mark: str) -> list[str]:
    if mark == _BLANK:
        return line.split()
    if '"' not in line:
        return line.split(mark)
    try:
        return next(csv.reader([line], delimiter=mark), [])
    except csv.Error as error:
        raise CaptureError(f"a line's quotes cannot be parted: {error}.") from error


def _split_head(line: str, mark: str, width: int) -> list[str]:
    """A head between blanks may hold blanks: two of them part it, or one where no bracket follows."""
    if mark != _BLANK:
        return _split(line, mark)
    apart = re.split(r"\s{2,}|\t", line.strip())
    return apart if len(apart) == width else re.split(r"\s+(?![\[(])", line.strip())


def _begin(lines: list[str]) -> tuple[str, int]:
    """The mark between fields, and the first line of numbers: two like it follow each other."""
    for at, line in enumerate(lines[:_MOST_HEAD]):
        for mark in _MARKS:
            fields = _split(line, mark)
            if len(fields) < 2 or not _row(fields, mark):
                continue
            after = _split(lines[at + 1], mark) if at + 1 < len(lines) else []
            if len(after) == len(fields) and _row(after, mark):
                return mark, _first_of(lines, at, mark, len(fields))
    raise CaptureError(f"no two lines of numbers follow each other within the first {_MOST_HEAD} lines: is it a table?")


def _first_of(lines: list[str], at: int, mark: str, width: int) -> int:
    """The first sample, where those ahead of a line have nothing beside their time."""
    while at:
        ahead = _split(lines[at - 1], mark)
        if len(ahead) != width or not _said(ahead[0], mark) or any(one.strip() for one in ahead[1:]):
            break
        at -= 1
    return at


def _row(fields: Sequence[str], mark: str) -> bool:
    """Whether these are a sample's: the first a number or a moment, the rest numbers or said to be none."""
    rest = [one for one in fields[1:] if one.strip()]
    known = (_said(one, mark) or one.strip().strip('"').lower() in _NOTHING for one in rest)
    return _said(fields[0], mark) and bool(rest) and all(known)


def _said(text: str, mark: str) -> bool:
    return _number(text, comma=mark != ",") is not None or is_moment(text)


def _number(text: str, *, comma: bool) -> float | None:
    """With a point and a comma in it, the last one is the decimal; with a comma alone, `comma` says whether it is."""
    plain = text.strip().strip('"').replace("−", "-")
    if "," in plain:
        ends = plain.rfind(",") > plain.rfind(".") if "." in plain else comma
        plain = plain.replace(".", "").replace(",", ".") if ends else plain.replace(",", "")
    try:
        return float(plain)
    except ValueError:
        return None


def _comma(rows: Sequence[Sequence[str]], mark: str) -> bool:
    """Whether numbers carry a decimal comma. Between commas they are quoted, and may be thousands: 4,801."""
    cells = [one.strip() for row in rows for one in row if re.search(r"\d,\d", one)]
    if any(re.fullmatch(r"[+-]?\d{1,3}(?:,\d{3})+\.\d*", one) for one in cells):
        return False
    numbers = [one for one in cells if re.fullmatch(r"[+-]?\d+(?:,\d+)+", one)]
    return bool(cells) if mark != "," else any(not _THOUSANDS.fullmatch(one) for one in numbers)


def _rows(lines: list[str], first: int, mark: str) -> list[Line]:
    """The samples with their lines' numbers; what stands behind them as text, a summary or an end, is none of them."""
    rows = [(at, line) for at, line in enumerate(lines[first:], start=first + 1) if line.strip(f'{mark} \t"')]
    while rows:
        begins = (_split(rows[-1][1], mark) or [""])[0].strip()
        if not re.match(r"[^\W\d]|[#*=_-]{2}|#", begins) or begins.lower() in _NOTHING or is_moment(begins):
            break
        rows.pop()
    return rows


def _ahead(lines: list[str], first: int, mark: str) -> list[str]:
    above = [line.lstrip("# ") if mark == _BLANK else line for line in lines[:first] if line.strip()][-2:]
    return [line for line in above if len(_split(line, mark)) > 1]


def _numbers(rows: list[Line], mark: str, width: int, *, comma: bool) -> tuple[Array, dict[int, Reader]]:
    """All as numbers, and the columns of moments: at once where all are numbers, else field by field with what is
    wrong."""
    plain = [text.replace(",", ".") if comma else text for _, text in rows]
    try:
        table = np.loadtxt(plain, delimiter=None if mark == _BLANK else mark, ndmin=2, comments=None)
        if table.shape[1] == width:
            return table, {}
    except ValueError:
        pass
    ends = [_split(rows[at][1], mark) for at in (0, -1)]
    when = {at: reader_of(ends[0][at], ends[1][at] if at < len(ends[1]) else "") for at in range(width)
            if _number(ends[0][at], comma=comma) is None and is_moment(ends[0][at])}  # fmt: skip
    found = np.full((len(rows), width), np.nan)
    for at, (number, row) in enumerate(rows):
        fields = _split(row, mark)
        if len(fields) != width and any(one.strip() for one in fields[width:]):
            raise CaptureError(f"{len(fields)} fields where {width} belong.", line=number)
        for place, text in enumerate(fields[:width]):
            found[at, place] = _field(text, when.get(place), number, fields[:place], comma=comma)
    found[~np.isfinite(found)] = np.nan
    return found, when


def _field(text: str, reads: Reader | None, line: int, ahead: Sequence[str], *, comma: bool) -> float:
    value = _number(text, comma=comma) if reads is None else reads(text)
    if value is not None:
        return value
    if text.strip().lower() in _NOTHING:
        return np.nan
    raise CaptureError(f"“{text.strip()[:20]}” is no number.", line=line, column=1 + sum(len(one) + 1 for one in ahead))


def _time(table: Array, names: Sequence[Head], when: dict[int, Reader], rows: list[Line]) -> tuple[Array, set[int]]:
    """Seconds from the first sample, ever rising, and the columns that they were read from."""
    place, day = time_places(names)
    if place is None:
        place = next(iter(when), 0)
    if day is None and len(when) > 1 and place in when:  # a date without its own head beside a clock
        day = next((at for at in when if at != place), None)
    name, unit = names[place]
    if place not in when and counts(name):
        raise CaptureError(f"“{name}” counts its lines, and no column is the time.", line=max(rows[0][0] - 1, 1))
    if place in when:
        found = _over_midnight(table[:, place] + (table[:, day] if day is not None and day in when else 0.0))
    elif day is not None and _serial(table[0, day]) and table[0, place] < 1:  # a spreadsheet's date, and share of a day
        found = (table[:, day] + table[:, place]) * DAY_S
    else:
        counted = table[:, place] - table[0, place]  # ahead of its scale: of 1.7e18 nanoseconds few digits are left
        found = counted * _times(name, unit, table[0, place])
    found = found - found[0]
    steps = np.diff(found)
    wrong = np.flatnonzero(~(steps > 0))
    if not np.isfinite(found).all() or wrong.size:
        coarse = wrong.size and steps[wrong[0]] == 0
        text = "the time stands still: save it with parts of a second." if coarse else "the time does not rise."
        raise CaptureError(text, line=rows[int(wrong[0]) + 1 if wrong.size else 0][0])
    return np.asarray(found), {at for at in (place, day) if at is not None}


def _counted(
    above: Sequence[str], count: int, names: Sequence[Head], when: dict[int, Reader]
) -> tuple[Array, set[int]] | None:
    """Seconds by the interval that is said above the table, where no column is the time: its first counts lines, or is
    of something that is measured. None where one may be. Raises CaptureError where none is and no interval is said.
    """
    name, unit = names[0]
    measured = base_unit(unit or unit_of(name))[0] in _MEASURED
    if when or time_places(names)[0] is not None or not (measured or counts(name)):
        return None
    step = interval_s(above)
    if step is not None:
        return np.arange(count) * step, set()
    if measured:
        raise CaptureError("no column is the time, and no interval of its samples is said above.", line=len(above))
    return None


def _over_midnight(found: Array) -> Array:
    """A clock without a date falls by a day at midnight."""
    falls = np.diff(found, prepend=found[0]) < -DAY_S / 2
    return found + DAY_S * np.cumsum(falls)


def _serial(begins: float) -> bool:
    return _SERIAL_DAYS[0] < begins < _SERIAL_DAYS[1]


def _times(name: str, unit: str, begins: float) -> float:
    """Seconds of what a column of time counts in. Raises CaptureError for what is none."""
    if unit:
        if unit.strip().lower() not in SECONDS:
            raise CaptureError(f"the time is said to be in “{unit}”: s, ms, µs, min or h are read.")
        return SECONDS[unit.strip().lower()]
    if re.match(r"date|timestamp|datum|zeitstempel", name, re.I) and _serial(begins):
        return DAY_S
    return next((seconds for above, seconds in _EPOCHS if begins > above), 1.0)
