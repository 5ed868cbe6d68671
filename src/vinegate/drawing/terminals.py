"""Terminal links drawn: a row for each line and each joint, terminals as studs on a bar."""

from __future__ import annotations

from vinegate.core.plate.terminals import Links
from vinegate.drawing.scene import Circle, Path, Scene, Shape, Text

_ROW, _STEP, _LABEL = 30, 40, 52


def terminal_links(links: Links) -> Scene:
    """Lines L1 to L3 first, with conductor to their studs; joints below, without."""
    rows = [(f"L{index}", group) for index, group in enumerate(links.lines, start=1)]
    rows += [("joined", group) for group in links.joined]
    shapes: list[Shape] = []
    for index, (label, group) in enumerate(rows):
        y = 18 + index * _ROW
        last = _LABEL + (len(group) - 1) * _STEP
        live = label != "joined"
        shapes.append(Text(role="tick", at=(0, y + 4), text=label, anchor="start"))
        start = _LABEL - 22 if live else _LABEL
        shapes.append(Path(role="conductor" if live else "joint", points=[(start, y), (last, y)]))
        for place, terminal in enumerate(group):
            x = _LABEL + place * _STEP
            shapes.append(Circle(role="stud", at=(x, y), radius=11))
            shapes.append(Text(role="stud-name", at=(x, y + 4), text=terminal))
    width = _LABEL + max(len(group) for _, group in rows) * _STEP
    said = "; ".join(f"{label}: {', '.join(group)}" for label, group in rows)
    return Scene(size=(width, 6 + len(rows) * _ROW), shapes=shapes, title=f"{links.name}. {said}")
