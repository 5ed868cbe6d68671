"""The whole flow on one page: facts in, plan out."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import field
from enum import Flag, auto
from typing import Annotated, Any, Final, TypeVar, cast

from pydantic import Field
from pydantic.json_schema import SkipJsonSchema

from vinegate.core import stages
from vinegate.core.answer import Findings, Piece, answer
from vinegate.core.by_assumption import with_assumed
from vinegate.core.cautions import CAUTIONS
from vinegate.core.close import close
from vinegate.core.declared import declared
from vinegate.core.doubt import Doubt
from vinegate.core.facts import (
    CIRCUIT_STAGES,
    JOB_STAGES,
    LISTED,
    Circuit,
    Job,
    RuleSetName,
    kind_of,
    number_of,
    read_circuit,
    read_job,
)
from vinegate.core.field import FieldError
from vinegate.core.grade import Gate, Kind, Verdict, tally, worst
from vinegate.core.lifted import Standing, lifted_comparison, lifted_placed, lifted_protected, lifted_stopping, standing
from vinegate.core.load.stage import LOAD, Asked
from vinegate.core.located import located
from vinegate.core.machine.describe import Machine
from vinegate.core.machine.stage import MACHINE
from vinegate.core.paper import PaperPicture, PaperTable
from vinegate.core.place.stage import PLACE, Placed
from vinegate.core.protection.stage import PROTECTION, Protected
from vinegate.core.records import dataclass, replace
from vinegate.core.rules.dialect import cite, say
from vinegate.core.rules.sets import rule_set
from vinegate.core.sheet import Missing, Stage
from vinegate.core.start.compare import Comparison
from vinegate.core.start.eligible import turns_a_field
from vinegate.core.start.elsewhere import stopped_by_drive
from vinegate.core.start.stage import START, every_way, let_go, other_source
from vinegate.core.stop.stage import STOP, Stopping, every_stop
from vinegate.core.unread import with_unread
from vinegate.core.worded import (
    comparison_in,
    doubted_comparison,
    doubted_protected,
    doubted_stages,
    placed_in,
    protected_in,
    stopping_in,
    wrong_plate,
)
from vinegate.core.work import Kept, Specification, Work
from vinegate.core.working import Figure

R = TypeVar("R")


class Beside(Flag):
    """What a plan works beside what is in use: for whoever shows it. Verdicts, figures and answer are the same."""

    STARTS = auto()
    """The ways to start that its answer does not weigh, and what is said of them."""
    STOPS = auto()
    """The ways to stop that are not in use."""
    SOURCE = auto()
    """The ways to start on the source that is not in use."""
    PAPERS = auto()
    """Tables on paper."""
    DOCUMENT = STARTS | STOPS | PAPERS
    """What an open file has."""
    ALL = DOCUMENT | SOURCE


NOTHING: Final = Beside(0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Shown:
    """A stage's station on the line: its name, what it is in short, its deciding number."""

    key: str
    name: str
    short: str
    number: str
    stands: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """Everything that follows from the facts, stage by stage. `version` is that of its shape as a document."""

    version: int = 3
    rules: RuleSetName
    answer: tuple[Piece, ...]
    stages: tuple[Stage, ...]
    errors: tuple[FieldError, ...]
    cautions: tuple[str, ...]
    machine: Machine | None = None
    comparison: Comparison | None = None
    load: Asked | None = None
    protected: Protected | None = None
    stopping: Stopping | None = None
    placed: Placed | None = None
    stations: tuple[Shown, ...] = ()
    """What the line says of stages that are none of these."""
    papers: tuple[PaperTable, ...] = ()
    pictures: tuple[PaperPicture, ...] = ()
    """Drawings, put in when it is issued."""
    doubt: Annotated[SkipJsonSchema[Doubt | None], Field(exclude=True)] = None
    """What its plate casts on all that rests on it: for the pages of a draft."""
    found: Annotated[SkipJsonSchema[Mapping[str, Any]], Field(exclude=True)] = field(
        default_factory=dict, compare=False
    )
    """What its stages found, by their keys: for the pages of a draft, not kept with an issued plan."""

    def of(self, stage: Specification[R]) -> R | None:
        """What a stage found; None in an issued plan."""
        return cast("R | None", self.found.get(stage.key))

    def stage(self, key: str) -> Stage:
        """The stage of that key. Raises KeyError."""
        for stage in self.stages:
            if stage.key == key:
                return stage
        raise KeyError(key)

    def figure(self, key: str) -> Figure | None:
        """The figure of that key ("start.full.current"), None when the facts do not give it.

        Raises KeyError for a key that no stage has: see docs/figures.md.
        """
        if not declared(key):
            raise KeyError(key)
        stage = self.stage(key.partition(".")[0])
        return next((figure for figure in stage.figures if figure.key == key), None)

    def fault_at(self, board: str | None) -> Figure | None:
        """The largest fault at a board of the circuit's way, for ratings; None while it is not known."""
        key = "board" if board in (None, "main") else board
        return self.figure("supply.fault_largest") or self.figure(f"supply.fault_at_{key}")

    def lines(self, stage: Stage) -> tuple[Figure, ...]:
        """A stage's working: what it uses of other sheets, then its own."""
        others = [self.figure(key) for key in stage.refers]
        return (*(figure for figure in others if figure is not None), *stage.figures)

    def gate(self, key: str) -> Gate:
        """The gate of that key ("start.dip"). Raises KeyError."""
        for gate in self.gates:
            if gate.key == key:
                return gate
        raise KeyError(key)

    @property
    def gates(self) -> tuple[Gate, ...]:
        return tuple(gate for stage in self.stages for gate in stage.gates)

    @property
    def weighing(self) -> tuple[Gate, ...]:
        """The gates that decide the circuit, without those of methods not chosen."""
        return tuple(gate for gate in self.gates if gate.weighs)

    @property
    def to_confirm(self) -> tuple[Gate, ...]:
        """The checklist for where the circuit stands."""
        return tuple(gate for gate in self.gates if gate.kind is Kind.CONFIRM)

    @property
    def tally(self) -> dict[Verdict, int]:
        """How many gates that weigh stand how."""
        return tally(self.gates)

    @property
    def missing(self) -> tuple[Missing, ...]:
        """Each missing fact once, in the order the sheets ask for them: supply, plate, run."""
        return in_order(missing for stage in self.stages for missing in stage.missing)

    @property
    def verdict(self) -> Verdict:
        return worst(self.gates)


