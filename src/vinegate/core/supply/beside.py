"""What else runs on a board beside a circuit."""

from __future__ import annotations

from collections.abc import Iterator

from vinegate.core.facts import Job
from vinegate.core.supply.facts import Board, MainBoard
from vinegate.core.supply.tree import ASSUMED_LOAD_PF, path_to


def _boards(job: Job, key: str) -> Iterator[Board | MainBoard]:
    """This board and those behind it; "main" for all there are."""
    for place in ("main", *job.boards):
        if key in (place, "main") or key in path_to(job, place):
            board = job.main_board if place == "main" else job.board(place)
            if board is not None:
                yield board


def other_va(job: Job, key: str, *, lasting: bool = False) -> float:
    """Volt-amperes of what else hangs on this board and on the boards behind it; of it the `lasting`."""
    total = 0.0
    for board in _boards(job, key):
        whole = board.load_power_va or 0.0
        part = board.continuous_power_va if lasting else None
        total += whole if part is None else min(part, whole)
    return total


def other_w(job: Job, key: str) -> float:
    """Watts of the same: each board's by its own power factor, 0.9 where nobody gives it."""
    return sum((one.load_power_va or 0.0) * (one.load_power_factor or ASSUMED_LOAD_PF) for one in _boards(job, key))
