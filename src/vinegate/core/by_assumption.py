"""What a person says was assumed: it passes nothing alone, where as much less or more of it would turn a verdict.

A value that is stamped, measured or stated is a point. One that its own writer calls assumed has a band, or may be
another word (`assumed_ends`). The circuit is planned at both ends, or with each; where a verdict turns, it is to check.
Those that turn nothing alone are then moved together, each the way that leaves a gate the less (`assumed_together`).
What passes and would not is said by a gate of its own, to check; what fails and need not is to check itself (`lifted`).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import field
from typing import Any, Final

from vinegate.core.assumed_ends import Assumed, End, assumed_of, ends_of
from vinegate.core.assumed_together import Moved, Seen, merged, worst_of_all
from vinegate.core.grade import Gate, Verdict, check
from vinegate.core.least_at_rest import LeastAtRest, least_at_rest
from vinegate.core.lifted import Lift, Lifts, lifted_stages
from vinegate.core.plate.gates import OF_ITS_SUPPLY
from vinegate.core.records import dataclass
from vinegate.core.sheet import Stage
from vinegate.core.turning import Turns
from vinegate.core.unread import ahead, label_at, sheet_of, where_asked
from vinegate.core.wording import inside
from vinegate.core.work import Specification, Work

_NAMED: Final = 3
_DIP: Final = "start.dip_full"
"""It follows supply and machine alone: a setting that is sought would be another there."""
_SURE: Final = "measured, or read off what says it"
_SOURCE: Final = "a fifth less to a quarter more for what its writer assumes: ours"
_AT_REST: Final = "the least that it may draw, beside the most that all is planned with"
_WORDS: Final = "any other word for one that its writer assumes: ours"


@dataclass(slots=True, eq=False)
class _Judged:
    """What is found of assumed facts: gates by their sheets, and what of the circuit's own they lift."""

    now: dict[str, Seen]
    dip: float | None
    gates: dict[str, list[Gate]] = field(default_factory=dict)
    lifts: dict[str, Lift] = field(default_factory=dict)
    dips: tuple[float, float] = (1.0, 1.0)
    """The least and the deepest dip by all of them, over that as it is planned: each adds its share."""

    def put(self, sheet: str, gate: Gate) -> None:
        self.gates.setdefault(sheet, []).append(gate)

    def lift(self, turned: Iterable[str], turns: Turns, text: str) -> None:
        for key in turned:
            if key in self.now and self.now[key].verdict is Verdict.FAILS:
                self.lifts.setdefault(key, Lift(turns, text))

    def deepen(self, ends: Iterable[float | None]) -> None:
        """Take the dips of one fact's ends among what others leave of it."""
        if self.dip:
            dips = [self.dip, *(dip for dip in ends if dip)]
            self.dips = (self.dips[0] * min(dips) / self.dip, self.dips[1] * max(dips) / self.dip)


@dataclass(frozen=True, slots=True)
class ByAssumption:
    """The sheets with what is assumed; what fails by one fact alone, lifted; `dips` of a start over that as planned."""

    stages: tuple[Stage, ...]
    lifts: Lifts
    dips: tuple[float, float] = (1.0, 1.0)


def with_assumed(closed: tuple[Stage, ...], work: Work, stages: tuple[Specification[Any], ...]) -> ByAssumption:
    """The sheets with a gate, to check, for each fact that is assumed by its writer and what passes could turn by; and
    what fails by one alone, lifted.
    """
    found = [one for one in assumed_of(work.job, work.circuit) if where_asked(one.path, work, stages)[1]]
    least = least_at_rest(work)
    if not found and least is None:
        return ByAssumption(closed, {})
    key = ("assumed", least.said if least else "", *(one.path for one in found))
    judged = work.step(key, lambda: _judged(found, least, work, stages))
    return ByAssumption(ahead(lifted_stages(closed, judged.lifts), judged.gates), judged.lifts, judged.dips)


