"""Operating points as typed or pasted: a speed, what is asked there, and how many hours a year."""

from __future__ import annotations

import re
from collections.abc import Callable
from itertools import zip_longest
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.drive.quantities import LASTS, TURNING
from vinegate.core.heads import columns
from vinegate.core.measured import Quantity
from vinegate.core.numbers import QuantityError, read_numbers
from vinegate.core.records import dataclass

_A_YEAR: Final = q.HOURS.aside
_UNITS: Final = (
    r"(%|r/min|rpm|min⁻¹|min-1|1/min|Hz|N[·.-]?m|lbs?-?ft|ft-?lbs?|kW|hp|W|" + _A_YEAR + r"|s|sec|seconds?|min)"
)
_GLUE: Final = re.compile(rf"(?<=\d)\s+(?={_UNITS}(?:\s|$|[;,|\t]))", re.I)
_HEAD: Final = re.compile(rf"(?<![a-z]){_UNITS}(?![a-z])", re.I)
_MOST: Final = 24
_HOURS_A_YEAR: Final = 8784.0
_LARGEST_PERCENT: Final = 130.0
_LEAST_SPEED: Final = 200.0
_MOST_HZ: Final = 600.0


@dataclass(frozen=True, slots=True)
class Speed:
    """A speed in its unit: "%" of full speed, "rpm" of the motor's shaft, or "Hz" that the drive puts out."""

    value: float
    unit: str

    def scaled(self, times: float) -> Speed:
        """So many times as fast."""
        return Speed(times * self.value, self.unit)


@dataclass(frozen=True, slots=True)
class OperatingPoint:
    """One row: speed in `speed_in` ("%", "rpm", "Hz"), load in `load_in` ("%", "nm", "w"; empty: by the load's curve).

    `hours` a year, of a cycle's row the seconds; None where that is not said.
    """

    speed: float
    speed_in: str
    load: float | None = None
    load_in: str = ""
    hours: float | None = None

    @property
    def turning(self) -> Speed:
        return Speed(self.speed, self.speed_in)


@dataclass(frozen=True, slots=True)
class OperatingPoints:
    """The rows in the order in which they were typed, and the text."""

    text: str
    points: tuple[OperatingPoint, ...]


def read_operating_points(text: str) -> OperatingPoints:
    """Read rows of speed, load and hours a year; bare figures are in the units of a head line. Raises QuantityError.

    Without that a bare speed is in percent up to 130 and in turns a minute from 200; a bare load is in percent of the
    torque asked at full speed. A load that is left out ("-" or nothing) is the load's own at that speed.

    >>> [p.speed for p in read_operating_points("100; ; 1900\\n60 %; 40 %; 3400\\n1180 rpm").points]
    [100.0, 60.0, 1180.0]
    """
    found = _read(text, _hours)
    hours = sum(row.hours or 0.0 for row in found.points)
    if hours > _HOURS_A_YEAR:
        raise QuantityError(f"The hours add up to {hours:.0f}: a year has {_HOURS_A_YEAR:.0f} at most.")
    return found


def read_cycle(text: str) -> OperatingPoints:
    """The same with the time that each row of a cycle lasts, s, in place of the hours; bare figures are seconds.

    >>> [p.hours for p in read_cycle("100 %; 160 %; 20\\n30 %; 40 %; 2 min").points]
    [20.0, 120.0]
    """
    return _read(text, lambda cell: None if cell in _EMPTY else LASTS.read(cell))


_EMPTY: Final = ("", "-", "–", "—")


def _read(text: str, lasts: Callable[[str], float | None]) -> OperatingPoints:
    rows: list[OperatingPoint] = []
    units: tuple[str, ...] = ()
    lines = [line for line in re.split(r"[\r\n|]+", text.strip()) if line.strip()]
    for number, line in enumerate(lines, start=1):
        cells = _cells(line)
        if number == 1 and not re.match(r"\s*[-+−\d.]", cells[0]):
            units = _units(line)
            continue
        try:
            named = zip_longest(cells, units[: len(cells)], fillvalue="")
            rows.append(_row([_with_unit(cell, unit) for cell, unit in named], lasts))
        except QuantityError as error:
            raise QuantityError(f"Row {number} of the points: {error}") from None
    if not rows:
        raise QuantityError("One row at least: speed, load and how long, like 60 %; 40 %; 3400.")
    if len(rows) > _MOST:
        raise QuantityError(f"{len(rows)} points are more than {_MOST}.")
    return OperatingPoints(text, tuple(rows))


