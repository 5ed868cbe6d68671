"""A requirement and its verdict: the only place where verdicts are made.

A gate compares a band with a limit (docs/decisions/0014). What is stamped, measured or stated is a point, with the
standard's tolerance where it has one; what is assumed or estimated has a stated band. A gate passes where every end
of the bands passes, fails where every end fails, and else is to check: it then names the fact that decides and the
value of it at which the gate turns.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from itertools import product
from typing import Final

from vinegate.core.quantity import write


class Verdict(StrEnum):
    """The four words, best first. `check`: a fact decides; `not known`: a fact is missing."""

    PASSES = "passes"
    CHECK = "check"
    UNKNOWN = "not known"
    FAILS = "fails"

    @property
    def rank(self) -> int:
        return _RANKS[self]

    @property
    def mark(self) -> str:
        """The word without spaces, for styles."""
        return self.value.replace(" ", "-")

    @property
    def usable(self) -> bool:
        """Passes, or passes once a fact is settled."""
        return self in (Verdict.PASSES, Verdict.CHECK)


_RANKS: Final = {verdict: rank for rank, verdict in enumerate(Verdict)}


class Kind(StrEnum):
    """What a requirement is: it decides, it is confirmed where the circuit stands, or it only informs."""

    ENGINEERING = "engineering"
    CONFIRM = "to confirm"
    INFORMS = "informs"


@dataclass(frozen=True, slots=True, kw_only=True)
class Turns:
    """The fact that decides a gate: where it is typed, and what settles the gate either way, in words and as typed.

    `settled` is the fact's path ("machine.stall_hot"); `passes_as` and `fails_as` are texts for its field, empty where
    no value does it.
    """

    path: str
    label: str
    passes: str = ""
    fails: str = ""
    passes_as: str = ""
    fails_as: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Gate:
    """One requirement: what was asked, what came out, what to do about it.

    `value`, `limit` and `margin` are in `unit`; margin is positive on the passing side and None where
    the requirement is not a number. `low` and `high` are the ends of the value's band. `needs` names the facts that a
    gate which is not known lacks; `turns` the fact that decides one to check.
    """

    key: str
    name: str
    verdict: Verdict
    sentence: str
    source: str
    value: float | None = None
    low: float | None = None
    high: float | None = None
    limit: float | None = None
    margin: float | None = None
    unit: str = ""
    remedy: str = ""
    needs: tuple[str, ...] = ()
    rests_on: tuple[str, ...] = ()
    turns: Turns | None = None
    kind: Kind = Kind.ENGINEERING

    @property
    def weighs(self) -> bool:
        """Whether it counts in the circuit's verdict."""
        return self.kind is Kind.ENGINEERING

    @property
    def estimated(self) -> bool:
        """Whether its value has a band."""
        return bool(self.rests_on)


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """A verdict with its sentence and rule, before it belongs to a gate."""

    verdict: Verdict
    text: str
    rule: str = ""
    turns: Turns | None = None
    kind: Kind = Kind.ENGINEERING


def meets(text: str, rule: str = "") -> Answer:
    """The rule is met."""
    return Answer(verdict=Verdict.PASSES, text=text, rule=rule)


def breaks(text: str, rule: str = "") -> Answer:
    """The rule is broken."""
    return Answer(verdict=Verdict.FAILS, text=text, rule=rule)


def lacks(text: str, rule: str = "") -> Answer:
    """A fact is missing: the text says which."""
    return Answer(verdict=Verdict.UNKNOWN, text=text, rule=rule)


def depends(text: str, turns: Turns, rule: str = "") -> Answer:
    """A fact that can be had decides."""
    return Answer(verdict=Verdict.CHECK, text=text, rule=rule, turns=turns)


def ruled(met: bool, text: str, rule: str = "") -> Answer:
    """Met or broken."""
    return meets(text, rule) if met else breaks(text, rule)


def on_site(text: str, rule: str = "") -> Answer:
    """Nothing here decides it: someone confirms it where the circuit stands."""
    return Answer(verdict=Verdict.UNKNOWN, text=text, rule=rule, kind=Kind.CONFIRM)


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """A fact behind a comparison: where it is typed, what it is taken as, and the band in which it may lie.

    In its own `unit`. `how` is "assumed" or "estimated"; empty for one that is given, whose band is the standard's
    tolerance. `typed` is the band of a value typed for it, as multiples. Without a `path` it is a model's own
    tolerance, which no single fact settles; where it is `hard`, no value outside its band can be; `whole` is a count.
    `sense` is 1 where more of it leaves more room, −1 where less, 0 where that is not said: then both ends are tried.
    """

    path: str = ""
    label: str = ""
    unit: str = ""
    value: float
    low: float
    high: float
    how: str = ""
    typed: tuple[float, float] = (1.0, 1.0)
    given: bool = False
    hard: bool = False
    whole: bool = False
    sense: int = 0

    def at(self, value: float) -> tuple[float, float]:
        """The band that a value typed for it would have."""
        return value * self.typed[0], value * self.typed[1]

    def text(self, value: float) -> str:
        return f"{write(value, 3)} {self.unit}".rstrip()

    @property
    def wide(self) -> bool:
        return self.high > self.low


