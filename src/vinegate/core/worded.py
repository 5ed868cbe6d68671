"""The parts of a plan in the rule set's words, and held back where the plate does not add up."""

from __future__ import annotations

from collections.abc import Iterable

from vinegate.core.grade import Gate, doubted, worst_of
from vinegate.core.place.checks import Check
from vinegate.core.place.stage import Placed
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


def wrong_plate(stages: Iterable[Stage]) -> bool:
    """Whether something on the plate cannot be: nothing that follows from it is then better than to check."""
    return any(gate.fails for stage in stages if stage.key == _PLATE for gate in stage.gates)


def doubted_stages(stages: Iterable[Stage]) -> tuple[Stage, ...]:
    """What passes elsewhere than on the plate's sheet is to check."""
    return tuple(stage if stage.key == _PLATE else replace(stage, gates=_held_back(stage.gates)) for stage in stages)


def doubted_comparison(found: Comparison) -> Comparison:
    """No way is recommended from a plate that cannot be."""

    def held(row: MethodRow) -> MethodRow:
        gates = _held_back(row.gates)
        verdict = worst_of([row.verdict, *(gate.verdict for gate in gates if gate.weighs)])
        return replace(row, gates=gates, verdict=verdict, recommended=False)

    return replace(found, rows=tuple(held(row) for row in found.rows), recommended=None)


def doubted_protected(found: Protected) -> Protected:
    return replace(found, devices=tuple(replace(one, gates=_held_back(one.gates)) for one in found.devices))


def _held_back(gates: Iterable[Gate]) -> tuple[Gate, ...]:
    return tuple(doubted(gate) for gate in gates)
