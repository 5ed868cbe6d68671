"""A machine's readings over the years as curves: insulation, running current, run-up time, vibration."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime
from typing import Final

from vinegate.core.measured import AtLeast
from vinegate.drawing.plot import Axes, Line, plot, up_to
from vinegate.drawing.scene import Scene

_SHOWN: Final = (
    ("Insulation after one minute, MΩ", "record_insulation.r1_ohm", 1e-6),
    ("Running amperes, phase 1", "record_running.i1_a", 1.0),
    ("Time to speed, s", "record_start.time_s", 1.0),
    ("Vibration, drive end across, mm/s", "record_condition.vibration_h_ms", 1000.0),
)


def histories(points: Sequence[tuple[datetime, Mapping[str, float]]]) -> Iterator[tuple[str, Scene]]:
    """A drawing for each quantity with two readings or more; time in days from the first."""
    for title, key, times in _SHOWN:
        found = [(at, values[key] * times, isinstance(values[key], AtLeast)) for at, values in points if key in values]
        if len(found) < 2:
            continue
        first = found[0][0]
        days = [(at - first).total_seconds() / 86400 for at, _, _ in found]
        values = [value for _, value, _ in found]
        if days[-1] <= 0 or max(values) <= 0:
            continue
        axes = Axes(most_x=days[-1], most_y=up_to(max(values)), x_name="days", y_name="", height=150)
        line = Line(role="used", name="", xs=days, ys=values)
        dots, least = [
            [(day, value) for day, (_, value, over) in zip(days, found, strict=True) if over is bound]
            for bound in (False, True)
        ]
        said = ", ▲ at least so much" if least else ""
        yield f"{title}, since {first:%Y-%m-%d}{said}", plot(axes, [line], title, dots=dots, least=least)
