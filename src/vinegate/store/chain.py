"""Revisions, reviews, entries and trail as one chain each job: a change behind the application's back is seen.

Each link is the digest of what it holds and of the link before it. The chain is worked from the rows; its last link is
kept with each backup and can be written down elsewhere. Triggers keep rows from being changed by the application's own
account; the chain shows what was changed around them.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from hashlib import sha256
from typing import Any, Final

from peewee import fn

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


def _rows(job_id: int, after: Mapping[str, int]) -> Iterator[tuple[str, Any]]:
    """A job's rows that never change, kind by kind, in their order; of each kind those behind `after`."""
    mine = Circuit.select(Circuit.id).where(Circuit.job == job_id)
    issued = Revision.select(Revision.id).where(Revision.circuit.in_(mine))
    kinds = (
        ("revision", Revision, Revision.circuit.in_(mine)),
        ("review", Review, Review.revision.in_(issued)),
        ("entry", Entry, Entry.circuit.in_(mine)),
        ("trail", Trail, Trail.job == job_id),
    )
    for kind, table, here in kinds:
        for row in table.select().where(here & (table.id > after.get(kind, 0))).order_by(table.id).iterator():
            yield kind, row


def seal(job_id: int) -> int:
    """Bind the rows that are not bound yet, each kind behind its last link. Returns how many; one at a time a job."""
    Job.select(Job.id).where(Job.id == job_id).for_update().get()
    ends = Link.select(Link.kind, fn.MAX(Link.row)).where(Link.job == job_id).group_by(Link.kind)
    bound: dict[str, int] = dict(list(ends.tuples()))  # type: ignore[arg-type]
    last = Link.select().where(Link.job == job_id).order_by(Link.id.desc()).first()
    before, count = (last.digest if last else _START), 0
    for kind, row in list(_rows(job_id, bound)):
        before = sha256(f"{before}\x1e{_content(kind, row)}".encode()).hexdigest()
        Link.create(job=job_id, kind=kind, row=row.id, digest=before)
        count += 1
    return count


def verify(job_id: int) -> list[Broken]:
    """Every link worked again from its row."""
    rows = {(kind, row.id): row for kind, row in _rows(job_id, {})}
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
