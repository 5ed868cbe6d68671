"""The efficiency class that a plate names, however it is written."""

from __future__ import annotations

import re
from typing import Final

_NAMES: Final = (
    ("IE4", r"SUPER\W*PREMIUM"),
    ("IE3", r"PREM(?:IUM)?\b"),
    ("IE2", r"HIGH|EPACT|ENERGY\W*EFFICIENT|\bEFF\W?1\b"),
    ("IE1", r"STANDARD|\bEFF\W?2\b"),
)
"""IEC 60034-30-1:2014 table 1; NEMA MG 1:2021 12.58 and 12.59 ask at 60 Hz what IE2 and IE3 ask there. EFF1 and EFF2,
as European makers agreed in 1999, ask no less than IE2 and IE1.
"""


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
