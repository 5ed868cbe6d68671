"""The schedule's rows: summaries kept with each circuit, planned again only where facts or program have changed."""

from __future__ import annotations

import logging
from dataclasses import dataclass
from typing import Any

from vinegate import __version__
from vinegate.core.grade import Verdict
from vinegate.core.plan import plan_raw
from vinegate.core.summary import summarise, unplanned
from vinegate.store import jobs
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit

# Column key, heading by dialect.
COLUMNS = (
    ("power", "Power", "Power"),
    ("current", "FLA", "I_N"),
    ("start", "Start", "Start"),
    ("dip", "Dip", "Dip"),
    ("time", "Time", "Time"),
    ("overload", "Overload", "Overload"),
)
_log = logging.getLogger(__name__)
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
    guard, facts = summary["guard"], jobs.loads(circuit.facts)
    verdicts = [device["verdict"] for device in guard["devices"].values()]
    return Guarded(
        tag=circuit.tag,
        driven=str((facts.get("start") or {}).get("driven") or ""),
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

    def count(self, verdict: str) -> int:
        """Circuits whose worst gate stands like this."""
        return sum(row.verdict == verdict for row in self.rows)


def schedule(access: Access, *, sort: str, find: str) -> Schedule:
    """Rows of the job, sorted by a column and filtered by text in tag or load. Unknown columns sort by tag."""
    rows = [_row(circuit, summary) for circuit, summary in summaries(access)]
    wanted = find.casefold()
    kept = [row for row in rows if wanted in row.tag.casefold() or wanted in row.driven.casefold()]
    return Schedule(rows=_sorted(kept, sort), total=len(rows))


def summaries(access: Access) -> list[tuple[Circuit, dict[str, Any]]]:
    """Each circuit of the job with its summary, planned again where that is stale."""
    circuits = jobs.circuits(access)
    stale = [circuit for circuit in circuits if circuit.summary_key != _key(access, circuit)]
    fresh = [(circuit, _key(access, circuit), _summary(access, circuit)) for circuit in stale]
    jobs.keep_summaries(fresh)
    planned = {circuit.id: summary for circuit, _, summary in fresh}
    return [(circuit, planned.get(circuit.id) or jobs.loads(circuit.summary)) for circuit in circuits]


def _key(access: Access, circuit: Circuit) -> str:
    return f"{__version__}:{access.job.version}:{circuit.version}"


def _summary(access: Access, circuit: Circuit) -> dict[str, Any]:
    """One circuit the program fails on must not take its job's schedule with it: its row says so."""
    try:
        return summarise(plan_raw(access.rules, access.facts, jobs.loads(circuit.facts), both_sources=False))
    except Exception:
        _log.exception("circuit %s of job %s could not be planned", circuit.tag, access.job.id)
        return unplanned()


def _row(circuit: Circuit, summary: dict[str, Any]) -> Row:
    facts = jobs.loads(circuit.facts)
    return Row(
        tag=circuit.tag,
        driven=str((facts.get("start") or {}).get("driven") or ""),
        cells=summary["cells"],
        gates=summary["gates"],
        verdict=summary["verdict"],
        dip_verdict=summary["dip_verdict"],
        missing=summary["missing"],
        method=summary["method"],
        why=summary["why"],
        to_confirm=summary["to_confirm"],
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
