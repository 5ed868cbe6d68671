"""The start on its sheet: the first moment by hand formulas, the study, and the gates of the way that is used."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from vinegate.core.cautions import WYE_DELTA_CAUTION
from vinegate.core.drive.count import fed_by_one, motors_on
from vinegate.core.drive.stage import supplied_of
from vinegate.core.facts import Circuit
from vinegate.core.fed import Fed, fed
from vinegate.core.grade import Answer, Gate, Verdict, from_answer, informs, unknown
from vinegate.core.load.stage import LOAD
from vinegate.core.machine.stage import MACHINE
from vinegate.core.plate.kind import Family
from vinegate.core.plate.locked_rotor import LockedRotor
from vinegate.core.plate.stage import PLATE
from vinegate.core.records import dataclass, replace
from vinegate.core.rectifier import Armature
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.start.agree import asked_gates
from vinegate.core.start.both_ways import both_ways
from vinegate.core.start.compare import Comparison, MethodRow, OtherSource
from vinegate.core.start.eligible import said_or_usual, turns_a_field
from vinegate.core.start.elsewhere import lacking
from vinegate.core.start.first_moment import Moment, behind_bridge, first_moment
from vinegate.core.start.given import Given, at_first, to_compare, to_simulate
from vinegate.core.start.judge_first import LIMIT, at_first_in_wye, first_dip_gate
from vinegate.core.start.notes import notes_on
from vinegate.core.start.on_bridge import armature_of
from vinegate.core.start.other import on_the_other
from vinegate.core.start.plant import Plant
from vinegate.core.start.sought import beside_sought
from vinegate.core.start.study import every_way as all_ways
from vinegate.core.start.study import in_use
from vinegate.core.start.terminals import Held
from vinegate.core.start.trial import Known, MeanLoss, Trial, trial_of
from vinegate.core.start.used_figures import used_figures
from vinegate.core.start.way import Windings
from vinegate.core.start.ways import USUAL, way_of
from vinegate.core.start.wye_delta import wye_delta_gate
from vinegate.core.supply.stage import SUPPLY
from vinegate.core.wiring.run import run_lacks, run_of
from vinegate.core.wiring.stage import WIRING
from vinegate.core.work import Specification, Work
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class StartStudy:
    """What the start gives to the rest of the plan. `dip_gate` and `terminals_gate` are of the way that is used."""

    locked_rotor: LockedRotor | None
    moment: Moment
    dip_limit: Figure | None
    full_gate: Gate
    dip_gate: Gate
    terminals_gate: Gate
    eligible: Gate
    chosen: str
    held: Held
    draws: float
    """Share of the locked-rotor current that the way in use draws."""
    loss: MeanLoss | None = None
    """What the way in use adds to the mean loss."""
    comparison: Comparison | None = None
    plant: Plant | None = None
    """Network, machine and load on one axis of speed, where the ways were simulated."""
    lacks: tuple[str, ...] = ()
    """What keeps them from being simulated."""

    @property
    def runs_in_delta(self) -> bool:
        return self.eligible.verdict.usable


def _given(work: Work) -> Given:
    supplied, described = work.found(SUPPLY), work.found(MACHINE)
    return Given(
        rated=work.found(PLATE).rated,
        source=supplied.source,
        feed=supplied.feed,
        run=work.found(WIRING),
        inrush=described.inrush,
        machine=described.machine,
        load=work.found(LOAD).asked,
        frequency_hz=supplied.frequency_hz,
        stalls=described.stalls,
        inertia_limit=described.load_inertia,
        drive=supplied_of(work),
        supply_lacks=supplied.lacks,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Opening:
    """What the start is known by before any way is simulated: the first moment, and what it is held against."""

    moment: Moment
    limit: Figure | None
    eligible: Gate
    held: Held


def _opening(work: Work) -> Opening:
    return work.step("start: opening", lambda: _opened(work))


def _opened(work: Work) -> Opening:
    """Put the first moment and its limits on the sheet."""
    sheet, job, circuit, rules, given = work.sheet("start"), work.job, work.circuit, work.rules, _given(work)
    eligible = wye_delta_gate(circuit, job, rules)
    way, possible = fed(job, circuit), eligible.verdict.usable
    field = turns_a_field(circuit, job)
    moment = _moment(sheet if field else Sheet("start", ""), circuit, rules, given, way, wye_possible=possible)
    if not field:  # it never stands on this line itself: what its loop gives is worked from, and told nowhere
        moment = replace(moment, full=None, wye=None)
    if (armature := armature_of(job, circuit, given.rated, given.machine)) is not None:
        moment = behind_bridge(sheet, circuit, given.rated, armature, given.source, given.feed)
    limit = _limit(sheet, job.limits.dip_pu, "dip_limit", "Dip limit at the board", "ΔU_max", job.limits.dip_source)
    floor = _limit(sheet, job.limits.terminal_pu, "floor", "Least volts at the terminals", "u_min", None)
    held = Held(
        wiring=run_of(circuit.wiring), rules=rules, run=given.run, floor=floor, hertz=given.frequency_hz, moment=moment,
        behind=circuit.plate.family is Family.DC,
    )  # fmt: skip
    return Opening(moment=moment, limit=limit, eligible=eligible, held=held)


def _trial(work: Work) -> Trial | None:
    """The ways in hand; None while a part is missing. It is a step of its own: who shows them all asks it for more."""
    return work.step("start: trial", lambda: _tried(work))


def _tried(work: Work) -> Trial | None:
    given, opening = _given(work), _opening(work)
    armature = armature_of(work.job, work.circuit, given.rated, given.machine)
    known = _known(given, work.circuit, fed(work.job, work.circuit), armature)
    if known is None:
        return None
    held, inertia = opening.held, given.inertia_limit
    return trial_of(
        work.job,
        work.circuit,
        work.rules,
        known,
        moment=opening.moment,
        wye_delta=opening.eligible,
        terminals=_terminals(held, armature),
        stalls=given.stalls,
        inertia_limit=inertia.value if inertia else None,
        inertia_source=inertia.source if inertia else "",
        lacks=lacking(work, _trial),
    )


def _terminals(held: Held, armature: Armature | None) -> Callable[[float, int], Gate] | None:
    """What judges the volts of a way that draws so many amperes at so many motors; None while a part is missing."""
    if armature is not None:
        return lambda amps, _: held.at_input(armature.bridge.rms * amps)
    return held.drawing if held.known else None


def _not_possible(eligible: Gate) -> tuple[Gate, ...]:
    """What speaks against a way that was not simulated."""
    named = replace(eligible, key="start.possible", name="This way to start is possible")
    return () if eligible.verdict.usable else (named,)


def _plan(work: Work) -> StartStudy:
    """Put the start on its sheet: the way in use, found among as few as tell it."""
    opening, given, trial = _opening(work), _given(work), _trial(work)
    sheet, circuit, rules = work.sheet("start"), work.circuit, work.rules
    moment, limit, eligible, held = opening.moment, opening.limit, opening.eligible, opening.held
    needs = at_first(given, rules, circuit)
    found = in_use(trial, work.job, circuit) if trial is not None else None
    if found is not None and trial is not None:
        used_figures(sheet, found, trial.plant, rules)
    chosen = found.chosen if found else said_or_usual(circuit).key
    by_wye = way_of(chosen).windings is Windings.WYE
    if way_of(chosen).by_frequency and not circuit.from_drive:  # advised, and not judged by anyone yet
        sheet.gates.append(unknown("start.drive", "Drive that is advised", ("a drive, chosen as the way to start",)))
    sheet.gates += (*asked_gates(circuit, chosen), *both_ways(circuit))
    full = first_dip_gate("start.dip_full", rules.words.across_the_line, moment, moment.full, limit, needs)
    wye = first_dip_gate("start.dip_wye", f"{rules.words.wye.capitalize()}-delta", moment, moment.wye, limit, needs)
    _inform(sheet, circuit, found, eligible, full, wye if moment.wye is not None else None)
    used = beside_sought(work, found.row(found.chosen), _simulated(found.chosen)) if found else None
    first = _first_dip(full, wye, moment, eligible, to_simulate(given, circuit), by_wye=by_wye)
    dip_gate = _used_dip(sheet, circuit, given, used, first, needs, known=moment.full is not None)
    if by_wye and used is None:
        sheet.gates += _not_possible(eligible)
    terminals = _used_terminals(used, circuit, given, held, needs, by_wye=by_wye)
    work.sheet("supply").gates.append(dip_gate)
    work.sheet("wiring").gates.append(terminals)
    return StartStudy(
        locked_rotor=given.inrush, moment=moment,
        dip_limit=limit,
        dip_gate=dip_gate,
        full_gate=full,
        terminals_gate=terminals,
        eligible=eligible,
        chosen=chosen,
        held=held,
        draws=_draws(used, held, motors_on(circuit), by_wye=by_wye and moment.wye is not None),
        loss=trial.mean_loss(found.chosen) if trial is not None and found is not None else None,
        comparison=found,
        plant=trial.plant if trial is not None else None,
        lacks=() if found else tuple(dict.fromkeys((*needs, *to_compare(given, circuit)))) or ("what the load asks",),
    )  # fmt: skip


def _first_dip(full: Gate, wye: Gate, moment: Moment, eligible: Gate, needs: tuple[str, ...], *, by_wye: bool) -> Gate:
    """The first moment's dip of the way in use; not known while it is not known whether it may start in wye."""
    if by_wye and moment.wye is None and eligible.needs:
        return unknown("start.dip", full.name, eligible.needs)
    found = _in_wye(wye, full, needs) if by_wye and moment.wye else full
    return replace(found, key="start.dip")


