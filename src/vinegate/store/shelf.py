"""A person's jobs together: find a circuit in any of them, take a job away and bring it back."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

from peewee import fn

from vinegate.store import jobs
from vinegate.store.accounts import now
from vinegate.store.database import transaction
from vinegate.store.jobs import Access, NotAMember, duplicate, note_trail
from vinegate.store.models import Capture, Circuit, Entry, Job, Membership, Revision, Role, Save, User

_MOST_FOUND: Final = 50
_LATELY: Final = 6
_LOOKED_BACK: Final = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A circuit whose tag or driven machine holds what was looked for."""

    job_id: int
    job: str
    tag: str
    driven: str


def find(user: User, text: str) -> list[Found]:
    """Circuits of this member's jobs by a part of their tag or of what they drive, whatever the letters' case."""
    driven = fn.COALESCE(fn.JSON_VALUE(Circuit.facts, "$.start.driven"), "")
    rows: Any = (
        Circuit.select(Circuit.tag, driven.alias("driven"), Job.id.alias("job_id"), Job.name.alias("job_name"))
        .join(Job)
        .join(Membership)
        .where(
            (Membership.user == user)
            & Job.deleted_at.is_null()
            & Circuit.deleted_at.is_null()
            & (Circuit.tag.contains(text) | driven.contains(text))
        )
        .order_by(Job.name, Circuit.tag)
        .limit(_MOST_FOUND)
    )
    return [Found(tag=row.tag, driven=row.driven, job_id=row.job_id, job=row.job_name) for row in rows.objects()]


def lately(user: User) -> list[Found]:
    """The circuits this member changed last, the last first: six at most, among their last 200 changes."""
    last = Save.select(Save.id, Save.circuit).where(Save.user == user).order_by(Save.id.desc()).limit(_LOOKED_BACK)
    newest = fn.MAX(last.c.id)
    rows: Any = (
        Circuit.select(Circuit.tag, Job.id.alias("job_id"), Job.name.alias("job_name"))
        .join(Job)
        .join(Membership)
        .join_from(Circuit, last, on=last.c.circuit_id == Circuit.id)
        .where((Membership.user == user) & Job.deleted_at.is_null() & Circuit.deleted_at.is_null())
        .group_by(Circuit.id, Job.id)
        .order_by(newest.desc())
        .limit(_LATELY)
    )
    return [Found(tag=row.tag, driven="", job_id=row.job_id, job=row.job_name) for row in rows.objects()]


def gone(user: User) -> list[Job]:
    """Jobs that were taken away and that this designer can bring back, the last taken first."""
    rows = Job.select().join(Membership).where((Membership.user == user) & (Membership.role == Role.DESIGNER.value))
    return list(rows.where(~Job.deleted_at.is_null()).order_by(Job.deleted_at.desc()))


@transaction
def take_away(access: Access) -> None:
    """The job leaves its members' lists, with all its circuits; nothing of it is lost."""
    Job.update(deleted_at=now()).where(Job.id == access.job.id).execute()
    note_trail(access.user, "job taken away", access.job.name, job=access.job)


@transaction
def bring_back(user: User, job_id: int) -> None:
    """As it was. Raises NotAMember where it is not gone, or not this designer's."""
    job = next((one for one in gone(user) if one.id == job_id), None)
    if job is None:
        raise NotAMember(job_id)
    Job.update(deleted_at=None).where(Job.id == job.id).execute()
    note_trail(user, "job brought back", job.name, job=job)


@transaction
def copy_into(access: Access, tags: list[str], into: Access) -> None:
    """Copies in another job, all or none. Raises TagTaken where it has one of the tags."""
    for tag in tags:
        duplicate(access, tag, tag, into)


class Bound(Exception):
    """Plans were issued of these circuits or measurements taken: both stay with their job. `str()` names them."""


@transaction
def move_into(access: Access, tags: list[str], into: Access) -> None:
    """Circuits leave this job for another, all or none. Raises TagTaken where that has one of the tags; Bound."""
    rows = Circuit.select().where((Circuit.job == access.job) & Circuit.tag.in_(tags) & Circuit.deleted_at.is_null())
    bound = [
        one.tag
        for one in rows.order_by(Circuit.id).for_update()
        if any(kind.select().where(kind.circuit == one).exists() for kind in (Revision, Entry, Capture))
    ]
    if bound:
        raise Bound(", ".join(bound))
    for tag in tags:
        duplicate(access, tag, tag, into)
    jobs.take_away(access, tags)
    note_trail(access.user, "moved to another job", f"{', '.join(tags)} to {into.job.name}"[:300], job=access.job)
