"""The same ways to start on the source that is not in use."""

from __future__ import annotations

from collections.abc import Mapping

from vinegate.core.arrays import Array
from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Answer
from vinegate.core.records import replace
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.start.compare import OtherSource
from vinegate.core.start.judge_volts import deepest_dip_pu
from vinegate.core.start.plant import before_pu
from vinegate.core.start.simulation import MethodRun
from vinegate.core.start.trial import Trial, plant_of, runs_of
from vinegate.core.supply.source import standby_source, utility_source
from vinegate.core.supply.tree import network_of


def on_the_other(trial: Trial, job: Job, circuit: Circuit, rules: RuleSet) -> OtherSource | None:
    """The source that is not in use; None when it is not known or cannot carry what runs already."""
    standby, known = job.on_standby, trial.known
    scratch = Sheet("scratch", "")
    other_job = replace(job, supply=job.supply.model_copy(update={"in_use": "utility" if standby else "standby"}))
    source = utility_source(scratch, other_job) if standby else standby_source(scratch, other_job)
    if source is None or (standby and job.supply.transformer_power_va is None and job.supply.fault_level is None):
        return None
    try:
        network = network_of(other_job, rules, source, known.frequency_hz)
    except ValueError:
        return None
    plant = plant_of(known, network, circuit)
    runs = runs_of(plant, circuit, other_job, known, trial.loss_share, trial.stall_s, trial.possible, brief=True)
    return _in_short("utility" if standby else "standby generator", runs, before_pu(plant), trial.possible)


def _in_short(name: str, found: Mapping[str, MethodRun], before: Array, possible: Mapping[str, Answer]) -> OtherSource:
    """The other source in short."""
    rows = []
    for method, run in found.items():
        if not possible[method].verdict.usable:
            continue
        course = run.course
        ends = f"{course.duration_s:.1f} s" if course.duration_s is not None else course.outcome.value
        dip = 100 * deepest_dip_pu(course, before)
        rows.append((method, float(course.all("line_a").max()), dip, ends))
    return OtherSource(name=name, rows=tuple(rows))
