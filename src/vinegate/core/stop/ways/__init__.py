"""The ways to stop, by cost, as they are offered. A further one is a module and its place in this list."""

from __future__ import annotations

from vinegate.core.stop.way import Way
from vinegate.core.stop.ways import armature, brake, coast, dc, drive, drive_brake, plugging, regen

WAYS: tuple[Way, ...] = tuple(one.WAY for one in (coast, brake, dc, plugging, drive, regen, drive_brake, armature))
ALONE = coast.WAY
"""What happens when nothing acts: all others are compared with it."""
USUAL = brake.WAY
"""What is taken where none passes."""


def way_of(key: str) -> Way:
    """The way of that key. Raises KeyError."""
    for way in WAYS:
        if way.key == key:
            return way
    raise KeyError(key)
