"""The stop's sheet: every way side by side, the one in use against time, and its sizes."""

from __future__ import annotations

from typing import Any

from vinegate.core.answer import Piece
from vinegate.core.plan import Beside, Plan
from vinegate.core.stop.answer import stop_answer
from vinegate.web.stages.page import InHand, Page
from vinegate.web.stages.start.methods import settings
from vinegate.web.stages.stop.ways import NEED, own_settings, sizes, stops_drawings


def _answer(plan: Plan) -> tuple[Piece, ...]:
    return stop_answer(plan.stopping, plan.gate("stop.stop").needs)


def _context(hand: InHand) -> dict[str, Any]:
    own, others = own_settings(hand.plan)
    return {
        "stops_drawings": stops_drawings(hand.plan),
        "stop_need": NEED,
        "stop_own": own,
        "stop_others": others,
        "stop_sizes": sizes(hand.plan),
        "settings": settings(),
    }


PAGE = Page(key="stop", asks=("stop",), context=_context, answer=_answer, works=Beside.STOPS)
