"""A run to the motor of which too little is said: the start is judged without it, and with one that takes all it may.

Only the way in use: the ways are weighed against each other without it, so that nobody is sent to a dearer one because
a length is not typed yet.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.grade import Gate, Verdict, resting
from vinegate.core.start.asked import Asked
from vinegate.core.start.judge import torque_gate
from vinegate.core.start.judge_heat import per_hour_gate, stall_gate
from vinegate.core.start.laden import Laden
from vinegate.core.start.plant import Plant
from vinegate.core.start.sag import Sag
from vinegate.core.start.simulation import MethodRun
from vinegate.core.turning import Taken

_LEAST_LEFT: Final = 0.85
"""Of the plate's volts at the terminals while it starts, where no least is set for the job; usual, assumed."""
_RUN: Final = "the run to the motor, of which too little is given"


def may_be_left(sag: Sag | None, least_pu: float | None) -> float | None:
    """Share of its volts that a motor at rest may keep behind the longest run that leaves it the least it is asked."""
    if sag is None:
        return None
    without = sag.stays([one.value for one in sag.rests])
    return min((_LEAST_LEFT if least_pu is None else least_pu) / without, 1.0)


def torque_left(plant: Plant, run: MethodRun, asked: Asked) -> float:
    """Share of its torque that a start keeps behind that run: the fall goes with its amperes, torque with the square of
    its volts. All of it where the run is known, or electronics hold the amperes.
    """
    if asked.run_leaves is None or run.held or run.ramped or run.commutator or not plant.locked_current_a:
        return 1.0
    drawn = float(run.course.all("motor_a").max()) / plant.locked_current_a
    return float((1 - min(drawn, 1.0) * (1 - asked.run_leaves)) ** 2)


def behind(gates: Sequence[Gate], plant: Plant, run: MethodRun, asked: Asked) -> tuple[Gate, ...]:
    """The gates of a way without its run, with those that hang on its torque over what that run may leave of it."""
    left, laden = torque_left(plant, run, asked), Laden(plant, run.course, asked.load)
    if left >= 1:
        return tuple(gates)
    leaves = (Taken(label=_RUN, value=1.0, low=left, high=1.0),)
    with_it = (
        torque_gate(plant, run, asked, leaves),
        stall_gate(laden, run, asked, leaves),
        per_hour_gate(laden, run, asked, leaves),
    )
    over = {gate.key: gate for gate in with_it if gate is not None}
    return tuple(_over(gate, over.get(gate.key, gate)) for gate in gates)


def _over(without: Gate, with_it: Gate) -> Gate:
    """Where only the run stands in the way, it is the run that is named."""
    alone = without.verdict is Verdict.PASSES and with_it.verdict is not Verdict.PASSES
    return resting(without, _RUN) if alone else with_it
