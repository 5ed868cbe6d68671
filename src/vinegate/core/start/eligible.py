"""Which ways of starting a plate allows, and why not."""

from __future__ import annotations

from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import two_lines
from vinegate.core.grade import Answer, Gate, breaks
from vinegate.core.plate.kind import Family
from vinegate.core.start.way import Asking, Way


def eligible(way: Way, circuit: Circuit, job: Job, wye_delta: Gate) -> Answer:
    """May this machine be started so? Wye-delta's own gate is passed in."""
    family = circuit.plate.family
    if family is Family.SINGLE and not way.any_machine:
        return breaks("Single-phase: its starting winding needs full volts.")
    if family is Family.WOUND:
        return breaks("A wound rotor starts through resistance at its slip rings.")
    if family is Family.DC:
        return breaks("Direct current: through resistance, or from its drive.")
    if family is Family.CAGE and two_lines(job, circuit) and not way.by_frequency:
        return breaks("Two lines and a neutral are one phase: they turn no three-phase field.")
    return way.possible(Asking(circuit=circuit, job=job, wye_delta=wye_delta))
