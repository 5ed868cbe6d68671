"""Jobs and their members. Everything else is reached through a job one is a member of."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from functools import cached_property
from secrets import token_hex
from typing import Any, Final

from peewee import IntegrityError, fn

from vinegate.core.facts import RuleSetName, typed_at
from vinegate.store.accounts import now
from vinegate.store.database import database, hold, transaction
from vinegate.store.models import Circuit, Job, Membership, Role, Trail, User
from vinegate.store.prepared import Prepared

Raw = dict[str, Any]


class NotAMember(LookupError):
    """The job does not exist, or this person is no member of it: the same answer to both."""


class TagTaken(ValueError):
    """The job has a circuit with this tag already."""


@dataclass(frozen=True, kw_only=True)
class Access:
    """A job as one member sees it. Its facts are read once."""

    job: Job
    user: User
    role: Role

    @property
    def rules(self) -> RuleSetName:
        return RuleSetName(self.job.rules)

    @cached_property
    def facts(self) -> Raw:
        return loads(self.job.facts)

    @property
    def may_edit(self) -> bool:
        return self.role is Role.DESIGNER

    @property
    def may_record(self) -> bool:
        """What was measured and seen where the motor stands."""
        return self.role in (Role.DESIGNER, Role.ELECTRICIAN)

    @property
    def may_review(self) -> bool:
        return self.role is Role.REVIEWER


def loads(text: str) -> Raw:
    """Facts from their stored text."""
    value: Raw = json.loads(text)
    return value


def dumps(value: Any) -> str:
    """Facts or a plan as stored text. Raises ValueError for a number JSON cannot hold."""
    return json.dumps(value, ensure_ascii=False, allow_nan=False, separators=(",", ":"))


def note_trail(user: User, action: str, detail: str, *, job: Job | None = None, circuit: Circuit | None = None) -> None:
    """One line in the trail."""
    Trail.create(user=user, action=action, detail=detail[:400], job=job, circuit=circuit, at=now())


@dataclass(frozen=True, slots=True)
class JobRow:
    """A job in the list of one member's jobs."""

    job: Any
    role: Role
    circuits: int


def jobs_of(user: User) -> list[JobRow]:
    """The jobs of this member, by name, with the number of circuits."""
    count = fn.COUNT(Circuit.id).alias("circuits")
    rows: Any = (
        Job.select(Job, Membership.role, count)
        .join(Membership)
        .switch(Job)
        .left_outer_join(Circuit, on=(Circuit.job == Job.id) & Circuit.deleted_at.is_null())
        .where((Membership.user == user) & Job.deleted_at.is_null())
        .group_by(Job.id, Membership.role)
        .order_by(Job.name)
    )
    return [JobRow(row, Role(row.role), row.circuits) for row in rows.objects()]


_OPENED: Final = Prepared[Membership](
    lambda user, job: (
        Membership.select(Membership, Job)
        .join(Job)
        .where((Membership.user == user) & (Membership.job == job) & Job.deleted_at.is_null())
    )
)


def open_job(user: User, job_id: int) -> Access:
    """The job for this member. Raises NotAMember, also where it was taken away."""
    row = _OPENED.first(user.id, job_id)
    if row is None:
        raise NotAMember(job_id)
    return Access(job=row.job, user=user, role=Role(row.role))


@transaction
def create_job(user: User, *, name: str, rules: RuleSetName, facts: Mapping[str, Any]) -> Job:
    """A new job with its maker as designer."""
    job = Job.create(name=name, rules=rules.value, facts=dumps(facts), created_at=now())
    Membership.create(job=job, user=user, role=Role.DESIGNER.value)
    note_trail(user, "job made", name, job=job)
    return job


@transaction
def create_whole(
    user: User,
    *,
    name: str,
    rules: RuleSetName,
    facts: Mapping[str, Any],
    circuits: Sequence[tuple[str, Mapping[str, Any]]],
) -> Job:
    """A job with its circuits, or nothing."""
    job = create_job(user, name=name, rules=rules, facts=facts)
    access = open_job(user, job.id)
    for tag, own in circuits:
        create_circuit(access, tag=tag, facts=own)
    return job


@transaction
def set_rules(access: Access, rules: RuleSetName) -> None:
    """Plan the job to another rule set. Facts stay as they are; every circuit is planned again."""
    if access.rules is rules:
        return
    Job.update(rules=rules.value, version=Job.version + 1).where(Job.id == access.job.id).execute()
    note_trail(access.user, "rule set", f"{access.rules.value} to {rules.value}", job=access.job)


