"""What a single question is: its facts, working and sentence."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from itertools import product
from typing import Any

from vinegate.core.assumed_ends import Assumed, ends_of, held
from vinegate.core.field import Facts, FieldError, read_facts
from vinegate.core.grade import Gate
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.rules.dialect import figure_in, gate_in, say
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance, Said


def _nothing(facts: Any) -> tuple[str, ...]:
    return ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Tool:
    """`work` puts lines and gates on the sheet and returns the sentence; of its facts `needs` are all there."""

    key: str
    title: str
    purpose: str
    facts: type[Facts]
    needs: tuple[str, ...]
    work: Callable[[Sheet, Any, RuleSet], str]
    also: Callable[[Any], tuple[str, ...]] = _nothing
    """What is needed beside, of what was given."""


def said_or(value: object, usual: str = "usual", how: Provenance = Provenance.ASSUMED) -> Said:
    """As it was entered, or what is taken where nothing was."""
    if value is None:
        return {"provenance": how, "source": usual}
    return {"provenance": Provenance.STATED, "source": "entered"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Answered:
    """The answer, its lines and gates; `lacks` are labels of what is still to be given, `unread` of what was given and
    cannot be read: nothing is answered beside that, as if it were empty.
    """

    said: str
    figures: tuple[Figure, ...]
    gates: tuple[Gate, ...]
    lacks: tuple[str, ...]
    errors: tuple[FieldError, ...]
    unread: tuple[str, ...] = ()


def ask(tool: Tool, raw: Mapping[str, str], rules: RuleSet) -> Answered:
    """Answer with what was typed: unreadable fields are named, missing ones too."""
    facts, errors = read_facts(tool.facts, dict(raw), tool.key, us=rules.practice.us_units)
    dialect, names = rules.words.dialect, dict(zip(tool.facts.fields(), tool.facts.model_fields, strict=True))
    labels = {names[path]: fact.label_for(dialect) for path, fact in tool.facts.fields().items()}
    wrong = [names[error.path.partition(".")[2]] for error in errors]
    absent = [name for name in (*tool.needs, *tool.also(facts)) if getattr(facts, name) is None and name not in wrong]
    if absent or wrong:
        lacks, unread = (tuple(labels[name] for name in which) for which in (absent, wrong))
        return Answered(said="", figures=(), gates=(), lacks=lacks, errors=errors, unread=unread)
    sheet = Sheet(tool.key, tool.title, sources=_sources(tool, raw, us=rules.practice.us_units))
    said = tool.work(sheet, facts, rules)
    held = held_back(tool, facts, sheet, rules)
    if any(gate is not was for gate, was in zip(held, sheet.gates, strict=True)):
        said = f"{said} To check: it rests on what is assumed."
    return Answered(
        said=say(said, rules.name),
        figures=tuple(figure_in(one, rules.name) for one in sheet.close().figures),
        gates=tuple(gate_in(one, rules.name) for one in held),
        lacks=(),
        errors=errors,
    )


def held_back(tool: Tool, facts: Facts, sheet: Sheet, rules: RuleSet) -> tuple[Gate, ...]:
    """Its gates, to check where they would turn at an end of what is only about so, or of all that is at once."""
    found = {gate.key: gate for gate in sheet.gates}
    for ends in product(*([None, *ends] for ends in _ends(tool, facts, sheet, rules))):
        there, supposed = Sheet(tool.key, tool.title), dict[str, Any]()
        for _, values in filter(None, ends):
            supposed |= values
        tool.work(there, facts.model_copy(update=supposed), rules)
        verdicts = {gate.key: gate.verdict for gate in there.gates}
        said = " and ".join(end[0] for end in ends if end)
        for key, gate in found.items():
            found[key] = held(gate, verdicts.get(key, gate.verdict), said)
    return tuple(found.values())


_End = tuple[str, dict[str, Any]]
"""A fact that is only about so at one end: in words, and as its value."""


def _ends(tool: Tool, facts: Facts, sheet: Sheet, rules: RuleSet) -> Iterator[list[_End]]:
    """Both ends of each."""
    names = dict(zip(tool.facts.fields(), tool.facts.model_fields, strict=True))
    for path in sheet.sources:
        field = path.partition(".")[2]
        fact, name = tool.facts.fields()[field], names[field]
        about = f"“{fact.label_for(rules.words.dialect)}”, assumed:"
        one = Assumed(path, tool.key, name, fact, getattr(facts, name))
        yield [(f"{about} {first.said}", first.supposed[tool.key]) for first, *_ in ends_of(one, rules)]


def _sources(tool: Tool, raw: Mapping[str, str], *, us: bool) -> dict[str, Provenance]:
    """What is written as only about so is assumed."""
    rough = (name for name, fact in tool.facts.fields().items() if fact.roughly(raw.get(name, ""), us=us))
    return {f"{tool.key}.{name}": Provenance.ASSUMED for name in rough}
