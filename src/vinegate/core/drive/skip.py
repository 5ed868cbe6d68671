"""Speeds at which the driven machine resonates: bands that the drive only crosses."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.drive.duty import Row
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, rule
from vinegate.core.numbers import write
from vinegate.core.records import dataclass

WIDTH_HZ: Final = 1.5


@dataclass(frozen=True, slots=True)
class Band:
    """Centre and ends, hertz, of the speed that is avoided, turns a minute."""

    rpm: float
    low_hz: float
    high_hz: float


def bands_of(need: Need) -> tuple[Band, ...]:
    """`f = n·p/120` and the slip's own, or the hertz said, a hertz and a half either way."""
    slip_hz, turns_a_hz = need.slip * need.base_hz / 2, 120 / need.poles
    found = []
    for one in need.facts.skip or ():
        centre = one.value if one.unit == "Hz" else need.rpm_of(one) / turns_a_hz + slip_hz
        rpm = max(centre - slip_hz, 0.0) * turns_a_hz
        found.append(Band(rpm, max(centre - WIDTH_HZ, 0.0), centre + WIDTH_HZ))
    return tuple(found)


def skip_gate(need: Need, bands: Sequence[Band], rows: Sequence[Row]) -> Gate | None:
    """Every operating point outside every band."""
    if not bands:
        return None
    inside = [(row, band) for row in rows for band in bands if band.low_hz < row.hz < band.high_hz]
    key, name, source = "drive.skip", "No point on a resonance", "f = n·p/120 and the slip; ± 1.5 Hz, usual"
    if not inside:
        return rule(key, name, True, "Every operating point lies outside the speeds to avoid.", source)
    row, band = inside[0]
    text = (
        f"{write(row.point.rpm)} {need.unit} lies at {write(row.hz, 3)} Hz, within {write(band.low_hz, 3)} to "
        f"{write(band.high_hz, 3)} Hz."
    )
    return rule(key, name, False, text, source, remedy="Another speed for that point, or a stiffer machine.")
