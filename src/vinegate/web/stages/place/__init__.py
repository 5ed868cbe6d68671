"""The place's sheet: who stands where, the sketch, each device's verdict, what the plates say."""

from __future__ import annotations

from typing import Any

from vinegate.core.answer import Piece
from vinegate.core.place.answer import place_answer
from vinegate.core.plan import Plan
from vinegate.web.stages.page import InHand, Page, Planned, opened
from vinegate.web.stages.place.areas import SHEET, STANDS, area_fields, cards, own_fields, said, sketch


def _answer(plan: Plan) -> tuple[Piece, ...]:
    return place_answer(plan.placed) if plan.placed is not None else ()


def _context(hand: InHand) -> dict[str, Any]:
    plan, job = hand.plan, hand.planned.job
    return {
        "stands": STANDS,
        "own_place": own_fields(plan, hand.fields),
        "areas": cards(plan, job),
        "areas_by_name": hand.by_name,
        "area_fields": area_fields(hand.fields, job),
        "areas_sketch": sketch(plan, job),
        "said": said(hand.planned.circuit),
        "opened": opened(),
    }


def _used(planned: Planned) -> set[str]:
    """The areas that this circuit's devices stand in."""
    placed = planned.plan.placed
    return {row.area for row in placed.devices if row.area} if placed else set()


PAGE = Page(key="place", asks=SHEET, lists="area", wanted=_used, context=_context, answer=_answer)
