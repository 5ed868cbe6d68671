"""Asked once, however often it is sent: a key that a program makes up, with what was asked and what was answered."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from hashlib import sha256
from typing import Final

from peewee import IntegrityError

from vinegate.store.accounts import now
from vinegate.store.models import Asked

KEPT: Final = timedelta(days=7)
LONGEST: Final = 80
_WORKED_FOR: Final = timedelta(minutes=5)


class AnotherRequest(Exception):
    """The key was used for something else."""


class StillWorked(Exception):
    """The same request is being answered just now."""


@dataclass(frozen=True, slots=True)
class Answered:
    """What was answered before."""

    status: int
    body: str


def begin(token: int, word: str, asked: bytes) -> Answered | None:
    """The answer of before; None where this is the first time, which is then noted. Raises what is above.

    What a process left behind half done is taken up again after some minutes.
    """
    Asked.delete().where(Asked.at < now() - KEPT).execute()
    digest = sha256(asked).hexdigest()
    try:
        Asked.create(token=token, word=word, digest=digest, status=0, body="", at=now())
    except IntegrityError:
        row = Asked.get((Asked.token == token) & (Asked.word == word))
        if row.digest != digest:
            raise AnotherRequest(word) from None
        if row.status:
            return Answered(row.status, row.body)
        taken = Asked.update(at=now()).where((Asked.id == row.id) & (Asked.at < now() - _WORKED_FOR)).execute()
        if not taken:
            raise StillWorked(word) from None
    return None


def end(token: int, word: str, status: int, body: str) -> None:
    """Keep the answer; one that is no answer yet (the server's own fault) leaves the key free."""
    mine = (Asked.token == token) & (Asked.word == word)
    if status >= 500:
        Asked.delete().where(mine).execute()
    else:
        Asked.update(status=status, body=body).where(mine).execute()
