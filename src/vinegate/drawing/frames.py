"""Two frames over each other, to scale: shaft height and end from the side, the holes from above."""

from __future__ import annotations

from typing import Final

from vinegate.core.replacement.frames import Frame
from vinegate.drawing.scene import Circle, Path, Scene, Shape, Text

_HIGH: Final = 190.0
_WIDE: Final = 620.0


def frames_over(old: Frame, new: Frame, *, us: bool) -> Scene:
    """The driven machine stands at the right; both shafts end where the old one's did."""
    largest = max(one.height * 1.9 for one in (old, new))
    longest = max(one.along + one.length for one in (old, new)) * 1.5
    scale = min(_HIGH / largest, (_WIDE / 2 - 30) / longest)
    shapes: list[Shape] = []
    for frame, role in ((old, "grid"), (new, "wire")):
        _side(shapes, frame, role, scale)
        _above(shapes, frame, role, scale)
    unit, times = ("in", 25.4) if us else ("mm", 1.0)
    words = ", ".join(
        f"{name} {getattr(old, key) / times:.4g} → {getattr(new, key) / times:.4g}"
        for key, name in (("height", "shaft height"), ("shaft", "shaft"), ("length", "its length"))
    )
    said = f"{old.name} → {new.name}, {unit}: {words}"
    shapes.append(Text(role="tick", at=(10, _HIGH + 46), text=said, anchor="start"))
    return Scene(size=(_WIDE, _HIGH + 58), shapes=shapes, title="Frames over each other")


def _side(shapes: list[Shape], frame: Frame, role: str, scale: float) -> None:
    """From the floor: body, shaft line, shaft."""
    floor, end = _HIGH + 20, _WIDE / 2 - 20
    top, middle = floor - 1.9 * frame.height * scale, floor - frame.height * scale
    face = end - frame.length * scale
    back = face - 1.35 * frame.along * scale
    shapes.append(Path(role=role, points=[(back, floor), (back, top), (face, top), (face, floor)], closed=True))
    half = frame.shaft * scale / 2
    shapes.append(Path(role=role, points=[(face, middle - half), (end, middle - half), (end, middle + half),
                                          (face, middle + half)]))  # fmt: skip
    shapes.append(Path(role=role, points=[(back - 8, middle), (end + 8, middle)]))


def _above(shapes: list[Shape], frame: Frame, role: str, scale: float) -> None:
    """The four holes, about one middle."""
    x, y = 0.76 * _WIDE, _HIGH / 2 + 20
    across, along = frame.across * scale / 2, frame.along * scale / 2
    corners = [(x + sx * along, y + sy * across) for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
    shapes.append(Path(role=role, points=corners, closed=True))
    shapes += [Circle(role="coil", at=corner, radius=3) for corner in corners]
