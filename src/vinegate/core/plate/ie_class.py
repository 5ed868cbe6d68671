"""The efficiency class that a plate names, however it is written."""

from __future__ import annotations

import re
from typing import Final

_NAMES: Final = (
    ("IE4", r"SUPER\W*PREMIUM"),
    ("IE3", r"PREMIUM"),
    ("IE2", r"HIGH|EPACT|ENERGY\W*EFFICIENT"),
    ("IE1", r"STANDARD"),
)
"""IEC 60034-30-1:2014 table 1; NEMA MG 1:2021 12.58 and 12.59 ask at 60 Hz what IE2 and IE3 ask there."""


def ie_class(text: str | None) -> str:
    """IE1 to IE5; empty where it names none.

    >>> ie_class("ie 3"), ie_class("NEMA Premium"), ie_class("IE-4"), ie_class("as ordered"), ie_class(None)
    ('IE3', 'IE3', 'IE4', '', '')
    """
    said = (text or "").upper()
    found = re.search(r"\bIE\W?([1-5])\b", said)
    if found:
        return f"IE{found.group(1)}"
    return next((name for name, words in _NAMES if re.search(words, said)), "")
