"""Time-current bands of short-circuit devices: what one of a kind surely carries, and by when it surely opens.

Generic: from the standards' limits where they set one, else a usual device's, said to be estimated. The final
selection is by the maker's curve.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass
from vinegate.core.tables import Table, load
from vinegate.core.tables.trip_class import trip_class

MAGNETIC_TOLERANCE: Final = 0.2
"""IEC 60947-2:2016 8.3.3.1.2: a magnetic release trips at ±20 % of its setting, for sure."""
MOTOR_BREAKER_MAGNETIC: Final = 13.0
"""Times the rating: usual of motor-protective breakers, so that they hold the inrush."""
INVERSE_TIME_MAGNETIC: Final = 10.0
LEAST_S: Final = 0.01
"""Half a cycle: below it time-current curves say nothing, and let-through energy takes over."""
OPENS_S: Final = 0.02
MINIATURE: Final = {"mcb-b": (3.0, 5.0), "mcb-c": (5.0, 10.0), "mcb-d": (10.0, 20.0)}
"""Times the rating between which a small breaker of each type may trip at once: IEC 60898-1:2015 table 2."""
_MAGNETIC: Final = {"motor-breaker": MOTOR_BREAKER_MAGNETIC, "inverse-time": INVERSE_TIME_MAGNETIC}


@dataclass(frozen=True, slots=True, kw_only=True)
class Band:
    """Points of amperes and seconds, amperes rising. `pickup_a`: below the first an instantaneous release
    surely does not trip, from the second it surely does.

    `estimated` when any point is a usual device's and not a limit of the standard.
    """

    device: str
    rating_a: float
    earliest: tuple[tuple[float, float], ...]
    latest: tuple[tuple[float, float], ...]
    pickup_a: tuple[float, float] | None
    estimated: bool
    source: str

    def earliest_s(self, amperes: Array, *, promised: bool = True) -> Array:
        """Least time to opening at steady rms amperes: infinite where the device surely carries them.

        Past what is promised it is nought, or, if not `promised`, that of the same heat as at the last point.
        """
        ends = promised and self.device == "time-delay"
        times = _along(self.earliest, amperes, beyond=0.0 if ends else None)
        if self.pickup_a is not None:
            times = np.where(amperes >= self.pickup_a[0], 0.0, times)
        return np.asarray(np.minimum(times, self.latest_s(amperes)))

    def latest_s(self, amperes: Array) -> Array:
        """Longest time to opening: infinite where opening is not certain."""
        if self.pickup_a is None:
            return _along(self.latest, amperes, beyond=None)
        times = _along(self.latest, amperes, beyond=self.latest[-1][1] if self.latest else None)
        return np.asarray(np.where(amperes >= self.pickup_a[1], np.minimum(times, OPENS_S), times))

    def let_through_a2s(self, amperes: float) -> float:
        """Most energy it lets through at a fault: `I²t` at its longest time; of a fuse at most at its last point.

        A breaker's own current limiting is not known here: above its pickup this is that of a full cycle.
        """
        if self.pickup_a is None and self.latest and amperes >= self.latest[-1][0]:
            return self.latest[-1][0] ** 2 * self.latest[-1][1]
        return amperes**2 * float(self.latest_s(np.array([amperes]))[0])

    def sure_a(self, within_s: float) -> float:
        """Least amperes at which it surely opens within so many seconds; infinite where its band does not say."""
        found = np.inf
        if self.latest and self.latest[-1][1] <= within_s:
            seconds = np.log([t for _, t in reversed(self.latest)])
            amperes = np.log([a for a, _ in reversed(self.latest)])
            found = float(np.exp(np.interp(np.log(within_s), seconds, amperes)))
        if self.pickup_a is not None and within_s >= OPENS_S:
            found = min(found, self.pickup_a[1])
        return found


def _along(points: tuple[tuple[float, float], ...], amperes: Array, *, beyond: float | None) -> Array:
    """Straight between points on logarithmic axes; infinite before the first; past the last with `I²t` as there,
    or `beyond` where that is promised."""
    if not points:
        return np.full(np.shape(amperes), np.inf)
    a, t = np.log([point[0] for point in points]), np.log([point[1] for point in points])
    x = np.log(np.maximum(amperes, 1e-9))
    times = np.exp(np.interp(x, a, t))
    past = np.exp(t[-1] - 2 * (x - a[-1])) if beyond is None else beyond
    times = np.where(x > a[-1], past, times)
    return np.asarray(np.where(x < a[0], np.inf, times))


def band_of(device: str, rating_a: float, *, magnetic_a: float | None = None, trip: str = "10") -> Band | None:
    """The band of a device of this kind and rating. None for a gG rating that is not in its table."""
    if device == "gg":
        return _gg(rating_a)
    if device == "instantaneous":
        return Band(
            device=device,
            rating_a=rating_a,
            earliest=(),
            latest=(),
            pickup_a=_around(magnetic_a or rating_a),
            estimated=False,
            source="set amperes, ±20 %",
        )
    setting = magnetic_a or (_MAGNETIC[device] * rating_a if device in _MAGNETIC else None)
    pickup = None if setting is None else _around(setting)
    if device in MINIATURE:
        surely_not, surely = MINIATURE[device]
        pickup = (surely_not * rating_a, surely * rating_a)
    if device == "motor-breaker":
        return _motor_breaker(rating_a, pickup, trip)
    kind = "fuse" if device == "class-cc" else device
    return _by_multiples(device, kind, rating_a, pickup)


def _around(setting_a: float) -> tuple[float, float]:
    return setting_a * (1 - MAGNETIC_TOLERANCE), setting_a * (1 + MAGNETIC_TOLERANCE)


def _by_multiples(device: str, kind: str, rating_a: float, pickup_a: tuple[float, float] | None) -> Band:
    rows = [row for row in load("device_curve").rows if row["device"] == kind]
    longer = _LONG_MCB if device in MINIATURE and rating_a > _MCB_LONG_ABOVE_A else 1.0
    sides = {
        side: tuple(
            (float(row["times"]) * rating_a, _seconds(row, longer, rating_a)) for row in rows if row["side"] == side
        )
        for side in ("earliest", "latest")
    }
    sources = dict.fromkeys(row["basis"] for row in rows if row["basis"] != "estimated")
    return Band(
        device=device,
        rating_a=rating_a,
        earliest=sides["earliest"],
        latest=sides["latest"],
        pickup_a=pickup_a,
        estimated=any(row["basis"] == "estimated" for row in rows),
        source="; ".join(sources) or "usual devices",
    )


_MCB_LONG_ABOVE_A: Final = 63.0
_LONG_MCB: Final = 2.0  # conventional time above 63 A, hours (IEC 60898-1:2015 table 7)
_HOUR_S: Final = 3600.0
_AT_200: Final = "UL 489: opens at 200 %"


def _seconds(row: dict[str, str], longer: float, rating_a: float) -> float:
    if row["basis"] == _AT_200:  # large frames take longer there
        return 60 * (load("breaker_200").step("upto", "minutes", rating_a) or 0.0)
    seconds = float(row["seconds"])
    return seconds * longer if seconds >= _HOUR_S else seconds


def gg_ratings() -> tuple[float, ...]:
    """Ratings of gG fuse-links with tabulated gates."""
    return tuple(float(row["rating"]) for row in load("fuse_gg").rows)


def _gg(rating_a: float) -> Band | None:
    table = load("fuse_gg")
    row = table.find(rating=f"{rating_a:g}")
    if row is None:
        return None
    cells = _cells(table, row)
    hours = 3600 * cells["conventional_h"]
    return Band(
        device="gg",
        rating_a=rating_a,
        earliest=((cells["carries"] * rating_a, hours), (cells["least_10_s"], 10.0), (cells["least_0_1_s"], 0.1)),
        latest=((cells["opens"] * rating_a, hours), (cells["most_5_s"], 5.0), (cells["most_0_1_s"], 0.1)),
        pickup_a=None,
        estimated=False,
        source=table.cite,
    )


def _cells(table: Table, row: dict[str, str]) -> dict[str, float]:
    return {column: float(row[column]) for column in table.columns}


def _motor_breaker(rating_a: float, pickup_a: tuple[float, float] | None, trip: str) -> Band:
    """Its overload release by class, its magnetic release above."""
    times, found = (1.25, 1.5, 2.0, 3.0, 5.0, 7.2, 10.0), trip_class(trip)
    slow = [(1.3, 7200.0), *((x, found.latest_s(x)) for x in times[1:])]
    return Band(
        device="motor-breaker",
        rating_a=rating_a,
        earliest=tuple((x * rating_a, found.earliest_s(x)) for x in times),
        latest=tuple((x * rating_a, t) for x, t in slow),
        pickup_a=pickup_a,
        estimated=False,
        source=f"IEC 60947-4-1:2018 class {trip}; IEC 60947-2:2016 magnetic release ±20 %",
    )
