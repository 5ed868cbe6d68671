"""Whether a short-circuit device holds the start: how much of its least opening time each moment of it uses up."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence

import numpy as np

from vinegate.core.protection.bands import Band
from vinegate.core.protection.need import Need
from vinegate.core.records import dataclass, replace
from vinegate.core.start.ways import USUAL


@dataclass(frozen=True, slots=True, kw_only=True)
class Hold:
    """`share` of the device's least opening time that the start uses (above 1 it may open); amperes rms.

    `peak_a` is the first-cycle or reclosing peak over √2, what an instantaneous release sees, `most_a` the same with
    the least power factor at rest that is estimated, against `pickup_a`, the least at which it may trip. None where the
    device has no such release or the start is not known.
    """

    share: float | None
    peak_a: float | None
    most_a: float | None
    pickup_a: float | None

    @property
    def past(self) -> bool:
        """Whether its current passes what is promised to be carried: nothing is known of that."""
        return self.share is not None and math.isinf(self.share)

    @property
    def peak_fits(self) -> bool:
        """Whether the peak trips nothing, whatever its power factor."""
        return self.most_a is None or self.pickup_a is None or self.most_a <= self.pickup_a

    @property
    def holds(self) -> bool | None:
        """None while the start is not known."""
        if self.share is None and self.peak_a is None:
            return None
        return self.peak_fits and (self.share is None or self.share <= 1)


def peak_a(need: Need) -> float | None:
    """First-cycle peak of the way in use, or its reclosing spike where that is higher, over √2, in amperes."""
    used, first = need.used, None
    if need.peak is not None:
        first = need.peak.value / math.sqrt(2)
    if used is not None and used.peak_a is not None:
        if need.way.electronic:
            first = used.peak_a
        elif need.method != USUAL.key and need.locked is not None and need.peak is not None:
            first = used.peak_a * min(need.peak.value / math.sqrt(2) / need.locked.value, 2.0)
        if used.spike is not None:
            first = max(first or 0.0, used.spike.peak_a / math.sqrt(2))
    return first


def most_peak_a(need: Need) -> float | None:
    """The same with the least power factor at rest that is estimated: the smaller it is, the more is it offset."""
    peak, sag = peak_a(need), need.sag
    if peak is None or sag is None or held(need):
        return peak
    return peak * sag.higher(sag.current.value, sag.factor.low)


def held(need: Need) -> bool:
    """Whether electronics hold the current of the start."""
    return need.used is not None and (need.used.held_by_limit or need.used.held_by_ramp)


def least_s(need: Need, band: Band) -> float:
    """Least time for which it carries locked-rotor current, s: promised, or past that by the same heat."""
    assert need.current is not None
    quiet = replace(band, pickup_a=None)
    return float(quiet.earliest_s(np.array([need.current.value]), promised=False)[0])


def by_maker(need: Need, band: Band) -> float | None:
    """Share of the time stated by its maker for locked-rotor current; None where none is, or it decides nothing.

    The usual curve is moved in time to pass through what is stated, so that shares go with one over it. What a
    standard promises is not taken back by a shorter time.
    """
    said = need.circuit.protection.holds_s
    if said is None or need.current is None:
        return None
    share, least = hold(need, band, promised=False).share, least_s(need, band)
    if share is None or math.isinf(least) or (said <= least and not band.estimated):
        return None
    return share * least / said


def holds_all(needs: Iterable[Need], band: Band) -> bool | None:
    """Whether it holds each of these starts; None while none of them is known."""
    found = {hold(one, band).holds for one in needs}
    return False if False in found else True if True in found else None


def surely_holds(need: Need, band: Band) -> bool:
    """Whether it holds the start with the most that its current may be, and the least power factor at rest; a start
    that is not known asks nothing.
    """
    found = hold(need, band)
    if found.holds is None:
        return True
    if not found.holds or found.past:
        return False
    amps, sag = need.current, need.sag
    if amps is None or held(need):
        return True
    more = amps.high / amps.value
    if found.peak_a is not None and found.pickup_a is not None:
        higher = more if sag is None else sag.higher(more * sag.current.value, sag.factor.low)
        if found.peak_a * higher > found.pickup_a:
            return False
    return (found.share or 0.0) * more**2 <= 1


def surer(
    need: Need, ratings: Iterable[float], band_of: Callable[[float], Band | None], fits: Callable[[Band], bool]
) -> float | None:
    """The least of these ratings that surely holds every start and fits; None where none does."""
    for rating in ratings:
        band = band_of(rating)
        if band is not None and all(surely_holds(one, band) for one in need.everywhere) and fits(band):
            return rating
    return None


def least_holding(need: Need, ratings: Sequence[float], band_of: Callable[[float], Band | None]) -> float | None:
    """The least rating not sure to open on a start, past a drive and on the standby too; where none serves all of
    them, on its own. None where none does.
    """
    bands = [(rating, band_of(rating)) for rating in ratings]
    for needs in (need.everywhere, (need,)):
        for rating, band in bands:
            if band is None or holds_all(needs, band) is not False:
                return rating
    return None


def hold(need: Need, band: Band, *, promised: bool = True) -> Hold:
    """Sum of `dt/t_least(I)` along the simulated start; the peak against a magnetic release.

    `promised`: nothing is carried past what is promised; else as long as its heat lasts.

    Where a device has been partly heated its remaining time at another current is in proportion: the usual rule for
    accumulating unequal overloads on one time-current curve.
    """
    detail = need.detail
    share = None
    if detail is not None and band.earliest:
        time, amps = np.array(detail.time_s), np.array(detail.line_a)
        steps, middle = np.diff(time), (amps[1:] + amps[:-1]) / 2
        least = replace(band, pickup_a=None).earliest_s(middle, promised=promised)
        with np.errstate(divide="ignore"):
            share = float(np.sum(np.where(least > 0, steps / np.maximum(least, 1e-12), np.inf)[steps > 0]))
    pickup = None if band.pickup_a is None else band.pickup_a[0]
    if pickup is None:
        return Hold(share=share, peak_a=None, most_a=None, pickup_a=None)
    return Hold(share=share, peak_a=peak_a(need), most_a=most_peak_a(need), pickup_a=pickup)
