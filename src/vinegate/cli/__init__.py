"""The command: plans files, answers single questions, serves, keeps copies, looks after accounts."""

from __future__ import annotations

import argparse
import os
import sys

from vinegate import __version__
from vinegate.cli import accounts, asking, completing, files, keeping, running, tables


def main(arguments: list[str] | None = None) -> int:
    """Run the command. Returns the exit code: 0 well, 1 something fails or differs, 2 it cannot be read.

    A reader that leaves early (`| head`) ends it quietly.
    """
    options = parser().parse_args(arguments)
    try:
        code: int = options.run(options)
        sys.stdout.flush()
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 1
    except KeyboardInterrupt:
        return 130
    return code


def parser() -> argparse.ArgumentParser:
    """Every command with its options; each part adds its own."""
    found = argparse.ArgumentParser(prog="vinegate", description="Plans a motor's supply circuit.")
    found.add_argument("--version", action="version", version=f"vinegate {__version__}")
    commands = found.add_subparsers(required=True, metavar="COMMAND")
    for part in (files, tables, asking, running, keeping, accounts):
        part.add(commands)
    completing.add(commands, found)
    return found
