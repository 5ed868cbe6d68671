"""The start study: full voltage and wye-delta at the first moment, and their gates."""

from __future__ import annotations

from dataclasses import dataclass, replace

from vinegate.core.assumed import assume
from vinegate.core.cautions import WYE_DELTA_CAUTION
from vinegate.core.facts import Circuit, Job
from vinegate.core.gate import Gate, Verdict, at_least, at_most
from vinegate.core.machine.describe import Machine
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import write
from vinegate.core.rules import RuleSet, RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.starting.dip import AtRest, StartPoint, at_rest, in_wye, neglected_run, solve_start
from vinegate.core.starting.locked_rotor import LockedRotor
from vinegate.core.starting.wye_delta import wye_delta_gate
from vinegate.core.supply.source import Source
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class StartStudy:
    """What the start gives to the rest of the plan. `dip_gate` is the chosen method's."""

    locked_rotor: LockedRotor | None
    full: StartPoint | None
    wye: StartPoint | None
    dip_limit: Figure | None
    full_gate: Gate
    wye_gate: Gate
    dip_gate: Gate
    terminals_gate: Gate
    eligible: Gate

    @property
    def runs_in_delta(self) -> bool:
        return self.eligible.verdict in (Verdict.OPEN, Verdict.AJAR)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Circuit:
    """The loop's parts; `missing` names what keeps it from being solved."""

    source: Source | None
    run: RunImpedance | None
    motor: AtRest | None
    plate_volts: Figure | None


def plan_start(
    sheet: Sheet,
    job: Job,
    circuit: Circuit,
    rules: RuleSet,
    *,
    rated: Rated,
    source: Source | None,
    run: RunImpedance | None,
    inrush: LockedRotor | None,
    machine: Machine | None,
) -> StartStudy:
    """Solve the first moment of the start with the highest locked-rotor current the facts allow."""
    motor = _motor(sheet, circuit, rated, rules, inrush, machine)
    parts = _Circuit(source=source, run=run, motor=motor, plate_volts=rated.volts)
    eligible = wye_delta_gate(circuit, job, rules)
    full = _solve(sheet, "full", parts)
    wye = None
    if motor is not None and eligible.verdict in (Verdict.OPEN, Verdict.AJAR):
        wye_motor = in_wye(sheet, motor)
        wye = _solve(sheet, "wye", _Circuit(source=source, run=run, motor=wye_motor, plate_volts=rated.volts))
        _wye_torque(sheet, wye, rules)
        sheet.notes.append(WYE_DELTA_CAUTION)
    limit = _limit(sheet, job.limits.dip_pu, "dip_limit", "Dip limit at the board", "ΔU_max", job.limits.dip_source)
    floor = _limit(sheet, job.limits.terminal_pu, "floor", "Least volts at the terminals", "u_min", None)
    needs = _needs(parts, inrush, rules)
    wye_name = f"{rules.words.wye.capitalize()}-delta"
    by_wye = circuit.start.method == "wye-delta"
    full_gate = _dip_gate("start.dip_full", rules.words.across_the_line, full, limit, needs)
    wye_needs = needs if eligible.verdict in (Verdict.OPEN, Verdict.AJAR) else (*needs, f"a {wye_name.lower()} plate")
    wye_gate = _dip_gate("start.dip_wye", wye_name, wye, limit, wye_needs)
    sheet.gates += [
        replace(eligible, weighs=by_wye),
        replace(full_gate, weighs=False),
        *([replace(wye_gate, weighs=False)] if wye is not None else []),
    ]
    return StartStudy(
        locked_rotor=inrush,
        full=full,
        wye=wye,
        dip_limit=limit,
        full_gate=full_gate,
        wye_gate=wye_gate,
        dip_gate=replace(wye_gate if by_wye else full_gate, key="start.dip"),
        terminals_gate=_terminals_gate(wye if by_wye else full, floor, needs, run),
        eligible=eligible,
    )


def _motor(
    sheet: Sheet,
    circuit: Circuit,
    rated: Rated,
    rules: RuleSet,
    inrush: LockedRotor | None,
    machine: Machine | None,
) -> AtRest | None:
    if inrush is None or inrush.high is None or rated.volts is None:
        return None
    stated = circuit.start.locked_rotor_power_factor
    name = f"{rules.words.locked_rotor.capitalize()} power factor"
    if stated is None and machine is not None and machine.locked_rotor_power_factor is not None:
        power_factor = machine.locked_rotor_power_factor
        sheet.figures.append(power_factor)
    elif stated is None:
        power_factor = assume(sheet, "locked_rotor_power_factor", "pf", name, "pf_LR")
    else:
        source = circuit.source_of("start.locked_rotor_power_factor")
        power_factor = sheet.given("pf", name, "pf_LR", stated, "", provenance=source)
    if rated.volts not in sheet.figures:
        sheet.figures.append(rated.volts)
    return at_rest(sheet, inrush.high, rated.volts, power_factor)


def _solve(sheet: Sheet, prefix: str, parts: _Circuit) -> StartPoint | None:
    if parts.source is None or parts.motor is None or parts.plate_volts is None:
        return None
    run = parts.run or neglected_run(sheet)
    return solve_start(sheet, prefix, parts.source, run, parts.motor, parts.plate_volts, has_run=parts.run is not None)


def _wye_torque(sheet: Sheet, wye: StartPoint | None, rules: RuleSet) -> None:
    if wye is None or wye.terminals is None:
        return
    sheet.work(
        "wye.torque",
        f"Starting torque in {rules.words.wye}, of full voltage at plate volts",
        "T_wye",
        100 / 3 * (wye.terminals.value / 100) ** 2,
        "%",
        formula=f"100/3·({wye.terminals.symbol}/100)²",
        inputs=(wye.terminals,),
        source="torque goes with volts squared; 1/√3 of the volts on each winding",
    )


def _limit(sheet: Sheet, value_pu: float | None, key: str, name: str, symbol: str, by: str | None) -> Figure | None:
    if value_pu is None:
        return None
    return sheet.given(key, name, symbol, 100 * value_pu, "%", source=by or "set for the job")


def _needs(parts: _Circuit, inrush: LockedRotor | None, rules: RuleSet) -> tuple[str, ...]:
    absent: list[str] = []
    if parts.source is None:
        absent.append("the supply")
    if inrush is None or inrush.high is None:
        absent.append(f"{rules.words.locked_rotor} current")
    if parts.plate_volts is None:
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


def _terminals_gate(
    point: StartPoint | None, floor: Figure | None, needs: tuple[str, ...], run: RunImpedance | None
) -> Gate:
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
