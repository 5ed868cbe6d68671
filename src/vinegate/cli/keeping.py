"""Commands over what is kept: copies, the chain of what was issued, the installation's health."""

from __future__ import annotations

import argparse
import os
from pathlib import Path
from typing import Final

from vinegate.cli.reading import EXIT_FAILS, Commands, say

_WORD: Final = "VINEGATE_BACKUP_KEY"
"""Where the word of encrypted copies stands."""


def add(commands: Commands) -> None:
    """`backup`, `restore`, `verify`, `doctor`."""
    for word, run, text in (
        ("backup", _backup, "write a whole, checked copy to a file, or under a dated name into a directory"),
        ("restore", _restore, "bring a copy back into an empty database"),
        ("verify", _verify, "work every job's chain of issued plans, reviews, entries and trail again"),
        ("doctor", _doctor, "what is wrong with this installation, in words"),
    ):
        one = commands.add_parser(word, help=text)
        if word in ("backup", "restore"):
            one.add_argument("file", type=Path, metavar="FILE")
        if word == "backup":
            one.add_argument("--keep", type=int, metavar="N", help="of a directory keep the newest N")
            one.add_argument("--encrypt", action="store_true", help=f"with the word in {_WORD}")
        one.add_argument("--data", type=Path, default=Path("var"), metavar="DIR")
        one.set_defaults(run=run)


def url_of(data: Path) -> str:
    """Of the database in use; empty, and said, where none runs."""
    from vinegate.store.instance import Instance

    url = os.environ.get("VINEGATE_DATABASE_URL")
    if url:
        return url
    instance = Instance((data / "mariadb").resolve())
    if instance.running_pid() is None:
        say("start the application first, or set VINEGATE_DATABASE_URL")
        return ""
    return instance.url()


def connected(data: Path) -> bool:
    """Whether a database is there, its tables those of this program; said where not."""
    from vinegate.store.database import connect_to
    from vinegate.store.migrate import CannotMigrate, migrate

    url = url_of(data)
    if not url:
        return False
    connect_to(url)
    try:
        migrate()
    except CannotMigrate as error:
        say(str(error))
        return False
    return True


def _backup(options: argparse.Namespace) -> int:
    from vinegate.store import backup
    from vinegate.store.accounts import now
    from vinegate.store.database import database
    from vinegate.store.sealed import LEAST

    if not connected(options.data):
        return 1
    word = os.environ.get(_WORD, "") if options.encrypt else ""
    if options.encrypt and len(word) < LEAST:
        say(f"an encrypted copy needs a word of {LEAST} characters or more in {_WORD}; keep it elsewhere than the copy")
        return 2
    folder = options.file.is_dir()
    file = options.file / f"vinegate-{now():%Y%m%d-%H%M%S}.backup" if folder else options.file
    try:
        with database.connection_context():
            head = backup.write(file, word)
        gone = backup.rotate(options.file, options.keep) if folder and options.keep else []
    except (OSError, backup.BadBackup) as error:
        say(f"{file}: {error}")
        return 1
    print(
        f"{file}: {sum(head['rows'].values())} rows, read back and right"
        + (f"; {len(gone)} older gone" if gone else "")
    )
    return 0


def _restore(options: argparse.Namespace) -> int:
    from vinegate.store import backup
    from vinegate.store.database import database

    if not connected(options.data):
        return 1
    try:
        with database.connection_context():
            head = backup.restore(options.file, os.environ.get(_WORD, ""))
    except (OSError, backup.BadBackup) as error:
        say(str(error))
        return 1
    print(f"Brought back as of {head['at']} UTC: {sum(head['rows'].values())} rows.")
    return 0


def _verify(options: argparse.Namespace) -> int:
    from vinegate.store import chain
    from vinegate.store.database import database
    from vinegate.store.models import Job

    if not connected(options.data):
        return 1
    wrong = 0
    with database.connection_context():
        for job in Job.select(Job.id, Job.name):
            for broken in chain.verify(job.id):
                wrong += 1
                print(f"{job.name}: {broken.kind} {broken.row}: {broken.text}")
            print(f"{job.name}: {chain.last_link(job.id)[:16]}")
    return EXIT_FAILS if wrong else 0


def _doctor(options: argparse.Namespace) -> int:
    from vinegate.doctor import examined

    found = examined(options.data, os.environ)
    for one in found:
        print(f"{'well ' if one.well else 'WRONG'}  {one.text}")
    return 0 if all(one.well for one in found) else 1
