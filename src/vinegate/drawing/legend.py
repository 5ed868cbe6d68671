"""What each symbol of a control circuit means: those that are on the drawing, and no others."""

from __future__ import annotations

from vinegate.drawing.scene import Group, Scene, Shape, Text

_WORDS = {
    "make": "closes when its coil is in",
    "break": "opens when its coil is in",
    "timed make": "closes after its time",
    "timed break": "opens after its time",
    "lasting make": "opens its time after its coil is out",
    "lasting break": "closes its time after its coil is out",
    "button make": "closes while pressed",
    "button break": "opens while pressed",
    "held make": "closes while held or selected",
    "held break": "opens while held or selected",
    "mushroom break": "emergency stop, latches",
    "overload break": "overload has tripped",
    "contactor": "contactor's coil",
    "relay": "relay's coil",
    "timed timer": "timer, delays coming in",
    "lasting timer": "timer, delays going out",
    "lamp": "lamp",
}
_COILS = ("contactor", "relay", "timed timer", "lasting timer", "lamp")
_ROW, _SIDE, _COLUMN = 40.0, 34.0, 250.0


def legend(scene: Scene, *, ansi: bool, columns: int = 3) -> Scene:
    """The symbols of a scene with their words, in columns."""
    seen: dict[str, Group] = {}
    for shape in scene.shapes:
        if isinstance(shape, Group):
            seen.setdefault(shape.name, shape)
    shapes: list[Shape] = []
    known = [name for name in _WORDS if name in seen]
    for place, name in enumerate(known):
        x, y = _SIDE + _COLUMN * (place % columns), 24 + _ROW * (place // columns)
        role = "coil" if name in _COILS else "contact"
        shapes.append(Group(role=role, at=(x, y), name=name, parts=seen[name].parts))
        shapes.append(Text(role="tick", at=(x + 30, y + 4), text=_WORDS[name], anchor="start"))
    rows = -(-len(known) // columns)
    title = f"Symbols, by {'ANSI' if ansi else 'IEC 60617'}"
    return Scene(size=(_COLUMN * columns, max(rows, 1) * _ROW + 8), shapes=shapes, title=title)