def more(*taken: Taken) -> tuple[Taken, ...]:
    """Facts of which more leaves more room."""
    return tuple(replace(one, sense=1) for one in taken)


def less(*taken: Taken) -> tuple[Taken, ...]:
    """Facts of which more leaves less room."""
    return tuple(replace(one, sense=-1) for one in taken)


def point(value: float, *, path: str = "", label: str = "", unit: str = "") -> Taken:
    """A fact that is known: no band."""
    return Taken(path=path, label=label, unit=unit, value=value, low=value, high=value, given=True)


Room = Callable[..., float]
_BEYOND: Final = 1e4
_STEPS: Final = 20
_STRIDE: Final = 1.26
_REACH: Final = 24
_IN_ORDER: Final = 0.2  # of two facts that settle it alike, the one named first
_SLACK: Final = 1e-9


def _ends(taken: Sequence[Taken]) -> list[tuple[float, ...]]:
    return [(one.low, one.high) if one.wide else (one.value,) for one in taken]


def _worst(room: Room, ends: Sequence[tuple[float, ...]], taken: Sequence[Taken]) -> float:
    """Least room over the corners."""
    sides = [
        (end[0] if one.sense > 0 else end[-1],) if one.sense else end for end, one in zip(ends, taken, strict=True)
    ]
    return min(_finite(room(*corner)) for corner in product(*sides))


def _best(room: Room, ends: Sequence[tuple[float, ...]], taken: Sequence[Taken]) -> float:
    """Most room over the corners."""
    sides = [
        (end[-1] if one.sense > 0 else end[0],) if one.sense else end for end, one in zip(ends, taken, strict=True)
    ]
    return max(_finite(room(*corner)) for corner in product(*sides))


def _finite(value: float) -> float:
    return -_BEYOND if math.isnan(value) else min(max(value, -1e300), 1e300)


def _turning(room: Room, taken: Sequence[Taken], index: int, *, passing: bool) -> tuple[float, float] | None:
    """The value of one fact from which the gate surely passes (or fails), and the way it lies (+1 above, −1 below).

    The other facts stand at the end of their bands that is worst for it. None where no value does it.
    """
    one, others = taken[index], _ends(taken)

    def surely(value: float) -> bool:
        ends = [*others]
        low, high = one.at(value)
        ends[index] = (low, high) if high > low else (low,)
        return _worst(room, ends, taken) >= -_SLACK if passing else _best(room, ends, taken) < 0

    start = one.value if one.value > 0 else max(one.high, 1e-6)
    holds = surely(start)
    for way in (1, -1):
        before = start
        if one.sense:  # it turns once at most: no need to walk there
            far = start * _STRIDE ** (way * _REACH)
            if surely(far) != holds:
                inside, outside = (start, far) if holds else (far, start)
                return _bisected(surely, outside, inside), (-way if holds else way)
            continue
        for _ in range(_REACH):
            after = before * _STRIDE**way
            if surely(after) != holds:
                inside, outside = (before, after) if holds else (after, before)
                return _bisected(surely, outside, inside), (-way if holds else way)
            before = after
    return (start, 1) if holds else None


def _bisected(surely: Callable[[float], bool], no: float, yes: float) -> float:
    for _ in range(_STEPS):
        middle = math.sqrt(no * yes)
        if surely(middle):
            yes = middle
        else:
            no = middle
    return yes


def _outward(value: float, way: float) -> float:
    """Three digits, rounded to the side that still holds.

    >>> _outward(9.4321, 1), _outward(9.4321, -1)
    (9.44, 9.43)
    """
    if value <= 0:
        return value
    step = 10.0 ** (math.floor(math.log10(value)) - 2)
    rounded = (math.ceil(value / step - 0.01) if way > 0 else math.floor(value / step + 0.01)) * step
    return float(f"{rounded:.6g}")


