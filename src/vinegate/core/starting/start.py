"""The start on its sheet: the first moment by hand formulas, the study, and the gates of the way that is used."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from vinegate.core.cautions import WYE_DELTA_CAUTION
from vinegate.core.facts import Circuit, Job
from vinegate.core.gate import Gate, Verdict, at_least, at_most, unknown
from vinegate.core.load.stage import Asked
from vinegate.core.machine.describe import Machine
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import write
from vinegate.core.rules import RuleSet, RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.starting.compare import Comparison, MethodRow
from vinegate.core.starting.dip import StartPoint
from vinegate.core.starting.first_moment import Moment, first_moment
from vinegate.core.starting.locked_rotor import LockedRotor
from vinegate.core.starting.study import Known, study
from vinegate.core.starting.used_figures import used_figures
from vinegate.core.starting.wye_delta import wye_delta_gate
from vinegate.core.supply.source import Source
from vinegate.core.supply.tree import Feed
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class StartStudy:
    """What the start gives to the rest of the plan. `dip_gate` and `terminals_gate` are of the way that is used."""

    locked_rotor: LockedRotor | None
    full: StartPoint | None
    wye: StartPoint | None
    dip_limit: Figure | None
    full_gate: Gate
    wye_gate: Gate
    dip_gate: Gate
    terminals_gate: Gate
    eligible: Gate
    comparison: Comparison | None = None

    @property
    def runs_in_delta(self) -> bool:
        return self.eligible.verdict in (Verdict.OPEN, Verdict.AJAR)


@dataclass(frozen=True, slots=True, kw_only=True)
class Given:
    """What earlier stages found; None for what is missing."""

    rated: Rated
    source: Source | None
    feed: Feed | None
    run: RunImpedance | None
    inrush: LockedRotor | None
    machine: Machine | None
    load: Asked | None
    frequency_hz: float | None
    stall_hot: Figure | None
    inertia_limit: Figure | None
    both_sources: bool = True


def plan_start(sheet: Sheet, job: Job, circuit: Circuit, rules: RuleSet, given: Given) -> StartStudy:
    """Put the start on its sheet."""
    eligible = wye_delta_gate(circuit, job, rules)
    wye_possible = eligible.verdict in (Verdict.OPEN, Verdict.AJAR)
    moment = first_moment(
        sheet,
        circuit,
        rules,
        rated=given.rated,
        source=given.source,
        feed=given.feed,
        run=given.run,
        inrush=given.inrush,
        machine=given.machine,
        wye_possible=wye_possible,
    )
    if moment.wye is not None:
        sheet.notes.append(WYE_DELTA_CAUTION)
    limit = _limit(sheet, job.limits.dip_pu, "dip_limit", "Dip limit at the board", "ΔU_max", job.limits.dip_source)
    floor = _limit(sheet, job.limits.terminal_pu, "floor", "Least volts at the terminals", "u_min", None)
    needs = _needs(given, rules)
    at_terminals = {
        method: _terminals_gate(point, floor, needs, given.run)
        for method, point in (("full-voltage", moment.full), ("wye-delta", moment.wye), ("part-winding", moment.full))
    }
    found = _studied(sheet, job, circuit, rules, given, moment, eligible, at_terminals)
    by_wye = (found.chosen if found else circuit.start.method) == "wye-delta"
    full_gate, wye_gate = _first_dips(sheet, rules, moment, limit, needs, eligible, by_wye=by_wye)
    used = found.row(found.chosen) if found else None
    dip_gate = replace(wye_gate if by_wye else full_gate, key="start.dip")
    if used is not None:
        dip_gate = _put_gates(sheet, used, dip_gate)
    elif circuit.start.method not in (None, "full-voltage", "wye-delta"):
        dip_gate = unknown("start.dip", "Dip at the board", (*needs, "the load") if not circuit.load.kind else needs)
    return StartStudy(
        locked_rotor=given.inrush,
        full=moment.full,
        wye=moment.wye,
        dip_limit=limit,
        full_gate=full_gate,
        wye_gate=wye_gate,
        dip_gate=dip_gate,
        terminals_gate=_used_terminals(at_terminals, used, by_wye=by_wye),
        eligible=eligible,
        comparison=found,
    )


def _studied(
    sheet: Sheet,
    job: Job,
    circuit: Circuit,
    rules: RuleSet,
    given: Given,
    moment: Moment,
    eligible: Gate,
    at_terminals: Mapping[str, Gate],
) -> Comparison | None:
    """The comparison, and the used way's figures on the sheet; None while a part is missing."""
    known = _known(given)
    if known is None:
        return None
    found, plant = study(
        sheet,
        job,
        circuit,
        rules,
        known,
        moment=moment,
        wye_delta=eligible,
        terminals={key: gate for key, gate in at_terminals.items() if gate.verdict is not Verdict.UNKNOWN},
        stall_hot_s=given.stall_hot.value if given.stall_hot else None,
        inertia_limit=given.inertia_limit.value if given.inertia_limit else None,
        inertia_source=given.inertia_limit.source if given.inertia_limit else "",
        both_sources=given.both_sources,
    )
    used_figures(sheet, found, plant, rules)
    return found


