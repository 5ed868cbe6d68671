"""What hangs on the amperes of a drive that is not chosen yet: to check where a larger one does, and how large."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import cache, partial
from typing import Final

from vinegate.core.drive.amperes import LEAST_MOTOR_PU
from vinegate.core.drive.derated import HANG, verdicts_with
from vinegate.core.drive.duty import Point
from vinegate.core.drive.envelope import Laden
from vinegate.core.drive.ramps import Ramps
from vinegate.core.drive.rating import Rating
from vinegate.core.grade import Gate, Verdict, resting, settled_by, worst_of
from vinegate.core.numbers import write_up
from vinegate.core.records import replace
from vinegate.core.turning import Turns, point

_CLOSE: Final = 1.005
_RAMP: Final = ("drive.ramp_up", "drive.overload")
"""Said as one of a drive that is to be chosen: both ask for the amperes of its ramp."""


def of_one_to_choose(
    gates: Sequence[Gate], supplied: Laden, rating: Rating, points: tuple[Point, ...], ramps: Ramps
) -> list[Gate]:
    """The same gates; what fails only as no more than the motor's amperes are taken is to check.

    What passes with these passes with any drive that carries the motor.
    """
    if not supplied.limit_assumed:
        return list(gates)
    least_a = supplied.need.motors * supplied.need.plate_a

    @cache
    def found(amps: float) -> dict[str, Verdict]:
        drive = replace(rating, plate_a=amps, rated_a=amps, left=point(1.0))
        return verdicts_with(supplied, drive, points, ramps)

    def with_amps(key: str, amps: float) -> Verdict:
        asked = _RAMP if key in _RAMP else (key,)
        return worst_of(verdict for one, verdict in found(amps).items() if one in asked)

    return [_to_choose(gate, rating, least_a, partial(with_amps, gate.key)) for gate in gates]


def _to_choose(gate: Gate, rating: Rating, least_a: float, with_amps: Callable[[float], Verdict]) -> Gate:
    """To check, where a drive that still controls and protects the motor does: with the least that passes."""
    if gate.key not in HANG or gate.verdict is not Verdict.FAILS:
        return gate
    low, high = least_a, least_a / LEAST_MOTOR_PU
    best = with_amps(high)
    if best is Verdict.FAILS:
        return gate
    there = resting(gate, "a drive of the motor's own amperes")
    if best is not Verdict.PASSES:
        return there
    while high > _CLOSE * low:
        middle = (low * high) ** 0.5
        low, high = (low, middle) if with_amps(middle) is Verdict.PASSES else (middle, high)
    amps, duty = write_up(high / rating.left.low), "heavy" if rating.heavy else "normal"
    settles = Turns(path=f"drive.{'heavy' if rating.heavy else 'rated'}", label=f"the drive's rating at {duty} duty",
                    passes=f"{amps} A or more", passes_as=f"{amps} A")  # fmt: skip
    return settled_by(there, settles)
