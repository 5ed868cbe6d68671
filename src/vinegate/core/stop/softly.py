"""A soft starter's ramp ahead of coasting: it stands so much later."""

from __future__ import annotations

from vinegate.core.grade import Gate, at_most
from vinegate.core.numbers import write
from vinegate.core.start.compare import Comparison
from vinegate.core.start.soft_stop import SoftStop
from vinegate.core.start.way import Way as StartWay
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.row import StopRow
from vinegate.core.stop.way import Way
from vinegate.core.stop.ways import ALONE


def softly(comparison: Comparison | None, started: StartWay | None, way: Way) -> SoftStop | None:
    """The soft stop that goes before coasting; a drive's ramp is a way to stop of its own."""
    if comparison is None or started is None or way is not ALONE:
        return None
    return comparison.soft_stop if started.soft_stop and not started.converts else None


def softly_note(soft: SoftStop | None) -> tuple[str, ...]:
    """What happens ahead of the order that the sheet gives."""
    if soft is None:
        return ()
    return (f"Before its contactor opens the soft starter ramps it down over {write(soft.ramp_s, 3)} s.",)


def softly_gates(asked: Asked, row: StopRow, soft: SoftStop | None) -> tuple[Gate, ...]:
    """Its time from the button to rest against what is asked: at least to a tenth of speed, at most its ramp and
    coasting one after the other.
    """
    within, coasts = asked.stop.within_s, row.time_s
    if soft is None or within is None or coasts is None or soft.to_a_tenth_s is None:
        return ()
    last = max(coasts - (soft.coasts_to_a_tenth_s or 0.0), 0.0)
    value, band = soft.to_a_tenth_s + last, (soft.to_a_tenth_s, soft.ramp_s + coasts)
    text = f"Ramped down softly over {write(soft.ramp_s, 3)} s it stands within about {write(value, 3)} s."
    gate = at_most(
        "stop.softly", "Soft stop within its time", value, within, band=band, unit="s",
        sentence=text, source="from the stop to rest, the soft stop's ramp before coasting",
        remedy="A shorter soft stop, or more time.",
    )  # fmt: skip
    return (gate,)
