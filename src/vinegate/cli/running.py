"""Commands that run on: the application, a bench of simulated instruments."""

from __future__ import annotations

import argparse
import os
from pathlib import Path

from vinegate.cli.reading import EXIT_FAILS, EXIT_UNREADABLE, Commands, Unread, job_from, name_of, reason, say


def add(commands: Commands) -> None:
    """`serve`, `bench`."""
    serve = commands.add_parser("serve", help="serve the application")
    serve.add_argument("--port", type=int, default=8000, help="port on loopback (8000)")
    serve.add_argument("--host", default="127.0.0.1", help="address to listen on (127.0.0.1)")
    serve.add_argument("--data", type=Path, default=Path("var"), metavar="DIR", help="where data is kept (var)")
    serve.add_argument("--no-demo", action="store_true", help="no demo data, no demo sign-in")
    serve.set_defaults(run=_serve)
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


def _bench(options: argparse.Namespace) -> int:
    from vinegate.bench.command import run_meter, side_of, write_captures
    from vinegate.bench.faults import FAULTS

    try:
        plan = side_of(job_from(options.file), options.circuit)
    except Unread:
        return EXIT_UNREADABLE
    except KeyError:
        say(f"{name_of(options.file)}: no circuit {options.circuit}")
        return EXIT_UNREADABLE
    if options.fault not in FAULTS:
        say(f"no fault “{options.fault}”: {', '.join(FAULTS)}")
        return EXIT_UNREADABLE
    if options.captures is None:
        run_meter(plan, options.seed, options.port)
        return 0
    names = write_captures(plan, options.circuit, options.fault, options.captures, options.seed)
    print("\n".join(map(str, names)) or f"{options.circuit} has no start that can be run with “{options.fault}”.")
    return 0 if names else EXIT_FAILS


def _serve(options: argparse.Namespace) -> int:
    from peewee import DatabaseError

    from vinegate.serving import Options, ServeError, serve
    from vinegate.store.database import BadDatabaseUrl
    from vinegate.store.instance import InstanceError
    from vinegate.store.migrate import CannotMigrate

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
    except (ServeError, InstanceError, BadDatabaseUrl, CannotMigrate) as error:
        say(str(error))
    except DatabaseError as error:
        say(f"the database refuses: {error.args[-1] if error.args else error}")
    except OSError as error:
        say(f"{options.data}: {reason(error)}")
    return 1
