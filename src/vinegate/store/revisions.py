"""Issued revisions: a plan with its facts, kept for good."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

from peewee import IntegrityError, fn

from vinegate.store import chain
from vinegate.store.accounts import now
from vinegate.store.database import hold, transaction
from vinegate.store.jobs import Access, NotAMember, dumps, loads, note_trail
from vinegate.store.models import Circuit, Comment, Job, Review, Revision, Save, User, id_of, revision_letter
from vinegate.store.prepared import Prepared


class AlreadyIssued(ValueError):
    """This revision number exists: a repeated request, or another member was first."""


class ChangedMeanwhile(ValueError):
    """The draft is not the one that was seen; `str()` says who changed it."""


class NotYours(ValueError):
    """Who issued it does not accept it; nor does anyone while a question on it is open."""


@transaction
def issue(
    access: Access,
    circuit: Circuit,
    *,
    number: int,
    seen: tuple[int, int],
    facts: Mapping[str, Any],
    plan: Mapping[str, Any],
    program_version: str,
    note: str,
) -> Revision:
    """Keep a plan as revision `number`, the next one its writer saw, of the versions of job and circuit they saw.

    Raises AlreadyIssued, or ChangedMeanwhile: what is issued is what was looked at.
    """
    hold(Job, access.job.id)
    hold(Circuit, circuit.id)
    job = Job.select(Job.id, Job.version).where(Job.id == access.job.id).get()
    row = Circuit.select(Circuit.id, Circuit.version).where(Circuit.id == circuit.id).get()
    if number != next_number(circuit):
        raise AlreadyIssued(number)
    if (job.version, row.version) != seen:
        raise ChangedMeanwhile(_who(access, circuit))
    try:
        revision = Revision.create(
            circuit=circuit,
            number=number,
            rules=access.job.rules,
            facts=dumps(facts),
            plan=dumps(plan),
            program_version=program_version,
            note=note,
            issued_by=access.user,
            issued_at=now(),
        )
    except IntegrityError:
        raise AlreadyIssued(number) from None
    note_trail(access.user, "issued", f"revision {revision_letter(number)}", job=access.job, circuit=circuit)
    chain.seal(access.job.id)
    return revision


def _who(access: Access, circuit: Circuit) -> str:
    """Who wrote last of what this circuit rests on."""
    here = (Save.job == access.job) & (Save.of_job | (Save.circuit == circuit))
    last = Save.select(Save, User).join(User).where(here).order_by(Save.id.desc()).first()
    return last.user.name if last is not None else "someone"


def next_number(circuit: Circuit) -> int:
    newest = revisions(circuit)[:1]
    return newest[0].number + 1 if newest else 1


_FEW: Final = 12
_LIGHT: Final = [field for name, field in Revision._meta.fields.items() if name not in ("facts", "plan")]
_ISSUED: Final = Prepared[Revision](
    lambda circuit: (
        Revision.select(*_LIGHT, User).join(User).where(Revision.circuit == circuit).order_by(Revision.number.desc())
    )
)


def revisions(circuit: Circuit) -> list[Revision]:
    """Newest first, with who issued them; the plans themselves are left in the database."""
    return _ISSUED.rows(circuit.id)


def revision(circuit: Circuit, number: int) -> Revision:
    """One revision, whole. Raises NotAMember when there is none."""
    row = (
        Revision.select(Revision, User)
        .join(User)
        .where((Revision.circuit == circuit) & (Revision.number == number))
        .get_or_none()
    )
    if row is None:
        raise NotAMember(number)
    return row


def reviews(row: Revision) -> list[Review]:
    return list(Review.select(Review, User).join(User).where(Review.revision == row).order_by(Review.id))


@transaction
def review(access: Access, circuit: Circuit, row: Revision, *, accepted: bool, note: str) -> Review:
    """A reviewer's word beside a revision. Raises NotYours."""
    hold(Job, access.job.id)
    if accepted and id_of(row, "issued_by") == access.user.id:
        raise NotYours("Who issued a revision does not accept it: another reviewer does.")
    if accepted and Comment.select().where((Comment.revision == row) & Comment.closed_at.is_null()).exists():
        raise NotYours("A question on it is open: it is closed before the revision is accepted.")
    found = Review.create(revision=row, user=access.user, accepted=accepted, note=note, reviewed_at=now())
    word = "accepted" if accepted else "sent back"
    note_trail(access.user, word, f"revision {row.letter}", job=access.job, circuit=circuit)
    chain.seal(access.job.id)
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class State:
    """How a circuit's newest revision stands: draft, issued, accepted or sent back; `differs`: the draft since then."""

    word: str
    letter: str = ""
    by: str = ""
    differs: bool = False

    @property
    def stands(self) -> bool:
        """Whether one may set and wire by it."""
        return self.word == "accepted" and not self.differs

    @property
    def said(self) -> str:
        if self.word == "draft":
            return "Draft, not issued"
        text = f"Revision {self.letter} {self.word}" + (f" by {self.by}" if self.by else "")
        return f"{text}; the draft differs" if self.differs else text


