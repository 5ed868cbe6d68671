"""A requirement and its verdict: the only place where verdicts are made.

A gate compares a band with a limit (docs/decisions/0014). What is stamped, measured or stated is a point, with the
standard's tolerance where it has one; what is assumed or estimated has a stated band. A gate passes where every end
of the bands passes, fails where every end fails, and else is to check: it then names the fact that decides and the
value of it at which the gate turns.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from enum import StrEnum
from typing import Final

from vinegate.core.deciding import because, decider
from vinegate.core.doubt import Doubt
from vinegate.core.records import dataclass, replace
from vinegate.core.turning import SLACK, Room, Taken, Turns, both_rooms


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
    doubted: bool = False
    """Whether it would pass, did plate and supply not stand in doubt."""

    @property
    def weighs(self) -> bool:
        """Whether it counts in the circuit's verdict."""
        return self.kind is Kind.ENGINEERING

    @property
    def fails(self) -> bool:
        """Whether it decides, and fails."""
        return self.weighs and self.verdict is Verdict.FAILS

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
    needs: tuple[str, ...] = ()


def meets(text: str, rule: str = "") -> Answer:
    """The rule is met."""
    return Answer(verdict=Verdict.PASSES, text=text, rule=rule)


def breaks(text: str, rule: str = "") -> Answer:
    """The rule is broken."""
    return Answer(verdict=Verdict.FAILS, text=text, rule=rule)


def lacks(text: str, rule: str = "") -> Answer:
    """A fact is missing: the text says which."""
    return Answer(verdict=Verdict.UNKNOWN, text=text, rule=rule)


def wants(*needs: str) -> Answer:
    """Facts are missing, by their names as a gate names them."""
    return Answer(verdict=Verdict.UNKNOWN, text=f"Not known yet: {', '.join(needs)}.", needs=needs)


def depends(text: str, turns: Turns, rule: str = "") -> Answer:
    """A fact that can be had decides."""
    return Answer(verdict=Verdict.CHECK, text=text, rule=rule, turns=turns)


def unsettled(text: str, rule: str = "") -> Answer:
    """May pass or fail over what is estimated; who puts it on a sheet looks for the fact that settles it."""
    return Answer(verdict=Verdict.CHECK, text=text, rule=rule)


def changes(text: str, rule: str = "") -> Answer:
    """It will do once something is changed, that someone still has to change."""
    return Answer(verdict=Verdict.CHECK, text=text, rule=rule)


def ruled(met: bool, text: str, rule: str = "") -> Answer:
    """Met or broken."""
    return meets(text, rule) if met else breaks(text, rule)


def on_site(text: str, rule: str = "") -> Answer:
    """Nothing here decides it: someone confirms it where the circuit stands."""
    return Answer(verdict=Verdict.UNKNOWN, text=text, rule=rule, kind=Kind.CONFIRM)


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
    key: str, name: str, value: float | None, limit: float | None, sign: int, sentence: str, source: str, remedy: str,
    unit: str, rests: Sequence[Taken], room: Room | None, band: tuple[float, float] | None, needs: tuple[str, ...],
    kind: Kind,
) -> Gate:  # fmt: skip
    if value is None or limit is None:
        return replace(unknown(key, name, needs), kind=kind)
    if room is None:
        rooms = [sign * (limit - end) for end in ((value,) if band is None else band)]
        worst, best = min(rooms), max(rooms)
    else:
        worst, best = both_rooms(room, rests)
    slack = SLACK * max(abs(limit), 1e-6)
    verdict = Verdict.PASSES if worst + slack >= 0 else Verdict.FAILS if best + slack < 0 else Verdict.CHECK
    turns = None
    if verdict is Verdict.CHECK:
        turns = decider(room, rests) if room is not None else None
        sentence += because(turns, rests)
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


def ordered(
    key: str, name: str, low: float | None, high: float | None, *, sentence: str, source: str, unit: str, remedy: str
) -> tuple[Gate, ...]:
    """Two facts of which one is never above the other: a gate only where they are, as one was read or typed wrongly."""
    if low is None or high is None or low <= high:
        return ()
    return (
        rule(key, name, False, sentence, source, remedy=remedy, value=high, limit=low, margin=high - low, unit=unit),
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
    turns = Turns(path=path, label=label, passes=" or ".join(good), fails=" or ".join(bad),
                  passes_as=next(iter(good), ""), fails_as=next(iter(bad), ""))  # fmt: skip
    said = f"Passes with {label} {turns.passes}" if good else f"Fails with {label} {turns.fails}" if bad else ""
    text = f"{gate.sentence} {said}; {taken} assumed." if said else gate.sentence
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


def doubted(gate: Gate, doubt: Doubt) -> Gate:
    """What passes only because of a plate that cannot be, or not here: to check until that is mended; or fails so."""
    held = gate.verdict is Verdict.PASSES or (doubt.lifts and gate.verdict is Verdict.FAILS)
    if not held or gate.kind is not Kind.ENGINEERING:
        return gate
    sentence, turns = f"{gate.sentence} {doubt.behind}", gate.turns or doubt.turned(failing=gate.fails)
    return replace(gate, verdict=Verdict.CHECK, sentence=sentence, turns=turns, doubted=True)


def settled_by(gate: Gate, turns: Turns) -> Gate:
    """The same gate, to check, with the fact that settles it where no number of its comparison does."""
    text = f"{gate.sentence} Passes where {turns.label} is {turns.passes}."
    return replace(gate, turns=turns, sentence=text)


def resting(gate: Gate, label: str) -> Gate:
    """The same gate, to check: it turns over what this may be, which is no number of its comparison."""
    return replace(gate, verdict=Verdict.CHECK, sentence=f"{gate.sentence} It rests on {label}.")


def informs(gate: Gate) -> Gate:
    """The same gate, leaving the circuit's verdict alone."""
    return replace(gate, kind=Kind.INFORMS)


def worst(gates: Iterable[Gate]) -> Verdict:
    """The verdict that stands for several gates: the worst of those that weigh; it passes where none is asked."""
    return worst_of(gate.verdict for gate in gates if gate.weighs)


def worst_of(verdicts: Iterable[Verdict]) -> Verdict:
    """The worst of several; it passes where there is none."""
    return max(verdicts, key=lambda verdict: verdict.rank, default=Verdict.PASSES)


def worst_judged(gates: Iterable[Gate], *, begun: bool = True) -> Verdict:
    """The worst of gates that are all there is to go by: not known where there is none, or more is still to come."""
    found = [gate.verdict for gate in gates if gate.kind is not Kind.CONFIRM]
    return worst_of(found if found and begun else [*found, Verdict.UNKNOWN])


def tally(gates: Iterable[Gate]) -> dict[Verdict, int]:
    """How many gates that weigh stand how."""
    counts = dict.fromkeys(Verdict, 0)
    for gate in gates:
        if gate.weighs:
            counts[gate.verdict] += 1
    return counts
