"""The start study: every way simulated, judged and compared, on the source in use and on the other."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.drive.envelope import Supplied
from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Answer, Gate, Verdict
from vinegate.core.load.stage import Asked as LoadAsked
from vinegate.core.machine.curves import Model, run_at
from vinegate.core.machine.describe import Machine
from vinegate.core.machine.promise import Promise
from vinegate.core.machine.stall import Stalls
from vinegate.core.plate.kind import Family, volt_ampere_factor
from vinegate.core.plate.rated import Rated
from vinegate.core.records import replace
from vinegate.core.rules import RuleSet, RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.start import ways
from vinegate.core.start.asked import Asked, Sensitive
from vinegate.core.start.compare import (
    LIMITS_PCT,
    STRIP_POINTS,
    Comparison,
    MethodRow,
    OtherSource,
    compare,
    limit_current_a,
    not_possible,
    other_source,
    row_of,
    side_by_side,
)
from vinegate.core.start.detail import detail_of
from vinegate.core.start.eligible import eligible
from vinegate.core.start.first_moment import Moment
from vinegate.core.start.judge import judge
from vinegate.core.start.judge_flicker import flicker_gates
from vinegate.core.start.judge_volts import dip_gate
from vinegate.core.start.notes import notes_on
from vinegate.core.start.plant import Plant, before_pu, build
from vinegate.core.start.relay import RelayHeat
from vinegate.core.start.simulate import simulate
from vinegate.core.start.simulation import MethodRun
from vinegate.core.start.soft_stop import USUAL_RAMP_S, SoftStop, soft_stop
from vinegate.core.start.trace import Outcome
from vinegate.core.supply.network import Network
from vinegate.core.supply.source import standby_source, utility_source
from vinegate.core.supply.tree import Feed, board_name, network_of
from vinegate.core.tables import load
from vinegate.core.turning import Taken

_DEFAULT_MARGIN_PU = 0.10
_SOFT_HEAT_SHARE = 0.8
_UNKNOWN_STALL_S = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Known:
    """What a simulation needs, all of it known."""

    machine: Machine
    load: LoadAsked
    feed: Feed
    rated: Rated
    run: RunImpedance | None
    frequency_hz: float
    neutral: bool = False
    drive: Supplied | None = None


def study(
    sheet: Sheet, job: Job, circuit: Circuit, rules: RuleSet, known: Known,
    *, moment: Moment, wye_delta: Gate, terminals: Callable[[float], Gate] | None, stalls: Stalls,
    inertia_limit: float | None, inertia_source: str,
) -> tuple[Comparison, Plant]:  # fmt: skip
    """Simulate, judge, compare. Notes go on the sheet."""
    network = known.feed.network
    assert network is not None
    plant = _plant(known, network, circuit)
    before = before_pu(plant)
    possible = {way.key: eligible(way, circuit, job, wye_delta) for way in ways.WAYS}
    loss_share, running_w = _losses(known)
    asked = _asked(
        job, circuit, known, network, rated_loss_w=loss_share * (circuit.plate.power_w or 0.0),
        running_loss_w=running_w, stalls=stalls, inertia_limit=inertia_limit, inertia_source=inertia_source,
        moment=moment, rules=rules,
    )  # fmt: skip
    runs = _simulate(plant, circuit, job, loss_share, stalls.hot_s, known.machine.promise)
    rows = [
        _row(plant, method, may, runs.get(method), asked, before, terminals, rules) for method, may in possible.items()
    ]
    angle = 1 / (complex(plant.z_motor[0]) + plant.z_run)
    found = compare(
        rows,
        circuit,
        [bus.name for bus in network.buses],
        limit_a=limit_current_a(plant, job.limits.dip_pu, angle),
        source=job.supply.in_use or "utility",
        volts_ratio=plant.board_v / network.buses[0].volts_v,
        words=rules.words,
    )
    found = _of_the_chosen(found, plant, runs, asked, before)
    if asked.dip_pu is None:
        found = side_by_side(found, _dips_at(plant, runs, asked, before), circuit)
    found = replace(found, soft_stop=_soft_stop(plant, circuit, runs))
    sheet.notes += notes_on(plant, found, job, circuit, rules.words)
    return found, plant


def _row(
    plant: Plant, method: str, may: Answer, run: MethodRun | None, asked: Asked, before: Array,
    terminals: Callable[[float], Gate] | None, rules: RuleSet,
) -> MethodRow:  # fmt: skip
    """One way, judged; or why it is not possible."""
    if run is None or not may.verdict.usable:
        return not_possible(method, may, rules.words)
    at_motor = terminals(float(run.course.all("motor_a").max())) if terminals else None
    relay = RelayHeat(plant, run.course, in_delta=asked.relay_in_delta)
    gates = judge(plant, run, asked, before, relay, at_motor)
    return row_of(plant, run, gates, may, before, asked, relay, rules.words)


def _of_the_chosen(
    found: Comparison, plant: Plant, runs: Mapping[str, MethodRun], asked: Asked, before: Array
) -> Comparison:
    """With what is worked out of the way in use alone: its course in detail, and flicker where nobody limits it."""
    if found.row(found.chosen).outcome is None:
        return found
    course, stall_s = runs[found.chosen].course, asked.stall.value if asked.stall else None
    detail = detail_of(plant, course, before, stall_s, STRIP_POINTS, in_delta=asked.relay_in_delta)
    found = replace(found, detail=detail)
    if asked.flicker is None:
        found = _informed(found, flicker_gates(course, asked, before, plant.frequency_hz))
    return found


def _dips_at(
    plant: Plant, runs: Mapping[str, MethodRun], asked: Asked, before: Array
) -> dict[str, dict[float, Verdict]]:
    """The dip's verdict of each way, had the limit been one of the usual ones."""
    return {
        method: {
            limit: dip_gate(plant, run, replace(asked, dip_pu=limit / 100), before).verdict for limit in LIMITS_PCT
        }
        for method, run in runs.items()
    }


