"""The connections that a way to start goes through, with the settings that its study settled on."""

from __future__ import annotations

import math

from vinegate.core.start.compare import MethodRow
from vinegate.core.start.connection import FULL, Connection
from vinegate.core.start.facts import Start
from vinegate.core.start.plant import Plant
from vinegate.core.start.simulation import Settings
from vinegate.core.start.ways import way_of


def stages_of(plant: Plant, start: Start, row: MethodRow) -> tuple[tuple[Connection, float], ...]:
    """Each connection before the last with the moment at which it ends; none for one that keeps its own throughout."""
    if not row.stages:
        return ()
    way = way_of(row.method)
    named = {one.key: one for one in way.connections(plant, Settings.of(start, 0.0, math.inf, 1.0))}
    return tuple((named[key], until_s) for key, until_s in row.stages if key in named and key != FULL.key)


def first_connections(plant: Plant, start: Start, row: MethodRow) -> tuple[Connection, ...]:
    """At its tap, its series volts, its resistor's steps or its current limit; empty where it is no connection (a ramp,
    a drive) or never leaves the one it begins in.
    """
    way = way_of(row.method)
    stages = tuple(connection for connection, _ in stages_of(plant, start, row))
    if stages:
        return stages
    if way.electronic and not way.by_frequency and row.held_by_limit and row.value:
        return (Connection(key="limit", limit_pu=row.value * plant.rated_current_pu),)
    return ()
