"""A load that comes and goes: the winding's warmth over a repeated cycle, by a first-order body."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.drive.cooling import CORE_LOSS, DRAG_LOSS, LOAD_LOSS
from vinegate.core.drive.duty import Point, rows_of, torque_of, worst_of_each
from vinegate.core.drive.envelope import Laden
from vinegate.core.drive.flux import Fluxed, Settled
from vinegate.core.drive.points import OperatingPoints
from vinegate.core.drive.rating import Rating, settled
from vinegate.core.grade import Gate, at_most
from vinegate.core.numbers import write
from vinegate.core.records import dataclass, replace
from vinegate.core.remedy import either
from vinegate.core.turning import Taken, less, more
from vinegate.core.working import Provenance

_CONSTANT_S: Final = ((11e3, 1500.0), (75e3, 2400.0), (math.inf, 3600.0))
_BAND: Final = 0.5
_ENDLESS_S: Final = 1e6  # of a cycle that never rests, so that it stays a number
_SOURCE: Final = "dθ/dt = (p − h·θ)/τ, repeated: IEC 60034-1:2022 4.2, duty types S8 to S10"


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """One part of the cycle: losses and cooling over those at rated load, and how long it lasts, s."""

    losses: float
    cooling: float
    seconds: float


def warmest(parts: Sequence[Part], constant_s: float) -> float:
    """The highest rise of the repeated cycle, over that at rated load.

    In each part the rise goes to p/h with h/τ; the cycle begins where it ends. A steady rated load gives one:

    >>> round(warmest([Part(losses=1, cooling=1, seconds=60), Part(losses=1, cooling=1, seconds=9)], 1800), 9)
    1.0
    """
    share, gained = 1.0, 0.0
    for part in parts:
        kept = math.exp(-part.cooling * part.seconds / constant_s)
        share, gained = share * kept, gained * kept + part.losses / part.cooling * (1 - kept)
    rise = gained / (1 - share) if share < 1 else max(part.losses / part.cooling for part in parts)
    found = rise
    for part in parts:
        kept = math.exp(-part.cooling * part.seconds / constant_s)
        rise = rise * kept + part.losses / part.cooling * (1 - kept)
        found = max(found, rise)
    return found


def cycle_gates(supplied: Laden, rating: Rating) -> Iterator[Gate]:
    """Heat, torque and the drive's amperes over the cycle; nothing where none is given."""
    typed = supplied.need.facts.cycle
    if typed is None:
        return
    asked = [torque_of(supplied.need, one) for one in typed.points]
    solved = supplied.settle(*_columns(asked))
    yield _warmth(supplied, typed, solved)
    points = tuple(
        Point(rpm=rpm, nm=nm, hours=None, stated=point.load is not None, name="")
        for (rpm, nm), point in zip(asked, typed.points, strict=True)
        if rpm > 0 and nm > 0
    )
    names = {"drive.torque": "Torque over its cycle", "drive.breakdown": "Kept from breakdown over its cycle"}
    for gate in worst_of_each(rows_of(supplied, points)) if points else ():
        if gate.key in names:
            yield replace(gate, key=f"drive.cycle_{gate.key.partition('.')[2]}", name=names[gate.key])
    if rating.rated_a is not None:
        yield _amperes(supplied, rating, typed, solved[1].amps)


def _columns(asked: Sequence[tuple[float, float]]) -> tuple[Array, Array]:
    """Speeds, turns a minute, and torques, N·m."""
    return np.array([rpm for rpm, _ in asked]), np.array([nm for _, nm in asked])


def _warmth(supplied: Laden, typed: OperatingPoints, solved: tuple[Array, Settled, Fluxed]) -> Gate:
    """The winding's rise over the cycle against what its insulation bears."""
    need, cooling = supplied.need, supplied.cooling
    k, found, _ = solved
    speed = supplied.speed_of(k)
    parts = [
        Part(
            losses=LOAD_LOSS * (float(amps) / supplied.plate_a / cooling.derate) ** 2
            + CORE_LOSS * float(at) ** 1.5 + DRAG_LOSS * float(at) ** 3,
            cooling=max(float(cooling.share(at)), 0.05),
            seconds=point.hours or 0.0,
        )
        for amps, at, point in zip(found.amps, np.minimum(speed, 1.0), typed.points, strict=True)
    ]  # fmt: skip
    constant = next(value for most, value in _CONSTANT_S if need.power_w <= most)
    tau = need.sheet.given("thermal_constant", "Thermal time constant", "τ", constant, "s",
                           provenance=Provenance.ASSUMED, source="by its size, usual of closed machines")  # fmt: skip
    peak = need.sheet.given("cycle_rise", "Warmest of the cycle, over rated rise", "θ", warmest(parts, tau.value), "",
                            provenance=Provenance.ESTIMATED, source=_SOURCE)  # fmt: skip
    body = Taken(label="its thermal time constant", value=tau.value, low=(1 - _BAND) * tau.value,
                 high=(1 + _BAND) * tau.value, how="assumed", sense=1)  # fmt: skip
    text = (
        f"Over the cycle of {write(sum(part.seconds for part in parts), 3)} s its winding warms to "
        f"{write(peak.value, 3)} "
        f"of the rated rise; its insulation bears {write(cooling.bears, 3)}."
    )
    return at_most(
        "drive.cycle", "Cool enough over its cycle", peak.value, cooling.bears, sentence=text, source=_SOURCE,
        remedy=either("a larger motor", cooling.blower, "longer rests"), rests=(body,),
        room=lambda seconds: cooling.bears - warmest(parts, seconds),
    )  # fmt: skip