def _in_wye(wye: Gate, full: Gate, needs: tuple[str, ...]) -> Gate:
    """The first moment in wye is the least of such a start: in delta it may draw, up to its speed, what full voltage
    does. What fails in wye fails; what passes passes where full voltage does too.
    """
    if wye.fails or wye.verdict is Verdict.UNKNOWN or full.verdict is Verdict.PASSES:
        return wye
    return unknown(wye.key, wye.name, needs)


def _simulated(method: str) -> Callable[[Work], MethodRow | None]:
    """The row of a way, where it is possible and all that a simulation needs is known."""

    def row(work: Work) -> MethodRow | None:
        trial = _trial(work)
        return trial.row(method) if trial is not None and method in trial.possible else None

    return row


def _moment(
    sheet: Sheet, circuit: Circuit, rules: RuleSet, given: Given, way: Fed | None, *, wye_possible: bool
) -> Moment:
    """The first moment by the hand formulas, with the caution where wye-delta is among the ways."""
    moment = first_moment(
        sheet, circuit, rules, rated=given.rated, source=given.source, feed=given.feed, run=given.run,
        inrush=given.inrush, machine=given.machine, wye_possible=wye_possible, way=way,
    )  # fmt: skip
    if moment.wye is not None:
        sheet.notes.append(WYE_DELTA_CAUTION)
    return moment


