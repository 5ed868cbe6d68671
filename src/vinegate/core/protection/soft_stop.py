"""A soft stop through the overload: it draws several times rated amperes, and the relay is warm from running."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.grade import Gate, Verdict, at_most, settled_by
from vinegate.core.numbers import write
from vinegate.core.protection.need import Need
from vinegate.core.protection.stalled import slower_than
from vinegate.core.remedy import either
from vinegate.core.start.soft_stop import SoftStop
from vinegate.core.start.trace import running
from vinegate.core.tables.trip_class import TripClass, classes, trip_class
from vinegate.core.turning import Turns

_KEY, _NAME = "protection.soft_stop", "Trip class bears the soft stop"
_SOURCE: Final = "IEC 60947-4-1:2018 table 3, from the heat of running"


def soft_stop_gate(need: Need, name: str, dial_a: float) -> tuple[Gate, ...]:
    """To check where the quickest relay of the class may trip, failing where the slowest does."""
    soft = need.comparison.soft_stop if need.comparison is not None else None
    if soft is None or not need.way.soft_stop or need.way.converts:
        return ()
    quickest, slowest = (_heat_pct(soft, trip_class(name), dial_a, slow=slow) for slow in (False, True))
    text = (
        f"Class {name}: warm from running, the soft stop brings the quickest relay to {write(quickest, 3)} % of its "
        f"heat at trip, the slowest to {write(slowest, 3)} %."
    )
    gate = at_most(
        _KEY, _NAME, quickest, 100.0, unit="%", sentence=text, source=_SOURCE, band=(slowest, quickest),
        remedy=either(slower_than(name), "a shorter soft stop"),
    )  # fmt: skip
    holds = next((one.name for one in classes() if _heat_pct(soft, one, dial_a) <= 100), "")
    if gate.verdict is not Verdict.CHECK or not holds:
        return (gate,)
    turns = Turns(path="protection.trip_class", label="trip class", passes=holds, passes_as=holds)
    return (settled_by(gate, turns),)


def _heat_pct(soft: SoftStop, of: TripClass, dial_a: float, *, slow: bool = False) -> float:
    """The most heat along the stop, in percent of that at trip; it begins as warm as its running amperes keep it."""
    time = np.array(soft.time_s)
    square = (np.array(soft.line_a) / dial_a) ** 2
    return 100 * float(of.heat_from(float(square[0]), time, np.asarray(running(time, square)), slow=slow).max())
