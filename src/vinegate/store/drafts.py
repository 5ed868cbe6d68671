"""Drafts, kept as typed. Two writers: the second is told who wrote what, and loses nothing."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Final

from vinegate.core.facts import circuit_parts, model_of, said_roughly, typed_at
from vinegate.store.accounts import now
from vinegate.store.database import transaction
from vinegate.store.jobs import Access, Raw, dumps, loads
from vinegate.store.models import Circuit, Job, Save, User, id_of
from vinegate.store.prepared import Prepared

_SAVES_SEARCHED = 500
_MOST_TOLD = 100
"""Of what others saved meanwhile: a page that was left open for weeks is told the newest."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One field as its writer left it: what stood there when they began, and what they typed."""

    was: str
    now: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Writer:
    """Which page writes: its token, the number of this save on it, and the newest save it has seen."""

    page: str
    sequence: int
    seen_save: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Conflict:
    """A field that another wrote first. `mine` is not stored in the draft, but kept in the journal."""

    path: str
    was: str
    theirs: str
    mine: str
    by: str
    at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherSave:
    """What another member saved since this writer last looked."""

    by: str
    at: datetime
    paths: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Saved:
    """The draft after a save; `entry` is its line in the journal, None where it changed nothing."""

    job_facts: Raw
    circuit_facts: Raw
    job_version: int
    circuit_version: int
    conflicts: tuple[Conflict, ...]
    others: tuple[OtherSave, ...]
    entry: Save | None


_SHARED: Final[Any] = "LOCK IN SHARE MODE"
_JOB_SHARED: Final = Prepared[Job](lambda job: Job.select().where(Job.id == job).for_update(_SHARED))
_JOB_ALONE: Final = Prepared[Job](lambda job: Job.select().where(Job.id == job).for_update())
_CIRCUIT: Final = Prepared[Circuit](lambda circuit: Circuit.select().where(Circuit.id == circuit).for_update())


@transaction
def save(access: Access, circuit: Circuit, changes: Mapping[str, Change], writer: Writer) -> Saved:
    """Write changed fields (path to change) into the job's and the circuit's draft, field by field.

    A field still as its writer saw it takes the new text; one that another page has changed meanwhile is left
    alone and reported. Sending the same save twice changes nothing: a lost answer can be asked for again.
    """
    of_job = any(_owner(path) == "job" for path in changes)
    # Saves of circuits go side by side; one that changes the job's facts is alone.
    job_row = (_JOB_ALONE if of_job else _JOB_SHARED).one(access.job.id)
    circuit_row = _CIRCUIT.one(circuit.id)
    drafts = {"job": loads(job_row.facts), "circuit": loads(circuit_row.facts)}
    written: dict[str, dict[str, str]] = {"job": {}, "circuit": {}}
    refused: dict[str, Change] = {}
    for path, change in changes.items():
        owner = _owner(path)
        taken = _taken(access, circuit_row, typed_at(drafts[owner], path), path, change, writer)
        if taken is None:
            continue
        if taken:
            _put(drafts[owner], path, change.now)
            written[owner][path] = change.now
            if (origin := f"sources.{path}") not in changes and said_roughly(path, change.now):
                _drop(drafts[owner], origin, written[owner])
        else:
            refused[path] = change
    others = others_since(access, circuit_row, writer)
    conflicts = tuple(_conflict(access, circuit_row, drafts, path, change) for path, change in refused.items())
    _keep(job_row, circuit_row, drafts, written)
    entry = None
    if written["job"] or written["circuit"] or refused:
        entry = _journal(access, circuit_row, job_row, written, refused, writer)
    return Saved(
        job_facts=drafts["job"],
        circuit_facts=drafts["circuit"],
        job_version=job_row.version,
        circuit_version=circuit_row.version,
        conflicts=conflicts,
        others=others,
        entry=entry,
    )


_KEEP: Final = Prepared[Circuit](
    lambda facts, version, at, circuit: Circuit.update(facts=facts, version=version, updated_at=at).where(
        Circuit.id == circuit
    )
)


def _keep(job: Job, circuit: Circuit, drafts: Mapping[str, Raw], written: Mapping[str, Mapping[str, str]]) -> None:
    """Keep the drafts that something was written in, each as its next version."""
    if written["job"]:
        job.version += 1
        Job.update(facts=dumps(drafts["job"]), version=job.version).where(Job.id == job.id).execute()
    if written["circuit"]:
        circuit.version += 1
        _KEEP.execute(dumps(drafts["circuit"]), circuit.version, now(), circuit.id)


def _taken(access: Access, circuit: Circuit, current: str, path: str, change: Change, writer: Writer) -> bool | None:
    """Whether a field takes the new text, or another page was first; None where there is nothing to be done."""
    if current == change.now:
        return None
    if current == change.was:
        return True
    author = _author(access, circuit, path)
    if author is None or author.page != writer.page:
        return False
    if author.sequence < writer.sequence:
        return True
    # A late copy of an older save of the same page; or a second page with its token, as a duplicated tab has.
    return None if _sent_before(circuit, writer, path, change.now) else False


def _sent_before(circuit: Circuit, writer: Writer, path: str, text: str) -> bool:
    """Whether this very save of this page is in the journal: its text was kept, and overwritten since by its page."""
    rows = Save.select().where((Save.page == writer.page) & (Save.sequence == writer.sequence))
    return any(loads(row.changes).get(path, loads(row.set_aside).get(path)) == text for row in rows)


