"""The start's sheet: every way side by side, the one in use against time."""

from __future__ import annotations

from typing import Any

from vinegate.web.stages.page import InHand, Page
from vinegate.web.stages.start.methods import (
    ASKED,
    HEAD,
    SETTINGS,
    lanes_drawing,
    methods,
    stop_drawing,
    strip_drawing,
)


def _context(hand: InHand) -> dict[str, Any]:
    return {
        "methods": methods(hand.plan),
        "strip": strip_drawing(hand.plan),
        "lanes": lanes_drawing(hand.plan),
        "stop_strip": stop_drawing(hand.plan),
        "head_fields": HEAD,
        "asked_fields": ASKED,
        "settings": SETTINGS,
    }


PAGE = Page(key="start", asks=("start", "load", "limits.dip", "supply.in_use"), context=_context, both_sources=True)
