"""Which device stands in which area: the areas side by side in plan, hatched by danger, devices as chips to drag."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from textwrap import wrap

from vinegate.core.grade import Verdict
from vinegate.core.place.devices import DeviceRow
from vinegate.drawing.scene import Chip, Circle, Path, Region, Scene, Shape, Text

WIDTH = 900.0
_GAP, _TOP, _HEAD, _ROW, _FOOT = 10.0, 2.0, 62.0, 38.0, 12.0
_CHIP_TALL = 28.0
_MOST_CHIP = 176.0
_HATCH = 16.0
_LETTER, _SMALL, _LINE = 6.4, 6.1, 13.0
_ROLES = {"": "n", "?": "u"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Ground:
    """An area on the sketch. `danger` is "0" to "2" as zones are, "?" while not known, empty where unclassified.

    `key` is empty for what is not placed yet.
    """

    key: str
    name: str
    short: str
    below: str
    danger: str


def areas_sketch(grounds: Sequence[Ground], devices: Sequence[DeviceRow]) -> Scene:
    """One box an area; a box for what is not placed only while there is something."""
    shown = [ground for ground in grounds if ground.key or any(not row.area for row in devices)]
    width = (WIDTH - 2 * _TOP - _GAP * (len(shown) - 1)) / max(len(shown), 1)
    most = max((sum(row.area == ground.key for row in devices) for ground in shown), default=0)
    head = _HEAD + _LINE * (max((len(_below(ground, width)) for ground in shown), default=1) > 1)
    tall = head + _ROW * max(most, 1) + _FOOT
    shapes: list[Shape] = []
    for number, ground in enumerate(shown):
        left = _TOP + number * (width + _GAP)
        here = [row for row in devices if row.area == ground.key]
        shapes += _ground(ground, left, width, tall, head)
        shapes += [_chip(row, left, width, head, place) for place, row in enumerate(here)]
    said = "; ".join(
        f"{ground.name}: {', '.join(row.name for row in devices if row.area == ground.key) or 'nothing'}"
        for ground in shown
    )
    return Scene(size=(WIDTH, tall + 2 * _TOP), shapes=shapes, title=f"Devices by area. {said}")


def _ground(ground: Ground, left: float, width: float, tall: float, head: float) -> list[Shape]:
    """The box, its hatching as plans of classification have it, and its words on a clear ground."""
    room = int((width - 20) / _LETTER)
    words = [
        (_cut(ground.name, room), "ground-name", 20.0),
        (_cut(ground.short, room), "ground-short", 37.0),
        *((line, "ground-below", 53.0 + _LINE * row) for row, line in enumerate(_below(ground, width))),
    ]
    return [
        Region(
            role=f"ground d{_ROLES.get(ground.danger, ground.danger)}",
            at=(left, _TOP),
            size=(width, tall),
            key=ground.key,
        ),
        *_hatching(ground.danger, left, width, tall, head),
        *(Text(role=role, at=(left + 10, _TOP + y), text=text, anchor="start") for text, role, y in words if text),
    ]


def _below(ground: Ground, width: float) -> list[str]:
    """What is present, over two lines where it needs them."""
    return wrap(ground.below, max(int((width - 20) / _SMALL), 4), max_lines=2, placeholder="…")


def _cut(text: str, room: int) -> str:
    return text if len(text) <= room else f"{text[: max(room - 1, 1)].rstrip()}…"


def _hatching(danger: str, left: float, width: float, tall: float, head: float) -> list[Shape]:
    """As IEC 60079-10-1 draws zones: lines one way for 2, both ways for 1, dots between them for 0."""
    top, right, bottom = _TOP + head, left + width, _TOP + tall
    if danger not in ("0", "1", "2"):
        return []
    shapes: list[Shape] = [*_lines(left, top, right, bottom, down=False)]
    if danger in ("0", "1"):
        shapes += _lines(left, top, right, bottom, down=True)
    if danger == "0":
        shapes += [
            Circle(role="hatch-dot", at=(left + _HATCH * (column + 0.5), top + _HATCH * (row + 0.5)), radius=1.5)
            for column in range(int(width // _HATCH))
            for row in range(int((bottom - top) // _HATCH))
        ]
    return shapes


def _lines(left: float, top: float, right: float, bottom: float, *, down: bool) -> list[Shape]:
    """Lines at 45 degrees, cut at the box."""
    shapes: list[Shape] = []
    tall, start = bottom - top, left - (bottom - top)
    while start < right:
        first, last = max(start, left), min(start + tall, right)
        if last > first:
            low, high = bottom - (first - start), bottom - (last - start)
            if down:
                low, high = top + (first - start), top + (last - start)
            shapes.append(
                Path(role="hatch", points=[(round(first, 1), round(low, 1)), (round(last, 1), round(high, 1))])
            )
        start += _HATCH
    return shapes


def _chip(row: DeviceRow, left: float, width: float, head: float, place: int) -> Chip:
    wide = min(width - 20, _MOST_CHIP)
    where = row.area_name or "not placed"
    return Chip(
        role=f"chip {Verdict(row.verdict).mark}",
        at=(left + 10, _TOP + head + 5 + _ROW * place),
        size=(wide, _CHIP_TALL),
        text=row.name,
        word=str(row.verdict),
        label=f"{row.name}, {where}: {row.verdict}. {row.why}",
        field=f"place-{row.key}",
        area=row.area,
    )
