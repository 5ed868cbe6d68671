"""The insulation's class as plates write it, and the rise that it allows."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.numbers import QuantityError
from vinegate.core.quantity import RISE
from vinegate.core.tables import load

_LETTER: Final = re.compile(r"(?<![A-Z])[A-HNR](?![A-Z])")
COPPER_K: Final = 234.5
"""Copper's ohms go with its degrees Celsius above −234.5: IEEE 112:2017 5.2."""
AMBIENT_C: Final = 40.0
"""That the classes' rises are above: IEC 60034-1:2022 table 8, NEMA MG 1:2021 12.43."""
SERVICE_FACTOR_K: Final = 10.0
"""So much more a machine may rise at a service factor of 1.15: MG 1 12.43."""


def class_letter(text: str | None) -> str:
    """The letter alone; empty where there is none.

    >>> class_letter("Class F"), class_letter("Th.Cl. 155(F)"), class_letter("130"), class_letter(None)
    ('F', 'F', 'B', '')
    """
    plain = (text or "").upper()
    found = _LETTER.search(plain)
    if found is not None:
        return found[0]
    degrees = re.search(r"\d{3}", plain)
    row = load("insulation_class").find(celsius=degrees[0]) if degrees is not None else None
    return row["class"] if row is not None else ""


_CLASS_ALONE: Final = re.compile(
    r"^\s*(?:(?:temp\.?|temperature)\s*)?(?:rise)?\s*(?:class|cl\.?)?\s*(?:[AEBFH]\s*/\s*)?([AEBFH])\s*$", re.I
)
"""Alone, or behind that of the insulation: F/B."""
_CLASS_BESIDE: Final = re.compile(
    r"^\s*(?:class|cl\.?)?\s*[AEBFH]\s*[(/,]|[(/,]\s*(?:class|cl\.?)?\s*[AEBFH]\s*\)?\s*$", re.I
)


def read_rise(text: str) -> float:
    """A rise in kelvin, or as the class whose rise it is: a machine of class F that is used as one of class B. Raises
    QuantityError.

    >>> read_rise("class B"), read_rise("B"), read_rise("80 K"), read_rise("B (75 K)"), read_rise("80K/B")
    (80.0, 80.0, 80.0, 75.0, 80.0)
    """
    found = _CLASS_ALONE.match(text)
    allowed = rise_allowed_k(found[1]) if found is not None else None
    if allowed is not None:
        return allowed
    if not re.search(r"\d", text):
        raise QuantityError(f"“{text.strip()}” is no rise: write it like 80 K, or as the class whose it is, like B.")
    return RISE.read(_CLASS_BESIDE.sub("", text).strip(" ()"))


def rise_allowed_k(text: str | None) -> float | None:
    """Rise by resistance above 40 °C that the class allows, K; None where it is not one of the table.

    >>> rise_allowed_k("class B"), rise_allowed_k("X")
    (80.0, None)
    """
    row = load("insulation_rise").find(**{"class": class_letter(text)})
    return float(row["rise_k"]) if row is not None else None
