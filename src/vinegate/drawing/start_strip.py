"""The start against time: the way in use strong, the others as ghosts, the limit and the setting drawn in."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from vinegate.core.numbers import write
from vinegate.core.start.compare import Comparison, MethodRow, Strip
from vinegate.core.start.ways import way_of
from vinegate.drawing.room import LETTER, Room, box_of, pill_box
from vinegate.drawing.scene import Circle, Handle, Path, Rect, Scene, Shape, Text

WIDTH, HEIGHT = 900, 252
_LEFT, _RIGHT, _TOP, _BOTTOM = 52, 64, 16, 34
_MOST_OF_OTHERS = 1.6  # ghosts may run on this much longer than the way in use
_ALONG = 24
"""How far apart the places are at which the limit's name is tried."""
_WHERE = (0.15, 0.3, 0.05, 0.45, 0.6, 0.75, 0.22, 0.38, 0.52)
"""Where a ghost's name is tried, of the way along its curve."""


@dataclass(frozen=True, slots=True)
class Axes:
    """Maps seconds and amperes to the drawing, and shares (speed, volts) on the right."""

    seconds: float
    amps: float

    def x(self, t: float) -> float:
        return _LEFT + (WIDTH - _LEFT - _RIGHT) * min(t / self.seconds, 1.0)

    def xs(self, times: Iterable[float]) -> list[float]:
        """Of many at once, to a tenth: a course has sixty of them, and a page a dozen courses."""
        wide, ends = WIDTH - _LEFT - _RIGHT, self.seconds
        return [round(_LEFT + wide * (t / ends if t < ends else 1.0), 1) for t in times]

    def y(self, amps: float) -> float:
        return HEIGHT - _BOTTOM - (HEIGHT - _TOP - _BOTTOM) * min(max(amps / self.amps, 0.0), 1.02)

    def share(self, pu: float) -> float:
        """Speed and volts, 0 to 105 %."""
        return HEIGHT - _BOTTOM - (HEIGHT - _TOP - _BOTTOM) * min(max(pu / 1.05, 0.0), 1.0)


def start_strip(found: Comparison, *, limit_text: str, handle: Handle | None, width: int = WIDTH) -> Scene | None:
    """The strip; None when the way in use was not simulated. `handle` is placed by `place_handle`."""
    used = found.row(found.chosen)
    if used.strip is None:
        return None
    others = [row for row in found.rows if row.strip is not None and row.method != used.method]
    axes = axes_for(found)
    shapes: list[Shape] = [*_grid(axes)]
    limit_a = found.limit_a if found.limit_a is not None and found.limit_a < axes.amps else None
    own = _own_names(axes, used.strip, limit_a)
    room = _room(axes, used, handle, own)
    if limit_a is not None:
        shapes += _limit(axes, limit_a, limit_text, room)
    for row in others:
        assert row.strip is not None
        shapes.append(_line(axes, row.strip, "ghost"))
    shapes += [
        Path(role="volts", points=_points(axes, used.strip, used.strip.board_pu, share=True)),
        Path(role="speed", points=_points(axes, used.strip, used.strip.speed_pu, share=True)),
        _line(axes, used.strip, "used"),
    ]
    shapes += _change_marks(axes, used)
    if used.changes_at_s is not None:
        x = axes.x(used.changes_at_s)
        shapes.append(Path(role="moment", points=[(x, _TOP), (x, HEIGHT - _BOTTOM)]))
    shapes += [*_ghost_names(axes, others, room), *_reached(axes, used), *own]
    if handle is not None:
        shapes.append(handle)
    return Scene(size=(WIDTH, HEIGHT), shapes=shapes, title=_said(used))


def axes_for(found: Comparison) -> Axes:
    """Axes that hold the way in use, and of the others what fits."""
    used = found.row(found.chosen)
    assert used.strip is not None
    ends = used.strip.time_s[-1] * 1.12
    if used.change is not None:
        ends = max(ends, used.change.latest_s * 1.08)
    longest = max((row.strip.time_s[-1] for row in found.rows if row.strip), default=ends)
    seconds = round_up(max(min(longest, ends * _MOST_OF_OTHERS), ends, 0.2))
    tallest = max(row.peak_a or 0.0 for row in found.rows)
    top = max(tallest, (found.limit_a or 0.0) if (found.limit_a or 0) < 1.5 * tallest else 0.0)
    return Axes(seconds, round_up(top * 1.08))


def round_up(value: float) -> float:
    """The next round end of an axis."""
    power = 10 ** math.floor(math.log10(value))
    steps = (1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10)
    return float(next(step * power for step in steps if step * power >= value * 0.999))