def _used_dip(
    sheet: Sheet, circuit: Circuit, given: Given, used: MethodRow | None, first: Gate, needs: tuple[str, ...],
    *, known: bool,
) -> Gate:  # fmt: skip
    """The dip of the way that is used: as simulated, else of the `first` moment where it is a way that this tells of.

    `known` where the first moment of full voltage is.
    """
    key, name, chosen = "start.dip", "Dip at the board", said_or_usual(circuit).key
    if used is not None:
        return _put_gates(sheet, used, first)
    limit = (LIMIT,) if LIMIT in first.needs else ()
    if circuit.start.method is None and first.verdict is not Verdict.PASSES and known:
        return unknown(key, name, (*to_compare(given, circuit), *limit))  # another way may well do
    if chosen != USUAL.key and way_of(chosen).windings is not Windings.WYE:
        others = () if needs and circuit.load.kind else to_simulate(given, circuit)
        return unknown(key, name, (*needs, *others, *limit))
    return first


def _draws(used: MethodRow | None, held: Held, motors: int, *, by_wye: bool) -> float:
    """Of the locked-rotor current: as simulated, by all `motors` on a drive, else a third in wye, else all of it."""
    if used is not None and used.motor_a is not None and held.known:
        count = motors if way_of(used.method).by_frequency else 1
        return held.share_of(count * used.motor_a, count)
    return 1 / 3 if by_wye else 1.0


def _inform(
    sheet: Sheet, circuit: Circuit, found: Comparison | None, eligible: Gate, full: Gate, wye: Gate | None
) -> None:
    """What the first moment says of both ways, to inform; nothing of a way that no machine of the kind has."""
    if circuit.plate.family is Family.CAGE:
        weighs = said_or_usual(circuit, found.chosen if found else None).windings is Windings.WYE
        sheet.gates.append(eligible if weighs else informs(eligible))
    known = full.verdict is not Verdict.UNKNOWN
    if circuit.plate.family in (Family.CAGE, Family.SINGLE) or (known and circuit.plate.family is Family.WOUND):
        sheet.gates.append(informs(full))
    if wye is not None:
        sheet.gates.append(informs(at_first_in_wye(wye, full) if found is None else wye))


