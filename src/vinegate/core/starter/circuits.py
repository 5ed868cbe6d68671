"""The starters by the way to start, in the usual form of NEMA ICS 2 and IEC 60947-4-1."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Final

from vinegate.core.starter.direct import BRAKED, full_voltage
from vinegate.core.starter.logic import Circuit, Coil, Device, either, make
from vinegate.core.starter.reduced import autotransformer, drive, part_winding, series_element, soft_starter, wye_delta
from vinegate.core.starter.wishes import Wishes


def with_brake(circuit: Circuit) -> Circuit:
    """A spring-set brake is let go while the motor is fed, by a relay of its own: never from a drive's output."""
    fed = either(*(make(tag) for tag in circuit.feeds))
    release = Device(tag="BR", name="brake release", logic=fed, coil=Coil.RELAY, motor=False)
    return replace(circuit, devices=(*circuit.devices, release))


def braked_here(stops_by: str) -> bool:
    """Whether a way to stop is a circuit of contactors that could be drawn."""
    return stops_by in BRAKED


BY_WAY: Final[dict[str, Callable[[Wishes], Circuit]]] = {
    "full-voltage": full_voltage,
    "wye-delta": wye_delta,
    "autotransformer": autotransformer,
    "resistor": series_element,
    "reactor": series_element,
    "part-winding": part_winding,
    "soft-starter": soft_starter,
    "soft-ramp": soft_starter,
    "drive": drive,
}
