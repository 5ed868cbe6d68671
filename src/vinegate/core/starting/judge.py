"""The gates of one way to start, from its course."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from vinegate.core.gate import Gate, Verdict
from vinegate.core.machine.circuit import Array
from vinegate.core.starting.asked import Asked
from vinegate.core.starting.judge_heat import class_gate, per_hour_gate, stall_gate, succession_gate, trip_gate
from vinegate.core.starting.judge_volts import (
    contactor_gate,
    dip_gate,
    flicker_gate,
    sensitive_gate,
    utility_gate,
)
from vinegate.core.starting.plant import Plant
from vinegate.core.starting.simulate import MethodRun, weaker_margin
from vinegate.core.starting.trace import Outcome


def judge(
    plant: Plant,
    run: MethodRun,
    asked: Asked,
    before: Array,
    firm_dip_pu: float | None,
    terminals: Gate | None = None,
) -> tuple[Gate, ...]:
    """All gates of one method. `firm_dip_pu` is a dip it cannot pass whatever the assumed angles, where known;
    `terminals` the gate of the terminals' volts where the starter does not lower them on purpose.
    """
    course = run.course
    found: list[Gate | None] = [
        _torque(plant, run, asked),
        terminals,
        dip_gate(course, asked, before, firm_dip_pu),
        contactor_gate(plant, course, asked),
        *[sensitive_gate(course, asked, load) for load in asked.sensitive],
        utility_gate(plant, course, asked),
        flicker_gate(course, asked, before, plant.frequency_hz),
        stall_gate(run, asked),
        class_gate(plant, run),
        succession_gate(run, asked),
        per_hour_gate(course, asked),
        trip_gate(plant, run, asked),
    ]
    return tuple(gate for gate in found if gate is not None)


def _torque(plant: Plant, run: MethodRun, asked: Asked) -> Gate:
    """Least margin of torque over the way up; the machine's torque may be a fifth less than estimated."""
    course, limit = run.course, 100 * asked.margin_pu
    common = partial(
        Gate,
        key="start.torque",
        name="Torque to get away",
        limit=limit,
        unit="%",
        source="least of machine torque less load torque over the speed range, of rated",
        estimated=True,
    )
    if course.outcome is Outcome.STALLS:
        text = "It does not break the load away: at rest the load asks more than it gives."
        return common(verdict=Verdict.SHUT, sentence=text, remedy="Unload the start, or give it more torque.")
    if course.outcome is Outcome.HANGS:
        text = f"It hangs at {100 * course.final_speed_pu:.0f} % of speed, where its torque meets the load's."
        return common(verdict=Verdict.SHUT, sentence=text, remedy="Unload the start, or give it more torque.")
    margin = run.margin_pu or 0.0
    worst = weaker_margin(plant, margin)
    sentence = f"At least {100 * margin:.0f} % of rated torque to spare on the way up."
    verdict = Verdict.OPEN if margin >= asked.margin_pu and worst >= 0 and not asked.torque_soft else Verdict.AJAR
    if margin < asked.margin_pu:
        sentence += f" {limit:.0f} % is asked."
    elif worst < 0:
        sentence += " A machine a fifth weaker than estimated would not make it."
    elif asked.torque_soft:
        sentence += " Part of the load is assumed."
    remedy = "" if verdict is Verdict.OPEN else "Get torque curves of motor and load from their makers."
    return common(
        verdict=verdict, sentence=sentence, value=100 * margin, margin=100 * (margin - asked.margin_pu), remedy=remedy
    )


def worst_of(gates: Sequence[Gate]) -> Verdict:
    """The verdict that stands for a method."""
    return max((gate.verdict for gate in gates), key=lambda verdict: verdict.rank, default=Verdict.UNKNOWN)
