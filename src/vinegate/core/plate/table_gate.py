"""The tabulated full-load current beside the plate's: whether they are far apart."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, check, rule
from vinegate.core.numbers import write
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.turning import Turns
from vinegate.core.working import Figure

_FAR: Final = 0.25
_IMPOSSIBLE: Final = 0.60  # of the table's: no machine of that power and those volts
_FAR_SMALL: Final = (5 * WATT_PER_HP, 0.40)
"""Up to that power, W, below it: its rows are of old machines, a premium one of 1 hp draws a third less; assumed."""
_FAR_BUILT: Final = (0.60, 1.50)  # above it, of machines of low speed or high torque; assumed


def table_gate(table: Figure | None, rated: Rated, built: str = "") -> Gate | None:
    """Plate and table current side by side, and whether they are far apart; more is borne above it as it is `built`,
    and below it of a small machine.
    """
    if table is None or rated.current is None:
        return None
    off = rated.current.value / table.value - 1
    key, name = "plate.table", "Plate and table current"
    far, impossible = _FAR_BUILT if built and off > 0 else (_FAR, _IMPOSSIBLE)
    if off < 0 and rated.power_w is not None and rated.power_w <= _FAR_SMALL[0] * (1 + 1e-9):
        far = _FAR_SMALL[1]
    if abs(off) <= far:
        text = f"Plate {rated.current.shown} for the overload, table {table.shown} for conductors and short circuit."
        if built and off > 0:
            text = f"Plate {rated.current.shown} for all: it is {built}; the table has {table.shown}."
        return rule(key, name, True, text, table.source, value=100 * off, unit="%")
    side = "above" if off > 0 else "below"
    text = f"Plate {rated.current.shown} is {abs(100 * off):.0f} % {side} the table's {table.shown}."
    remedy = "Check power, volts and amperes on the plate."
    if abs(off) > impossible:
        return rule(key, name, False, text, table.source, remedy=remedy, value=100 * off, unit="%")
    good = table.value * (1 + (far if off > 0 else -far))
    bad = table.value * (1 + (impossible if off > 0 else -impossible))
    way = ("up to", "above", 0.99, 1.02) if off > 0 else ("from", "below", 1.01, 0.98)
    turns = Turns(
        path="plate.full_load_current",
        label="full-load amperes",
        passes=f"{way[0]} {write(good, 3)} A",
        fails=f"{way[1]} {write(bad, 3)} A",
        passes_as=f"{write(good * way[2], 3)} A",
        fails_as=f"{write(bad * way[3], 4)} A",
    )
    text += f" Passes for {turns.label} {turns.passes}."
    return check(key, name, turns, text, table.source, remedy=remedy)
