"""Reading and writing quantities with the units people write. Conversion happens here, once, at the edge."""

from __future__ import annotations

import re
from functools import cache
from typing import Final

from pint.errors import PintError

from vinegate.core.numbers import QuantityError, split_unit, write, written_twice
from vinegate.core.records import dataclass, replace
from vinegate.core.spellings import FAHRENHEIT, spelt
from vinegate.core.units import registry

_UNIT_WORD: Final = re.compile(r"[A-Za-z]{1,16}")
_ABOVE: Final = re.compile(r"^\s*(?:>=?|≥|over|above|more than|at least|min\.?)\s*(?=[\d.,])", re.I)
_SUM: Final = re.compile(r"^\s*(\d+)\s*([^\d\s.,/()=-]+)[\s-]*(\d.*)$")
_IN_PARTS: Final = {("foot", "inch"), ("hour", "minute"), ("minute", "second"), ("hour", "second")}
_RUN_ON: Final = re.compile(r"^[-–](?=[A-Za-z])")
"""A hyphen between a number and its unit: a 200-ft run."""
_PAST: Final = re.compile(r"^\s*(?:O\.?L\b|over|overload|overflow|inf|∞|>)", re.I)


class AtLeast(float):
    """A reading past the end of its instrument's range: at least so much. It is another fact than the number itself."""

    def __eq__(self, other: object) -> bool:
        return isinstance(other, AtLeast) and float(self) == float(other)

    def __ne__(self, other: object) -> bool:
        return not self == other

    __hash__ = float.__hash__


