"""The circuit as a one-line drawing for a file: symbols below one another, beside each what stands there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from vinegate.drawing import glyphs
from vinegate.drawing.scene import Circle, Group, Path, Rect, Scene, Shape, Text

_LEFT, _TOP = 40.0, 30.0
_STEP: Final = 76.0
_WORDS: Final = 250.0
_LETTER: Final = 7.4
STYLE: Final = (
    "text{font:12px sans-serif;fill:#222}.name{font-weight:600}.number{fill:#555;font-size:11px}"
    "path,circle,rect{fill:none;stroke:#222;stroke-width:1.5}.conductor{stroke-width:2}"
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Stop:
    """One station: kind of its symbol, name, what it is in short, its number, and its gates that do not pass."""

    kind: str
    name: str
    short: str
    number: str
    marks: tuple[str, ...] = ()


def one_line(title: str, stops: Sequence[Stop], at: float = 0.0) -> Scene:
    """One circuit, `at` so far to the right."""
    x, shapes = _LEFT + at, list[Shape]()
    shapes.append(Text(role="name", at=(at + 8, 14), text=title, anchor="start"))
    for place, stop in enumerate(stops):
        top = _TOP + _STEP * place
        symbol = glyphs.station(stop.kind)
        middle = (symbol.size[0] / 2, symbol.size[1] / 2)
        marks = {"TAG": stop.name, "IS": stop.short, "NUMBER": stop.number}
        shapes.append(Group(role="coil", name=stop.kind, at=(x, top + middle[1]), marks=marks,
                            parts=tuple(_moved(one, -middle[0], -middle[1]) for one in symbol.shapes)))  # fmt: skip
        if place < len(stops) - 1:
            shapes.append(Path(role="wire", points=[(x, top + symbol.size[1]), (x, top + _STEP)]))
        beside = x + symbol.size[0] / 2 + 12
        below = [("number", 48 + 13 * row, mark) for row, mark in enumerate(stop.marks[:2])]
        lines = [("name", 16, f"{stop.name}   {stop.number}".rstrip()), ("number", 32, stop.short), *below]
        shapes += [Text(role=role, at=(beside, top + down), text=text, anchor="start") for role, down, text in lines]
    longest = max((len(one.text) for one in shapes if isinstance(one, Text)), default=0)
    return Scene(size=(at + max(_WORDS, _LETTER * longest) + 90, _TOP + _STEP * len(stops)), shapes=shapes, title=title)


def _moved(shape: Shape, dx: float, dy: float) -> Shape:
    match shape:
        case Path(points=points):
            return replace(shape, points=[(x + dx, y + dy) for x, y in points])
        case Circle(at=(x, y)) | Rect(at=(x, y)) | Text(at=(x, y)):
            return replace(shape, at=(x + dx, y + dy))
    raise TypeError(f"no way to move {type(shape).__name__}")


def beside_one_another(lines: Sequence[tuple[str, Sequence[Stop]]]) -> Scene:
    """Several circuits on one sheet, from left to right."""
    scenes, right = list[Scene](), 0.0
    for title, stops in lines:
        scenes.append(one_line(title, stops, right))
        right = scenes[-1].size[0]
    size = right, max((one.size[1] for one in scenes), default=0.0)
    return Scene(size=size, shapes=[shape for one in scenes for shape in one.shapes], title="One-line drawings")