def state_of(circuit: Circuit, job_facts: str, circuit_facts: str) -> State:
    """Of the newest revision, against the draft as it is kept."""
    return states([circuit], job_facts, {circuit.id: circuit_facts})[circuit.id]


def states(circuits: Sequence[Circuit], job_facts: str, facts: Mapping[int, str]) -> dict[int, State]:
    """Of many circuits of one job, in three queries."""
    if not circuits:
        return {}
    newest = Revision.select(fn.MAX(Revision.id)).group_by(Revision.circuit)
    if len(circuits) > _FEW:  # a number for each is longer to write than to look through the job's
        newest = newest.join(Circuit).where(Circuit.job == id_of(circuits[0], "job"))
    else:
        newest = newest.where(Revision.circuit.in_([one.id for one in circuits]))
    columns = (Revision.id, Revision.circuit, Revision.number, Revision.facts)
    rows = {id_of(row, "circuit"): row for row in Revision.select(*columns).where(Revision.id.in_(newest))}
    last: dict[int | None, Review] = {}
    said = Review.select(Review, User).join(User).where(Review.revision.in_([row.id for row in rows.values()]))
    for one in said.order_by(Review.id) if rows else ():
        last[id_of(one, "revision")] = one
    found = {}
    for circuit in circuits:
        row = rows.get(circuit.id)
        if row is None:
            found[circuit.id] = State(word="draft")
            continue
        differs = _differs(row.facts, job_facts, facts[circuit.id])
        word = last.get(row.id)
        found[circuit.id] = State(
            word="issued" if word is None else "accepted" if word.accepted else "sent back",
            letter=row.letter, by=word.user.name if word is not None else "", differs=differs,
        )  # fmt: skip
    return found


def _differs(kept: str, job_facts: str, circuit_facts: str) -> bool:
    """Texts first: they are nearly always the same where the facts are."""
    if kept == f'{{"job":{job_facts},"circuit":{circuit_facts}}}':
        return False
    return loads(kept) != {"job": loads(job_facts), "circuit": loads(circuit_facts)}


def standing(row: Revision) -> str:
    """How one revision stands: superseded by a later one, else its last review's word."""
    if Revision.select().where((Revision.circuit == id_of(row, "circuit")) & (Revision.number > row.number)).exists():
        return "superseded"
    word = Review.select().where(Review.revision == row).order_by(Review.id.desc()).first()
    return "issued" if word is None else "accepted" if word.accepted else "sent back"


def comments(row: Revision) -> list[Comment]:
    """Questions on a revision, as they were asked."""
    return list(
        Comment.select(Comment, User).join(User, on=Comment.user).where(Comment.revision == row).order_by(Comment.id)
    )


@transaction
def ask(access: Access, circuit: Circuit, row: Revision, subject: str, text: str) -> Comment:
    """A question on a figure or gate: before an acceptance, or after it, never beside it."""
    hold(Job, access.job.id)
    note_trail(access.user, "asked", f"revision {row.letter}: {subject}", job=access.job, circuit=circuit)
    return Comment.create(revision=row, subject=subject[:120], text=text[:1000], user=access.user, at=now())


@transaction
def settle(access: Access, circuit: Circuit, row: Revision, comment_id: int, *, answer: str, close: bool) -> None:
    """Answer a question; or close it, which is for who asked. Raises NotAMember, NotYours."""
    found = Comment.get_or_none((Comment.id == comment_id) & (Comment.revision == row))
    if found is None:
        raise NotAMember(comment_id)
    if close and id_of(found, "user") != access.user.id:
        raise NotYours("A question is closed by who asked it.")
    changes: dict[str, Any] = {"closed_at": now()} if close else {"answer": answer[:1000], "answered_by": access.user}
    Comment.update(changes).where(Comment.id == comment_id).execute()
    word = "closed" if close else "answered"
    note_trail(access.user, word, f"revision {row.letter}: {found.subject}", job=access.job, circuit=circuit)
