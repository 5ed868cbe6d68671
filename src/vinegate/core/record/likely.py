"""What a difference in the readings of the forms most likely means: the same patterns that a capture is held against.

A reading that lies within its gate's band is taken as planned, so that nothing is told where nothing differs.
"""

from __future__ import annotations

from collections.abc import Collection
from typing import Final

from vinegate.core.grade import Gate, Verdict
from vinegate.core.record.causes import Cause, Signs, above_idle, causes
from vinegate.core.record.compared import idle_a
from vinegate.core.record.facts import AMPS, VOLTS, Running, Starting, three
from vinegate.core.record.found import Forms, Side
from vinegate.core.record.unbalance import deviation_pct, one_is_dead

_NEAR: Final = 0.05
"""Either way of the planned amperes while running: taken as planned."""
_LATE: Final = "record.start_change"


def likely(forms: Forms, plan: Side, gates: Collection[Gate]) -> tuple[Cause, ...]:
    """The likeliest first; none where every reading is as planned."""
    off = {gate.key for gate in gates if gate.verdict in (Verdict.CHECK, Verdict.FAILS)}
    return causes(_signs(forms, plan, off)) if off else ()


def _signs(forms: Forms, plan: Side, off: Collection[str]) -> Signs:
    start, run, row = forms.start, forms.running, plan.start.row
    volts, amps = three(run, VOLTS), three(run, AMPS)
    zero = amps is not None and one_is_dead(*amps)
    changes = bool(row and row.changes_at_s is not None)
    late = 0.0
    if _LATE in off and row is not None and row.last_change_s is not None and start.changeover_s is not None:
        late = start.changeover_s - row.last_change_s
    current = _current(start, plan) if "record.start_current" in off else 1.0
    return Signs(
        current=current,
        time=_time(start, plan) if "record.start_time" in off else 1.0,
        running=_running(run, plan) if not zero else 1.0,
        change_late_s=late,
        changes=changes,
        dip=_dip(start, plan) / current if "record.start_dip" in off else 1.0,
        before=_before(start, plan),
        unequal_u=deviation_pct(*volts) if volts else 0.0,
        unequal_i=deviation_pct(*amps) if amps else 0.0,
        zero=zero,
        factor=_factor(run, plan) if not zero else 0.0,
        idle=_idle(run, plan) if not zero else 1.0,
        wye=plan.start.begins_in_wye,
        electronic=plan.start.turns is None,
        drive=plan.start.converted,
    )


def _current(form: Starting, plan: Side) -> float:
    """Of the planned one at the volts that were read; 1 where it was read too slowly to be one."""
    planned = plan.started.plateau_a if plan.started is not None else plan.planned_a
    if not form.plateau_a or not planned or form.rate == "slow":
        return 1.0
    return form.plateau_a / planned


def _time(form: Starting, plan: Side) -> float:
    again = plan.started.duration_s if plan.started is not None else None
    planned = again or (plan.start.row.time_s if plan.start.row is not None else None)
    return form.time_s / planned if form.time_s and planned else 1.0


def _running(form: Running, plan: Side) -> float:
    """Of the planned amperes, by their mean."""
    amps, runs = three(form, AMPS), plan.runs
    if amps is None or runs is None:
        return 1.0
    ratio = sum(amps) / 3 / runs.amps
    return ratio if abs(ratio - 1) > _NEAR else 1.0


def _idle(form: Running, plan: Side) -> float:
    """Above those of nothing coupled, of the planned difference."""
    amps, runs, volts, plant = three(form, AMPS), plan.runs, three(form, VOLTS), plan.start.plant
    if amps is None or runs is None or volts is None or plant is None or _running(form, plan) == 1.0:
        return 1.0
    return above_idle(sum(amps) / 3, runs.amps, idle_a(plant, sum(volts) / 3))


def _factor(form: Running, plan: Side) -> float:
    """Power factor, read or by the power, less the planned one."""
    volts, amps, runs = three(form, VOLTS), three(form, AMPS), plan.runs
    if runs is None or volts is None or amps is None:
        return 0.0
    if form.power_w is not None:
        return form.power_w / (3**0.5 * sum(volts) / 3 * sum(amps) / 3) - runs.factor
    return form.factor_pu - runs.factor if form.factor_pu is not None else 0.0


def _dip(form: Starting, plan: Side) -> float:
    planned = plan.start.row.dip_pct if plan.start.row is not None else None
    if not form.before_v or form.least_v is None or not planned:
        return 1.0
    return 100 * (1 - form.least_v / form.before_v) / planned


def _before(form: Starting, plan: Side) -> float:
    planned = plan.start.before_v
    return form.before_v / planned if form.before_v and planned else 1.0
