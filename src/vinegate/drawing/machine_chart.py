"""Torque, current and power factor against speed, on one chart with the names on the curves."""

from __future__ import annotations

import math
from collections.abc import Sequence

from vinegate.core.arrays import Array
from vinegate.core.machine.curves import Curves
from vinegate.drawing.scene import Circle, Path, Scene, Shape, Text

WIDTH, HEIGHT = 560, 300
_LEFT, _RIGHT, _TOP, _BOTTOM = 46, 46, 16, 34
_MOST_TORQUE_PCT, _MOST_TIMES = 1000, 20


class Frame:
    """Maps values to the chart's place: speed along, share of the axis up."""

    def __init__(self, most_speed: float) -> None:
        self.most_speed = most_speed

    def x(self, speed: float) -> float:
        return _LEFT + (WIDTH - _LEFT - _RIGHT) * speed / self.most_speed

    def y(self, share: float) -> float:
        return HEIGHT - _BOTTOM - (HEIGHT - _TOP - _BOTTOM) * share


def machine_chart(
    curves: Curves,
    *,
    rated_torque_nm: float,
    rated_current_a: float,
    rated_speed_rpm: float,
    speed_unit: str,
    load_nm: Array | None = None,
) -> Scene:
    """Torque in percent of rated on the left axis, line current over rated on the right, power factor to 1.

    `load_nm` is what the load asks at the curves' speeds. What is beyond ten times rated torque or twenty times rated
    current, as an armature at rest may be, is beyond the chart.
    """
    frame = Frame(float(curves.speed_rpm.max()))
    torque = 100 * curves.torque_nm / rated_torque_nm
    times = curves.line_current_a / rated_current_a
    top_torque = min(100 * math.ceil(max(float(torque.max()), 100) / 100 + 0.001), _MOST_TORQUE_PCT)
    top_times = min(math.ceil(float(times.max()) + 0.001), _MOST_TIMES)
    shapes: list[Shape] = [*_axes(frame, top_torque, top_times, speed_unit)]
    lines: list[tuple[str, Array, str]] = [("current", times / top_times, "current")]
    if float(curves.power_factor.min()) < 1:  # direct current has none
        lines.append(("pf", curves.power_factor, "power factor"))
    lines.append(("torque", torque / top_torque, "torque"))
    if load_nm is not None:
        lines.append(("load", 100 * load_nm / rated_torque_nm / top_torque, "load"))
    for role, shares, _ in lines:
        points = [
            (round(frame.x(s), 1), round(frame.y(max(v, 0)), 1))
            for s, v in zip(curves.speed_rpm.tolist(), shares.tolist(), strict=True)
            if v <= 1
        ]
        if len(points) > 1:
            shapes.append(Path(role=f"curve {role}", points=points))
    shapes += _names(frame, curves.speed_rpm.tolist(), [(role, shares.tolist(), name) for role, shares, name in lines])
    if rated_speed_rpm < frame.most_speed:
        shapes.append(Circle(role="rated", at=(frame.x(rated_speed_rpm), frame.y(100 / top_torque)), radius=3.5))
    title = "Torque, line current and power factor against speed"
    return Scene(size=(WIDTH, HEIGHT), shapes=shapes, title=title)


def _axes(frame: Frame, top_torque: int, top_times: int, speed_unit: str) -> list[Shape]:
    shapes: list[Shape] = []
    for value in range(0, top_torque + 1, 100 if top_torque <= 500 else 200):
        y = frame.y(value / top_torque)
        shapes.append(Path(role="grid", points=[(_LEFT, y), (WIDTH - _RIGHT, y)]))
        shapes.append(Text(role="tick", at=(_LEFT - 6, y + 4), text=f"{value} %", anchor="end"))
    for value in range(0, top_times + 1, 2 if top_times > 4 else 1):
        y = frame.y(value / top_times)
        shapes.append(Text(role="tick", at=(WIDTH - _RIGHT + 6, y + 4), text=f"{value} ×", anchor="start"))
    speed_step = 10 ** math.floor(math.log10(frame.most_speed)) / 2
    while frame.most_speed / speed_step > 7:
        speed_step *= 2
    speed = 0.0
    while speed <= frame.most_speed * 0.93:
        shapes.append(Text(role="tick", at=(frame.x(speed), HEIGHT - 14), text=f"{speed:g}"))
        speed += speed_step
    shapes.append(Text(role="tick", at=(WIDTH - _RIGHT, HEIGHT - 14), text=f"{frame.most_speed:.0f} {speed_unit}"))
    return shapes


def _names(frame: Frame, speeds: Sequence[float], lines: list[tuple[str, list[float], str]]) -> list[Shape]:
    """Each name just above its own curve, at a speed where the curves lie apart."""
    shapes: list[Shape] = []
    for (role, shares, name), place in zip(lines, (0.12, 0.5, 0.3, 0.7), strict=False):
        shown = [index for index, share in enumerate(shares) if share <= 1]
        if not shown:
            continue
        index = min(shown, key=lambda i: abs(speeds[i] / frame.most_speed - place))
        at = (round(frame.x(speeds[index]) - 8, 1), round(frame.y(shares[index]) - 8, 1))
        shapes.append(Text(role=f"name {role}", at=at, text=name, anchor="end" if role != "current" else "start"))
    return shapes
