"""Bring a database to the newest tables."""

from __future__ import annotations

from pathlib import Path

from playhouse.migrations import Runner

from vinegate.store.database import database

_DIRECTORY = Path(__file__).parent / "migrations"
_LOCK = "vinegate_migrate"
_LOCK_WAIT_S = 60


def migrate() -> list[str]:
    """Apply what is pending, one process at a time. Returns the names applied."""
    with database.connection_context():
        database.execute_sql("SELECT GET_LOCK(%s, %s)", (_LOCK, _LOCK_WAIT_S))
        try:
            return list(Runner(database.obj, str(_DIRECTORY)).up())
        finally:
            database.execute_sql("SELECT RELEASE_LOCK(%s)", (_LOCK,))
