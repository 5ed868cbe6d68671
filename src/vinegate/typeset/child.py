"""Typesets the tree that comes by standard input: a process of its own, to be stopped, that gives its memory back."""

from __future__ import annotations

import os
import resource
import sys
from pathlib import Path
from typing import Final

import typst

_HERE: Final = Path(__file__).parent
_MOST_BYTES: Final = 3 << 30
"""A dozen sheets take half of a gigabyte."""


def main() -> None:
    """Read it, and write the PDF to standard output. Fonts are our own and the typesetter's; nothing is fetched."""
    os.nice(5)
    resource.setrlimit(resource.RLIMIT_DATA, (_MOST_BYTES, _MOST_BYTES))
    body = typst.compile(
        _HERE / "paper.typ",
        root=_HERE,
        font_paths=[_HERE / "fonts"],
        ignore_system_fonts=True,
        sys_inputs={"page": sys.stdin.buffer.read().decode()},
    )
    sys.stdout.buffer.write(body)


if __name__ == "__main__":
    main()