class NotAllowed(ValueError):
    """The actor's role does not allow it by now, or the job would have no designer left; `str()` says which."""


def _still_designer(access: Access) -> None:
    """The job locked, the actor's role read again. Raises NotAllowed."""
    hold(Job, access.job.id)
    mine = Membership.get_or_none((Membership.job == access.job) & (Membership.user == access.user))
    if mine is None or mine.role != Role.DESIGNER:
        raise NotAllowed("You are no designer of this job any more.")


def _keeps_a_designer(access: Access) -> None:
    here = (Membership.job == access.job) & (Membership.role == Role.DESIGNER)
    if not Membership.select().join(User).where(here & User.active).exists():
        raise NotAllowed("A job keeps at least one designer.")


@transaction
def remove_member(access: Access, user: User) -> None:
    """A member leaves; what they did stays theirs. Raises NotAllowed."""
    _still_designer(access)
    Membership.delete().where((Membership.job == access.job) & (Membership.user == user)).execute()
    _keeps_a_designer(access)
    note_trail(access.user, "member removed", user.name, job=access.job)


@transaction
def set_member(access: Access, user: User, role: Role) -> None:
    """Add a member or change their role. Raises NotAllowed."""
    _still_designer(access)
    updated = Membership.update(role=role.value).where((Membership.job == access.job) & (Membership.user == user))
    exists = Membership.select().where((Membership.job == access.job) & (Membership.user == user)).exists()
    if exists:
        updated.execute()
    else:
        Membership.create(job=access.job, user=user, role=role.value)
    _keeps_a_designer(access)
    note_trail(access.user, "member", f"{user.name}: {role.value}", job=access.job)


def members(access: Access) -> list[Membership]:
    return list(Membership.select(Membership, User).join(User).where(Membership.job == access.job).order_by(User.name))


@transaction
def create_circuit(access: Access, *, tag: str, facts: Mapping[str, Any]) -> Circuit:
    """A new circuit. Raises TagTaken."""
    try:
        circuit = Circuit.create(job=access.job, tag=tag, facts=dumps(facts), updated_at=now())
    except IntegrityError:
        raise TagTaken(tag) from None
    note_trail(access.user, "circuit made", tag, job=access.job, circuit=circuit)
    return circuit


def circuits(access: Access) -> list[Circuit]:
    """The job's circuits by tag, without those taken away: one query."""
    return list(
        Circuit.select().where((Circuit.job == access.job) & Circuit.deleted_at.is_null()).order_by(Circuit.tag)
    )


def taken_away(access: Access) -> list[Circuit]:
    """Circuits that can be brought back, the last taken first."""
    rows = Circuit.select(Circuit.id, Circuit.tag, Circuit.deleted_at)
    return list(
        rows.where((Circuit.job == access.job) & ~Circuit.deleted_at.is_null()).order_by(Circuit.deleted_at.desc())
    )


@transaction
def take_away(access: Access, tags: Sequence[str]) -> None:
    """Circuits leave the job's lists; their drafts, issued plans and records are kept."""
    for circuit in _those(access, tags):
        Circuit.update(deleted_at=now()).where(Circuit.id == circuit.id).execute()
        note_trail(access.user, "circuit taken away", circuit.tag, job=access.job, circuit=circuit)


@transaction
def bring_back(access: Access, tag: str) -> None:
    """As it was. Raises NotAMember where none of that tag was taken away."""
    circuit = Circuit.get_or_none((Circuit.job == access.job) & (Circuit.tag == tag) & ~Circuit.deleted_at.is_null())
    if circuit is None:
        raise NotAMember(tag)
    Circuit.update(deleted_at=None).where(Circuit.id == circuit.id).execute()
    note_trail(access.user, "circuit brought back", tag, job=access.job, circuit=circuit)


@transaction
def rename(access: Access, tag: str, new: str) -> None:
    """Raises TagTaken."""
    circuit = circuit_by_tag(access, tag)
    try:
        Circuit.update(tag=new).where(Circuit.id == circuit.id).execute()
    except IntegrityError:
        raise TagTaken(new) from None
    note_trail(access.user, "circuit renamed", f"{tag} is now {new}", job=access.job, circuit=circuit)


@transaction
def duplicate(access: Access, tag: str, new: str, into: Access | None = None) -> Circuit:
    """The same facts under another tag, in this job or another; what was measured of the first stays with it."""
    from vinegate.core.record.facts import FORMS

    facts = {key: part for key, part in loads(circuit_by_tag(access, tag).facts).items() if key not in FORMS}
    return create_circuit(into or access, tag=new, facts=facts)


