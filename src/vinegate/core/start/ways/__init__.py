"""The ways to start, in the order in which they are offered. A further one is a module and its place in this list."""

from __future__ import annotations

from vinegate.core.start.way import Way
from vinegate.core.start.ways import (
    autotransformer,
    dc_drive,
    drive,
    full_voltage,
    part_winding,
    reactor,
    resistor,
    rotor_resistor,
    soft_limit,
    soft_ramp,
    wye_delta,
)

WAYS: tuple[Way, ...] = tuple(
    one.WAY
    for one in (
        full_voltage,
        wye_delta,
        autotransformer,
        resistor,
        reactor,
        part_winding,
        rotor_resistor,
        soft_limit,
        soft_ramp,
        drive,
        dc_drive,
    )
)
USUAL = full_voltage.WAY
"""What is taken while nothing is said and nothing could be compared."""


def way_of(key: str) -> Way:
    """The way of that key. Raises KeyError."""
    for way in WAYS:
        if way.key == key:
            return way
    raise KeyError(key)
