"""Nominal efficiencies of the IE classes."""

from __future__ import annotations

import math

from vinegate.core.tables import load


def nominal_efficiency(*, power_w: float, poles: int, ie_class: str = "IE1") -> float | None:
    """Nominal efficiency, per unit, of an IE class at 50 Hz; None outside 0.75 to 200 kW or the tabulated poles.

    >>> round(nominal_efficiency(power_w=45000, poles=4, ie_class="IE3"), 3)
    0.942
    """
    table = load("efficiency_iec")
    row = table.find(**{"class": ie_class, "poles": str(poles)})
    kw = power_w / 1000
    if row is None or not 0.75 <= kw <= 200:
        return None
    lg = math.log10(kw)
    a, b, c, d = (float(row[key]) for key in "abcd")
    return (a * lg**3 + b * lg**2 + c * lg + d) / 100