@dataclass(frozen=True, slots=True, kw_only=True)
class Quantity:
    """A kind of quantity: core's unit, the unit a bare number means, what is plausible.

    `unit` and `bare` are unit names; `least` and `most` are inclusive and in `unit`;
    `example` is what the message offers; `bare_too` is the other way in which a number without a unit may be meant
    (0.94 or 94 for an efficiency). Of the two readings the one in `usual`, in `unit`, is taken; where both
    are, it is asked back. `bare_us` is what a bare number means in a job under NEC, where that is another unit.
    `aside` are words behind it, and `ahead` its own name or sign, that say nothing more: 4 starts per hour, SF 1.15.
    """

    name: str
    unit: str
    shown: str
    bare: str
    example: str
    least: float
    most: float
    bare_too: str = ""
    bare_us: str = ""
    usual: tuple[float, float] | None = None
    bare_most: float | None = None
    """In `unit`: above it a bare number is asked back, as its writer will have meant another."""
    aside: str = ""
    ahead: str = ""
    behind: str = ""
    """Names that are part of the unit, which some write ahead of the value."""
    bounds: bool = False
    """Whether "> 2 GΩ" is a reading too: the end of an instrument's range."""
    grouped: bool = False
    """Whether 1,200 is 1200 where 1.2 could be meant too: as people write it under NEC."""

    def read(self, text: str | float) -> float:
        """Read what a person wrote. Returns the value in `self.unit`. Raises QuantityError.

        >>> from vinegate.core.quantity import POWER, SPEED, VOLTAGE
        >>> round(POWER.read("30 hp"))
        22371
        >>> VOLTAGE.read("0,46 kV")
        460.0
        >>> SPEED.read("1 760"), SPEED.read("1485 1/min")
        (1760.0, 1485.0)
        >>> round(POWER.read("75 hp (56 kW)"))
        55927
        """
        if self.bounds and (above := _ABOVE.match(str(text))) is not None:
            return AtLeast(self._read(str(text)[above.end() :]))
        if self.bounds and _PAST.match(str(text)):
            raise QuantityError(f"Past the instrument's range: write where that ends, like > {self.example}.")
        try:
            return self._read(text)
        except QuantityError:
            both = written_twice(str(text), self._read)
            if (found := self._summed(str(text)) if both is None else both) is None:
                raise
            return found

    def _read(self, text: str | float) -> float:
        candidates, unit_text = self._split(str(text))
        unit = self._unit(unit_text)
        plausible = self._plausible(candidates, unit)
        if not unit_text and self.bare_too:
            plausible = self._either(str(text), candidates, plausible)
        if len(plausible) == 1:
            if not unit_text and self.bare_most is not None and plausible[0] > self.bare_most:
                raise QuantityError(f"{str(text).strip()} has no unit: write it like {self.example}.")
            return plausible[0]
        if len(plausible) > 1 and self.grouped:
            return plausible[0]
        if len(plausible) > 1:
            raise QuantityError(
                f"{text} can be read as {candidates[0]:g} or as {candidates[1]:g}: leave out the thousands mark."
            )
        raise QuantityError(self._out_of_range(str(text), unit))

    def _summed(self, text: str) -> float | None:
        """What is written in a unit and a smaller one behind it: 12 ft 6 in, 1 min 30 s. None where it is not."""
        parts = _SUM.match(text)
        if parts is None:
            return None
        try:
            (rest,), less = split_unit(parts[3])
            units = self._unit(parts[2]), self._unit(less)
        except (QuantityError, ValueError):
            return None
        large, small = (_convert(1.0, unit, self.unit) for unit in units)
        if units not in _IN_PARTS or not 0 <= rest * small < large:
            return None
        value = float(parts[1]) * large + rest * small
        if not self.least <= value <= self.most:
            raise QuantityError(self._out_of_range(text, units[0]))
        return value

    def _split(self, text: str) -> tuple[list[float], str]:
        """Number and unit, without what says nothing more."""
        said = re.sub(rf"^\s*(?:{self.ahead})\s*[=:]?", "", text, flags=re.I) if self.ahead else text
        if self.behind:
            said = re.sub(rf"^\s*({self.behind})\s*[=:]?\s*(.+)", r"\2 \1", said, flags=re.I)
        numbers, unit = split_unit(said)
        unit = _RUN_ON.sub("", unit)
        return numbers, re.sub(rf"\s*(?:{self.aside})\s*$", "", unit, count=1, flags=re.I) if self.aside else unit

    def in_us(self) -> Quantity:
        """The same as people write it under NEC: bare numbers in `bare_us`."""
        return _in_us(self)

    def echo(self, text: str, *, us: bool) -> str:
        """What was understood, where a reader might take it otherwise: both dialects' units; empty else.

        >>> from vinegate.core.quantity import POWER
        >>> POWER.echo("30", us=True), POWER.echo("22 kW", us=True), POWER.echo("30 hp", us=True)
        ('= 30 hp, 22.4 kW', '= 29.5 hp', '')
        >>> POWER.echo("75 hp (56 kW)", us=True), POWER.echo("55kW/75hp", us=False)
        ('= 75 hp', '= 55 kW')
        """
        if not self.bare_us or not text.strip():
            return ""
        kind = self.in_us() if us else self
        try:
            value, unit = kind.read(text), kind._split(text)[1]
        except QuantityError:
            return ""
        own, other = (self.bare_us, self.bare) if us else (self.bare, self.bare_us)
        if not unit:
            return f"= {_shown(value, self.unit, own)}, {_shown(value, self.unit, other)}"
        try:
            same = registry().get_name(kind._unit(unit)) == registry().get_name(own)
        except QuantityError:  # one value in two units
            same = False
        return "" if same else f"= {_shown(value, self.unit, own)}"

    def show(self, value: float, *, us: bool) -> str:
        """A value in core's unit as the dialect writes it.

        >>> from vinegate.core.quantity import CURRENT, POWER
        >>> POWER.show(22371.0, us=True), CURRENT.show(88.6, us=True)
        ('30 hp', '88.6 A')
        """
        unit = self.bare_us if us and self.bare_us else self.bare
        return _shown(value, self.unit, unit).removesuffix(" one")

    def _either(self, text: str, candidates: list[float], plausible: list[float]) -> list[float]:
        """A bare number read both ways: as a share and as per cent."""
        other = [value for value in self._plausible(candidates, self.bare_too) if value not in plausible]
        if self.usual is None or not plausible or not other:
            return plausible or other
        low, high = self.usual
        likely = [value for value in (*plausible, *other) if low <= value <= high]
        if len(likely) != 1:
            percent, ratio = min(*plausible, *other), max(*plausible, *other)
            raise QuantityError(f"{text.strip()} can be {100 * percent:g} % or {100 * ratio:g} %: write the sign.")
        return likely

    def _plausible(self, candidates: list[float], unit: str) -> list[float]:
        if unit == FAHRENHEIT:
            values = [(number - 32) / 1.8 for number in candidates]
        else:
            values = [_convert(number, unit, self.unit) for number in candidates]
        return [value for value in values if self.least <= value <= self.most]

    def _unit(self, unit_text: str) -> str:
        """The registry's name for what was written, of this quantity's dimension."""
        if not unit_text:
            return self.bare
        name = spelt(unit_text)
        if self.shown == "°C" and name in (FAHRENHEIT, "degree"):
            return name if name == FAHRENHEIT else self.bare
        dimension = _dimension(name)
        if dimension is None:
            raise QuantityError(f"“{unit_text}” is not a unit of {self.name}: write it like {self.example}.")
        if dimension != registry().get_dimensionality(self.unit):
            raise QuantityError(f"“{unit_text}” does not measure {self.name}: write it like {self.example}.")
        return name

    def _out_of_range(self, text: str, unit: str) -> str:
        unit = self.unit if unit == FAHRENHEIT else unit
        factor = _convert(1.0, unit, self.unit)
        shown = {"kelvin": self.shown, "one": ""}.get(unit, _SHOWN.get(unit, unit))
        low, high = write(self.least / factor, 4), write(self.most / factor, 6)
        name = f"an {self.name}" if self.name[0] in "aeiou" else f"a {self.name}"
        return f"{text.strip()} is outside what {name} here can be: {low} to {high} {shown}".rstrip() + "."


