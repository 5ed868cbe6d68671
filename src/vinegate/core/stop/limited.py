"""Heat of a stop against what a part bears."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from vinegate.core.grade import Gate, at_most, unknown
from vinegate.core.numbers import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.bands import brake_taken, lining_taken, other
from vinegate.core.turning import Taken


def limited(
    asked: Asked, key: str, name: str, heat: Callable[[Asked], float], soft: Sequence[Taken], limit: float | None,
    unit: str, text: str, need: str,
) -> Gate:  # fmt: skip
    """Heat of a need in `unit`, over all that its facts may be: a brake takes more the more it leads the load."""
    if limit is None:
        return unknown(key, name, (need,))
    leads, value = (brake_taken(asked).label, lining_taken(asked).label), heat(asked)
    soft = tuple(one.sensed(-1) if one.label in leads else one for one in soft)
    return at_most(
        key, name, value, limit, sentence=f"{text} of {write(limit)} {unit}.", unit=unit,
        source="heat of the way in use, the heaviest load", rests=soft,
        room=lambda *values: limit - (heat(other(asked, soft, values)) if values else value),
        remedy="A larger one, fewer stops, or a longer ramp before it.",
    )  # fmt: skip
