"""Every way to stop against time, lane under lane; the way in use strong, the others as ghosts."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass

from vinegate.core.stop.row import StopRow
from vinegate.core.stop.stage import Stopping
from vinegate.drawing.lanes import Lane, frame, seconds_below
from vinegate.drawing.room import LETTER, Room
from vinegate.drawing.scene import Handle, Path, Rect, Scene, Shape, Text
from vinegate.drawing.start_strip import WIDTH, Axes, grid_step, round_up, time_handle

_TOP, _TALL, _SMALL, _GAP, _FOOT = 18.0, 150.0, 62.0, 24.0, 30.0
_ACTING = 17.0
_MOST_TIMES = 2.5  # a way that takes longer than this times the one in use runs off the strip
_RIGHT = 64


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """A setting on the strip: a moment in seconds, or with `amps` a level in the lane of amperes."""

    field: str
    label: str
    value: float
    amps: bool = False
    shown_a: float = 0.0


def stops_strip(found: Stopping, *, settings: Sequence[Setting] = ()) -> Scene | None:
    """Speed, and what acts from when to when; None when the way in use never stops. Moments become handles."""
    used, shown = found.used, _shown(found)
    if used.time_s is None:
        return None
    axes = _axes(used, shown, settings)
    top = 105.0 if max(used.strip_pct) <= 105 else round_up(1.05 * max(used.strip_pct))
    speed = Lane(top=_TOP, low=0.0, high=top, tall=_TALL)
    acting = _TOP + _TALL + 8
    foot = acting + _ACTING * len(used.acting)
    shapes: list[Shape] = [*frame(speed, "Speed, % of running"), *seconds_below(axes, _TOP, foot)]
    shapes += _band(axes, speed, used)
    shapes += [_line(axes, speed, row.strip_s, row.strip_pct, chosen=row.chosen) for row in shown]
    shapes += _names(axes, speed, shown)
    shapes += _acting(axes, used, acting)
    moments = [one for one in settings if not one.amps]
    for number, one in enumerate(moments):
        shapes.append(time_handle(axes, one.value, one.field, one.label, height=_TOP + _TALL - 16 - 28 * number))
    said = ", ".join(f"{row.name} {row.time_s:.1f} s" for row in shown if row.time_s is not None)
    return Scene(size=(WIDTH, foot + _FOOT), shapes=shapes, title=f"Speed against time: {said}")


def stops_lanes(found: Stopping, *, settings: Sequence[Setting] = ()) -> Scene | None:
    """Torque, amperes and heat on the same time axis; None when the way in use never stops. Levels become handles."""
    used, shown = found.used, _shown(found)
    if used.time_s is None:
        return None
    axes = _axes(used, shown, settings)
    small = _small_lanes(shown, axes, _TOP)
    if not small:
        return None
    foot = small[-1][0].top + _SMALL
    shapes: list[Shape] = [*seconds_below(axes, _TOP, foot)]
    for lane, name, key in small:
        shapes += frame(lane, name)
        for row in shown:
            values = getattr(row, key)
            if any(values):
                shapes.append(_line(axes, lane, row.strip_s, values, chosen=row.chosen))
        if key == "strip_a":
            shapes += [_level(one, lane) for one in settings if one.amps]
    title = f"Torque, amperes and heat against time, {used.name}"
    return Scene(size=(WIDTH, foot + _FOOT), shapes=shapes, title=title)


def _shown(found: Stopping) -> list[StopRow]:
    """What comes to rest, the way in use last: it is drawn on top."""
    return sorted((row for row in found.rows if row.strip_s and row.time_s is not None), key=lambda one: one.chosen)


def _axes(used: StopRow, shown: Sequence[StopRow], settings: Sequence[Setting]) -> Axes:
    assert used.time_s is not None
    longest = max(row.time_s or 0.0 for row in shown)
    ends = max([used.time_s, used.strip_s[-1], *(one.value for one in settings if not one.amps)])
    return Axes(round_up(max(min(longest, _MOST_TIMES * used.time_s), ends * 1.1, 0.2)), 1.0)


def _small_lanes(rows: Sequence[StopRow], axes: Axes, top: float) -> list[tuple[Lane, str, str]]:
    """Torque, amperes, heat: each only where some way has it, each to the largest that is in the drawing."""
    lanes: list[tuple[Lane, str, str]] = []
    for key, name in (
        ("strip_nm", "Braking torque, N·m"),
        ("strip_a", "Amperes, rms"),
        ("strip_kj", "Heat so far, kJ"),
    ):
        inside = [
            value for row in rows for t, value in zip(row.strip_s, getattr(row, key), strict=False) if t <= axes.seconds
        ]
        most, least = max(inside, default=0.0), min(inside, default=0.0)
        if most <= 0:
            continue
        step = grid_step(most - min(least, 0.0), 3)
        low = -step * math.ceil(-least / step) if least < -0.02 * most else 0.0
        lanes.append((Lane(top=top, low=low, high=step * math.ceil(most / step), tall=_SMALL), name, key))
        top += _SMALL + _GAP
    return lanes


def _points(axes: Axes, lane: Lane, times: Sequence[float], values: Sequence[float]) -> list[tuple[float, float]]:
    """Cut at the axis' end."""
    inside = bisect_right(times, axes.seconds)
    points = list(zip(axes.xs(times[:inside]), lane.ys(values[:inside]), strict=False))
    if 0 < inside < len(times) and axes.seconds > (last := times[inside - 1]):
        share = (axes.seconds - last) / (times[inside] - last)
        cut = values[inside - 1] + share * (values[inside] - values[inside - 1])
        points.append((round(axes.x(axes.seconds), 1), round(lane.y(cut), 1)))
    return points


