"""Another device's time-current curve, as pasted or loaded: amperes and seconds."""

from __future__ import annotations

import itertools
import re
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.heads import columns, lines_of, unit_of
from vinegate.core.numbers import QuantityError, read_numbers
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
    rows, times = [], [1.0, 1.0]
    for number, line in enumerate(lines_of(text), start=1):
        cells = _cells(line)
        if number == 1 and cells and not cells[0][0].isdigit():
            units = [unit_of(cell, known, of) for cell, (of, known) in zip(columns(line), _HEADS, strict=False)]
            times = [_TIMES.get(unit, 1.0) for unit in units] if len(units) == len(_HEADS) else times
            continue
        if len(cells) != 2:
            raise QuantityError(f"Row {number} of the curve has {len(cells)} values: amperes and seconds are two.")
        try:
            rows.append((read_numbers(cells[0])[-1] * times[0], read_numbers(cells[1])[-1] * times[1]))
        except QuantityError as error:
            raise QuantityError(f"Row {number} of the curve: {error}") from None
    if len(rows) < LEAST_POINTS:
        raise QuantityError(f"{len(rows)} rows are too few for a curve: {LEAST_POINTS} at least.")
    if min(min(row) for row in rows) <= 0:
        raise QuantityError("Amperes and seconds of the curve are above zero.")
    if any(later[0] <= earlier[0] or later[1] > earlier[1] for earlier, later in itertools.pairwise(rows)):
        raise QuantityError("The curve's amperes rise and its seconds fall from row to row.")
    return DeviceCurve(text, tuple(row[0] for row in rows), tuple(row[1] for row in rows))


def _cells(line: str) -> list[str]:
    """Separated by semicolon or tab, else by white space, else by comma."""
    for pattern in (r"[;\t]", r",?\s+", r","):
        cells = [cell.strip() for cell in re.split(pattern, line.strip()) if cell.strip()]
        if len(cells) > 1:
            return cells
    return cells
