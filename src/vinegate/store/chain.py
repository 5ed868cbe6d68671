"""Revisions, reviews, entries and trail as one chain each job: a change behind the application's back is seen.

Each link is the digest of what it holds and of the link before it. The chain is worked from the rows; its last link is
kept with each backup and can be written down elsewhere. Triggers keep rows from being changed by the application's own
account; the chain shows what was changed around them.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from hashlib import sha256
from typing import Any, Final

from vinegate.store.database import hold
from vinegate.store.models import Circuit, Entry, Job, Link, Review, Revision, Trail

_START: Final = "0" * 64


@dataclass(frozen=True, slots=True, kw_only=True)
class Broken:
    """Where the chain does not hold: which kind of row, its id, what is wrong."""

    kind: str
    row: int
    text: str


def _content(kind: str, row: Any) -> str:
    """What of a row is bound: everything but what may change by right."""
    values = {name: str(value) for name, value in sorted(row.__data__.items())}
    return f"{kind}:" + "\x1f".join(f"{name}={value}" for name, value in values.items())


def _rows(job_id: int, *, free: bool = False) -> Iterator[tuple[str, Any]]:
    """A job's rows that never change, kind by kind, in their order; with `free` those that no link binds yet.

    Not those behind the last bound: an id that was given out earlier may be kept later.
    """
    mine = Circuit.select(Circuit.id).where(Circuit.job == job_id)
    issued = Revision.select(Revision.id).where(Revision.circuit.in_(mine))
    kinds = (
        ("revision", Revision, Revision.circuit.in_(mine)),
        ("review", Review, Review.revision.in_(issued)),
        ("entry", Entry, Entry.circuit.in_(mine)),
        ("trail", Trail, Trail.job == job_id),
    )
    for kind, table, here in kinds:
        rows = table.select().where(here).order_by(table.id)
        if free:
            rows = rows.where(table.id.not_in(Link.select(Link.row).where((Link.job == job_id) & (Link.kind == kind))))
        for row in rows.iterator():
            yield kind, row


def seal(job_id: int) -> int:
    """Bind the rows that are not bound yet. Returns how many; one at a time a job.

    The transaction holds the job before it reads anything: what it reads later is as it was at its first reading.
    """
    hold(Job, job_id)
    last = Link.select().where(Link.job == job_id).order_by(Link.id.desc()).first()
    before, count = (last.digest if last else _START), 0
    for kind, row in list(_rows(job_id, free=True)):
        before = sha256(f"{before}\x1e{_content(kind, row)}".encode()).hexdigest()
        Link.create(job=job_id, kind=kind, row=row.id, digest=before)
        count += 1
    return count


def verify(job_id: int) -> list[Broken]:
    """Every link worked again from its row."""
    rows = {(kind, row.id): row for kind, row in _rows(job_id)}
    before, found = _START, []
    for link in Link.select().where(Link.job == job_id).order_by(Link.id):
        row = rows.pop((link.kind, link.row), None)
        if row is None:
            found.append(Broken(kind=link.kind, row=link.row, text="it is gone"))
            before = link.digest
            continue
        digest = sha256(f"{before}\x1e{_content(link.kind, row)}".encode()).hexdigest()
        if digest != link.digest:
            found.append(Broken(kind=link.kind, row=link.row, text="it was changed after it was bound"))
        before = link.digest
    return found


def last_link(job_id: int) -> str:
    """The end of a job's chain; noughts where nothing is bound."""
    row = Link.select(Link.digest).where(Link.job == job_id).order_by(Link.id.desc()).first()
    return row.digest if row else _START