def _decider(room: Room, taken: Sequence[Taken]) -> Turns | None:
    """Of the facts that can be typed, one that alone settles the gate: soft ones first, the nearest turn first."""
    found: list[tuple[float, Turns]] = []
    for index, one in enumerate(taken):
        if not one.path:
            continue
        good, bad = (_turning(room, taken, index, passing=passing) for passing in (True, False))
        if good is None and bad is None:
            continue
        nearest = good or bad
        assert nearest is not None
        far = abs(math.log(max(nearest[0], 1e-12) / max(one.value, 1e-12)))
        inside = one.low <= nearest[0] <= one.high
        if one.hard and not inside:
            continue
        cost = far + (0.0 if good else 10.0) + (5.0 if one.given else 0.0) + (0.0 if bad else 1.0)
        cost += (0.0 if inside else 2.0) + _IN_ORDER * index
        found.append((cost, _said(one, good, bad)))
    return min(found, key=lambda pair: pair[0])[1] if found else None


def _said(one: Taken, good: tuple[float, float] | None, bad: tuple[float, float] | None) -> Turns:
    passes, passes_as = _words(one, good)
    fails, fails_as = _words(one, bad)
    return Turns(path=one.path, label=one.label, passes=passes, fails=fails, passes_as=passes_as, fails_as=fails_as)


def _words(one: Taken, turn: tuple[float, float] | None) -> tuple[str, str]:
    """The side of a turn in words, and a value on it as one would type it."""
    if turn is None:
        return "", ""
    value, way = turn
    if one.whole:
        count = math.ceil(value - 1e-3) if way > 0 else math.floor(value + 1e-3)
        if way > 0 and count - value < 1e-3:
            count += 1
        return f"{count} or {'more' if way > 0 else 'fewer'}", f"{count}"
    rounded = _outward(value, way)
    return f"{'over' if way > 0 else 'under'} {one.text(rounded)}", one.text(rounded * (1 + 0.02 * way))


def _because(turns: Turns | None, taken: Sequence[Taken]) -> str:
    """What decides, in words."""
    if turns is None:
        soft = [one.label for one in taken if one.wide and one.label]
        return f" It rests on {' and '.join(soft)}." if soft else ""
    one = next((fact for fact in taken if fact.path == turns.path), None)
    was = ""
    if one is not None:
        was = f"; {one.text(one.value)} {one.how or 'given'}"
    if turns.passes:
        return f" Passes for any {turns.label} {turns.passes}{was}."
    return f" Fails for any {turns.label} {turns.fails}{was}."


def at_most(
    key: str,
    name: str,
    value: float | None,
    limit: float | None,
    *,
    sentence: str,
    source: str,
    remedy: str = "",
    unit: str = "",
    rests: Sequence[Taken] = (),
    room: Room | None = None,
    band: tuple[float, float] | None = None,
    needs: tuple[str, ...] = (),
    kind: Kind = Kind.ENGINEERING,
) -> Gate:
    """`value` must not exceed `limit`, both in `unit`.

    `rests` are the facts behind the comparison; `room` is how much is left (nought or more passes) as a function of
    them, in their order, by default the limit less the value. `band` is the value's own, where no fact stands for it.
    """
    return _compare(key, name, value, limit, 1, sentence, source, remedy, unit, rests, room, band, needs, kind)


def at_least(
    key: str,
    name: str,
    value: float | None,
    limit: float | None,
    *,
    sentence: str,
    source: str,
    remedy: str = "",
    unit: str = "",
    rests: Sequence[Taken] = (),
    room: Room | None = None,
    band: tuple[float, float] | None = None,
    needs: tuple[str, ...] = (),
    kind: Kind = Kind.ENGINEERING,
) -> Gate:
    """`value` must reach `limit`; the rest as `at_most`."""
    return _compare(key, name, value, limit, -1, sentence, source, remedy, unit, rests, room, band, needs, kind)


def _compare(
    key: str,
    name: str,
    value: float | None,
    limit: float | None,
    sign: int,
    sentence: str,
    source: str,
    remedy: str,
    unit: str,
    rests: Sequence[Taken],
    room: Room | None,
    band: tuple[float, float] | None,
    needs: tuple[str, ...],
    kind: Kind,
) -> Gate:
    if value is None or limit is None:
        return replace(unknown(key, name, needs), kind=kind)
    slack = _SLACK * max(abs(limit), 1e-6)
    if room is None:
        ends = (value,) if band is None else band
        rooms = [sign * (limit - end) + slack for end in ends]
        worst, best = min(rooms), max(rooms)
    else:
        known = room
        worst = _worst(known, _ends(rests), rests) + slack
        best = _best(known, _ends(rests), rests) + slack
    verdict = Verdict.PASSES if worst >= 0 else Verdict.FAILS if best < 0 else Verdict.CHECK
    turns = None
    if verdict is Verdict.CHECK:
        turns = _decider(room, rests) if room is not None else None
        sentence += _because(turns, rests)
    soft = tuple(dict.fromkeys(one.label for one in rests if one.wide and one.label))
    low, high = band or (None, None)
    return Gate(
        key=key,
        name=name,
        verdict=verdict,
        sentence=sentence,
        source=source,
        value=value,
        low=low,
        high=high,
        limit=limit,
        margin=sign * (limit - value),
        unit=unit,
        remedy="" if verdict is Verdict.PASSES else remedy,
        rests_on=soft or (("its estimate",) if band and band[1] > band[0] else ()),
        turns=turns,
        kind=kind,
    )


