"""Under the start strip, on its time axis: volts of every board, and heats with the overload's state."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from vinegate.core.numbers import write
from vinegate.core.start.compare import Comparison
from vinegate.core.start.detail import Detail, Overload
from vinegate.drawing.scene import Path, Scene, Shape, Text
from vinegate.drawing.start_strip import WIDTH, Axes, axes_for, grid_step, round_up

_LEFT, _RIGHT = 52, 64
_TALL, _GAP, _TOP, _FOOT = 132, 26, 18, 30
_APART = 13
_TRIPS_PCT = 100.0
_NAME_ROOM = 165
_LEAST_SPAN = 4.0  # percent of volts: a lane is never finer than this


@dataclass(frozen=True, slots=True, kw_only=True)
class Lane:
    """A band of the drawing between two values, from `top` downwards."""

    top: float
    low: float
    high: float
    tall: float = _TALL

    def y(self, value: float) -> float:
        share = (value - self.low) / (self.high - self.low)
        return self.top + self.tall * (1 - min(max(share, 0.0), 1.0))

    def ys(self, values: Iterable[float]) -> list[float]:
        """Of many at once, to a tenth."""
        low, high, foot = self.low, self.high, self.top + self.tall
        scale = self.tall / (high - low)
        return [round(foot - scale * ((value if value > low else low) - low if value < high else high - low), 1)
                for value in values]  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class _Curve:
    """A line with its name."""

    name: str
    role: str
    lane: Lane
    values: Sequence[float]


def lanes(found: Comparison, *, dip_limit_pct: float | None) -> Scene | None:
    """Both lanes of the way in use; None where it was not simulated."""
    detail = found.detail
    if detail is None:
        return None
    axes = axes_for(found)
    volts, limit_pct = _volts_lane(detail, dip_limit_pct)
    heat, share = _heat_lanes(detail, volts.top + _TALL + _GAP)
    boards = [
        _Curve(name=name, role=f"board b{number % 5}", lane=volts, values=line)
        for number, (name, line) in enumerate(zip(found.buses, detail.boards_pct, strict=True))
    ]
    shapes = [
        *frame(volts, "Volts, % of nominal"),
        *frame(heat, "Heat, kJ", "Of its limit, %", right=share),
        *seconds_below(axes, _TOP, heat.top + _TALL),
    ]
    if limit_pct is not None and limit_pct > volts.low:
        shapes += _limit(axes, volts, limit_pct, f"dip limit at {found.buses[0]}")
    if share.high > _TRIPS_PCT:
        shapes += _limit(axes, share, _TRIPS_PCT, "limit: damage, or trip")
    shapes += _drawn(axes, detail, boards) + _drawn(axes, detail, _heats(detail, heat, share))
    tall = heat.top + _TALL + _FOOT
    return Scene(size=(WIDTH, tall), shapes=shapes, title=_said(found, detail))


def _volts_lane(detail: Detail, dip_limit_pct: float | None) -> tuple[Lane, float | None]:
    """Wide enough for every board and the limit of the main one; the limit in percent of nominal."""
    least = min(min(line) for line in detail.boards_pct)
    most = max(*detail.before_pct, *(max(line) for line in detail.boards_pct))
    limit = None if dip_limit_pct is None else detail.before_pct[0] * (1 - dip_limit_pct / 100)
    if limit is not None and limit > least - 15:
        least = min(least, limit)
    step = grid_step(max(most - least, _LEAST_SPAN), 4)
    low = step * ((least - 0.08 * (most - least)) // step)
    return Lane(top=_TOP, low=max(low, 0.0), high=most + max(0.06 * (most - low), 0.3)), limit


def _heat_lanes(detail: Detail, top: float) -> tuple[Lane, Lane]:
    """Kilojoules, and percent of what is borne, in the same band."""
    joules = max(*detail.rotor_kj, *detail.stator_kj, 0.01)
    worst = max(*_held(detail)[-1].heat_pct, *(detail.thermal_pct or ()), 1.0)
    return (
        Lane(top=top, low=0.0, high=round_up(joules * 1.12)),
        Lane(top=top, low=0.0, high=round_up(worst * 1.4)),
    )


def _held(detail: Detail) -> Sequence[Overload]:
    """The overloads up to the first class that holds: the slower ones hold, too."""
    for number, one in enumerate(detail.overload, start=1):
        if max(one.heat_pct) <= _TRIPS_PCT:
            return detail.overload[:number]
    return detail.overload


def _heats(detail: Detail, heat: Lane, share: Lane) -> list[_Curve]:
    curves = [
        _Curve(name="rotor, kJ", role="rotor", lane=heat, values=detail.rotor_kj),
        _Curve(name="stator, kJ", role="stator", lane=heat, values=detail.stator_kj),
    ]
    if detail.thermal_pct is not None:
        curves.append(_Curve(name="winding, of what it bears", role="thermal", lane=share, values=detail.thermal_pct))
    curves += [
        _Curve(name=f"overload, class {one.trip_class}", role="overload", lane=share, values=one.heat_pct)
        for one in _held(detail)
    ]
    return curves


def frame(
    lane: Lane, name: str, right_name: str = "", right: Lane | None = None, right_unit: str = " %"
) -> list[Shape]:
    """A lane's name, lines and figures; on the right those of another scale in the same band."""
    shapes: list[Shape] = [Text(role="lane-name", at=(_LEFT, lane.top - 6), text=name, anchor="start")]
    value, step = lane.low, grid_step(lane.high - lane.low, 4)
    while value <= lane.high * 1.0001:
        y = lane.y(value)
        shapes.append(Path(role="grid", points=[(_LEFT, y), (WIDTH - _RIGHT, y)]))
        shapes.append(Text(role="tick", at=(_LEFT - 7, y + 4), text=write(value), anchor="end"))
        value += step
    if right is not None:
        shapes.append(Text(role="lane-name", at=(WIDTH - _RIGHT, lane.top - 6), text=right_name, anchor="end"))
        value, step = 0.0, grid_step(right.high, 4)
        while value <= right.high * 1.0001:
            at = (WIDTH - _RIGHT + 7, right.y(value) + 4)
            shapes.append(Text(role="tick", at=at, text=f"{write(value)}{right_unit}", anchor="start"))
            value += step
    return shapes


