"""Every way to stop against time: speed of the way in use strong, the others as ghosts with their names."""

from __future__ import annotations

from vinegate.core.stopping.methods import StopRow
from vinegate.core.stopping.stage import Stopping
from vinegate.drawing.lanes import Lane, frame, seconds_below
from vinegate.drawing.scene import Path, Scene, Shape, Text
from vinegate.drawing.start_strip import WIDTH, Axes, round_up, time_handle

_TOP, _TALL, _FOOT = 18.0, 190.0, 30.0
_MOST_TIMES = 2.5  # a way that takes longer than this times the one in use runs off the strip


def stops_strip(found: Stopping, *, handle: tuple[float, str, str] | None) -> Scene | None:
    """None when the way in use never stops. `handle` is seconds, field and label of the setting that is dragged."""
    used = found.row(found.chosen)
    if used.time_s is None:
        return None
    shown = [row for row in found.rows if row.strip_s and row.time_s is not None]
    longest = max(row.time_s or 0.0 for row in shown)
    axes = Axes(round_up(max(min(longest, _MOST_TIMES * used.time_s), used.time_s * 1.1, 0.2)), 1.0)
    lane = Lane(top=_TOP, low=0.0, high=105.0, tall=_TALL)
    shapes: list[Shape] = [*frame(lane, "Speed, % of running"), *seconds_below(axes, _TOP, _TOP + _TALL)]
    for row in sorted(shown, key=lambda one: one.chosen):
        points = [
            (round(axes.x(t), 1), round(lane.y(v), 1))
            for t, v in zip(row.strip_s, row.strip_pct, strict=True)
            if t <= axes.seconds
        ]
        shapes.append(Path(role="used" if row.chosen else "ghost", points=points))
    shapes += _names(axes, lane, shown)
    if handle is not None:
        seconds, field, label = handle
        shapes.append(time_handle(axes, seconds, field, label, height=_TOP + _TALL - 16))
    said = ", ".join(f"{row.name} {row.time_s:.1f} s" for row in shown if row.time_s is not None)
    return Scene(size=(WIDTH, _TOP + _TALL + _FOOT), shapes=shapes, title=f"Speed against time: {said}")


def _names(axes: Axes, lane: Lane, rows: list[StopRow]) -> list[Shape]:
    """Each name beside its own line, every one at a height of its own."""
    shapes: list[Shape] = []
    ordered = sorted(rows, key=lambda row: row.time_s or 0.0)
    for number, row in enumerate(ordered):
        wanted = 88.0 - 14.0 * number
        spots = [(t, v) for t, v in zip(row.strip_s, row.strip_pct, strict=True) if t <= axes.seconds]
        t, v = min(spots, key=lambda spot: abs(spot[1] - wanted))
        role = "name-used" if row.chosen else "ghost-name"
        at = (axes.x(t) + 7, lane.y(v) + 4)
        shapes.append(Text(role=f"{role} curve-name", at=at, text=row.name, anchor="start"))
    return shapes
