"""Measured over planned, with the band; under it the difference, on the same time."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.record.compared import Compared
from vinegate.drawing.plot import Axes, grid, round_step, up_to
from vinegate.drawing.scene import Path, Scene, Shape, Text

_UPPER: Final = 230
_LOWER: Final = 110


def record_strip(found: Compared) -> Scene:
    """Amperes against seconds from the onset."""
    ends = _ends(found)
    shown = found.time_s <= ends
    most = float(found.found_a[shown].max())
    if found.planned is not None:
        most = max(most, float(found.planned.high_a.max()) if found.planned.time_s.size else 0.0)
    axes = Axes(most_x=ends, most_y=up_to(max(most, 1e-6)), x_name="s", y_name="A", height=_UPPER)
    shapes: list[Shape] = [*grid(axes)]
    if found.planned is not None:
        shapes += _planned(axes, found, ends)
    shapes.append(
        Path(
            role="curve measured",
            points=[axes.at(x, y) for x, y in zip(found.time_s[shown], found.found_a[shown], strict=True)],
        )
    )
    shapes.append(Text(role="name measured", at=(axes.span[1] - 215, 14), text="measured", anchor="start"))
    if found.gap_a is not None:
        shapes += _difference(found, ends)
    return Scene(size=(560, _UPPER + _LOWER), shapes=shapes, title="The start as measured, over the planned one")


def _ends(found: Compared) -> float:
    """A while after the later of both is up."""
    times = [line.found or 0.0 for line in found.lines if line.key == "time"]
    times += [line.planned or 0.0 for line in found.lines if line.key == "time"]
    last = max(times, default=0.0)
    return float(min(max(last * 1.25, 0.3), found.time_s[-1])) if last else float(found.time_s[-1])


def _planned(axes: Axes, found: Compared, ends: float) -> list[Shape]:
    plan = found.planned
    assert plan is not None
    time = plan.time_s[plan.time_s <= ends]
    if time.size < 2:
        return []
    low, high, line = (np.asarray(one)[: time.size] for one in (plan.low_a, plan.high_a, plan.line_a))
    around = [axes.at(x, y) for x, y in zip(time, high, strict=True)]
    around += [axes.at(x, y) for x, y in zip(time[::-1], low[::-1], strict=True)]
    words = "planned, at the measured volts" if plan.run_again else "planned"
    return [
        Path(role="band", points=around, closed=True),
        Path(role="curve planned", points=[axes.at(x, y) for x, y in zip(time, line, strict=True)]),
        Text(role="name planned", at=(axes.span[1] - 215, 30), text=words, anchor="start"),
    ]


def _difference(found: Compared, ends: float) -> list[Shape]:
    assert found.gap_a is not None
    shown = found.time_s <= ends
    gap = found.gap_a[shown]
    most = up_to(max(float(np.max(np.abs(gap))), 1e-6))
    axes = Axes(most_x=ends, most_y=2 * most, x_name="", y_name="", height=_LOWER)

    def at(x: float, y: float) -> tuple[float, float]:
        along, down = axes.at(x, y + most)
        return along, down + _UPPER

    step = round_step(most, 2)
    shapes: list[Shape] = []
    for value in (-step, 0.0, step):
        x, y = at(0, value)
        shapes.append(Path(role="grid", points=[(x, y), (axes.span[1], y)]))
        shapes.append(Text(role="tick", at=(x - 6, y + 4), text=f"{value:g}".replace("-", "−"), anchor="end"))
    shapes.append(
        Text(role="tick axis", at=(axes.span[0], _UPPER + 11), text="A, measured less planned", anchor="start")
    )
    shapes.append(Path(role="curve gap", points=[at(x, y) for x, y in zip(found.time_s[shown], gap, strict=True)]))
    return shapes
