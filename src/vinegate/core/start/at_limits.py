"""The ways to start side by side, had the dip's limit been one of the usual ones."""

from __future__ import annotations

from collections.abc import Mapping

from vinegate.core.grade import Kind, Verdict
from vinegate.core.records import replace
from vinegate.core.start.compare import LIMITS_PCT, AtLimit, Comparison
from vinegate.core.start.trace import Outcome


def side_by_side(found: Comparison, dips: Mapping[str, Mapping[float, Verdict]]) -> Comparison:
    """The comparison with usual dip limits tried: `dips` are the dip's verdicts by method and limit."""
    views = []
    for limit in LIMITS_PCT:
        able = [
            row
            for row in found.rows
            if row.method in dips
            and dips[row.method][limit] is Verdict.PASSES
            and row.outcome is Outcome.REACHES
            and not row.lacks
            and not any(gate.verdict is Verdict.FAILS for gate in row.gates if gate.kind is Kind.ENGINEERING)
        ]
        least = min(able, key=lambda row: row.order, default=None)
        used = dips[found.chosen][limit] if found.chosen in dips else found.row(found.chosen).verdict
        views.append(AtLimit(limit_pct=limit, verdict=used, least_dear=least.name if least else ""))
    return replace(found, at_limits=tuple(views))
