"""The command: `vinegate plan FILE`, `vinegate serve`, `vinegate user add LOGIN`."""

from __future__ import annotations

import argparse
import getpass
import json
import os
import sys
from pathlib import Path
from typing import Any

from vinegate import __version__
from vinegate.core.grade import Verdict
from vinegate.core.plan import Plan, plan_raw
from vinegate.exchange.circuit_file import UnreadableFile, plan_document, read
from vinegate.exchange.plain import plan_text

EXIT_FAILS = 1
EXIT_UNREADABLE = 2


def main(arguments: list[str] | None = None) -> int:
    """Run the command. Returns the exit code."""
    options = _parser().parse_args(arguments)
    code: int = options.run(options)
    return code


_USER_WORDS = {
    "deactivate": "let a person in no longer",
    "activate": "let a person in again",
    "rename": "another name",
}


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="vinegate", description="Plans a motor's supply circuit.")
    parser.add_argument("--version", action="version", version=f"vinegate {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    plan = commands.add_parser("plan", help="print the plan of a circuit file")
    plan.add_argument("file", type=Path, metavar="FILE", help="a job with its circuits (docs/format.md)")
    plan.add_argument("--json", action="store_true", help="the plan as JSON (docs/plan.schema.json)")
    plan.add_argument("--circuit", metavar="TAG", help="this circuit alone")
    plan.set_defaults(run=_plan)

    serve = commands.add_parser("serve", help="serve the application")
    serve.add_argument("--port", type=int, default=8000, help="port on loopback (8000)")
    serve.add_argument("--host", default="127.0.0.1", help="address to listen on (127.0.0.1)")
    serve.add_argument("--data", type=Path, default=Path("var"), metavar="DIR", help="where data is kept (var)")
    serve.add_argument("--no-demo", action="store_true", help="no demo data, no demo sign-in")
    serve.set_defaults(run=_serve)

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
        one.add_argument("--data", type=Path, default=Path("var"), metavar="DIR")
        one.set_defaults(run=run)

    bench = commands.add_parser(
        "bench", help="a bench of simulated instruments at one circuit; nothing it reads is measured"
    )
    bench.add_argument("file", type=Path, metavar="FILE", help="a job with its circuits")
    bench.add_argument("circuit", metavar="TAG")
    bench.add_argument(
        "--fault", default="none", help="what goes wrong in the captures: none, timer, inertia, single_phase …"
    )
    bench.add_argument(
        "--captures", type=Path, metavar="DIR", help="write its start there as COMTRADE and CSV, and end"
    )
    bench.add_argument("--port", type=int, default=5020, help="the meter's port on loopback (5020)")
    bench.add_argument("--seed", type=int, default=1)
    bench.set_defaults(run=_bench)

    user = commands.add_parser("user", help="accounts").add_subparsers(required=True, metavar="ACTION")
    add = user.add_parser("add", help="make an account; the password is asked for")
    add.add_argument("login")
    add.add_argument("--name", required=True)
    add.add_argument("--data", type=Path, default=Path("var"), metavar="DIR")
    add.set_defaults(run=_user_add)
    for word, text in (
        ("deactivate", "let a person in no longer"),
        ("activate", "let a person in again"),
        ("rename", "another name"),
    ):
        one = user.add_parser(word, help=text)
        one.add_argument("login")
        if word == "rename":
            one.add_argument("--name", required=True)
        one.add_argument("--data", type=Path, default=Path("var"), metavar="DIR")
        one.set_defaults(run=_user_change, word=word)
    return parser


def _plan(options: argparse.Namespace) -> int:
    try:
        job = read(options.file.read_text(encoding="utf-8"))
    except (OSError, UnicodeDecodeError, UnreadableFile) as error:
        print(f"vinegate: {options.file}: {_reason(error)}", file=sys.stderr)
        return EXIT_UNREADABLE
    chosen = [(tag, facts) for tag, facts in job.circuits if options.circuit in (None, tag)]
    if not chosen:
        what = f"no circuit {options.circuit}" if options.circuit else "no circuits"
        print(f"vinegate: {options.file}: {what}", file=sys.stderr)
        return EXIT_UNREADABLE
    plans = [(tag, plan_raw(job.rules, job.facts, facts)) for tag, facts in chosen]
    if options.json:
        documents = [{"tag": tag, "plan": plan_document(plan)} for tag, plan in plans]
        print(json.dumps({"job": job.name, "circuits": documents}, ensure_ascii=False, indent=2))
    else:
        print("\n\n".join(plan_text(f"{job.name} / {tag}", plan) for tag, plan in plans))
    return _exit_code(plans, options.file)


def _bench(options: argparse.Namespace) -> int:
    from vinegate.bench.command import run_meter, side_of, write_captures
    from vinegate.bench.faults import FAULTS

    try:
        plan = side_of(read(options.file.read_text(encoding="utf-8")), options.circuit)
    except (OSError, UnicodeDecodeError, UnreadableFile) as error:
        print(f"vinegate: {options.file}: {_reason(error)}", file=sys.stderr)
        return EXIT_UNREADABLE
    except KeyError:
        print(f"vinegate: {options.file}: no circuit {options.circuit}", file=sys.stderr)
        return EXIT_UNREADABLE
    if options.fault not in FAULTS:
        print(f"vinegate: no fault “{options.fault}”: {', '.join(FAULTS)}", file=sys.stderr)
        return EXIT_UNREADABLE
    if options.captures is None:
        run_meter(plan, options.seed, options.port)
        return 0
    names = write_captures(plan, options.circuit, options.fault, options.captures, options.seed)
    print("\n".join(map(str, names)) or f"{options.circuit} has no start that can be run with “{options.fault}”.")
    return 0 if names else EXIT_FAILS


def _exit_code(plans: list[tuple[str, Plan]], file: Path) -> int:
    unread = [(tag, error) for tag, plan in plans for error in plan.errors]
    for tag, error in unread:
        print(f"vinegate: {file}: {tag}: {error.path}: {error.message}", file=sys.stderr)
    if unread:
        return EXIT_UNREADABLE
    return EXIT_FAILS if any(gate.verdict is Verdict.FAILS for _, plan in plans for gate in plan.weighing) else 0


def _reason(error: Exception) -> str:
    return (error.strerror or str(error)) if isinstance(error, OSError) else str(error)


def _serve(options: argparse.Namespace) -> int:
    from peewee import DatabaseError

    from vinegate.serving import Options, ServeError, serve
    from vinegate.store.database import BadDatabaseUrl
    from vinegate.store.instance import InstanceError

    try:
        return serve(
            Options(
                port=options.port,
                host=options.host,
                data=options.data,
                demo=not options.no_demo,
                database_url=os.environ.get("VINEGATE_DATABASE_URL") or None,
            )
        )
    except (ServeError, InstanceError, BadDatabaseUrl) as error:
        print(f"vinegate: {error}", file=sys.stderr)
    except DatabaseError as error:
        print(f"vinegate: the database refuses: {error.args[-1] if error.args else error}", file=sys.stderr)
    except OSError as error:
        print(f"vinegate: {options.data}: {_reason(error)}", file=sys.stderr)
    return 1


def _url_of(data: Path) -> str:
    """Of the database in use; empty, and said, where none runs."""
    from vinegate.store.instance import Instance

    url = os.environ.get("VINEGATE_DATABASE_URL")
    if url:
        return url
    instance = Instance((data / "mariadb").resolve())
    if instance.running_pid() is None:
        print("vinegate: start the application first, or set VINEGATE_DATABASE_URL", file=sys.stderr)
        return ""
    return instance.url()


def _connected(data: Path) -> bool:
    from vinegate.store.database import connect_to
    from vinegate.store.migrate import migrate

    url = _url_of(data)
    if url:
        connect_to(url)
        migrate()
    return bool(url)


def _backup(options: argparse.Namespace) -> int:
    from vinegate.store import backup
    from vinegate.store.accounts import now
    from vinegate.store.database import database

    if not _connected(options.data):
        return 1
    folder = options.file.is_dir()
    file = options.file / f"vinegate-{now():%Y%m%d-%H%M%S}.backup" if folder else options.file
    try:
        with database.connection_context():
            head = backup.write(file)
        gone = backup.rotate(options.file, options.keep) if folder and options.keep else []
    except (OSError, backup.BadBackup) as error:
        print(f"vinegate: {file}: {error}", file=sys.stderr)
        return 1
    print(
        f"{file}: {sum(head['rows'].values())} rows, read back and right"
        + (f"; {len(gone)} older gone" if gone else "")
    )
    return 0


def _restore(options: argparse.Namespace) -> int:
    from vinegate.store import backup
    from vinegate.store.database import database

    if not _connected(options.data):
        return 1
    try:
        with database.connection_context():
            head = backup.restore(options.file)
    except (OSError, backup.BadBackup) as error:
        print(f"vinegate: {error}", file=sys.stderr)
        return 1
    print(f"Brought back as of {head['at']} UTC: {sum(head['rows'].values())} rows.")
    return 0


def _verify(options: argparse.Namespace) -> int:
    from vinegate.store import chain
    from vinegate.store.database import database
    from vinegate.store.models import Job

    if not _connected(options.data):
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


def _user_change(options: argparse.Namespace) -> int:
    from vinegate.store import accounts
    from vinegate.store.database import connect_to, database

    url = _url_of(options.data)
    if not url:
        return 1
    connect_to(url)
    changes: dict[str, Any] = (
        {"name": options.name} if options.word == "rename" else {"active": options.word == "activate"}
    )
    with database.connection_context():
        try:
            user = accounts.change_user(options.login, **changes)
        except accounts.BadAccount as error:
            print(f"vinegate: {error}", file=sys.stderr)
            return 1
    print(f"{user.login}: {user.name}{'' if user.active else ', not let in'}")
    return 0


def _user_add(options: argparse.Namespace) -> int:
    from vinegate.store import accounts
    from vinegate.store.database import connect_to, database
    from vinegate.store.migrate import migrate

    url = _url_of(options.data)
    if not url:
        return 1
    password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    try:
        accounts.checked(options.login, options.name, password)
    except accounts.BadAccount as error:
        print(f"vinegate: {error}", file=sys.stderr)
        return 1
    connect_to(url)
    migrate()
    with database.connection_context():
        try:
            accounts.create_user(login=options.login, name=options.name, password=password)
        except accounts.LoginTaken:
            print(f"vinegate: the login {options.login} is taken", file=sys.stderr)
            return 1
    print(f"{options.name} can sign in as {options.login}.")
    return 0
