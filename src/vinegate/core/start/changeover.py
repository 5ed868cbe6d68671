"""When to change over: earliest acceptable, recommended and latest moment of a start in two connections."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import numpy.typing as npt

from vinegate.core.records import dataclass
from vinegate.core.start.run_up import RunUp, at_speed_place
from vinegate.core.start.trace import volts_along

BoolArray = npt.NDArray[np.bool_]
TIMER_TOLERANCE = 0.10
SCHOOLS = (0.60, 0.80)
_HANGING = 0.985  # of the speed where the first connection stops gaining: nothing is won by waiting longer


@dataclass(frozen=True, slots=True, kw_only=True)
class ChangeOver:
    """Moments in seconds from the start, speeds of synchronous. `earliest_s` is None when no moment is acceptable.

    `schools` are (share of speed, seconds or None when the first connection never gets there).
    """

    earliest_s: float | None
    recommended_s: float
    latest_s: float
    recommended_speed_pu: float
    step_a: float
    schools: tuple[tuple[float, float | None], ...]

    @property
    def timer_s(self) -> tuple[float, float]:
        """The recommended timer with its tolerance."""
        return self.recommended_s * (1 - TIMER_TOLERANCE), self.recommended_s * (1 + TIMER_TOLERANCE)


def change_over(
    runs: RunUp, first: str, then: str, *, dip_limit_pu: float | None, before_pu: float, enough: Callable[[], BoolArray]
) -> ChangeOver:
    """Find the moments. The step is acceptable where the second connection keeps the main board's dip in the limit;

    without a limit, where it draws no more than the first did at rest. Recommended is past the earliest by more than a
    timer's tolerance, and where the step is no higher than the first inrush, if that comes before the latest and while
    the first connection still leaves torque `enough`, said for each speed.
    """
    row, after = runs.row(first), runs.row(then)
    stop, speed, axis = float(runs.stop[row]), runs.plant.speed_pu, runs.plant.axis
    step = np.abs(runs.behaviour.line[after]) * runs.plant.amps_per_pu
    inrush = float(np.abs(runs.behaviour.line[row, 0])) * runs.plant.amps_per_pu
    floor_pu = 0.0 if dip_limit_pu is None else before_pu * (1 - dip_limit_pu)
    too_much = step > inrush if dip_limit_pu is None else volts_along(runs.behaviour)[after, 0] < floor_pu
    place = _behind(too_much)
    latest = min(float(np.interp(_HANGING * runs.speed_pu_at(stop), speed, axis)), at_speed_place(runs, stop))

    def when(at: float) -> float:
        return runs.read(runs.time_s, row, at)

    last_s = when(latest)

    def best(earliest: float) -> float:
        soonest, waits = earliest * (1 + 1.2 * TIMER_TOLERANCE), when(min(_behind(step > inrush), latest))
        if waits > soonest:
            waits = min(waits, when(_leaves_enough(enough(), latest)))
        return min(max(soonest, waits), last_s)

    recommended = last_s if (earliest := when(place) if place <= latest else None) is None else best(earliest)
    chosen = runs.place_of_time(row, recommended)
    passes = {share: float(np.interp(share, speed, axis)) for share in SCHOOLS if share < runs.speed_pu_at(stop)}
    return ChangeOver(
        earliest_s=earliest,
        recommended_s=recommended,
        latest_s=last_s,
        recommended_speed_pu=runs.speed_pu_at(chosen),
        step_a=float(np.interp(chosen, axis, step)),
        schools=tuple((share, when(passes[share]) if share in passes else None) for share in SCHOOLS),
    )


def _behind(bad: BoolArray) -> float:
    """The place behind the last that is bad."""
    places = np.flatnonzero(bad)
    return float(places[-1] + 1) if places.size else 0.0


def _leaves_enough(enough: BoolArray, latest: float) -> float:
    """The last place before the torque is no longer enough; the latest where it is so from rest, or never."""
    short = np.flatnonzero(~enough)
    return float(short[0] - 1) if short.size and short[0] > 0 else latest
