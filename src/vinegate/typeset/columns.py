"""How wide the columns of a table are: by what stands in them, as browsers lay out tables (CSS 2.1, 17.5.2.2)."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Final

_KINDS: Final = (
    (frozenset(" .,:;|'!ijlI"), 0.28),
    (frozenset("frt()[]/·-°²³"), 0.37),
    (frozenset("mwMWΩ%@—"), 0.88),
    (frozenset("ABCDEFGHJKLNOPQRSTUVXYZ"), 0.66),
)
_EM_OF: Final = {sign: wide for signs, wide in _KINDS for sign in signs}
_EM: Final = 0.58
"""Of the letters and figures that are left. Advances of the sheet's font, in four kinds."""
_PADDING_EM: Final = 0.85
_BOLD: Final = 1.03
_SAFE: Final = 1.04
"""Widths are estimated by kinds of signs, and what may not be broken must not be cut."""
_BY_HAND_EM: Final = 9.0
_ACROSS_MM: Final = 180.0
_ACROSS_EM: Final = _ACROSS_MM / 25.4 * 72 / (0.86 * 9.5)
"""A line of a table's text, between the margins."""
_PROSE_EM: Final = 36.0
"""Sentences get no more than this of what is over: they read as well on two lines, and a name beside them does not."""
_FIXED: Final = {"working-table": (22.0, 42.0, 11.0, 25.0)}
_WHOLE: Final = frozenset(("num", "tick", "verdict-word"))

Cells = Sequence[Sequence[dict[str, Any]]]


def em(text: str) -> float:
    """How wide a text is about, in widths of its font's em."""
    return sum(_EM_OF.get(sign, _EM) for sign in text)


def widths(rows: Cells, classes: Sequence[str]) -> list[float]:
    """The share of each column, of any sum."""
    count = max((sum(cell["span"] for cell in row) for row in rows), default=1)
    for name, fixed in _FIXED.items():
        if name in classes:
            return list(fixed)
    if "entered" in classes:
        return [1.0] * count
    least, most = [_PADDING_EM] * count, [_PADDING_EM] * count
    for row in rows:
        place = 0
        for cell in row:
            if cell["span"] == 1:
                whole, word = _of(cell)
                least[place], most[place] = max(least[place], word), max(most[place], whole)
            place += cell["span"]
    return _shared(least, most)


def _of(cell: dict[str, Any]) -> tuple[float, float]:
    """A cell's width unbroken, and with each line broken where it may be."""
    scale = _SAFE * (_BOLD if cell["row"] or "verdict-word" in cell["c"] else 1.0)
    if "blank" in cell["c"]:
        return _BY_HAND_EM, _BY_HAND_EM
    whole = scale * em(cell["words"]) + _PADDING_EM
    if _WHOLE.intersection(cell["c"]):
        return whole, whole
    return whole, scale * max((em(word) for word in cell["words"].split(" ")), default=0.0) + _PADDING_EM


def _shared(least: list[float], most: list[float]) -> list[float]:
    """All of the width: each column's most where that fits, else what is over the least, by what each would take."""
    over = _ACROSS_EM - sum(least)
    wanted = [max(min(high, _PROSE_EM) - low, 0.0) for low, high in zip(least, most, strict=True)]
    if sum(most) <= _ACROSS_EM or over <= 0:
        return most if over > 0 else least
    return [low + over * want / (sum(wanted) or 1.0) for low, want in zip(least, wanted, strict=True)]
