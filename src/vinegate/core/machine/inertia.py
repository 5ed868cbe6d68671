"""Rotor inertia, where nothing says it; and what is said of it against what such rotors have."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.grade import Gate, check
from vinegate.core.numbers import write, write_down, write_up
from vinegate.core.turning import Turns

_APART: Final = 6.0
"""Times the estimate, either way: four times what catalogues scatter; assumed. A pound-foot squared is 24 times off."""
_LEAST_KW: Final = 0.37
"""Below it the power law has no figures."""


def rotor_inertia_estimate(*, power_kw: float, poles: int) -> float:
    """An estimate of a cage machine's rotor inertia, kg·m²: `0.00104·(P·p)^1.35`, p pole pairs.

    A power law through usual catalogue figures of 5 to 100 kW; within about a factor of 1.5 either way.
    """
    return 0.00104 * math.pow(power_kw * poles / 2, 1.35)


def inertia_gate(given: float, *, power_kw: float, poles: int) -> Gate | None:
    """None where the inertia that is given, kg·m², is one that such a rotor may have."""
    estimate = rotor_inertia_estimate(power_kw=power_kw, poles=poles)
    low, high = estimate / _APART, estimate * _APART
    if low <= given <= high or power_kw < _LEAST_KW:
        return None
    passes = f"between {write_up(low)} and {write_down(high)} kg·m²"
    turns = Turns(path="machine.inertia", label="rotor inertia", passes=passes, passes_as=f"{write(estimate, 3)} kg·m²")
    text = (
        f"{write(given, 3)} kg·m² given; rotors of its power and poles have some {write(estimate, 2)} kg·m². "
        f"Passes for any {turns.label} {turns.passes}."
    )
    remedy = "Read its unit again: a kg·m² is 23.7 of lb·ft², and GD² four times the inertia."
    source = "power law through usual figures; within a factor of 1.5"
    return check("machine.inertia_size", "Rotor inertia goes with its power", turns, text, source, remedy=remedy)
