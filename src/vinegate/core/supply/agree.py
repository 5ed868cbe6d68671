"""Facts of a source that cannot stand side by side."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Final

from vinegate.core.facts import Job
from vinegate.core.grade import Gate, check, ordered, rule
from vinegate.core.numbers import write
from vinegate.core.supply.tree import board_name, path_to
from vinegate.core.system_volts import SystemVolts, per_line
from vinegate.core.turning import Turns

_SAME_VOLTS: Final = 0.1
_MORE_THAN_OWN: Final = 1.1
"""A fault level past this share of what the transformer lets through is not behind it."""


def agree_gates(job: Job, on: str | None) -> Iterator[Gate]:
    """Reactances of a generator in their order; a fault level that is stated behind the transformer it names; and of
    the boards on the way to the one that the circuit is `on`: parts of their load, volts that nothing makes.
    """
    first, later = job.standby.subtransient_reactance_pu, job.standby.transient_reactance_pu
    text = f"X″d {write(100 * (first or 0.0), 3)} %, X′d {write(100 * (later or 0.0), 3)} %"
    yield from ordered(
        "supply.reactances", "Generator's reactances", first, later, unit="", remedy="Exchange them.",
        sentence=f"{text}: at the first moment it gives most.", source="IEC 60034-4-1: X″d is the least",
    )  # fmt: skip
    way = path_to(job, on)
    yield from _parts_of(job, way)
    yield from _made(job, way)
    yield from _angles(job, way)
    if (twice := _behind(job)) is not None:
        yield twice


def _parts_of(job: Job, way: Sequence[str]) -> Iterator[Gate]:
    """Motors, and what runs for hours, are a part of the other load on their board."""
    for key, board in (("main", job.main_board), *((key, job.board(key)) for key in way)):
        if board is None:
            continue
        parts = (("motors", "motors", board.motor_power_va), ("hours", "continuous load", board.continuous_power_va))
        for part, name, va in parts:
            text = f"{write((va or 0.0) / 1000, 3)} kVA of {name} in {write((board.load_power_va or 0.0) / 1000, 3)} "
            yield from ordered(
                f"supply.{part}_within", f"Part of the load on {board_name(job, key)}", va, board.load_power_va,
                unit="VA", sentence=f"{text}kVA of other load on {board_name(job, key)}.",
                source="a part is no more than the whole", remedy="Give all of the other load.",
            )  # fmt: skip


def _made(job: Job, way: Sequence[str]) -> Iterator[Gate]:
    """A board has the volts of what feeds it, between lines or to neutral; others take a transformer."""
    for key in way:
        board = job.board(key)
        if board is None or board.volts_v is None or board.transformer_power_va is not None:
            continue
        ahead = job.volts_at(board.fed_from or "main")
        there = (ahead, ahead.neutral_v) if isinstance(ahead, SystemVolts) else (ahead,)
        if ahead is None or any(volts and abs(board.volts_v / volts - 1) <= _SAME_VOLTS for volts in there):
            continue
        name = board_name(job, key)
        text = f"{name} has {write(board.volts_v, 4)} V, what feeds it {write(float(ahead), 4)} V, and no transformer "
        yield rule(
            "supply.made", f"Volts of {name}", False, f"{text}stands between.", "volts change in a transformer",
            remedy="Give the transformer ahead of it, or its volts again.",
        )  # fmt: skip


def _angles(job: Job, way: Sequence[str]) -> Iterator[Gate]:
    """Of a transformer reactance is the larger part: a ratio below one is often R/X that was read as X/R."""
    supply = job.supply
    rated = (
        [] if job.on_standby else [("the source", supply.transformer_power_va, supply.transformer_x_over_r, "supply")]
    )
    rated += [(board_name(job, key), board.transformer_power_va, board.transformer_x_over_r, key)
              for key in way if (board := job.board(key)) is not None]  # fmt: skip
    for name, power_va, ratio, part in rated:
        if power_va is None or ratio is None or power_va < _LARGE_VA or 1 <= ratio <= _STEEPEST:
            continue
        passes = f"between 1 and {_STEEPEST:.0f}"
        other = f"R/X {write(ratio, 3)}" if ratio < 1 else ""
        text = f"X/R {write(ratio, 3)} of {write(power_va / 1000, 4)} kVA: such transformers have 2 to 15 as a rule. "
        text += f"Passes {passes}{f', as {other} is' if other else ''}."
        turns = Turns(path=f"{part}.transformer_x_over_r", label="transformer X/R", passes=passes, passes_as=other)
        yield check("supply.transformer_angle", f"Transformer of {name}", turns, text, _ANGLES,
                    remedy="Read whether it is X/R or R/X.")  # fmt: skip


_LARGE_VA: Final = 100e3
_STEEPEST: Final = 50.0
_ANGLES: Final = "usual of transformers; IEEE 3002.3:2018 has typical values (assumed)"


def _behind(job: Job) -> Gate | None:
    """Stated at the board's own volts, no more than the transformer lets through: then it is counted twice."""
    supply = job.supply
    level, at_v, board_v = supply.fault_level, supply.fault_level_volts_v, supply.volts_v
    rating, percent = supply.transformer_power_va, supply.transformer_impedance_pu
    if level is None or level.current_a is None or at_v is None or board_v is None or not rating or not percent:
        return None
    own_a = (supply.transformers or 1) * rating / (per_line(board_v) * board_v * percent)
    if abs(at_v / board_v - 1) > _SAME_VOLTS or level.current_a > _MORE_THAN_OWN * own_a:
        return None
    text = f"{write(level.current_a / 1000, 3)} kA stated at {write(at_v, 4)} V, the board's own volts, are no more "
    text += f"than the transformer lets through, {write(own_a / 1000, 3)} kA: it would be counted twice. Passes for a "
    text += "fault level in MVA, or at the volts ahead of the transformer."
    turns = Turns(path="supply.fault_level_volts", label="volts it is stated at", passes="ahead of the transformer")
    return check("supply.fault_twice", "Fault level ahead of the transformer", turns, text, "definition",
                 remedy="Take the transformer away where the level is the board's.")  # fmt: skip
