"""A plan's sheets closed: merged, in the rule set's words, each missing fact once. Kept while nothing changed."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from vinegate.core.grade import Gate, Verdict, informs
from vinegate.core.rules.dialect import stage_in
from vinegate.core.sheet import Sheet, Stage
from vinegate.core.work import Closed, Kept, Work


def close(work: Work, titles: Mapping[str, str], kept: Kept) -> tuple[Stage, ...]:
    """Every sheet as a closed stage, in the order of the titles."""
    named: frozenset[str] = frozenset()
    stages, closed = [], {}
    for key, title in titles.items():
        parts = work.written(key)
        old = kept.closed.get(key)
        if old is None or old.named != named or not _same(old.parts, parts):
            old = Closed(parts, named, *_closed(key, title, parts, named, work.rules.name))
        closed[key] = old
        stages.append(old.stage)
        named = old.names
    kept.closed = closed
    return tuple(stages)


def _same(old: list[Sheet], new: list[Sheet]) -> bool:
    return len(old) == len(new) and all(one is other for one, other in zip(old, new, strict=True))


def _closed(
    key: str, title: str, parts: Iterable[Sheet], named: frozenset[str], rules: str
) -> tuple[Stage, frozenset[str]]:
    whole, names = Sheet(key, title), set(named)
    for part in parts:
        whole.figures += part.figures
        whole.notes += part.notes
        whole.refers += [key for key in part.refers if key not in whole.refers]
        whole.gates += part.gates
        for missing in part.missing:
            whole.needs([(missing.path, missing.label)], missing.gives)
    whole.gates = list(once(whole.gates, names))
    return stage_in(whole.close(), rules), frozenset(names)


def once(gates: Iterable[Gate], named: set[str]) -> tuple[Gate, ...]:
    """One missing fact gives one "not known": those that lack nothing new wait behind the first, and only inform.

    `named` are the facts named already, to which these are added.
    """
    kept = []
    for gate in gates:
        if gate.weighs and gate.verdict is Verdict.UNKNOWN:
            if set(gate.needs) <= named:
                kept.append(informs(gate))
                continue
            named |= set(gate.needs)
        kept.append(gate)
    return tuple(kept)
