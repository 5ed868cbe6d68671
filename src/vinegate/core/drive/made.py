"""What the drive's maker gives point by point: its amperes by carrier, its losses by frequency and current."""

from __future__ import annotations

import re
from itertools import pairwise
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.drive.quantities import CARRIER, LOSS
from vinegate.core.numbers import QuantityError, read_numbers
from vinegate.core.records import dataclass

_MOST: Final = 16


@dataclass(frozen=True, slots=True)
class CarrierPoints:
    """Amperes at rising carriers, Hz, and the text."""

    text: str
    points: tuple[tuple[float, float], ...]

    def amps_at(self, carrier_hz: float) -> float | None:
        """Between the points in proportion, below the first as there; None past the last: nothing is promised there.

        >>> read_carrier_points("4 kHz; 61 A | 8 kHz; 52 A").amps_at(6000)
        56.5
        """
        if carrier_hz > self.points[-1][0]:
            return None
        return _between(self.points, carrier_hz)

    @property
    def most_a(self) -> float:
        return max(amps for _, amps in self.points)


@dataclass(frozen=True, slots=True)
class LossPoints:
    """Watts by per cent of frequency and of torque current, as IEC 61800-9-2:2023 has drives stated; and the text."""

    text: str
    points: tuple[tuple[float, float, float], ...]

    def watts(self, frequency_pct: float, current_pct: float) -> float:
        """Along the current at each frequency stated, then between frequencies; the ends reach on unchanged.

        >>> made = read_loss_points("0; 50; 200 | 0; 100; 400 | 100; 50; 300 | 100; 100; 500")
        >>> made.watts(50, 75), made.watts(100, 25)
        (350.0, 200.0)
        """
        frequencies = sorted({point[0] for point in self.points})
        lines = [
            (hz, _along(sorted((amps, watts) for at, amps, watts in self.points if at == hz), current_pct))
            for hz in frequencies
        ]
        return _between(lines, frequency_pct)


def _along(line: list[tuple[float, float]], at: float) -> float:
    """Below the least current stated the line goes on as it ran, not below a quarter of its least."""
    if len(line) > 1 and at < line[0][0]:
        (x_0, y_0), (x_1, y_1) = line[:2]
        return max(y_0 + (y_1 - y_0) * (at - x_0) / (x_1 - x_0), 0.25 * y_0)
    return _between(line, at)


def _between(line: list[tuple[float, float]] | tuple[tuple[float, float], ...], at: float) -> float:
    below = line[0]
    for here in line:
        if at <= here[0]:
            span = here[0] - below[0]
            return here[1] if span == 0 else below[1] + (here[1] - below[1]) * (at - below[0]) / span
        below = here
    return below[1]


def read_carrier_points(text: str) -> CarrierPoints:
    """Rows of carrier and amperes. Raises QuantityError.

    >>> read_carrier_points("2; 61 A\\n8 kHz; 52").points
    ((2000.0, 61.0), (8000.0, 52.0))
    """
    rows = [_cells(line, 2, "a carrier and amperes, like 8 kHz; 52 A") for line in _lines(text)]
    points = tuple((CARRIER.read(carrier), q.CURRENT.read(amps)) for carrier, amps in rows)
    for (hertz, amps), (next_hz, next_a) in pairwise(points):
        if next_hz <= hertz:
            raise QuantityError("The carriers must rise from row to row.")
        if next_a > amps:
            raise QuantityError(f"{next_a:g} A at the higher carrier is more than {amps:g} A at the lower one.")
    return CarrierPoints(text, points)


def read_loss_points(text: str) -> LossPoints:
    """Rows of frequency and torque current, per cent, and watts. Raises QuantityError.

    >>> read_loss_points("90; 100; 1.9 kW").points
    ((90.0, 100.0, 1900.0),)
    """
    rows = [_cells(line, 3, "per cent of frequency, of torque current, and watts, like 90; 100; 1900")
            for line in _lines(text)]  # fmt: skip
    points = tuple((_percent(hertz), _percent(amps), LOSS.read(watts)) for hertz, amps, watts in rows)
    if len({point[:2] for point in points}) < len(points):
        raise QuantityError("One row for each frequency and current: two are alike.")
    return LossPoints(text, points)


def _lines(text: str) -> list[str]:
    lines = [line for line in re.split(r"[\r\n|]+", text.strip()) if line.strip()]
    if not lines:
        raise QuantityError("One row at least.")
    if len(lines) > _MOST:
        raise QuantityError(f"{len(lines)} rows are more than {_MOST}.")
    return lines


def _cells(line: str, count: int, wanted: str) -> list[str]:
    mark = r"[;\t]" if re.search(r"[;\t]", line) else r",\s"
    cells = [cell.strip() for cell in re.split(mark, line.strip())]
    if len(cells) != count or not all(cells):
        raise QuantityError(f"“{line.strip()}”: {wanted}.")
    return cells


def _percent(cell: str) -> float:
    readings = [value for value in read_numbers(cell.rstrip("% ")) if 0 <= value <= 150]
    if not readings:
        raise QuantityError(f"“{cell}” is outside 0 to 150 %.")
    return readings[0]
