"""The parameter sheet as CSV and JSON."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import asdict

from vinegate.core.drive.stage import DRIVE, Driven
from vinegate.core.plan import Plan

_HEAD = ("group", "parameter", "value", "unit", "why", "source", "safety", "as set")


def _driven(plan: Plan) -> Driven | None:
    found = plan.of(DRIVE)
    return found.driven if found else None


def as_csv(plan: Plan) -> tuple[str, str] | None:
    """A line a parameter, the last column left for what was set."""
    driven = _driven(plan)
    if driven is None:
        return None
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_HEAD)
    for one in driven.parameters:
        row = (one.group, one.name, one.value, one.unit, one.why, one.source, "yes" if one.safety else "", "")
        writer.writerow(row)
    return out.getvalue(), "text/csv"


def as_json(plan: Plan) -> tuple[str, str] | None:
    """Parameters and signals."""
    driven = _driven(plan)
    if driven is None:
        return None
    found = {
        "parameters": [asdict(one) for one in driven.parameters],
        "signals": [asdict(one) for one in driven.signals],
    }
    return json.dumps(found, ensure_ascii=False, indent=1), "application/json"
