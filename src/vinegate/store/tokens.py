"""Tokens for a person's programs: shown once, kept as a digest, for reading or for writing too, until a day."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from hashlib import sha256
from secrets import token_urlsafe

from vinegate.store.accounts import now
from vinegate.store.database import transaction
from vinegate.store.jobs import note_trail
from vinegate.store.models import Token, User

MOST_DAYS = 366
_PREFIX = "vg_"


@dataclass(frozen=True, slots=True)
class Bearer:
    """Who a token stands for, and whether it may write."""

    user: User
    writes: bool
    token: int = 0
    """Its row's number."""


@transaction
def make(user: User, *, name: str, days: int, writes: bool) -> str:
    """A new token; this is the only time it is shown. `days` from 1 to 366."""
    text = _PREFIX + token_urlsafe(32)
    ends = now() + timedelta(days=min(max(days, 1), MOST_DAYS))
    Token.create(user=user, name=name[:80], digest=_digest(text), writes=writes, created_at=now(), ends_at=ends)
    note_trail(user, "token made", name[:80])
    return text


def bearer(text: str) -> Bearer | None:
    """Whose it is, while it holds; None else."""
    if not text.startswith(_PREFIX) or len(text) > 100:
        return None
    row = (
        Token.select(Token, User)
        .join(User)
        .where((Token.digest == _digest(text)) & Token.revoked_at.is_null() & (Token.ends_at > now()) & User.active)
        .first()
    )
    return Bearer(row.user, bool(row.writes), row.id) if row is not None else None


def tokens(user: User) -> list[Token]:
    """Those that hold, the newest first."""
    rows = Token.select().where((Token.user == user) & Token.revoked_at.is_null() & (Token.ends_at > now()))
    return list(rows.order_by(Token.id.desc()))


@transaction
def revoke(user: User, number: int) -> None:
    """At once. Someone else's is left alone."""
    Token.update(revoked_at=now()).where((Token.id == number) & (Token.user == user)).execute()
    note_trail(user, "token revoked", str(number))


def _digest(text: str) -> str:
    return sha256(text.encode()).hexdigest()
