"""What is done beside the machine, in order, made from how the rows came out."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from vinegate.core.replacement.fits import Fits, Row
from vinegate.core.replacement.pair import Pair


def steps_of(pair: Pair, rows: Sequence[Row]) -> tuple[str, ...]:
    """From the dead circuit to the first turn under load; tasks of the rows stand where they are done."""
    return tuple(_steps(pair, {row.key: row for row in rows}))


def _steps(pair: Pair, rows: dict[str, Row]) -> Iterator[str]:
    yield "Lock out, tag, prove dead at the motor; wait out a drive's bus and every capacitor."
    if pair.circuit.load.kind == "hoist" or pair.circuit.stop.hold == "yes":
        yield "What hangs on it set down, or held by other means, before motor or brake is touched."
    if "listing" in rows:
        yield "By persons qualified for the classified area, as its document asks."
    yield "Note the old leads, links and rotation before anything is undone."
    yield from _tasks(rows, "frame", "mounting", "bearings", "brake")
    yield "Insulation of the new winding measured before it is connected."
    connection = pair.new.rated.connection
    if connection is not None:
        yield f"Links set for {connection.text} V by the new motor's own diagram; unused leads insulated one by one."
    yield "Protective conductor first; its screw and the box's tight."
    yield from _tasks(rows, "start_capacitor", "run_capacitor", "thermal", "heater")
    yield from _tasks(rows, "amperes", "service", "at_rest")
    yield from (
        _tasks(rows, "rotation")
        if rows.get("rotation") and rows["rotation"].task
        else iter(("Turned for a moment, uncoupled: the right way, and quietly.",))
    )
    if pair.facts.coupled == "belt":
        yield "Belts tensioned by their maker's figure, sheaves in line; again after a day's run."
    else:
        yield "Aligned cold with its feet tight, end play within the coupling's; again once it is warm."
    yield from _tasks(rows, "speed", "power", "listing", "drive", "enclosure")
    yield "Run under load: amperes of each phase against the plate, volts at the terminals, warmth after an hour."
    yield "The old record closed, the new motor's first measurements kept as its base line."


def _tasks(rows: dict[str, Row], *keys: str) -> Iterator[str]:
    for key in keys:
        row = rows.get(key)
        if row is not None and row.fits is Fits.WITH and row.task:
            yield row.task
