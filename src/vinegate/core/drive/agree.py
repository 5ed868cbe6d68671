"""Facts of a drive that cannot stand side by side."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, check, ordered
from vinegate.core.numbers import write
from vinegate.core.turning import Turns


def agree_gates(need: Need, slowest_rpm: float, fastest_rpm: float) -> tuple[Gate, ...]:
    """The greatest speed is not below the least, nor the normal rating below the heavy one, of the same drive; and
    every operating point lies between the speeds it is set to.
    """
    facts, slow, fast = need.facts, need.least_rpm, need.most_rpm
    least, most, heavy, normal = (write(value or 0.0, 4) for value in (slow, fast, facts.heavy_a, facts.rated_a))
    return (
        *ordered(
            "drive.speeds_agree", "Least and greatest speed", slow, fast, unit="r/min",
            sentence=f"Least {least}, greatest {most} r/min.", source="read wrongly", remedy="Exchange them.",
        ),
        *ordered(
            "drive.ratings_agree", "Normal and heavy rating", facts.heavy_a, facts.rated_a, unit="A",
            sentence=f"Heavy {heavy} A, normal {normal} A: a heavier overload leaves fewer amperes for ever.",
            source="IEC 61800-2:2021, ratings by overload", remedy="Exchange them.",
        ),
        *ordered(
            "drive.points_below", "Points up to the greatest speed", fastest_rpm / _ROUNDED, fast,
            unit="r/min", sentence=f"Its fastest point is {write(fastest_rpm, 4)} r/min, the greatest speed {most}.",
            source="read wrongly", remedy="A greater speed, or another point.",
        ),
        *ordered(
            "drive.points_above", "Points from the least speed", slow, _ROUNDED * slowest_rpm,
            unit="r/min", sentence=f"Its slowest point is {write(slowest_rpm, 4)} r/min, the least speed {least}.",
            source="read wrongly", remedy="A lower least speed, or another point.",
        ),
        *_hours_gate(need),
    )  # fmt: skip


def _hours_gate(need: Need) -> tuple[Gate, ...]:
    """Hours a year of the run at its load: never more than all of its points have together."""
    points, said = need.facts.points, need.circuit.wiring.hours
    hours = sum(point.hours or 0.0 for point in points.points) if points is not None else 0.0
    if not hours or not said or said <= _SAME_HOURS * hours:
        return ()
    turns = Turns(path="wiring.hours", label="hours a year", passes=f"up to {write(hours, 3)} h",
                  passes_as=f"{write(hours)} h")  # fmt: skip
    text = f"Its points are {write(hours, 4)} h a year together, its run has {write(said, 4)} h at its load."
    text += f" Passes for {turns.label} {turns.passes}."
    remedy = "Read both again: what is saved, lost and worn rests on them."
    name, source = "Hours said twice agree", "one motor runs once"
    return (check("drive.hours_twice", name, turns, text, source, remedy=remedy),)


_SAME_HOURS: Final = 1.10  # rounded; assumed
_ROUNDED: Final = 1.005
