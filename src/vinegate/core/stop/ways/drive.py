"""A drive's even ramp: it takes back what the load does not eat, a resistor turns it into heat."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.bands import rests
from vinegate.core.stop.drive import RAMP_HANDLE, RAMP_SETTINGS, RAMP_SIZES, RESISTOR_SETTINGS, ramp_row
from vinegate.core.stop.resistor import taken_gates
from vinegate.core.stop.row import StopRow
from vinegate.core.stop.way import Way

_CAUTION: Final = "It does nothing when power fails; the resistor gets hot, and is at the bus' volts."


def _make(asked: Asked) -> StopRow:
    return ramp_row(
        asked,
        WAY,
        _CAUTION,
        (
            "What comes back raises the bus; above its switching volts the chopper turns it into heat in the resistor.",
            "At rest the drive blocks. A thermostat on the resistor opens the line contactor, not the chopper.",
        ),
    )


def _gates(circuit: Circuit, asked: Asked, _: StopRow) -> list[Gate]:
    return taken_gates(circuit, asked, rests(asked, WAY))


WAY = Way(
    key="drive",
    name="drive ramp",
    also=("ramp", "ramp down", "VFD ramp", "drive"),
    phases=(3,),
    make=_make,
    settings=(*RAMP_SETTINGS, *RESISTOR_SETTINGS),
    slows_first=True,
    by_frequency=True,
    gates=_gates,
    handle=RAMP_HANDLE,
    sizes=(RAMP_SIZES,),
)
