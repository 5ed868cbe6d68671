"""What a person says was assumed: it passes nothing alone, where as much less or more of it would turn a verdict.

A value that is stamped, measured or stated is a point. One that its own writer calls assumed has a band: a fifth less
to a quarter more (ours). The circuit is planned at both ends of each; where a verdict turns, that fact is to check.
Those that turn nothing alone are then moved together, each the way that leaves a gate the less (`assumed_together`).
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any, Final

from vinegate.core.assumed_together import Moved, Seen, merged, worst_of_all
from vinegate.core.facts import JOB_STAGES, Circuit, Job, kind_of, model_of
from vinegate.core.field import Fact
from vinegate.core.grade import Gate, Verdict, check
from vinegate.core.plate.gates import OF_ITS_SUPPLY
from vinegate.core.plate.volts import AmpsDesignation
from vinegate.core.records import dataclass
from vinegate.core.sheet import Stage
from vinegate.core.supply.facts import FaultLevel
from vinegate.core.turning import Turns
from vinegate.core.unread import ahead, sheet_of, spoken_label, where_asked
from vinegate.core.wording import inside
from vinegate.core.work import Specification, Work
from vinegate.core.working import Provenance

_ENDS: Final = ((0.8, 0.9, 0.97), (1.25, 1.1, 1.03))
"""Each way the widest first: where the plate itself can no longer be so, it is no value that was meant."""
_NAMED: Final = 3
_SURE: Final = "measured, or read off what says it"
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
    quiet: list[tuple[_Assumed, list[Moved]]] = []
    for one in found:
        moved: list[Moved] = []
        gate = _gate(one, work, now, stages, moved)
        if gate is not None:
            gates.setdefault(sheet_of(one.part), []).append(gate)
        elif moved:
            quiet.append((one, moved))
    if len(quiet) > 1 and (found_together := _together(quiet, work, now, stages)) is not None:
        sheet, gate = found_together
        gates.setdefault(sheet, []).append(gate)
    return gates


def _together(
    quiet: list[tuple[_Assumed, list[Moved]]], work: Work, now: dict[str, Seen], stages: tuple[Specification[Any], ...]
) -> tuple[str, Gate] | None:
    """A gate, to check, and its sheet, where several that turn nothing alone turn something at once."""
    for ways, together in worst_of_all([moved for _, moved in quiet], now):
        there = work.supposing(lambda other: _verdicts(other, stages), **merged([way.supposed for way in ways if way]))
        turned = _new(now, there)
        if together.gates.isdisjoint(turned) or _of_another_plate(turned):
            continue
        mine = [(one, way) for (one, _), way in zip(quiet, ways, strict=True) if way]
        labels = [spoken_label(one.fact, work.rules.words.dialect) for one, _ in mine]
        said = " and ".join(f"{way.times:g} times {_the(label)}" for label, (_, way) in zip(labels, mine, strict=True))
        text = f"With {said} it turns: {_listed(turned)}."
        first = mine[0][0]
        sheet, turns = sheet_of(first.part), Turns(path=first.path, label=labels[0], passes=_SURE)
        return sheet, check(f"{sheet}.assumed.together", "Several assumed at once", turns, text, _SOURCE,
                            remedy="Measure one of them, or say where it comes from.")  # fmt: skip
    return None


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
    one: _Assumed, work: Work, now: dict[str, Seen], stages: tuple[Specification[Any], ...], moved: list[Moved]
) -> Gate | None:
    """None where nothing turns: `moved` then has what was found at either end."""
    label = spoken_label(one.fact, work.rules.words.dialect)
    if _scaled(one, 1.0):
        told = [text for ends in _ENDS if (text := _turned(one, ends, work, now, stages, moved))]
        if not told:
            return None
        text = " ".join(told)
    else:
        text = "It may be otherwise."
    turns = Turns(path=one.path, label=label, passes=_SURE)
    key, name = f"{sheet_of(one.part)}.assumed.{one.path}", f"{label[:1].upper()}{label[1:]} is assumed"
    return check(key, name, turns, text, _SOURCE, remedy="Measure it, or say where it comes from.")


def _turned(
    one: _Assumed, ends: Iterable[float], work: Work, now: dict[str, Seen], stages: tuple[Specification[Any], ...],
    moved: list[Moved],
) -> str:  # fmt: skip
    """What would no longer pass, or no longer fail, at the first of these that its plate could be of."""
    for times in ends:
        supposed = _scaled(one, times)
        there = work.supposing(lambda other: _verdicts(other, stages), **supposed)
        turned = _new(now, there)
        if _of_another_plate(turned):
            continue
        if not turned:
            moved.append(Moved(times, supposed, there))
            return ""
        return f"At {times:g} times it turns: {_listed(turned)}."
    return ""


def _the(label: str) -> str:
    """As it stands in a sentence: "its impedance", "the friction" of "friction, ±"."""
    plain = label.partition(",")[0]
    return plain if plain.startswith("its ") else f"the {plain}"


def _new(now: dict[str, Seen], there: dict[str, Seen]) -> dict[str, str]:
    """Gates that no longer pass, or no longer fail: their names by their keys."""
    return {key: seen.name for key, seen in there.items() if _turns(now.get(key), seen.verdict)}


def _of_another_plate(turned: Iterable[str]) -> bool:
    """Whether the plate itself would not add up."""
    return any(key.startswith("plate.") and key not in OF_ITS_SUPPLY for key in turned)


def _listed(turned: dict[str, str]) -> str:
    names = list(turned.values())
    more = f" and {len(names) - _NAMED} more" if len(names) > _NAMED else ""
    return f"{', '.join(inside(name) for name in names[:_NAMED])}{more}"


def _turns(before: Seen | None, verdict: Verdict) -> bool:
    """Whether what passed does not any more, or what failed does."""
    passed = before is None or before.verdict is Verdict.PASSES
    failed = before is not None and before.verdict is Verdict.FAILS
    return passed is not (verdict is Verdict.PASSES) and (passed or failed)


def _scaled(one: _Assumed, times: float) -> dict[str, Any]:
    """What is supposed of it; nothing of what is no number, or stands in one of many boards or areas."""
    if kind_of(one.part) is not None:
        return {}
    if type(one.value) is float:
        values: dict[str, Any] = {one.name: _within(one.fact, times * one.value)}
    elif isinstance(one.value, FaultLevel):
        amps, power = (None if end is None else times * end for end in (one.value.current_a, one.value.power_va))
        values = {one.name: FaultLevel(amps, power)}
    elif isinstance(one.value, AmpsDesignation):
        values = {one.name: one.value.scaled(times)}
    else:
        return {}
    return {"on_job": {one.part: values}} if one.part in JOB_STAGES else {one.part: values}


def _within(fact: Fact, value: float) -> float:
    """No further than what can be typed for it."""
    kind = fact.quantity
    return value if kind is None else min(max(value, kind.least), kind.most)


def _verdicts(work: Work, stages: tuple[Specification[Any], ...]) -> dict[str, Seen]:
    """What is seen of each gate that weighs; what a stage that informs finds does not."""
    judging = [stage for stage in stages if not stage.informs]
    for stage in judging:
        work.found(stage)
    sheets = (sheet for stage in judging for key in stage.sheets for sheet in work.written(key))
    weighing = (gate for sheet in sheets for gate in sheet.gates if gate.weighs)
    return {gate.key: Seen(gate.verdict, gate.name, gate.margin) for gate in weighing}
