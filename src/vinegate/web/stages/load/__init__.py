"""The driven machine's sheet."""

from __future__ import annotations

from typing import Any, Final

from vinegate.web.stages.machine.curves import load_chart_of
from vinegate.web.stages.page import InHand, Page

_DRIVEN: Final = (
    "start.driven",
    "load.kind",
    "load.power",
    "load.torque",
    "load.breakaway",
    "load.inertia",
    "load.gear_ratio",
    "load.gear_efficiency",
    "load.service",
)
_DUTY: Final = ("load.runs", "load.stretch")


def _context(hand: InHand) -> dict[str, Any]:
    return {"load_chart": load_chart_of(hand.plan), "driven_fields": [*_DRIVEN, *(_DUTY if _asks_duty(hand) else ())]}


def _asks_duty(hand: InHand) -> bool:
    """How long it runs is asked where the plate's duty is not continuous, and shown where it is filled in."""
    load = hand.planned.circuit.load
    judged = any(gate.key == "load.duty" for stage in hand.plan.stages if stage.key == "load" for gate in stage.gates)
    return judged or load.runs is not None or load.stretch_s is not None


PAGE = Page(key="load", asks=("load", "start.driven"), context=_context)