def rule(
    key: str,
    name: str,
    met: bool,
    sentence: str,
    source: str,
    *,
    remedy: str = "",
    value: float | None = None,
    limit: float | None = None,
    margin: float | None = None,
    unit: str = "",
    kind: Kind = Kind.ENGINEERING,
) -> Gate:
    """A requirement that is met or not, on facts alone."""
    return Gate(
        key=key,
        name=name,
        verdict=Verdict.PASSES if met else Verdict.FAILS,
        sentence=sentence,
        source=source,
        value=value,
        limit=limit,
        margin=margin,
        unit=unit,
        remedy="" if met else remedy,
        kind=kind,
    )


def over(path: str, label: str, taken: str, gates: Mapping[str, Gate]) -> Gate:
    """One requirement over what a fact that is one of a few words may be: the gate of each word, and the one taken.

    Passes, or fails, only where all of them do; else the fact is named with the words that settle it.
    """
    gate = gates[taken]
    if len({one.verdict for one in gates.values()}) == 1:
        return gate
    good = [word for word, one in gates.items() if one.verdict is Verdict.PASSES]
    bad = [word for word, one in gates.items() if one.verdict is Verdict.FAILS]
    turns = Turns(
        path=path,
        label=label,
        passes=" or ".join(good),
        fails=" or ".join(bad),
        passes_as=next(iter(good), ""),
        fails_as=next(iter(bad), ""),
    )
    text = f"{gate.sentence} Passes with {label} {turns.passes}; {taken} assumed." if good else gate.sentence
    return replace(gate, verdict=Verdict.CHECK, sentence=text, turns=turns, rests_on=(*gate.rests_on, label))


def from_answer(key: str, name: str, found: Answer, *, remedy: str = "", needs: tuple[str, ...] = ()) -> Gate:
    """The gate of an answer that was worked out elsewhere."""
    return Gate(
        key=key,
        name=name,
        verdict=found.verdict,
        sentence=found.text,
        source=found.rule,
        remedy="" if found.verdict is Verdict.PASSES else remedy,
        needs=needs if found.verdict is Verdict.UNKNOWN else (),
        turns=found.turns,
        kind=found.kind,
    )


def check(key: str, name: str, turns: Turns, sentence: str, source: str, *, remedy: str = "") -> Gate:
    """A requirement that a fact decides which is no number, or is asked for the first time here."""
    return Gate(key=key, name=name, verdict=Verdict.CHECK, sentence=sentence, source=source, remedy=remedy, turns=turns)


def confirm(key: str, name: str, done: bool, sentence: str, source: str) -> Gate:
    """For the checklist: confirmed where the circuit stands, or still to be."""
    return Gate(
        key=key,
        name=name,
        verdict=Verdict.PASSES if done else Verdict.UNKNOWN,
        sentence=sentence,
        source=source,
        kind=Kind.CONFIRM,
    )


def unknown(key: str, name: str, needs: tuple[str, ...]) -> Gate:
    """A gate that cannot be judged: it names the facts it lacks."""
    listed = ", ".join(needs) if needs else "facts"
    return Gate(
        key=key,
        name=name,
        verdict=Verdict.UNKNOWN,
        sentence=f"Not known yet: {listed}.",
        source="",
        needs=needs or ("facts",),
        remedy=f"Give {listed}.",
    )


def informs(gate: Gate) -> Gate:
    """The same gate, leaving the circuit's verdict alone."""
    return replace(gate, kind=Kind.INFORMS)


def worst(gates: Iterable[Gate]) -> Verdict:
    """The verdict that stands for several gates: the worst of those that weigh; it passes where none is asked."""
    return worst_of(gate.verdict for gate in gates if gate.weighs)


def worst_of(verdicts: Iterable[Verdict]) -> Verdict:
    """The worst of several; it passes where there is none."""
    return max(verdicts, key=lambda verdict: verdict.rank, default=Verdict.PASSES)


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


def tally(gates: Iterable[Gate]) -> dict[Verdict, int]:
    """How many gates that weigh stand how."""
    counts = dict.fromkeys(Verdict, 0)
    for gate in gates:
        if gate.weighs:
            counts[gate.verdict] += 1
    return counts
