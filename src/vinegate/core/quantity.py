"""Reading and writing quantities with the units people write. Conversion happens here, once, at the edge."""

from __future__ import annotations

import re
from functools import cache
from typing import Final

from pint.errors import PintError

from vinegate.core.numbers import QuantityError, split_unit, write, written_twice
from vinegate.core.records import dataclass, replace
from vinegate.core.units import FAHRENHEIT, SPELLINGS, registry

GRAVITY: Final = 9.80665  # m/s², ISO 80000-3
WATT_PER_HP: Final = 745.699872  # 550 ft·lbf/s, NIST SP 811 table B.8

_UNIT_WORD: Final = re.compile(r"[A-Za-z]{1,16}")


@dataclass(frozen=True, slots=True, kw_only=True)
class Quantity:
    """A kind of quantity: core's unit, the unit a bare number means, what is plausible.

    `unit` and `bare` are unit names; `least` and `most` are inclusive and in `unit`;
    `example` is what the message offers; `bare_too` is the other way in which a number without a unit may be meant
    (0.94 or 94 for an efficiency). Of the two readings the one in `usual`, in `unit`, is taken; where both
    are, it is asked back. `bare_us` is what a bare number means in a job under NEC, where that is another unit.
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

    def read(self, text: str | float) -> float:
        """Read what a person wrote. Returns the value in `self.unit`. Raises QuantityError.

        >>> round(POWER.read("30 hp"))
        22371
        >>> VOLTAGE.read("0,46 kV")
        460.0
        >>> SPEED.read("1 760"), SPEED.read("1485 1/min")
        (1760.0, 1485.0)
        >>> round(POWER.read("75 hp (56 kW)"))
        55927
        """
        try:
            return self._read(text)
        except QuantityError:
            if (both := written_twice(str(text), self._read)) is None:
                raise
            return both

    def _read(self, text: str | float) -> float:
        candidates, unit_text = split_unit(str(text))
        unit = self._unit(unit_text)
        plausible = self._plausible(candidates, unit)
        if not unit_text and self.bare_too:
            plausible = self._either(str(text), candidates, plausible)
        if len(plausible) == 1:
            return plausible[0]
        if len(plausible) > 1:
            raise QuantityError(
                f"{text} can be read as {candidates[0]:g} or as {candidates[1]:g}: leave out the thousands mark."
            )
        raise QuantityError(self._out_of_range(str(text), unit))

    def in_us(self) -> Quantity:
        """The same as people write it under NEC: bare numbers in `bare_us`."""
        return _in_us(self)

    def echo(self, text: str, *, us: bool) -> str:
        """What was understood, where a reader might take it otherwise: both dialects' units; empty else.

        >>> POWER.echo("30", us=True), POWER.echo("22 kW", us=True), POWER.echo("30 hp", us=True)
        ('= 30 hp, 22.4 kW', '= 29.5 hp', '')
        >>> POWER.echo("75 hp (56 kW)", us=True), POWER.echo("55kW/75hp", us=False)
        ('= 75 hp', '= 55 kW')
        """
        if not self.bare_us or not text.strip():
            return ""
        kind = self.in_us() if us else self
        try:
            value, unit = kind.read(text), split_unit(text)[1]
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
        name = unit_text
        for pattern, replacement in SPELLINGS:
            if pattern.search(name):
                name = replacement
                break
        if name == FAHRENHEIT and self.shown == "°C":
            return name
        try:
            if not _UNIT_WORD.fullmatch(name):  # a word, never an expression
                raise PintError
            dimension = registry().get_dimensionality(name)
        except (PintError, ValueError):
            raise QuantityError(f"“{unit_text}” is not a unit of {self.name}: write it like {self.example}.") from None
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
    "turn": "turns", "kmperwatt": "K·m/W", "kampsqs": "kA²s",
}  # fmt: skip


def _shown(value: float, unit: str, to: str) -> str:
    return f"{write(_convert(value, unit, to), 3)} {_SHOWN.get(to, to)}"


@cache
def _in_us(kind: Quantity) -> Quantity:
    return replace(kind, bare=kind.bare_us, bare_us="") if kind.bare_us else kind


def _convert(number: float, unit: str, to: str) -> float:
    value = number * _factor(unit, to)
    return float(f"{value:.13g}")  # 0.46 kV is 460 V, not 460.00000000000006


POWER = Quantity(
    name="power", unit="W", shown="W", bare="kW", bare_us="hp", example="30 hp or 22 kW", least=10, most=5e6
)
VOLTAGE = Quantity(name="voltage", unit="V", shown="V", bare="V", example="460 V or 0.4 kV", least=50, most=1100)
PRIMARY_VOLTAGE = Quantity(
    name="primary voltage", unit="V", shown="V", bare="V", example="12.47 kV or 480 V", least=100, most=4e5
)
CURRENT = Quantity(name="current", unit="A", shown="A", bare="A", example="92 A", least=0.01, most=20000)
FREQUENCY = Quantity(name="frequency", unit="Hz", shown="Hz", bare="Hz", example="60 Hz", least=10, most=400)
SPEED = Quantity(name="speed", unit="rpm", shown="min⁻¹", bare="rpm", example="1760 rpm", least=50, most=25000)
LENGTH = Quantity(
    name="length", unit="m", shown="m", bare="metre", bare_us="foot", example="62 m or 200 ft", least=0, most=5000
)
SIZE = Quantity(
    name="size", unit="metre", shown="m", bare="millimetre", bare_us="inch", example="140 mm or 5.5 in",
    least=0.01, most=3,
)  # fmt: skip
FAULT_CURRENT = Quantity(
    name="fault current", unit="A", shown="A", bare="kA", example="14 kA or 300 MVA", least=50, most=4e5
)
FAULT_POWER = Quantity(
    name="fault level", unit="VA", shown="VA", bare="MVA", example="14 kA or 300 MVA", least=1e4, most=1e11
)
APPARENT_POWER = Quantity(
    name="apparent power", unit="VA", shown="VA", bare="kVA", example="500 kVA", least=500, most=2e8
)
IMPEDANCE_PERCENT = Quantity(
    name="impedance",
    unit="one",
    shown="",
    bare="percent",
    bare_too="one",
    example="5 %",
    least=0.005,
    most=0.25,
)
EFFICIENCY = Quantity(
    name="efficiency",
    unit="one",
    shown="",
    bare="percent",
    bare_too="one",
    example="94.1 %",
    least=0.1,
    most=0.995,
)
POWER_FACTOR = Quantity(
    name="power factor", unit="one", shown="", bare="one", bare_too="percent", example="0.86", least=0.05, most=1.0
)
SERVICE_FACTOR = Quantity(name="service factor", unit="one", shown="", bare="one", example="1.15", least=1.0, most=1.75)
DIP_LIMIT = Quantity(
    name="limit", unit="one", shown="", bare="percent", bare_too="one", example="5 %", least=0.001, most=1.0,
    usual=(0.005, 0.4),
)  # fmt: skip
VOLTS_LIMIT = Quantity(
    name="share of volts", unit="one", shown="", bare="percent", bare_too="one", example="85 %", least=0.2, most=1.0
)
MARGIN = Quantity(
    name="margin", unit="one", shown="", bare="percent", bare_too="one", example="10 %", least=0.0, most=2.0,
    usual=(0.005, 1.0),
)  # fmt: skip
CURRENT_RATIO = Quantity(name="ratio", unit="one", shown="", bare="one", example="7.2", least=1.5, most=15)
X_OVER_R = Quantity(name="X/R", unit="one", shown="", bare="one", example="6, or R/X 0.25", least=0.05, most=100)
RISE = Quantity(name="temperature rise", unit="K", shown="K", bare="K", example="80 K", least=5, most=200)
TORQUE_RATIO = Quantity(
    name="torque ratio", unit="one", shown="", bare="percent", bare_too="one", example="150 %", least=0.2, most=6
)
INERTIA = Quantity(
    name="inertia",
    unit="kgmsq",
    shown="kg·m²",
    bare="kgmsq",
    bare_us="lbftsq",
    example="0.9 kg·m² or 20 lb·ft²",
    least=1e-5,
    most=1e4,
)
DURATION = Quantity(name="time", unit="second", shown="s", bare="second", example="12 s", least=0.05, most=3600)
OHMS = Quantity(name="resistance", unit="ohm", shown="Ω", bare="ohm", example="0.25 Ω", least=1e-5, most=1e5)
TEST_VOLTAGE = Quantity(name="voltage", unit="V", shown="V", bare="V", example="95 V", least=1, most=1100)
TEST_POWER = Quantity(name="power", unit="W", shown="W", bare="W", example="420 W", least=1, most=5e6)
FIELD_VOLTAGE = Quantity(name="voltage", unit="V", shown="V", bare="V", example="150 V", least=1, most=1100)
TEMPERATURE = Quantity(
    name="temperature", unit="kelvin", shown="°C", bare="kelvin", example="40 °C", least=-60, most=400
)
TORQUE = Quantity(
    name="torque",
    unit="newtonmetre",
    shown="N·m",
    bare="newtonmetre",
    bare_us="lbft",
    example="420 N·m or 310 lb-ft",
    least=0,
    most=1e7,
)
FORCE = Quantity(
    name="force", unit="newton", shown="N", bare="newton", bare_us="lbf", example="18 kN or 4000 lbf", least=0, most=1e8
)
# What a load asks is above nought: a load that asks nothing is one of its kinds.
ASKED_TORQUE = replace(TORQUE, least=1e-3)
ROPE_PULL = replace(FORCE, least=1.0)
LINE_SPEED = Quantity(
    name="speed",
    unit="mps",
    shown="m/s",
    bare="mps",
    bare_us="fpm",
    example="0.2 m/s or 40 ft/min",
    least=1e-4,
    most=100,
)
FLOW = Quantity(
    name="flow", unit="flow", shown="m³/s", bare="mcubedperhour", bare_us="gpm", example="420 m³/h or 1850 gpm",
    least=1e-7, most=1000,
)  # fmt: skip
HEAD = Quantity(
    name="head", unit="metre", shown="m", bare="metre", bare_us="foot", example="32 m or 105 ft", least=0.01, most=5000
)
PRESSURE = Quantity(
    name="pressure", unit="pascal", shown="Pa", bare="pascal", bare_us="inchwater", example="900 Pa or 3.6 in. wg",
    least=0.1, most=1e8,
)  # fmt: skip
DENSITY = Quantity(
    name="density",
    unit="density",
    shown="kg/m³",
    bare="density",
    bare_us="lbpercubicfoot",
    example="1000 kg/m³ or 62.4 lb/ft³",
    least=0.1,
    most=20000,
)
BREAKAWAY = Quantity(
    name="breakaway", unit="one", shown="", bare="percent", bare_too="one", example="15 %", least=0, most=3,
    usual=(0.02, 3),
)  # fmt: skip
HOLDING_FACTOR = Quantity(
    name="factor", unit="one", shown="", bare="one", bare_too="percent", example="1.5", least=1, most=5
)
GEAR_RATIO = Quantity(name="gear ratio", unit="one", shown="", bare="one", example="24.5", least=0.01, most=2000)
COUNT_PER_HOUR = Quantity(name="count", unit="one", shown="", bare="one", example="4", least=0, most=1000)
REACTIVE_POWER = Quantity(
    name="reactive power", unit="VAr", shown="var", bare="kVAr", example="30 kvar", least=0, most=1e8
)
LOAD_POWER = Quantity(name="load", unit="VA", shown="VA", bare="kVA", example="120 kVA", least=0, most=2e8)
REACTANCE_PERCENT = Quantity(
    name="reactance", unit="one", shown="", bare="one", bare_too="percent", example="0.22 or 22 %", least=0.02, most=0.6
)
TIMES_CURRENT = Quantity(name="multiple", unit="one", shown="", bare="one", example="3.5", least=0.5, most=9)
SECONDS = Quantity(name="time", unit="second", shown="s", bare="second", example="2.5 s", least=0, most=3600)
CARRIED = replace(SECONDS, least=1e-4)  # what is carried for no time is not carried
SHARE = Quantity(
    name="share", unit="one", shown="", bare="percent", bare_too="one", example="65 %", least=0.02, most=1,
    usual=(0.03, 1),
)  # fmt: skip
PULSE = Quantity(name="share", unit="one", shown="", bare="percent", bare_too="one", example="70 %", least=0.1, most=1)
CONDUCTOR_TEMPERATURE = Quantity(
    name="temperature", unit="kelvin", shown="°C", bare="kelvin", example="75 °C", least=-20, most=250
)
PRICE = Quantity(name="price", unit="one", shown="", bare="one", example="0.14", least=0, most=100000)
FLICKER = Quantity(name="flicker severity", unit="one", shown="", bare="one", example="1", least=0.1, most=10)
ZERO_RATIO = Quantity(name="ratio", unit="one", shown="", bare="one", example="3", least=0.5, most=10)
AMBIENT = Quantity(name="ambient", unit="kelvin", shown="°C", bare="kelvin", example="40 °C", least=-40, most=85)
COIL_VOLTAGE = Quantity(name="voltage", unit="V", shown="V", bare="V", example="120 V", least=6, most=690)
EARTH_RESISTANCE = Quantity(
    name="resistance", unit="ohm", shown="Ω", bare="ohm", example="12 Ω", least=0.05, most=10000
)
RESIDUAL_CURRENT = Quantity(
    name="residual current", unit="A", shown="A", bare="A", example="0.3 A or 300 mA", least=0.005, most=30
)
HOURS = Quantity(name="count of hours", unit="one", shown="", bare="one", example="4000", least=0, most=8784)
TURNS = Quantity(name="angle", unit="turn", shown="turns", bare="turn", example="2 turns or 90°", least=0, most=1e5)
WORK = Quantity(name="work", unit="joule", shown="J", bare="kilojoule", example="12 kJ", least=1, most=1e13)
STRETCH = Quantity(name="time", unit="second", shown="s", bare="minute", example="20 min", least=1, most=6e5)
SOIL = Quantity(
    name="thermal resistivity",
    unit="kmperwatt",
    shown="K·m/W",
    bare="kmperwatt",
    example="1.5 K·m/W",
    least=0.3,
    most=5,
)
LET_THROUGH = Quantity(
    name="let-through", unit="ampsqs", shown="A²s", bare="kampsqs", example="0.2 kA²s", least=1, most=1e12
)
DIRECT_VOLTS = Quantity(name="test voltage", unit="V", shown="V", bare="V", example="500 V", least=50, most=15000)
