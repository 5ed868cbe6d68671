"""A page as PDF, by a process of its own: so many at once, and given up where nobody waits for it any more."""

from __future__ import annotations

import json
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryFile
from threading import Semaphore
from typing import Final

from vinegate.typeset.tree import tree_of

_AT_ONCE: Final = Semaphore(2)
"""Each takes a core and a good deal of memory: more wait, and are told to come again."""
_WAITS_S: Final = 20.0
_LOOKS_S: Final = 0.5
_CHILD: Final = (sys.executable, "-I", str(Path(__file__).with_name("child.py")))

Left = Callable[[], bool]
"""Whether who asked has gone."""


class TooMany(RuntimeError):
    """Others' are being written still."""


class AskerLeft(RuntimeError):
    """Nobody waits for it any more."""


class NotWritten(RuntimeError):
    """The typesetter gave up; what it said."""


def pressed(page: str, left: Left) -> bytes:
    """A page of ours as PDF. Nothing is fetched. Raises TooMany, AskerLeft, NotWritten."""
    deadline = time.monotonic() + _WAITS_S
    while not _AT_ONCE.acquire(timeout=_LOOKS_S):
        if left():
            raise AskerLeft
        if time.monotonic() > deadline:
            raise TooMany
    try:
        return _written(json.dumps(tree_of(page)).encode(), left)
    finally:
        _AT_ONCE.release()


def _written(tree: bytes, left: Left) -> bytes:
    with TemporaryFile() as given:  # a pipe takes 64 kB at once: the rest would not be written when asked again below
        given.write(tree)
        given.seek(0)
        with subprocess.Popen(_CHILD, stdin=given, stdout=subprocess.PIPE, stderr=subprocess.PIPE) as child:
            body, said = _ended(child, left)
    if child.returncode:
        raise NotWritten(said.decode(errors="replace"))
    return body


def _ended(child: subprocess.Popen[bytes], left: Left) -> tuple[bytes, bytes]:
    while True:
        try:
            return child.communicate(timeout=_LOOKS_S)
        except subprocess.TimeoutExpired:
            if left():
                child.kill()
                raise AskerLeft from None
