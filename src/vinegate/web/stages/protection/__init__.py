"""The protection's sheet: five devices and the grounding conductor, and the time-current chart."""

from __future__ import annotations

from typing import Any

from vinegate.core.answer import Piece
from vinegate.core.plan import Plan
from vinegate.core.protection.answer import protection_answer
from vinegate.web.stages.page import InHand, Page
from vinegate.web.stages.protection.devices import (
    BY_ITS_CURVE,
    DIAL,
    SHORT_CIRCUIT,
    SWITCHES,
    UPSTREAM,
    chart,
    not_asked,
    rows,
)

BESIDE = ("protection", "overload", "wiring")
"""Sheets whose answer is the protection's."""


def answer(plan: Plan) -> tuple[Piece, ...]:
    """What protects it, in a sentence."""
    return protection_answer(plan.protected) if plan.protected is not None else ()


def device_rows(hand: InHand) -> dict[str, Any]:
    """The devices, for each of those sheets."""
    return {"device_rows": rows(hand.plan), "drafted": hand.planned.drafted}


def _context(hand: InHand) -> dict[str, Any]:
    return {
        **device_rows(hand),
        "curve_chart": chart(hand.plan, hand.planned.circuit),
        "short_fields": SHORT_CIRCUIT,
        "curve_fields": BY_ITS_CURVE,
        "dial_fields": DIAL,
        "switch_fields": SWITCHES,
        "upstream_fields": UPSTREAM,
        "not_asked": not_asked(hand.plan, hand.planned.circuit),
    }


PAGE = Page(
    key="protection", asks=("protection", "start.instantaneous_trip"), context=_context, answer=answer, beside=BESIDE
)