def _judged(
    found: Iterable[Assumed], least: LeastAtRest | None, work: Work, stages: tuple[Specification[Any], ...]
) -> _Judged:
    judged = _Judged(*_judging(work, stages))
    if least is not None:
        _at_least(least, work, judged, stages)
    quiet: list[tuple[Assumed, list[Moved]]] = []
    for one in found:
        moved: list[Moved] = []
        turns = _alone(one, work, judged, stages, moved)
        if not turns and moved:
            quiet.append((one, moved))
    if len(quiet) > 1:
        _together(quiet, work, judged, stages)
    return judged


def _at_least(least: LeastAtRest, work: Work, judged: _Judged, stages: tuple[Specification[Any], ...]) -> None:
    """Of a current at rest that nobody gave, the least: what fails need not, and what passes must not fail there."""
    there, _ = work.supposing(lambda other: _judging(other, stages), **least.supposed)
    turned = _new(judged.now, there)
    if _of_another_plate(turned, judged.now):
        return
    label = label_at(least.path, work.job)
    turns = Turns(path=least.path, label=label, passes=_SURE)
    judged.lift(turned, turns, f"{_the(label)}, not given: {least.said} it need not fail")
    lost = [name for key, name in _lost(turned, judged.now).items() if there[key].verdict is Verdict.FAILS]
    if lost:
        text = f"It is planned with the most that it may draw; {least.said} it turns: {_listed(lost)}."
        judged.put("plate", check("plate.assumed.at_rest", "Current at rest not given", turns, text, _AT_REST,
                                  remedy="Give it, the code letter or the starting ratio."))  # fmt: skip


def _together(
    quiet: list[tuple[Assumed, list[Moved]]], work: Work, judged: _Judged, stages: tuple[Specification[Any], ...]
) -> None:
    """Where several that turn nothing alone turn something at once: the first such set."""
    for ways, together in worst_of_all([moved for _, moved in quiet], judged.now):
        there, _ = work.supposing(
            lambda other: _judging(other, stages), **merged([way.supposed for way in ways if way])
        )
        turned = _new(judged.now, there)
        if together.gates.isdisjoint(turned) or _of_another_plate(turned, judged.now):
            continue
        mine = [(one, way) for (one, _), way in zip(quiet, ways, strict=True) if way]
        labels = [label_at(one.path, work.job) for one, _ in mine]
        said = " and ".join(f"{way.times:g} times {_the(label)}" for label, (_, way) in zip(labels, mine, strict=True))
        sheet, turns = sheet_of(mine[0][0].part), Turns(path=mine[0][0].path, label=labels[0], passes=_SURE)
        if lost := _lost(turned, judged.now):
            text = f"With {said} it turns: {_listed(lost.values())}."
            judged.put(sheet, check(f"{sheet}.assumed.together", "Several assumed at once", turns, text, _SOURCE,
                                    remedy="Measure one of them, or say where it comes from."))  # fmt: skip
        names = " and ".join(_the(label) for label in labels)
        judged.lift(turned, turns, f"{names}, assumed: with {said} it need not fail")
        return


def _alone(
    one: Assumed, work: Work, judged: _Judged, stages: tuple[Specification[Any], ...], moved: list[Moved]
) -> bool:
    """Whether anything turns by it, put and lifted; where nothing does `moved` has what was found at either end."""
    label = label_at(one.path, work.job)
    turns, ends = Turns(path=one.path, label=label, passes=_SURE), ends_of(one, work.rules)
    lost: dict[tuple[str, ...], list[str]] = {}  # what turns, and all ends that do it
    dips: list[float | None] = []
    for group in ends:
        at = _turned(group, work, judged.now, stages, moved, dips)
        if at is not None:
            end, turned = at
            judged.lift(turned, turns, f"{_the(label)}, assumed: {end.said} it need not fail")
            lost.setdefault(tuple(_lost(turned, judged.now).values()), []).append(end.said)
    judged.deepen(dips)
    told = [f"{_ends(said)} it turns: {_listed(names)}." for names, said in lost.items() if names]
    if told or not ends:
        rest = len(told) - _NAMED
        more = f" {rest} more {'turns' if rest == 1 else 'turn'} others." if rest > 0 else ""
        sheet, text = sheet_of(one.part), " ".join(told[:_NAMED]) + more if told else "It may be otherwise."
        name = f"{label[:1].upper()}{label[1:]} is assumed"
        source = _SOURCE if any(end.times for group in ends for end in group) else _WORDS
        judged.put(sheet, check(f"{sheet}.assumed.{one.path}", name, turns, text, source,
                                remedy="Measure it, or say where it comes from."))  # fmt: skip
    return bool(lost) or not ends


