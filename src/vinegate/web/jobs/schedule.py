"""The schedule's rows, from what is kept with each circuit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from vinegate.core.grade import Verdict
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.store.revisions import states
from vinegate.web.jobs.summaries import rows_of

# Column key, heading by dialect.
COLUMNS = (
    ("power", "Power", "Power"),
    ("current", "FLA", "I_N"),
    ("start", "Start", "Start"),
    ("dip", "Dip", "Dip"),
    ("time", "Time", "Time"),
    ("overload", "Overload", "Overload"),
)
_VERDICTS = tuple(reversed(Verdict))


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """One circuit of the schedule."""

    tag: str
    driven: str
    cells: dict[str, dict[str, Any]]
    gates: dict[str, int]
    verdict: str
    dip_verdict: str
    missing: list[str]
    method: str
    why: str
    to_confirm: int
    waits: bool
    state: str = ""
    new_motor: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Guarded:
    """One circuit of the protection schedule: each device's name, size and verdict by its key."""

    tag: str
    driven: str
    method: str
    current: str
    devices: dict[str, dict[str, str]]
    trip: str
    verdict: str


def guarded(circuit: Circuit, summary: dict[str, Any]) -> Guarded:
    """A row of the protection schedule from what was kept."""
    guard = summary["guard"]
    verdicts = [device["verdict"] for device in guard["devices"].values()]
    return Guarded(
        tag=circuit.tag,
        driven=summary["driven"],
        method=summary["method"],
        current=summary["cells"].get("current", {}).get("shown", "–"),
        devices=guard["devices"],
        trip=guard.get("trip", ""),
        verdict=max(verdicts, key=lambda word: Verdict(word).rank, default=Verdict.UNKNOWN.value),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Schedule:
    rows: list[Row]
    total: int
    planning: int = 0

    @property
    def waiting(self) -> int:
        """Circuits shown that are being planned."""
        return sum(row.waits for row in self.rows)

    def count(self, verdict: str) -> int:
        """Circuits whose worst gate stands like this."""
        return sum(row.verdict == verdict for row in self.rows)


def schedule(access: Access, *, sort: str, find: str, stands: str = "") -> Schedule:
    """Rows of the job, sorted by a column, filtered by text in tag, load, way to start or reason, and by verdict.

    Unknown columns sort by tag.
    """
    kept = rows_of(access)
    standing = states([one for one, _ in kept.rows], access.job.facts, {one.id: one.facts for one, _ in kept.rows})
    rows = [_row(circuit, summary, standing[circuit.id].said) for circuit, summary in kept.rows]
    wanted = find.casefold()
    shown = [
        row
        for row in rows
        if any(wanted in text.casefold() for text in (row.tag, row.driven, row.method, row.why, *row.missing))
        and stands in ("", row.verdict)
    ]
    return Schedule(rows=_sorted(shown, sort), total=len(rows), planning=kept.planning)


def _row(circuit: Circuit, summary: dict[str, Any], state: str) -> Row:
    return Row(
        tag=circuit.tag,
        driven=summary["driven"],
        cells=summary["cells"],
        gates=summary["gates"],
        verdict=summary["verdict"],
        dip_verdict=summary["dip_verdict"],
        missing=summary["missing"],
        method=summary["method"],
        why=summary["why"],
        to_confirm=summary["to_confirm"],
        waits=summary.get("waits", False),
        state=state,
        new_motor=summary.get("replacement", ""),
    )


def _sorted(rows: list[Row], sort: str) -> list[Row]:
    """Largest first for a figure (what is missing last), worst first for gates, else by tag."""
    if sort == "gates":
        return sorted(rows, key=lambda row: (_VERDICTS.index(Verdict(row.verdict)), row.tag))
    if sort in {key for key, *_ in COLUMNS}:
        return sorted(rows, key=lambda row: (-row.cells[sort]["value"] if sort in row.cells else 1.0, row.tag))
    if sort == "driven":
        return sorted(rows, key=lambda row: (row.driven.casefold(), row.tag))
    return rows
