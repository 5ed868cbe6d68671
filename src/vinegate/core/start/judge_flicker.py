"""Flicker and changes of volts that a start makes at the main board, by the standard that applies to its current."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

from vinegate.core.arrays import Array
from vinegate.core.grade import Gate, Kind, at_most
from vinegate.core.numbers import counted, write
from vinegate.core.records import dataclass, replace
from vinegate.core.start.asked import Asked
from vinegate.core.start.flicker import lamp_at, severity, shape_factor
from vinegate.core.start.judge_volts import deepest_dip_pu, moves, time_below
from vinegate.core.start.plant import Plant
from vinegate.core.start.simulation import MethodRun
from vinegate.core.turning import Room, Taken, point

_LONG_SHARE: Final = 0.65  # P_lt over P_st, IEC 61000-3-3:2013 5
_USUAL: Final = 1.0
_LASTING_PCT: Final = 3.3  # d_c
# d_max by how it is switched, IEC 61000-3-3:2013 5: automatic; by hand, or delayed or by hand after an outage; rare.
MOST_PCT: Final = {"automatic": 4.0, "manual": 6.0, "rare": 7.0}
_WINDOWS_AN_HOUR: Final = 6.0
Moving = tuple[Sequence[Taken], Room]
"""The facts behind a fall, and how much deeper it is with them."""
_REMEDY: Final = "Fewer starts, or a start that draws less."


@dataclass(frozen=True, slots=True, kw_only=True)
class _Seen:
    """A start as a lamp sees it: its largest change in per cent, its shape factor, what lasts of it; and its course.

    A rise counts as a fall does (IEC 61000-3-3:2013 3).
    """

    dip_pct: float
    shape: float
    lasting_pct: float
    time_s: Array
    change: Array

    def short(self, per_hour: float) -> float:
        """P_st of the ten minutes that hold a start, or n/6 of them."""
        count = max(per_hour / _WINDOWS_AN_HOUR, 1.0)
        return severity(dip_pct=self.dip_pct, changes_in_ten_minutes=count, shape=self.shape)

    def above(self, times: float) -> float:
        """Seconds above 3.3 %, were it so many times as deep."""
        return time_below(self.time_s, -times * self.change, -_LASTING_PCT / 100)

    def long(self, per_hour: float) -> float:
        """P_lt over two hours: `∛(Σ P_st³/12)`, ten minutes without a start counting nought."""
        filled = min(per_hour / _WINDOWS_AN_HOUR, 1.0)
        return self.short(per_hour) * math.cbrt(filled)


def flicker_gates(plant: Plant, run: MethodRun, asked: Asked, before: Array) -> tuple[Gate, ...]:
    """P_st and P_lt, except of what is switched by hand; d_max, d_c and T_max.

    They weigh only where a limit is typed and the source is a public one: else they inform.
    """
    if not asked.starts_per_hour:
        return ()
    course = run.course
    change = 1 - course.all("bus_pu")[0] / before[0]
    seen = _Seen(
        dip_pct=100 * max(deepest_dip_pu(course, before), -float(change.min())),
        shape=shape_factor(course.all("time_s"), change, lamp_at(plant.frequency_hz)),
        lasting_pct=100 * abs(1 - float(course.settled_pu[0]) / float(before[0])),
        time_s=course.all("time_s"),
        change=change,
    )
    moving = moves(plant, run, asked)
    found = [] if asked.switching == "manual" else list(_severities(seen, asked, asked.starts_per_hour, moving))
    found += _changes(seen, asked, moving)
    weighs = asked.flicker is not None and not asked.private
    return tuple(found if weighs else (replace(gate, kind=Kind.INFORMS) for gate in found))


def _severities(seen: _Seen, asked: Asked, starts: float, moving: Moving) -> tuple[Gate, Gate]:
    rests, times = moving
    limit = _USUAL if asked.flicker is None else asked.flicker
    fact = point(starts, path="start.starts_per_hour", label="starts an hour")
    shown = f"{counted(starts, 'start')} an hour at {seen.dip_pct:.1f} %, seen as {seen.shape:.2f} of a step"
    formula = "F by the flickermeter of IEC 61000-4-15:2010; the ten minutes with a start"
    short = at_most(
        "start.flicker", "Flicker", seen.short(starts), limit,
        sentence=f"Pst {seen.short(starts):.2f} of {write(limit)}: {shown}.", rests=(fact, *rests),
        room=lambda per_hour, *facts: limit - times(*facts) * seen.short(per_hour),
        source=f"{asked.flicker_standard}, {formula}", remedy=_REMEDY,
    )  # fmt: skip
    most = _LONG_SHARE * limit
    return short, at_most(
        "start.flicker_long", "Flicker over two hours", seen.long(starts), most,
        sentence=f"Plt {seen.long(starts):.2f} of {write(most, 3)}.", rests=(fact, *rests),
        room=lambda per_hour, *facts: most - times(*facts) * seen.long(per_hour),
        source=asked.flicker_standard, remedy=_REMEDY,
    )  # fmt: skip


def _changes(seen: _Seen, asked: Asked, moving: Moving) -> list[Gate]:
    """d_max by how it is switched, T_max above 3.3 %; d_c of what lasts while it runs moves with the source alone."""
    (rests, times), sag = moving, asked.sag
    most = MOST_PCT[asked.switching]
    how = {"automatic": "switched automatically", "manual": "switched by hand", "rare": "at most twice a day"}
    return [
        at_most(
            "start.d_max", "Largest change of volts", seen.dip_pct, most, unit="%", source=asked.flicker_standard,
            sentence=f"d_max {seen.dip_pct:.1f} % of {write(most)} %, {how[asked.switching]}.", remedy=_REMEDY,
            rests=rests, room=lambda *facts: most - seen.dip_pct * times(*facts),
        ),
        *_lasting(seen, asked, moving),
        at_most(
            "start.d_c", "Lasting change of volts", seen.lasting_pct, _LASTING_PCT, unit="%",
            source=asked.flicker_standard,
            sentence=f"d_c {seen.lasting_pct:.1f} % of {write(_LASTING_PCT)} % while it runs.",
            remedy="A stiffer source.", rests=sag.left_out[:1] if sag is not None else (),
            room=lambda *levels: _LASTING_PCT - seen.lasting_pct * (1 + sum(sag.adds(one) for one in levels if sag)),
        ),
    ]  # fmt: skip


def _lasting(seen: _Seen, asked: Asked, moving: Moving) -> tuple[Gate, ...]:
    """T_max: how long in all it is above 3.3 %."""
    (rests, times), most = moving, asked.large_change_s
    if most is None:
        return ()
    lasts = seen.above(1.0)
    text = f"Above {write(_LASTING_PCT)} % for {write(lasts, 2)} s in all, of {write(most)} s."
    return (
        at_most(
            "start.t_max", "Time of a large change", lasts, most, unit="s", source=asked.flicker_standard,
            sentence=text, remedy="A start that draws less, or a stiffer source.", rests=rests,
            room=lambda *facts: most - seen.above(times(*facts)),
        ),
    )  # fmt: skip
