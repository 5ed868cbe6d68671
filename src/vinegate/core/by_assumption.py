"""What a person says was assumed: it passes nothing alone, where as much less or more of it would turn a verdict.

A value that is stamped, measured or stated is a point. One that its own writer calls assumed has a band: a fifth less
to a quarter more (ours). The circuit is planned at both ends of each; where a verdict turns, that fact is to check.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any, Final

from vinegate.core.facts import JOB_STAGES, Circuit, Job, kind_of, model_of
from vinegate.core.field import Fact
from vinegate.core.grade import Gate, Verdict, check
from vinegate.core.plate.gates import OF_ITS_SUPPLY
from vinegate.core.records import dataclass
from vinegate.core.sheet import Stage
from vinegate.core.supply.facts import FaultLevel
from vinegate.core.turning import Turns
from vinegate.core.unread import ahead, sheet_of, spoken_label, where_asked
from vinegate.core.work import Specification, Work
from vinegate.core.working import Provenance

_ENDS: Final = ((0.8, 0.9, 0.97), (1.25, 1.1, 1.03))
"""Each way the widest first: where the plate itself can no longer be so, it is no value that was meant."""
_NAMED: Final = 3
_SOURCE: Final = "a fifth less to a quarter more for what its writer assumes: ours"


@dataclass(frozen=True, slots=True)
class _Assumed:
    """A fact with a value, whose source says assumed: its place, the model's name of it, and the value."""

    path: str
    part: str
    name: str
    fact: Fact
    value: Any


def with_assumed(closed: tuple[Stage, ...], work: Work, stages: tuple[Specification[Any], ...]) -> tuple[Stage, ...]:
    """The sheets with a gate, to check, for each fact that is assumed by its writer and could turn a verdict."""
    found = [one for one in _assumed(work.job, work.circuit) if where_asked(one.path, work, stages)[1]]
    if not found:
        return closed
    return ahead(closed, work.step(("assumed", *(one.path for one in found)), lambda: _gates(found, work, stages)))


def _gates(found: Iterable[_Assumed], work: Work, stages: tuple[Specification[Any], ...]) -> dict[str, list[Gate]]:
    """By their sheets."""
    now, gates = _verdicts(work, stages), dict[str, list[Gate]]()
    for one in found:
        gate = _gate(one, work, now, stages)
        if gate is not None:
            gates.setdefault(sheet_of(one.part), []).append(gate)
    return gates


def _assumed(job: Job, circuit: Circuit) -> Iterator[_Assumed]:
    for path, source in {**job.sources, **circuit.sources}.items():
        part, _, field = path.partition(".")
        model = model_of(part)
        if source is not Provenance.ASSUMED or model is None or field not in model.fields():
            continue
        name, fact = dict(zip(model.fields(), model.model_fields, strict=True))[field], model.fields()[field]
        on_job = part in JOB_STAGES or kind_of(part) is not None
        value = getattr((job if on_job else circuit).part(part), name)
        only_named = isinstance(value, str) and not (fact.offered or fact.code)  # nothing follows from it
        if value is not None and not only_named:
            yield _Assumed(path, part, name, fact, value)


def _gate(
    one: _Assumed, work: Work, now: dict[str, tuple[Verdict, str]], stages: tuple[Specification[Any], ...]
) -> Gate | None:
    label = spoken_label(one.fact, work.rules.words.dialect)
    if _scaled(one, 1.0):
        told = [text for ends in _ENDS if (text := _turned(one, ends, work, now, stages))]
        if not told:
            return None
        text = " ".join(told)
    else:
        text = "It may be otherwise."
    turns = Turns(path=one.path, label=label, passes="measured, or read off what says it")
    key, name = f"{sheet_of(one.part)}.assumed.{one.path}", f"{label[:1].upper()}{label[1:]} is assumed"
    return check(key, name, turns, text, _SOURCE, remedy="Measure it, or say where it comes from.")


def _turned(
    one: _Assumed, ends: Iterable[float], work: Work, now: dict[str, tuple[Verdict, str]],
    stages: tuple[Specification[Any], ...],
) -> str:  # fmt: skip
    """What would no longer pass, or no longer fail, at the first of these that its plate could be of."""
    for times in ends:
        there = work.supposing(lambda other: _verdicts(other, stages), **_scaled(one, times))
        turned = {key: name for key, (verdict, name) in there.items() if _turns(now.get(key), verdict)}
        if any(key.startswith("plate.") and key not in OF_ITS_SUPPLY for key in turned):
            continue  # its plate would not add up
        names = list(turned.values())
        if not names:
            return ""
        more = f" and {len(names) - _NAMED} more" if len(names) > _NAMED else ""
        return f"At {times:g} times it turns: {', '.join(names[:_NAMED]).lower()}{more}."
    return ""


def _turns(before: tuple[Verdict, str] | None, verdict: Verdict) -> bool:
    """Whether what passed does not any more, or what failed does."""
    passed = before is None or before[0] is Verdict.PASSES
    return passed is not (verdict is Verdict.PASSES) and (passed or (before is not None and before[0] is Verdict.FAILS))


def _scaled(one: _Assumed, times: float) -> dict[str, Any]:
    """What is supposed of it; nothing of what is no number, or stands in one of many boards or areas."""
    if kind_of(one.part) is not None:
        return {}
    if type(one.value) is float:
        values: dict[str, Any] = {one.name: _within(one.fact, times * one.value)}
    elif isinstance(one.value, FaultLevel):
        amps, power = (None if end is None else times * end for end in (one.value.current_a, one.value.power_va))
        values = {one.name: FaultLevel(amps, power)}
    else:
        return {}
    return {"on_job": {one.part: values}} if one.part in JOB_STAGES else {one.part: values}


def _within(fact: Fact, value: float) -> float:
    """No further than what can be typed for it."""
    kind = fact.quantity
    return value if kind is None else min(max(value, kind.least), kind.most)


def _verdicts(work: Work, stages: tuple[Specification[Any], ...]) -> dict[str, tuple[Verdict, str]]:
    """Of each gate that weighs its verdict and its name."""
    for stage in stages:
        work.found(stage)
    sheets = (sheet for stage in stages for key in stage.sheets for sheet in work.written(key))
    return {gate.key: (gate.verdict, gate.name) for sheet in sheets for gate in sheet.gates if gate.weighs}
