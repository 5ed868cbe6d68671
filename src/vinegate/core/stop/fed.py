"""A way to stop and what feeds the machine: a ramp takes a drive, and on a drive's output nothing else switches."""

from __future__ import annotations

from vinegate.core.grade import Answer, breaks, changes
from vinegate.core.records import replace
from vinegate.core.start.way import Way as StartWay
from vinegate.core.stop.row import StopRow
from vinegate.core.stop.way import Way


def as_fed(row: StopRow, way: Way, started: StartWay | None, *, said: bool) -> StopRow:
    """The row of a way that does what is asked, for how this machine is started; None while that is not known.

    `said` where it is the one that was chosen: then what it lacks is a fault of the plan, else a thing to change.
    """
    if started is None or not row.verdict.usable:
        return row
    if way.by_frequency and not started.by_frequency:
        lacks = f"It starts by {started.name}: no drive is there to ramp it down. Start it from one."
        found = breaks(lacks) if said else changes(f"Once it is started from a drive. {row.why}")
        return replace(_with(row, found), otherwise_started=True)
    if started.by_frequency and (way.reverses or way.direct):
        text = "On a drive's output nothing else switches: its ramp, or direct current of its own by its maker's sheet."
        return _with(row, breaks(text))
    return row


def _with(row: StopRow, found: Answer) -> StopRow:
    """It serves nobody as it is."""
    return replace(row, verdict=found.verdict, why=found.text, room=-1.0)
