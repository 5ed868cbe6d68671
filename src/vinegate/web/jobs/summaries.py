"""The rows kept with a job's circuits: planned again where a fact they rest on has changed, a few on the way, the rest
beside the server.
"""

from __future__ import annotations

import json
import logging
import os
import time
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from queue import Empty, SimpleQueue
from threading import Event, Lock, Semaphore, Thread
from typing import Any, Final

from flask import current_app

from vinegate.core.facts import RuleSetName
from vinegate.core.summary import holds_for, row_of, unplanned, waiting
from vinegate.standby import standby
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.store.jobs import Access, Kept, Raw
from vinegate.store.models import Circuit
from vinegate.web.jobs.planned_by import planned_by

_ON_THE_WAY_S: Final = 0.12
_AHEAD: Final = 6
"""Circuits that a process may have waiting: never idle, and little left to it alone at the end."""
_ON_PAPER_S, _LOOKS_S = 20.0, 0.1
_REMEMBERED: Final = 1200
BESIDE: Final = "plans beside the server"
_log = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True, kw_only=True)
class Rows:
    """Each circuit of a job with its row, to be read only; `planning` counts those that are being planned, whose
    circuits have no summary.
    """

    rows: list[tuple[Circuit, dict[str, Any]]]
    planning: int = 0


def rows_on_paper(access: Access) -> Rows:
    """The rows for what is printed and carried away: waited for until all are planned, so long as one would wait."""
    ends = time.monotonic() + _ON_PAPER_S
    while (found := rows_of(access, within_s=_ON_PAPER_S)).planning and time.monotonic() < ends:
        time.sleep(_LOOKS_S)
    return found


def rows_of(access: Access, *, within_s: float | None = None) -> Rows:
    """The rows of a job's circuits. What is not planned in a moment is planned beside the server meanwhile."""
    marks = _Marks(access)
    circuits = jobs.circuits(access)
    found = {one.id: one.summary for one in circuits if one.summary and marks.holds(one)}
    stale = [one for one in circuits if one.id not in found]
    made = [] if beside.busy(access.job.id) else _on_the_way(access, stale, within_s or _ON_THE_WAY_S)
    if made:
        jobs.keep_summaries(made)
    found |= {row.circuit_id: row.summary for row in made}
    left = [one for one in stale if one.id not in found]
    if left:
        beside.plan(access, left)
    rows = []
    for one in circuits:
        one.summary = found.get(one.id)
        rows.append((one, _waiting(one) if one.summary is None else _read(one.summary)))
    return Rows(rows=rows, planning=len(left))


@lru_cache(maxsize=_REMEMBERED)
def _read(summary: str) -> dict[str, Any]:
    """Read once while it stays the same: whoever asks has the same one, to be read only."""
    return jobs.loads(summary)


def _waiting(circuit: Circuit) -> dict[str, Any]:
    """The row of a circuit that is being planned: what it drives is known."""
    return waiting() | {"driven": str((jobs.loads(circuit.facts).get("start") or {}).get("driven") or "")}


class _Marks:
    """Whether kept rows hold, each set of facts marked once: most circuits of a job read the same."""

    def __init__(self, access: Access) -> None:
        self._access, self._known = access, dict[str, str]()

    def holds(self, circuit: Circuit) -> bool:
        reads = circuit.summary_reads
        if reads is None:
            return False
        if reads not in self._known:
            self._known[reads] = holds_for(json.loads(reads), self._access.facts, self._access.rules)
        return bool(circuit.summary_key == _key(self._access.rules, circuit.version, self._known[reads]))


def _key(rules: RuleSetName, version: int, mark: str) -> str:
    return f"{planned_by()}:{rules.value}:{version}:{mark}"


def _kept(rules: RuleSetName, job: Raw, circuit: tuple[int, int], summary: Raw, reads: list[str]) -> Kept:
    """A row to keep; `circuit` is its id and the version of its facts."""
    key = _key(rules, circuit[1], holds_for(reads, job, rules))
    return Kept(circuit_id=circuit[0], key=key, reads=jobs.dumps(reads), summary=jobs.dumps(summary))