def _known(given: Given, circuit: Circuit, way: Fed | None, armature: Armature | None) -> Known | None:
    """Everything a simulation needs; None while a part is missing."""
    machine, load, feed, rated = given.machine, given.load, given.feed, given.rated
    if machine is None or load is None or feed is None or feed.network is None or given.frequency_hz is None:
        return None
    if rated.current is None or (armature is None and circuit.plate.family is Family.DC):
        return None
    return Known(
        machine=machine,
        load=load,
        feed=feed,
        rated=rated,
        run=given.run,
        frequency_hz=given.frequency_hz,
        neutral=way is not None and way.neutral,
        drive=given.drive,
        motors=motors_on(circuit),
        fed_by_one=fed_by_one(circuit) and not (way is not None and way.neutral),
        armature=armature,
    )


def _put_gates(sheet: Sheet, used: MethodRow, dip: Gate) -> Gate:
    """The used way's gates on the sheet, its dip gate aside: that stands at the supply."""
    if used.outcome is None:
        found = Answer(verdict=used.verdict, text=used.why, rule="the plate", turns=used.turns)
        name = "This way to start is possible"
        if not any(gate.key == "wye_delta.eligible" and gate.weighs for gate in sheet.gates):  # else that says it
            remedy = "Choose another way."
            sheet.gates.append(from_answer("start.possible", name, found, remedy=remedy, needs=used.needs))
        return informs(unknown(dip.key, dip.name, used.needs) if used.needs else dip)
    sheet.gates += [gate for gate in used.gates if gate.key not in _ELSEWHERE]
    return next((gate for gate in used.gates if gate.key == "start.dip"), dip)


# The dip stands at the supply, the terminals with the wiring, and the class that is fitted with the overload.
_ELSEWHERE: Final = ("start.dip", "start.terminals", "start.class")


def _limit(sheet: Sheet, value_pu: float | None, key: str, name: str, symbol: str, by: str | None) -> Figure | None:
    if value_pu is None:
        return None
    return sheet.given(key, name, symbol, 100 * value_pu, "%", source=by or "set for the job",
                       fact=_LIMITS[key])  # fmt: skip


_LIMITS: Final = {"dip_limit": "limits.dip", "floor": "limits.terminal"}


def _used_terminals(
    used: MethodRow | None, circuit: Circuit, given: Given, held: Held, needs: tuple[str, ...], *, by_wye: bool
) -> Gate:
    """The terminals of the way that is used: as simulated, else of the first moment, which bounds a way that draws less
    than full voltage: where it does not pass that is not known, nor where another way may well do.
    """
    if used is not None and used.outcome is not None:
        found = next((gate for gate in used.gates if gate.key == "start.terminals"), None)
        if found is not None:
            return found
    if not held.known:
        lacking = [*needs]
        if held.run is None and not held.behind:
            lacking += run_lacks(held.rules, held.wiring, held.hertz)
        if held.floor is None:
            lacking.append("least volts at the terminals")
        return unknown("start.terminals", "Volts at the terminals", tuple(lacking) or ("what this start draws",))
    first = held.gate(1.0)
    if by_wye and held.moment.wye is not None:
        return _in_wye(held.gate(1 / 3), first, to_simulate(given, circuit))
    if first.verdict is Verdict.PASSES or circuit.start.method == USUAL.key:
        return first
    asked = to_compare(given, circuit) if circuit.start.method is None else to_simulate(given, circuit)
    return unknown(first.key, first.name, asked or ("what this start draws",))


def way_in_use(work: Work) -> str | None:
    """The way that was found or is said; None where it is only taken, as nothing could be simulated."""
    study = work.found(START)
    return study.chosen if study.comparison is not None else work.circuit.start.method


def every_way(work: Work) -> Comparison | None:
    """All ways side by side, with what is said of them on the sheet; None while a part is missing."""
    used, trial = work.found(START).comparison, _trial(work)
    if used is None or trial is None:
        return None
    found = all_ways(trial, used, work.job, work.circuit)
    work.sheet("start").notes += notes_on(trial.plant, found, work.job, work.circuit, work.rules.words)
    return found


def let_go(work: Work) -> None:
    """Of what was only needed while the ways were run."""
    trial = _trial(work)
    if trial is not None:
        trial.runs.release()


def other_source(work: Work) -> OtherSource | None:
    """The same ways on the source that is not in use; None while a part is missing."""
    trial = _trial(work)
    return on_the_other(trial, work.job, work.circuit, work.rules) if trial is not None else None


START = Specification(key="start", plan=_plan, sheets={"start": "Start"})