def _first_dips(
    sheet: Sheet,
    rules: RuleSet,
    moment: Moment,
    limit: Figure | None,
    needs: tuple[str, ...],
    eligible: Gate,
    *,
    by_wye: bool,
) -> tuple[Gate, Gate]:
    """Dip gates of the first moment, full voltage and wye-delta, put on the sheet to inform."""
    name = f"{rules.words.wye.capitalize()}-delta"
    possible = eligible.verdict in (Verdict.OPEN, Verdict.AJAR)
    full = _dip_gate("start.dip_full", rules.words.across_the_line, moment.full, limit, needs)
    wye = _dip_gate(
        "start.dip_wye", name, moment.wye, limit, needs if possible else (*needs, f"a {name.lower()} plate")
    )
    sheet.gates += [replace(eligible, weighs=by_wye), replace(full, weighs=False)]
    if moment.wye is not None:
        sheet.gates.append(replace(wye, weighs=False))
    return full, wye


def _known(given: Given) -> Known | None:
    """Everything a simulation needs; None while a part is missing."""
    machine, load, feed, rated = given.machine, given.load, given.feed, given.rated
    if machine is None or load is None or feed is None or feed.network is None or given.frequency_hz is None:
        return None
    if machine.locked_rotor_power_factor is None or rated.current is None:
        return None
    return Known(machine=machine, load=load, feed=feed, rated=rated, run=given.run, frequency_hz=given.frequency_hz)


def _put_gates(sheet: Sheet, used: MethodRow, dip: Gate) -> Gate:
    """The used way's gates on the sheet, its dip gate aside: that stands at the supply."""
    if used.outcome is None:
        reason = Gate(
            key="start.possible",
            name="This way to start is possible",
            verdict=used.verdict,
            sentence=used.why,
            source="the plate",
            remedy="Choose another way.",
            needs=(used.why.rstrip("."),) if used.verdict is Verdict.UNKNOWN else (),
        )
        sheet.gates.append(reason)
        return dip
    sheet.gates += [gate for gate in used.gates if gate.key not in ("start.dip", "start.terminals")]
    return next((gate for gate in used.gates if gate.key == "start.dip"), dip)


def _limit(sheet: Sheet, value_pu: float | None, key: str, name: str, symbol: str, by: str | None) -> Figure | None:
    if value_pu is None:
        return None
    return sheet.given(key, name, symbol, 100 * value_pu, "%", source=by or "set for the job")


def _needs(given: Given, rules: RuleSet) -> tuple[str, ...]:
    absent: list[str] = []
    if given.source is None or given.feed is None or not given.feed.known:
        absent.append("the supply")
    if given.inrush is None or given.inrush.high is None:
        absent.append(f"{rules.words.locked_rotor} current")
    if given.rated.volts is None:
        absent.append("plate volts")
    return tuple(absent)


def _dip_gate(key: str, method: str, point: StartPoint | None, limit: Figure | None, needs: tuple[str, ...]) -> Gate:
    name = "Dip at the board"
    if limit is None:
        needs = (*needs, "a dip limit")
    value = point.dip_board if point else None
    sentence = ""
    if value is not None and limit is not None:
        sentence = f"{method}: dip {value.value:.1f} % of {write(limit.value, 3)} %."
    remedy = "A start that draws less, a stiffer source, or a limit agreed with its owner."
    bound = point.dip_bound if point else None
    return at_most(key, name, value, limit, sentence=sentence, remedy=remedy, needs=needs, bound=bound)


def _used_terminals(gates: Mapping[str, Gate], used: MethodRow | None, *, by_wye: bool) -> Gate:
    """The terminals of the way that is used; where the starter lowers them on purpose, the torque margin decides."""
    usual = gates["wye-delta" if by_wye else "full-voltage"]
    if used is None or used.outcome is None or used.method in gates or usual.verdict is Verdict.UNKNOWN:
        return usual
    torque = next(gate for gate in used.gates if gate.key == "start.torque")
    return replace(
        torque,
        key=usual.key,
        name=usual.name,
        sentence="Lowered on purpose by the starter: the torque to get away decides.",
        value=used.terminal_least_pct,
        limit=None,
        margin=None,
    )


def _terminals_gate(
    point: StartPoint | None, floor: Figure | None, needs: tuple[str, ...], run: RunImpedance | None
) -> Gate:
    """Terminals against the job's floor at the first moment."""
    if run is None:
        needs = (*needs, "the run to the motor")
    if floor is None:
        needs = (*needs, "least volts at the terminals")
    value = point.terminals if point else None
    sentence = ""
    if value is not None and floor is not None:
        sentence = f"Terminals keep {value.value:.1f} % of plate volts, {write(floor.value, 3)} % asked."
    bound = point.terminals_bound if point else None
    remedy = "A larger or shorter run, a stiffer source, or a motor that starts on less."
    return at_least(
        "start.terminals",
        "Volts at the terminals",
        value,
        floor,
        sentence=sentence,
        remedy=remedy,
        needs=needs,
        bound=bound,
    )
