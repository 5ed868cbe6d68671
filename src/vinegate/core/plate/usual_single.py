"""What single-phase machines usually give and draw at rest, by their kind: assumed, with the ends of each."""

from __future__ import annotations

from functools import cache

from vinegate.core.records import dataclass
from vinegate.core.tables import load


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualSingle:
    """Torques and amperes per unit of rated ones; the band of torque from least to most."""

    at_rest: float
    at_rest_band: tuple[float, float]
    breakdown: float
    drawn_least: float
    why: str


@cache
def usual_single(kind: str | None) -> UsualSingle | None:
    """Of this kind of single-phase machine; None of any other.

    >>> usual_single("permanent-split").drawn_least, usual_single("universal")
    (3.0, None)
    """
    row = load("single_phase").find(kind=kind or "")
    if row is None:
        return None
    return UsualSingle(
        at_rest=float(row["at_rest"]),
        at_rest_band=(float(row["at_rest_low"]), float(row["at_rest_high"])),
        breakdown=float(row["breakdown"]),
        drawn_least=float(row["drawn_low"]),
        why=row["why"],
    )
