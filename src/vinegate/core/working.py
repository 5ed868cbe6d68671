"""A line of working, and where a figure came from."""

from __future__ import annotations

import re
from collections.abc import Iterable
from enum import StrEnum
from functools import lru_cache
from typing import Final, TypedDict

from vinegate.core.numbers import horsepower, write
from vinegate.core.records import dataclass


class Provenance(StrEnum):
    """Where a number came from, strongest first. A computed number is as strong as its weakest input."""

    MEASURED = "measured"
    STAMPED = "stamped"
    CATALOGUE = "catalogue"
    TABLE = "table"
    STATED = "stated"
    ASSUMED = "assumed"
    ESTIMATED = "estimated"

    @property
    def rank(self) -> int:
        return _RANKS[self]

    @property
    def soft(self) -> bool:
        """Assumed or estimated: never shown as if it were known."""
        return self in (Provenance.ASSUMED, Provenance.ESTIMATED)


AS_ASSUMED: Final = "entered, as assumed"
"""Source of what was entered by somebody who says that it is assumed."""
_RANKS = {provenance: rank for rank, provenance in enumerate(Provenance)}


class Said(TypedDict):
    """Where a figure comes from, as `given` takes it."""

    provenance: Provenance
    source: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Figure:
    """A number with everything needed to redo it by hand."""

    key: str
    name: str
    symbol: str
    value: float
    unit: str
    provenance: Provenance
    source: str
    formula: str = ""
    inputs: tuple[tuple[str, float], ...] = ()
    """What the formula is worked from: symbols and values."""
    note: str = ""
    also: str = ""
    """The same in the dialect's own unit, where its line is worked in another."""

    @property
    def soft(self) -> bool:
        """Whether it rests on an assumption or an estimate."""
        return self.provenance.soft

    @property
    def unsaid(self) -> bool:
        """Whether nobody has said it: what its own writer calls assumed was said."""
        return self.soft and self.source != AS_ASSUMED

    @property
    def substituted(self) -> str:
        """The formula in numbers: written where it is shown."""
        return substitute(self.formula, self.inputs)

    @property
    def shown(self) -> str:
        """Value and unit as they stand on the sheet.

        >>> given("u", "Volts", "U", 460.0, "V").shown
        '460 V'
        """
        return horsepower(self.value) if self.unit == "hp" else f"{write(self.value)} {self.unit}".rstrip()


def given(
    key: str,
    name: str,
    symbol: str,
    value: float,
    unit: str,
    *,
    provenance: Provenance = Provenance.STATED,
    source: str = "entered",
    note: str = "",
) -> Figure:
    """A figure that is a fact: no formula."""
    return Figure(
        key=key, name=name, symbol=symbol, value=value, unit=unit, provenance=provenance, source=source, note=note
    )


def work(
    key: str,
    name: str,
    symbol: str,
    value: float,
    unit: str,
    *,
    formula: str,
    inputs: Iterable[Figure],
    source: str,
    provenance: Provenance | None = None,
    note: str = "",
) -> Figure:
    """A computed figure, with the formula as symbols and as numbers.

    `formula` is written in the inputs' symbols; `provenance` defaults to the weakest input's.

    >>> u = given("u", "Volts", "U", 460.0, "V")
    >>> i = given("i", "Amperes", "I", 92.0, "A")
    >>> s = work("s", "Apparent power", "S", 73301.0, "VA", formula="√3·U·I", inputs=(u, i), source="definition")
    >>> s.substituted, str(s.provenance)
    ('√3·460·92', 'stated')
    """
    inputs = tuple(inputs)
    return Figure(
        key=key,
        name=name,
        symbol=symbol,
        value=float(value),
        unit=unit,
        formula=formula,
        inputs=tuple([(figure.symbol, figure.value) for figure in inputs]),
        provenance=provenance or weakest(inputs),
        source=source,
        note=note,
    )


_SYMBOL = re.compile(r"([A-Za-zΔηφωπρθτδμ][A-Za-zΔηφωπρθτδμ0-9_]*)")


def substitute(formula: str, inputs: Iterable[tuple[str, float]]) -> str:
    """The formula with each input's symbol replaced by its number, to seven digits so that it can be redone."""
    values = dict(inputs)
    return "".join(_number(values[part]) if part in values else part for part in _parts(formula))


def _number(value: float) -> str:
    text = write(value, 7)
    return f"({text})" if text.startswith("−") else text


@lru_cache(maxsize=4096)
def _parts(formula: str) -> tuple[str, ...]:
    """A formula's symbols and what stands between them."""
    return tuple(_SYMBOL.split(formula))


def weakest(figures: Iterable[Figure]) -> Provenance:
    """The provenance a result inherits: that of its weakest input; computed from nothing is a definition."""
    return max((figure.provenance for figure in figures), key=_RANKS.__getitem__, default=Provenance.TABLE)
