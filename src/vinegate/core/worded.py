"""The parts of a plan in the rule set's words, and held back where the plate does not add up, or does not fit."""

from __future__ import annotations

from collections.abc import Iterable

from vinegate.core.doubt import NO_KIND, NO_PLATE, NO_SUPPLY, Doubt
from vinegate.core.grade import Gate, Verdict, doubted, worst_of
from vinegate.core.place.checks import Check
from vinegate.core.place.stage import Placed
from vinegate.core.plate.gates import OF_ITS_SUPPLY
from vinegate.core.plate.which_kind import KIND
from vinegate.core.protection.stage import Protected
from vinegate.core.records import replace
from vinegate.core.rules.dialect import cite, figure_in, gate_in, say
from vinegate.core.sheet import Stage
from vinegate.core.start.compare import Comparison, MethodRow
from vinegate.core.stop.stage import Stopping

_PLATE = "plate"


def comparison_in(found: Comparison, rules: str) -> Comparison:
    """Of ways that are not in use the sentences alone: nobody is shown their citations."""

    def worded(row: MethodRow) -> MethodRow:
        gates = tuple(gate_in(gate, rules, cited=row.chosen) for gate in row.gates)
        return replace(row, why=say(row.why, rules), gates=gates)

    return replace(found, rows=tuple(worded(row) for row in found.rows))


def protected_in(found: Protected, rules: str) -> Protected:
    return replace(
        found,
        devices=tuple(
            replace(
                device,
                rule=cite(device.rule, rules),
                current=figure_in(device.current, rules) if device.current else None,
                gates=tuple(gate_in(gate, rules) for gate in device.gates),
            )
            for device in found.devices
        ),
    )


def stopping_in(found: Stopping, rules: str) -> Stopping:
    rows = (
        replace(
            row,
            why=say(row.why, rules),
            caution=say(row.caution, rules),
            steps=tuple(say(one, rules) for one in row.steps),
        )
        for row in found.rows
    )
    return replace(found, rows=tuple(rows))


def placed_in(found: Placed, rules: str) -> Placed:
    def worded(check: Check) -> Check:
        return replace(check, text=say(check.text, rules), rule=cite(check.rule, rules))

    rows = (
        replace(row, why=say(row.why, rules), checks=tuple(worded(check) for check in row.checks))
        for row in found.devices
    )
    return replace(found, devices=tuple(rows))


def wrong_plate(stages: Iterable[Stage]) -> tuple[Doubt, Gate] | None:
    """What on the plate cannot be, or not on this supply, or of which kind it is: nothing that follows from it is then
    better than to check.

    What the plate contradicts by itself comes first.
    """
    gates = [gate for stage in stages if stage.key == _PLATE for gate in stage.gates if gate.weighs]
    failed = [gate for gate in gates if gate.fails]
    if not failed:
        unsaid = next((gate for gate in gates if gate.key == KIND and gate.verdict is Verdict.UNKNOWN), None)
        return (NO_KIND, unsaid) if unsaid is not None else None
    first = min(failed, key=lambda gate: gate.key in OF_ITS_SUPPLY)
    return NO_SUPPLY if first.key in OF_ITS_SUPPLY else NO_PLATE, first


def doubted_stages(stages: Iterable[Stage], doubt: Doubt) -> tuple[Stage, ...]:
    """What passes elsewhere than on the plate's sheet is to check."""
    return tuple(
        stage if stage.key == _PLATE else replace(stage, gates=_held_back(stage.gates, doubt)) for stage in stages
    )


def doubted_comparison(found: Comparison, doubt: Doubt) -> Comparison:
    """No way is recommended from a plate that cannot be."""

    def held(row: MethodRow) -> MethodRow:
        gates = _held_back(row.gates, doubt)
        verdict = worst_of([row.verdict, *(gate.verdict for gate in gates if gate.weighs)])
        return replace(row, gates=gates, verdict=verdict, recommended=False)

    return replace(found, rows=tuple(held(row) for row in found.rows), recommended=None)


def doubted_protected(found: Protected, doubt: Doubt) -> Protected:
    return replace(found, devices=tuple(replace(one, gates=_held_back(one.gates, doubt)) for one in found.devices))


def _held_back(gates: Iterable[Gate], doubt: Doubt) -> tuple[Gate, ...]:
    return tuple(doubted(gate, doubt) for gate in gates)