def seconds_below(axes: Axes, top: float, bottom: float) -> list[Shape]:
    """Lines and figures of the time axis."""
    shapes: list[Shape] = []
    seconds, step = 0.0, grid_step(axes.seconds, 8)
    while seconds <= axes.seconds * 1.001:
        x = axes.x(seconds)
        shapes.append(Path(role="grid", points=[(x, top), (x, bottom)]))
        shapes.append(Text(role="tick", at=(x, bottom + 18), text=f"{write(seconds)} s"))
        seconds += step
    return shapes


def _limit(axes: Axes, lane: Lane, value: float, text: str) -> list[Shape]:
    y = lane.y(value)
    return [
        Path(role="limit", points=[(_LEFT, y), (WIDTH - _RIGHT, y)]),
        Text(role="limit-name", at=(WIDTH - _RIGHT - 6, y - 5), text=text, anchor="end"),
    ]


def _drawn(axes: Axes, detail: Detail, curves: Sequence[_Curve]) -> list[Shape]:
    """Lines, and their names kept apart: behind their ends where there is room, else before them."""
    shapes: list[Shape] = []
    spots: list[tuple[float, _Curve]] = []
    for curve in curves:
        points = [
            (round(axes.x(t), 1), round(curve.lane.y(value), 1))
            for t, value in zip(detail.time_s, curve.values, strict=True)
            if t <= axes.seconds
        ]
        shapes.append(Path(role=curve.role, points=points))
        spots.append((points[-1][1] + 4, curve))
    spots.sort(key=lambda spot: spot[0])
    ends = axes.x(min(detail.time_s[-1], axes.seconds))
    behind = ends < WIDTH - _RIGHT - _NAME_ROOM
    lane = curves[0].lane
    room = lane.top + _TALL - 3 - _APART * (len(spots) - 1)
    last = lane.top - 3
    for number, (y, curve) in enumerate(spots):
        last = max(last + _APART, min(y, room + _APART * number))
        at = (ends + (8 if behind else -8), last)
        anchor = "start" if behind else "end"
        shapes.append(Text(role=f"{curve.role} curve-name", at=at, text=curve.name, anchor=anchor))
    return shapes


def _said(found: Comparison, detail: Detail) -> str:
    lowest = ", ".join(
        f"{name} lowest {min(line):.1f} %" for name, line in zip(found.buses, detail.boards_pct, strict=True)
    )
    return f"Volts of every board and heat against time: {lowest}; rotor {detail.rotor_kj[-1]:.0f} kJ"
