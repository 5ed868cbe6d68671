"""All that is kept of one person: what they are called, where they are members, and what they did."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Final

from peewee import ForeignKeyField

from vinegate.store.backup import plain
from vinegate.store.models import TABLES, User

_NEVER: Final = frozenset({"password_hash", "digest", "body", "jpeg"})
"""Secrets, and bytes that are a job's and not the person's: they stay."""


def of_person(login: str) -> dict[str, Any] | None:
    """Tables to rows, by ids; None where there is no such person."""
    user = User.get_or_none(User.login == login)
    if user is None:
        return None
    found: dict[str, Any] = {"user": [_told(user)]}
    for table in TABLES:
        rows = [_told(row) for row in _rows(table, user)]
        if rows:
            found[table._meta.table_name] = rows
    return found


def _rows(table: Any, user: User) -> Iterator[Any]:
    """Of a table every row that names the person."""
    fields = [one for one in table._meta.sorted_fields if isinstance(one, ForeignKeyField) and one.rel_model is User]
    seen: set[int] = set()
    for one in fields:
        for row in table.select().where(one == user).order_by(table._meta.primary_key):
            if row.id not in seen:
                seen.add(row.id)
                yield row


def _told(row: Any) -> dict[str, Any]:
    return {name: value for name, value in plain(row.__data__).items() if name not in _NEVER}
