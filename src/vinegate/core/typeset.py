"""Signs that typesetting puts in place of those that are typed: other hyphens, slashes, blanks of no width, ℃."""

from __future__ import annotations

from typing import Final

_NOTHING: Final = "\u00ad\u200b\u200c\u200d\u200e\u200f\u2060\ufeff"
_SAME: Final = {
    "-": "\u2010\u2011\u2012\u2212\ufe63\uff0d", "/": "\u2044\u2215\uff0f", "·": "\u2219\u2022\u30fb", ".": "\uff0e",
    ",": "\uff0c", "%": "\uff05", "°C": "\u2103", "°F": "\u2109", "Ω": "\u2126", "K": "\u212a", "Å": "\u212b",
    "mm²": "\u339f", "m²": "\u33a1", "mm": "\u339c", "kW": "\u33be", "kV": "\u33b8", "kA": "\u3384", "kg": "\u338f",
    "Hz": "\u3390", "kHz": "\u3391", ":": "\uff1a", "(": "\uff08", ")": "\uff09", "+": "\uff0b", "=": "\uff1d",
    "×": "\u2715\u2a2f", "#": "\uff03",
}  # fmt: skip
_TABLE: Final = str.maketrans(
    dict.fromkeys(_NOTHING, "") | {sign: plain for plain, signs in _SAME.items() for sign in signs}
)


def typed(text: str) -> str:
    """A text with the signs that people type.

    >>> typed("208\u2011230\u2044460\u200b V"), typed("40 \u2103"), typed("1 1/2 hp")
    ('208-230/460 V', '40 °C', '1 1/2 hp')
    """
    return text.translate(_TABLE)
