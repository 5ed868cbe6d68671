"""Which ways of starting a plate allows, and why not."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import fed, two_lines
from vinegate.core.grade import Answer, Gate, breaks
from vinegate.core.plate.kind import THREE_PHASE, Family
from vinegate.core.start import ways
from vinegate.core.start.way import Asking, Way

_OWN_DRIVE: Final = "Direct current: from a drive of its own, that holds the armature's current."


def offered(circuit: Circuit) -> tuple[Way, ...]:
    """The ways that are looked at: through slip rings only of a machine that has some, and of direct current those from
    a bridge and, to say no, the usual one; or where one is chosen.
    """
    family, chosen = circuit.plate.family, circuit.start.method

    def fits(way: Way) -> bool:
        if family is Family.DC:
            return way.rectifies or way is ways.USUAL
        return not way.rectifies and (family is Family.WOUND or not way.at_rings)

    return tuple(way for way in ways.WAYS if fits(way) or way.key == chosen)


def said_or_usual(circuit: Circuit, found: str | None = None) -> Way:
    """The way that was `found`, or is said; else the usual one of its kind of machine: direct current has one only, and
    where its speed is to be set a drive does it.
    """
    family, method = circuit.plate.family, found or circuit.start.method
    if method is not None:
        return ways.way_of(method)
    if family is Family.DC:
        return ways.dc_drive.WAY
    return ways.drive.WAY if circuit.from_drive and family in (Family.CAGE, Family.WOUND) else ways.USUAL


def turns_a_field(circuit: Circuit, job: Job) -> bool:
    """Whether its lines turn the field that its machine asks for: two and a neutral, or one and that, are one phase."""
    way = fed(job, circuit)
    return circuit.plate.family not in THREE_PHASE or not (two_lines(job, circuit) or (way and way.neutral))


def eligible(way: Way, circuit: Circuit, job: Job, wye_delta: Gate) -> Answer:
    """May this machine be started so? Wye-delta's own gate is passed in."""
    family = circuit.plate.family
    if way.rectifies is not (family is Family.DC):
        return breaks(_OWN_DRIVE if family is Family.DC else "Only a direct-current machine is fed so.")
    if family is Family.SINGLE and not way.any_machine:
        return breaks("Single-phase: its starting winding needs full volts.")
    if way.at_rings and family is not Family.WOUND:
        return breaks("Only a wound rotor has slip rings.")
    if family is Family.WOUND and not (way.at_rings or way.by_frequency):
        return breaks("A wound rotor starts through resistance at its slip rings.")
    if not way.by_frequency and not turns_a_field(circuit, job):
        lines = "Two lines and a neutral are" if two_lines(job, circuit) else "A line and neutral are"
        return breaks(f"{lines} one phase: they turn no three-phase field.")
    return way.possible(Asking(circuit=circuit, job=job, wye_delta=wye_delta))
