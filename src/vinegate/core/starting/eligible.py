"""Which ways of starting a plate allows, and why not."""

from __future__ import annotations

from dataclasses import dataclass

from vinegate.core.facts import Circuit, Job
from vinegate.core.gate import Gate, Verdict
from vinegate.core.plate.kind import Family
from vinegate.core.plate.volts import Winding


@dataclass(frozen=True, slots=True)
class Eligible:
    """OPEN or AJAR: may be used; SHUT: not with this plate; UNKNOWN: a fact is missing. The reason in words."""

    verdict: Verdict
    reason: str = ""

    @property
    def possible(self) -> bool:
        return self.verdict in (Verdict.OPEN, Verdict.AJAR)


_YES = Eligible(Verdict.OPEN)


def eligible(method: str, circuit: Circuit, job: Job, wye_delta: Gate) -> Eligible:
    """May this machine be started so? Wye-delta's own gate is passed in."""
    family = circuit.plate.family
    if family is Family.SINGLE and method != "full-voltage":
        return Eligible(Verdict.SHUT, "Single-phase: its starting winding needs full volts.")
    if family is Family.WOUND:
        return Eligible(Verdict.SHUT, "A wound rotor starts through resistance at its slip rings.")
    if family is Family.DC:
        return Eligible(Verdict.SHUT, "Direct current: through resistance, or from its drive.")
    if method == "wye-delta":
        return Eligible(wye_delta.verdict, wye_delta.sentence if wye_delta.verdict is not Verdict.OPEN else "")
    if method == "part-winding":
        return _part_winding(circuit, job)
    return _YES


def _part_winding(circuit: Circuit, job: Job) -> Eligible:
    """Two parallel halves: made for it, or nine or twelve leads at the lower voltage where the maker allows it."""
    plate, supply_v = circuit.plate, job.volts_at(circuit.wiring.board)
    if plate.leads is None:
        return Eligible(Verdict.UNKNOWN, "The number of leads is not given.")
    if plate.leads == 3:
        return Eligible(Verdict.SHUT, "Three leads: the windings cannot be taken in halves.")
    if plate.volts is None or supply_v is None:
        return Eligible(Verdict.UNKNOWN, "Plate and system volts are not both given.")
    connections = plate.volts.connections
    if any(c.winding is not Winding.NOT_SAID for c in connections):
        return Eligible(Verdict.SHUT, "This plate has no part winding.")
    if plate.leads in (9, 12) and len(connections) == 2:
        low = min(connections, key=lambda c: c.low_v)
        if plate.volts.nearest(supply_v)[1] == low:
            return Eligible(Verdict.AJAR, "Only if its maker allows it: halves are parallel at the lower volts.")
        return Eligible(Verdict.SHUT, f"At {connections[-1].text} V the halves are in series: no part winding.")
    return Eligible(Verdict.AJAR, "Six leads may be a part winding: the diagram on the motor decides.")
