"""The machine behind the plate: its circuit or curve, and the chart."""

from __future__ import annotations

from typing import Any

from vinegate.web.stages.machine.curves import asked, chart_of
from vinegate.web.stages.page import InHand, Page
from vinegate.web.stages.plate import origins_of


def _context(hand: InHand) -> dict[str, Any]:
    return {**origins_of(hand), "chart": chart_of(hand.plan, *asked())}


PAGE = Page(key="machine", asks=("machine",), context=_context)
