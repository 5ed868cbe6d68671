"""What a fact that its writer assumes may otherwise be: a fifth less to a quarter more (ours), or another word."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Final

from vinegate.core.drive.points import Speed
from vinegate.core.facts import JOB_STAGES, Circuit, Job, kind_of, model_of
from vinegate.core.field import Fact
from vinegate.core.grade import Gate, Verdict, resting
from vinegate.core.plate.volts import AmpsDesignation
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.rules.dialect import say
from vinegate.core.supply.facts import FaultLevel
from vinegate.core.working import Provenance

ABOUT: Final = (0.8, 1.25)
"""Of a number that its writer assumes, the least and the most that it may be, in times; ours."""
_ENDS: Final = ((ABOUT[0], 0.9, 0.97), (ABOUT[1], 1.1, 1.03))
"""Each way the widest first: where the plate itself can no longer be so, it is no value that was meant."""


@dataclass(frozen=True, slots=True)
class Assumed:
    """A fact with a value, whose source says assumed: its place, the model's name of it, and the value."""

    path: str
    part: str
    name: str
    fact: Fact
    value: Any


@dataclass(frozen=True, slots=True)
class End:
    """One value that it may have: how that is said behind "it turns", so many times its own, and what is supposed.

    Of a word `times` is nought.
    """

    said: str
    times: float
    supposed: dict[str, Any]


def assumed_of(job: Job, circuit: Circuit) -> Iterator[Assumed]:
    """Every fact that is assumed by its writer and from which something follows."""
    for path, source in {**job.sources, **circuit.sources}.items():
        part, _, field = path.partition(".")
        model = model_of(part)
        if source is not Provenance.ASSUMED or model is None or field not in model.fields():
            continue
        name, fact = dict(zip(model.fields(), model.model_fields, strict=True))[field], model.fields()[field]
        value = getattr((job if _on_job(part) else circuit).part(part), name)
        only_named = isinstance(value, str) and not (fact.offered or fact.code)  # nothing follows from it
        if value is not None and not only_named:
            yield Assumed(path, part, name, fact, value)


def ends_of(one: Assumed, rules: RuleSet) -> tuple[tuple[End, ...], ...]:
    """Ways in which it may be otherwise: of each the first is meant with which its plate could be. None where it is no
    number and none of a few words.
    """
    if one.value in dict(one.fact.offered) and not one.fact.listed:
        words = ((key, say(shown, rules.name)) for key, shown in one.fact.offered if key != one.value)
        return tuple((End(f"where it is “{shown}”", 0.0, _supposed(one, key)),) for key, shown in words)
    if _scaled(one, 1.0) is None:
        return ()
    return tuple(tuple(_at(one, times, rules) for times in ends) for ends in _ENDS)


def _at(one: Assumed, times: float, rules: RuleSet) -> End:
    value, kind = _scaled(one, times), one.fact.quantity
    shown = f", {kind.show(value, us=rules.practice.us_units)}," if kind is not None and type(value) is float else ""
    return End(f"at {times:g} times{shown}", times, _supposed(one, value))


def _scaled(one: Assumed, times: float) -> Any:
    """So many times its value; None of what is no number."""
    value = one.value
    if type(value) is float:
        return _within(one.fact, times * value)
    if isinstance(value, FaultLevel):
        amps, power = (None if end is None else times * end for end in (value.current_a, value.power_va))
        return FaultLevel(amps, power)
    return value.scaled(times) if isinstance(value, AmpsDesignation | Speed) else None


def _within(fact: Fact, value: float) -> float:
    """No further than what can be typed for it."""
    kind = fact.quantity
    return value if kind is None else min(max(value, kind.least), kind.most)


def _supposed(one: Assumed, value: Any) -> dict[str, Any]:
    values = {one.part: {one.name: value}}
    return {"on_job": values} if _on_job(one.part) else values


def _on_job(part: str) -> bool:
    return part in JOB_STAGES or kind_of(part) is not None


def held(gate: Gate, there: Verdict, said: str) -> Gate:
    """A gate that stands otherwise at an end, to check: `said` is of which fact, and which end."""
    if gate.weighs and gate.verdict is Verdict.FAILS and there.usable:
        return resting(gate, f"{said} it need not fail")
    if gate.weighs and gate.verdict is Verdict.PASSES and there is not Verdict.PASSES:
        return resting(gate, f"{said} it does not pass")
    return gate
