"""A scene: a few shapes with roles, in drawing units; `svg` writes it. Colour is the style sheet's."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from xml.sax.saxutils import escape, quoteattr


@dataclass(frozen=True, slots=True, kw_only=True)
class Shape:
    """`role` becomes the SVG class: what the shape is, not how it looks."""

    role: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Path(Shape):
    points: Sequence[tuple[float, float]]
    closed: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Circle(Shape):
    at: tuple[float, float]
    radius: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Rect(Shape):
    at: tuple[float, float]
    size: tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Text(Shape):
    at: tuple[float, float]
    text: str
    anchor: str = "middle"


@dataclass(frozen=True, slots=True, kw_only=True)
class Group(Shape):
    """A symbol: `parts` about its own middle, drawn at `at`. `name` is what it is, `marks` what it says of itself.

    In a file it becomes a block with its marks as attributes.
    """

    at: tuple[float, float]
    name: str
    parts: Sequence[Shape]
    marks: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Handle(Shape):
    """A setting that is dragged, or moved with the arrow keys: a pill with its value.

    It moves along `axis` ("x" or "y") between the drawing places of `low` and `high`; `field` is the id of the form
    field that it writes, `unit` what stands behind the number there. `logarithmic` where the axis is; with `stops` it
    takes only those values. With `row` it writes the first cell of that row of a field of many.
    """

    at: tuple[float, float]
    text: str
    label: str
    field: str
    axis: str
    span: tuple[float, float]
    low: float
    high: float
    value: float
    step: float
    unit: str
    logarithmic: bool = False
    stops: tuple[float, ...] = ()
    row: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Region(Rect):
    """A box that chips are dragged into; `key` is what their field takes there."""

    key: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Chip(Shape):
    """A thing that is dragged, or moved with the arrow keys, between regions; `field` is the id of its form field.

    `word` stands at its right end, `label` says all of it to those who cannot see it.
    """

    at: tuple[float, float]
    size: tuple[float, float]
    text: str
    word: str
    label: str
    field: str
    area: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Scene:
    """Shapes in a box of `size`; `title` names it for those who cannot see it, empty where text says it already."""

    size: tuple[float, float]
    shapes: Sequence[Shape]
    title: str = ""


def svg(scene: Scene, role: str = "glyph") -> str:
    """The scene as an inline SVG element.

    >>> svg(Scene(size=(2, 1), shapes=[Circle(role="post", at=(1, 0.5), radius=0.25)])).partition("><")[2]
    'circle class="post" cx="1" cy="0.5" r="0.25"/></svg>'
    """
    width, height = (f"{n:g}" for n in scene.size)
    spoken = "group" if any(isinstance(shape, Handle | Chip) for shape in scene.shapes) else "img"
    named = f'role="{spoken}" aria-label={quoteattr(scene.title)}' if scene.title else 'aria-hidden="true"'
    body = "".join(_element(shape) for shape in scene.shapes)
    return f'<svg class="{role}" viewBox="0 0 {width} {height}" width="{width}" height="{height}" {named}>{body}</svg>'


def svg_file(scene: Scene, style: str) -> str:
    """The scene as a file of its own, with its namespace and its style sheet inside."""
    drawn = svg(scene, "drawing").replace("<svg ", '<svg xmlns="http://www.w3.org/2000/svg" ', 1)
    return drawn.replace("><", f"><style>{style}</style><", 1)


_PILL_HEIGHT = 24
_DIGIT = 7.2


def _handle(shape: Handle) -> str:
    x, y = shape.at
    width = 22 + _DIGIT * len(shape.text)
    grip = "↔" if shape.axis == "x" else "↕"
    attributes = {
        "class": shape.role,
        "id": f"handle-{shape.field}{'' if shape.row is None else f'-{shape.row}'}",
        "role": "slider",
        "tabindex": "0",
        "aria-label": shape.label,
        "aria-valuenow": f"{shape.value:g}",
        "aria-valuemin": f"{shape.low:g}",
        "aria-valuemax": f"{shape.high:g}",
        "aria-valuetext": shape.text,
        "aria-orientation": "horizontal" if shape.axis == "x" else "vertical",
        "data-field": shape.field,
        "data-unit": shape.unit,
        "data-axis": shape.axis,
        "data-from": f"{shape.span[0]:g}",
        "data-to": f"{shape.span[1]:g}",
        "data-step": f"{shape.step:g}",
        **({"data-row": str(shape.row)} if shape.row is not None else {}),
        **({"data-scale": "log"} if shape.logarithmic else {}),
        **({"data-stops": " ".join(f"{stop:g}" for stop in shape.stops)} if shape.stops else {}),
        "transform": f"translate({x:g} {y:g})",
    }
    return (
        f"<g {' '.join(f'{key}={quoteattr(value)}' for key, value in attributes.items())}>"
        f'<rect x="{-width / 2:g}" y="{-_PILL_HEIGHT / 2:g}" width="{width:g}" height="{_PILL_HEIGHT}" rx="12"/>'
        f'<text x="0" y="4" text-anchor="middle">{grip} {escape(shape.text)}</text></g>'
    )


def _chip(shape: Chip) -> str:
    (x, y), (width, height) = shape.at, shape.size
    base = f"{height / 2 + 4:g}"
    attributes = {
        "class": shape.role,
        "id": f"chip-{shape.field}",
        "role": "button",
        "tabindex": "0",
        "aria-label": f"{shape.label} Left and right move it.",
        "data-chip": shape.field,
        "data-area": shape.area,
        "transform": f"translate({x:g} {y:g})",
    }
    return (
        f"<g {' '.join(f'{key}={quoteattr(value)}' for key, value in attributes.items())}>"
        f'<rect width="{width:g}" height="{height:g}" rx="4"/>'
        f'<text x="10" y="{base}">{escape(shape.text)}</text>'
        f'<text class="word" x="{width - 10:g}" y="{base}" text-anchor="end">{escape(shape.word)}</text></g>'
    )


def _element(shape: Shape) -> str:
    match shape:
        case Region(role=role, at=(x, y), size=(w, h), key=key):
            box = f'x="{x:g}" y="{y:g}" width="{w:g}" height="{h:g}"'
            return f'<rect class="{role}" {box} data-region={quoteattr(key)}/>'
        case Chip():
            return _chip(shape)
        case Path(role=role, points=points, closed=closed):
            d = "M" + "L".join(f"{x:g} {y:g}" for x, y in points) + ("Z" if closed else "")
            return f'<path class="{role}" d="{d}"/>'
        case Circle(role=role, at=(x, y), radius=r):
            return f'<circle class="{role}" cx="{x:g}" cy="{y:g}" r="{r:g}"/>'
        case Rect(role=role, at=(x, y), size=(w, h)):
            return f'<rect class="{role}" x="{x:g}" y="{y:g}" width="{w:g}" height="{h:g}"/>'
        case Text(role=role, at=(x, y), text=text, anchor=anchor):
            return f'<text class="{role}" x="{x:g}" y="{y:g}" text-anchor="{anchor}">{escape(text)}</text>'
        case Handle():
            return _handle(shape)
        case Group(role=role, at=(x, y), parts=parts):
            return f'<g class="{role}" transform="translate({x:g} {y:g})">{"".join(map(_element, parts))}</g>'
    raise TypeError(f"no way to draw {type(shape).__name__}")
