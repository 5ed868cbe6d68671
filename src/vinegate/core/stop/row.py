"""One way to stop as a row: its courses over the bands, and whether it does what is asked."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np

from vinegate.core.grade import Answer, Verdict, breaks, lacks, meets
from vinegate.core.numbers import write
from vinegate.core.records import dataclass, replace
from vinegate.core.start.detail import evenly, listed
from vinegate.core.stop.asked import LINE_SPEED, Asked
from vinegate.core.stop.courses import Slowing, Turning, after, freely, joined
from vinegate.core.stop.way import Way

_SHOWN: Final = 60
_SPEEDS_UP_PCT: Final = 105.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Acting:
    """What acts, from when to when, seconds after the stop is asked for."""

    name: str
    from_s: float
    to_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class StopRow:
    """One way to stop: text and numbers of its row, its slowest course, its quickest as a band beside it.

    `steps` are what its circuit does in order, `acting` the same against time. `heat_kj` in the strip is all heat, in
    the rotor and outside. What has a default is not in plans issued before 0.4.
    """

    method: str
    name: str
    setting: str
    verdict: Verdict
    why: str
    caution: str
    on_failure: str = ""
    steps: tuple[str, ...] = ()
    acting: tuple[Acting, ...] = ()
    holds: bool
    time_s: float | None
    least_s: float | None = None
    turns: float | None = None
    peak_a: float
    peak_nm: float = 0.0
    rotor_kj: float
    stator_kj: float
    outside_kj: float
    strip_s: tuple[float, ...]
    strip_pct: tuple[float, ...]
    strip_nm: tuple[float, ...] = ()
    strip_a: tuple[float, ...] = ()
    strip_kj: tuple[float, ...] = ()
    band_s: tuple[float, ...] = ()
    band_pct: tuple[float, ...] = ()
    chosen: bool = False
    otherwise_started: bool = False
    """Whether it asks for another start than there is."""
    room: float = 1.0
    """What is left of what is asked, as a share of it; below nought where it fails."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Doing:
    """What a way does before it is judged. `course` slows one of the corners."""

    setting: str
    course: Callable[[Turning], Slowing]
    caution: str
    steps: tuple[str, ...]
    acting: Callable[[Slowing], tuple[Acting, ...]] = lambda _: ()
    special: Callable[[tuple[Slowing, ...]], Answer | None] = lambda _: None


def row_of(asked: Asked, way: Way, doing: Doing) -> StopRow:
    """Work every corner, judge the worst. The slowest is shown, the quickest as a band."""
    courses = tuple(doing.course(turning) for turning in asked.corners)
    slowest = max(courses, key=lambda course: float("inf") if course.stops_s is None else course.stops_s)
    found = _judged(asked, way, doing, courses, slowest)
    row = StopRow(
        method=way.key,
        name=way.name,
        setting=doing.setting,
        verdict=found.verdict,
        why=found.text,
        room=_room(asked, found, courses, slowest),
        caution=doing.caution,
        holds=way.holds,
        time_s=slowest.stops_s,
        peak_a=0.0,
        rotor_kj=max(float(course.rotor_j[-1]) for course in courses) / 1000,
        stator_kj=0.0,
        outside_kj=max(float(course.outside_j[-1]) for course in courses) / 1000,
        strip_s=(),
        strip_pct=(),
    )
    return row if asked.brief else _shown(asked, way, doing, row, courses, slowest)


def _shown(
    asked: Asked, way: Way, doing: Doing, row: StopRow, courses: tuple[Slowing, ...], slowest: Slowing
) -> StopRow:
    """The row with all that is drawn and said of it."""
    quickest = min(courses, key=lambda course: float("inf") if course.stops_s is None else course.stops_s)
    keep, band = _kept(slowest), _kept(quickest)
    r1_ohm = asked.machine.r1_ohm if asked.machine is not None else 0.0
    wide = len(courses) > 1 and quickest.stops_s is not None
    return replace(
        row,
        on_failure=_on_failure(asked, way),
        steps=doing.steps,
        acting=doing.acting(slowest),
        least_s=quickest.stops_s,
        turns=None if slowest.stops_s is None else max(course.turns for course in courses),
        peak_a=max(float(course.line_a.max()) for course in courses),
        peak_nm=max(float(np.abs(course.brake_nm).max()) for course in courses),
        stator_kj=max(course.copper_j(r1_ohm) for course in courses) / 1000,
        strip_s=listed(slowest.time_s[keep], 4),
        strip_pct=listed(slowest.speed_pct[keep], 2),
        strip_nm=listed(slowest.brake_nm[keep], 2),
        strip_a=listed(slowest.line_a[keep], 2),
        strip_kj=listed((slowest.rotor_j[keep] + slowest.outside_j[keep]) / 1000, 4),
        band_s=listed(quickest.time_s[band], 4) if wide else (),
        band_pct=listed(quickest.speed_pct[band], 2) if wide else (),
    )


def _kept(course: Slowing) -> np.ndarray[tuple[int], np.dtype[np.int_]]:
    return np.array(sorted(evenly(course.time_s.size, _SHOWN)))


def after_delay(turning: Turning, delay_s: float, course: Callable[[Turning], Slowing]) -> Slowing:
    """The course behind a delay in which nothing acts."""
    if delay_s <= 0:
        return course(turning)
    found = after(turning, delay_s)
    if found is None:
        return freely(turning)
    lead, rest = found
    return joined(lead, course(rest))


def _coasting(asked: Asked) -> str:
    seconds = asked.coasts_s
    if asked.overhauls and seconds is None:
        return "the load runs away"
    return "it never stops by itself" if seconds is None else f"it coasts {write(seconds, 3)} s"


