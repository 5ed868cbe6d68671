"""Issued revisions: a plan with its facts, kept for good."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from peewee import IntegrityError

from vinegate.store.accounts import now
from vinegate.store.database import transaction
from vinegate.store.jobs import Access, NotAMember, dumps, note_trail
from vinegate.store.models import Circuit, Review, Revision, User, revision_letter


class AlreadyIssued(ValueError):
    """This revision number exists: a repeated request, or another member was first."""


@transaction
def issue(
    access: Access,
    circuit: Circuit,
    *,
    number: int,
    facts: Mapping[str, Any],
    plan: Mapping[str, Any],
    program_version: str,
    note: str,
) -> Revision:
    """Keep a plan as revision `number`, the next one its writer saw. Raises AlreadyIssued."""
    Circuit.select().where(Circuit.id == circuit.id).for_update().get()
    if number != next_number(circuit):
        raise AlreadyIssued(number)
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
    return revision


def next_number(circuit: Circuit) -> int:
    newest = revisions(circuit)[:1]
    return newest[0].number + 1 if newest else 1


def revisions(circuit: Circuit) -> list[Revision]:
    """Newest first, with who issued them; the plans themselves are left in the database."""
    columns = [field for name, field in Revision._meta.fields.items() if name not in ("facts", "plan")]
    return list(
        Revision.select(*columns, User).join(User).where(Revision.circuit == circuit).order_by(Revision.number.desc())
    )


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
    """A reviewer's word beside a revision."""
    found = Review.create(revision=row, user=access.user, accepted=accepted, note=note, reviewed_at=now())
    word = "accepted" if accepted else "sent back"
    note_trail(access.user, word, f"revision {row.letter}", job=access.job, circuit=circuit)
    return found
