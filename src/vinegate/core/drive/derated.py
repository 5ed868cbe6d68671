"""What hangs on the drive's overload amperes, over all that may be left of its rating where it stands."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

from vinegate.core.drive import duty
from vinegate.core.drive.amperes import breakaway_gates
from vinegate.core.drive.duty import Point
from vinegate.core.drive.envelope import Laden
from vinegate.core.drive.ramps import Path, Ramps, overload_gates, path_of, ramped, up_gate
from vinegate.core.drive.rating import Rating, limit_a, settled
from vinegate.core.grade import Gate, Verdict, resting
from vinegate.core.records import replace
from vinegate.core.turning import point

_ROUNDED: Final = 1e-9
HANG: Final = ("drive.torque", "drive.breakaway", "drive.overload", "drive.ramp_up")


def over_what_is_left(
    gates: Sequence[Gate], supplied: Laden, rating: Rating, points: tuple[Point, ...], ramps: Ramps
) -> list[Gate]:
    """The same gates; those that turn with what is left of the rating are to check, with what would settle them.

    One that is to check already keeps the fact that it names.
    """
    left = rating.left
    if not left.wide or rating.plate_a is None:
        return list(gates)
    ends = [verdicts_with(supplied, _with(rating, share), points, ramps) for share in (left.low, left.high)]
    return [_over(gate, rating, *(end.get(gate.key, gate.verdict) for end in ends)) for gate in gates]


def _with(rating: Rating, share: float) -> Rating:
    return replace(rating, rated_a=(rating.plate_a or 0.0) * share, left=point(share))


def verdicts_with(supplied: Laden, rating: Rating, points: tuple[Point, ...], ramps: Ramps) -> dict[str, Verdict]:
    """With so much of its rating left."""
    there = replace(supplied, limit_a=limit_a(supplied.need, rating))
    rows = duty.rows_of(there, points)
    path: Path = path_of(there, rows[0].point.rpm)
    again = ramped(there, path, rating, ramps)
    found = (
        *duty.worst_of_each(rows),
        *breakaway_gates(there),
        *overload_gates(there, path, rating, again),
        up_gate(there, path, again),
    )
    return {gate.key: gate.verdict for gate in found if gate.key in HANG}


def _over(gate: Gate, rating: Rating, least: Verdict, most: Verdict) -> Gate:
    if gate.key not in HANG or gate.verdict is Verdict.CHECK or least is most is gate.verdict:
        return gate
    enough = rating.left.high - _ROUNDED if most is Verdict.PASSES else math.inf  # only both ends were tried
    return settled(resting(gate, rating.left.label), rating, lambda share: share - enough)
