"""Facts of a drive that cannot stand side by side."""

from __future__ import annotations

from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, ordered
from vinegate.core.numbers import write


def agree_gates(need: Need) -> tuple[Gate, ...]:
    """The greatest speed is not below the least, nor the normal rating below the heavy one, of the same drive."""
    facts = need.facts
    least, most, heavy, normal = (
        write(value or 0.0, 4) for value in (facts.least_rpm, facts.most_rpm, facts.heavy_a, facts.rated_a)
    )
    return (
        *ordered(
            "drive.speeds_agree", "Least and greatest speed", facts.least_rpm, facts.most_rpm, unit="r/min",
            sentence=f"Least {least}, greatest {most} r/min.", source="read wrongly", remedy="Exchange them.",
        ),
        *ordered(
            "drive.ratings_agree", "Normal and heavy rating", facts.heavy_a, facts.rated_a, unit="A",
            sentence=f"Heavy {heavy} A, normal {normal} A: a heavier overload leaves fewer amperes for ever.",
            source="IEC 61800-2:2021, ratings by overload", remedy="Exchange them.",
        ),
    )  # fmt: skip
