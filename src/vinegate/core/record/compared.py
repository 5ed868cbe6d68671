"""A captured start held against the planned one, run again on the captured volts."""

from __future__ import annotations

from itertools import pairwise
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.capture.features import Features, read_curve
from vinegate.core.capture.process import Course
from vinegate.core.numbers import write
from vinegate.core.record.found import Against
from vinegate.core.record.rerun import Again, Volts, again, held, running_at, settled_place
from vinegate.core.records import dataclass, replace
from vinegate.core.start.connection import FULL, behave
from vinegate.core.start.plant import Plant

_MOST_POINTS: Final = 900
TIME_BAND: Final = 0.30
_AS_PLANNED: Final = (0.75, 1.3)
DIP_TIMES: Final = 1.3
DIP_POINTS: Final = 0.5
"""Per cent of the volts: what a meter of class 0.5 tells apart."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """One feature: measured, planned, the band it may lie in, and the word for it."""

    key: str
    name: str
    unit: str
    found: float | None
    planned: float | None
    low: float | None = None
    high: float | None = None

    @property
    def word(self) -> str:
        if self.found is None or self.planned is None:
            return "not seen" if self.found is None else "not planned"
        near = 0.05 * abs(self.planned)
        if abs(self.found - self.planned) <= near:
            return "matches"
        inside = self.low is not None and self.high is not None and self.low <= self.found <= self.high
        return "within the band" if inside else "differs"

    @property
    def ratio(self) -> float | None:
        return self.found / self.planned if self.found is not None and self.planned else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """The planned start as it would be here: amperes against time from the onset.

    `run_again`: on the captured volts."""

    time_s: Array
    line_a: Array
    low_a: Array
    high_a: Array
    plateau_a: float | None
    largest_a: float | None
    time_to_s: float | None
    running_a: float | None
    running_factor: float | None
    idle_a: float | None
    run_again: bool
    laden: bool = False
    """Whether it runs with what is put on after the start: its amperes lie nearer to those."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """Lines in the order in which they are read; both curves; the difference on the measured times."""

    lines: tuple[Line, ...]
    planned: Planned | None
    time_s: Array
    found_a: Array
    found_v: Array | None
    gap_a: Array | None

    def line(self, key: str) -> Line | None:
        return next((one for one in self.lines if one.key == key), None)

    @property
    def without_cause(self) -> str:
        """What is to be said of it where no usual cause stands out."""
        words = {one.word for one in self.lines}
        if "differs" in words:
            return (
                "It differs from the plan, and no usual cause fits what was recorded. Volts and all three currents "
                "would tell more; so would the mapping of the channels below."
            )
        if words <= {"not seen", "not planned"}:
            return "There is nothing of a planned start to hold it against: what its plan lacks is named on its sheets."
        return "Nothing stands out: the start is as planned within what can be told."


def compare(course: Course, found: Features, plan: Against, *, change_s: float | None = None) -> Compared:
    """Planned beside measured. `change_s` puts another change-over into the re-run than the planned one."""
    after = course.time_s >= found.onset_s
    time, amps = course.time_s[after] - found.onset_s, course.mean_a()[after]
    volts = course.mean_v()[after] if course.volts else None
    planned = planned_start(plan, Volts(time_s=time, line_v=volts) if volts is not None else None, change_s=change_s)
    if planned is not None:
        planned = _with_its_load(found, plan, planned)
    gap = None
    if planned is not None and planned.time_s.size > 1:
        gap = amps - np.interp(time, planned.time_s, planned.line_a)
    keep = _told(amps)
    return Compared(
        lines=tuple(_lines(found, plan, planned)), planned=planned, time_s=time[keep], found_a=amps[keep],
        found_v=volts[keep] if volts is not None else None, gap_a=gap[keep] if gap is not None else None,
    )  # fmt: skip


def _told(amps: Array) -> Array:
    """Places that are kept: of each stretch its first and its largest, so that no spike falls between two."""
    if not amps.size:
        return np.zeros(0, dtype=int)
    ends = np.unique(np.linspace(0, amps.size, min(_MOST_POINTS // 2, amps.size) + 1).astype(int))
    most = [low + int(amps[low:high].argmax()) for low, high in pairwise(ends)]
    return np.unique(np.concatenate([ends[:-1], most, [amps.size - 1]]).astype(int))


def _with_its_load(found: Features, plan: Against, planned: Planned) -> Planned:
    """The planned running of all the load, where some comes on after the start and that is what was recorded."""
    load, plant, volts = plan.load, plan.plant, found.running_v
    if load is None or plant is None or load.full_pu >= 1 or plan.turns is None or volts is None:
        return planned
    if planned.running_a is None or found.running_a is None:
        return planned
    if not planned.plateau_a or not _AS_PLANNED[0] < found.plateau_a / planned.plateau_a < _AS_PLANNED[1]:
        return planned  # what shows at rest too is no load
    runs = running_at(plant, load, volts)
    if abs(found.running_a - runs.amps) >= abs(found.running_a - planned.running_a):
        return planned
    return replace(planned, running_a=runs.amps, running_factor=runs.factor, laden=True)


def planned_start(plan: Against, volts: Volts | None, *, change_s: float | None = None) -> Planned | None:
    """On the captured volts where its way can be run on them; else as it was planned."""
    detail = plan.comparison.detail if plan.comparison is not None else None
    if plan.plant is None or detail is None or plan.row is None:
        return None
    low, high = current_band(plan)
    run = plan.again(volts or _own_volts(plan), change_s)
    if run is not None:
        return _again(plan, run, volts, low, high)
    time, amps = np.array(detail.time_s), np.array(detail.line_a)
    return Planned(
        time_s=time,
        line_a=amps,
        low_a=amps * low,
        high_a=amps * high,
        plateau_a=plan.row.peak_a,
        largest_a=plan.row.peak_a,
        time_to_s=plan.row.time_s,
        running_a=None,
        running_factor=None,
        idle_a=None,
        run_again=False,
    )


def _again(plan: Against, run: Again, volts: Volts | None, low: float, high: float) -> Planned:
    ends = run.time_s[-1]
    time = np.append(run.time_s, [ends + 0.02, max(ends * 1.5, ends + 1.0)])
    amps = np.append(run.line_a, [run.running_a, run.running_a] if run.duration_s else [run.line_a[-1]] * 2)
    seen = read_curve(*_evenly(time, amps))
    up = seen.time_s if run.duration_s is not None else None
    return Planned(
        time_s=time, line_a=amps, low_a=amps * low, high_a=amps * high, plateau_a=seen.plateau_a,
        largest_a=seen.largest_a, time_to_s=up or run.duration_s, running_a=run.running_a if run.duration_s else None,
        running_factor=run.running_factor if run.duration_s else None,
        idle_a=_idle(plan, volts), run_again=volts is not None,
    )  # fmt: skip


def _evenly(time: Array, amps: Array) -> tuple[Array, Array]:
    """On steps of 10 ms, as a capture is read."""
    even = np.arange(0.0, float(time[-1]), 0.01)
    return even, np.interp(even, time, amps)


def _own_volts(plan: Against) -> Volts:
    """The volts that were planned at the starter."""
    assert plan.comparison is not None
    assert plan.comparison.detail is not None
    return Volts(time_s=np.array(plan.comparison.detail.time_s), line_v=plan.own_v())


def _idle(plan: Against, volts: Volts | None) -> float | None:
    assert plan.plant is not None
    if plan.row is not None and plan.row.held_by_ramp:
        return None
    return idle_a(plan.plant, volts.at(float(volts.time_s[-1])) if volts is not None else plan.plant.board_v)


def idle_a(plant: Plant, line_v: float) -> float:
    """Amperes with nothing coupled at these volts; a drive's line amperes tell nothing of that."""
    behaviour = behave(plant, [FULL])
    board = np.abs(behaviour.seen.volts(behaviour.line))[plant.at] * plant.board_v
    gap = ((behaviour.torque + plant.drag_nm) / board**2)[0] * line_v**2
    place = settled_place(gap - plant.drag_nm)
    return float(np.interp(place, plant.axis, (np.abs(behaviour.line) * plant.amps_per_pu / board)[0])) * line_v


