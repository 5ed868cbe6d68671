"""One wording for each rule set: what texts share is said and cited as its paper has it."""

from __future__ import annotations

import re
from functools import cache, lru_cache

from vinegate.core.grade import Gate
from vinegate.core.records import replace
from vinegate.core.rules.sets import RULE_SETS
from vinegate.core.rules.us_units import also, beside
from vinegate.core.sheet import Missing, Stage
from vinegate.core.turning import Turns
from vinegate.core.wording import spoken
from vinegate.core.working import Figure


@cache
def _papers(rules: str) -> tuple[re.Pattern[str], re.Pattern[str]]:
    """The rule set's own papers by how they begin, and those of all sets."""
    every = [prefix for one in RULE_SETS.values() for prefix in one.papers.own]
    own, any_ = (rf"^(?:{'|'.join(prefixes)})\b" for prefixes in (RULE_SETS[rules].papers.own, every))
    return re.compile(own), re.compile(any_)


@cache
def _dialect(rules: str) -> tuple[str, bool]:
    found = RULE_SETS[rules]
    return found.words.dialect, found.practice.us_units


@lru_cache(maxsize=8192)
def say(text: str, rules: str) -> str:
    """A text in the rule set's words, and beside in its units.

    >>> say("In wye it has a third of its locked-rotor torque.", "iec"), say("81.3 N·m of brake", "nec")
    ('In star it has a third of its starting torque.', '81.3 N·m (60 lb-ft) of brake')
    """
    dialect, us_units = _dialect(rules)
    found = spoken(text, dialect)
    return beside(found) if us_units else found


@lru_cache(maxsize=4096)
def cite(source: str, rules: str) -> str:
    """A citation of the rule set's own papers, where some of it are: the others are left out.

    >>> cite("NFPA 70:2023 430.83; IEC 61800-5-1:2022", "nec"), cite("IEEE 620:1996", "iec")
    ('NFPA 70:2023 430.83', 'IEEE 620:1996')
    """
    parts, (own, every) = say(source, rules).split("; "), _papers(rules)
    known = any(own.match(part) for part in parts)
    return "; ".join(part for part in parts if not known or own.match(part) or not every.match(part))


def figure_in(figure: Figure, rules: str) -> Figure:
    """The figure itself where nothing of it is said otherwise."""
    name, source, note = say(figure.name, rules), cite(figure.source, rules), say(figure.note, rules)
    beside_it = also(figure.value, figure.unit) if _dialect(rules)[1] else ""
    if (name, source, note, beside_it) == (figure.name, figure.source, figure.note, figure.also):
        return figure
    return replace(figure, name=name, source=source, note=note, also=beside_it)


def gate_in(gate: Gate, rules: str, *, cited: bool = True) -> Gate:
    """The same gate; what it turns on keeps its path."""
    texts = (gate.name, gate.sentence, gate.remedy, *gate.needs, *gate.rests_on, gate.turns.label if gate.turns else "")
    source = cite(gate.source, rules) if cited else gate.source
    if source == gate.source and all(say(text, rules) == text for text in texts):
        return gate
    return replace(
        gate,
        name=say(gate.name, rules),
        sentence=say(gate.sentence, rules),
        source=source,
        remedy=say(gate.remedy, rules),
        needs=tuple(say(need, rules) for need in gate.needs),
        rests_on=tuple(say(one, rules) for one in gate.rests_on),
        turns=None if gate.turns is None else _turns_in(gate.turns, rules),
    )


def _turns_in(turns: Turns, rules: str) -> Turns:
    return replace(turns, label=say(turns.label, rules), passes=say(turns.passes, rules))


def stage_in(stage: Stage, rules: str) -> Stage:
    """A closed sheet in the rule set's words."""
    return replace(
        stage,
        figures=tuple(figure_in(figure, rules) for figure in stage.figures),
        gates=tuple(gate_in(gate, rules) for gate in stage.gates),
        missing=tuple(missing_in(one, rules) for one in stage.missing),
        notes=tuple(say(note, rules) for note in stage.notes),
    )


def missing_in(missing: Missing, rules: str) -> Missing:
    label, gives = say(missing.label, rules), say(missing.gives, rules)
    return missing if (label, gives) == (missing.label, missing.gives) else replace(missing, label=label, gives=gives)
