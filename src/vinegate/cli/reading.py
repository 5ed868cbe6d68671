"""What commands share: a job from a file or standard input, one sentence where it cannot be read, exit codes."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import Final, TypeAlias

from vinegate.exchange.circuit_file import JobFile, UnreadableFile, read

Commands: TypeAlias = "argparse._SubParsersAction[argparse.ArgumentParser]"

EXIT_FAILS: Final = 1
EXIT_UNREADABLE: Final = 2
STDIN: Final = Path("-")


class Unread(Exception):
    """The sentence was said; the command ends with exit code 2."""


def job_from(file: Path) -> JobFile:
    """Raises Unread."""
    try:
        text = sys.stdin.buffer.read().decode() if file == STDIN else file.read_text(encoding="utf-8")
        return read(text)
    except (OSError, UnicodeDecodeError, UnreadableFile) as error:
        say(f"{name_of(file)}: {reason(error)}")
        raise Unread from None


def name_of(file: Path) -> str:
    return "standard input" if file == STDIN else str(file)


def say(sentence: str) -> None:
    """To standard error, after the command's name."""
    print(f"vinegate: {sentence}", file=sys.stderr)


def reason(error: Exception) -> str:
    return (error.strerror or str(error)) if isinstance(error, OSError) else str(error)


def written(body: str | bytes, file: Path | None) -> int:
    """To the file, else to standard output. The exit code."""
    raw = body.encode() if isinstance(body, str) else body
    if file is None:
        sys.stdout.flush()
        sys.stdout.buffer.write(raw)
        return 0
    try:
        file.write_bytes(raw)
    except OSError as error:
        say(f"{file}: {reason(error)}")
        return EXIT_UNREADABLE
    return 0
