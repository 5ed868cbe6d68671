"""Which ways of starting a plate allows, and why not."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import volts_of
from vinegate.core.grade import Answer, Gate, Verdict, breaks, depends, lacks, meets, ruled
from vinegate.core.plate.kind import Family
from vinegate.core.plate.volts import Winding
from vinegate.core.turning import Turns

_MAKER: Final = Turns(
    path="start.part_winding", label="made for part-winding start", passes="yes", fails="no", passes_as="yes",
    fails_as="no",
)  # fmt: skip


def eligible(method: str, circuit: Circuit, job: Job, wye_delta: Gate) -> Answer:
    """May this machine be started so? Wye-delta's own gate is passed in."""
    family = circuit.plate.family
    if family is Family.SINGLE and method != "full-voltage":
        return breaks("Single-phase: its starting winding needs full volts.")
    if family is Family.WOUND:
        return breaks("A wound rotor starts through resistance at its slip rings.")
    if family is Family.DC:
        return breaks("Direct current: through resistance, or from its drive.")
    if method == "wye-delta":
        text = "" if wye_delta.verdict is Verdict.PASSES else wye_delta.sentence
        return Answer(verdict=wye_delta.verdict, text=text, turns=wye_delta.turns)
    if method == "part-winding":
        return _part_winding(circuit, job)
    return meets("")


def _part_winding(circuit: Circuit, job: Job) -> Answer:
    """Two parallel halves: made for it, or nine or twelve leads at the lower voltage where the maker allows it."""
    plate, supply_v = circuit.plate, volts_of(job, circuit)
    said = circuit.start.part_winding
    if said is not None:
        return ruled(said == "yes", "" if said == "yes" else "Its maker does not allow a part-winding start.")
    if plate.leads is None:
        return lacks("The number of leads is not given.")
    if plate.leads == 3:
        return breaks("Three leads: the windings cannot be taken in halves.")
    if plate.volts is None or supply_v is None:
        return lacks("Plate and system volts are not both given.")
    connections = plate.volts.connections
    if any(c.winding is not Winding.NOT_SAID for c in connections):
        return breaks("This plate has no part winding.")
    if plate.leads in (9, 12) and len(connections) == 2:
        low = min(connections, key=lambda c: c.low_v)
        if plate.volts.nearest(supply_v)[1] == low:
            return depends("Only if its maker allows it: halves are parallel at the lower volts.", _MAKER)
        return breaks(f"At {connections[-1].text} V the halves are in series: no part winding.")
    return depends("Six leads may be a part winding: the diagram on the motor decides.", _MAKER)
