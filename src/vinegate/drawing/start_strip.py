"""The start against time: the way in use strong, the others as ghosts, the limit and the setting drawn in."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from vinegate.core.numbers import write
from vinegate.core.start.compare import Comparison, MethodRow, Strip
from vinegate.core.start.ways import way_of
from vinegate.drawing.scene import Circle, Handle, Path, Rect, Scene, Shape, Text

WIDTH, HEIGHT = 900, 252
_LEFT, _RIGHT, _TOP, _BOTTOM = 52, 64, 16, 34
_MOST_OF_OTHERS = 1.6  # ghosts may run on this much longer than the way in use
_LETTER = 6.1


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
    if found.limit_a is not None and found.limit_a < axes.amps:
        shapes += _limit(axes, found.limit_a, limit_text)
    taken = _kept_free(axes, used, handle)
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
    shapes += _names(axes, used, others, taken)
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


def _limit(axes: Axes, amps: float, text: str) -> list[Shape]:
    y = axes.y(amps)
    return [
        Rect(role="beyond", at=(_LEFT, _TOP), size=(WIDTH - _LEFT - _RIGHT, y - _TOP)),
        Path(role="limit", points=[(_LEFT, y), (WIDTH - _RIGHT, y)]),
        Text(role="limit-name", at=(WIDTH - _RIGHT - 6, y - 6), text=text, anchor="end"),
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


def _names(axes: Axes, used: MethodRow, others: Sequence[MethodRow], taken: list[tuple[float, float]]) -> list[Shape]:
    """Each ghost's name on its own curve, where no other name stands; the last resort is to leave it out."""
    shapes: list[Shape] = []
    assert used.strip is not None
    for row in others:
        assert row.strip is not None
        points = _points(axes, row.strip, row.strip.line_a)
        spot = _free_spot(points, row.name, taken)
        if spot is None:
            continue
        taken.append(spot)
        shapes.append(Text(role="ghost-name", at=(spot[0], spot[1] - 5), text=row.name, anchor="start"))
    end = axes.x(used.strip.time_s[-1])
    if used.time_s is not None:
        shapes.append(
            Path(role="reached", points=[(end, axes.share(used.strip.speed_pu[-1])), (end, HEIGHT - _BOTTOM)])
        )
        shapes.append(Circle(role="reached-dot", at=(end, axes.share(used.strip.speed_pu[-1])), radius=3))
    speed = _points(axes, used.strip, used.strip.speed_pu, share=True)
    at = speed[len(speed) // 3]
    shapes.append(Text(role="name-speed", at=(at[0] + 6, at[1] + 14), text="speed", anchor="start"))
    volts = _points(axes, used.strip, used.strip.board_pu, share=True)
    at = (volts[0][0] + 8, volts[0][1] + 13)
    shapes.append(Text(role="name-volts", at=at, text="volts at its board", anchor="start"))
    return shapes


def _kept_free(axes: Axes, used: MethodRow, handle: Handle | None) -> list[tuple[float, float]]:
    """Where names must not stand: the volts' and speed's own names, the pill, the schools' marks."""
    assert used.strip is not None
    volts, speed = used.strip.board_pu, _points(axes, used.strip, used.strip.speed_pu, share=True)
    found = [(_LEFT + 8.0, axes.share(volts[0]) + 18), (speed[len(speed) // 3][0], speed[len(speed) // 3][1] + 19)]
    if handle is not None:
        found += [(handle.at[0] - 40, handle.at[1] + shift) for shift in (-4.0, 9.0)]
    if used.change is not None:
        for _, seconds in used.change.schools:
            if seconds is not None:
                found.append((axes.x(seconds) - 25, HEIGHT - _BOTTOM - 15))
    return found


def _free_spot(
    points: Sequence[tuple[float, float]], name: str, taken: Sequence[tuple[float, float]]
) -> tuple[float, float] | None:
    width = _LETTER * len(name)
    steps = [0.15, 0.3, 0.05, 0.45, 0.6, 0.75, 0.22, 0.38, 0.52]
    for share in steps:
        x, y = points[min(int(share * len(points)), len(points) - 1)]
        clear = all(abs(y - ty) > 13 or abs(x - tx) > width + 12 for tx, ty in taken)
        if clear and x + width < WIDTH - _RIGHT and y > _TOP + 12:
            return x, y
    return None


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
