"""A board with several motors: what its feeder carries, and the most its device may be rated."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from vinegate.core.facts import Job, kind_of
from vinegate.core.field import FieldError
from vinegate.core.grade import Gate, Verdict, unknown, worst
from vinegate.core.listed import some
from vinegate.core.numbers import write
from vinegate.core.protection.ahead import source_together
from vinegate.core.protection.feeder_held import held_back
from vinegate.core.protection.feeder_parts import (
    DEVICE,
    GROUND,
    PROTECTS,
    TRANSFORMER,
    feed_volts,
    ground_gates,
    other_a,
)
from vinegate.core.protection.lines import Seen, fullest, lines_of
from vinegate.core.protection.members import Member, Unsized, interlock_gate, nameless_gate, together
from vinegate.core.protection.sizing import table
from vinegate.core.records import dataclass
from vinegate.core.rules.sets import rule_set
from vinegate.core.sheet import Sheet, Stage
from vinegate.core.supply.tree import board_name, path_to
from vinegate.core.system_volts import per_line
from vinegate.core.unread import unread_gate
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Feeder:
    """A board's feeder: its working and gates, the amperes it carries and the most its device may be rated. `without`
    are circuits that add to it and are not in its sums.
    """

    key: str
    name: str
    tags: tuple[str, ...]
    without: tuple[str, ...]
    stage: Stage
    need: Figure
    most: Figure | None
    advised: str

    @property
    def verdict(self) -> Verdict:
        return worst(self.stage.gates)


def feeders(
    job: Job, members: Sequence[Member], unsized: Sequence[Unsized] = (), errors: Sequence[FieldError] = ()
) -> tuple[Feeder, ...]:
    """Every board with a sized circuit, the main board first. A circuit counts on each board on its way; one that is
    not sized leaves open what it could still change, and so does what cannot be read of a board, or is assumed.
    """
    return held_back(
        _feeders(job, members, unsized, errors), job, lambda other: _feeders(other, members, unsized, errors)
    )


def _feeders(
    job: Job, members: Sequence[Member], unsized: Sequence[Unsized], errors: Sequence[FieldError]
) -> tuple[Feeder, ...]:
    found = []
    tags = {one.tag for one in members} | {one.tag for one in unsized}
    for key in ("main", *job.boards):
        here = [member for member in members if _counts(job, key, member.board)]
        without = tuple(one.tag for one in unsized if _counts(job, key, one.board))
        volts = feed_volts(job, key)
        if here and volts:
            lost = (*nameless_gate(here, tags), *_unread(job, key, errors))
            found.append(_feeder(job, key, volts, here, without, lost))
    return tuple(found)


def _unread(job: Job, key: str, errors: Sequence[FieldError]) -> Iterator[Gate]:
    """Of this board and those behind it, whose loads it carries; of the source at the main board."""
    for error in errors:
        part = error.path.partition(".")[0]
        behind = kind_of(part) == "board" and _counts(job, key, part)
        if behind or (key == "main" and part in ("main_board", "supply")):
            yield unread_gate(error, "feeder", job)


def _counts(job: Job, key: str, board: str) -> bool:
    return key == "main" or key in path_to(job, board)


def _feeder(
    job: Job, key: str, volts: float, members: Sequence[Member], without: tuple[str, ...], lost: tuple[Gate, ...]
) -> Feeder:
    name = board_name(job, key)
    sheet = Sheet("feeder", f"Feeder of {name}")
    # A transformer of two lines loads the same two of those ahead of it, whatever is behind it.
    system = job.volts_at(key) or volts
    running, waiting = together(members)
    scaled, spread = fullest([_seen(job, key, volts, one) for one in running], system)
    largest = table(sheet, "largest", "Largest motor", "I_1", scaled[0].sizing_a, "A", "circuits of this board")
    others = sum(one.sizing_a for one in scaled[1:])
    rest = table(sheet, "others", "All other motors", "I_o", others, "A", "circuits of this board")
    beside_a, entered = other_a(job, key, volts), "entered on the board, at the feeder's volts"
    other = sheet.given("load", "Other load", "I_x", beside_a, "A", source=entered)
    whole = fullest([_seen(job, key, volts, one) for one in members], system)[0] if waiting else scaled
    need, most, advised = rule_set(job.rules).feeder(sheet, job, key, (largest, rest, other), whole, spread)
    fed = job.board(key) if key != "main" else None
    if fed is not None:
        sheet.gates += ground_gates(job, key, fed, rule_set(job.rules))
    per_a = per_line(system) * volts / 1000
    all_of = per_a * (largest.value + rest.value)
    evenly = all_of - per_a * spread.off(spread.least)
    sheet.gates += source_together(job, key, per_a * largest.value, all_of, evenly)
    sheet.gates += (*interlock_gate(waiting), *lost)
    if spread.taken:
        sheet.notes.append("Single-phase circuits whose lines are not given are all counted on the fullest one.")
    if fed is not None and fed.transformer_power_va:
        sheet.notes.append(f"All amperes are those ahead of its transformer, at {write(volts)} V.")
    if without:
        sheet.gates[:] = [_open(gate, without, bounded=most is not None) for gate in sheet.gates]
    return Feeder(
        key=key,
        name="main board" if name == "the board" else name,
        tags=tuple(member.tag for member in members),
        without=without,
        stage=sheet.close(),
        need=need,
        most=most,
        advised=advised,
    )


def _seen(job: Job, key: str, volts: float, member: Member) -> Seen:
    """A circuit at a feeder's volts: on its own lines, or through a transformer, by what the motor gets, on two."""
    way = path_to(job, member.board)
    behind = way[way.index(key) :] if key in way else way
    through = any(board is not None and board.transformer_power_va for board in map(job.board, behind))
    if not through:
        on = member.lines
        known = on if len(on) == member.ways and set(on) <= set(lines_of(volts)) else ""
        return Seen(member.sizing_a, member.device_a, known, member.ways)
    times = (member.got_v or member.volts_v) / volts
    return Seen(member.sizing_a * times, member.device_a * times, "", min(member.ways, 2) if member.ways < 3 else 3)


def _open(gate: Gate, without: tuple[str, ...], *, bounded: bool) -> Gate:
    """A gate of sums that lack circuits. Each would only add: what is too small already stays too small, and a device
    within a limit that grows with the sum stays within it (`bounded`: 430.62). All else is not known.
    """
    grows = bounded and gate.key == DEVICE
    if gate.key in (PROTECTS, GROUND, TRANSFORMER) or not gate.weighs:  # of no sum
        return gate
    if gate.verdict is (Verdict.PASSES if grows else Verdict.FAILS):
        return gate
    sums = f"current and device of {some(without)}"
    return unknown(gate.key, gate.name, (sums, *(gate.needs if gate.verdict is Verdict.UNKNOWN else ())))