def _on_failure(asked: Asked, way: Way) -> str:
    if way.brakes_from_speed:
        return "The brake closes: it stops as shown, and holds."
    if way.holds:
        return "The brake closes from full speed, and holds."
    return f"{_coasting(asked).capitalize()}."


def _judged(asked: Asked, way: Way, doing: Doing, courses: tuple[Slowing, ...], slowest: Slowing) -> Answer:
    """Whether it does what is asked, and the sentence: holding first, then rest, heat, time and path."""
    refused = cannot_hold(asked, way) or _over_asked(asked, courses, slowest)
    if refused is not None:
        return breaks(refused)
    found = doing.special(courses) or meets(_plain(slowest))
    heat = _hottest_s(asked, courses)
    if not found.verdict.usable or heat is None or asked.stall is None or heat <= asked.stall.value:
        unknown = found.verdict.usable and asked.path_unknown
        return lacks(f"A distance is asked, and {LINE_SPEED} is not known.") if unknown else found
    bears = write(asked.stall.value)
    return breaks(f"One stop heats the machine as {write(heat, 2)} s at rest; it bears {bears} s from hot.")


def _room(asked: Asked, found: Answer, courses: tuple[Slowing, ...], slowest: Slowing) -> float:
    """The least share that is left of time, angle and path, and of what the winding bears."""
    if slowest.stops_s is None:
        return -1.0
    limits = [(slowest.stops_s, asked.stop.within_s), *_paths(asked, courses)]
    left = min([1 - value / limit for value, limit in limits if limit], default=1.0)
    heat = _hottest_s(asked, courses)
    if heat is not None and asked.stall is not None:
        left = min(left, 1 - heat / asked.stall.value)
    return -1.0 if left >= 0 and found.verdict in (Verdict.FAILS, Verdict.UNKNOWN) else left


def _paths(asked: Asked, courses: tuple[Slowing, ...]) -> list[tuple[float, float | None]]:
    """Turns of the driven shaft and metres of the load until rest, the longest, with what is asked of them."""
    turns = max(course.turns for course in courses)
    metres = (turns * asked.metres_a_turn, asked.stop.distance_m) if asked.metres_a_turn is not None else (0.0, None)
    return [(turns / asked.gear_ratio, asked.stop.within_turns), metres]


def _plain(slowest: Slowing) -> str:
    assert slowest.stops_s is not None
    fastest = float(slowest.speed_pct.max())
    runs = f" The load first speeds it up to {fastest:.0f} %." if fastest > _SPEEDS_UP_PCT else ""
    return f"At rest within {write(slowest.stops_s, 3)} s.{runs}"


def cannot_hold(asked: Asked, way: Way) -> str | None:
    """Why it does not hold as is asked; None where it does, or none is asked."""
    if way.holds:
        return None
    if asked.must_hold:
        saves = " Beside one, it saves linings." if way.slows_first else ""
        return f"It cannot hold at rest, nor without power: only a spring-set brake does.{saves}"
    if asked.must_stop_dead:
        return f"When power fails {_coasting(asked)}: asked is that it stops. Only a spring-set brake does that."
    if asked.hoist:
        return "A suspended load falls once it is neither driven nor held: only a spring-set brake holds it unfed."
    if asked.hold == "rest" and not way.by_frequency:
        return "It does not hold at rest: a spring-set brake does, or a drive while it has power."
    return None


def _over_asked(asked: Asked, courses: tuple[Slowing, ...], slowest: Slowing) -> str | None:
    """Time, angle and distance against what is asked."""
    stop = asked.stop
    if slowest.stops_s is None:
        return "It never comes to rest by this alone."
    if stop.within_s is not None and slowest.stops_s > stop.within_s * (1 + 1e-9):
        return f"At rest after {write(slowest.stops_s, 3)} s, {write(stop.within_s, 3)} s asked."
    (driven, _), (path, _) = _paths(asked, courses)
    if stop.within_turns is not None and driven > stop.within_turns:
        return f"At rest after {write(driven, 3)} turns of the driven shaft, {write(stop.within_turns, 3)} asked."
    if stop.distance_m is None or asked.metres_a_turn is None:
        return None
    return (
        None if path <= stop.distance_m else f"At rest after {write(path, 3)} m, {write(stop.distance_m, 3)} m asked."
    )


def _hottest_s(asked: Asked, courses: tuple[Slowing, ...]) -> float | None:
    """Heat of one stop by the machine's own current, in seconds at rest; None where it draws none."""
    locked = asked.locked_a
    if locked is None:
        return None
    found = [course.winding_s(locked) for course in courses if course.line_a.any()]
    return max(found) if found else None


def unknown_row(asked: Asked, way: Way, why: str, caution: str) -> StopRow:
    """A way that cannot be worked, with what is missing."""
    held = cannot_hold(asked, way) if asked.must_hold else None
    found = breaks(held) if held else lacks(why)
    return no_row(asked, way, found, caution)


def no_row(asked: Asked, way: Way, found: Answer, caution: str = "") -> StopRow:
    """A way without a course, and why."""
    return StopRow(
        method=way.key,
        name=way.name,
        setting="",
        verdict=found.verdict,
        why=found.text,
        caution=caution,
        on_failure=_on_failure(asked, way),
        holds=way.holds,
        time_s=None,
        peak_a=0.0,
        rotor_kj=0.0,
        stator_kj=0.0,
        outside_kj=0.0,
        strip_s=(),
        strip_pct=(),
    )
