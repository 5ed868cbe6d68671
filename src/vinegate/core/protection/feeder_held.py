"""Feeders of a job in which something is assumed by its writer: it passes and fails nothing alone."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from vinegate.core.assumed_ends import End, assumed_of, ends_of, held
from vinegate.core.facts import Circuit, Job
from vinegate.core.records import replace
from vinegate.core.rules.sets import rule_set
from vinegate.core.unread import label_at

if TYPE_CHECKING:
    from vinegate.core.protection.feeder import Feeder


def held_back(found: Sequence[Feeder], job: Job, again: Callable[[Job], Sequence[Feeder]]) -> tuple[Feeder, ...]:
    """Each gate, to check where it would turn at an end of one of the job's facts that are assumed; `again` are the
    feeders of another job.
    """
    feeders = tuple(found)
    for one in assumed_of(job, Circuit()):
        label = label_at(one.path, job)
        for end, *_ in ends_of(one, rule_set(job.rules)):
            there = {other.key: other for other in again(_with(job, end))}
            feeders = tuple(_beside(each, there.get(each.key), f"the {label}, assumed: {end.said}") for each in feeders)
    return feeders


def _with(job: Job, end: End) -> Job:
    parts = end.supposed["on_job"]
    return job.with_parts({part: job.part(part).model_copy(update=values) for part, values in parts.items()})


def _beside(here: Feeder, there: Feeder | None, said: str) -> Feeder:
    """The feeder by what is judged of it at an end."""
    if there is None:
        return here
    verdicts = {gate.key: gate.verdict for gate in there.stage.gates}
    gates = tuple(held(gate, verdicts.get(gate.key, gate.verdict), said) for gate in here.stage.gates)
    return replace(here, stage=replace(here.stage, gates=gates))
