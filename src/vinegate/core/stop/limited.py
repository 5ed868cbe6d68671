"""Heat of a stop against what a part bears."""

from __future__ import annotations

from vinegate.core.grade import Gate, at_most, unknown
from vinegate.core.numbers import write
from vinegate.core.stop.asked import Asked


def limited(
    asked: Asked, key: str, name: str, value: float, limit: float | None, unit: str, text: str, need: str
) -> Gate:
    """Heat goes with what turns."""
    if limit is None:
        return unknown(key, name, (need,))
    return at_most(
        key, name, value, limit, sentence=f"{text} of {write(limit)} {unit}.", unit=unit,
        source="heat of the way in use, the heaviest load", rests=(asked.load.inertia, asked.load.rotor),
        room=lambda load, rotor: limit - value * asked.inertia_times(load, rotor),
        remedy="A larger one, fewer stops, or a longer ramp before it.",
    )  # fmt: skip