def _informed(found: Comparison, gates: tuple[Gate, ...]) -> Comparison:
    """The way in use with gates that only inform: of the others nobody asks them."""
    rows = (replace(row, gates=(*row.gates, *gates)) if row.chosen else row for row in found.rows)
    return replace(found, rows=tuple(rows))


def _plant(known: Known, network: Network, circuit: Circuit) -> Plant:
    rated, run = known.rated, known.run
    assert rated.current is not None
    ohms = complex(run.r.value, run.x.value) / 1000 if run else 0j
    if known.neutral:  # and back through the neutrals of run and feeders
        back = known.feed.run
        ohms = 2 * ohms + (complex(back.r.value, back.x.value) / 1000 if back else 0j)
    return build(
        network=network,
        at=network.index(known.feed.board),
        model=known.machine.circuit,
        asked=known.load,
        plate_v=known.machine.volts_v,
        frequency_hz=known.frequency_hz,
        rated_current_a=rated.current.value,
        rated_torque_nm=known.machine.rated_torque_nm,
        run_ohm=ohms,
        phase_factor=volt_ampere_factor(circuit.plate.kind),
        locked_power_factor=circuit.start.locked_rotor_power_factor,
        promise=known.machine.promise,
        neutral=known.neutral,
        drive=known.drive,
    )


def _simulate(
    plant: Plant,
    circuit: Circuit,
    job: Job,
    loss_share: float,
    stall_hot_s: float | None,
    promise: Promise | None,
    *,
    brief: bool = False,
) -> Mapping[str, MethodRun]:
    return simulate(
        plant,
        circuit.start,
        dip_limit_pu=job.limits.dip_pu,
        margin_pu=_margin(job),
        most_i2t_s=_SOFT_HEAT_SHARE * (stall_hot_s or _UNKNOWN_STALL_S),
        loss_share=loss_share,
        cage=circuit.plate.family is Family.CAGE,
        weakest=promise.weakest if promise is not None else 1.0,
        brief=brief,
    )


def _soft_stop(plant: Plant, circuit: Circuit, runs: Mapping[str, MethodRun]) -> SoftStop | None:
    """The stop where one is asked for, from the speed at which the machine runs."""
    start, full = circuit.start, runs[ways.USUAL.key].course
    if (start.soft_stop != "yes" and start.soft_stop_ramp_s is None) or full.outcome is not Outcome.REACHES:
        return None
    ramp_s = max(start.soft_stop_ramp_s or USUAL_RAMP_S, 0.1)
    of_torque = start.soft_ramp_of == "torque"
    return soft_stop(plant, running_pu=full.final_speed_pu, ramp_s=ramp_s, of_torque=of_torque)


def _margin(job: Job) -> float:
    return _DEFAULT_MARGIN_PU if job.limits.torque_pu is None else job.limits.torque_pu


