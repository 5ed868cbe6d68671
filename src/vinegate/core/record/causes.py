"""What a difference most likely means: every pattern scored by how well it fits, times how often it is the cause.

Likely, never a fact: the next measurement that would tell two apart stands beside each. Priors are estimates.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Final

from vinegate.core.capture.features import Features
from vinegate.core.capture.process import Course
from vinegate.core.record.compared import DIP_POINTS, Compared
from vinegate.core.record.found import Against
from vinegate.core.records import dataclass

_IDLES: Final = 0.08
"""Of its running amperes: nearer to those of nothing coupled they tell nothing."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Signs:
    """Ratios of measured to planned on the measured volts; 1 where either is not there, so that it tells nothing."""

    current: float = 1.0
    time: float = 1.0
    running: float = 1.0
    reached: bool = True
    should_reach: bool = True
    change_late_s: float = 0.0
    changes: bool = False
    dip: float = 1.0
    before: float = 1.0
    unequal_u: float = 0.0
    unequal_i: float = 0.0
    zero: bool = False
    factor: float = 0.0
    """Power factor running, measured less planned."""
    idle: float = 0.0
    """Running current less that of nothing coupled, of the planned difference; 1 as planned."""
    pulses: bool = False
    clipped: bool = False
    spike: float = 1.0
    wye: bool = False
    electronic: bool = False
    drive: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause:
    """A likely cause with its score, 0 to 1, and what would tell it from the next."""

    key: str
    says: str
    tell: str
    score: float


@dataclass(frozen=True, slots=True, kw_only=True)
class _Pattern:
    key: str
    says: str
    tell: str
    prior: float
    fit: Callable[[Signs], float]


def near(value: float, target: float, width: float = 0.12) -> float:
    """1 where they agree, falling with the logarithm of their ratio."""
    if value <= 0 or target <= 0:
        return 0.0
    return math.exp(-((math.log(value / target) / width) ** 2))


def above(value: float, edge: float, width: float = 0.1) -> float:
    """From 0 below `edge` to 1 beyond `edge + width`."""
    return min(max((value - edge) / width, 0.0), 1.0)


def below(value: float, edge: float, width: float = 0.1) -> float:
    return min(max((edge - value) / width, 0.0), 1.0)


def _whole(value: float) -> float:
    """Near a factor that ranges, loops through a clamp, ratios and phases read for lines make, or near its inverse."""
    return max(near(value, times**way, 0.06) for times in (math.sqrt(3), 2.0, 3.0, 5.0, 10.0) for way in (1, -1))


