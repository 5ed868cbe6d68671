"""Ratings that devices are made in, and the next one up or down."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache

from vinegate.core.tables import load


@cache
def ratings_in(kind: str) -> tuple[float, ...]:
    """Ascending ratings of a kind in the table, A: `iec`, `mcb` or `switch_nec`.

    >>> ratings_in("switch_nec")[:3]
    (30.0, 60.0, 100.0)
    """
    return tuple(float(row["amperes"]) for row in load("device_rating").rows if row["kind"] == kind)


def standard_ratings(*, fuse: bool) -> tuple[float, ...]:
    """NFPA 70 240.6(A), ascending; the further ratings of fuses only for fuses (601 A aside).

    >>> [rating for rating in standard_ratings(fuse=False) if rating < 35]
    [10.0, 15.0, 20.0, 25.0, 30.0]
    """
    rows = load("standard_rating_nec").rows
    return tuple(
        float(row["amperes"]) for row in rows if row["fuse_only"] == "no" or (fuse and row["amperes"] != "601")
    )


def next_up(value: float, ratings: Sequence[float]) -> float:
    """The least standard rating not below; the value itself above the largest.

    >>> next_up(168, (150, 175, 200)), next_up(175, (150, 175, 200))
    (175, 175)
    """
    return next((rating for rating in ratings if rating >= value - 1e-9), value)


def next_down(value: float, ratings: Sequence[float]) -> float:
    """The largest standard rating not above; the least one below the smallest."""
    return max((rating for rating in ratings if rating <= value + 1e-9), default=ratings[0])
