"""What stands ahead of the circuit bears it for ever: devices ahead of its boards, transformers and the generator."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.facts import Job
from vinegate.core.fed import volts_of
from vinegate.core.grade import Gate, at_least, breaks, changes, from_answer, meets
from vinegate.core.numbers import write, write_up
from vinegate.core.plate.kind import Family
from vinegate.core.protection.feeder_parts import (
    AS_LAID,
    feed_volts,
    ground_gates,
    other_a,
    rating_of,
)
from vinegate.core.protection.metals import of_metals, over_feeder
from vinegate.core.protection.need import Need
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.supply.beside import other_va
from vinegate.core.supply.facts import Board
from vinegate.core.supply.tree import board_name, path_to
from vinegate.core.system_volts import per_line
from vinegate.core.turning import Taken, less, more, point

_TOGETHER: Final = Taken(label="how much of the load beside it adds to it", value=1.0, low=0.85, high=1.0)
"""Power factors differ: assumed of amperes added as numbers."""
_LEAST_SHARE: Final = 0.3  # of rated amperes, that a machine draws even unloaded; assumed


def ahead_gates(need: Need, rules: RuleSet) -> tuple[Gate, ...]:
    """Devices, feeders and sources on its way, where they are given."""
    return (*_devices(need), *_feeders(need, rules), *_grounds(need, rules), *_sources(need))


def _whole_a(need: Need) -> float | None:
    """Amperes of the whole circuit at full load, halves of a winding together; into a drive its rated input."""
    drawn = need.into_drive or need.drawn
    return drawn.value if drawn is not None else None


def _drawn_at(need: Need, volts: float | None) -> float | None:
    """Of the circuit, at these line volts: its amperes, behind a transformer by the volts that the motor gets.

    From line to neutral it loads one winding there, and two lines ahead of that.
    """
    amps, got, own = _whole_a(need), volts_of(need.job, need.circuit), need.job.volts_at(need.circuit.wiring.board)
    if amps is None or got is None or own is None or volts is None:
        return None
    return amps if float(volts) == float(own) else amps * got / volts


def _devices(need: Need) -> tuple[Gate, ...]:
    """The devices ahead of the boards on its way: each carries this motor and what is entered as running beside it on
    that board and behind.
    """
    job, found = need.job, []
    for key in ("main", *path_to(job, need.circuit.wiring.board)):
        rating, there = rating_of(job, key), feed_volts(job, key)
        here = _drawn_at(need, there)
        if rating is not None and there is not None and here is not None:
            beside = other_a(job, key, there)
            found.append((rating / (here + beside), rating, here, beside, board_name(job, key)))
    if not found:
        return ()
    _, rating, here, beside, name = min(found)
    return (
        at_least(
            "protection.ahead", "Devices ahead carry the motor", rating, here + beside, unit="A",
            sentence=f"{rating:g} A ahead of {name}; {_drawn(need, here, beside)}",
            rests=(_TOGETHER,) if beside else (), room=lambda part=1.0: rating - here - part * beside,
            source="a device carries its rating", remedy="Read the device ahead of that board again.",
        ),
    )  # fmt: skip


def _drawn(need: Need, here: float, beside: float) -> str:
    """What a device or feeder carries, A, in words."""
    own = f"{'this motor draws' if need.motors == 1 else 'these motors draw'} {write(here, 3)} A there"
    return f"{own}, what runs beside it {write(beside, 3)} A." if beside else f"{own}."


def _feeders(need: Need, rules: RuleSet) -> tuple[Gate, ...]:
    """The feeder on its way that has the least left for this motor and what runs beside it, at the volts it lies on."""
    job, found = need.job, []
    for key in path_to(job, need.circuit.wiring.board):
        board, volts = job.board(key), feed_volts(job, key)
        here = _drawn_at(need, volts)
        if board is None or board.size is None or volts is None or here is None:
            continue
        beside = other_a(job, key, volts)
        carries = [amps for one in of_metals(board) if (amps := _carries(rules, one, here + beside))]
        if carries:
            found.append((min(carries) / (here + beside), key, here, beside))
    if not found:
        return ()
    _, key, here, beside = min(found)
    board = job.board(key)
    assert board is not None
    return over_feeder(key, board, lambda one: _feeder_ahead(need, rules, key, one, here, beside))


def _carries(rules: RuleSet, board: Board, amps: float) -> float | None:
    laid = rules.feeder_laid(board, amps)
    return laid.ampacity(board.size) if laid is not None and board.size is not None else None


def _feeder_ahead(need: Need, rules: RuleSet, key: str, board: Board, here: float, beside: float) -> tuple[Gate, ...]:
    carries = _carries(rules, board, here + beside)
    if not carries:
        return ()
    name = f"{board.size} to {board_name(need.job, key)}"
    return (
        at_least(
            "protection.feeder_ahead", "Feeders ahead carry the motor", carries, here + beside, unit="A",
            sentence=f"{name} carries about {write(carries, 3)} A; {_drawn(need, here, beside)}",
            rests=(*more(AS_LAID), *(less(_TOGETHER) if beside else ())),
            room=lambda worse, part=1.0: carries * worse - here - part * beside,
            source="tabulated ampacity; how it is laid is not asked", remedy="A larger feeder, or less beside it.",
        ),
    )  # fmt: skip


def _grounds(need: Need, rules: RuleSet) -> tuple[Gate, ...]:
    """The feeders' protective conductors on its way: the worst of them."""
    job, found = need.job, list[Gate]()
    for key in path_to(job, need.circuit.wiring.board):
        board = job.board(key)
        if board is not None:
            found += ground_gates(job, key, board, rules)
    return tuple(sorted(found, key=lambda gate: gate.verdict.rank)[-1:])


