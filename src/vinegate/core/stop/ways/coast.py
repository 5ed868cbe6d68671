"""Coasting."""

from __future__ import annotations

from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import freely
from vinegate.core.stop.row import Doing, StopRow, row_of
from vinegate.core.stop.way import Way


def _make(asked: Asked) -> StopRow:
    """Nothing acts but the load."""
    return row_of(
        asked,
        WAY,
        Doing(
            setting="",
            course=freely,
            caution="It turns on after the contactor has opened: guard it until it is at rest.",
            steps=("The contactor opens. Nothing else acts.",),
        ),
    )


WAY = Way(key="coast", name="coasting", also=("coast to stop", "freewheel"), phases=(3, 1, 0), make=_make)
