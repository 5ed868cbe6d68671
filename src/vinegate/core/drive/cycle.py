"""A load that comes and goes: the winding's warmth over a repeated cycle, by a first-order body."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

import numpy as np

from vinegate.core.drive.cooling import CORE_LOSS, DRAG_LOSS, LOAD_LOSS
from vinegate.core.drive.duty import torque_of
from vinegate.core.drive.envelope import Laden
from vinegate.core.grade import Gate, at_most
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.turning import Taken
from vinegate.core.working import Provenance

_CONSTANT_S: Final = ((11e3, 1500.0), (75e3, 2400.0), (math.inf, 3600.0))
_BAND: Final = 0.5
_SOURCE: Final = "dθ/dt = (p − h·θ)/τ, repeated: IEC 60034-1:2022 4.2, duty types S8 to S10"


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """One part of the cycle: losses and cooling over those at rated load, and how long it lasts, s."""

    losses: float
    cooling: float
    seconds: float


def warmest(parts: Sequence[Part], constant_s: float) -> float:
    """The highest rise of the repeated cycle, over that at rated load.

    In each part the rise goes to p/h with h/τ; the cycle begins where it ends. A steady rated load gives one:

    >>> round(warmest([Part(losses=1, cooling=1, seconds=60), Part(losses=1, cooling=1, seconds=9)], 1800), 9)
    1.0
    """
    share, gained = 1.0, 0.0
    for part in parts:
        kept = math.exp(-part.cooling * part.seconds / constant_s)
        share, gained = share * kept, gained * kept + part.losses / part.cooling * (1 - kept)
    rise = gained / (1 - share) if share < 1 else max(part.losses / part.cooling for part in parts)
    found = rise
    for part in parts:
        kept = math.exp(-part.cooling * part.seconds / constant_s)
        rise = rise * kept + part.losses / part.cooling * (1 - kept)
        found = max(found, rise)
    return found


def cycle_gate(supplied: Laden) -> Gate | None:
    """The winding's rise over the cycle against what its insulation bears; None where no cycle is given."""
    need, cooling = supplied.need, supplied.cooling
    typed = need.facts.cycle
    if typed is None:
        return None
    asked = [torque_of(need, point) for point in typed.points]
    rpm, nm = (np.array([pair[place] for pair in asked]) for place in (0, 1))
    k, found, _ = supplied.settle(rpm, nm)
    speed = supplied.speed_of(k)
    parts = [
        Part(
            losses=LOAD_LOSS * (float(amps) / supplied.plate_a / cooling.derate) ** 2
            + CORE_LOSS * float(at) ** 1.5 + DRAG_LOSS * float(at) ** 3,
            cooling=max(float(cooling.share(at)), 0.05),
            seconds=point.hours or 0.0,
        )
        for amps, at, point in zip(found.amps, np.minimum(speed, 1.0), typed.points, strict=True)
    ]  # fmt: skip
    constant = next(value for most, value in _CONSTANT_S if need.power_w <= most)
    tau = need.sheet.given("thermal_constant", "Thermal time constant", "τ", constant, "s",
                           provenance=Provenance.ASSUMED, source="by its size, usual of closed machines")  # fmt: skip
    peak = need.sheet.given("cycle_rise", "Warmest of the cycle, over rated rise", "θ", warmest(parts, tau.value), "",
                            provenance=Provenance.ESTIMATED, source=_SOURCE)  # fmt: skip
    body = Taken(label="its thermal time constant", value=tau.value, low=(1 - _BAND) * tau.value,
                 high=(1 + _BAND) * tau.value, how="assumed", sense=1)  # fmt: skip
    text = (
        f"Over the cycle of {write(sum(part.seconds for part in parts), 3)} s its winding warms to "
        f"{write(peak.value, 3)} "
        f"of the rated rise; its insulation bears {write(cooling.bears, 3)}."
    )
    return at_most(
        "drive.cycle", "Cool enough over its cycle", peak.value, cooling.bears, sentence=text, source=_SOURCE,
        remedy="A larger motor, a blower, or longer rests.", rests=(body,),
        room=lambda seconds: cooling.bears - warmest(parts, seconds),
    )  # fmt: skip