def _amperes(supplied: Laden, rating: Rating, typed: OperatingPoints, amps: Array) -> Gate:
    """No longer above its rating at a stretch than its overload lasts, and no more than that as rms of its period; with
    the band of the load where its torque is the curve's.
    """
    need, plate_a, lasts_s = supplied.need, rating.plate_a or 0.0, rating.overload_s
    curves = any(point.load is None for point in typed.points) and need.load_power.wide
    soft = less(need.load_power) if curves else ()

    def parts_of(each: Array) -> list[tuple[float, float]]:
        return [(need.motors * float(one), point.hours or 0.0) for one, point in zip(each, typed.points, strict=True)]

    def with_load(power: tuple[float, ...]) -> list[tuple[float, float]]:
        if not power or power[0] == need.load_power.value:
            return parts_of(amps)
        times = power[0] / need.load_power.value
        asked = [torque_of(need, one) for one in typed.points]
        grown = [(rpm, nm if point.load is not None else times * nm)
                 for (rpm, nm), point in zip(asked, typed.points, strict=True)]  # fmt: skip
        return parts_of(supplied.settle(*_columns(grown))[1].amps)

    def room(share: float, *power: float) -> float:
        held = with_load(power)
        lasts = min(stretch_of(held, plate_a * share), _ENDLESS_S)
        return min(1 - rms_of(held, rating.period_s) / (plate_a * share), 1 - lasts / lasts_s)

    parts, rated = parts_of(amps), plate_a * rating.left.value
    rms, stretch = rms_of(parts, rating.period_s), stretch_of(parts, rated)
    lasts = f"{write(stretch, 3)} s at a stretch" if math.isfinite(stretch) else "and always"
    text = (
        f"Over {write(rating.period_s, 3)} s of its cycle the drive gives {write(rms, 3)} A as rms, {lasts} above its "
        f"{write(rated, 3)} A; {write(lasts_s, 3)} s are borne."
    )
    value, limit, unit = (stretch, lasts_s, "s") if rms <= rated and stretch > lasts_s else (rms, rated, "A")
    gate = at_most(
        "drive.cycle_amperes", "Drive's amperes over its cycle", value, limit, sentence=text, unit=unit,
        source="NEMA ICS 7; IEC 61800-2; overload, its time and its period by the maker",
        rests=(*more(rating.left), *soft), room=room, remedy="A drive of more amperes, or longer rests.",
    )  # fmt: skip
    return settled(gate, rating, lambda share: room(share, *(one.high for one in soft)))


def rms_of(parts: Sequence[tuple[float, float]], period_s: float) -> float:
    """The most that amperes held for so many seconds each, over and over, are as rms of any period, A.

    The worst of those that begin or end with a part: between them the mean moves along straight lines.

    >>> round(rms_of([(150, 60), (92.8, 540)], 600), 1), rms_of([(30, 10), (0, 10)], 10)
    (100.0, 30.0)
    """
    whole = sum(seconds for _, seconds in parts)
    if not whole:
        return max((amps for amps, _ in parts), default=0.0)
    ends = np.concatenate([[0.0], np.cumsum([seconds for _, seconds in parts])])
    squares = np.concatenate([[0.0], np.cumsum([amps**2 * seconds for amps, seconds in parts])])

    def until(at: float) -> float:
        turns, rest = divmod(at, whole)
        return turns * float(squares[-1]) + float(np.interp(rest, ends, squares))

    begins = [float(end) + shift for end in ends for shift in (0.0, -period_s % whole)]
    return math.sqrt(max(until(begin + period_s) - until(begin) for begin in begins) / period_s)


def stretch_of(parts: Sequence[tuple[float, float]], rated_a: float) -> float:
    """The longest that it is above these amperes at a stretch, the cycle's end going on with its beginning, s.

    >>> stretch_of([(9, 5), (1, 2), (8, 4)], 5), stretch_of([(9, 5), (8, 4)], 5)
    (9.0, inf)
    """
    if all(amps > rated_a for amps, _ in parts):
        return math.inf
    longest = run = 0.0
    for amps, seconds in (*parts, *parts):
        run = run + seconds if amps > rated_a else 0.0
        longest = max(longest, run)
    return longest
