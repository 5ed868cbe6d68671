"""Facts that the place gives to other stages."""

from __future__ import annotations

from vinegate.core.facts import Circuit, Job
from vinegate.core.rules.sets import rule_set
from vinegate.core.watch import Reads


def located(job: Job, circuit: Circuit) -> Circuit:
    """The circuit with ambients that are not given taken from its areas: conductors', relay's and motor's.

    A run in the ground is as warm as the ground, which no area's air tells.
    """
    place = circuit.place
    motor = job.area(place.motor).ambient_high_c if place.motor else None
    starter = job.area(place.starter).ambient_high_c if place.starter else None
    warmest = max((value for value in (motor, starter) if value is not None), default=None)
    wiring, protection = circuit.wiring, circuit.protection
    in_air = not rule_set(job.rules).in_ground(wiring.method)
    if wiring.ambient_c is None and warmest is not None and in_air:
        wiring = wiring.model_copy(update={"ambient_c": warmest})
    filled = {}
    if protection.motor_ambient_c is None and motor is not None:
        filled["motor_ambient_c"] = motor
    if protection.relay_ambient_c is None and starter is not None:
        filled["relay_ambient_c"] = starter
    if filled:
        protection = protection.model_copy(update=filled)
    if wiring is circuit.wiring and protection is circuit.protection:
        return circuit
    return circuit.with_parts(wiring=wiring, protection=protection)


def located_reads(circuit: Circuit) -> Reads:
    """The job's facts that `located` looks at."""
    return {(area, "ambient_high_c") for area in (circuit.place.motor, circuit.place.starter) if area}
