"""PDFs of issued plans, each kept with the digest of the page it was written from: it holds while that is the same."""

from __future__ import annotations

from vinegate.store.database import transaction
from vinegate.store.models import Paper, Revision


def kept(revision: Revision, digest: str) -> bytes | None:
    """The PDF, where it was written from this very page."""
    row = Paper.get_or_none((Paper.revision == revision) & (Paper.digest == digest))
    return bytes(row.body) if row is not None else None


@transaction
def keep(revision: Revision, digest: str, body: bytes) -> None:
    """Keep it in place of what was written before a review, or by another version of the program."""
    Paper.insert(revision=revision, digest=digest, body=body).on_conflict_replace().execute()
