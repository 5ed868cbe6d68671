"""A soft stop against time: speed on the ramp and coasting, line current, the ramp's end as a handle."""

from __future__ import annotations

from collections.abc import Sequence

from vinegate.core.numbers import write
from vinegate.core.start.soft_stop import SoftStop
from vinegate.drawing.lanes import Lane, frame, seconds_below
from vinegate.drawing.scene import Path, Scene, Shape, Text
from vinegate.drawing.start_strip import WIDTH, Axes, round_up, time_handle

_TOP, _TALL, _FOOT = 18.0, 150.0, 30.0


def stop_strip(stop: SoftStop) -> Scene:
    """Speed on the left in percent of synchronous, amperes on the right."""
    axes = Axes(round_up(stop.time_s[-1]), 1.0)
    speed = Lane(top=_TOP, low=0.0, high=105.0, tall=_TALL)
    amps = Lane(top=_TOP, low=0.0, high=round_up(stop.peak_a * 1.12), tall=_TALL)
    shapes: list[Shape] = [
        *frame(speed, "Speed, % of synchronous", "Line, A", right=amps, right_unit=""),
        *seconds_below(axes, _TOP, _TOP + _TALL),
        Path(role="ghost", points=_points(axes, speed, stop.time_s, stop.coasting_pct)),
        Path(role="speed", points=_points(axes, speed, stop.time_s, stop.speed_pct)),
        Path(role="used", points=_points(axes, amps, stop.time_s, stop.line_a)),
    ]
    for name, role, lane, values, share in (
        ("coasting", "ghost-name", speed, stop.coasting_pct, 0.12),
        ("soft stop", "name-speed", speed, stop.speed_pct, 0.5),
        ("line current", "name-used", amps, stop.line_a, 0.35),
    ):
        place = int(share * len(values))
        at = (axes.x(stop.time_s[place]) + 6, lane.y(values[place]) - 5)
        shapes.append(Text(role=f"{role} curve-name", at=at, text=name, anchor="start"))
    shapes.append(time_handle(axes, stop.ramp_s, "start-soft_stop_ramp", "Soft stop over", height=_TOP + 0.2 * _TALL))
    said = f"Soft stop over {write(stop.ramp_s)} s against coasting; it draws up to {stop.peak_a:.0f} A"
    return Scene(size=(WIDTH, _TOP + _TALL + _FOOT), shapes=shapes, title=said)


def _points(axes: Axes, lane: Lane, times: Sequence[float], values: Sequence[float]) -> list[tuple[float, float]]:
    step = max(len(times) // 160, 1)
    keep = [*range(0, len(times) - 1, step), len(times) - 1]
    return list(zip(axes.xs(times[n] for n in keep), lane.ys(values[n] for n in keep), strict=True))
