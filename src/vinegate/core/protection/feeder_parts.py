"""What feeders of both kinds are made from: what else hangs on a board, its ampacity, the device ahead of it."""

from __future__ import annotations

from typing import Final, NamedTuple, Protocol

from vinegate.core.facts import Job
from vinegate.core.grade import Gate, at_least, at_most, unknown
from vinegate.core.numbers import write
from vinegate.core.supply.tree import path_to
from vinegate.core.turning import Taken
from vinegate.core.working import Figure

FeederParts = tuple[Figure, Figure, Figure]
"""The largest motor, all others, and other load, in amperes at the board's volts."""


class Seen(NamedTuple):
    """A circuit's amperes at the board's volts."""

    sizing_a: float
    device_a: float


class Laid(Protocol):
    """Conductors as they are laid."""

    def ampacity(self, size: str) -> float | None: ...


def other_a(job: Job, key: str, volts: float, *, lasting: bool = False) -> float:
    """Line amperes of what else hangs on this board and on the boards behind it, three-phase; of it the `lasting`."""
    total = 0.0
    for place in ("main", *job.boards):
        if key in (place, "main") or key in path_to(job, place):
            board = job.main_board if place == "main" else job.board(place)
            whole = (board.load_power_va or 0.0) if board else 0.0
            part = board.continuous_power_va if board and lasting else None
            total += whole if part is None else min(part, whole)
    return total / (3**0.5 * volts)


def ampacity_gate(laid: Laid | None, size: str | None, need: Figure) -> Gate:
    """Insulation and laying of a feeder are not asked: assumed, and said."""
    carries = laid.ampacity(size) if laid is not None and size is not None else None
    if carries is None:
        return unknown("protection.feeder", "Feeder's ampacity", ("the feeder's size",))
    text = f"{size} carries about {write(carries, 3)} A, {write(need.value, 3)} A asked; how it is laid is not asked."
    as_laid = Taken(label="how it is laid", value=1.0, low=_LAID_WORSE, high=1.0)
    return at_least(
        "protection.feeder", "Feeder's ampacity", carries, need.value, sentence=text, source=need.source, unit="A",
        rests=(as_laid,), room=lambda worse: carries * worse - need.value,
        remedy="A larger feeder; check insulation, ambient and grouping.",
    )  # fmt: skip


_LAID_WORSE: Final = 0.8  # of the tabulated ampacity in warmer air and company; estimated


DEVICE: Final = "protection.feeder_device"


def device_gate(job: Job, key: str, most: float | None, least: float | None, source: str) -> Gate:
    """The device ahead of the board, where it is given."""
    board = job.main_board if key == "main" else job.board(key)
    rating = board.device_a if board is not None else None
    name = "Device ahead of the board"
    if rating is None:
        return unknown(DEVICE, name, ("the rating of the device ahead of the board",))
    if most is not None:
        text = f"{rating:g} A, not above {most:g} A."
        return at_most(
            DEVICE, name, rating, most, sentence=text, source=source, unit="A", remedy=f"{most:g} A at most."
        )
    assert least is not None
    text = f"{rating:g} A, {write(least, 3)} A simultaneous."
    return at_least(
        DEVICE, name, rating, least, sentence=text, source=source, unit="A", remedy=f"At least {write(least, 3)} A."
    )