def read_speed(text: str) -> Speed:
    """A speed as a drive is set to it. Raises QuantityError where a bare number may be hertz or turns a minute.

    >>> [(one.value, one.unit) for one in map(read_speed, ("20 Hz", "33 %", "1180", "90 rpm", "0"))]
    [(20.0, 'Hz'), (33.0, '%'), (1180.0, 'rpm'), (90.0, 'rpm'), (0.0, 'rpm')]
    """
    cell = text.strip()
    if not re.search(r"(?:hz|%)$", cell, re.I):
        rpm = TURNING.read(cell)
        if 0 < rpm < _LEAST_SPEED and not re.search(r"[^\W\d]", cell):
            raise QuantityError(f"{cell} can be hertz, per cent or turns a minute: write its unit.")
        return Speed(rpm, "rpm")
    value, unit = _speed(cell)
    return Speed(value, unit)


def read_speeds(text: str) -> tuple[Speed, ...]:
    """Speeds in hertz where that is written, else in turns a minute, parted by semicolons, commas with blanks, or
    blanks. Raises QuantityError.

    >>> [one.value for one in read_speeds("1180 rpm and 1720/1740")]
    [1180.0, 1720.0, 1740.0]
    >>> [(one.value, one.unit) for one in read_speeds("22; 38.5 Hz")]
    [(22.0, 'Hz'), (38.5, 'Hz')]
    """
    plain = re.sub(r"\s*(?:r/min|rpm|min⁻¹|min-1|1/min)\s*", " ", text, flags=re.I)
    hertz = re.sub(r"\s*hz\b\s*", " ", plain, flags=re.I)
    if plain not in (hertz, text):
        raise QuantityError("Write all of them in hertz, or all in turns a minute.")
    parts = [part for part in re.split(r"\s*[;/&]\s*|\s+and\s+|,\s+|\s+", hertz.strip()) if part]
    if hertz != plain:
        return tuple(Speed(_plain(part, f"{part} Hz", _MOST_HZ), "Hz") for part in parts)
    return tuple(read_speed(part if plain == text else f"{part} rpm") for part in parts)


def _cells(line: str) -> list[str]:
    """Semicolons or tabs part the cells, where a comma may then be decimal; else commas do, else blanks."""
    plain = _GLUE.sub("", line.strip())
    for mark in (r"[;\t]", r","):
        if re.search(mark, plain):
            return [cell.strip() for cell in re.split(mark, plain)]
    return plain.split()


def _units(head: str) -> tuple[str, ...]:
    """Of each column; empty where the head names none."""
    return tuple(found[0] if (found := _HEAD.search(name)) else "" for name in columns(head))


def _with_unit(cell: str, unit: str) -> str:
    """A bare figure with the unit of its head."""
    return f"{cell} {unit}" if unit and re.fullmatch(r"[\d.,\s'’]+", cell) and cell.strip() else cell


def _row(cells: list[str], lasts: Callable[[str], float | None]) -> OperatingPoint:
    if len(cells) > 3:
        raise QuantityError(f"{len(cells)} values: speed, load and how long are three.")
    speed, speed_in = _speed(cells[0])
    if len(cells) == 2 and re.search(rf"\d\s*{_A_YEAR}$", cells[1], re.I):  # how long, and nothing of the load
        cells = [cells[0], "", cells[1]]
    load, load_in = _load(cells[1]) if len(cells) > 1 else (None, "")
    hours = lasts(cells[2]) if len(cells) > 2 else None
    return OperatingPoint(speed, speed_in, load, load_in, hours)


def _speed(cell: str) -> tuple[float, str]:
    if re.search(r"hz$", cell, re.I):
        return _plain(cell[:-2], cell, _MOST_HZ), "Hz"
    if cell.endswith("%"):
        return _plain(cell[:-1], cell, 400.0), "%"
    if re.search(r"[a-z⁻¹/]", cell, re.I):
        return TURNING.read(cell), "rpm"
    value = _plain(cell, cell, 25000.0)
    if value <= _LARGEST_PERCENT:
        return value, "%"
    if value >= _LEAST_SPEED:
        return value, "rpm"
    raise QuantityError(f"{cell} can be per cent or turns a minute: write its unit.")


def _load(cell: str) -> tuple[float | None, str]:
    if cell in _EMPTY:
        return None, ""
    if cell.endswith("%"):
        return _plain(cell[:-1], cell, 400.0), "%"
    found = re.search(r"[^\d\s.,'’+-]", cell)
    if found is None:
        return _plain(cell, cell, 400.0), "%"
    kind, name = _POWER_OR_TORQUE["w" if re.search(r"(?:w|hp)$", cell, re.I) else "nm"], cell
    return kind.read(name), "w" if kind is q.POWER else "nm"


_POWER_OR_TORQUE: Final[dict[str, Quantity]] = {"w": q.POWER, "nm": q.TORQUE}


def _hours(cell: str) -> float | None:
    body = re.sub(rf"\s*{_A_YEAR}$", "", cell, flags=re.I)
    return None if body in _EMPTY else _plain(body, cell, _HOURS_A_YEAR)


def _plain(text: str, whole: str, most: float) -> float:
    readings = [value for value in read_numbers(text) if 0 <= value <= most]
    if not readings:
        raise QuantityError(f"“{whole}” is outside 0 to {most:g}.")
    return readings[0]
