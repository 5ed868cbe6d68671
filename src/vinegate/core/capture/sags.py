"""Sags in a capture as power quality counts them: rms against the declared volts, by how deep and how long."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.capture.process import Course
from vinegate.core.numbers import write
from vinegate.core.records import dataclass

SOURCE: Final = "IEEE 1159:2019 table 2; IEC 61000-4-30:2015 5.4"
_BEGINS, _HYSTERESIS, _GONE = 0.9, 0.02, 0.1
_CYCLES: Final = 30


@dataclass(frozen=True, slots=True, kw_only=True)
class Sag:
    """One event: `left_pu` of the declared volts at its deepest; `ends` is whether it is over in the capture."""

    lasts_s: float
    left_pu: float
    kind: str
    ends: bool

    def text(self, declared_v: float) -> str:
        """As it is said beside the start."""
        for_s = f"{write(self.lasts_s, 3)} s{'' if self.ends else ' and more'}"
        name = "Interruption" if self.left_pu < _GONE else "Sag"
        left = f"{write(self.left_pu * declared_v, 3)} V left, {write(100 * self.left_pu, 3)} % of {declared_v:g} V"
        return f"{name}, {self.kind}: {left}, below 90 % for {for_s} ({SOURCE})."


def sags(course: Course, declared_v: float) -> tuple[Sag, ...]:
    """Every one: it begins where any phase falls below 90 %, and ends where all are 2 % above that.

    Shorter than half a cycle it is no sag. Source: as `SOURCE`.
    """
    if not course.volts or declared_v <= 0:
        return ()
    least = np.min(np.stack(list(course.volts.values())), axis=0) / declared_v
    time, hertz = course.time_s, course.hertz or 50.0
    found, begun = [], None
    for place, share in enumerate(least):
        if begun is None and share < _BEGINS:
            begun = place
        elif begun is not None and share >= _BEGINS + _HYSTERESIS:
            found.append((begun, place))
            begun = None
    if begun is not None:
        found.append((begun, least.size))
    events = []
    for first, end in found:
        over = end < least.size
        lasts = float(time[end if over else -1] - time[first])
        if lasts > 0.49 / hertz:
            left = float(np.min(least[first:end]))
            kind = _kind(lasts, hertz, left)
            events.append(Sag(lasts_s=lasts, left_pu=left, kind=kind, ends=over))
    return tuple(events)


def _kind(lasts_s: float, hertz: float, left_pu: float) -> str:
    """By its length: to 30 cycles, to 3 s, to a minute, and beyond; an interruption has no first of them.

    >>> _kind(0.2, 50, 0.6), _kind(0.2, 50, 0.05), _kind(90, 50, 0.6), _kind(90, 50, 0.05)
    ('instantaneous', 'momentary', 'sustained under-voltage', 'sustained')
    """
    gone = left_pu < _GONE
    ends = (*(() if gone else ((_CYCLES / hertz, "instantaneous"),)), (3.0, "momentary"), (60.0, "temporary"))
    longest = "sustained" if gone else "sustained under-voltage"
    return next((name for most, name in ends if lasts_s <= most), longest)
