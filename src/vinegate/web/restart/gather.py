"""A job's machines as the restart sees them, from what is kept with each circuit."""

from __future__ import annotations

from dataclasses import dataclass

from vinegate.core.facts import Job, read_job
from vinegate.core.field import read_facts
from vinegate.core.start.facts import Start
from vinegate.core.start.restart import Starter, starter_of
from vinegate.core.summary import profile_from
from vinegate.core.supply.tree import path_to
from vinegate.core.wiring.facts import Wiring
from vinegate.store import jobs
from vinegate.store.jobs import Access
from vinegate.web.jobs.summaries import rows_of


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """One circuit's two facts of the restart, as typed, and what is wrong with them."""

    tag: str
    driven: str
    at: str
    takes_part: str
    error: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Gathered:
    """Those that start again; each circuit's two facts; what stands aside and why; how many lack facts or a plan."""

    starters: tuple[Starter, ...]
    entries: tuple[Entry, ...]
    left_out: tuple[tuple[str, str], ...]
    lacking: int
    planning: int
    dip_pu: float | None
    """The job's limit at the main board."""
    limit_unread: str
    """Why that cannot be read, where something is typed for it."""


def gathered(access: Access) -> Gathered:
    """Nothing is planned that has not changed."""
    starters, left_out, entries = list[Starter](), list[tuple[str, str]](), list[Entry]()
    lacking = 0
    kept_rows = rows_of(access)
    loaded = [(circuit, summary, jobs.loads(circuit.facts)) for circuit, summary in kept_rows.rows]
    rows = [(circuit, summary, facts.get("start") or {}) for circuit, summary, facts in loaded]
    job, wrong = read_job(access.facts, access.rules)
    boards = {circuit.tag: str((facts.get("wiring") or {}).get("board") or "") for circuit, _, facts in loaded}
    ways = {said: _boards_to(job, said) for said in set(boards.values())}
    # those for which another may stand by: not said to stay off, nor standing by themselves
    runs = {one.tag for one, row, typed in rows if typed.get("restart") != "no" and not row["guard"].get("stands_by")}
    for circuit, summary, typed in rows:
        facts, errors = read_facts(Start, {k: typed[k] for k in ("restart", "restart_at") if k in typed}, "start")
        entries.append(
            Entry(
                tag=circuit.tag,
                driven=str(typed.get("driven") or ""),
                at=str(typed.get("restart_at") or ""),
                takes_part=str(typed.get("restart") or ""),
                error=errors[0].message if errors else "",
            )
        )
        if facts.restart == "no":
            left_out.append((circuit.tag, "stays off, as entered"))
            continue
        served = next((tag for tag in summary["guard"].get("stands_by", ()) if tag in runs), None)
        if facts.restart is None and served is not None:
            left_out.append((circuit.tag, f"stands by for {served}"))
            continue
        kept = profile_from(summary["restart"])
        if isinstance(kept, str):
            left_out.append((circuit.tag, kept))
            lacking += 1
            continue
        starters.append(starter_of(circuit.tag, kept[0], kept[1], facts.restart_at_s, ways[boards[circuit.tag]]))
    return Gathered(starters=tuple(starters), entries=tuple(entries), left_out=tuple(left_out), lacking=lacking,
                    planning=kept_rows.planning, dip_pu=job.limits.dip_pu,
                    limit_unread=next((one.message for one in wrong if one.path == "limits.dip"), ""))  # fmt: skip


def _boards_to(job: Job, said: str) -> list[str]:
    """The boards between the main one and a circuit whose board is so written; none where it is not known."""
    wiring, _ = read_facts(Wiring, {"board": said}, "wiring")
    return path_to(job, wiring.board) if wiring.board in job.boards else []
