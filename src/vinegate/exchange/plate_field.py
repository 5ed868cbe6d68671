"""What a plate's field reads of the words behind its label."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.codes import decode
from vinegate.core.plate.facts import Plate
from vinegate.exchange.plate_words import FIELDS, KEPT


def with_unit(value: str, unit: str) -> str:
    """A bare number with the unit that its label names."""
    return f"{value} {unit}" if unit in KEPT and re.fullmatch(r"[\d.,/ ½¼¾-]+", value) else value


def read_from(name: str, text: str, unit: str = "") -> tuple[str, str]:
    """What a field reads of the words behind its label, and the words behind that; empty where it reads nothing.

    >>> read_from("ambient", "40 °C TYPE CS"), read_from("speed", "1185 OIL", "rpm"), read_from("speed", "1 WINDING")
    (('40 °C', 'TYPE CS'), ('1185 rpm', 'OIL'), ('', ''))
    """
    words = text.split()
    for count in range(len(words), 0, -1):
        said, rest = with_unit(" ".join(words[:count]), unit), " ".join(words[count:])
        if any(map(str.isdigit, rest)):
            break
        if _reads(name, said):
            return said, rest
    return "", ""


def _reads(name: str, text: str) -> bool:
    kind = CODED.get(name)
    return Plate.fields()[name].reads(text) and (kind is None or bool(decode(kind, text)))


CODED: Final = {name: kind for kind, name in FIELDS.items() if name not in ("code_letter", "design_letter")}
"""Fields of codes, with their kind."""
NUMBERED: Final = "frame"
"""Of these it has a number."""
