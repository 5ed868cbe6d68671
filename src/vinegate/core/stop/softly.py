"""What goes before a stop, and makes it so much later: a soft starter's ramp, or running on after its button."""

from __future__ import annotations

import math
from typing import Protocol, cast

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, at_most
from vinegate.core.numbers import write
from vinegate.core.start.compare import Comparison
from vinegate.core.start.soft_stop import SoftStop
from vinegate.core.start.way import Way as StartWay
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.bands import other, rests_of
from vinegate.core.stop.row import StopRow
from vinegate.core.stop.way import Way
from vinegate.core.stop.ways import ALONE
from vinegate.core.turning import Taken


class _Runs(Protocol):
    @property
    def runs_on_s(self) -> float | None: ...


def runs_on_s(circuit: Circuit) -> float:
    """A fact of the starter, which is planned later."""
    return cast(_Runs, circuit.part("starter")).runs_on_s or 0.0


def softly(comparison: Comparison | None, started: StartWay | None, way: Way) -> SoftStop | None:
    """The soft stop that goes before coasting; a drive's ramp is a way to stop of its own."""
    if comparison is None or started is None or way is not ALONE:
        return None
    return comparison.soft_stop if started.soft_stop and not started.converts else None


def before_notes(soft: SoftStop | None, on_s: float) -> tuple[str, ...]:
    """What happens ahead of the order that the sheet gives."""
    ramps = f"Before its contactor opens the soft starter ramps it down over {write(soft.ramp_s, 3)} s." if soft else ""
    runs = f"Before that it runs on for {write(on_s, 3)} s." if on_s else ""
    return tuple(note for note in (ramps, runs) if note)


def before_gates(asked: Asked, row: StopRow, way: Way, soft: SoftStop | None, on_s: float) -> tuple[Gate, ...]:
    """The time from the button to rest against what is asked, over all that is estimated."""
    within, stops = asked.stop.within_s, row.time_s
    if within is None or stops is None:
        return ()
    found = []
    if on_s:
        before = Taken(label="running on", value=on_s, low=on_s, high=on_s, given=True)
        text = f"It runs on for {write(on_s, 3)} s and stops in {write(stops, 3)} s."
        found.append(_later(asked, row, way, before, "stop.runs_on", "Stops in time, running on", text))
    if soft is not None and soft.to_a_tenth_s is not None:
        tenth, coasts = soft.to_a_tenth_s, soft.coasts_to_a_tenth_s or 0.0
        usual = tenth + max(stops - coasts, 0.0) - stops
        before = Taken(label="the soft stop's course", value=usual, low=min(tenth - stops, usual), high=soft.ramp_s,
                       how="estimated", sense=-1)  # fmt: skip
        text = f"Ramped down softly over {write(soft.ramp_s, 3)} s it stands within about {write(stops + usual, 3)} s."
        found.append(_later(asked, row, way, before, "stop.softly", "Soft stop within its time", text))
    return tuple(found)


def _later(asked: Asked, row: StopRow, way: Way, before: Taken, key: str, name: str, text: str) -> Gate:
    within, stops, rests = asked.stop.within_s or 0.0, row.time_s or 0.0, rests_of(asked, way, row)

    def room(ahead: float, *values: float) -> float:
        found = way.make(other(asked, rests, values)).time_s if values else stops
        return within - ahead - (found if found is not None else math.inf)

    return at_most(
        key, name, before.value + stops, within, unit="s", sentence=f"{text} {write(within, 3)} s are asked.",
        source="from its button to rest", rests=(before, *rests), room=room,
        remedy="A shorter ramp or running on, or more time.",
    )  # fmt: skip
