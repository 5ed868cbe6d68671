"""A load's torque by points: speed in percent of full speed or rpm, torque in percent of that asked or N·m, lb-ft."""

from __future__ import annotations

import itertools
import re
from typing import Final

import numpy as np

from vinegate.core.heads import PERCENT, RPM, TIMES, TORQUES, cells_of, columns, lines_of, unit_of
from vinegate.core.numbers import QuantityError, read_rows
from vinegate.core.records import dataclass

_HEADS: Final = (
    ("the load's speed", ((PERCENT[0], f"{PERCENT[1]}|speed|n|load"), RPM)),
    ("the load's torque", ((PERCENT[0], f"{PERCENT[1]}|torque|t|m|load"), *TORQUES)),
)
_LEAST_TOP, _MOST_TOP = 0.5, 2.5
"""Of full speed, between which the last point stands; assumed: else another unit was meant."""
_LEAST_PU: Final = 0.05
"""Of the torque asked, that a load takes somewhere; assumed likewise."""


@dataclass(frozen=True, slots=True)
class LoadPoints:
    """Rising speeds and torques, of full speed and of the torque there."""

    speed_pu: tuple[float, ...]
    torque_pu: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class WrittenPoints:
    """Rising speeds and torques as read: per unit, or where their head says so in rpm and N·m at the load's shaft."""

    text: str
    speeds: tuple[float, ...]
    torques: tuple[float, ...]
    in_rpm: bool = False
    in_nm: bool = False

    def top_pu(self, full_rpm: float) -> float:
        """The last point's speed, of full speed."""
        return self.speeds[-1] / full_rpm if self.in_rpm else self.speeds[-1]

    def full_nm(self, full_rpm: float) -> float | None:
        """Torque at full speed, N·m at the load's shaft; None where torques are per unit."""
        at = full_rpm if self.in_rpm else 1.0
        return float(np.interp(at, self.speeds, self.torques)) if self.in_nm else None

    def per_unit(self, full_rpm: float) -> LoadPoints | None:
        """Of full speed of the load's shaft, rpm; None where they end far from it, or ask nothing there.

        >>> WrittenPoints("", (0.0, 1000.0), (0.0, 50.0), in_rpm=True, in_nm=True).per_unit(500)
        LoadPoints(speed_pu=(0.0, 2.0), torque_pu=(0.0, 2.0))
        """
        full_nm = self.full_nm(full_rpm)
        if not _LEAST_TOP <= self.top_pu(full_rpm) <= _MOST_TOP or full_nm == 0:
            return None
        speed, torque = full_rpm if self.in_rpm else 1.0, full_nm or 1.0
        return LoadPoints(tuple(one / speed for one in self.speeds), tuple(one / torque for one in self.torques))


def read_points(text: str) -> WrittenPoints:
    """Read two columns: speed and torque, both in percent where no head names another unit. Raises QuantityError.

    >>> read_points("0,30\\n50,40\\n100,100").torques
    (0.3, 0.4, 1.0)
    """
    units, lines = [PERCENT[0], PERCENT[0]], lines_of(text)
    cells = [cells_of(line.replace("%", "")) for line in lines]
    headed = bool(cells[0]) and not re.match(r"[-+−\d.]", cells[0][0])
    if headed:
        named = list(zip(columns(lines[0]), _HEADS, strict=False))
        units = [unit_of(head, known, of) for head, (of, known) in named] + units[len(named) :]
    for number, row in enumerate(cells[headed:], start=1 + headed):
        if len(row) != len(units):
            raise QuantityError(f"Row {number} of the points has {len(row)} values: speed and torque are two.")
    rows = [(speed, torque) for speed, torque in read_rows(cells[headed:], "the points", first=1 + headed)]
    return _checked(text, rows[::-1] if rows and rows[0] > rows[-1] else rows, units)


def _checked(text: str, rows: list[tuple[float, float]], units: list[str]) -> WrittenPoints:
    if len(rows) < 2:
        raise QuantityError("Two points at least: speed and torque, a row each.")
    if any(later[0] <= earlier[0] for earlier, later in itertools.pairwise(rows)):
        raise QuantityError("The points' speeds do not rise from row to row.")
    if any(torque < 0 or speed < 0 for speed, torque in rows):
        raise QuantityError("Speed and torque of the points are not below zero.")
    most = max(torque for _, torque in rows)
    in_rpm, in_nm = (unit != PERCENT[0] for unit in units)
    if not in_rpm and not _LEAST_TOP <= rows[-1][0] / 100 <= _MOST_TOP:
        raise QuantityError(
            f"The last point stands at {rows[-1][0]:g} % of full speed: without a head that names rpm, speeds are in "
            "percent of it."
        )
    if not in_nm and 0 < most / 100 < _LEAST_PU:
        raise QuantityError(f"At most {most:g} % of the torque asked: torques are in percent of it.")
    times = [1.0 if of_its_own else 0.01 for of_its_own in (in_rpm, in_nm)]
    return WrittenPoints(
        text,
        tuple(speed * times[0] for speed, _ in rows),
        tuple(torque * times[1] * TIMES.get(units[1], 1.0) for _, torque in rows),
        in_rpm=in_rpm,
        in_nm=in_nm,
    )
