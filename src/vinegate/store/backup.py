"""A copy of everything, whole and checked: tables as JSON lines in one packed file, read in one transaction.

A copy holds for the version of the tables it was made with; it is brought back into an empty database of that version,
which is then brought up to date.
"""

from __future__ import annotations

import base64
import gzip
import hashlib
import io
import json
import os
from collections.abc import Iterator, Mapping
from contextlib import ExitStack, contextmanager
from datetime import datetime
from pathlib import Path
from typing import Any, BinaryIO, Final

from peewee import Model

from vinegate import __version__
from vinegate.store import chain
from vinegate.store.accounts import now
from vinegate.store.database import database
from vinegate.store.models import TABLES, Job
from vinegate.store.sealed import MAGIC, CannotOpen, Opening, Sealing

FORMAT: Final = "vinegate-backup/1"
_PASSING: Final = {"attempt", "presence", "asked", "paper"}
_ROWS: Final = 200


class BadBackup(ValueError):
    """The file is no whole backup, or does not fit; `str()` says why."""


def write(path: Path, word: str = "") -> dict[str, Any]:
    """Write a backup, sealed where there is a word; read it back and check it before it takes the name. Its head."""
    fresh = path.with_name(f".{path.name}.new")
    counts: dict[str, int] = {}
    digest = hashlib.sha256()
    handle = os.open(fresh, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
    with os.fdopen(handle, "wb") as raw, _packed(raw, word) as out, database.atomic():
        head: dict[str, Any] = {"format": FORMAT, "program": __version__, "at": f"{now():%Y-%m-%d %H:%M:%S}"}
        head["migrations"] = _migrations()
        head["chains"] = {str(job.id): chain.last_link(job.id) for job in Job.select(Job.id)}
        _line(out, digest, head)
        for table in _tables():
            name = table._meta.table_name
            counts[name] = 0
            for row in _all(table):
                _line(out, digest, {"table": name, "row": plain(row)})
                counts[name] += 1
        _line(out, None, {"end": counts, "sha256": digest.hexdigest()})
    check(fresh, word)
    fresh.replace(path)
    return head | {"rows": counts}


@contextmanager
def _packed(raw: BinaryIO, word: str) -> Iterator[gzip.GzipFile]:
    """Pressed, then sealed."""
    with ExitStack() as stack:
        into: Any = stack.enter_context(Sealing(raw, word)) if word else raw
        yield stack.enter_context(gzip.GzipFile(fileobj=into, mode="wb", mtime=0))


@contextmanager
def _unpacked(path: Path, word: str) -> Iterator[gzip.GzipFile]:
    """Raises BadBackup where it is sealed and there is no word."""
    with path.open("rb") as raw:
        sealed = raw.read(len(MAGIC)) == MAGIC
        if sealed and not word:
            raise BadBackup(f"{path.name} is encrypted: its word is asked")
        if not sealed:
            raw.seek(0)
        source: Any = io.BufferedReader(Opening(raw, word)) if sealed else raw
        with gzip.GzipFile(fileobj=source, mode="rb") as lines:
            yield lines


def _tables() -> tuple[type[Model], ...]:
    return tuple(table for table in TABLES if table._meta.table_name not in _PASSING)


def _all(table: Any) -> Iterator[Mapping[str, Any]]:
    """Row by row, by ids, so that a large table is never held whole."""
    last = 0
    while True:
        rows = list(table.select().where(table.id > last).order_by(table.id).limit(_ROWS))
        if not rows:
            return
        yield from (row.__data__ for row in rows)
        last = rows[-1].id


def _migrations() -> list[str]:
    return [str(row[0]) for row in database.execute_sql("SELECT name FROM schema_migration ORDER BY name").fetchall()]


def plain(row: Mapping[str, Any]) -> dict[str, Any]:
    """A row's values as JSON takes them: moments and bytes say what they are."""
    found = {}
    for name, value in row.items():
        if isinstance(value, datetime):
            found[name] = {"at": value.isoformat(" ")}
        elif isinstance(value, bytes | memoryview):
            found[name] = {"bytes": base64.b64encode(bytes(value)).decode()}
        else:
            found[name] = value
    return found


def _kept(value: Any) -> Any:
    if isinstance(value, dict) and value.keys() == {"at"}:
        return datetime.fromisoformat(value["at"])
    if isinstance(value, dict) and value.keys() == {"bytes"}:
        return base64.b64decode(value["bytes"])
    return value


def _line(out: Any, digest: Any, value: Any) -> None:
    text = json.dumps(value, ensure_ascii=False, separators=(",", ":")).encode() + b"\n"
    if digest is not None:
        digest.update(text)
    out.write(text)


def _lines(path: Path, word: str) -> Iterator[tuple[bytes, Any]]:
    try:
        with _unpacked(path, word) as lines:
            for line in lines:
                yield line, json.loads(line)
    except BadBackup:
        raise
    except CannotOpen as error:
        raise BadBackup(f"{path.name} cannot be opened: {error}") from None
    except (OSError, EOFError, ValueError) as error:
        raise BadBackup(f"{path.name} is not whole: {error}") from None


def check(path: Path, word: str = "") -> dict[str, Any]:
    """Read it through: its head, every row, its counts, its digest. Raises BadBackup."""
    digest, counts = hashlib.sha256(), dict[str, int]()
    head: dict[str, Any] | None = None
    end: dict[str, Any] | None = None
    for line, value in _lines(path, word):
        if end is not None:
            raise BadBackup(f"{path.name} goes on after its end")
        if head is None:
            if not isinstance(value, dict) or value.get("format") != FORMAT:
                raise BadBackup(f"{path.name} is no backup of this program")
            head = value
        elif "end" in value:
            end = value
            continue
        else:
            counts[value["table"]] = counts.get(value["table"], 0) + 1
        digest.update(line)
    if head is None or end is None:
        raise BadBackup(f"{path.name} ends before its end")
    if digest.hexdigest() != end["sha256"] or {name: count for name, count in end["end"].items() if count} != counts:
        raise BadBackup(f"{path.name} was changed: its digest is another one")
    return head | {"rows": counts}


def restore(path: Path, word: str = "") -> dict[str, Any]:
    """Bring a backup back into an empty database. Raises BadBackup; then nothing was written."""
    head = check(path, word)
    known = _migrations()
    if [name for name in head["migrations"] if name not in known]:
        raise BadBackup(f"it was made by a newer program, {head['program']}: this one cannot read it")
    if head["migrations"] != known:
        raise BadBackup(f"it was made by program {head['program']}: bring it back with that one, then start this one")
    filled = [table._meta.table_name for table in _tables() if table.select().exists()]
    if filled:
        raise BadBackup(f"the database is not empty: {', '.join(filled)}")
    by_name = {table._meta.table_name: table for table in _tables()}
    with database.atomic():
        for _, value in _lines(path, word):
            if "table" not in value:
                continue
            table = by_name[value["table"]]
            table.insert({name: _kept(one) for name, one in value["row"].items()}).execute()
    return head


def rotate(folder: Path, keep: int) -> list[Path]:
    """All but the newest so many backups of a folder go. Returns what went."""
    found = sorted(folder.glob("vinegate-*.backup"))
    gone = found[: max(len(found) - keep, 0)]
    for path in gone:
        path.unlink()
    return gone
