"""A plan in one row: what the schedule shows of a circuit."""

from __future__ import annotations

from typing import Any

from vinegate.core.gate import Verdict
from vinegate.core.plan import Plan
from vinegate.core.quantity import write

# Column key to the figure it shows.
COLUMNS = {
    "power": "plate.power",
    "current": "plate.current",
    "start": "start.full.current",
    "dip": "start.full.dip_board",
    "wye_dip": "start.wye.dip_board",
    "overload": "overload.normal",
}


def summarise(plan: Plan) -> dict[str, Any]:
    """Values with units and provenance, and how many gates stand how: plain JSON values."""
    cells = {}
    for column, key in COLUMNS.items():
        figure = plan.figure(key)
        if figure is not None:
            cells[column] = {
                "value": figure.value,
                "shown": f"{write(figure.value, 3 if figure.soft else 4)} {figure.unit}",
                "provenance": figure.provenance.value,
            }
    counts = {verdict.value: sum(gate.verdict is verdict for gate in plan.weighing) for verdict in Verdict}
    return {
        "cells": cells,
        "gates": counts,
        "verdict": plan.verdict.value,
        "dip_verdict": plan.gate("start.dip").verdict.value,
        "missing": [missing.label for missing in plan.missing],
        "errors": len(plan.errors),
    }
