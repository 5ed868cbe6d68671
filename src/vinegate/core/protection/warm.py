"""The run in the warmest air it meets, where it was sized for cooler."""

from __future__ import annotations

from vinegate.core.grade import Gate
from vinegate.core.located import warmest_air
from vinegate.core.numbers import write
from vinegate.core.protection.need import Need
from vinegate.core.records import replace
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure


def air_gate(need: Need, rules: RuleSet, line_a: Figure | None) -> tuple[Gate, ...]:
    """Its ampacity there: what is said of the air about the conductors is cooler than an area that they end in."""
    wiring, warmest = need.circuit.wiring, warmest_air(need.job, need.circuit)
    if wiring.ambient_c is None or warmest is None or warmest[0] <= wiring.ambient_c:
        return ()
    air, area = warmest[0], need.job.area(warmest[1]).name or "an area it ends in"
    there = need.circuit.with_parts(wiring=wiring.model_copy(update={"ambient_c": air}))
    row = rules.conductors_row(Sheet("wiring", ""), replace(need, circuit=there), line_a)
    text = f"Sized for {write(wiring.ambient_c)} °C; in {area} the air reaches {write(air)} °C."
    gate = next(gate for gate in row.gates if gate.key == "protection.conductors")
    return (replace(gate, key="protection.air", name="Air about the conductors", sentence=f"{text} {gate.sentence}"),)
