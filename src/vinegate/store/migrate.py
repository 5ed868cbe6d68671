"""Bring a database to the newest tables: one program at a time, over every node of a cluster."""

from __future__ import annotations

import secrets
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Final

from peewee import IntegrityError, OperationalError
from playhouse.migrations import Runner

from vinegate.store.database import database

_DIRECTORY: Final = Path(__file__).parent / "migrations"
_WAIT_S: Final = 300.0
_LOOK_S: Final = 0.2
_LEASE_S: Final = 20
_RENEW_S: Final = 5.0
_NO_TRIGGERS: Final = 1419
_MET: Final = 1213


class CannotMigrate(RuntimeError):
    """The tables cannot be brought to this program's; `str()` says why and what to do."""


def migrate() -> list[str]:
    """Apply what is pending. Returns the names applied. Raises CannotMigrate; then nothing was changed."""
    with database.connection_context():
        if not _pending():
            return []
        with _alone():
            if not _pending():
                return []  # another has done it meanwhile
            _may_make_triggers()
            return list(Runner(database.obj, str(_DIRECTORY)).up())


def _pending() -> list[str]:
    """Migrations not applied yet. A database that knows ones this program does not is a newer program's."""
    status = Runner(database.obj, str(_DIRECTORY)).status()
    unknown = [one.name for one in status if one.path is None]
    if unknown:
        raise CannotMigrate(
            f"the database was brought to tables of a newer Vine Gate ({unknown[-1]}): this older one does not touch "
            "it. Run the newer one, or restore a copy from before into an empty database"
        )
    return [one.name for one in status if not one.applied]


@contextmanager
def _alone() -> Iterator[None]:
    """A row whose holder alone goes on. It is held for some seconds and renewed: one that died is passed over.

    A named lock of the server would hold on one node of a cluster only.
    """
    mine = secrets.token_hex(8)
    columns = "id TINYINT PRIMARY KEY, holder CHAR(16) NOT NULL, until DATETIME(3) NOT NULL"
    database.execute_sql(f"CREATE TABLE IF NOT EXISTS migrating ({columns})")
    deadline = time.monotonic() + _WAIT_S
    while not _take(mine):
        if time.monotonic() > deadline:
            raise CannotMigrate("another program has been bringing the tables up to date for minutes: look at that one")
        time.sleep(_LOOK_S)
    done = threading.Event()
    renewing = threading.Thread(target=_renew, args=(mine, done), daemon=True)
    renewing.start()
    try:
        yield
    finally:
        done.set()
        renewing.join()
        database.execute_sql("DELETE FROM migrating WHERE holder = %s", (mine,))


def _take(mine: str) -> bool:
    until = "NOW(3) + INTERVAL %s SECOND"
    try:
        database.execute_sql(f"INSERT INTO migrating VALUES (1, %s, {until})", (mine, _LEASE_S))  # noqa: S608
    except IntegrityError:
        taken = f"UPDATE migrating SET holder = %s, until = {until} WHERE id = 1 AND until < NOW(3)"  # noqa: S608
        return bool(database.execute_sql(taken, (mine, _LEASE_S)).rowcount)
    except OperationalError as error:
        if error.args[0] != _MET:  # met another on another node
            raise
        return False
    return True


def _renew(mine: str, done: threading.Event) -> None:
    while not done.wait(_RENEW_S):
        with database.connection_context():
            database.execute_sql(
                "UPDATE migrating SET until = NOW(3) + INTERVAL %s SECOND WHERE holder = %s", (_LEASE_S, mine)
            )


def _may_make_triggers() -> None:
    """Tried on a table of no account before anything is made."""
    database.execute_sql("DROP TRIGGER IF EXISTS migrating_tried")
    try:
        database.execute_sql(
            "CREATE TRIGGER migrating_tried BEFORE DELETE ON migrating FOR EACH ROW SET @tried = OLD.holder"
        )
    except OperationalError as error:
        if error.args[0] != _NO_TRIGGERS:
            raise
        raise CannotMigrate(
            "the database account may not make triggers, which guard issued plans: start the server (every node of a "
            "cluster) with --log-bin-trust-function-creators=1"
        ) from None
    database.execute_sql("DROP TRIGGER migrating_tried")
