"""The whole flow on one page: facts in, plan out."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from vinegate.core.answer import Findings, Piece, answer
from vinegate.core.cautions import CAUTIONS
from vinegate.core.facts import CIRCUIT_STAGES, JOB_STAGES, Circuit, Job, RuleSetName, read_circuit, read_job
from vinegate.core.field import FieldError
from vinegate.core.flow import Flow
from vinegate.core.grade import Gate, Kind, Verdict, tally, worst
from vinegate.core.load.stage import Asked
from vinegate.core.location.stage import Placed, located
from vinegate.core.machine.describe import Machine
from vinegate.core.protection.stage import Protected
from vinegate.core.rules import rule_set
from vinegate.core.sheet import Missing, Stage
from vinegate.core.starting.compare import Comparison
from vinegate.core.starting.start import StartStudy
from vinegate.core.stopping.stage import Stopping
from vinegate.core.worded import (
    comparison_in,
    doubted_comparison,
    doubted_protected,
    placed_in,
    protected_in,
    stopping_in,
    wrong_plate,
)
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """Everything that follows from the facts, stage by stage. `version` is that of its shape as a document."""

    version: int = 2
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

    def stage(self, key: str) -> Stage:
        """The stage of that key. Raises KeyError."""
        for stage in self.stages:
            if stage.key == key:
                return stage
        raise KeyError(key)

    def figure(self, key: str) -> Figure | None:
        """The figure of that key ("start.full.current"), None when the facts do not give it."""
        stage = self.stage(key.partition(".")[0])
        return next((figure for figure in stage.figures if figure.key == key), None)

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


_BOARDS = ("main_board", "board_1", "board_2", "board_3", "board_4")
_AREAS = ("area_1", "area_2", "area_3", "area_4")
_SHEETS = (
    "supply",
    "standby",
    *_BOARDS,
    "plate",
    "wiring",
    "load",
    "limits",
    "start",
    "protection",
    "stop",
    "place",
    "hazard",
    *_AREAS,
    "machine",
)
_FIELDS = {**JOB_STAGES, **CIRCUIT_STAGES}
_PLACE = {
    path: place for place, path in enumerate(f"{stage}.{name}" for stage in _SHEETS for name in _FIELDS[stage].fields())
}


def in_order(missing: Iterable[Missing]) -> tuple[Missing, ...]:
    """Each missing fact once, as the sheets ask for them."""
    once: dict[str, Missing] = {}
    for item in missing:
        once.setdefault(item.path, item)
    return tuple(sorted(once.values(), key=lambda item: _PLACE[item.path]))


def plan_circuit(job: Job, circuit: Circuit, errors: tuple[FieldError, ...] = (), *, both_sources: bool = True) -> Plan:
    """Plan one circuit. Pure: the same facts give the same plan; missing facts shrink it and are named.

    Without `both_sources` the source not in use is left out, which is a third quicker.
    """
    flow = Flow(job=job, circuit=located(job, circuit), rules=rule_set(job.rules))
    given = flow.know(both_sources=both_sources)
    study = flow.start(given)
    protected = flow.protect(given, study)
    stopping = flow.stop(given, study)
    placed = flow.place(given, protected)
    stages = flow.close()
    rules, comparison = job.rules.value, study.comparison
    protected = protected_in(protected, rules)
    if comparison is not None:
        comparison = comparison_in(comparison, rules)
    if wrong_plate(stages):
        protected = doubted_protected(protected)
        comparison = doubted_comparison(comparison) if comparison is not None else None
    return Plan(
        rules=job.rules,
        answer=answer(_findings(flow, study, stages, comparison)),
        stages=stages,
        errors=errors,
        cautions=CAUTIONS,
        machine=given.machine,
        comparison=comparison,
        load=given.load,
        protected=protected,
        stopping=stopping_in(stopping, rules) if stopping else None,
        placed=placed_in(placed, rules),
    )


def _findings(flow: Flow, study: StartStudy, stages: tuple[Stage, ...], comparison: Comparison | None) -> Findings:
    return Findings(
        words=flow.rules.words,
        locked_rotor=study.locked_rotor.high if study.locked_rotor else None,
        full=study.full,
        wye=study.wye,
        dip_limit=study.dip_limit,
        eligible=study.eligible,
        chosen=study.chosen,
        gates=tuple(gate for stage in stages for gate in stage.gates),
        missing=in_order(item for stage in stages for item in stage.missing),
        comparison=comparison,
    )


def plan_raw(
    rules: RuleSetName, job_raw: Mapping[str, Any], circuit_raw: Mapping[str, Any], *, both_sources: bool = True
) -> Plan:
    """Plan a circuit from facts as typed: what pages, files and the command share."""
    job, job_errors = read_job(job_raw, rules)
    circuit, circuit_errors = read_circuit(circuit_raw, rules)
    return plan_circuit(job, circuit, job_errors + circuit_errors, both_sources=both_sources)