def grid_step(top: float, most: int) -> float:
    """A round step that divides so much into at most so many parts."""
    power = 10 ** math.floor(math.log10(top / most))
    return float(next(step * power for step in (1, 2, 2.5, 5, 10, 20) if top / (step * power) <= most))


def _grid(axes: Axes) -> list[Shape]:
    shapes: list[Shape] = []
    amps = 0.0
    step = grid_step(axes.amps, 5)
    while amps <= axes.amps * 1.001:
        y = axes.y(amps)
        shapes.append(Path(role="grid", points=[(_LEFT, y), (WIDTH - _RIGHT, y)]))
        text = f"{write(amps)} A" if amps + step > axes.amps * 1.001 else write(amps)
        shapes.append(Text(role="tick", at=(_LEFT - 7, y + 4), text=text, anchor="end"))
        amps += step
    for share in (0, 25, 50, 75, 100):
        text = f"{share} %"
        shapes.append(
            Text(role="tick", at=(WIDTH - _RIGHT + 7, axes.share(share / 100) + 4), text=text, anchor="start")
        )
    seconds, step = 0.0, grid_step(axes.seconds, 8)
    while seconds <= axes.seconds * 1.001:
        x = axes.x(seconds)
        shapes.append(Path(role="grid", points=[(x, _TOP), (x, HEIGHT - _BOTTOM)]))
        shapes.append(Text(role="tick", at=(x, HEIGHT - _BOTTOM + 18), text=f"{write(seconds)} s"))
        seconds += step
    return shapes


def _limit_line(axes: Axes, amps: float) -> list[tuple[float, float]]:
    return [(_LEFT, axes.y(amps)), (WIDTH - _RIGHT, axes.y(amps))]


def _limit(axes: Axes, amps: float, text: str, room: Room) -> list[Shape]:
    """The line, with its name above or below it: from its right end on, where no curve of the way in use runs."""
    y = axes.y(amps)
    ends = range(WIDTH - _RIGHT - 6, _LEFT + int(LETTER * len(text)), -_ALONG)
    spots = [Text(role="limit-name", at=(x, y + shift), text=text, anchor="end") for x in ends for shift in (-6, 14)]
    name = room.place(spots, clear=True) or room.place(spots) or spots[0]
    return [
        Rect(role="beyond", at=(_LEFT, _TOP), size=(WIDTH - _LEFT - _RIGHT, y - _TOP)),
        Path(role="limit", points=_limit_line(axes, amps)),
        name,
    ]


def _points(axes: Axes, strip: Strip, values: Sequence[float], *, share: bool = False) -> list[tuple[float, float]]:
    """Up to the axis' end, cut on it."""
    found: list[tuple[float, float]] = []
    last: tuple[float, float] | None = None
    for t, value in zip(strip.time_s, values, strict=True):
        here = (t, value)
        if t > axes.seconds:
            if last is None or t <= last[0]:
                break
            share_left = (axes.seconds - last[0]) / (t - last[0])
            here = (axes.seconds, last[1] + (value - last[1]) * share_left)
        y = axes.share(here[1]) if share else axes.y(here[1])
        found.append((round(axes.x(here[0]), 1), round(y, 1)))
        last = here
        if here[0] >= axes.seconds:
            break
    return found


def _line(axes: Axes, strip: Strip, role: str) -> Path:
    return Path(role=role, points=_points(axes, strip, strip.line_a))


def _change_marks(axes: Axes, used: MethodRow) -> list[Shape]:
    """The change-over's acceptable span, and the two schools of practice."""
    change = used.change
    if change is None:
        return []
    shapes: list[Shape] = []
    y = HEIGHT - _BOTTOM
    if change.earliest_s is not None:
        first, last = axes.x(change.earliest_s), axes.x(change.latest_s)
        shapes.append(Rect(role="may", at=(first, y - 5), size=(max(last - first, 2), 5)))
    for (share, seconds), anchor in zip(change.schools, ("end", "start"), strict=True):
        if seconds is not None and seconds <= axes.seconds:
            x = axes.x(seconds)
            shapes.append(Path(role="school", points=[(x, y - 16), (x, y)]))
            at = (x + (4 if anchor == "start" else -4), y - 8)
            shapes.append(Text(role="school-name", at=at, text=f"{100 * share:.0f} % speed", anchor=anchor))
    return shapes


def _ghost_names(axes: Axes, others: Sequence[MethodRow], room: Room) -> list[Shape]:
    """Each ghost's name on its own curve, where no other name stands; the last resort is to leave it out."""
    found = (room.place(_spots(axes, row)) for row in others)
    return [name for name in found if name is not None]