def _line(axes: Axes, lane: Lane, times: Sequence[float], values: Sequence[float], *, chosen: bool) -> Path:
    return Path(role="used" if chosen else "ghost", points=_points(axes, lane, times, values))


def _band(axes: Axes, lane: Lane, used: StopRow) -> list[Shape]:
    """Between the quickest and the slowest of the bands."""
    if not used.band_s:
        return []
    there = _points(axes, lane, used.band_s, used.band_pct)
    back = _points(axes, lane, used.strip_s, used.strip_pct)
    return [Path(role="may", points=[*there, *reversed(back)], closed=True)]


def _acting(axes: Axes, used: StopRow, top: float) -> list[Shape]:
    """A bar for what acts, from when to when."""
    shapes: list[Shape] = []
    for number, one in enumerate(used.acting):
        y = top + _ACTING * number
        first, last = axes.x(one.from_s), axes.x(min(one.to_s, axes.seconds))
        shapes.append(Rect(role="acts", at=(first, y), size=(max(last - first, 2.0), _ACTING - 5)))
        fits = axes.x(axes.seconds) - last > 150
        at = (last + 6, y + 10) if fits else (first - 6, y + 10) if first > 200 else (first + 6, y + 10)
        anchor = "start" if fits or first <= 200 else "end"
        inside = not fits and first <= 200
        shapes.append(Text(role="acts-inside" if inside else "acts-name", at=at, text=one.name, anchor=anchor))
    return shapes


def _level(one: Setting, lane: Lane) -> Handle:
    """A level in the lane of amperes; what is set may differ from what is shown by a factor."""
    share = one.shown_a / one.value
    return Handle(
        role="handle",
        at=(WIDTH - _RIGHT - 70, lane.y(one.shown_a)),
        text=f"{one.value:.0f} A",
        label=one.label,
        field=one.field,
        axis="y",
        span=(lane.y(0), lane.y(lane.high)),
        low=0.0,
        high=lane.high / share,
        value=one.value,
        step=1.0 if one.value < 200 else 5.0,
        unit="A",
    )


def _names(axes: Axes, lane: Lane, rows: list[StopRow]) -> list[Shape]:
    """Each name beside its own line, near a height of its own, where no other stands."""
    shapes: list[Shape] = []
    distinct: dict[object, StopRow] = {}  # of ways with the same course the one in use, else the first
    for row in rows:
        course = (row.time_s, row.strip_pct)
        distinct[course] = row if row.chosen else distinct.get(course, row)
    ordered = sorted(distinct.values(), key=lambda row: row.time_s or 0.0)
    room = Room()
    for number, row in enumerate(ordered):
        wanted = 90.0 - 13.0 * number
        spots = [(t, v) for t, v in zip(row.strip_s, row.strip_pct, strict=True) if t <= axes.seconds]
        spots.sort(key=lambda spot, wanted=wanted: abs(spot[1] - wanted))  # type: ignore[misc]
        names = [_name(row, axes.x(t), lane.y(v) + 4) for t, v in spots]
        shapes.append(room.place(names) or names[0])
    return shapes


def _name(row: StopRow, x: float, y: float) -> Text:
    """Right of its line, left of it where it would run out of the strip."""
    role = f"{'name-used' if row.chosen else 'ghost-name'} curve-name"
    fits = WIDTH - x > 7 + LETTER * len(row.name)
    return Text(role=role, at=(x + (7 if fits else -7), y), text=row.name, anchor="start" if fits else "end")