def _losses(known: Known) -> tuple[float, float]:
    """Rated loss over output, and watts lost while it carries its load."""
    model, volts = known.machine.circuit, known.machine.volts_v
    speed = known.rated.speed.value if known.rated.speed else 0.0
    top = model.synchronous_rad_s() * 30 / math.pi
    slip = max(1 - speed / top, 1e-3)
    share = min(known.load.torque_nm * known.load.full_pu / known.machine.rated_torque_nm, 1.2)

    def lost(at: float, loaded: Model = model) -> tuple[float, float]:
        run = run_at(loaded, np.array([at]), volts_v=volts)
        return float(run.input_w[0] - run.shaft_w[0]), float(run.shaft_w[0])

    rated_loss, output = lost(slip)
    running, _ = lost(max(slip * share, 1e-4))
    return rated_loss / max(output, 1.0), running


def _asked(
    job: Job,
    circuit: Circuit,
    known: Known,
    network: Network,
    *,
    rated_loss_w: float,
    running_loss_w: float,
    stalls: Stalls,
    inertia_limit: float | None,
    inertia_source: str,
    moment: Moment,
    rules: RuleSet,
) -> Asked:
    limits = job.limits
    return Asked(
        dip_pu=limits.dip_pu,
        dip_source=limits.dip_source or "set for the job",
        hold=_hold(limits.contactor_pu),
        start_va=limits.start_power_va,
        start_a=limits.start_current_a,
        flicker=limits.flicker,
        margin_pu=_margin(job),
        stall=stalls.hot,
        cold=stalls.cold,
        load_inertia_limit=inertia_limit,
        inertia_source=inertia_source,
        load=known.load,
        promise=known.machine.promise,
        starts_per_hour=circuit.start.starts_per_hour,
        rated_loss_w=max(rated_loss_w, 1.0),
        running_loss_w=running_loss_w,
        trip_a=circuit.start.instantaneous_trip_a,
        sensitive=_sensitive(job, network),
        recovery_s=job.standby.recovery_s if job.supply.in_use == "standby" else None,
        sag=moment.sag,
        relay_in_delta=circuit.protection.overload_place == "delta",
        switching=circuit.start.switching or "automatic",
        private=job.supply.in_use == "standby",
        strong_design=rules.practice.strong_design,
        flicker_standard=rules.flicker_standard(known.rated.current.value if known.rated.current else 0.0),
    )


def _sensitive(job: Job, network: Network) -> tuple[Sensitive, ...]:
    found = []
    for index, bus in enumerate(network.buses):
        board = job.main_board if bus.key == "main" else job.board(bus.key)
        if board is None or board.sensitive in (None, "none"):
            continue
        least = (board.sensitive_least_pu or 0.9) if board.sensitive == "own" else None
        found.append(Sensitive(index, board_name(job, bus.key), least))
    return tuple(found)


def _hold(given_pu: float | None) -> Taken:
    """Down to what contactors hold: all that is promised, unless their maker's figure is given."""
    promised = load("preset").find(key="contactor_hold")
    assert promised is not None
    value = float(promised["value"]) if given_pu is None else 100 * given_pu
    return Taken(
        path="limits.contactor",
        label="volts down to which contactors hold",
        unit="%",
        value=value,
        low=value if given_pu is not None else float(promised["low"]),
        high=value,
        how="promised" if given_pu is None else "",
        given=given_pu is not None,
    )


def on_the_other(
    job: Job, circuit: Circuit, rules: RuleSet, known: Known, stall_hot_s: float | None, wye_delta: Gate
) -> OtherSource | None:
    """The source that is not in use; None when it is not known or cannot carry what runs already."""
    standby = job.supply.in_use == "standby"
    possible = {way.key: eligible(way, circuit, job, wye_delta) for way in ways.WAYS}
    loss_share, _ = _losses(known)
    scratch = Sheet("scratch", "")
    other_job = replace(job, supply=job.supply.model_copy(update={"in_use": "utility" if standby else "standby"}))
    source = utility_source(scratch, other_job) if standby else standby_source(scratch, other_job)
    if source is None or (standby and job.supply.transformer_power_va is None and job.supply.fault_level is None):
        return None
    try:
        network = network_of(other_job, rules, source, known.frequency_hz)
    except ValueError:
        return None
    plant = _plant(known, network, circuit)
    before: Array = before_pu(plant)
    runs = _simulate(plant, circuit, other_job, loss_share, stall_hot_s, known.machine.promise, brief=True)
    return other_source("utility" if standby else "standby generator", runs, before, possible)
