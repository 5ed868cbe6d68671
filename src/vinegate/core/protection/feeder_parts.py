"""What feeders of both kinds are made from: what else hangs on a board, its ampacity, the device ahead of it."""

from __future__ import annotations

from typing import Final, Protocol

from vinegate.core.facts import Job
from vinegate.core.grade import Gate, at_least, at_most, breaks, changes, from_answer, meets, unknown
from vinegate.core.numbers import write, write_up
from vinegate.core.protection.lines import Spread
from vinegate.core.protection.metals import over_feeder
from vinegate.core.records import replace
from vinegate.core.rules import RuleSet
from vinegate.core.supply.beside import other_va
from vinegate.core.supply.facts import Board
from vinegate.core.supply.tree import board_name
from vinegate.core.system_volts import per_line
from vinegate.core.turning import Room, Taken, more
from vinegate.core.working import Figure

FeederParts = tuple[Figure, Figure, Figure]
"""The largest motor, all others, and other load, in amperes at the board's volts."""


class Laid(Protocol):
    """Conductors as they are laid."""

    def ampacity(self, size: str) -> float | None: ...


def feed_volts(job: Job, key: str) -> float | None:
    """Line volts at which a board's feeder and the device ahead of that lie: ahead of a transformer of its own."""
    board = job.board(key) if key != "main" else None
    return job.volts_at(board.fed_from if board is not None and board.transformer_power_va else key)


def other_a(job: Job, key: str, volts: float, *, lasting: bool = False) -> float:
    """The same in line amperes, at these volts of the board or ahead of its transformer: one for two lines stays so."""
    return other_va(job, key, lasting=lasting) / (per_line(job.volts_at(key) or volts) * volts)


def ampacity_gate(laid: Laid | None, size: str | None, need: Figure, spread: Spread, of: float = 1.0) -> Gate:
    """Insulation and laying of a feeder are not asked: assumed, and said. `of` what may lie on another line it carries
    this share.
    """
    carries = laid.ampacity(size) if laid is not None and size is not None else None
    if carries is None:
        return unknown("protection.feeder", "Feeder's ampacity", ("the feeder's size",))
    text = f"{size} carries about {write(carries, 3)} A, {write(need.value, 3)} A asked; how it is laid is not asked."
    return at_least(
        "protection.feeder", "Feeder's ampacity", carries, need.value, sentence=text, source=need.source, unit="A",
        rests=(*more(AS_LAID), *spread.taken),
        room=lambda worse, *share: carries * worse - need.value + of * spread.off(*share),
        remedy="A larger feeder; check insulation, ambient and grouping.",
    )  # fmt: skip


AS_LAID: Final = Taken(label="how it is laid", value=1.0, low=0.8, high=1.0)
"""Of the tabulated ampacity, in warmer air and company; estimated."""


DEVICE: Final = "protection.feeder_device"
PROTECTS: Final = "protection.feeder_protects"
GROUND: Final = "protection.feeder_ground"
TRANSFORMER: Final = "protection.feeder_transformer"


def rating_of(job: Job, key: str) -> float | None:
    """Of the device ahead of the board, A, where it is given."""
    board = job.main_board if key == "main" else job.board(key)
    return board.device_a if board is not None else None


def carries_gate(
    job: Job, key: str, alone_a: float, together_a: float, spread: Spread, source: str
) -> tuple[Gate, ...]:
    """The device ahead carries what runs: `alone_a` with the largest motor alone, `together_a` with all of them."""
    rating, name = rating_of(job, key), "Device ahead carries the board"
    if rating is None:
        return ()
    if rating >= together_a:
        found = meets(f"{rating:g} A, {write(together_a, 3)} A with all of them running.", source)
    elif spread.taken and rating >= together_a - spread.off(spread.least):
        text = f"{rating:g} A, {write(together_a, 3)} A with all of them running and single-phase ones on one line."
        found = changes(text, source)
    elif rating >= alone_a:
        text = f"{rating:g} A, {write(together_a, 3)} A with all of them running: only where they do not run together."
        found = changes(text, source)
    else:
        found = breaks(f"{rating:g} A, {write(alone_a, 3)} A with the largest motor alone.", source)
    remedy = f"At least {write_up(together_a)} A, or an interlock."
    return (from_answer("protection.feeder_carries", name, found, remedy=remedy),)


def protects_gate(job: Job, key: str, laid: Laid | None, size: str | None, source: str) -> tuple[Gate, ...]:
    """The device ahead is no larger than what the feeder carries, `I_n ≤ I_z`; said where both are given."""
    rating, carries = rating_of(job, key), laid.ampacity(size) if laid is not None and size is not None else None
    if rating is None or carries is None:
        return ()
    return (
        at_most(
            PROTECTS, "Device protects the feeder", rating, carries, source=source, unit="A",
            sentence=f"{rating:g} A ahead of {size} that carries about {write(carries, 3)} A.", rests=(AS_LAID,),
            room=lambda worse: carries * worse - rating, remedy="A larger feeder, or a smaller device.",
        ),
    )  # fmt: skip


def device_gate(
    job: Job, key: str, most: float | None, least: float | None, spread: Spread, source: str,
    room: Room | None = None,
) -> Gate:  # fmt: skip
    """The device ahead of the board, where it is given; `room` by how single-phase circuits are spread."""
    rating, name = rating_of(job, key), "Device ahead of the board"
    if rating is None:
        return unknown(DEVICE, name, ("the rating of the device ahead of the board",))
    if most is not None:
        text = f"{rating:g} A, not above {most:g} A."
        return at_most(
            DEVICE, name, rating, most, sentence=text, source=source, unit="A", remedy=f"{most:g} A at most.",
            rests=more(*spread.taken), room=room if spread.taken else None,
        )  # fmt: skip
    assert least is not None
    text = f"{rating:g} A, {write(least, 3)} A simultaneous."
    return at_least(
        DEVICE, name, rating, least, sentence=text, source=source, unit="A", remedy=f"At least {write_up(least)} A.",
        rests=spread.taken, room=room if spread.taken else None,
    )  # fmt: skip


def ground_gates(job: Job, key: str, board: Board, rules: RuleSet) -> tuple[Gate, ...]:
    """A feeder's protective conductor, where it and what it goes by are given."""
    name, rating = board_name(job, key), rating_of(job, key)

    def gates_of(one: Board) -> tuple[Gate, ...]:
        found = rules.feeder_ground(one, rating)
        if found is None:
            return ()
        gate = from_answer(GROUND, "Protective conductor of the feeder", found, remedy=_LARGER)
        return (replace(gate, sentence=f"To {name}: {gate.sentence}"),)

    return over_feeder(key, board, gates_of)


_LARGER: Final = "A larger one, or the fault's real I²t."
