"""Two jobs held against each other: what of them is not the same, circuit by circuit."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vinegate.core.changed import Difference, answers_changed, facts_changed, verdicts_changed
from vinegate.core.plan import NOTHING, plan_raw
from vinegate.exchange.circuit_file import JobFile, Raw


@dataclass(frozen=True, slots=True, kw_only=True)
class CircuitCompared:
    """One that both have: facts as typed, answers and verdicts that changed."""

    tag: str
    facts: tuple[Difference, ...]
    answers: tuple[Difference, ...]
    verdicts: tuple[Difference, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class JobsCompared:
    """Tags that one of them lacks, the job's own facts, and every circuit in which something changed."""

    gone: tuple[str, ...]
    new: tuple[str, ...]
    job: tuple[Difference, ...]
    circuits: tuple[CircuitCompared, ...]

    @property
    def differs(self) -> bool:
        return bool(self.gone or self.new or self.job or self.circuits)

    def listed(self) -> Iterator[tuple[str, tuple[Difference, ...]]]:
        """Titles with their differences, in the order of the job."""
        if self.job:
            yield "The job", self.job
        for one in self.circuits:
            for title, found in (("facts", one.facts), ("answers", one.answers), ("verdicts", one.verdicts)):
                if found:
                    yield f"{one.tag}, {title}", found


def compare_jobs(was: JobFile, now: JobFile) -> JobsCompared:
    """Each circuit that both have is planned on both sides where its facts, the job's or the rules are other ones."""
    before, after = dict(was.circuits), dict(now.circuits)
    own = [Difference(key=key, name=name, was=old, now=new)
           for key, name, old, new in (("name", "Name", was.name, now.name),
                                       ("rules", "Rules", was.rules.value, now.rules.value)) if old != new]  # fmt: skip
    job = (*own, *facts_changed({"job": was.facts}, {"job": now.facts}))
    both = [tag for tag in before if tag in after]
    touched = bool(job) and any(one.key != "name" for one in job)
    circuits = [
        _circuit(was, now, tag, before[tag], after[tag]) for tag in both if touched or before[tag] != after[tag]
    ]
    return JobsCompared(
        gone=tuple(tag for tag in before if tag not in after),
        new=tuple(tag for tag in after if tag not in before),
        job=job,
        circuits=tuple(one for one in circuits if one.facts or one.answers or one.verdicts),
    )


def _circuit(was: JobFile, now: JobFile, tag: str, before: Raw, after: Raw) -> CircuitCompared:
    old, new = (plan_raw(job.rules, job.facts, facts, beside=NOTHING) for job, facts in ((was, before), (now, after)))
    return CircuitCompared(
        tag=tag,
        facts=tuple(facts_changed({"circuit": before}, {"circuit": after})),
        answers=tuple(one for one in answers_changed(old, new) if one.was != one.now),
        verdicts=tuple(verdicts_changed(old, new)),
    )