_SHEETS: Final = ("supply", "standby", "main_board", "board", "plate", "wiring", "load", "limits", "start",
                  "protection", "stop", "place", "hazard", "area", "machine")  # fmt: skip
_FIELDS: Final = {**JOB_STAGES, **LISTED, **CIRCUIT_STAGES}
_PLACE: Final = {
    path: place for place, path in enumerate(f"{stage}.{name}" for stage in _SHEETS for name in _FIELDS[stage].fields())
}


def _place_of(missing: Missing) -> tuple[int, int]:
    part, _, name = missing.path.partition(".")
    kind = kind_of(part)
    return _PLACE.get(f"{kind or part}.{name}", len(_PLACE)), number_of(part) if kind else 0


def in_order(missing: Iterable[Missing]) -> tuple[Missing, ...]:
    """Each missing fact once, as the sheets ask for them."""
    once: dict[str, Missing] = {}
    for item in missing:
        once.setdefault(item.path, item)
    return tuple(sorted(once.values(), key=_place_of))


def plan_circuit(
    job: Job,
    circuit: Circuit,
    errors: tuple[FieldError, ...] = (),
    *,
    beside: Beside = Beside.ALL,
    kept: Kept | None = None,
) -> Plan:
    """Plan one circuit. The same facts give the same plan; missing facts shrink it and are named.

    `beside` is what is worked beside what is in use; without any of it a plan takes about half its time. `kept` is the
    circuit's last plan under the same rule set: what rests on nothing that has changed is taken from it, and this one
    is kept in it.
    """
    kept = kept if kept is not None else Kept()
    work = Work(job, located(job, circuit), rule_set(job.rules), kept)
    ways = _find(work, beside)
    closed, now, wrong = _closed(work, kept, errors)
    doubt = wrong[0] if wrong is not None else None
    comparison = lifted_comparison(_compared(work, ways, beside, doubt=doubt), now)
    plan = Plan(
        rules=job.rules, answer=answer(_findings(work, closed, comparison, wrong)),
        stages=closed,
        errors=errors,
        cautions=CAUTIONS,
        machine=work.found(MACHINE).machine,
        comparison=comparison,
        load=work.found(LOAD).asked,
        protected=lifted_protected(_protected(work, doubt=doubt), now),
        stopping=lifted_stopping(_stopping(work, beside), now),
        placed=lifted_placed(_placed(work), now), doubt=doubt, stations=_stations(work),
        papers=_papers(work) if Beside.PAPERS in beside else (),
        found={stage.key: work.found(stage) for stage in stages.STAGES},
    )  # fmt: skip
    let_go(work)
    work.keep()
    return plan


def _find(work: Work, beside: Beside) -> Comparison | None:
    """All that stages find, first what the start uses of the stop, as long as that is so; gives the ways to start."""
    stopped_by_drive(work)
    for stage in stages.STAGES:
        work.found(stage)
    return _ways(work, beside)


