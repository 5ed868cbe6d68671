"""What a stage is, and one circuit being planned: each stage once, and not again while nothing it read has changed.

A step notes the facts it reads and the findings of other steps it uses (docs/decisions/0016). Its findings are kept
with both; they hold while every fact has the value it had and every finding is the one it was.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Mapping
from dataclasses import field
from typing import Any, Generic, TypeVar, cast

from vinegate.core.alike import alike
from vinegate.core.facts import Circuit, Job
from vinegate.core.field import Facts
from vinegate.core.notebook import Notebook, Reads
from vinegate.core.paper import PaperTable
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet, Stage
from vinegate.core.watch import Given, watched_circuit, watched_job, watched_sources

R = TypeVar("R")
Named = frozenset[tuple[str, str]]
"""Part and field of each fact that is supposed."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Specification(Generic[R]):
    """One stage of the job: its word, the sheets it keeps (key and title), and how it is planned.

    `plan` gets the work in hand: facts, rule set, earlier stages' findings by `work.found(THEIRS)`, and its sheets.
    """

    key: str
    plan: Callable[[Work], R]
    sheets: Mapping[str, str] = field(default_factory=dict)
    facts: Mapping[str, type[Facts]] = field(default_factory=dict)
    """Parts of the circuit's facts that are this stage's own, by their keys; read with `work.circuit.of(key, kind)`."""
    station: Callable[[R], tuple[str, str] | None] | None = None
    """What its station on the line says, in short, and its number; None where another stands for it, or it has none."""
    stands: str = ""
    """The kind of station behind which its own stands on the line; empty: just ahead of the driven machine."""
    paper: Callable[[R], tuple[PaperTable, ...]] | None = None
    """Its tables on paper, beside its working."""
    informs: bool = False
    """Whether all that it judges leaves the circuit's verdict alone: what is compared, what was measured."""
    beside: Callable[[R], bool] = lambda _: False
    """Whether what it found here does: it is only thought of, beside what is in use."""


@dataclass(slots=True)
class Step:
    """What a step found, with what it read and used, and the lines it wrote on each sheet."""

    reads: Reads
    uses: dict[Hashable, object]
    found: object = None
    sheets: dict[str, Sheet] = field(default_factory=dict)
    given: tuple[object, ...] = ()
    seen: dict[str, dict[Hashable, Sheet]] = field(default_factory=dict)
    """The sheets of other steps that it has read, by their keys: a gate there is in nobody's findings."""


@dataclass(slots=True)
class Closed:
    """A closed sheet, what it was made of, and the missing facts named before and after it."""

    parts: list[Sheet]
    named: frozenset[str]
    stage: Stage
    names: frozenset[str]


@dataclass(slots=True)
class Kept:
    """A circuit's last plan by its steps. One is kept for a circuit under one rule set."""

    last: tuple[Given, dict[Hashable, Step]] | None = None
    """Exchanged as one, so that two requests at once see either plan whole."""
    closed: dict[str, Closed] = field(default_factory=dict)
    supposed: dict[tuple[str, Named], tuple[Given, dict[Hashable, Step]]] = field(default_factory=dict)
    """The last plan of what was supposed beside it, by who did and which fields: taken up as this one is."""

    @property
    def steps(self) -> dict[Hashable, Step]:
        return self.last[1] if self.last is not None else {}


def _read_by(steps: Mapping[Hashable, Step]) -> Reads:
    return {path for step in steps.values() for path in step.reads}


