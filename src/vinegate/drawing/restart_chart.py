"""The restart against time: a bar for each machine's start, and the main board's volts under them."""

from __future__ import annotations

import math

from vinegate.core.grade import Verdict
from vinegate.core.numbers import write
from vinegate.core.start.restart import Restart
from vinegate.drawing.scene import Handle, Path, Rect, Scene, Shape, Text

WIDTH = 1100
_LEFT, _RIGHT, _TOP, _ROW, _VOLTS, _BOTTOM = 190, 70, 12, 34, 150, 30
_LEAST_BAR = 3.0
_BESIDE = 30.0  # the pill stands before the bar that it moves


def restart_chart(found: Restart, *, editable: bool) -> Scene:
    """Bars with a pill to move each (where `editable`), then volts with the limit drawn in."""
    seconds = _round_up(max(found.ends_s * 1.08, 10.0))
    height = _TOP + _ROW * len(found.slots) + 24 + _VOLTS + _BOTTOM
    shapes: list[Shape] = [*_grid(seconds, height)]
    for index, slot in enumerate(found.slots):
        y = _TOP + _ROW * index + _ROW / 2
        shapes.append(Text(role="bar-name", at=(8, y + 4), text=slot.tag, anchor="start"))
        shapes.append(Text(role="tick", at=(70, y + 4), text=slot.method, anchor="start"))
        first, last = _x(slot.at_s, seconds), _x(slot.ends_s, seconds)
        role = {Verdict.FAILS: "bar over", Verdict.CHECK: "bar unsure"}.get(slot.verdict, "bar")
        shapes.append(Rect(role=role, at=(first, y - 6), size=(max(last - first, _LEAST_BAR), 12)))
        shapes.append(Path(role="after", points=[(max(last, first + _LEAST_BAR), y), (WIDTH - _RIGHT, y)]))
        if editable:
            shapes.append(_pill(slot.tag, slot.at_s, first, y, seconds))
        else:
            shapes.append(Text(role="tick", at=(first - 6, y + 4), text=f"{write(slot.at_s)} s", anchor="end"))
    shapes += _volts(found, seconds, height)
    title = f"Restart: {len(found.slots)} machines in {found.ends_s:.0f} s"
    return Scene(size=(WIDTH, height), shapes=shapes, title=title)


def _x(seconds: float, most: float) -> float:
    return round(_LEFT + (WIDTH - _LEFT - _RIGHT) * min(seconds / most, 1.0), 1)


def _round_up(value: float) -> float:
    step = 10 ** math.floor(math.log10(value)) / 2
    return float(math.ceil(value / step) * step)


def _grid(seconds: float, height: float) -> list[Shape]:
    shapes: list[Shape] = []
    step = float(next(s for s in (1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1800, 3600, math.inf) if seconds / s <= 12))
    at = 0.0
    while at <= seconds + 1e-6:
        x = _x(at, seconds)
        shapes.append(Path(role="grid", points=[(x, _TOP), (x, height - _BOTTOM)]))
        shapes.append(Text(role="tick", at=(x, height - 12), text=f"{write(at)} s"))
        at += step
    return shapes


def _pill(tag: str, at_s: float, x: float, y: float, seconds: float) -> Handle:
    return Handle(
        role="handle small",
        at=(x - _BESIDE, y),
        text=f"{write(at_s)} s",
        label=f"{tag} restarts at",
        field=f"restart-{tag}",
        axis="x",
        span=(_x(0, seconds) - _BESIDE, _x(seconds, seconds) - _BESIDE),
        low=0.0,
        high=seconds,
        value=at_s,
        step=0.5,
        unit="s",
    )


def _volts(found: Restart, seconds: float, height: float) -> list[Shape]:
    """Main-board volts, from a floor that shows the limit to 100 %."""
    bottom, top = height - _BOTTOM, height - _BOTTOM - _VOLTS
    lowest = min([*found.volts_pct, 100 - (found.limit_pct or 0)])
    floor = 100 - max(math.ceil((100 - lowest) * 1.25), 2)

    def y(value: float) -> float:
        return round(bottom - (bottom - top) * (value - floor) / (100 - floor), 1)

    shapes: list[Shape] = []
    if found.limit_pct is not None:
        line = y(100 - found.limit_pct)
        shapes += [
            Rect(role="beyond", at=(_LEFT, line), size=(WIDTH - _LEFT - _RIGHT, bottom - line)),
            Path(role="limit", points=[(_LEFT, line), (WIDTH - _RIGHT, line)]),
            Text(
                role="limit-name",
                at=(WIDTH - _RIGHT + 6, line + 4),
                text=f"{write(found.limit_pct)} % dip",
                anchor="start",
            ),
        ]
    for value in (100, (100 + floor) / 2, floor):
        shapes.append(Text(role="tick", at=(_LEFT - 8, y(value) + 4), text=f"{write(value, 3)} %", anchor="end"))
    shapes.append(Text(role="bar-name", at=(8, top + 14), text="Main board", anchor="start"))
    points = [(_x(t, seconds), y(v)) for t, v in zip(found.time_s, found.volts_pct, strict=True) if t <= seconds]
    shapes.append(Path(role="used", points=points))
    return shapes
