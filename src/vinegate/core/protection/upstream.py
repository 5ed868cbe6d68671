"""Another device's time-current curve, as pasted or loaded: amperes and seconds."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.heads import cells_of, columns, lines_of, unit_of
from vinegate.core.numbers import QuantityError, read_rows
from vinegate.core.records import dataclass

LEAST_POINTS: Final = 3
_HEADS: Final = (
    ("the curve's current", (("A", "a|amps?|amperes?|current|i"), ("kA", "ka"))),
    ("the curve's time", (("s", "s|secs?|seconds?|time|t"), ("ms", "ms"), ("min", "min|minutes?"))),
)
_TIMES: Final = {"kA": 1000.0, "ms": 1e-3, "min": 60.0}


@dataclass(frozen=True, slots=True)
class DeviceCurve:
    """Rising amperes and falling seconds, as read."""

    text: str
    amperes: tuple[float, ...]
    seconds: tuple[float, ...]

    def at(self, amperes: Array) -> Array:
        """Seconds, straight between points on logarithmic axes; infinite below the first, the last's time above."""
        time = np.exp(np.interp(np.log(amperes), np.log(self.amperes), np.log(self.seconds)))
        return np.asarray(np.where(amperes < self.amperes[0], np.inf, time))


def read_device_curve(text: str) -> DeviceCurve:
    """Read two columns, in the units of a head line, else amperes and seconds. Raises QuantityError.

    >>> read_device_curve("A; s\\n400; 1000\\n1000; 20\\n4000; 0,1").seconds
    (1000.0, 20.0, 0.1)
    """
    lines = [(line, cells_of(line)) for line in lines_of(text)]
    headed = bool(lines and lines[0][1]) and not lines[0][1][0][0].isdigit()
    at, times = _in_columns(columns(lines[0][0])) if headed else ((0, 1), (1.0, 1.0))
    cells = [row for _, row in lines[headed:]]
    for number, row in enumerate(cells, start=1 + headed):
        if len(row) != len(at):
            raise QuantityError(f"Row {number} of the curve has {len(row)} values: amperes and seconds are two.")
    values = read_rows(cells, "the curve", first=1 + headed)
    rows = [(row[at[0]] * times[0], row[at[1]] * times[1]) for row in values]
    if rows and rows[0][0] > rows[-1][0]:
        rows.reverse()
    if len(rows) < LEAST_POINTS:
        raise QuantityError(f"{len(rows)} rows are too few for a curve: {LEAST_POINTS} at least.")
    if min(min(row) for row in rows) <= 0:
        raise QuantityError("Amperes and seconds of the curve are above zero.")
    if any(later[0] <= earlier[0] or later[1] > earlier[1] for earlier, later in itertools.pairwise(rows)):
        raise QuantityError("The curve's amperes rise and its seconds fall from row to row.")
    return DeviceCurve(text, tuple(row[0] for row in rows), tuple(row[1] for row in rows))


def _in_columns(heads: list[str]) -> tuple[tuple[int, int], tuple[float, float]]:
    """Where amperes and seconds stand, and by what they are written: time may be first."""
    if len(heads) != len(_HEADS):
        return (0, 1), (1.0, 1.0)
    try:
        return (1, 0), _times([heads[1], heads[0]])
    except QuantityError:
        return (0, 1), _times(heads)


def _times(heads: Sequence[str]) -> tuple[float, float]:
    """Amperes and seconds of what is written below a head of amperes and one of seconds."""
    current, time = (unit_of(head, known, of) for head, (of, known) in zip(heads, _HEADS, strict=True))
    return _TIMES.get(current, 1.0), _TIMES.get(time, 1.0)