def current_band(plan: Against) -> tuple[float, float]:
    """As shares of the planned current: what a code letter leaves open, else the tolerance of a stated one."""
    locked = plan.locked
    if locked is not None and locked.high is not None and locked.high.value > 1.01 * locked.low.value:
        return locked.low.value / locked.high.value, 1.03
    wide = plan.rules.current_tolerance[1]
    return 2 - max(wide, 1.05), max(wide, 1.05)


def _lines(found: Features, plan: Against, planned: Planned | None) -> list[Line]:
    low, high = current_band(plan)

    def line(key: str, name: str, unit: str, value: float | None, of: float | None, less: float, more: float) -> Line:
        ends = (of * less, of * more) if of is not None else (None, None)
        return Line(key=key, name=name, unit=unit, found=value, planned=of, low=ends[0], high=ends[1])

    row = plan.row
    plateau = planned.plateau_a if planned else None
    time_to = planned.time_to_s if planned else None
    running = planned.running_a if planned else None
    return [
        line("before", "Volts before", "V", found.before_v, plan.before_v, 0.95, 1.05),
        line("plateau", "Held while starting", "A", found.plateau_a, plateau, low, high),
        line("peak", "First peak", "A", found.peak_a, _peak(plan), 0.5, 1.1),
        line("change", "Change-over", "s", found.change_s if row and row.changes_at_s else None,
             row.changes_at_s if row else None, 0.85, 1.15),
        line("time", "Time to speed", "s", found.time_s, time_to, 1 - TIME_BAND, 1 + TIME_BAND),
        _dip(found, row.dip_pct if row else None),
        line("running", "Running, all of its load on" if planned and planned.laden else "Running", "A",
             found.running_a, running, 0.9, 1.1),
    ]  # fmt: skip


def _dip(found: Features, planned: float | None) -> Line:
    """A small one is read to half a point, a large one to its share."""
    low, high = None, None
    if planned is not None:
        low, high = max((2 - DIP_TIMES) * planned - DIP_POINTS, 0.0), DIP_TIMES * planned + DIP_POINTS
    return Line(key="dip", name="Dip", unit="%", found=found.dip_pct, planned=planned, low=low, high=high)


def _peak(plan: Against) -> float | None:
    """At most 2.5 × the current at rest in its first connection: with a full offset, and no more."""
    if plan.turns is None or plan.plant is None:
        return None
    return 2.5 * again(plan.plant, plan.turns, held(plan.plant.board_v)).plateau_a


def said(found: Compared) -> str:
    """What a capture says, in a sentence."""
    parts = []
    for key in ("plateau", "time", "running"):
        line = found.line(key)
        if line is None or line.found is None:
            continue
        plan = f", plan {write(line.planned, 3)} {line.unit}" if line.planned is not None else ""
        parts.append(f"{line.name.lower()} {write(line.found, 3)} {line.unit}{plan}: {line.word}")
    text = "; ".join(parts)
    return f"{text[:1].upper()}{text[1:]}." if text else "No start can be compared."
