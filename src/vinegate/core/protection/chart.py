"""What the time-current chart draws: amperes and seconds of start, overload, device, conductor, stall and faults."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.protection.bands import LEAST_S, Band
from vinegate.core.protection.selectivity import crossings
from vinegate.core.protection.upstream import DeviceCurve
from vinegate.core.records import dataclass
from vinegate.core.start.detail import Detail
from vinegate.core.tables.trip_class import trip_class

MOST_S: Final = 7200.0
_POINTS: Final = 90

Points = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class TimeCurrent:
    """Lines as (amperes, seconds), rms. A band is its earliest and its latest line; empty where not known.

    `stall` is locked-rotor amperes and the safe stall time from hot; faults in amperes; `crossings` are where the
    upstream device may open as soon as this one.
    """

    start: Points
    first_a: float | None
    overload: tuple[Points, Points]
    device: tuple[Points, Points]
    damage: Points
    upstream: Points
    stall: tuple[float, float] | None
    near_a: float | None
    far_a: float | None
    crossings: Points
    least_a: float
    most_a: float


def start_line(detail: Detail, rated_a: float) -> Points:
    """The start as it is read on such a chart: at each moment the amperes it still draws, then rated current."""
    rows = [
        (amps, max(seconds, LEAST_S)) for seconds, amps in zip(detail.time_s, detail.line_a, strict=True) if amps > 0
    ]
    return (*rows, (rated_a, max(detail.time_s[-1], LEAST_S) * 1.02), (rated_a, MOST_S))


def time_current(
    *,
    rated_a: float,
    dial_a: float | None,
    trip: str,
    band: Band | None,
    detail: Detail | None,
    first_a: float | None,
    k_s: float | None,
    upstream: DeviceCurve | None,
    stall: tuple[float, float] | None,
    near_a: float | None,
    far_a: float | None,
) -> TimeCurrent:
    """Sample everything that is known. `k_s` is the conductor's k·S in A·√s."""
    least = 0.5 * min(rated_a, dial_a or rated_a)  # several motors on one drive: the dial is of each
    most = 1.25 * max([value for value in (near_a, far_a, first_a, 20 * rated_a) if value])
    amps = np.geomspace(least, most, _POINTS)
    return TimeCurrent(
        start=start_line(detail, rated_a) if detail else (),
        first_a=first_a,
        overload=_overload(dial_a, trip, most) if dial_a else ((), ()),
        device=(_line(amps, band.earliest_s(amps)), _line(amps, band.latest_s(amps))) if band else ((), ()),
        damage=_damage(k_s, amps) if k_s else (),
        upstream=_line(amps, upstream.at(amps)) if upstream else (),
        stall=stall,
        near_a=near_a,
        far_a=far_a,
        crossings=crossings(band, upstream, near_a or most) if band and upstream else (),
        least_a=least,
        most_a=most,
    )


def _overload(dial_a: float, trip: str, most: float) -> tuple[Points, Points]:
    """The class' band from 1.05 and 1.2 times the setting on; relays melt nothing, so it ends at 12 times."""
    times = np.geomspace(1.06, min(12.0, most / dial_a), _POINTS)
    found = trip_class(trip)
    earliest, latest = (np.array([ends(x) for x in times.tolist()]) for ends in (found.earliest_s, found.latest_s))
    return _line(times * dial_a, earliest), _line(times * dial_a, latest)


def _damage(k_s: float, amps: Array) -> Points:
    """`t = (k·S/I)²`, which holds up to five seconds."""
    seconds = (k_s / amps) ** 2
    keep = seconds <= 5
    return _line(amps[keep], seconds[keep])


def _line(amps: Array, seconds: Array) -> Points:
    """Points inside the chart; what opens at once lies on its floor."""
    held: Sequence[tuple[float, float]] = [
        (round(float(a), 3), round(float(min(max(t, LEAST_S), MOST_S)), 5))
        for a, t in zip(amps, seconds, strict=True)
        if np.isfinite(t)
    ]
    return tuple(held)
