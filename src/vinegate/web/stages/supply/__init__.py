"""The supply's sheet: the source, the limits, and the boards of the job."""

from __future__ import annotations

from typing import Any

from vinegate.core.supply.tree import path_to
from vinegate.web.stages.page import InHand, Page, Planned, opened


def _context(hand: InHand) -> dict[str, Any]:
    return {
        "boards": hand.shown,
        "boards_by_name": [(key, hand.planned.job_raw[key]) for key in hand.by_name],
        "opened": opened(),
        "here_board": hand.planned.circuit.wiring.board or "main",
    }


def _way(planned: Planned) -> set[str]:
    """The boards that feed this circuit."""
    return set(path_to(planned.job, planned.circuit.wiring.board))


PAGE = Page(
    key="supply", asks=("supply", "standby", "main_board", "limits"), lists="board", wanted=_way, context=_context
)
