"""A process that stands by to plan rows: all is loaded in it, so that what it forks begins at once.

A Python of its own for each share of a job spends more on its imports and on first proofs than on the rows.
It is forked while nothing else runs yet, and ends with the last process that may ask it.
"""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import traceback
from collections.abc import Callable, Iterator
from contextlib import contextmanager, nullcontext
from typing import Final, TextIO

from vinegate import rows
from vinegate.collecting import loaded
from vinegate.demo import JOBS, demo_job

_YIELDS: Final = 5
"""How far planning beside gives way to pages (as of `nice`)."""


class Standby:
    """The line to the process that stands by, shared with all that is forked later."""

    def __init__(self) -> None:
        self._line: socket.socket | None = None

    def stand(self) -> None:
        """Fork it. To be called once, before there are threads and connections."""
        ours, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
        _forked(lambda: _attend(theirs), without=ours)
        theirs.close()
        self._line = ours

    @contextmanager
    def planner(self) -> Iterator[tuple[TextIO, TextIO]]:
        """A process that plans rows: what it is told goes into the first, its answers come out of the second."""
        (source, into), (out, answers) = os.pipe(), os.pipe()
        process = nullcontext() if self._asked(source, answers) else _by_itself(source, answers)
        os.close(source)
        os.close(answers)
        with process, open(into, "w", encoding="utf-8") as tell, open(out, encoding="utf-8") as told:
            yield tell, told

    def _asked(self, *ends: int) -> bool:
        if self._line is None:
            return False
        try:
            socket.send_fds(self._line, [b"+"], ends)
        except OSError:  # it was killed
            self._line = None
        return self._line is not None


standby: Final = Standby()


def _by_itself(source: int, answers: int) -> subprocess.Popen[bytes]:
    """Where nothing stands by: a Python of its own."""
    return subprocess.Popen([sys.executable, "-m", "vinegate.rows"], stdin=source, stdout=answers)


def _forked(run: Callable[[], None], without: socket.socket) -> None:
    """Run it in a copy of this process, which ends with it."""
    if os.fork():
        return
    try:
        without.close()
        run()
    except BaseException:
        traceback.print_exc(file=sys.stderr)
    finally:
        os._exit(0)  # nothing of the first process is put away twice


def _attend(line: socket.socket) -> None:
    """Fork for whoever asks, until nobody is left who could."""
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # none of them stays as a zombie
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # whoever asks is told to end
    os.nice(_YIELDS)
    _warm()
    loaded()
    while True:
        word, ends, _, _ = socket.recv_fds(line, 1, 2)
        if not word:
            return
        _forked(lambda: _serve(*ends), without=line)  # noqa: B023 - run before the next turn
        for end in ends:
            os.close(end)


def _serve(source: int, answers: int) -> None:
    with open(source, encoding="utf-8") as told, open(answers, "w", encoding="utf-8") as out:
        rows.serve(told, out)


def _warm() -> None:
    """Plan what ships with the program: tables are read, and common starters proved, before the first row is wanted."""
    for name in JOBS:
        job = demo_job(name)
        for _, facts in job.circuits:
            rows.planned(job.rules, job.facts, facts)