def _those(access: Access, tags: Sequence[str]) -> list[Circuit]:
    """Circuits by tag, locked. Raises NotAMember where one is not there."""
    rows = Circuit.select().where(
        (Circuit.job == access.job) & Circuit.tag.in_(list(tags)) & Circuit.deleted_at.is_null()
    )
    found = list(rows.order_by(Circuit.id).for_update())
    if len(found) != len(set(tags)):
        raise NotAMember(", ".join(sorted(set(tags) - {one.tag for one in found})))
    return found


@transaction
def bring_in(
    access: Access, rows: Sequence[tuple[str, Mapping[str, str]]], mapping: Mapping[str, str]
) -> tuple[int, int]:
    """All rows (tag, path to text) or none: new circuits made, known ones changed field by field. Counts of both."""
    hold(Job, access.job.id)
    job = Job.get_by_id(access.job.id)
    known = {one.tag.casefold(): one for one in circuits(access)}
    made = changed = 0
    for tag, fields in rows:
        circuit = known.get(tag.casefold())
        if circuit is None:
            facts: Raw = {}
            for path, text in fields.items():
                part, _, name = path.partition(".")
                facts.setdefault(part, {})[name] = text
            create_circuit(access, tag=tag, facts=facts)
            made += 1
        elif news := _news(loads(circuit.facts), fields):
            change(access, [circuit.tag], news)
            changed += 1
    job.mapping = dumps(dict(mapping))
    job.save(only=[Job.mapping])
    note_trail(access.user, "brought in", f"{made} circuits made, {changed} changed", job=access.job)
    return made, changed


def _news(facts: Raw, fields: Mapping[str, str]) -> dict[str, str]:
    """Of fields by their paths those that are not so yet."""
    return {path: text for path, text in fields.items() if typed_at(facts, path) != text}


@transaction
def change(access: Access, tags: Sequence[str], fields: Mapping[str, str]) -> None:
    """Set the same facts in several circuits, as their own saves would: journalled one by one."""
    from vinegate.store import drafts

    for circuit in _those(access, tags):
        facts = loads(circuit.facts)
        changes = {path: drafts.Change(was=typed_at(facts, path), now=text) for path, text in fields.items()}
        page = f"m-{circuit.id}-{now():%y%m%d%H%M%S}-{token_hex(4)}"
        drafts.save(
            access, circuit, changes, drafts.Writer(page=page[:40], sequence=1, seen_save=drafts.newest_save(access))
        )


_BY_TAG: Final = Prepared[Circuit](
    lambda job, tag: Circuit.select().where((Circuit.job == job) & (Circuit.tag == tag) & Circuit.deleted_at.is_null())
)


def circuit_by_tag(access: Access, tag: str) -> Circuit:
    """The circuit of that tag. Raises NotAMember when the job has none."""
    circuit = _BY_TAG.first(access.job.id, tag)
    if circuit is None:
        raise NotAMember(tag)
    return circuit


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """A circuit's summary as it is kept: the job's facts it was planned from, and a key that says when it holds."""

    circuit_id: int
    key: str
    reads: str
    summary: str


@transaction
def keep_summaries(rows: Sequence[Kept]) -> None:
    """Keep what the schedule shows of each circuit, so that it is not computed again."""
    for row in rows:
        kept = {"summary": row.summary, "summary_key": row.key, "summary_reads": row.reads}
        Circuit.update(kept).where(Circuit.id == row.circuit_id).execute()


_PLANS_LOCK: Final = "vinegate_plans_{}"


@contextmanager
def planning(job_id: int) -> Iterator[bool]:
    """Whether this process is the one that plans the job's circuits anew: one at a time over all of them."""
    name = _PLANS_LOCK.format(job_id)
    got = bool(database.execute_sql("SELECT GET_LOCK(%s, 0)", (name,)).fetchone()[0])
    try:
        yield got
    finally:
        if got:
            database.execute_sql("SELECT RELEASE_LOCK(%s)", (name,))


def trail(access: Access, most: int = 50) -> list[Trail]:
    """The newest lines of the job's trail."""
    return list(
        Trail.select(Trail, User, Circuit)
        .join(User)
        .switch(Trail)
        .left_outer_join(Circuit)
        .where(Trail.job == access.job)
        .order_by(Trail.id.desc())
        .limit(most)
    )
