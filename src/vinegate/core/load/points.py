"""A load's torque by points: speed in percent of full speed, torque in percent of the torque asked for."""

from __future__ import annotations

import itertools
import re
from typing import Final

from vinegate.core.heads import PERCENT, columns, unit_of
from vinegate.core.numbers import QuantityError, read_numbers
from vinegate.core.records import dataclass

_HEADS: Final = (
    ("the load's speed", f"{PERCENT[1]}|speed|n|load"),
    ("the load's torque", f"{PERCENT[1]}|torque|t|m|load"),
)
_LEAST_TOP, _MOST_TOP = 0.5, 2.5
"""Of full speed, between which the last point stands; assumed: else another unit was meant."""
_LEAST_PU: Final = 0.05
"""Of the torque asked, that a load takes somewhere; assumed likewise."""


@dataclass(frozen=True, slots=True)
class LoadPoints:
    """Rising speeds and torques, per unit, as read."""

    text: str
    speed_pu: tuple[float, ...]
    torque_pu: tuple[float, ...]


def read_points(text: str) -> LoadPoints:
    """Read two columns: speed and torque, both in percent; a head line is passed over where it names no other unit.

    Raises QuantityError.

    >>> read_points("0,30\\n50,40\\n100,100").torque_pu
    (0.3, 0.4, 1.0)
    """
    rows = []
    for number, line in enumerate(re.split(r"[\r\n|]+", text.strip()), start=1):
        cells = [cell for cell in re.split(r"\s*[;\t,]\s*|\s+", line.strip().replace("%", "")) if cell]
        if number == 1 and cells and not re.match(r"[-+−\d.]", cells[0]):
            for head, (of, words) in zip(columns(line), _HEADS, strict=False):
                unit_of(head, (("%", words),), of)
            continue
        if len(cells) != 2:
            raise QuantityError(f"Row {number} of the points has {len(cells)} values: speed and torque are two.")
        try:
            rows.append((read_numbers(cells[0])[-1] / 100, read_numbers(cells[1])[-1] / 100))
        except QuantityError as error:
            raise QuantityError(f"Row {number} of the points: {error}") from None
    if len(rows) < 2:
        raise QuantityError("Two points at least: speed and torque in percent, a row each.")
    if any(later[0] <= earlier[0] for earlier, later in itertools.pairwise(rows)):
        raise QuantityError("The points' speeds do not rise from row to row.")
    if not _LEAST_TOP <= rows[-1][0] <= _MOST_TOP:
        raise QuantityError(
            f"The last point stands at {100 * rows[-1][0]:g} % of full speed: speeds are in percent of it."
        )
    if any(torque < 0 or speed < 0 for speed, torque in rows):
        raise QuantityError("Speed and torque of the points are not below zero.")
    if 0 < max(torque for _, torque in rows) < _LEAST_PU:
        most = 100 * max(torque for _, torque in rows)
        raise QuantityError(f"At most {most:g} % of the torque asked: torques are in percent of it.")
    return LoadPoints(text, tuple(speed for speed, _ in rows), tuple(torque for _, torque in rows))
