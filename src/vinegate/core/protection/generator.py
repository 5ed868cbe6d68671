"""What a device surely sees of a fault: behind a generator, and where the utility is not known."""

from __future__ import annotations

from typing import Final

from vinegate.core.protection.bands import Band
from vinegate.core.protection.need import Need
from vinegate.core.supply.source import UTILITY
from vinegate.core.turning import NOT_GIVEN, Taken

_TRANSIENT_S: Final = 0.2
"""So long X'd holds, at least: transient time constants of low-voltage generators are some tenths of a second."""


def utility_left_out(need: Need, loop_mohm: float) -> tuple[Taken, ...]:
    """A fault's least current where the utility's level is not given: its impedance up to that of the transformer."""
    source = need.source
    if source is None or not source.stiff:
        return ()
    low = loop_mohm / (loop_mohm + source.z_sum.value)
    return (Taken(label=UTILITY, value=1.0, low=low, high=1.0, how=NOT_GIVEN),)


def seen_in_time(need: Need, band: Band, amperes: float, within_s: float) -> float | None:
    """Amperes of a fault as the device sees them while it has to open; None where that is not known.

    On the utility the whole current. Behind a generator that of the transient reactance where it opens by it at once,
    else no more than the sustained current of its data sheet (IEEE 3002.3:2018 6; ISO 8528-3).
    """
    if not need.job.on_standby or amperes >= band.sure_a(min(_TRANSIENT_S, within_s)):
        return amperes
    sustained = need.job.standby.sustained_a
    return None if sustained is None else min(amperes, sustained)
