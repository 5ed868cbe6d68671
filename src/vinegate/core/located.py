"""Facts that the place gives to other stages."""

from __future__ import annotations

from vinegate.core.facts import Circuit, Job
from vinegate.core.notebook import Reads
from vinegate.core.rules.sets import rule_set


def warmest_air(job: Job, circuit: Circuit) -> tuple[float, str] | None:
    """The warmest air that its run meets in the areas it ends in, °C, and the area's key; None where it is not known
    or the run lies in the ground, of which no area's air tells.
    """
    ends = [key for key in (circuit.place.motor, circuit.place.starter) if key is not None]
    air = [(high, key) for key in ends if (high := job.area(key).ambient_high_c) is not None]
    return max(air, default=None) if not rule_set(job.rules).in_ground(circuit.wiring.method) else None


def located(job: Job, circuit: Circuit) -> Circuit:
    """The circuit with ambients that are not given taken from its areas: conductors', relay's and motor's."""
    place = circuit.place
    motor = job.area(place.motor).ambient_high_c if place.motor else None
    starter = job.area(place.starter).ambient_high_c if place.starter else None
    wiring, protection = circuit.wiring, circuit.protection
    if wiring.ambient_c is None and (warmest := warmest_air(job, circuit)) is not None:
        wiring = wiring.model_copy(update={"ambient_c": warmest[0]})
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


def area_name(job: Job, key: str) -> str:
    """The area's own name, or `area 2`."""
    return job.area(key).name or key.replace("_", " ")
