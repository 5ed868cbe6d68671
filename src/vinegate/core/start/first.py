"""The connection in which a way to start begins, with the setting that its study settled on."""

from __future__ import annotations

import math

from vinegate.core.start.compare import MethodRow
from vinegate.core.start.connection import Connection
from vinegate.core.start.facts import Start
from vinegate.core.start.plant import Plant
from vinegate.core.start.simulation import Settings
from vinegate.core.start.ways import way_of


def first_connection(plant: Plant, start: Start, row: MethodRow) -> Connection | None:
    """At its tap, its series volts or its current limit; None where it is no connection (a ramp, a drive)."""
    way = way_of(row.method)
    named = way.connections(plant, Settings.of(start, 0.0, math.inf, 1.0))
    if named:
        ending = f" {row.value:g}" if row.value is not None else ""
        return next((one for one in named if ending and one.key.endswith(ending)), named[0])
    if way.electronic and not way.by_frequency and row.held_by_limit and row.value:
        return Connection(key="limit", limit_pu=row.value * plant.rated_current_pu)
    return None