def _ends(said: list[str]) -> str:
    """The ends that turn the same, ahead of what they turn.

    >>> _ends(["where it is “PVC”", "where it is “steel”"])
    'Where it is “PVC” or “steel”'
    """
    first, *others = said
    words = [first, *(other.removeprefix("where it is ") for other in others)]
    text = words[0] if len(words) == 1 else f"{', '.join(words[:-1])} or {words[-1]}"
    return text[:1].upper() + text[1:]


def _turned(
    group: tuple[End, ...], work: Work, now: dict[str, Seen], stages: tuple[Specification[Any], ...],
    moved: list[Moved], dips: list[float | None],
) -> tuple[End, dict[str, str]] | None:  # fmt: skip
    """What would no longer pass, or no longer fail, at the first of these that its plate could be of, and which; its
    dip goes to `dips`.
    """
    for end in group:
        there, dip = work.supposing(lambda other: _judging(other, stages), **end.supposed)
        turned = _new(now, there)
        if _of_another_plate(turned, now):
            continue
        dips.append(dip)
        if not turned and end.times:
            moved.append(Moved(end.times, end.supposed, there))
        return (end, turned) if turned else None
    return None


def _the(label: str) -> str:
    """As it stands in a sentence: "its impedance", "the friction" of "friction, ±"."""
    plain = label.partition(",")[0]
    return plain if plain.startswith("its ") else f"the {plain}"


def _new(now: dict[str, Seen], there: dict[str, Seen]) -> dict[str, str]:
    """Gates that no longer pass, or no longer fail, or are no longer asked and failed: their names by their keys."""
    gone = {key: seen.name for key, seen in now.items() if key not in there and seen.verdict is Verdict.FAILS}
    return {key: seen.name for key, seen in there.items() if _turns(now.get(key), seen.verdict)} | gone


def _lost(turned: Mapping[str, str], now: Mapping[str, Seen]) -> dict[str, str]:
    """Of what turns, what does not fail as it stands."""
    return {key: name for key, name in turned.items() if key not in now or now[key].verdict is not Verdict.FAILS}


def _of_another_plate(turned: Mapping[str, str], now: Mapping[str, Seen]) -> bool:
    """Whether the plate itself would no longer add up."""
    return any(key.startswith("plate.") and key not in OF_ITS_SUPPLY for key in _lost(turned, now))


def _listed(found: Iterable[str]) -> str:
    names = list(found)
    more = f" and {len(names) - _NAMED} more" if len(names) > _NAMED else ""
    return f"{', '.join(inside(name) for name in names[:_NAMED])}{more}"


def _turns(before: Seen | None, verdict: Verdict) -> bool:
    """Whether what passed does not any more, or what failed may pass."""
    if before is not None and before.verdict is Verdict.FAILS:
        return verdict.usable
    passed = before is None or before.verdict is Verdict.PASSES
    return passed and verdict is not Verdict.PASSES


def _judging(work: Work, stages: tuple[Specification[Any], ...]) -> tuple[dict[str, Seen], float | None]:
    """What is seen of each gate that weighs, and the dip at full voltage; what a stage that informs finds does not."""
    judging = [stage for stage in stages if not stage.informs]
    for stage in judging:
        work.found(stage)
    gates = [gate for stage in judging for key in stage.sheets for sheet in work.written(key) for gate in sheet.gates]
    dip = next((gate.value for gate in gates if gate.key == _DIP), None)
    return {gate.key: Seen(gate.verdict, gate.name, gate.margin) for gate in gates if gate.weighs}, dip