@dataclass(frozen=True, slots=True, kw_only=True)
class Rated:
    """A transformer or generator: its rating as it is typed, kVA, how many are in parallel, and what runs beside the
    circuits behind it.
    """

    name: str
    each: Taken
    count: int
    beside: float

    @property
    def kva(self) -> float:
        return self.count * self.each.value

    @property
    def said(self) -> str:
        each = f"{write(self.each.value, 4)} kVA of {self.name}"
        return each if self.count == 1 else f"{self.count} × {each}s"


def rated_at(job: Job, key: str) -> Rated | None:
    """The source that feeds a board directly: of the main board that in use; None where none is rated there."""
    count = 1
    if key == "main":
        standby = job.on_standby
        va = job.standby.generator_power_va if standby else job.supply.transformer_power_va
        count = 1 if standby else job.supply.transformers or 1
        label = "generator" if standby else "transformer"
        name, path = f"the {label}", "standby.generator_power" if standby else "supply.transformer_power"
    else:
        board = job.board(key)
        va = board.transformer_power_va if board is not None else None
        label = "transformer"
        name, path = f"{board_name(job, key)}'s transformer", f"{key}.transformer_power"
    if va is None:
        return None
    each = point(va / 1000, path=path, label=label, unit="kVA")
    return Rated(name=name, each=each, count=count, beside=other_va(job, key) / 1000)


def source_together(job: Job, key: str, alone: float, together: float, evenly: float) -> tuple[Gate, ...]:
    """The source that feeds a board, kVA: `alone` with the largest motor alone, `together` with all of them, `evenly`
    with single-phase ones spread as evenly as they can be.
    """
    source = rated_at(job, key)
    if source is None:
        return ()
    kva, rule = source.kva, "a transformer or generator carries its rating for ever"
    alone, together = alone + source.beside, together + source.beside
    said = f"{source.said}, {write(together, 3)} kVA with all of them running"
    if kva >= together:
        found = meets(f"{said}.", rule)
    elif evenly < together and kva >= evenly + source.beside:
        found = changes(f"{said}, single-phase ones on one line.", rule)
    elif kva >= alone:
        found = changes(f"{said}: only where they do not run together.", rule)
    else:
        text = f"{source.said}, {write(alone, 3)} kVA with the largest motor alone."
        found = breaks(text, rule)
    remedy = f"At least {write_up(together)} kVA, or an interlock."
    return (from_answer("protection.feeder_source", "Source carries the board", found, remedy=remedy),)


def source_gate(source: Rated, own: float, loaded: Taken, what: str) -> Gate:
    """Whether it bears `own` kVA, of which `loaded` is drawn, and what runs beside them."""
    kva, beside, count = source.kva, source.beside, source.count
    text = f"{source.said}; {what} {write(own, 3)} kVA"
    text += f", what runs beside {write(beside, 3)} kVA." if beside else "."
    return at_least(
        "protection.source", "Source carries it", kva, own + beside, unit="kVA", sentence=text,
        rests=(*more(source.each), *less(loaded), *(less(_TOGETHER) if beside else ())),
        room=lambda rating, part, together=1.0: count * rating - part * own - together * beside,
        source="a transformer or generator carries its rating for ever", remedy="A larger one, or less beside it.",
    )  # fmt: skip


def _sources(need: Need) -> tuple[Gate, ...]:
    """The transformer or generator on its way that has the least left for this motor and what runs beside it."""
    rated_v, got, found = need.rated.volts, volts_of(need.job, need.circuit), []
    for key in ("main", *path_to(need.job, need.circuit.wiring.board)):
        source, there = rated_at(need.job, key), need.job.volts_at(key)
        amps = _drawn_at(need, there)
        if source is None or there is None or amps is None or rated_v is None or not got:
            continue
        # Of one phase on three it loads one winding, or two, as three times that would.
        stands = 1.0 if need.way.rectifies else rated_v.value / got
        own = per_line(there) * there * amps * stands / 1000
        one = per_line(there) > 1 and (need.circuit.plate.family is Family.SINGLE or need.fed_by_one)
        what = "this motor takes" if need.motors == 1 else "these motors take"
        what = "this motor of one phase loads it as" if one else what
        found.append((source.kva / (own + source.beside), own, source, what))
    if not found:
        return ()
    _, own, source, what = min(found, key=lambda one: one[0])
    loaded = Taken(label="what the motor is loaded to", value=1.0, low=_share(need), high=1.0)
    return (source_gate(source, own, loaded, what),)


def _share(need: Need) -> float:
    """Of rated power what the load takes, where it is known."""
    power = need.rated.power_w
    if need.load is None or not power:
        return 1.0
    asked = need.load.torque_nm * need.load.full_speed_rpm * math.pi / 30
    return min(max(asked / power, _LEAST_SHARE), 1.0)
