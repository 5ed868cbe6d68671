"""The stages in their order, each on its own sheet: what the plan's page calls one after another."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import pi

from vinegate.core.facts import Circuit, Job, RuleSetName
from vinegate.core.fed import fed
from vinegate.core.grade import once
from vinegate.core.load.stage import plan_load
from vinegate.core.location.stage import Placed, plan_place
from vinegate.core.machine.stage import given_machine, plan_machine
from vinegate.core.machine.stall import stall_times
from vinegate.core.plate.gates import plate_gates
from vinegate.core.plate.kind import Family
from vinegate.core.plate.rated import rate
from vinegate.core.protection.advise import Terminals
from vinegate.core.protection.need import Need
from vinegate.core.protection.overload import overload
from vinegate.core.protection.short_circuit import far_fault
from vinegate.core.protection.stage import Protected, plan_protection
from vinegate.core.rules import RuleSet, RunFacts
from vinegate.core.rules.dialect import stage_in
from vinegate.core.sheet import Sheet, Stage
from vinegate.core.starting.locked_rotor import LockedRotor, locked_rotor
from vinegate.core.starting.sag import current_taken
from vinegate.core.starting.start import Given, StartStudy, plan_start
from vinegate.core.stopping.stage import Stopping, plan_stop
from vinegate.core.supply.faults import faults_at
from vinegate.core.supply.source import motor_contribution, source_at_board
from vinegate.core.supply.tree import feed as plan_feed
from vinegate.core.turning import Taken
from vinegate.core.worded import doubted_stages, wrong_plate
from vinegate.core.working import Figure

_TITLES = {
    "supply": "Supply",
    "protection": "Protection",
    "start": "Start",
    "overload": "Overload",
    "wiring": "Wiring",
    "plate": "Motor",
    "brake": "Stop",
    "place": "Place",
    "machine": "Machine",
    "load": "Load",
}


def _sheets() -> dict[str, Sheet]:
    return {key: Sheet(key, title) for key, title in _TITLES.items()}


@dataclass(frozen=True, slots=True, kw_only=True)
class Flow:
    """One circuit being planned. Lives only inside one call of `plan_circuit`."""

    job: Job
    circuit: Circuit
    rules: RuleSet
    sheets: dict[str, Sheet] = field(default_factory=_sheets)

    def know(self, *, both_sources: bool) -> Given:
        """Plate, source, feed, conductors, machine and load."""
        job, circuit, rules, on = self.job, self.circuit, self.rules, self.sheets
        rated = rate(on["plate"], circuit, job, rules)
        plate_gates(on["plate"], circuit, job, rated, rules)
        hertz = job.supply.frequency_hz or circuit.plate.frequency_hz
        if hertz is None:
            on["supply"].needs([("supply.frequency", "frequency")], "reactances")
        source = source_at_board(on["supply"], job)
        known = given_machine(on["machine"], circuit, rated, rules)
        inrush = locked_rotor(on["start"], circuit, rated, rules, known)
        return Given(
            rated=rated,
            source=source,
            feed=plan_feed(on["supply"], job, circuit, rules, source, hertz),
            run=rules.conductor(on["wiring"], RunFacts.of(circuit.wiring), hertz) if hertz else None,
            inrush=inrush,
            machine=plan_machine(on["machine"], circuit, rated, rules, inrush, known),
            load=plan_load(on["load"], circuit, rated, rules, self._figure("machine.inertia")),
            frequency_hz=hertz,
            stalls=stall_times(on["machine"], circuit),
            inertia_limit=self._figure("machine.load_inertia"),
            both_sources=both_sources,
        )

    def start(self, given: Given) -> StartStudy:
        """Every way to start, and what it does to supply and wiring."""
        study = plan_start(self.sheets["start"], self.job, self.circuit, self.rules, given)
        motor_contribution(self.sheets["supply"], given.inrush)
        self.sheets["supply"].gates.append(study.dip_gate)
        self.sheets["wiring"].gates.append(study.terminals_gate)
        return study

    def protect(self, given: Given, study: StartStudy) -> Protected:
        """Devices, overload and conductors."""
        on, rated = self.sheets, given.rated
        allowed = overload(on["overload"], self.circuit, rated, self.rules, delta=study.runs_in_delta)
        table = self._figure("plate.table_current") if self.job.rules is RuleSetName.NEC else None
        faults = faults_at(on["supply"], self.job, self.rules, given.source, given.feed)
        least = faults.least_factor if faults else 1.0
        way = fed(self.job, self.circuit)
        neutral = way is not None and way.neutral
        need = Need(
            job=self.job,
            circuit=self.circuit,
            rated=rated,
            plate=rated.drawn,
            sizing=table or rated.drawn,
            locked=self._figure("start.full.current") or (given.inrush.high if given.inrush else None),
            peak=self._figure("start.full.peak"),
            source=given.source,
            run=given.run,
            fault=faults.largest if faults else None,
            faults=faults,
            feed=given.feed,
            far=None
            if self.circuit.plate.family is Family.DC
            else far_fault(on["protection"], given.source, given.feed, given.run, least, neutral=neutral),
            motor_fault=self._figure("supply.motor_fault"),
            stalls=given.stalls,
            inrush=given.inrush,
            current=_current(given.inrush, self.rules),
            promise=given.machine.promise if given.machine else None,
            load=given.load,
            comparison=study.comparison,
            runs_in_delta=study.runs_in_delta,
            frequency_hz=given.frequency_hz,
        )
        at = Terminals(held=study.held, share=study.draws)
        return plan_protection(on["protection"], on["overload"], on["wiring"], need, self.rules, allowed, at)

    def stop(self, given: Given, study: StartStudy) -> Stopping | None:
        """Every way to stop."""
        rated = given.rated
        rated_nm = rated.power_w / (rated.speed.value * pi / 30) if rated.power_w and rated.speed else None
        starts = next((gate for gate in self.sheets["start"].gates if gate.key == "start.per_hour"), None)
        return plan_stop(
            self.sheets["brake"],
            self.job,
            circuit=self.circuit,
            rated=rated,
            machine=given.machine,
            load=given.load,
            rotor=self._figure("machine.inertia"),
            rated_nm=rated_nm,
            stall=given.stalls.hot,
            locked=given.inrush.high if given.inrush else None,
            start=starts,
            started_by=study.comparison.chosen if study.comparison else self.circuit.start.method or "full-voltage",
        )

    def place(self, given: Given, protected: Protected) -> Placed:
        """Each device where it stands."""
        return plan_place(
            self.sheets["place"],
            self.job,
            self.circuit,
            load=self._figure("load.power"),
            power=given.load.power if given.load else None,
            rated_kw=given.rated.power_w / 1000 if given.rated.power_w else None,
            full_load=given.rated.current,
            overload=protected.overload.line_a,
            trip=protected.overload.trip,
        )

    def close(self) -> tuple[Stage, ...]:
        """Every sheet as a closed stage, in the line's order."""
        named: set[str] = set()
        for sheet in self.sheets.values():
            sheet.gates = list(once(sheet.gates, named))
        stages = tuple(stage_in(sheet.close(), self.rules.name) for sheet in self.sheets.values())
        return doubted_stages(stages) if wrong_plate(stages) else stages

    def _figure(self, key: str) -> Figure | None:
        sheet = self.sheets[key.partition(".")[0]]
        return next((figure for figure in sheet.figures if figure.key == key), None)


def _current(inrush: LockedRotor | None, rules: RuleSet) -> Taken | None:
    """Locked-rotor current with its band."""
    if inrush is None or inrush.high is None:
        return None
    return current_taken(inrush, f"{rules.words.locked_rotor} current", rules.current_tolerance)
