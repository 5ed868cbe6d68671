"""The connections that a way to start goes through, with the settings that its study settled on."""

from __future__ import annotations

import math

from vinegate.core.start.compare import MethodRow
from vinegate.core.start.connection import FULL, Connection
from vinegate.core.start.facts import Start
from vinegate.core.start.plant import Plant
from vinegate.core.start.simulation import Settings
from vinegate.core.start.ways import way_of


def _named(plant: Plant, start: Start, row: MethodRow) -> tuple[Connection, ...]:
    """The way's connections ahead of full voltage, at every setting that its study tries."""
    given = way_of(row.method).connections(plant, Settings.of(start, 0.0, math.inf, 1.0))
    return tuple(one for one in given if one.key != FULL.key)


def stages_of(plant: Plant, start: Start, row: MethodRow) -> tuple[tuple[Connection, float], ...]:
    """Each connection before the last with the moment at which it ends; none for one that keeps its own throughout."""
    named = {one.key: one for one in _named(plant, start, row)} if row.stages else {}
    return tuple((named[key], until_s) for key, until_s in row.stages if key in named)


def first_connections(plant: Plant, start: Start, row: MethodRow) -> tuple[Connection, ...]:
    """In turn, at the tap, series volts, resistor's steps or current limit settled on, however far the start gets in
    them; empty where it has none (full voltage, a ramp, a drive).
    """
    way = way_of(row.method)
    if way.electronic and not way.by_frequency and row.held_by_limit and row.value:
        return (Connection(key="limit", limit_pu=row.value * plant.rated_current_pu),)
    settled = None if row.value is None else f"{row.value:g}"
    return tuple(one for one in _named(plant, start, row) if settled is None or settled in one.key.split())