_PATTERNS: Final = (
    _Pattern(
        key="in_wye",
        prior=0.9,
        says="A machine for delta is still in wye: delta never came.",
        tell="Look at the contactors at the end of the start, or the volts across one winding.",
        fit=lambda s: (
            max(
                near(s.current, 1 / 3) * (1 - s.wye),
                s.wye * (s.change_late_s > 1e8) * near(s.current, 1) * (1 - near(s.running, 1, 0.06)),
            )
            * max(above(s.time, 1.3, 0.5), 1 - s.reached, s.wye * 1.0)
        ),
    ),
    _Pattern(
        key="in_delta",
        prior=0.9,
        says="It starts in delta where wye was planned, or the wye contactor is welded.",
        tell="Watch which contactors come in; look at the six leads.",
        fit=lambda s: near(s.current, 3.0) * below(s.time, 0.9, 0.3) * s.wye,
    ),
    _Pattern(
        key="strapped_high",
        prior=0.9,
        says="Its links are set for the higher volts.",
        tell="Compare links and diagram; the current is a quarter.",
        fit=lambda s: near(s.current, 0.25),
    ),
    _Pattern(
        key="strapped_low",
        prior=0.9,
        says="Its links are set for the lower volts: switch it off.",
        tell="Compare links and diagram; the current is four times.",
        fit=lambda s: near(s.current, 4.0, 0.4) * above(s.running, 1.4, 0.4),
    ),
    _Pattern(
        key="single_phase",
        prior=0.95,
        says="It runs on two phases: a fuse, contact or lead is open.",
        tell="Measure volts ahead of and behind each pole.",
        fit=lambda s: float(s.zero),
    ),
    _Pattern(
        key="instrument",
        prior=0.85,
        says="The instrument: ratio, loops through the clamp, or range.",
        tell="Read one phase with another clamp; power read elsewhere stays as planned.",
        fit=lambda s: _whole(s.current) * near(s.running / s.current, 1.0, 0.1) * near(s.time, 1.0, 0.15),
    ),
    _Pattern(
        key="clipped",
        prior=0.9,
        says="The recorder is at the end of its range, or its transformer saturates.",
        tell="A larger range; the tops of the waves are flat.",
        fit=lambda s: float(s.clipped),
    ),
    _Pattern(
        key="heavy",
        prior=0.7,
        says="The load asks more torque: valve open, oil cold, a dry bearing, a brake that drags.",
        tell="Turn it by hand; its running current is above the plan too.",
        fit=lambda s: (
            near(s.current, 1.0, 0.25)
            * above(s.time, 1.15, 0.1)
            * below(s.time, 3.0, 0.5)
            * above(s.running, 1.04, 0.06)
            * s.reached
            * (s.change_late_s < 0.3)
        ),
    ),
    _Pattern(
        key="inertia",
        prior=0.6,
        says="More inertia than planned.",
        tell="Its running current is as planned; let it coast and time it.",
        fit=lambda s: (
            near(s.current, 1.0, 0.25)
            * above(s.time, 1.06, 0.1)
            * near(s.running, 1.0, 0.05)
            * s.reached
            * (1 - 0.9 * (s.change_late_s > 0.3))
            * (1 - s.electronic * 0.6)
        ),
    ),
    _Pattern(
        key="unloaded",
        prior=0.8,
        says="It is not loaded: valve shut, coupling or belt broken, pump dry.",
        tell="Look at the driven shaft; the running current is nearly that of nothing coupled.",
        fit=lambda s: near(s.current, 1.0, 0.3) * below(s.idle, 0.35, 0.2) * s.reached * below(s.time, 1.05, 0.1),
    ),
    _Pattern(
        key="hangs",
        prior=0.8,
        says="Its torque is short: a tap or limit too low, a saddle in its curve, wye too weak.",
        tell="At which speed does it hang? Volts at its leads then.",
        fit=lambda s: float(not s.reached and s.should_reach) * near(s.current, 1.0, 0.35),
    ),
    _Pattern(
        key="letter",
        prior=0.6,
        says="A motor of another code letter or tap, or run past its base speed.",
        tell="Read its plate again; current up and time down together.",
        fit=lambda s: (
            above(s.current, 1.1, 0.08)
            * below(s.current, 2.2, 0.4)
            * below(s.time, 0.95, 0.08)
            * near(s.running, 1.0, 0.12)
            * (1 - 0.6 * s.electronic)
        ),
    ),
    _Pattern(
        key="timer",
        prior=0.9,
        says="The change-over comes at another moment than planned: its timer.",
        tell="Read the timer's dial; the current just before it shows whether it was needed.",
        fit=lambda s: (
            above(abs(s.change_late_s), 0.2, 0.2) * s.changes * (s.change_late_s < 1e8) * near(s.current, 1.0, 0.25)
        ),
    ),
    _Pattern(
        key="spike",
        prior=0.7,
        says="The change-over meets the motor's own volts in opposition.",
        tell="Swap the pair of leads at the delta link, or use a closed transition.",
        fit=lambda s: above(s.spike, 1.8, 0.6) * s.changes * (abs(s.change_late_s) < 0.3),
    ),
    _Pattern(
        key="weak_source",
        prior=0.8,
        says="The source is weaker than planned: tap, generator, long feeder, a loose joint.",
        tell="Its impedance from this capture; the voltage at each joint under load.",
        fit=lambda s: above(s.dip, 1.3, 0.3) * near(s.current, 1.0, 0.3),
    ),
    _Pattern(
        key="low_volts",
        prior=0.8,
        says="The volts are low before it starts: the tap, or other load.",
        tell="Volts with everything else off.",
        fit=lambda s: below(s.before, 0.955, 0.03) * below(s.dip, 1.4, 0.3),
    ),
    _Pattern(
        key="overload",
        prior=0.85,
        says="It is overloaded.",
        tell="Power from the line; its speed is below the plate's.",
        fit=lambda s: (
            above(s.running, 1.08, 0.08)
            * near(s.current, 1.0, 0.25)
            * near(s.time, 1.0, 0.13)
            * below(s.unequal_u, 1.5, 0.7)
            * (1 - below(s.factor, -0.05, 0.05))
        ),
    ),
    _Pattern(
        key="winding",
        prior=0.6,
        says="Volts too high, a shorted turn, or a rewind with other turns.",
        tell="Power factor is low at the right speed: winding resistance, insulation, no-load current.",
        fit=lambda s: above(s.running, 1.08, 0.08) * below(s.factor, -0.05, 0.08) * below(s.unequal_u, 1.5, 0.7),
    ),
    _Pattern(
        key="unbalance",
        prior=0.85,
        says="Unequal volts feed it.",
        tell="Rotate all three leads: what stays with the line is the supply's.",
        fit=lambda s: above(s.unequal_u, 1.2, 0.8) * above(s.unequal_i, 4.0, 4.0) * (1 - s.zero),
    ),
    _Pattern(
        key="pulses",
        prior=0.6,
        says="A broken rotor bar, a belt, or a load that works in strokes.",
        tell="Does the pulse follow twice the slip as the load changes?",
        fit=lambda s: float(s.pulses),
    ),
    _Pattern(
        key="reversed",
        prior=0.6,
        says="A pump or fan turns the wrong way, or its wheel is another.",
        tell="The bump; flow about a half.",
        fit=lambda s: (
            above(s.idle, 0.3, 0.1)
            * below(s.idle, 0.85, 0.1)
            * near(s.current, 1.0, 0.25)
            * s.reached
            * below(s.time, 1.1, 0.1)
            * (1 - s.pulses)
        ),
    ),
    _Pattern(
        key="limit_low",
        prior=0.8,
        says="The soft starter's limit is too low, or its ramp too long.",
        tell="Its current stays at the limit to the end.",
        fit=lambda s: (
            (s.electronic and not s.drive) * below(s.current, 0.95, 0.1) * max(above(s.time, 1.1, 0.2), 1 - s.reached)
        ),
    ),
    _Pattern(
        key="limit_high",
        prior=0.8,
        says="The soft starter lets more through than planned: its limit is higher, or its by-pass closes too soon.",
        tell="Read its limit; watch when the by-pass comes in.",
        fit=lambda s: (
            (s.electronic and not s.drive)
            * above(s.current, 1.06, 0.08)
            * below(s.time, 0.97, 0.1)
            * near(s.running, 1.0, 0.12)
        ),
    ),
)


