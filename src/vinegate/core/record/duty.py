"""Starts that were recorded, counted against what the circuit is planned for."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.grade import Gate, informs, rule, unknown

_HOUR_S: Final = 3600.0
_KEY, _NAME = "record.starts", "Starts an hour"
_SOURCE: Final = "NEMA MG 1:2021 12.54: two in succession from ambient, one from running heat; else its starts an hour"


def most_in_an_hour(taken_s: Sequence[float]) -> int:
    """The most that lie within any sixty minutes, of times in s.

    >>> most_in_an_hour([60.0 * minute for minute in (0, 50, 70, 540)])
    2
    """
    ordered = sorted(taken_s)
    most, first = 0, 0
    for last, at in enumerate(ordered):
        while at - ordered[first] >= _HOUR_S:
            first += 1
        most = max(most, last - first + 1)
    return most


def starts_gate(taken_s: Sequence[float], per_hour: float | None) -> Gate | None:
    """None where none was recorded. What was recorded is at least what was done: that it passes proves nothing of more.

    It informs: a start that was tried too often is past; the next one is warned of.
    """
    if not taken_s:
        return None
    most = most_in_an_hour(taken_s)
    if per_hour is None:
        return informs(unknown(_KEY, _NAME, ("how many starts an hour it is planned for",)))
    count = f"{most} start{'s' if most != 1 else ''} recorded within an hour"
    planned = f"planned for {per_hour:g}"
    return informs(
        rule(
            _KEY,
            _NAME,
            most <= max(per_hour, 1.0),
            f"{count}, {planned}.",
            _SOURCE,
            remedy="Let it stand until it is cold, by its maker's word, before it is started again.",
            value=float(most),
            limit=per_hour,
        )
    )
