"""Whether the device upstream stays closed: where its curve and this circuit's device cross."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from vinegate.core.arrays import Array
from vinegate.core.grade import Gate, at_least, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.protection.bands import LEAST_S, Band
from vinegate.core.protection.need import Need
from vinegate.core.protection.upstream import DeviceCurve
from vinegate.core.turning import Taken

_POINTS = 400


def crossings(band: Band, curve: DeviceCurve, most_a: float) -> tuple[tuple[float, float], ...]:
    """Amperes and seconds where the device's longest time and the upstream's least cross, up to the fault current."""
    amps = np.geomspace(band.rating_a, max(most_a, 2 * band.rating_a), _POINTS)
    ours, theirs = band.latest_s(amps), curve.at(amps)
    known = _known(ours, theirs)
    gap = np.where(known, np.log(np.where(known, theirs, 1.0)) - np.log(np.where(known, ours, 1.0)), np.nan)
    found = []
    for place in np.nonzero(known[1:] & known[:-1] & (np.sign(gap[1:]) != np.sign(gap[:-1])))[0]:
        share = gap[place] / (gap[place] - gap[place + 1])
        a = float(np.exp(np.log(amps[place]) + share * (np.log(amps[place + 1]) - np.log(amps[place]))))
        found.append((a, float(curve.at(np.array([a]))[0])))
    return tuple(found)


def _known(ours: Array, theirs: Array) -> NDArray[np.bool_]:
    """Where both curves say something: below a hundredth of a second neither does."""
    return np.isfinite(ours) & np.isfinite(theirs) & (ours >= LEAST_S)


def upstream_gate(need: Need, band: Band | None) -> list[Gate]:
    """Selective up to the fault at this board, or to the current at which the curves cross."""
    curve, key, name = need.circuit.protection.upstream, "protection.upstream", "Upstream stays closed"
    if curve is None:
        return []
    if band is None or need.fault is None:
        return [unknown(key, name, ("the device and the supply",))]
    most = 1000 * need.fault.value
    found = crossings(band, curve, most)
    source = "curve given for the device upstream, its least times; this device's longest"
    if found:
        amps, seconds = found[0]
        text = f"The curves cross at {write(amps, 3)} A, {write(seconds, 2)} s: above that both may open."
        remedy = "A quicker or smaller device here, or a slower one upstream."
        return [_partly(key, name, amps, most, need, text, source, remedy)]
    least = np.geomspace(band.rating_a, most, _POINTS)
    ours, theirs = band.latest_s(least), curve.at(least)
    both = _known(ours, theirs)
    if bool(np.any(theirs[both] < ours[both])):
        text = "The device upstream is the quicker one throughout."
        return [rule(key, name, False, text, source, remedy="A slower device upstream.")]
    text = f"No crossing up to {write(most / 1000, 3)} kA, the fault current at this board."
    return [rule(key, name, True, text, source)]


def _partly(key: str, name: str, amps: float, most: float, need: Need, text: str, source: str, remedy: str) -> Gate:
    """Selective up to a current: enough where the job asks selectivity only up to so much."""
    asked = need.circuit.protection.selective_to_a
    wanted = Taken(
        path="protection.selective_to", label="current up to which it must be selective", unit="A",
        value=most if asked is None else asked, low=0.0 if asked is None else asked,
        high=most if asked is None else asked, how="the whole fault" if asked is None else "", given=asked is not None,
    )  # fmt: skip
    return at_least(
        key, name, amps, wanted.value, sentence=text, source=source, unit="A", rests=(wanted,),
        room=lambda upto: amps - upto, remedy=remedy,
    )  # fmt: skip
