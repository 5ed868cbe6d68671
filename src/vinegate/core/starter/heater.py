"""A motor's space heater: fed from its starter, judged where the motor stands."""

from __future__ import annotations

from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Gate, rule, unknown
from vinegate.core.starter.facts import Starter

_KEY, _NAME = "starter.heater", "Space heater"


def has_heater(circuit: Circuit, facts: Starter) -> bool:
    """As said of the starter; else where the place's sheet has one."""
    return facts.heater == "yes" or (facts.heater is None and circuit.place.heater is not None)


def heater_gates(job: Job, circuit: Circuit, facts: Starter) -> tuple[Gate, ...]:
    """Said on both sheets alike; in a classified area one that is fed is judged there too."""
    where, motor = circuit.place.heater, circuit.place.motor
    if facts.heater == "no" and where is not None:
        text = "The place's sheet has one in its motor; here it is said to have none, and nothing feeds it."
        return (rule(_KEY, _NAME, False, text, "said here and of its place", remedy="The same on both sheets."),)
    if facts.heater == "yes" and where is None and motor is not None and job.area(motor).status != "unclassified":
        return (unknown(_KEY, _NAME, ("the area of its space heater, on the place's sheet",)),)
    return ()
