"""A drive's even ramp, what comes back returned to the line."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.facts import Drive
from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, rule, unknown
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


def _feeds_back(circuit: Circuit) -> Gate:
    """A rectifier of diodes lets nothing back."""
    key, name, said = "stop.returns", "Its drive feeds back", circuit.of("drive", Drive).front_end
    if said is None:
        return unknown(key, name, ("the drive's front end",))
    met = circuit.of("drive", Drive).feeds_back
    text = "It feeds back to the line." if met else "It is a rectifier: nothing goes back to the line."
    return rule(key, name, met, text, "the drive's sheet", remedy="A front end that feeds back, or a resistor.")


WAY = Way(
    key="regen",
    name="drive ramp, energy returned",
    also=("regenerative", "regenerative braking", "regeneration"),
    phases=(3,),
    make=_make,
    settings=RAMP_SETTINGS,
    slows_first=True,
    by_frequency=True,
    gates=lambda circuit, asked, row: [_feeds_back(circuit)],
    handle=RAMP_HANDLE,
    sizes=(RAMP_SIZES,),
)
