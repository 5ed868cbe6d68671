"""What is wrong with this installation, in words."""

from __future__ import annotations

import shutil
import sys
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Final

_LEAST_FREE: Final = 1_000_000_000
_GUARDED: Final = ("revision", "entry", "photo", "save", "trail", "review", "link")
_ASKED: Final = "'version', 'innodb_flush_log_at_trx_commit', 'max_allowed_packet'"


@dataclass(frozen=True, slots=True)
class Found:
    well: bool
    text: str


Look = Callable[[Path, Mapping[str, str]], Iterator[Found]]


def examined(data: Path, environment: Mapping[str, str]) -> list[Found]:
    """Everything that can be looked at without changing anything."""
    return [one for look in (_program, _place, _secret, _database) for one in _safely(look, data, environment)]


def _safely(look: Look, data: Path, environment: Mapping[str, str]) -> list[Found]:
    found: list[Found] = []
    try:
        found += look(data, environment)
    except Exception as error:  # what breaks the look is itself a finding
        found.append(Found(False, f"{type(error).__name__}: {error}"))
    return found


def _program(data: Path, environment: Mapping[str, str]) -> Iterator[Found]:
    from vinegate import __version__

    python = sys.version.split()[0]
    yield Found(sys.version_info >= (3, 11), f"Vine Gate {__version__} on Python {python}; 3.11 is asked")
    yield Found(_typesets(), "a page is typeset as PDF")


def _typesets() -> bool:
    from vinegate.typeset.press import NotWritten, pressed

    try:
        return pressed("<p>1</p>", lambda: False)[:4] == b"%PDF"
    except (NotWritten, OSError):
        return False


def _place(data: Path, environment: Mapping[str, str]) -> Iterator[Found]:
    if not data.is_dir():
        yield Found(False, f"{data} is no directory: nothing was served from it yet")
        return
    free = shutil.disk_usage(data).free
    yield Found(free > _LEAST_FREE, f"{free // 1_000_000} MB free where {data} is; 1000 are asked")


def _secret(data: Path, environment: Mapping[str, str]) -> Iterator[Found]:
    given, path = environment.get("VINEGATE_SECRET_KEY"), data / "secret"
    if given:
        yield Found(len(given) >= 32, "VINEGATE_SECRET_KEY has 32 characters or more")
    elif path.exists():
        yield Found(path.stat().st_mode & 0o077 == 0, f"{path} is readable by its owner alone")


def _database(data: Path, environment: Mapping[str, str]) -> Iterator[Found]:
    from vinegate.store.database import connect_to, database
    from vinegate.store.instance import Instance

    url = environment.get("VINEGATE_DATABASE_URL")
    if url:
        yield Found("ca=" in url or "socket=" in url, "the connection is encrypted, or local")
    else:
        instance = Instance((data / "mariadb").resolve())
        runs = instance.running_pid() is not None
        yield Found(runs, "the private database runs")
        if instance.datadir.exists():
            owner = instance.datadir.owner()
            yield Found(owner != "nobody", f"the database's files belong to {owner}; never to nobody")
        if not runs:
            return
        url = instance.url()
    connect_to(url)
    with database.connection_context():
        rows = dict(database.execute_sql(f"SHOW VARIABLES WHERE Variable_name IN ({_ASKED})").fetchall())
        yield Found(True, f"MariaDB {rows['version']} answers")
        yield Found(rows["innodb_flush_log_at_trx_commit"] == "1", "what is acknowledged is on disk (flush at commit)")
        yield Found(int(rows["max_allowed_packet"]) >= 16_000_000, "captures and issued plans fit a packet (16 MB)")
        yield from _cluster(len(database.obj.hosts.hosts))
        there = {row[0] for row in database.execute_sql("SHOW TRIGGERS").fetchall()}
        wanted = {f"{table}_keeps_{event}" for table in _GUARDED for event in ("update", "delete")}
        lacking = ", ".join(sorted(wanted - there))
        yield Found(
            not lacking, f"issued plans, entries and journals are guarded{f'; missing: {lacking}' if lacking else ''}"
        )


def _cluster(hosts: int) -> Iterator[Found]:
    """Where the server is a node of one: that it may write, that no node is missing, that another can be asked."""
    from vinegate.store.database import database

    state = dict(database.execute_sql("SHOW STATUS LIKE 'wsrep%%'").fetchall())
    if state.get("wsrep_connected") != "ON":
        return
    nodes = len([one for one in state.get("wsrep_incoming_addresses", "").split(",") if one])
    yield Found(state.get("wsrep_ready") == "ON", f"this node of the cluster may write; it sees {nodes}")
    yield Found(nodes >= 3, "three nodes or more: with two, one that falls stops both")
    yield Found(hosts > 1, "VINEGATE_DATABASE_URL names several nodes, so that another is asked when one falls")
