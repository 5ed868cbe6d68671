"""Cells of schedules that say several facts at once: a cable with its cores and sets, a starter that reverses."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.numbers import QuantityError
from vinegate.core.supply.cable import cable_of, one_size

_REVERSES: Final = re.compile(
    r"(?:FVR|RDOL|reversing[\s-]*(?:DOL|FVNR|full[\s-]*voltage)|(?:DOL|full[\s-]*voltage|FV)[\s,(-]*revers(?:ing|es)\)?)",
    re.I,
)


def together(path: str, text: str, *, us: bool) -> dict[str, str]:
    """What a cell of this fact says, by path, its own first; empty where it says no more than its own.

    >>> together("wiring.size", "2x(3x95) Cu XLPE", us=False)
    {'wiring.size': '95 mm²', 'wiring.sets': '2', 'wiring.metal': 'copper', 'wiring.insulation_iec': 'XLPE'}
    >>> together("start.method", "FVR", us=True), together("wiring.size", "35 mm²", us=False)
    ({'start.method': 'full-voltage', 'start.reversing': 'yes'}, {})
    """
    if path == "start.method" and _REVERSES.fullmatch(text.strip()):
        return {path: "full-voltage", "start.reversing": "yes"}
    if path != "wiring.size":
        return {}
    try:
        cable = cable_of(text, lambda one: one_size(one, us=us))
    except QuantityError:
        return {}
    said = {
        "wiring.sets": str(cable.sets) if cable.sets > 1 else "", "wiring.ground_size": cable.ground,
        "wiring.metal": cable.metal, f"wiring.insulation{'' if us else '_iec'}": cable.cover,
    }  # fmt: skip
    return {path: cable.size} | {fact: value for fact, value in said.items() if value} if not cable.alone else {}