def _on_the_way(access: Access, stale: Iterable[Circuit], within_s: float) -> list[Kept]:
    """As many as are planned in a moment, the first at least; all of them where nothing may run beside the server."""
    beside_too = current_app.config["VINEGATE"].beside
    ends, made = time.monotonic() + within_s, list[Kept]()
    for circuit in stale:
        if beside_too and made and time.monotonic() > ends:
            break
        try:
            summary, reads = row_of(access.rules, access.facts, jobs.loads(circuit.facts))
        except Exception:
            _log.exception("circuit %s of job %s could not be planned", circuit.tag, access.job.id)
            summary, reads = unplanned(), []
        made.append(_kept(access.rules, access.facts, (circuit.id, circuit.version), summary, reads))
    return made


@dataclass(frozen=True, slots=True, kw_only=True)
class _Task:
    circuit_id: int
    version: int
    facts: str


class Beside:
    """Plans rows in processes of their own, one for each core, while the pages go on. One run a job at a time."""

    def __init__(self) -> None:
        self._lock, self._busy = Lock(), set[int]()

    def busy(self, job_id: int) -> bool:
        """Whether a run of this job is under way."""
        with self._lock:
            return job_id in self._busy

    def plan(self, access: Access, circuits: Sequence[Circuit]) -> None:
        """Begin, unless a run of this job is under way."""
        job_id = access.job.id
        with self._lock:
            if job_id in self._busy:
                return
            self._busy.add(job_id)
        tasks = [_Task(circuit_id=one.id, version=one.version, facts=one.facts) for one in circuits]
        args = (job_id, access.rules, access.facts, tasks)
        Thread(target=self._run, args=args, name=BESIDE, daemon=True).start()

    def _run(self, job_id: int, rules: RuleSetName, job: Raw, tasks: list[_Task]) -> None:
        try:
            with database.connection_context(), jobs.planning(job_id) as ours:
                if ours:
                    _in_processes(rules, job, tasks)
        except Exception:
            _log.exception("the circuits of job %s could not be planned beside the server", job_id)
        finally:
            with self._lock:
                self._busy.discard(job_id)


beside = Beside()


def _in_processes(rules: RuleSetName, job: Raw, tasks: Sequence[_Task]) -> None:
    """Each core takes the next that is left; rows are kept as they come, some at a time."""
    count = min(os.cpu_count() or 1, len(tasks))
    left = SimpleQueue[_Task]()
    for task in tasks:
        left.put(task)
    versions = {task.circuit_id: task.version for task in tasks}
    made, lock = list[Kept](), Lock()

    def take(line: str) -> None:
        answer = json.loads(line)
        circuit = (answer["id"], versions[answer["id"]])
        with lock:
            made.append(_kept(rules, job, circuit, answer["summary"], answer["reads"]))

    shares = [Thread(target=_share, args=(rules, job, left, take), daemon=True) for _ in range(count)]
    for share in shares:
        share.start()
    while any(share.is_alive() for share in shares) or made:
        for share in shares:
            share.join(0.2 / count)
        with lock:
            ready = made[:]
            made.clear()
        if ready:
            jobs.keep_summaries(ready)


def _share(rules: RuleSetName, job: Raw, left: SimpleQueue[_Task], take: Any) -> None:
    """One process, fed what is left; it ends with its input."""
    with standby.planner() as (tell, told):
        room, over = Semaphore(_AHEAD), Event()
        feeding = Thread(target=_feed, args=(tell, rules, job, left, room, over), daemon=True)
        feeding.start()
        for line in told:
            take(line)
            room.release()
        over.set()  # where it ended early, what feeds it ends too
        room.release()
        feeding.join()


def _feed(into: Any, rules: RuleSetName, job: Raw, left: SimpleQueue[_Task], room: Semaphore, over: Event) -> None:
    """No further ahead than `room` lets it: the rest stays for whoever is free."""
    try:
        with into:
            into.write(json.dumps({"rules": rules.value, "job": job}) + "\n")
            while room.acquire() and not over.is_set():
                task = left.get_nowait()
                into.write(f'{{"id": {task.circuit_id}, "facts": {task.facts}}}\n')
                into.flush()
    except Empty:
        return
    except BrokenPipeError:
        _log.warning("a process that plans rows ended early; what is left is planned at the next look")
