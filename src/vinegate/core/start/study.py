"""The start study: the way in use and what it is weighed against; every way side by side."""

from __future__ import annotations

from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Verdict, worst_of
from vinegate.core.records import replace
from vinegate.core.start import ways
from vinegate.core.start.at_limits import side_by_side
from vinegate.core.start.compare import (
    LIMITS_PCT,
    STRIP_POINTS,
    Comparison,
    MethodRow,
    compare,
    limit_current_a,
    settles,
)
from vinegate.core.start.detail import detail_of
from vinegate.core.start.judge_flicker import flicker_gates
from vinegate.core.start.judge_volts import dip_gate, dips_of
from vinegate.core.start.soft_stop import USUAL_RAMP_S, SoftStop, soft_stop
from vinegate.core.start.trace import Outcome
from vinegate.core.start.trial import Trial
from vinegate.core.start.unrun import behind
from vinegate.core.wording import inside


def in_use(trial: Trial, job: Job, circuit: Circuit) -> Comparison:
    """The way in use, full voltage, and each way that is less dear than the one recommended: what an answer weighs."""
    wanted = {ways.USUAL.key, circuit.start.method or ways.USUAL.key}
    full = trial.row(ways.USUAL.key) if ways.USUAL.key in trial.possible else None
    for row in trial.in_order():
        wanted.add(row.method)
        if settles(row, full):
            break
    found = _compared(trial, job, circuit, [trial.row(key) for key in trial.possible if key in wanted])
    found = _of_the_chosen(found, trial)
    return replace(found, soft_stop=_soft_stop(trial, circuit))


def every_way(trial: Trial, used: Comparison, job: Job, circuit: Circuit) -> Comparison:
    """All ways side by side, those in `used` as they are there."""
    found = _compared(trial, job, circuit, [trial.row(key) for key in trial.possible])
    kept = {row.method: row for row in used.rows}
    found = replace(
        found,
        rows=tuple(kept.get(row.method, row) for row in found.rows),
        detail=used.detail,
        dips=used.dips,
        soft_stop=used.soft_stop,
    )
    if trial.asked.dip_pu is None:
        found = side_by_side(found, _dips_at(trial))
    return found


def _compared(trial: Trial, job: Job, circuit: Circuit, rows: list[MethodRow]) -> Comparison:
    plant = trial.plant
    angle = 1 / (complex(plant.z_motor[0]) + plant.z_run)
    return compare(
        rows,
        circuit,
        plant,
        limit_a=limit_current_a(plant, job.limits.dip_pu, angle),
        source=job.supply.in_use or "utility",
        words=trial.words,
    )


def _of_the_chosen(found: Comparison, trial: Trial) -> Comparison:
    """With what is worked out of the way in use alone: its course in detail, and flicker where nobody limits it."""
    if found.row(found.chosen).outcome is None:
        return found
    plant, asked, run = trial.plant, trial.asked, trial.runs[found.chosen]
    stall_s = asked.stall.value if asked.stall and not run.commutator else None
    detail = detail_of(plant, run.course, trial.before, stall_s, STRIP_POINTS, in_delta=asked.relay_in_delta)
    rows = (_behind_its_run(row, trial) if row.chosen else row for row in found.rows)
    found = replace(found, detail=detail, dips=dips_of(plant, run, asked), rows=tuple(rows))
    if asked.flicker is not None:
        return found
    gates = flicker_gates(plant, run, asked, trial.before)  # of the others nobody asks them
    rows = (replace(row, gates=(*row.gates, *gates)) if row.chosen else row for row in found.rows)
    return replace(found, rows=tuple(rows))


def _behind_its_run(row: MethodRow, trial: Trial) -> MethodRow:
    gates = behind(row.gates, trial.plant, trial.runs[row.method], trial.asked)
    turned = [gate.name for gate, was in zip(gates, row.gates, strict=True) if gate.verdict is not was.verdict]
    if not turned:
        return replace(row, gates=gates)
    verdict = worst_of([row.verdict, *(gate.verdict for gate in gates if gate.weighs)])
    why = f"To check until its run to the motor is known: {inside(turned[0])}."
    return replace(row, gates=gates, verdict=verdict, why=why)


def _dips_at(trial: Trial) -> dict[str, dict[float, Verdict]]:
    """The dip's verdict of each way that was run, had the limit been one of the usual ones."""

    def dips(method: str) -> dict[float, Verdict]:
        plant, run, before = trial.plant, trial.runs[method], trial.before
        limits = {limit: replace(trial.asked, dip_pu=limit / 100) for limit in LIMITS_PCT}
        return {limit: dip_gate(plant, run, asked, before).verdict for limit, asked in limits.items()}

    return {method: dips(method) for method in trial.runs}


def _soft_stop(trial: Trial, circuit: Circuit) -> SoftStop | None:
    """The stop where one is asked for, from the speed at which the machine runs."""
    start, full = circuit.start, trial.runs[ways.USUAL.key].course
    asked = start.soft_stop == "yes" or (start.soft_stop is None and start.soft_stop_ramp_s is not None)
    if not asked or full.outcome is not Outcome.REACHES:
        return None
    ramp_s = max(start.soft_stop_ramp_s or USUAL_RAMP_S, 0.1)
    of_torque = start.soft_ramp_of == "torque"
    return soft_stop(trial.plant, running_pu=full.final_speed_pu, ramp_s=ramp_s, of_torque=of_torque)
