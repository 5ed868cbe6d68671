"""The driven machine's sheet."""

from __future__ import annotations

from typing import Any

from vinegate.web.stages.machine.curves import load_chart_of
from vinegate.web.stages.page import InHand, Page


def _context(hand: InHand) -> dict[str, Any]:
    return {"load_chart": load_chart_of(hand.plan)}


PAGE = Page(key="load", asks=("load", "start.driven"), context=_context)
