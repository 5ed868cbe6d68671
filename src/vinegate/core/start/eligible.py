"""Which ways of starting a plate allows, and why not."""

from __future__ import annotations

from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import two_lines
from vinegate.core.grade import Answer, Gate, breaks
from vinegate.core.plate.kind import THREE_PHASE, Family
from vinegate.core.start import ways
from vinegate.core.start.way import Asking, Way


def offered(circuit: Circuit) -> tuple[Way, ...]:
    """The ways that are looked at: those through slip rings only of a machine that has some, or where one is chosen."""
    rings, chosen = circuit.plate.family is Family.WOUND, circuit.start.method
    return tuple(way for way in ways.WAYS if rings or not way.at_rings or way.key == chosen)


def eligible(way: Way, circuit: Circuit, job: Job, wye_delta: Gate) -> Answer:
    """May this machine be started so? Wye-delta's own gate is passed in."""
    family = circuit.plate.family
    if family is Family.SINGLE and not way.any_machine:
        return breaks("Single-phase: its starting winding needs full volts.")
    if way.at_rings and family is not Family.WOUND:
        return breaks("Only a wound rotor has slip rings.")
    if family is Family.WOUND and not (way.at_rings or way.by_frequency):
        return breaks("A wound rotor starts through resistance at its slip rings.")
    if family is Family.DC:
        return breaks("Direct current: through resistance, or from its drive.")
    if family in THREE_PHASE and two_lines(job, circuit) and not way.by_frequency:
        return breaks("Two lines and a neutral are one phase: they turn no three-phase field.")
    return way.possible(Asking(circuit=circuit, job=job, wye_delta=wye_delta))