def signs_of(course: Course, found: Features, compared: Compared, plan: Against) -> Signs:
    """What the patterns look at."""
    planned, row = compared.planned, plan.row

    def ratio(key: str) -> float:
        line = compared.line(key)
        return line.ratio if line is not None and line.ratio else 1.0

    changes = bool(row and row.changes_at_s is not None)
    late = 0.0
    if changes and row is not None and row.changes_at_s is not None:
        late = found.change_s - row.changes_at_s if found.change_s is not None else 1e9
    factor = 0.0
    if found.factor_running is not None and planned is not None and planned.running_factor is not None:
        factor = found.factor_running - planned.running_factor
    return Signs(
        current=ratio("plateau"),
        time=ratio("time") if found.time_s is not None else 1.0,
        running=ratio("running"),
        reached=found.time_s is not None,
        should_reach=planned is not None and planned.time_to_s is not None,
        change_late_s=late,
        changes=changes,
        dip=_dip(found, plan, ratio("dip")),
        before=ratio("before"),
        unequal_u=found.unbalance_u_pct or 0.0,
        unequal_i=found.unbalance_i_pct or 0.0,
        zero=bool(found.zero_phase),
        factor=factor,
        idle=_idle(found, compared),
        pulses=found.pulses_hz is not None,
        clipped=course.clipped,
        spike=_spike(course, found, compared),
        wye=plan.begins_in_wye,
        electronic=plan.turns is None,
        drive=plan.converted,
    )


def _dip(found: Features, plan: Against, ratio: float) -> float:
    """An ampere's dip, of the planned ampere's."""
    peak = plan.row.peak_a if plan.row is not None else None
    if not peak or found.dip_pct is None or found.largest_a <= 0:
        return 1.0
    asked = plan.row.dip_pct * found.largest_a / peak if plan.row is not None and plan.row.dip_pct else 0.0
    if abs(found.dip_pct - asked) <= DIP_POINTS:
        return 1.0  # no more than it can be read to
    return ratio / (found.largest_a / peak)


def _idle(found: Features, compared: Compared) -> float:
    planned = compared.planned
    if planned is None or planned.running_a is None or planned.idle_a is None or found.running_a is None:
        return 1.0
    return above_idle(found.running_a, planned.running_a, planned.idle_a)


def above_idle(found_a: float, running_a: float, idle_a: float) -> float:
    """What flows above nothing coupled, of what was planned to; 1 where it was planned almost idle: that tells nothing.

    >>> above_idle(60, 90, 30), above_idle(20, 90, 30), above_idle(60, 90, 85)
    (0.5, 0.0, 1.0)
    """
    room = running_a - idle_a
    return max((found_a - idle_a) / room, 0.0) if room >= _IDLES * running_a else 1.0


def _spike(course: Course, found: Features, compared: Compared) -> float:
    """Largest measured current after the first fifth of a second, of the largest planned; 1 where it lasts.

    Of every half cycle: what is drawn of a long start may pass over a spike of a few cycles.
    """
    later = course.time_s > found.onset_s + 0.2
    if compared.planned is None or not later.any():
        return 1.0
    time, amps = course.time_s[later], course.mean_a()[later]
    at = int(amps.argmax())
    after = amps[(time > time[at] + 0.12) & (time < time[at] + 0.3)]
    most = float(compared.planned.line_a.max())
    lasts = after.size > 0 and float(after.max()) > 0.6 * float(amps[at])
    return 1.0 if lasts or most <= 0 else float(amps[at]) / most


def causes(signs: Signs, most: int = 3) -> tuple[Cause, ...]:
    """The likeliest first, none below a tenth."""
    scored = [
        Cause(key=one.key, says=one.says, tell=one.tell, score=round(one.prior * float(one.fit(signs)), 3))
        for one in _PATTERNS
    ]
    good = sorted((one for one in scored if one.score >= 0.1), key=lambda one: -one.score)
    return tuple(good[:most])
