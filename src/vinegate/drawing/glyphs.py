"""The line's stations and gates. Each is 56 wide with the conductor at x = 28; gates are seen in plan."""

from __future__ import annotations

import math

from vinegate.core.grade import Verdict
from vinegate.drawing.scene import Circle, Path, Rect, Scene, Shape, Text

WIDTH = 56
MIDDLE = 28
STATION_HEIGHT = 52
GATE_HEIGHT = 24

_POST_HALF_GAP = 13
_POST = 5
_LEAF = 15


def gate(verdict: Verdict) -> Scene:
    """Two posts and two leaves: folded along the line, half turned, a bar across it, or dashed across it."""
    y = 9.0
    left, right = MIDDLE - _POST_HALF_GAP, MIDDLE + _POST_HALF_GAP
    shapes: list[Shape] = list(_conductor_through(verdict, y))
    for x in (left, right):
        shapes.append(Rect(role=f"post {verdict.mark}", at=(x - _POST / 2, y - _POST / 2), size=(_POST, _POST)))
    if verdict is Verdict.FAILS:
        shapes.append(Path(role="leaf fails", points=[(left, y), (right, y)]))
    elif verdict is Verdict.UNKNOWN:
        shapes.append(Path(role="leaf not-known", points=[(left, y), (right, y)]))
    else:
        angle = math.radians(90 if verdict is Verdict.PASSES else 40)
        dx, dy = _LEAF * math.cos(angle), _LEAF * math.sin(angle)
        shapes.append(Path(role=f"leaf {verdict.mark}", points=[(left, y), (left + dx, y + dy)]))
        shapes.append(Path(role=f"leaf {verdict.mark}", points=[(right, y), (right - dx, y + dy)]))
    return Scene(size=(WIDTH, GATE_HEIGHT), shapes=shapes)


def _conductor_through(verdict: Verdict, y: float) -> list[Shape]:
    """The conductor runs on through a gate that lets it; at one that fails or is not known it breaks."""
    if verdict.usable:
        return [Path(role="conductor", points=[(MIDDLE, 0), (MIDDLE, GATE_HEIGHT)])]
    return [
        Path(role="conductor", points=[(MIDDLE, 0), (MIDDLE, y - 4)]),
        Path(role="conductor faint", points=[(MIDDLE, y + 4), (MIDDLE, GATE_HEIGHT)]),
    ]


def plain() -> Scene:
    """A length of conductor without a gate."""
    return Scene(size=(WIDTH, 12), shapes=[Path(role="conductor", points=[(MIDDLE, 0), (MIDDLE, 12)])])


def station(kind: str) -> Scene:
    """The symbol of a station, conductor in and out. Raises KeyError for a kind that is not drawn."""
    shapes, top, bottom = _SYMBOLS[kind]
    wires: list[Shape] = []
    if top is not None:
        wires.append(Path(role="conductor", points=[(MIDDLE, 0), (MIDDLE, top)]))
    if bottom is not None:
        wires.append(Path(role="conductor", points=[(MIDDLE, bottom), (MIDDLE, STATION_HEIGHT)]))
    return Scene(size=(WIDTH, STATION_HEIGHT), shapes=wires + list(shapes))


_SYMBOLS: dict[str, tuple[list[Shape], float | None, float | None]] = {
    # Two-winding transformer, IEC 60617.
    "supply": (
        [
            Circle(role="symbol", at=(28, 19), radius=10),
            Circle(role="symbol", at=(28, 33), radius=10),
        ],
        None,
        43,
    ),
    # A board: a bar across the line.
    "feeder": (
        [
            Path(role="conductor", points=[(28, 0), (28, 52)]),
            Path(role="symbol bar", points=[(9, 26), (47, 26)]),
        ],
        None,
        None,
    ),
    # Fuse, IEC 60617: the conductor through a box.
    "protection": (
        [
            Rect(role="symbol", at=(20, 10), size=(16, 32)),
            Path(role="conductor", points=[(28, 0), (28, 52)]),
        ],
        None,
        None,
    ),
    # Contactor in a box: a make contact, opened.
    "start": (
        [
            Rect(role="symbol", at=(14, 12), size=(28, 28)),
            Path(role="conductor", points=[(28, 12), (28, 19)]),
            Path(role="conductor", points=[(28, 33), (28, 40)]),
            Path(role="symbol", points=[(28, 33), (21, 20)]),
        ],
        12,
        40,
    ),
    # Thermal overload: the heater's step.
    "overload": (
        [
            Rect(role="symbol", at=(14, 14), size=(28, 24)),
            Path(role="symbol", points=[(28, 14), (28, 20), (21, 20), (21, 32), (28, 32), (28, 38)]),
        ],
        14,
        38,
    ),
    # Three conductors: strokes across the line.
    "wiring": (
        [
            Path(role="conductor", points=[(28, 0), (28, 52)]),
            Path(role="symbol", points=[(22, 25), (34, 17)]),
            Path(role="symbol", points=[(22, 31), (34, 23)]),
            Path(role="symbol", points=[(22, 37), (34, 29)]),
        ],
        None,
        None,
    ),
    "plate": (
        [
            Circle(role="symbol", at=(28, 26), radius=16),
            Text(role="letter", at=(28, 31), text="M"),
        ],
        10,
        42,
    ),
    # A stage without a symbol of its own.
    "further": ([Rect(role="symbol", at=(18, 16), size=(20, 20))], 16, 36),
    # Two shoes against a wheel on the shaft.
    "stop": (
        [
            Circle(role="symbol", at=(28, 26), radius=9),
            Path(role="symbol bar", points=[(14, 17), (14, 35)]),
            Path(role="symbol bar", points=[(42, 17), (42, 35)]),
        ],
        17,
        35,
    ),
    # The corners of an area around the line.
    "place": (
        [
            Path(role="conductor", points=[(28, 0), (28, 52)]),
            *(
                Path(role="symbol", points=[(x, y + 8 * v), (x, y), (x + 8 * h, y)])
                for x, y, h, v in ((13, 12, 1, 1), (43, 12, -1, 1), (13, 40, 1, -1), (43, 40, -1, -1))
            ),
        ],
        None,
        None,
    ),
    "driven": ([Path(role="symbol", points=[(28, 12), (42, 36), (14, 36)], closed=True)], 12, None),
}
