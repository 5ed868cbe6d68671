"""The schedule's rows, from what is kept with each circuit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from vinegate.core.grade import Verdict
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.store.revisions import states
from vinegate.web.jobs.summaries import rows_of, rows_on_paper

# Column key, heading by dialect.
COLUMNS = (
    ("power", "Power", "Power"),
    ("current", "FLA", "I_N"),
    ("start", "Start", "Start"),
    ("dip", "Dip", "Dip"),
    ("time", "Time", "Time"),
    ("overload", "Overload", "Overload"),
)
FURTHER = (
    ("volts", "Volts", "U_N"),
    ("speed", "Speed", "n_N"),
    ("wire", "Wire", "Cable"),
    ("device", "Device", "Device"),
    ("ground", "Ground", "PE"),
    ("stop", "Stop", "Stop"),
)
"""Columns that may be chosen beside those; their cells are words."""
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
    words: dict[str, str]
    starts: str
    board: str
    stages: dict[str, list[str]]
    state: str = ""
    new_motor: str = ""
    kept: str = ""
    """The text that all but tag and state are of; empty while it is being planned."""


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
    waits: bool


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
        waits=summary.get("waits", False),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """Which rows are wanted; what is empty is not asked. `stage` is the title of a sheet where something does not pass,
    `lacks` the label of a missing fact.
    """

    find: str = ""
    stands: str = ""
    stage: str = ""
    starts: str = ""
    board: str = ""
    lacks: str = ""

    @property
    def narrow(self) -> bool:
        return any((self.find, self.stands, self.stage, self.starts, self.board, self.lacks))

    def wants(self, row: Row) -> bool:
        wanted = self.find.casefold()
        texts = (row.tag, row.driven, row.method, row.why, *row.missing)
        stages = (
            row.stages.get(self.stands, []) if self.stands else [one for part in row.stages.values() for one in part]
        )
        return (
            any(wanted in text.casefold() for text in texts)
            and self.stands in ("", row.verdict)
            and (not self.stage or self.stage in stages)
            and self.starts in ("", row.starts)
            and self.board in ("", row.board)
            and (not self.lacks or self.lacks in row.missing)
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Schedule:
    rows: list[Row]
    total: int
    planning: int = 0
    stages: tuple[str, ...] = ()
    starts: tuple[str, ...] = ()
    boards: tuple[str, ...] = ()
    lacks: tuple[str, ...] = ()
    """What there is of each in the whole job, to be asked for."""

    @property
    def waiting(self) -> int:
        """Circuits shown that are being planned."""
        return sum(row.waits for row in self.rows)

    def count(self, verdict: str) -> int:
        """Circuits whose worst gate stands like this."""
        return sum(row.verdict == verdict for row in self.rows)


def schedule(access: Access, *, sort: str, asked: Asked, paper: bool = False) -> Schedule:
    """Rows of the job, sorted by a column; find looks in tag, load, way to start, reason and missing facts.

    Unknown columns sort by tag. On `paper` all of them are waited for.
    """
    kept = rows_on_paper(access) if paper else rows_of(access)
    standing = states([one for one, _ in kept.rows], access.job.facts, {one.id: one.facts for one, _ in kept.rows})
    rows = [row_for(circuit, summary, standing[circuit.id].said) for circuit, summary in kept.rows]
    stages = {title for row in rows for titles in row.stages.values() for title in titles}
    return Schedule(
        rows=_sorted([row for row in rows if asked.wants(row)], sort),
        total=len(rows),
        planning=kept.planning,
        stages=tuple(sorted(stages)),
        starts=tuple(sorted({row.starts for row in rows if row.starts})),
        boards=tuple(sorted({row.board for row in rows if row.board})),
        lacks=tuple(sorted({label for row in rows for label in row.missing}, key=str.casefold)),
    )


def row_for(circuit: Circuit, summary: dict[str, Any], state: str) -> Row:
    """A row from what is kept of a circuit, or was planned just now."""
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
        words=summary["words"],
        starts=summary["starts"],
        board=summary["board"],
        stages=summary["stages"],
        state=state,
        new_motor=summary.get("replacement", ""),
        kept=circuit.summary or "",
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
