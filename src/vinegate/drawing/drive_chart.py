"""Torque against speed on a drive: what is given for ever and for a short time, what the load asks, and the points."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from vinegate.drawing.plot import WIDTH, Axes, Line, drawn, grid, up_to
from vinegate.drawing.scene import Circle, Handle, Path, Scene, Shape

_HEIGHT: Final = 340
_RAIL: Final = 34
_NEAR: Final = 96


@dataclass(frozen=True, slots=True, kw_only=True)
class Dragged:
    """An operating point: where it lies, its verdict's mark, and the handle of its speed in the unit it was typed in.

    `row` is None where the point was not typed: it has no handle.
    """

    rpm: float
    nm: float
    mark: str
    row: int | None
    value: float
    unit: str
    most: float


def drive_chart(lines: Sequence[Line], points: Sequence[Dragged], *, unit: str, most_rpm: float, field: str) -> Scene:
    """The chart with a rail of handles below it; two rows of them where they lie close."""
    top = up_to(max(max(line.ys, default=0.0) for line in lines if line.role != "breakdown") * 1.05)
    axes = Axes(most_x=most_rpm, most_y=top, x_name=unit, y_name="N·m", height=_HEIGHT - _RAIL)
    shapes: list[Shape] = [*grid(axes), *drawn(axes, lines)]
    taken: list[tuple[float, int]] = []
    for point in sorted(points, key=lambda one: one.rpm):
        x, y = axes.at(point.rpm, point.nm)
        level = 1 if any(abs(x - other) < _NEAR and rail == 0 for other, rail in taken) else 0
        taken.append((x, level))
        if point.row is not None:
            foot = float(_HEIGHT - _RAIL + 6 + 22 * level)
            shapes.append(Path(role="plumb", points=[(x, y), (x, foot - 10)]))
            shapes.append(_handle(point, axes, (x, foot), field))
        shapes.append(Circle(role=f"point {point.mark}", at=(x, y), radius=4.5))
    return Scene(size=(WIDTH, _HEIGHT + 12), shapes=shapes, title="Torque against speed with the operating points")


def _handle(point: Dragged, axes: Axes, at: tuple[float, float], field: str) -> Handle:
    """From rest to the right end of the axis, in the unit the point was typed in."""
    return Handle(
        role="handle",
        at=at,
        text=f"{point.value:g} {point.unit}",
        label=f"Speed of operating point {(point.row or 0) + 1}",
        field=field,
        axis="x",
        span=axes.span,
        low=0.0,
        high=point.most,
        value=point.value,
        step=1.0 if point.unit != "Hz" else 0.5,
        unit=point.unit,
        row=point.row,
    )
