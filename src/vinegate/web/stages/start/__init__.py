"""The start's sheet: every way side by side, the one in use against time."""

from __future__ import annotations

from typing import Any

from vinegate.core.plan import Beside
from vinegate.core.start.eligible import said_or_usual
from vinegate.core.start.way import Way
from vinegate.web.stages.page import InHand, Page
from vinegate.web.stages.start.methods import (
    ASKED,
    BESIDE,
    HEAD,
    lanes_drawing,
    methods,
    settings,
    stop_drawing,
    strip_drawing,
    used,
)


def _used_way(hand: InHand) -> Way:
    row = used(hand.plan)
    return said_or_usual(hand.planned.circuit, row.method if row else None)


def _context(hand: InHand) -> dict[str, Any]:
    return {
        "methods": methods(hand.plan, hand.planned.circuit),
        "used_way": _used_way(hand),
        "strip": strip_drawing(hand.plan),
        "lanes": lanes_drawing(hand.plan),
        "stop_strip": stop_drawing(hand.plan),
        "head_fields": HEAD,
        "source_field": BESIDE,
        "asked_fields": ASKED,
        "settings": settings(),
    }


PAGE = Page(
    key="start",
    asks=("start", "load", "limits.dip", "supply.in_use"),
    context=_context,
    works=Beside.STARTS | Beside.SOURCE,
)
