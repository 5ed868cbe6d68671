"""Who else has a circuit open, from the pages that say so every few seconds."""

from __future__ import annotations

from datetime import timedelta

from vinegate.store.accounts import now
from vinegate.store.database import transaction
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit, Presence, User

_HERE = timedelta(seconds=15)
"""A page that has said nothing for so long is taken as left: three of its calls missed."""
_FORGOTTEN = timedelta(minutes=1)


@transaction
def here(access: Access, circuit: Circuit, page: str) -> tuple[str, ...]:
    """Say that `page` is open on this circuit; the names of the others who have it open, each once."""
    at = now()
    Presence.insert(circuit=circuit, page=page, user=access.user, at=at).on_conflict_replace().execute()
    Presence.delete().where((Presence.circuit == circuit) & (Presence.at < at - _FORGOTTEN)).execute()
    rows = (
        Presence.select(Presence, User)
        .join(User)
        .where((Presence.circuit == circuit) & (Presence.user != access.user) & (Presence.at >= at - _HERE))
    )
    return tuple(sorted({row.user.name for row in rows}))


@transaction
def left(access: Access, circuit: Circuit, page: str) -> None:
    """The page was closed or is no longer looked at."""
    Presence.delete().where(
        (Presence.circuit == circuit) & (Presence.page == page) & (Presence.user == access.user)
    ).execute()