class Work:
    """One circuit being planned: lives only inside one call of `plan_circuit`."""

    def __init__(self, job: Job, circuit: Circuit, rules: RuleSet, kept: Kept | None = None) -> None:
        self._book = Notebook()
        self._given = Given(job, circuit)
        self.job, self.circuit = watched_job(job, self._book), watched_circuit(circuit, self._book)
        self._sources = watched_sources(job, circuit, self._book)
        self.rules = rules
        self._kept = kept if kept is not None else Kept()
        self._before: list[tuple[dict[Hashable, Step], Reads]] = []
        if self._kept.last is not None:
            self._take_up(self._kept.last)
        self._done: dict[Hashable, Step] = {}
        self._now: Step | None = None

    def _take_up(self, last: tuple[Given, dict[Hashable, Step]]) -> None:
        """Look there too for steps that still hold, after those that were taken up earlier."""
        given, steps = last
        self._before.append((steps, self._given.changed_since(given)))

    def found(self, stage: Specification[R]) -> R:
        """What a stage finds: kept from before where nothing it read has changed."""
        return self.step(stage.key, lambda: stage.plan(self))

    def step(self, key: Hashable, make: Callable[[], R], *given: object) -> R:
        """What a step finds. `given` are the values it is made from, beside the facts it reads."""
        done = self._done.get(key)
        if done is None:
            done = self._still(key, given) or self._made(key, make, given)
            self._done[key] = done
        if self._now is not None:
            self._now.uses[key] = done.found
        return cast(R, done.found)

    def used(self) -> tuple[object, ...]:
        """What the step in hand has used of other steps so far: what a part of it is made from."""
        assert self._now is not None
        return tuple(self._now.uses.values())

    def sheet(self, key: str) -> Sheet:
        """Where the step in hand writes on a sheet."""
        assert self._now is not None
        sheets = self._now.sheets
        if key not in sheets:
            sheets[key] = Sheet(key, "", sources=self._sources)
        return sheets[key]

    def written(self, key: str) -> list[Sheet]:
        """What every step has written on a sheet, in their order."""
        found = self._on(key)
        if self._now is not None:
            self._now.seen[key] = found
        return list(found.values())

    def _on(self, key: str) -> dict[Hashable, Sheet]:
        return {name: step.sheets[key] for name, step in self._done.items() if key in step.sheets}

    def reads(self) -> Reads:
        """Every fact that the plan rests on."""
        return _read_by(self._done)

    def supposing(
        self, found: Callable[[Work], R], *, on_job: Mapping[str, Mapping[str, Any]] | None = None,
        **parts: Mapping[str, Any],
    ) -> R:  # fmt: skip
        """What would be found were these fields of these parts of the circuit, or of the job, so; it is noted what
        that read.
        """
        job, circuit = self._given.job, self._given.circuit
        changed: dict[str, Any] = {part: circuit.part(part).model_copy(update=values) for part, values in parts.items()}
        of_job = {part: job.part(part).model_copy(update=values) for part, values in (on_job or {}).items()}
        given = Given(job.with_parts(of_job), circuit.with_parts(**changed))
        named = frozenset((part, name) for part, values in (*parts.items(), *(on_job or {}).items()) for name in values)
        key = (found.__qualname__, named)
        before = self._kept.supposed.get(key)
        if before is not None and not given.changed_since(before[0]):
            done = before[1]  # what is supposed hides all that was changed
        else:
            work = Work(given.job, given.circuit, self.rules, Kept(last=(self._given, dict(self._done))))
            if before is not None:
                work._take_up(before)
            for (_, fewer), done_before in list(self._kept.supposed.items()):
                if fewer < named:  # where less of the same was supposed, much of it holds here
                    work._take_up(done_before)
            work.step(key, lambda: found(work))
            done = work._done
        self._kept.supposed[key] = (given, done)
        self._book.reads |= _read_by(done)
        return cast(R, done[key].found)

    def keep(self) -> None:
        """Remember this plan's steps, and those of before that still hold though it did not take them."""
        for key, old in self._before[0][0].items() if self._before else ():
            if key not in self._done and self._still(key, old.given) is old:
                self._done[key] = old
        self._kept.last = (self._given, self._done)

    def _still(self, key: Hashable, given: tuple[object, ...]) -> Step | None:
        """The step as it was, where it still holds."""
        for steps, changed in self._before:
            old = steps.get(key)
            if old is None or not old.reads.isdisjoint(changed) or not alike(old.given, given):
                continue
            if self._all_hold(old.uses) and self._as_seen(old):
                return old
        return None

    def _all_hold(self, uses: dict[Hashable, object]) -> bool:
        done = self._done
        for key, used in uses.items():
            now = done.get(key)
            if not (self._holds(key, used) if now is None else now.found is used):
                return False
        return True

    def _holds(self, key: Hashable, used: object) -> bool:
        """Whether a step that is not done yet will find what was used."""
        for steps, _ in self._before:
            old = steps.get(key)
            if old is None or old.found is not used:
                continue  # one that another plan used: what that was made from is not what this one is
            done = self._still(key, old.given)
            if done is not None and done.found is used:
                self._done[key] = done
                return True
        return False

    def _as_seen(self, old: Step) -> bool:
        """Whether the sheets that it has read say what they said."""
        return all(alike(self._on(key), sheets) for key, sheets in old.seen.items())

    def _made(self, key: Hashable, make: Callable[[], Any], given: tuple[object, ...]) -> Step:
        outer, reads = self._now, self._book.reads
        step = self._now = Step(reads=set(), uses={}, given=given)
        self._book.reads = step.reads
        try:
            step.found = make()
        finally:
            self._now, self._book.reads = outer, reads
            for sheet in step.sheets.values():
                sheet.sources = {}
        for steps, _ in self._before:
            old = steps.get(key)
            if old is not None and alike(old.found, step.found):
                step.found = old.found  # what rests on it still holds
                break
        return step
