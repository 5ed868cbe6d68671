"""The time-current chart, both axes logarithmic: names on the lines, settings as pills."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from vinegate.core.numbers import write
from vinegate.core.protection.bands import LEAST_S
from vinegate.core.protection.chart import MOST_S, Points, TimeCurrent
from vinegate.drawing.room import LETTER, Room, pill_box
from vinegate.drawing.scene import Circle, Handle, Path, Scene, Shape, Text

WIDTH, HEIGHT = 600, 440
_LEFT, _RIGHT, _TOP, _BOTTOM = 58, 18, 66, 36
_RAILS = {"overload": 20.0, "device": 48.0}
_SECONDS = ((0.01, "10 ms"), (0.1, "0.1 s"), (1.0, "1 s"), (10.0, "10 s"), (100.0, "100 s"), (1000.0, "1000 s"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Axes:
    """Amperes along, seconds up."""

    least_a: float
    most_a: float

    def x(self, amperes: float) -> float:
        share = math.log(amperes / self.least_a) / math.log(self.most_a / self.least_a)
        return round(_LEFT + (WIDTH - _LEFT - _RIGHT) * min(max(share, 0.0), 1.0), 1)

    def y(self, seconds: float) -> float:
        share = math.log(seconds / LEAST_S) / math.log(MOST_S / LEAST_S)
        return round(HEIGHT - _BOTTOM - (HEIGHT - _TOP - _BOTTOM) * min(max(share, 0.0), 1.0), 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """What a pill shows and writes: its value, its field, the values it may take (none: in steps).

    `times` of the dial is where a class' pill stands, `seconds` a class of 1 takes there.
    """

    value: float
    text: str
    label: str
    field: str
    unit: str
    step: float = 1.0
    stops: tuple[float, ...] = ()
    times: float = 1.0
    seconds: float = 1.0


def time_current_chart(
    found: TimeCurrent, *, names: dict[str, str], dial: Setting | None, rating: Setting | None, trip: Setting | None
) -> Scene:
    """`names` are what stands on the bands: `overload`, `device`, `damage`."""
    axes = Axes(least_a=found.least_a, most_a=found.most_a)
    shapes: list[Shape] = [*_grid(axes)]
    shapes += _band(axes, found.device, "band device") + _band(axes, found.overload, "band overload")
    shapes += _line(axes, found.damage, "damage") + _line(axes, found.upstream, "upstream")
    shapes += _start(axes, found)
    pills = _handles(axes, dial, rating, trip)
    shapes += _faults(axes, found) + _names(axes, found, names, pills)
    if found.stall is not None:
        x, y = axes.x(found.stall[0]), axes.y(found.stall[1])
        shapes += [
            Circle(role="stall", at=(x, y), radius=5),
            Text(role="name stall-name", at=(x + 9, y + 4), text="stall, hot", anchor="start"),
        ]
    for amps, seconds in found.crossings:
        x, y = axes.x(amps), axes.y(seconds)
        text = f"crosses at {write(amps, 3)} A"
        shapes.append(Circle(role="crossing", at=(x, y), radius=4.5))
        shapes.append(Text(role="name crossing-name", at=(x + 8, y - 6), text=text, anchor="start"))
    shapes += pills
    return Scene(size=(WIDTH, HEIGHT), shapes=shapes, title=_said(found, names))


def _grid(axes: Axes) -> list[Shape]:
    shapes: list[Shape] = []
    floor = HEIGHT - _BOTTOM
    for seconds, text in _SECONDS:
        y = axes.y(seconds)
        shapes += [
            Path(role="grid", points=[(_LEFT, y), (WIDTH - _RIGHT, y)]),
            Text(role="tick", at=(_LEFT - 6, y + 4), text=text, anchor="end"),
        ]
    decade = 10 ** math.floor(math.log10(axes.least_a))
    while decade <= axes.most_a:
        for times in (1, 2, 5):
            amps = decade * times
            if axes.least_a <= amps <= axes.most_a:
                x = axes.x(amps)
                shapes.append(Path(role="grid", points=[(x, _TOP), (x, floor)]))
                shapes.append(Text(role="tick", at=(x, floor + 16), text=_amperes(amps)))
        decade *= 10
    shapes.append(Text(role="tick", at=(WIDTH - _RIGHT, HEIGHT - 4), text="amperes, rms", anchor="end"))
    return shapes


def _amperes(value: float) -> str:
    return f"{value / 1000:g}k" if value >= 1000 else f"{value:g}"


def _points(axes: Axes, points: Points) -> list[tuple[float, float]]:
    return [(axes.x(a), axes.y(t)) for a, t in points if a >= axes.least_a * 0.999]


def _line(axes: Axes, points: Points, role: str) -> list[Shape]:
    drawn = _points(axes, points)
    return [Path(role=f"line {role}", points=drawn)] if len(drawn) > 1 else []


def _band(axes: Axes, sides: tuple[Points, Points], role: str) -> list[Shape]:
    """The area between surely carries and surely opens; both edges strong enough to be read."""
    earliest, latest = (_points(axes, side) for side in sides)
    if len(earliest) < 2 or len(latest) < 2:
        return [Path(role=f"line {role} edge", points=side) for side in (earliest, latest) if len(side) > 1]
    return [
        Path(role=role, points=[*earliest, *reversed(latest)], closed=True),
        Path(role=f"line {role} edge", points=earliest),
        Path(role=f"line {role} edge", points=latest),
    ]


def _start(axes: Axes, found: TimeCurrent) -> list[Shape]:
    shapes = _line(axes, found.start, "start")
    if found.first_a is not None and found.start:
        shapes.append(
            Path(
                role="line first",
                points=[
                    (axes.x(found.first_a), axes.y(LEAST_S)),
                    (axes.x(found.first_a), axes.y(0.02)),
                    (axes.x(found.start[0][0]), axes.y(0.02)),
                ],
            )
        )
    return shapes


def _faults(axes: Axes, found: TimeCurrent) -> list[Shape]:
    shapes: list[Shape] = []
    floor = HEIGHT - _BOTTOM
    for number, (amps, text) in enumerate(((found.far_a, "fault, far end"), (found.near_a, "fault, board"))):
        if amps is not None:
            x = axes.x(amps)
            shapes.append(Path(role="line fault", points=[(x, _TOP + 4), (x, floor)]))
            shapes.append(
                Text(
                    role="name fault-name",
                    at=(x - 5, _TOP + 16 + 15 * number),
                    text=f"{text} {write(amps / 1000, 3)} kA",
                    anchor="end",
                )
            )
    return shapes


def _names(axes: Axes, found: TimeCurrent, names: dict[str, str], pills: Iterable[Shape]) -> list[Shape]:
    """Each name beside its own line, at a height where the lines lie apart and no other name or pill stands."""
    shapes: list[Shape] = []
    room = Room([pill_box(one) for one in pills if isinstance(one, Handle)])
    spots: Sequence[tuple[str, Points, float]] = (
        ("overload", found.overload[1], 300.0),
        ("device", found.device[1], 200.0),
        ("damage", found.damage, 1.0),
        ("upstream", found.upstream, 30.0),
    )
    if found.start:
        first = found.start[0][0], max(found.start[0][1], 0.03)
        name = _name(axes, "start", names.get("start", "start"), first, -4.0)
        shapes.append(room.place([name]) or name)
    for key, points, seconds in spots:
        if points:
            near = sorted(points, key=lambda point, wanted=seconds: abs(math.log(point[1] / wanted)))  # type: ignore[misc]
            found_names = [_name(axes, key, names.get(key, key), point, 4.0) for point in near]
            shapes.append(room.place(found_names) or found_names[0])
    return shapes


def _name(axes: Axes, key: str, text: str, point: tuple[float, float], lower: float) -> Text:
    """To the left of its line where it would run out of the picture."""
    x, y = axes.x(point[0]), axes.y(point[1]) + lower
    out = x + 6 + LETTER * len(text) > WIDTH
    return Text(role=f"name {key}-name", at=(x - 6 if out else x + 6, y), text=text, anchor="end" if out else "start")


def _handles(axes: Axes, dial: Setting | None, rating: Setting | None, trip: Setting | None) -> list[Shape]:
    shapes: list[Shape] = []
    for key, setting in (("overload", dial), ("device", rating)):
        if setting is None:
            continue
        y = _RAILS[key]
        low, high = axes.least_a, axes.most_a
        x = axes.x(setting.value)
        stops = tuple(stop for stop in setting.stops if low <= stop <= high)
        shapes.append(Path(role="rail", points=[(_LEFT, y), (WIDTH - _RIGHT, y)]))
        shapes.append(Text(role="rail-name", at=(_LEFT - 6, y + 4), text=key, anchor="end"))
        shapes.append(Path(role="plumb", points=[(x, y + 12), (x, HEIGHT - _BOTTOM)]))
        shapes.append(_handle(setting, (x, y), "x", (axes.x(low), axes.x(high)), low, high, stops))
    if trip is not None and dial is not None:
        low, high = trip.stops[0], trip.stops[-1]
        at = (axes.x(trip.times * dial.value), axes.y(trip.seconds * trip.value))
        span = (axes.y(trip.seconds * low), axes.y(trip.seconds * high))
        shapes.append(_handle(trip, at, "y", span, low, high, trip.stops))
    return shapes


def _handle(
    setting: Setting,
    at: tuple[float, float],
    axis: str,
    span: tuple[float, float],
    low: float,
    high: float,
    stops: tuple[float, ...],
) -> Handle:
    return Handle(
        role="handle",
        at=at,
        text=setting.text,
        label=setting.label,
        field=setting.field,
        axis=axis,
        span=span,
        low=low,
        high=high,
        value=setting.value,
        step=setting.step,
        unit=setting.unit,
        logarithmic=True,
        stops=stops,
    )


def _said(found: TimeCurrent, names: dict[str, str]) -> str:
    parts = [f"{names[key]}" for key in ("overload", "device") if key in names]
    if found.stall is not None:
        parts.append(f"stall point {found.stall[0]:.0f} A, {write(found.stall[1], 3)} s")
    return f"Time against current: {', '.join(parts)}"
