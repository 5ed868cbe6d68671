"""The run in other air than it was sized for, and of another metal than terminals are made for."""

from __future__ import annotations

from vinegate.core.grade import Gate, confirm
from vinegate.core.protection.need import Need
from vinegate.core.records import replace
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure


def ampacity_in(need: Need, rules: RuleSet, line_a: Figure | None, air_c: float) -> Gate | None:
    """The gate of its ampacity in air of so many degrees; None where the rule set has none."""
    wiring = need.circuit.wiring.model_copy(update={"ambient_c": air_c})
    there = replace(need, circuit=need.circuit.with_parts(wiring=wiring))
    row = rules.conductors_row(Sheet("wiring", ""), there, line_a)
    return next((gate for gate in row.gates if gate.key == "protection.conductors"), None)


def metal_gate(need: Need, source: str) -> tuple[Gate, ...]:
    """Aluminium creeps and oxidises under a terminal that is made for copper."""
    if need.circuit.wiring.metal != "aluminium":
        return ()
    text = "Of device, disconnect, starter and motor: for copper alone unless they are marked for aluminum."
    return (confirm("protection.metal", "Terminals made for its metal", False, text, source),)
