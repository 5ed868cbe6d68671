"""Heat of a stop against what a part bears."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Final

from vinegate.core.grade import Gate, at_most, unknown
from vinegate.core.numbers import write
from vinegate.core.records import replace
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.bands import brake_taken, closing_taken, lining_taken, other
from vinegate.core.turning import Taken

_ENDLESS: Final = "It never brings it to rest: the heat has no end."


def limited(
    asked: Asked, key: str, name: str, heat: Callable[[Asked], float], soft: Sequence[Taken], limit: float | None,
    unit: str, text: Callable[[float], str], need: str,
) -> Gate:  # fmt: skip
    """Heat of a need in `unit`, over all that its facts may be; `math.inf` where it never comes to rest."""
    if limit is None:
        return unknown(key, name, (need,))
    soft, value = _sensed(asked, soft), heat(asked)
    endless = math.isinf(value)
    gate = at_most(
        key, name, 0.0 if endless else value, limit, unit=unit,
        sentence=_ENDLESS if endless else f"{text(value)} of {write(limit)} {unit}.",
        source="heat of the way in use, the heaviest load", rests=soft,
        room=lambda *values: limit - (heat(other(asked, soft, values)) if values else value),
        remedy="A larger one, fewer stops, or a longer ramp before it.",
    )  # fmt: skip
    return replace(gate, value=None, margin=None) if endless else gate


def _sensed(asked: Asked, soft: Sequence[Taken]) -> tuple[Taken, ...]:
    """Facts of a brake by what they do to its heat, `E·T/(T ± T_L)`.

    A load that helps leaves the less to it the weaker and the later it is; one that drives, the more.
    """
    leads = 1 if asked.overhauls else -1
    brake, lining, closing = (one(asked).label for one in (brake_taken, lining_taken, closing_taken))
    senses = {brake: leads, lining: leads, closing: -leads}
    return tuple(one.sensed(senses.get(one.label, one.sense)) for one in soft)
