"""Numbers as people write them, and back: commas, points, groups, fractions."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import Final, TypeVar

_VULGAR: Final = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅓": "1/3", "⅔": "2/3", "⅛": "1/8", "⅝": "5/8"}
_PARTS: Final = r"\s'’_\u00a0\u2009\u202f"
"""What parts the thousands, beside commas and points."""
_GROUPED: Final = rf"\d{{1,3}}(?:[{_PARTS}]\d{{3}})+(?!\d)(?:[.,]\d+)?"
_NUMBER: Final = re.compile(rf"^\s*([-+−]?\s*(?:{_GROUPED}|[.,]?\d[\d.,]*)(?:[eE][-+]?\d+)?)(.*)$", re.S)
_FRACTION: Final = re.compile(r"^\s*(?:(\d+)[\s-]+)?(\d+)\s*/\s*(\d+)(?![\d.,])(.*)$", re.S)


class QuantityError(ValueError):
    """Text that cannot be read as the quantity asked for; `str()` is the message for the person."""


_ANOTHER: Final = re.compile(r"\s*[/–-]\s*\d")
"""What goes on as a value for another connection, frequency or end."""


def _is_part(top: int, bottom: int) -> bool:
    """Whether people write this as a part of one: 3/4, 9/16, 1/25; not 7/13.

    >>> [_is_part(*one) for one in ((3, 4), (9, 16), (1, 25), (500, 667), (9, 19), (92, 184))]
    [True, True, True, False, False, False]
    """
    if top >= bottom or math.gcd(top, bottom) > 1:
        return False
    return top == 1 or bottom in _PARTED_BY


_PARTED_BY: Final = (3, 4, 5, 6, 8, 10, 12, 16, 20, 32, 64)


def split_unit(text: str) -> tuple[list[float], str]:
    """Number candidates (two when a comma is ambiguous) and the unit's text."""
    for sign, plain in _VULGAR.items():
        text = text.replace(sign, f" {plain}")
    fraction = _FRACTION.match(text)
    if fraction:
        whole, top, bottom, rest = fraction.groups()
        if int(bottom) == 0:
            raise QuantityError(f"{text.strip()} divides by zero.")
        if not _is_part(int(top), int(bottom)):  # 184/92 and 92/184 are of two connections, 500/667 kVA of two coolings
            raise QuantityError(f"“{text.strip()}” is two numbers: one is asked here.")
        return [float(whole or 0) + int(top) / int(bottom)], rest.strip()
    match = _NUMBER.match(text)
    if not match:
        raise QuantityError(f"“{text.strip()}” does not begin with a number.")
    number, rest = match.groups()
    if _ANOTHER.match(rest):
        raise QuantityError(f"“{text.strip()}” is two numbers: one is asked here.")
    return read_numbers(number), rest.strip()


def read_numbers(text: str) -> list[float]:
    """All the ways a written number can be meant. Blanks part thousands alone: "1485 1" is two numbers.

    >>> read_numbers("12,5"), read_numbers("1.760,5"), read_numbers("1,185")
    ([12.5], [1760.5], [1185.0, 1.185])
    """
    said = text.strip().replace("−", "-")
    if re.search(rf"\d[{_PARTS}]", said) and not re.fullmatch(rf"[-+]?\s*{_GROUPED}(?:[eE][-+]?\d+)?", said):
        raise QuantityError(f"“{said}” is not one number.")
    plain = re.sub(rf"[{_PARTS}]", "", said)
    commas, points = plain.count(","), plain.count(".")
    readings = [plain]
    if commas and points:
        mark = "," if plain.rfind(",") > plain.rfind(".") else "."
        whole, _, part = plain.rpartition(mark)
        readings = [f"{_ungrouped(whole, '.' if mark == ',' else ',')}.{part}"]
    elif commas > 1 or points > 1:
        readings = [_ungrouped(plain, "," if commas else ".")]
    elif commas == 1:
        whole, part = plain.split(",")
        grouped = len(part) == 3 and re.fullmatch(r"[-+]?[1-9]\d{0,2}", whole)
        readings = [whole + part, f"{whole}.{part}"] if grouped else [f"{whole}.{part}"]
    try:
        found = [float(reading) for reading in readings]
    except ValueError:
        found = [math.nan]
    if not all(map(math.isfinite, found)):  # "nan" and "1e999" are none either
        raise QuantityError(f"“{text.strip()}” is not a number.")
    return found


_DECIMAL: Final = {
    mark: re.compile(rf"[-+−]?(?:\d*[{mark}]\d{{1,2}}|0?[{mark}]\d+|\d*[{mark}]\d{{4,}})") for mark in ",."
}
"""What can be no group of three: a mark of decimals, whatever another might be."""
_ONE_GROUP: Final = re.compile(r"[-+−]?[1-9]\d{0,2}([,.])\d{3}")


def read_rows(rows: Sequence[Sequence[str]], of: str, *, first: int = 1) -> list[list[float]]:
    """Numbers of a table, one writer's: what `1,485` means is what the other cells say of commas and points. Raises
    QuantityError with the row (counted from `first`) and `of` what it is; also where no cell says.

    >>> read_rows([["1,000", "100"], ["5,000", "0.5"]], "the curve"), read_rows([["1.485", "0,5"]], "the curve")
    ([[1000.0, 100.0], [5000.0, 0.5]], [[1485.0, 0.5]])
    """
    texts = [cell.strip() for row in rows for cell in row]
    decimal = {mark for mark, pattern in _DECIMAL.items() if any(map(pattern.fullmatch, texts))}
    found = []
    for number, row in enumerate(rows, start=first):
        try:
            found.append([_in_table(cell.strip(), decimal) for cell in row])
        except QuantityError as error:
            raise QuantityError(f"Row {number} of {of}: {error}") from None
    return found


