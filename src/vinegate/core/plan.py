"""The whole flow on one page: facts in, plan out."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from math import pi
from typing import Any

from vinegate.core.answer import Findings, Piece, answer
from vinegate.core.cautions import CAUTIONS
from vinegate.core.facts import CIRCUIT_STAGES, JOB_STAGES, Circuit, Job, RuleSetName, read_circuit, read_job
from vinegate.core.field import FieldError
from vinegate.core.gate import Gate, Verdict, worst
from vinegate.core.load.stage import Asked, plan_load
from vinegate.core.location.stage import Placed, located, plan_place
from vinegate.core.machine.describe import Machine
from vinegate.core.machine.stage import plan_machine
from vinegate.core.plate.gates import plate_gates
from vinegate.core.plate.rated import rate
from vinegate.core.protection.need import Need
from vinegate.core.protection.overload import overload
from vinegate.core.protection.short_circuit import far_fault
from vinegate.core.protection.stage import Protected, plan_protection
from vinegate.core.rules import RunFacts, rule_set
from vinegate.core.sheet import Missing, Sheet, Stage
from vinegate.core.starting.compare import Comparison
from vinegate.core.starting.locked_rotor import locked_rotor
from vinegate.core.starting.start import Given, plan_start
from vinegate.core.stopping.stage import Stopping, plan_stop
from vinegate.core.supply.source import motor_contribution, source_at_board
from vinegate.core.supply.tree import feed as plan_feed
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """Everything that follows from the facts, stage by stage."""

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
    rules, circuit = rule_set(job.rules), located(job, circuit)
    motor, supply = Sheet("plate", "Motor"), Sheet("supply", "Supply")
    wiring, start, guard = Sheet("wiring", "Wiring"), Sheet("start", "Start"), Sheet("overload", "Overload")
    model, driven = Sheet("machine", "Machine"), Sheet("load", "Load")
    devices, brake, ground = Sheet("protection", "Protection"), Sheet("brake", "Stop"), Sheet("place", "Place")

    rated = rate(motor, circuit, job, rules)
    plate_gates(motor, circuit, job, rated, rules)
    hertz = job.supply.frequency_hz or circuit.plate.frequency_hz
    if hertz is None:
        supply.needs([("supply.frequency", "frequency")], "reactances")
    source = source_at_board(supply, job)
    path = plan_feed(supply, job, circuit, rules, source, hertz)
    run = rules.conductor(wiring, RunFacts.of(circuit.wiring), hertz) if hertz else None
    inrush = locked_rotor(start, circuit, rated, rules)
    machine = plan_machine(model, circuit, rated, rules, inrush)
    asked = plan_load(driven, circuit, rated, rules, _on(model, "machine.inertia"))
    given = Given(
        rated=rated,
        source=source,
        feed=path,
        run=run,
        inrush=inrush,
        machine=machine,
        load=asked,
        frequency_hz=hertz,
        stall_hot=_on(model, "machine.stall_hot"),
        inertia_limit=_on(model, "machine.load_inertia"),
        both_sources=both_sources,
    )
    study = plan_start(start, job, circuit, rules, given)
    motor_contribution(supply, inrush)
    supply.gates.append(study.dip_gate)
    wiring.gates.append(study.terminals_gate)
    allowed = overload(guard, circuit, rated, rules, delta=study.runs_in_delta)
    table = _on(motor, "plate.table_current") if job.rules is RuleSetName.NEC else None
    need = Need(
        job=job,
        circuit=circuit,
        rated=rated,
        plate=rated.current,
        sizing=table or rated.current,
        locked=_on(start, "start.full.current") or (inrush.high if inrush else None),
        peak=_on(start, "start.full.peak"),
        source=source,
        run=run,
        fault=_on(supply, f"supply.fault_at_{circuit.wiring.board or 'board'}")
        or (source.fault if source and circuit.wiring.board in (None, "main") else None),
        far=far_fault(devices, source, path, run),
        motor_fault=_on(supply, "supply.motor_fault"),
        stall_hot=given.stall_hot,
        comparison=study.comparison,
        runs_in_delta=study.runs_in_delta,
    )
    protected = plan_protection(devices, guard, wiring, need, rules, allowed)
    rated_nm = rated.power_w / (rated.speed.value * pi / 30) if rated.power_w and rated.speed else None
    stopping = plan_stop(
        brake,
        job,
        circuit=circuit,
        rated=rated,
        machine=machine,
        load=asked,
        rotor=_on(model, "machine.inertia"),
        rated_nm=rated_nm,
        stall=given.stall_hot,
        locked=inrush.high if inrush else None,
        start=next((gate for gate in start.gates if gate.key == "start.per_hour"), None),
        started_by=study.comparison.chosen if study.comparison else circuit.start.method or "full-voltage",
    )

    placed = plan_place(
        ground,
        job,
        circuit,
        load=_on(driven, "load.power"),
        rated_kw=rated.power_w / 1000 if rated.power_w else None,
        full_load=rated.current,
        overload=protected.overload.line_a,
    )

    sheets = (supply, devices, start, guard, wiring, motor, brake, ground, model, driven)
    stages = tuple(sheet.close() for sheet in sheets)
    missing = in_order(item for stage in stages for item in stage.missing)
    found = Findings(
        words=rules.words,
        locked_rotor=study.locked_rotor.high if study.locked_rotor else None,
        full=study.full,
        wye=study.wye,
        dip_limit=study.dip_limit,
        full_gate=study.full_gate,
        wye_gate=study.wye_gate,
        eligible=study.eligible,
        plate_gates=tuple(motor.gates),
        missing=missing,
        comparison=study.comparison,
    )
    return Plan(
        rules=job.rules,
        answer=answer(found),
        stages=stages,
        errors=errors,
        cautions=CAUTIONS,
        machine=machine,
        comparison=study.comparison,
        load=asked,
        protected=protected,
        stopping=stopping,
        placed=placed,
    )


def _on(sheet: Sheet, key: str) -> Figure | None:
    return next((figure for figure in sheet.figures if figure.key == key), None)


def plan_raw(
    rules: RuleSetName, job_raw: Mapping[str, Any], circuit_raw: Mapping[str, Any], *, both_sources: bool = True
) -> Plan:
    """Plan a circuit from facts as typed: what pages, files and the command share."""
    job, job_errors = read_job(job_raw, rules)
    circuit, circuit_errors = read_circuit(circuit_raw)
    return plan_circuit(job, circuit, job_errors + circuit_errors, both_sources=both_sources)