def _spots(axes: Axes, row: MethodRow) -> Iterator[Text]:
    assert row.strip is not None
    points = _points(axes, row.strip, row.strip.line_a)
    for share in _WHERE:
        x, y = points[min(int(share * len(points)), len(points) - 1)]
        if x + LETTER * len(row.name) < WIDTH - _RIGHT and y > _TOP + 12:
            yield Text(role="ghost-name", at=(x, y - 5), text=row.name, anchor="start")


def _reached(axes: Axes, used: MethodRow) -> list[Shape]:
    """Where the way in use is at speed."""
    assert used.strip is not None
    if used.time_s is None:
        return []
    top, foot = _at_speed(axes, used.strip)
    return [Path(role="reached", points=[top, foot]), Circle(role="reached-dot", at=top, radius=3)]


def _at_speed(axes: Axes, strip: Strip) -> tuple[tuple[float, float], tuple[float, float]]:
    end = axes.x(strip.time_s[-1])
    return (end, axes.share(strip.speed_pu[-1])), (end, HEIGHT - _BOTTOM)


def _own_names(axes: Axes, strip: Strip, limit_a: float | None) -> list[Text]:
    """The names of speed and volts, below their lines; the volts' above it where the limit would run through it."""
    speed = _points(axes, strip, strip.speed_pu, share=True)
    volts = _points(axes, strip, strip.board_pu, share=True)
    along, (x, y) = speed[len(speed) // 3], volts[0]
    spots = [Text(role="name-volts", at=(x + 8, y + up), text="volts at its board", anchor="start") for up in (13, -5)]
    clear = Room(lines=[] if limit_a is None else [_limit_line(axes, limit_a)]).place(spots, clear=True)
    name = Text(role="name-speed", at=(along[0] + 6, along[1] + 14), text="speed", anchor="start")
    return [name, clear or spots[0]]


def _room(axes: Axes, used: MethodRow, handle: Handle | None, own: Iterable[Text]) -> Room:
    """What names must not stand on: the volts' and speed's own, the pill, the schools' marks, and the way's curves."""
    assert used.strip is not None
    marks = [shape for shape in _change_marks(axes, used) if isinstance(shape, Text)]
    room = Room([box_of(name) for name in (*own, *marks)])
    if handle is not None:
        room.taken.append(pill_box(handle))
    shares = (used.strip.board_pu, used.strip.speed_pu)
    room.lines += [_points(axes, used.strip, values, share=True) for values in shares]
    room.lines.append(_points(axes, used.strip, used.strip.line_a))
    if used.time_s is not None:
        room.lines.append(_at_speed(axes, used.strip))
    return room


def _said(used: MethodRow) -> str:
    ends = f"at speed in {write(used.time_s, 2)} s" if used.time_s is not None else (used.outcome or "")
    return f"Line current, speed and volts against time, {used.name}: at most {used.peak_a:.0f} A, {ends}"


def place_handle(found: Comparison) -> Handle | None:
    """The used way's own setting as a handle: a moment, a ramp's time, or a current limit; None where it has none."""
    used = found.row(found.chosen)
    if used.strip is None:
        return None
    axes = axes_for(found)
    way = way_of(used.method)
    if used.changes_at_s is not None and way.moment:
        return time_handle(axes, used.changes_at_s, way.moment, "Change over at")
    if way.level and used.value is not None:
        rated = (used.peak_a or 1.0) / (used.times_rated or 1.0)
        top = axes.amps / rated
        low, high = 1.0, max(min(top, 8.0), used.value)
        return Handle(
            role="handle",
            at=(WIDTH - _RIGHT - 70, axes.y(used.value * rated)),
            text=f"{used.value:.1f} ×",
            label="Current limit, times rated current",
            field=way.level,
            axis="y",
            span=(axes.y(low * rated), axes.y(high * rated)),
            low=low,
            high=high,
            value=used.value,
            step=0.1,
            unit="",
        )
    return None


def time_handle(
    axes: Axes, seconds: float, field: str, label: str, height: float = _TOP + 0.66 * (HEIGHT - _TOP - _BOTTOM)
) -> Handle:
    """A moment on the time axis that is dragged."""
    digits = 2 if axes.seconds < 20 else 1
    shown = min(seconds, axes.seconds)
    return Handle(
        role="handle",
        at=(axes.x(shown), height),
        text=f"{seconds:.{digits}f} s",
        label=label,
        field=field,
        axis="x",
        span=(axes.x(0), axes.x(axes.seconds)),
        low=0.0,
        high=axes.seconds,
        value=seconds,
        step=0.05 if axes.seconds < 20 else 0.5,
        unit="s",
    )
