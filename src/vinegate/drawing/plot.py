"""Lines over two straight axes with round ticks, the names on the lines; and bars against limits."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from vinegate.core.numbers import write
from vinegate.drawing.room import Room, box_of
from vinegate.drawing.scene import Circle, Path, Rect, Scene, Shape, Text

WIDTH: Final = 560
HEIGHT: Final = 250
_LEFT, _RIGHT, _TOP, _BOTTOM = 52, 16, 18, 36
_WHERE: Final = (0.5, 0.7, 0.4, 0.8, 0.3, 0.9, 0.2, 0.1)
"""Where a name is tried beside the place that is meant, of the way along its line."""
_STEEP: Final = 0.15
"""Of a line whose name would be cut by it, in heights to widths of the drawing."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A line with its role and the name that stands on it, at `named` of the way along; empty for none."""

    role: str
    name: str
    xs: Sequence[float]
    ys: Sequence[float]
    named: float = 0.6


@dataclass(frozen=True, slots=True, kw_only=True)
class Axes:
    """Ends of both axes and what they are called, with units."""

    most_x: float
    most_y: float
    x_name: str
    y_name: str
    height: int = HEIGHT

    def at(self, x: float, y: float) -> tuple[float, float]:
        """A place in the drawing; above the top it is held there."""
        along = _LEFT + (WIDTH - _LEFT - _RIGHT) * x / self.most_x
        share = min(max(y / self.most_y, 0.0), 1.0)
        return round(along, 1), round(self.height - _BOTTOM - (self.height - _TOP - _BOTTOM) * share, 1)

    @property
    def span(self) -> tuple[float, float]:
        """Where the x axis begins and ends in the drawing."""
        return float(_LEFT), float(WIDTH - _RIGHT)


def round_step(most: float, count: int = 5) -> float:
    """A step of 1, 2 or 5 by which about so many ticks reach `most`.

    >>> round_step(3000), round_step(130), round_step(0.9)
    (500.0, 50.0, 0.2)
    """
    raw = most / count
    power = 10 ** math.floor(math.log10(raw))
    return float(next(step * power for step in (1, 2, 5, 10) if step * power >= raw * 0.8))


def up_to(most: float) -> float:
    """The next round tick from `most`."""
    step = round_step(most)
    return math.ceil(most / step - 1e-9) * step


def grid(axes: Axes) -> list[Shape]:
    """Ticks, hairlines and the axes' names."""
    shapes: list[Shape] = []
    step, value = round_step(axes.most_y), 0.0
    while value <= axes.most_y * 1.001:
        x, y = axes.at(0, value)
        shapes.append(Path(role="grid", points=[(x, y), (axes.span[1], y)]))
        shapes.append(Text(role="tick", at=(x - 6, y + 4), text=f"{value:g}", anchor="end"))
        value += step
    step, value = round_step(axes.most_x, 6), 0.0
    bottom = axes.height - _BOTTOM
    while value <= axes.most_x * 0.9:
        shapes.append(Text(role="tick", at=(axes.at(value, 0)[0], bottom + 15), text=f"{value:g}"))
        value += step
    shapes.append(Text(role="tick axis", at=(axes.span[1], bottom + 15), text=axes.x_name, anchor="end"))
    shapes.append(Text(role="tick axis", at=(_LEFT, 11), text=axes.y_name, anchor="start"))
    return shapes


def drawn(axes: Axes, lines: Sequence[Line]) -> list[Shape]:
    """The lines, then over them all their names, each just above its line: where it is meant, else where no other name
    stands, and if it can no other line runs.
    """
    all_points = [[axes.at(x, y) for x, y in zip(line.xs, line.ys, strict=True)] for line in lines]
    curves = [(line, points) for line, points in zip(lines, all_points, strict=True) if len(points) > 1]
    room, names = Room(), []
    for line, points in curves:
        if line.name:
            room.lines = [other for one, other in curves if one is not line]
            spots = [_name(line, points, share) for share in (line.named, *_WHERE)]
            names.append(room.place(spots, clear=True) or room.place(spots) or spots[0])
    return [*(Path(role=f"curve {line.role}", points=points) for line, points in curves), *names]


def _name(line: Line, points: Sequence[tuple[float, float]], share: float) -> Text:
    """So far along its line. On a slope it stands on the side where the line goes down, so that the line does not run
    through it; at either end within the drawing.
    """
    place = min(int(share * len(points)), len(points) - 1)
    (x, y), (x1, y1), (x2, y2) = points[place], points[max(place - 1, 0)], points[min(place + 1, len(points) - 1)]
    rise = (y1 - y2) / max(x2 - x1, 0.1)
    anchor = "middle" if abs(rise) < _STEEP else "end" if rise > 0 else "start"
    name = Text(role=f"name {line.role}", at=(x, max(y - 6, 11.0)), text=line.name, anchor=anchor)
    box = box_of(name)
    inwards = max(_LEFT + 2 - box.left, 0.0) - max(box.right - WIDTH + 2, 0.0)
    return replace(name, at=(x + inwards, name.at[1]))


def _upwards(x: float, y: float) -> Path:
    return Path(role="least", points=[(x - 5, y + 4), (x, y - 6), (x + 5, y + 4)], closed=True)


def plot(
    axes: Axes, lines: Sequence[Line], title: str, dots: Sequence[tuple[float, float]] = (),
    least: Sequence[tuple[float, float]] = (),
) -> Scene:  # fmt: skip
    """Lines and dots on their axes; what is so much at least, and how much is not known, points upwards."""
    shapes = [*grid(axes), *drawn(axes, lines)]
    shapes += [Circle(role="rated", at=axes.at(x, y), radius=3.5) for x, y in dots]
    shapes += [_upwards(*axes.at(x, y)) for x, y in least]
    return Scene(size=(WIDTH, axes.height), shapes=shapes, title=title)


def bars(values: Sequence[tuple[str, float, float | None]], y_name: str, title: str) -> Scene:
    """Bars by name with their limits as ticks across them; over its limit a bar is told apart."""
    most = up_to(max([value for _, value, _ in values] + [limit or 0.0 for _, _, limit in values] + [1e-6]))
    axes = Axes(most_x=float(len(values)), most_y=most, x_name="", y_name=y_name)
    shapes: list[Shape] = []
    step, value = round_step(most), 0.0
    while value <= most * 1.001:
        x, y = axes.at(0, value)
        shapes.append(Path(role="grid", points=[(x, y), (axes.span[1], y)]))
        shapes.append(Text(role="tick", at=(x - 6, y + 4), text=f"{value:g}", anchor="end"))
        value += step
    for place, (name, height, limit) in enumerate(values):
        (left, top), (right, bottom) = axes.at(place + 0.22, height), axes.at(place + 0.78, 0)
        over = " over" if limit is not None and height > limit else ""
        shapes.append(Rect(role=f"bar{over}", at=(left, top), size=(round(right - left, 1), round(bottom - top, 1))))
        shapes.append(Text(role="tick", at=((left + right) / 2, bottom + 15), text=name))
        shapes.append(Text(role="name", at=((left + right) / 2, top - 5), text=write(height, 3)))
        if limit is not None:
            (from_, y), (to, _) = axes.at(place + 0.1, limit), axes.at(place + 0.9, limit)
            shapes.append(Path(role="limit", points=[(from_, y), (to, y)]))
    shapes.append(Text(role="tick axis", at=(_LEFT, 11), text=y_name, anchor="start"))
    return Scene(size=(WIDTH, HEIGHT), shapes=shapes, title=title)
