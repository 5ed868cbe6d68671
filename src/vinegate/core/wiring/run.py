"""The run from the board to the motor as its conductors' facts."""

from __future__ import annotations

from vinegate.core.rules import RunFacts
from vinegate.core.wiring.facts import Wiring


def run_of(wiring: Wiring) -> RunFacts:
    """The run from the board to the motor."""
    return RunFacts(
        path="wiring",
        mark="",
        size=wiring.size,
        metal=wiring.metal,
        raceway=wiring.raceway,
        length_m=wiring.length_m,
        sets=wiring.sets,
        temperature_c=wiring.temperature_c,
    )
