"""The two ways to close a delta, as phasors: what the winding gets, what it still has, and the leap between them."""

from __future__ import annotations

import cmath
import math
from typing import Final

from vinegate.drawing.scene import Circle, Path, Scene, Shape, Text

_UNIT: Final = 120.0
_WIDE: Final = 300.0
_LOW: Final = 150.0


def recloses_pu(way: int, residual_pu: float, lag_deg: float) -> float:
    """The leap in volts of a winding that gets 1∠±30° and still has a residual behind its star phase, per unit.

    `way` is 1 where the delta is ahead of the star, −1 where it is behind. The usual example
    (0.49 of the delta's volts, 35° behind):

    >>> round(recloses_pu(1, 0.4907, 35), 2), round(recloses_pu(-1, 0.4907, 35), 2)
    (0.91, 0.51)
    """
    return abs(_gets(way) - _has(residual_pu, lag_deg))


def _gets(way: int) -> complex:
    return cmath.rect(1.0, math.radians(30 * way))


def _has(residual_pu: float, lag_deg: float) -> complex:
    return cmath.rect(residual_pu, -math.radians(lag_deg))


def phasors(residual_pu: float, lag_deg: float, joins: tuple[str, str]) -> Scene:
    """Side by side, each with its leap drawn heavy; the star's phase lies along the dashed line. `joins`: by which ends
    the delta closes ahead, and behind.
    """
    shapes: list[Shape] = []
    for place, (way, name) in enumerate(((1, f"{joins[0]}: ahead"), (-1, f"{joins[1]}: behind"))):
        left = 20 + _WIDE * place
        _one(shapes, (left, _LOW), _gets(way), _has(residual_pu, lag_deg))
        leap = 100 * recloses_pu(way, residual_pu, lag_deg)
        shapes.append(Text(role="name", at=(left, 24), text=f"{name}, leap {leap:.0f} %", anchor="start"))
    return Scene(size=(2 * _WIDE, 2 * _LOW), shapes=shapes, title="Which way the delta closes")


def _one(shapes: list[Shape], origin: tuple[float, float], gets: complex, has: complex) -> None:
    def at(value: complex) -> tuple[float, float]:
        return round(origin[0] + _UNIT * value.real, 1), round(origin[1] - _UNIT * value.imag, 1)

    shapes.append(Path(role="grid", points=[at(0j), at(1.25 + 0j)]))
    shapes.append(Text(role="tick", at=at(1.28 + 0.02j), text="star phase", anchor="start"))
    for value, role, words in ((gets, "wire", "gets"), (has, "wire", "still has")):
        shapes.append(Path(role=role, points=[at(0j), at(value)]))
        shapes.append(Circle(role="dot", at=at(value), radius=3))
        x, y = at(value)
        beside = (x + 6, y - 8 if value.imag > 0 else y + 16) if words == "gets" else (x - 8, y + 16)
        shapes.append(Text(role="tick", at=beside, text=words, anchor="start" if words == "gets" else "end"))
    shapes.append(Path(role="leap", points=[at(has), at(gets)]))