def _in_table(text: str, decimal: set[str]) -> float:
    readings = read_numbers(text)
    grouped = _ONE_GROUP.fullmatch(text)
    if grouped is None:
        return readings[-1]
    mark = grouped[1]
    if decimal == {"." if mark == "," else ","}:
        return float(text.replace(mark, "").replace("−", "-"))
    if mark == "," and decimal != {","}:
        plain = text.replace(",", "")
        raise QuantityError(f"“{text}” may be {plain} or {text.replace(',', '.')}: write {plain}, or a point.")
    return readings[-1]


def _ungrouped(text: str, mark: str) -> str:
    """1.234.567 without its marks; anything not grouped by three stays as it is, which is then no number."""
    if re.fullmatch(rf"[-+]?\d{{1,3}}(?:{re.escape(mark)}\d{{3}})+", text):
        return text.replace(mark, "")
    return text


_THOUSANDS: Final = re.compile(r"(?<![\d.,])([1-9]\d{0,2}),(\d{3})(?![\d,])")
R = TypeVar("R")


def grouped_first(read: Callable[[str], R]) -> Callable[[str], R]:
    """A reader that takes a comma ahead of three digits for a thousands mark, where what comes out can be.

    >>> grouped_first(float)("1,200"), grouped_first(lambda text: text)("1,180/590 A")
    (1200.0, '1180/590 A')
    """

    def reading(text: str) -> R:
        grouped = _THOUSANDS.sub(r"\1\2", str(text))
        try:
            return read(grouped)
        except QuantityError:
            if grouped == text:
                raise
            return read(text)

    return reading


_TWICE: Final = re.compile(r"^([^(/=]*[^(/=\d\s][^(/=]*)[(/=]\s*([^()/=]+?)\s*\)?\s*$")
_ROUNDED: Final = 0.03
"""So far may a value and the same in another unit lie apart, as plates round them."""


def written_twice(text: str, read: Callable[[str], float]) -> float | None:
    """The first of one value that stands there in two units, `75 hp (56 kW)`; None where it does not, or they differ.

    >>> written_twice("2 (2)", float), written_twice("two", float)
    (None, None)
    """
    parts = _TWICE.match(text)
    try:
        first, second = (read(part) for part in parts.groups()) if parts is not None else (math.nan, math.nan)
    except QuantityError:
        return None
    return first if abs(first - second) <= _ROUNDED * abs(first) else None


@lru_cache(maxsize=8192)
def write(value: float, digits: int = 4) -> str:
    """A number to so many significant digits, trailing zeros dropped, never in exponent form.

    >>> write(592.96), write(0.04567, 3), write(11544.0), write(6.30)
    ('593', '0.0457', '11544', '6.3')
    >>> write(-1.4), write(-2e-17)
    ('−1.4', '0')
    """
    if value == 0:
        return "0"
    text = f"{value:.{digits}g}"
    if "e" in text:
        text = f"{float(text):.12f}".rstrip("0").rstrip(".") if abs(value) < 1 else f"{value:.0f}"
    elif abs(value) >= 10 ** (digits - 1):
        text = f"{value:.0f}"
    return "0" if text == "-0" else text.replace("-", "−")


def write_down(value: float, digits: int = 3) -> str:
    """The largest number of so many digits that is not above a positive value: what may be typed as a most.

    >>> write_down(10.58), write_down(92.0), write_down(46.77), write_down(0.0)
    ('10.5', '92', '46.7', '0')
    """
    return _to(value, digits, lambda steps: math.floor(steps * (1 + 1e-9)))


def write_up(value: float, digits: int = 3) -> str:
    """The least number of so many digits that is not below a positive value: what may be typed as a least.

    >>> write_up(53.004), write_up(92.0), write_up(1201.0)
    ('53.1', '92', '1210')
    """
    return _to(value, digits, lambda steps: math.ceil(steps * (1 - 1e-9)))


def _to(value: float, digits: int, whole: Callable[[float], int]) -> str:
    if value <= 0:
        return "0"
    step = 10.0 ** (math.floor(math.log10(value)) - digits + 1)
    return write(whole(value / step) * step, digits)


_FRACTIONS: Final = {f"{above}/{below}": above / below for above, below in ((1, 6), (1, 4), (1, 3), (1, 2), (3, 4))}


def horsepower(value: float, digits: int = 4) -> str:
    """Horsepower as plates have it: below one a fraction where it is one (the sizes of NEMA MG 1:2021 10.32).

    >>> horsepower(0.33333), horsepower(0.3), horsepower(7.5)
    ('1/3 hp', '0.3 hp', '7.5 hp')
    """
    stamped = next((text for text, share in _FRACTIONS.items() if abs(value - share) < 5e-4), None)
    return f"{stamped or write(value, digits)} hp"


def counted(value: float, one: str) -> str:
    """So many of what is called `one` when it is one.

    >>> counted(1, "stop"), counted(2.5, "stop")
    ('1 stop', '2.5 stops')
    """
    return f"{write(value)} {one}{'' if value == 1 else 's'}"
