"""The stages of the job, in the order in which they are planned, and their sheets in the order of the line.

A further stage is a package with a `Specification`, and its place in this list.
"""

from __future__ import annotations

from typing import Any, Final

from vinegate.core.drive.stage import DRIVE
from vinegate.core.field import Facts
from vinegate.core.load.stage import LOAD
from vinegate.core.machine.stage import MACHINE
from vinegate.core.place.stage import PLACE
from vinegate.core.plate.stage import PLATE
from vinegate.core.protection.stage import PROTECTION
from vinegate.core.record.stage import RECORD
from vinegate.core.replacement.stage import REPLACEMENT
from vinegate.core.start.stage import START
from vinegate.core.starter.stage import STARTER
from vinegate.core.stop.stage import STOP
from vinegate.core.supply.stage import SUPPLY
from vinegate.core.wiring.stage import WIRING
from vinegate.core.work import Specification

STAGES: tuple[Specification[Any], ...] = (
    PLATE,
    SUPPLY,
    WIRING,
    MACHINE,
    LOAD,
    DRIVE,
    START,
    PROTECTION,
    STOP,
    PLACE,
    STARTER,
    REPLACEMENT,
    RECORD,
)
_LINE: Final = (
    "supply",
    "protection",
    "start",
    "drive",
    "overload",
    "wiring",
    "plate",
    "stop",
    "place",
    "machine",
    "load",
)


def further_parts() -> dict[str, type[Facts]]:
    """Parts of a circuit's facts that stages declare beyond those that every circuit has."""
    return {key: kind for stage in STAGES for key, kind in stage.facts.items()}


def sheets_of(stages: tuple[Specification[Any], ...]) -> dict[str, str]:
    """Keys of their sheets to titles: those of the line from supply to driven machine, then any others."""
    titles = {key: title for stage in stages for key, title in stage.sheets.items()}
    return {key: titles[key] for key in (*_LINE, *titles) if key in titles}
