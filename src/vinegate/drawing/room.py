"""Where names may stand on a drawing: not on each other, and clear of what they must not cover."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Final

from vinegate.drawing.scene import Handle, Text

LETTER: Final = 6.5
"""Width of a letter of a name, about."""
_ABOVE, _BELOW = 10.0, 4.0
_PILL: Final = (38.0, 13.0)
"""Half of what a handle covers, about."""
_HALF: Final = {"start": 0.0, "middle": 0.5, "end": 1.0}

Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Box:
    """A rectangle of the drawing."""

    left: float
    top: float
    right: float
    bottom: float

    def meets(self, other: Box) -> bool:
        """Whether they overlap.

        >>> Box(0, 0, 2, 2).meets(Box(1, 1, 3, 3)), Box(0, 0, 2, 2).meets(Box(2, 0, 3, 1))
        (True, False)
        """
        across = self.left < other.right and other.left < self.right
        return across and self.top < other.bottom and other.top < self.bottom

    def cut_by(self, one: Point, other: Point) -> bool:
        """Whether a straight line between two points runs through it (Liang and Barsky's clipping).

        >>> Box(0, 0, 2, 2).cut_by((-1, 1), (3, 1)), Box(0, 0, 2, 2).cut_by((-1, 2), (1, 4))
        (True, False)
        """
        begins, ends = 0.0, 1.0
        for at, to, low, high in ((one[0], other[0], self.left, self.right), (one[1], other[1], self.top, self.bottom)):
            if at == to:
                if not low < at < high:
                    return False
                continue
            first, last = sorted(((low - at) / (to - at), (high - at) / (to - at)))
            begins, ends = max(begins, first), min(ends, last)
        return begins < ends


def box_of(text: Text) -> Box:
    """What a name covers, about."""
    wide, (x, y) = LETTER * len(text.text), text.at
    left = x - wide * _HALF[text.anchor]
    return Box(left, y - _ABOVE, left + wide, y + _BELOW)


def pill_box(handle: Handle) -> Box:
    """What a handle covers, about."""
    (x, y), (wide, tall) = handle.at, _PILL
    return Box(x - wide, y - tall, x + wide, y + tall)


@dataclass(slots=True)
class Room:
    """What stands on a drawing already: boxes of names and handles, and lines that a name may be asked to keep clear
    of.
    """

    taken: list[Box] = field(default_factory=list)
    lines: list[Sequence[Point]] = field(default_factory=list)

    def place(self, spots: Iterable[Text], *, clear: bool = False) -> Text | None:
        """The first of these that stands free, which is taken; `clear` of the lines too. None where none does."""
        for spot in spots:
            box = box_of(spot)
            if not any(box.meets(other) for other in self.taken) and not (clear and self._cut(box)):
                self.taken.append(box)
                return spot
        return None

    def _cut(self, box: Box) -> bool:
        return any(box.cut_by(*pair) for line in self.lines for pair in pairwise(line))
