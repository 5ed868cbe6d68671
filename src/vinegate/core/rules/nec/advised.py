"""The rating or setting of a short-circuit device that is advised by NFPA 70 article 430."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

from vinegate.core.protection.bands import MAGNETIC_TOLERANCE, band_of
from vinegate.core.protection.hold import least_holding, most_peak_a
from vinegate.core.protection.need import Need
from vinegate.core.protection.ratings import next_down, standard_ratings

_SETTING_STEP: Final = 10


def magnetic(need: Need, kind: str, rating: float) -> float | None:
    """The instantaneous release's setting; that of the start's sheet where it is given."""
    if kind == "instantaneous":
        return rating
    return need.circuit.start.instantaneous_trip_a if kind == "inverse-time" else None


def advised_of(need: Need, kind: str, usual_a: float, most_a: float) -> float:
    """The usual rating; where it is sure not to hold the start, the least larger one that does; none above the mark."""
    between: Sequence[float] = [usual_a]
    if kind == "instantaneous":
        return _least_setting(need, usual_a, most_a)
    ratings, marked = standard_ratings(fuse=kind != "inverse-time"), need.circuit.protection.drive_device_a
    if marked is not None:
        most_a = min(most_a, next_down(marked, ratings))
        usual_a = min(usual_a, most_a)
        between = [usual_a]
    if most_a > usual_a:
        between = [rating for rating in ratings if usual_a <= rating <= most_a]
    tried = least_holding(need, between, lambda a: band_of(kind, a, magnetic_a=magnetic(need, kind, a)))
    return usual_a if tried is None else tried


def _least_setting(need: Need, usual_a: float, most_a: float) -> float:
    """The least setting whose release surely holds the peak of the start, in whole tens; the usual one where no start
    is known, the largest where none holds.
    """
    peaks = [peak for one in need.everywhere if (peak := most_peak_a(one)) is not None]
    if not peaks:
        return usual_a
    least = math.ceil(max(peaks) / (1 - MAGNETIC_TOLERANCE) / _SETTING_STEP) * _SETTING_STEP
    return min(least, most_a)