def _closed(
    work: Work, kept: Kept, errors: tuple[FieldError, ...]
) -> tuple[tuple[Stage, ...], Standing, tuple[Doubt, Gate] | None]:
    """The sheets with what cannot be read or is assumed, how their gates stand, and the doubt of a plate that cannot be
    true.
    """
    read = with_unread(close(work, stages.sheets_of(stages.STAGES), kept), errors, work, stages.STAGES)
    assumed = with_assumed(read, work, stages.STAGES)
    closed, lifts = assumed.stages, assumed.lifts
    wrong = wrong_plate(read)  # of one that is assumed too: nothing passes by a value that cannot be
    if wrong is None:
        return closed, standing(closed, lifts, None, assumed.dips), None
    closed = doubted_stages(closed, wrong[0])
    now = standing(closed, lifts, wrong[0], assumed.dips)
    return closed, now, (wrong[0], now.gates[wrong[1].key])


def _stations(work: Work) -> tuple[Shown, ...]:
    """The stations of stages that say for themselves what stands there."""
    found = []
    for stage in stages.STAGES:
        said = stage.station(work.found(stage)) if stage.station is not None else None
        if said is not None:
            short, number = say(said[0], work.rules.name), said[1]
            name = stage.sheets[stage.key]
            found.append(Shown(key=stage.key, name=name, short=short, number=number, stands=stage.stands))
    return tuple(found)


def _papers(work: Work) -> tuple[PaperTable, ...]:
    """The tables of stages that have some, in the rule set's words."""
    found: list[PaperTable] = []
    for stage in stages.STAGES:
        if stage.paper is not None:
            found += work.step(f"{stage.key} on paper", lambda stage=stage: _paper(work, stage), work.found(stage))  # type: ignore[misc]
    return tuple(found)


def _paper(work: Work, stage: Specification[Any]) -> tuple[PaperTable, ...]:
    rules = work.rules.name
    assert stage.paper is not None
    return tuple(
        replace(
            table,
            title=say(table.title, rules),
            head=tuple(say(one, rules) for one in table.head),
            rows=tuple(tuple(cite(say(cell, rules), rules) for cell in row) for row in table.rows),
        )
        for table in stage.paper(work.found(stage))
    )


def _ways(work: Work, beside: Beside) -> Comparison | None:
    """The ways to start: all of them where they are shown, else those that the answer weighs."""
    used = work.found(START).comparison
    return work.step("every way to start", lambda: every_way(work)) if Beside.STARTS in beside else used


def _compared(work: Work, found: Comparison | None, beside: Beside, *, doubt: Doubt | None) -> Comparison | None:
    """The ways to start as they are shown; the other source beside them where it is asked for."""
    rules = work.rules.name
    if found is None:
        return None
    key = "every way in words" if Beside.STARTS in beside else "start in words"
    shown = work.step(key, lambda: comparison_in(found, rules), found)
    if doubt is not None:
        shown = doubted_comparison(shown, doubt)
    if Beside.SOURCE in beside:
        shown = replace(shown, other=work.step("start on the other source", lambda: other_source(work)))
    return shown


def _protected(work: Work, *, doubt: Doubt | None) -> Protected:
    found, rules = work.found(PROTECTION), work.rules.name
    shown = work.step("protection in words", lambda: protected_in(found, rules), found)
    return doubted_protected(shown, doubt) if doubt is not None else shown


def _stopping(work: Work, beside: Beside) -> Stopping | None:
    found, rules, key = work.found(STOP), work.rules.name, "stop in words"
    if Beside.STOPS in beside:
        found, key = work.step("every way to stop", lambda: every_stop(work)), "every stop in words"
    return work.step(key, lambda: stopping_in(found, rules), found) if found else None


def _placed(work: Work) -> Placed:
    found, rules = work.found(PLACE), work.rules.name
    return work.step("place in words", lambda: placed_in(found, rules), found)


def _findings(
    work: Work, stages: tuple[Stage, ...], comparison: Comparison | None, wrong: tuple[Doubt, Gate] | None
) -> Findings:
    study, hangs_on_another = work.found(START), work.circuit.wiring.board not in (None, "main")
    stands_on_it = turns_a_field(work.circuit, work.job)
    return Findings(
        words=work.rules.words,
        locked_rotor=study.locked_rotor.high if study.locked_rotor and stands_on_it else None,
        full=study.moment.full,
        wye=study.moment.wye,
        dip_limit=study.dip_limit,
        eligible=study.eligible,
        chosen=study.chosen,
        gates=tuple(gate for stage in stages for gate in stage.gates),
        missing=in_order(item for stage in stages for item in stage.missing),
        comparison=comparison,
        wrong=wrong,
        board=work.job.main_board.name or "the main board" if hangs_on_another else "the board",
    )


def plan_raw(
    rules: RuleSetName,
    job_raw: Mapping[str, Any],
    circuit_raw: Mapping[str, Any],
    *,
    beside: Beside = Beside.ALL,
    kept: Kept | None = None,
) -> Plan:
    """Plan a circuit from facts as typed: what pages, files and the command share."""
    job, job_errors = read_job(job_raw, rules)
    circuit, circuit_errors = read_circuit(circuit_raw, rules)
    return plan_circuit(job, circuit, job_errors + circuit_errors, beside=beside, kept=kept)
