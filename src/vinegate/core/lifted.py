"""What fails by a value that its writer assumes, and not at an end of that: to check, wherever it is shown.

An assumption fails nothing alone, as it passes nothing (`by_assumption`).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from vinegate.core.grade import Gate, Verdict, resting, worst_of
from vinegate.core.place.devices import DeviceRow
from vinegate.core.place.stage import Placed
from vinegate.core.protection.stage import Protected
from vinegate.core.records import dataclass, replace
from vinegate.core.sheet import Stage
from vinegate.core.start.compare import Comparison, MethodRow
from vinegate.core.stop.stage import Stopping
from vinegate.core.turning import Turns


@dataclass(frozen=True, slots=True)
class Lift:
    """Why a gate that fails is to check: the fact behind it, and where that would not fail, in words."""

    turns: Turns
    text: str


Lifts = Mapping[str, Lift]
"""By the keys of the gates."""


def lifted_stages(stages: tuple[Stage, ...], lifts: Lifts) -> tuple[Stage, ...]:
    """The sheets, with what is lifted to check."""
    if not lifts:
        return stages
    return tuple(replace(stage, gates=lifted_gates(stage.gates, lifts)) for stage in stages)


def lifted_gates(gates: Iterable[Gate], lifts: Lifts) -> tuple[Gate, ...]:
    return tuple(_lifted(gate, lifts[gate.key]) if gate.key in lifts and gate.fails else gate for gate in gates)


def _lifted(gate: Gate, lift: Lift) -> Gate:
    return replace(resting(gate, lift.text), turns=lift.turns)


def lifted_comparison(found: Comparison | None, lifts: Lifts, stages: Iterable[Stage]) -> Comparison | None:
    """The way in use as its gates now are: the others are judged as they were."""
    if found is None or not lifts:
        return found

    def lifted(row: MethodRow) -> MethodRow:
        if not row.chosen:
            return row
        return replace(row, gates=lifted_gates(row.gates, lifts), verdict=_now(row.verdict, "start", lifts, stages))

    return replace(found, rows=tuple(lifted(row) for row in found.rows))


def lifted_protected(found: Protected, lifts: Lifts) -> Protected:
    if not lifts:
        return found
    return replace(found, devices=tuple(replace(one, gates=lifted_gates(one.gates, lifts)) for one in found.devices))


def lifted_stopping(found: Stopping | None, lifts: Lifts, stages: Iterable[Stage]) -> Stopping | None:
    if found is None or not lifts:
        return found
    rows = (replace(row, verdict=_now(row.verdict, "stop", lifts, stages)) if row.chosen else row for row in found.rows)
    return replace(found, rows=tuple(rows))


def lifted_placed(found: Placed, lifts: Lifts, stages: Iterable[Stage]) -> Placed:
    """A device that fails in its area by what is assumed, with each of its checks that does."""
    gates = {gate.key: gate.verdict for stage in stages if stage.key == "place" for gate in stage.gates}

    def lifted(row: DeviceRow) -> DeviceRow:
        key = f"place.{row.key}"
        if key not in lifts or row.verdict is not Verdict.FAILS:
            return row
        now = gates[key]
        checks = (replace(check, verdict=now) if check.verdict is Verdict.FAILS else check for check in row.checks)
        return replace(row, verdict=now, checks=tuple(checks))

    return replace(found, devices=tuple(lifted(row) for row in found.devices)) if lifts else found


def _now(verdict: Verdict, sheet: str, lifts: Lifts, stages: Iterable[Stage]) -> Verdict:
    """A row's verdict, by the gates of its sheet as they now are, where it failed by what is lifted."""
    gates = [gate for stage in stages if stage.key == sheet for gate in stage.gates if gate.weighs]
    if (
        verdict is not Verdict.FAILS
        or any(gate.fails for gate in gates)
        or lifts.keys().isdisjoint(gate.key for gate in gates)
    ):
        return verdict
    return worst_of(gate.verdict for gate in gates if gate.key in lifts)