def is_unit(text: str) -> bool:
    """Whether it is a unit of some quantity, as it is written.

    >>> is_unit("kW"), is_unit("r/min"), is_unit("pump"), is_unit("")
    (True, True, False, False)
    """
    name = spelt(text)
    return name == FAHRENHEIT or _dimension(name) is not None


def _dimension(name: str) -> object:
    """Of a unit by its name in the registry: a word, never an expression. None where it is no unit."""
    try:
        return registry().get_dimensionality(name) if _UNIT_WORD.fullmatch(name) else None
    except (PintError, ValueError):
        return None


@cache
def _factor(unit: str, to: str) -> float:
    return float(registry().Quantity(1.0, unit).to(to).magnitude)


_SHOWN: Final = {
    "foot": "ft", "metre": "m", "kgmsq": "kg·m²", "lbftsq": "lb·ft²", "newtonmetre": "N·m", "lbft": "lb-ft",
    "newton": "N", "mps": "m/s", "mmps": "mm/s rms", "ipspeak": "in/s peak",
    "fpm": "ft/min", "mcubedperhour": "m³/h", "pascal": "Pa", "inchwater": "in. wg",
    "density": "kg/m³", "lbpercubicfoot": "lb/ft³", "megaohm": "MΩ", "ohm": "Ω", "kelvin": "°C", "second": "s",
    "percent": "%", "millimetre": "mm", "inch": "in", "minute": "min", "ampere": "A", "volt": "V", "watt": "W",
    "voltampere": "VA", "hertz": "Hz", "lbf": "lbf", "flow": "m³/s", "joule": "J", "kilojoule": "kJ",
    "turn": "turns", "kmperwatt": "K·m/W", "centimetre": "cm", "tonneforce": "t",
    "mcubedperminute": "m³/min", "hectopascal": "hPa", "ftps": "ft/s", "mpm": "m/min", "kgperlitre": "kg/l",
    "slugftsq": "slug·ft²", "lbinsq": "lb·in²", "kgcmsq": "kg·cm²", "lbin": "lb-in", "kgfm": "kgf·m", "lph": "l/h",
    "lps": "l/s", "lpm": "l/min", "kampsqs": "kA²s",
}  # fmt: skip


def _shown(value: float, unit: str, to: str) -> str:
    above = "> " if isinstance(value, AtLeast) else ""
    return f"{above}{write(_convert(value, unit, to), 3)} {_SHOWN.get(to, to)}"


@cache
def _in_us(kind: Quantity) -> Quantity:
    return replace(kind, bare=kind.bare_us or kind.bare, bare_us="", grouped=True)


def _convert(number: float, unit: str, to: str) -> float:
    value = number * _factor(unit, to)
    return float(f"{value:.13g}")  # 0.46 kV is 460 V, not 460.00000000000006
