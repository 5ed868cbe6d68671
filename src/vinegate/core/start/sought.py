"""What a way's setting would be, were it left to be found: said where the one that somebody set does not pass."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from vinegate.core.grade import Gate, Verdict
from vinegate.core.numbers import write
from vinegate.core.records import replace
from vinegate.core.start.compare import MethodRow
from vinegate.core.start.ways import way_of
from vinegate.core.work import Work


def beside_sought(work: Work, used: MethodRow, row: Callable[[Work], MethodRow | None]) -> MethodRow:
    """The way in use, with the setting that passes named beside what does not.

    `row` finds the way in use as simulated. As it is where nothing of it was set, or where what is found is no better.
    """
    typed = {name: None for name in way_of(used.method).sought if getattr(work.circuit.start, name) is not None}
    if used.outcome is None or not typed or not any(_open(gate) for gate in used.gates):
        return used
    there = work.supposing(row, start={"method": used.method, **typed})
    if there is None or there.outcome is None:
        return used
    found, was = {gate.key: gate for gate in there.gates}, {gate.key: gate.verdict.rank for gate in used.gates}
    if any(gate.weighs and gate.verdict.rank > was.get(key, Verdict.PASSES.rank) for key, gate in found.items()):
        return used
    gates = tuple(_named(gate, found.get(gate.key), _setting(there, typed)) for gate in used.gates)
    return replace(used, gates=gates)


def _setting(there: MethodRow, typed: Iterable[str]) -> str:
    """In words, of those alone that were set: a moment, and what its row is told by."""
    at = there.changes_at_s
    moment = f"a change-over at {write(at, 2)} s" if "changeover_s" in typed and at is not None else ""
    other = there.setting if set(typed) - {"changeover_s"} else ""
    return " and ".join(one for one in (other, moment) if one)


def _open(gate: Gate) -> bool:
    return gate.weighs and gate.verdict in (Verdict.CHECK, Verdict.FAILS)


def _named(gate: Gate, there: Gate | None, setting: str) -> Gate:
    if not _open(gate) or not setting or there is None or there.verdict is not Verdict.PASSES:
        return gate
    return replace(gate, sentence=f"{gate.sentence} Left to be found, it is {setting}, which passes.")
