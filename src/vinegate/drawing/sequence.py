"""What was in when: a row each device over the seconds of a run."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from vinegate.drawing.plot import round_step
from vinegate.drawing.scene import Path, Rect, Scene, Shape, Text

_LEFT, _RIGHT, _ROW, _WIDTH = 52, 16, 20, 560


@dataclass(frozen=True, slots=True, kw_only=True)
class Track:
    """A device's name and the spans, s, in which it was in."""

    name: str
    spans: tuple[tuple[float, float], ...]


def tracks_of(events: Sequence[tuple[float, str, int]], tags: Sequence[str], until_s: float) -> tuple[Track, ...]:
    """From (seconds, tag, position) as they came: in while its contacts are over.

    >>> tracks_of([(1.0, "M", 2), (4.0, "M", 1)], ["M", "S"], 5.0)
    (Track(name='M', spans=((1.0, 4.0),)), Track(name='S', spans=()))
    """
    spans: dict[str, list[tuple[float, float]]] = {tag: [] for tag in tags}
    since: dict[str, float] = {}
    for at, tag, position in events:
        if position >= 2:
            since.setdefault(tag, at)
        elif tag in since:
            spans[tag].append((since.pop(tag), at))
    for tag, at in since.items():
        spans[tag].append((at, until_s))
    return tuple(Track(name=tag, spans=tuple(found)) for tag, found in spans.items())


def sequence(tracks: Sequence[Track], until_s: float) -> Scene:
    """Bars on hairlines, seconds below; it stands on the same axis as what is plotted over time."""
    shapes: list[Shape] = []
    wide: Final = _WIDTH - _LEFT - _RIGHT

    def at(seconds: float) -> float:
        return round(_LEFT + wide * seconds / until_s, 1)

    for row, track in enumerate(tracks):
        y = 14.0 + row * _ROW
        shapes += [
            Text(role="tick", at=(_LEFT - 6, y + 4), text=track.name, anchor="end"),
            Path(role="grid", points=[(_LEFT, y), (_WIDTH - _RIGHT, y)]),
        ]
        for begins, ends in track.spans:
            size = (max(at(ends) - at(begins), 1.0), 9.0)
            shapes.append(Rect(role="in", at=(at(begins), y - 4.5), size=size))
    bottom = 14.0 + len(tracks) * _ROW
    step, value = round_step(until_s, 6), 0.0
    while value <= until_s * 0.97:
        shapes.append(Text(role="tick", at=(at(value), bottom + 4), text=f"{value:g}"))
        value += step
    shapes.append(Text(role="tick", at=(_WIDTH - _RIGHT, bottom + 4), text="s", anchor="end"))
    return Scene(size=(_WIDTH, bottom + 10), shapes=shapes, title="What was in when")
