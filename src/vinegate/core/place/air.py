"""The air about a starter and its height, and the cold: ratings hold within what each is made for."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import depends, on_site, ruled
from vinegate.core.numbers import write
from vinegate.core.place.checks import Check
from vinegate.core.place.facts import Area
from vinegate.core.rules import RuleSet
from vinegate.core.turning import Turns

_MADE_FOR_C: Final = 40.0
_MADE_FOR_M: Final = 2000.0
_SOURCE: Final = "IEC 60947-1:2020 6.1.1, 6.1.2; UL 60947-4-1:2022"
_COLD: Final = {
    "motor": (-15.0, "its grease, fan and drains are its maker's word.", "IEC 60034-1:2022 6.4; NEMA MG 1:2021 14.2.1"),
    "starter": (-5.0, "its coils and overload are its maker's word, or a heater keeps it above −5 °C.", _SOURCE),
    "buttons": (-5.0, "their seals and springs are their maker's word.", _SOURCE),
    "drive": (0.0, "it starts by its maker's word, or a heater keeps it above 0 °C.", "usual of drives: assumed"),
}
"""Least air, °C, for which a device is made without its maker's word, and what is to be asked of it."""


def starter_air(circuit: Circuit, area: Area) -> Iterator[Check]:
    """Contactor, relay and device are rated in air of up to 40 °C and at up to 2000 m, unless their maker says more.

    Source: IEC 60947-1:2020 6.1.1 and 6.1.2.
    """
    air, said = area.ambient_high_c, circuit.place.starter_air_c
    made_for = _MADE_FOR_C if said is None else said
    if air is not None and (said is not None or air > made_for):
        text = f"Its ratings hold in air of up to {write(made_for)} °C; here {write(air)} °C."
        if said is not None:
            yield Check.of("Air", ruled(air <= made_for, text, _SOURCE))
        else:
            yield Check.of("Air", depends(f"{text} Passes where its maker says {write(air)} °C.", _turns(air), _SOURCE))
    if area.altitude_m is not None and area.altitude_m > _MADE_FOR_M:
        text = f"At {write(area.altitude_m)} m its amperes and its insulation are its maker's word."
        yield Check.of("Height", on_site(text, _SOURCE))


def _turns(air_c: float) -> Turns:
    said = f"{write(air_c)} °C"
    return Turns(path="place.starter_air", label="air that it is made for", passes=f"{said} or more", fails="40 °C",
                 passes_as=said, fails_as="40 °C")  # fmt: skip


def wet(circuit: Circuit, key: str, area: Area, rules: RuleSet) -> Iterator[Check]:
    """Outdoors, under a hose and in the ground a run stands in water sooner or later, inside its raceway too."""
    stands = area.sky == "outdoor" or area.water in ("hose", "under") or (circuit.wiring.method or "")[:1] == "D"
    if key == "motor" and stands and rules.papers.wet_run:
        yield Check.of("Wet run", on_site(rules.papers.of_wet_run, rules.papers.wet_run))


def cold(key: str, area: Area) -> Iterator[Check]:
    """Colder than a device is usually made for it is its maker's word, or a heater's.

    Source: IEC 60034-1:2022 6.4 and NEMA MG 1:2021 14.2.1 for motors, IEC 60947-1:2020 6.1.1 for switchgear; drives'
    is usual.
    """
    least_c, what, source = _COLD.get(key, (-math.inf, "", ""))
    if area.ambient_low_c is not None and area.ambient_low_c < least_c:
        yield Check.of("Cold", on_site(f"At {write(area.ambient_low_c)} °C {what}", source))