def newest_save(access: Access, circuit: Circuit | None = None) -> int:
    """The id of the newest save of this circuit or the job's facts, of any where none is given; 0 where there is none.

    Pages carry it as "seen". Saves of one circuit, and those of the job's facts, get their ids in the order in which
    they are kept: each waits for the one before. Those of different circuits do not.
    """
    rows = Save.select(Save.id).where(Save.job == access.job)
    if circuit is not None:
        rows = rows.where(_concerns(circuit))
    row = rows.order_by(Save.id.desc()).limit(1).get_or_none()
    return row.id if row else 0


def _concerns(circuit: Circuit) -> Any:
    """Saves of this circuit, and those that changed the job's facts."""
    return (Save.circuit == circuit) | Save.of_job


def last_save(circuit: Circuit) -> Save | None:
    """The newest save of this circuit, with its user."""
    return (
        Save.select(Save, User)
        .join(User)
        .where(Save.circuit == circuit)
        .order_by(Save.id.desc())
        .limit(1)
        .get_or_none()
    )


def _owner(path: str) -> str:
    stage = path.removeprefix("sources.").partition(".")[0]
    if model_of(stage) is None:
        raise KeyError(path)
    return "circuit" if stage in circuit_parts() else "job"


def _put(draft: Raw, path: str, text: str) -> None:
    stage, _, name = path.partition(".")
    fields = draft.setdefault(stage, {})
    if text:
        fields[name] = text
    else:
        fields.pop(name, None)


def _drop(draft: Raw, origin: str, written: dict[str, str]) -> None:
    """Take away the origin of a value in whose place one is written that is only about so: it was said of the other."""
    if typed_at(draft, origin):
        _put(draft, origin, "")
        written[origin] = ""


_SINCE: Final = Prepared[Save](
    lambda job, circuit, seen, page: (
        Save.select(Save, User)
        .join(User)
        .where((Save.job == job) & _concerns(circuit) & (Save.id > seen) & (Save.page != page))
        .order_by(Save.id.desc())
        .limit(_MOST_TOLD)
    )
)


def others_since(access: Access, circuit: Circuit, writer: Writer) -> tuple[OtherSave, ...]:
    """What other pages have saved of this circuit, or of its job's facts, since this page last looked: the newest."""
    rows = _SINCE.rows(access.job.id, circuit.id, writer.seen_save, writer.page)
    found = []
    for row in reversed(rows):
        mine = id_of(row, "circuit") == circuit.id
        paths = tuple(path for path in loads(row.changes) if mine or _owner(path) == "job")
        if paths:
            found.append(OtherSave(by=row.user.name, at=row.saved_at, paths=paths))
    return tuple(found)


def _author(access: Access, circuit: Circuit, path: str) -> Save | None:
    """The newest of the last saves that wrote this field."""
    rows = Save.select(Save, User).join(User).where(Save.job == access.job).order_by(Save.id.desc())
    rows = rows.where(Save.circuit == circuit if _owner(path) == "circuit" else Save.of_job)
    return next((row for row in rows.limit(_SAVES_SEARCHED) if path in loads(row.changes)), None)


def _conflict(access: Access, circuit: Circuit, drafts: dict[str, Raw], path: str, change: Change) -> Conflict:
    author = _author(access, circuit, path)
    return Conflict(
        path=path,
        was=change.was,
        theirs=typed_at(drafts[_owner(path)], path),
        mine=change.now,
        by=author.user.name if author else "another member",
        at=author.saved_at if author else None,
    )


_COLUMNS: Final = tuple(name for name in Save._meta.fields if name != "id")
_NOTED: Final = Prepared[Save](lambda *values: Save.insert(dict(zip(_COLUMNS, values, strict=True))))


def _journal(
    access: Access,
    circuit: Circuit,
    job: Job,
    written: dict[str, dict[str, str]],
    refused: Mapping[str, Change],
    writer: Writer,
) -> Save:
    line = Save(
        job=job,
        circuit=circuit,
        user=access.user,
        page=writer.page,
        sequence=writer.sequence,
        job_version=job.version,
        circuit_version=circuit.version,
        changes=dumps(written["job"] | written["circuit"]),
        set_aside=dumps({path: change.now for path, change in refused.items()}),
        saved_at=now(),
        of_job=any(_owner(path) == "job" for path in (*written["job"], *refused)),
    )
    line.id = _NOTED.execute(*(line.__data__[name] for name in _COLUMNS))
    return line


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One change of one fact: who, when, from what, to what."""

    path: str
    was: str
    now: str
    by: str
    at: datetime


def history(access: Access, circuit: Circuit, path: str = "") -> list[Step]:
    """Changes of this circuit's facts and of the job's, the newest first; of one path where it is given.

    Of the newest saves: what stood before the first of them is not told.
    """
    owned, found = set(circuit_parts()), []
    rows = Save.select(Save, User).join(User).where((Save.job == access.job) & _concerns(circuit))
    for row in rows.order_by(Save.id.desc()).limit(_SAVES_SEARCHED):
        for changed, text in loads(row.changes).items():
            mine = changed.removeprefix("sources.").partition(".")[0] in owned
            if (mine and id_of(row, "circuit") != circuit.id) or (path and changed != path):
                continue
            found.append((row, changed, text))
    steps: list[Step] = []
    before: dict[str, str] = {}
    for row, changed, text in reversed(found):
        steps.append(Step(path=changed, was=before.get(changed, ""), now=text, by=row.user.name, at=row.saved_at))
        before[changed] = text
    return steps[::-1]
