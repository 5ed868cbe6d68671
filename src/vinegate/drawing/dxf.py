"""Scenes as a DXF file: a layer for each kind of line, a block for each symbol with its marks as attributes."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any, Final

from vinegate.drawing.scene import Chip, Circle, Group, Handle, Path, Rect, Scene, Shape, Text

if TYPE_CHECKING:
    from ezdxf.document import Drawing

_LAYERS: Final[dict[str, tuple[str, int]]] = {
    "wire": ("WIRES", 7), "contact": ("SYMBOLS", 5), "coil": ("SYMBOLS", 5), "dot": ("WIRES", 7),
    "grid": ("GRID", 8), "line": ("CURVES", 5), "used": ("CURVES", 5), "ghost": ("CURVES", 5),
    "name": ("TAGS", 3), "number": ("NUMBERS", 8), "pin": ("PINS", 8), "tick": ("TEXT", 8),
}  # fmt: skip
_OTHER: Final = ("TEXT", 8)
_LINES: Final = ("LINES", 7)
_HEIGHT: Final = {"name": 8.0, "pin": 5.5}
_ALIGN: Final = {"start": "LEFT", "middle": "CENTER", "end": "RIGHT"}
_BETWEEN: Final = 30.0
_MM: Final = 4


def dxf(scenes: Sequence[Scene], heading: Sequence[str] = ()) -> str:
    """The scenes below one another, in their own order, with lines of text above them. R2013, drawn in millimetres.

    Drawing units become quarter millimetres: contacts then stand about 20 mm apart, as control drawings have them.
    """
    from ezdxf.filemanagement import new

    document = new("R2013", units=_MM)
    for layer, color in sorted({*_LAYERS.values(), _OTHER, _LINES}):
        document.layers.add(layer, color=color)
    page = _Page(document)
    for place, line in enumerate(heading):
        page.text(Text(role="name", at=(0, -14.0 * (len(heading) - place)), text=line, anchor="start"), (0, 0))
    top = 0.0
    for scene in scenes:
        for shape in scene.shapes:
            page.draw(shape, (0.0, top))
        top += scene.size[1] + _BETWEEN
    into = io.StringIO()
    document.write(into)
    return into.getvalue()


class _Page:
    """Model space with its blocks; up is up there."""

    def __init__(self, document: Drawing) -> None:
        self._document: Any = document
        self._space: Any = document.modelspace()

    def draw(self, shape: Shape, moved: tuple[float, float]) -> None:
        if isinstance(shape, Group):
            self._reference(shape, moved)
        elif isinstance(shape, Text):
            self.text(shape, moved)
        elif isinstance(shape, Handle | Chip):
            return  # of the screen alone
        else:
            _put(self._space, shape, moved, _layer(shape.role, _LINES))

    def text(self, shape: Text, moved: tuple[float, float]) -> None:
        _write(self._space, shape, moved, _layer(shape.role))

    def _reference(self, shape: Group, moved: tuple[float, float]) -> None:
        role = shape.role.split()[0]
        name = f"{role}-{shape.name}".upper().replace(" ", "_")
        if name not in self._document.blocks:
            block = self._document.blocks.new(name)
            for part in shape.parts:
                _put(block, part, (0.0, 0.0), "0")
            for place, mark in enumerate(sorted(shape.marks)):
                hidden = {"height": 1.5, "flags": 1}
                block.add_attdef(mark, (0, -5 - 2 * place), dxfattribs=hidden)
        at = _turned(shape.at, moved)
        reference = self._space.add_blockref(name, at, dxfattribs={"layer": _layer(role)})
        reference.add_auto_attribs(dict(shape.marks))


def _layer(role: str, other: tuple[str, int] = _OTHER) -> str:
    return _LAYERS.get(role.split(maxsplit=1)[0] if role else "", other)[0]


def _turned(at: tuple[float, float], moved: tuple[float, float]) -> tuple[float, float]:
    return (at[0] + moved[0]) / 4, -(at[1] + moved[1]) / 4


def _write(into: Any, shape: Text, moved: tuple[float, float], layer: str) -> None:
    from ezdxf.enums import TextEntityAlignment

    made = into.add_text(shape.text, height=_HEIGHT.get(shape.role, 7.0) / 4, dxfattribs={"layer": layer})
    made.set_placement(_turned(shape.at, moved), align=TextEntityAlignment[_ALIGN[shape.anchor]])


def _put(into: Any, shape: Shape, moved: tuple[float, float], layer: str) -> None:
    """A line, a circle or a box."""
    attributes = {"layer": layer}
    match shape:
        case Path(points=points, closed=closed):
            into.add_lwpolyline([_turned(at, moved) for at in points], close=closed, dxfattribs=attributes)
        case Circle(at=at, radius=radius):
            into.add_circle(_turned(at, moved), radius / 4, dxfattribs=attributes)
        case Rect(at=(x, y), size=(w, h)):
            corners = [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]
            into.add_lwpolyline([_turned(at, moved) for at in corners], close=True, dxfattribs=attributes)
        case Text():
            _write(into, shape, moved, layer)
        case _:
            raise TypeError(f"no way to draw {type(shape).__name__}")
