"""What a stage's page half is: the facts its sheet asks for, what its template shows, and its answer."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from flask import request

from vinegate.core.answer import Piece
from vinegate.core.facts import Circuit, Job, kind_of
from vinegate.core.grade import Verdict
from vinegate.core.paper import PaperPicture, PaperTable
from vinegate.core.plan import NOTHING, Beside, Plan
from vinegate.store.drafts import Change
from vinegate.store.jobs import Access, Raw
from vinegate.store.models import Circuit as KeptCircuit
from vinegate.web.form import FormField, shown_parts


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """A circuit's draft, read and planned."""

    job_raw: Raw
    circuit_raw: Raw
    job: Job
    circuit: Circuit
    plan: Plan

    def drafted(self, path: str) -> str:
        """What stands in the draft at a circuit's path."""
        stage, _, name = path.partition(".")
        return str((self.circuit_raw.get(stage) or {}).get(name) or "")


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """What a sheet read from its own form beside the fields: changes by path, what it could not read, and what else
    it says of what it read.
    """

    changes: Mapping[str, Change] = field(default_factory=dict)
    wrong: str = ""
    elsewhere: str = ""
    typed: str = ""

    @property
    def says(self) -> bool:
        """Whether it has something to show beside the fields."""
        return bool(self.wrong or self.elsewhere)


@dataclass(frozen=True, slots=True, kw_only=True)
class InHand:
    """A sheet being shown: the draft, its fields, and of a job's many boards or areas those with and without fields."""

    planned: Planned
    fields: dict[str, FormField] = field(default_factory=dict)
    shown: list[str] = field(default_factory=list)
    by_name: list[str] = field(default_factory=list)
    access: Access | None = None
    """Whose job it is in, for a sheet that looks at its other circuits."""
    kept: KeptCircuit | None = None
    """The circuit as it is kept, for a sheet that looks at what is kept beside it."""
    reading: Reading = Reading()

    @property
    def plan(self) -> Plan:
        return self.planned.plan


@dataclass(frozen=True, slots=True, kw_only=True)
class Page:
    """One sheet. `asks` are parts ("plate") or single facts ("limits.dip"); `lists` the kind of numbered parts it asks.

    `context` gives its template what it needs beyond what every sheet has; `answer` its own first sentence, empty for
    the plan's. Sheets that share an answer name one another in `beside`: what is elsewhere is then neither of them.
    """

    key: str
    asks: tuple[str, ...]
    context: Callable[[InHand], Mapping[str, Any]] = lambda _: {}
    answer: Callable[[Plan], tuple[Piece, ...]] = lambda _: ()
    beside: tuple[str, ...] = ()
    lists: str = ""
    wanted: Callable[[Planned], set[str]] = lambda _: set()
    works: Beside = NOTHING
    """What it shows beside what is in use."""
    files: Mapping[str, Callable[[Plan], tuple[str, str] | None]] = field(default_factory=dict)
    """What it gives as a file, by name: text and its kind, None while there is nothing."""
    headline: Callable[[Plan], Verdict] = lambda plan: plan.verdict
    """The verdict ahead of its answer: the circuit's, unless the sheet judges something else."""
    reads: Callable[[Access, Raw, Mapping[str, str]], Reading] = lambda *_: Reading()
    """Facts from its own form: the job, the circuit's facts, what was sent."""
    papers: Callable[[Plan, Raw, Raw], tuple[PaperTable, ...]] = lambda *_: ()
    """Tables on paper that need more than the plan: the plan, the job's facts, the circuit's."""
    pictures: Callable[[Plan], tuple[PaperPicture, ...]] = lambda _: ()
    """What it draws on paper beside what every sheet has; kept with an issued plan."""

    @property
    def template(self) -> str:
        return f"stages/{self.key}/sheet.html"

    @property
    def here(self) -> tuple[str, ...]:
        """Sheets of which this one speaks itself."""
        return self.beside or (self.key,)

    def parts(self, planned: Planned) -> tuple[list[str], list[str]]:
        """Of the job's numbered parts those shown with fields, a new one last, and those shown by name."""
        if not self.lists:
            return [], []
        wrong = {error.path.partition(".")[0] for error in planned.plan.errors}
        asked = {key for key in (*wrong, opened()) if kind_of(key) == self.lists}
        return shown_parts(self.lists, planned.job_raw, self.wanted(planned) | asked)


def opened() -> str:
    """The board or area that was opened from the list."""
    return str(request.values.get("open", ""))
