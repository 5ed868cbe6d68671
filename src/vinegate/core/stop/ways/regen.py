"""A drive's even ramp, what comes back returned to the line."""

from __future__ import annotations

from typing import Final

from vinegate.core.stop.asked import Asked
from vinegate.core.stop.drive import RAMP_HANDLE, RAMP_SETTINGS, RAMP_SIZES, ramp_row
from vinegate.core.stop.row import StopRow
from vinegate.core.stop.way import Way

_CAUTION: Final = "It does nothing when power fails: the line it feeds back into is gone."


def _make(asked: Asked) -> StopRow:
    return ramp_row(
        asked,
        WAY,
        _CAUTION,
        ("What comes back goes through a line-side bridge into the supply, which must be able to take it.",),
    )


WAY = Way(
    key="regen",
    name="drive ramp, energy returned",
    phases=(3,),
    make=_make,
    settings=RAMP_SETTINGS,
    slows_first=True,
    by_frequency=True,
    handle=RAMP_HANDLE,
    sizes=(RAMP_SIZES,),
)
