"""One wording for each rule set: what texts share is said and cited as its paper has it."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import cache, lru_cache
from typing import Final

from vinegate.core.grade import Gate
from vinegate.core.sheet import Missing, Stage
from vinegate.core.tables import load
from vinegate.core.working import Figure

_OWN: Final = {
    "nec": re.compile(r"^(?:NFPA|NEMA|UL|IEEE|ANSI)\b"),
    "iec": re.compile(r"^(?:IEC|ISO|EN)\b"),
}
_ANY: Final = re.compile(r"^(?:NFPA|NEMA|UL|IEEE|ANSI|IEC|ISO|EN)\b")


@cache
def _phrases(rules: str) -> tuple[re.Pattern[str], dict[str, str]]:
    """The rule set's phrases as one pattern, the longest first, and what each becomes."""
    said = {row["phrase"]: row[rules] for row in load("wording").rows if row[rules]}
    longest = sorted(said, key=len, reverse=True)
    parts = (re.escape(one) if not one.isalpha() else rf"\b{one}\b" for one in longest)
    return re.compile("|".join(parts)), said


@lru_cache(maxsize=8192)
def say(text: str, rules: str) -> str:
    """A text in the rule set's words.

    >>> say("In wye it has a third of its locked-rotor torque.", "iec")
    'In star it has a third of its starting torque.'
    """
    pattern, said = _phrases(rules)
    return pattern.sub(lambda match: said[match.group(0)], text)


@lru_cache(maxsize=4096)
def cite(source: str, rules: str) -> str:
    """A citation of the rule set's own papers, where some of it are: the others are left out.

    >>> cite("NFPA 70:2023 430.83; IEC 61800-5-1:2022", "nec"), cite("IEEE 620:1996", "iec")
    ('NFPA 70:2023 430.83', 'IEEE 620:1996')
    """
    parts = say(source, rules).split("; ")
    own = [part for part in parts if _OWN[rules].match(part)]
    return "; ".join(part for part in parts if not own or _OWN[rules].match(part) or not _ANY.match(part))


def figure_in(figure: Figure, rules: str) -> Figure:
    """The figure itself where nothing of it is said otherwise."""
    name, source, note = say(figure.name, rules), cite(figure.source, rules), say(figure.note, rules)
    if (name, source, note) == (figure.name, figure.source, figure.note):
        return figure
    return replace(figure, name=name, source=source, note=note)


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
        turns=None if gate.turns is None else replace(gate.turns, label=say(gate.turns.label, rules)),
    )


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
    return replace(missing, label=say(missing.label, rules), gives=say(missing.gives, rules))
