"""What a way to stop rests on that nobody gave, and how it does over all that this may be."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.grade import Verdict, unsettled
from vinegate.core.numbers import write
from vinegate.core.records import replace
from vinegate.core.stop.asked import Asked, turned
from vinegate.core.stop.direct import STRENGTH
from vinegate.core.stop.drive import ramp_taken
from vinegate.core.stop.friction import brake_torque
from vinegate.core.stop.row import StopRow
from vinegate.core.stop.way import Way
from vinegate.core.turning import Room, Taken, best_room, ends_of, less, more, point, worst_room

_TORQUE: Final = (0.7, 1.3)  # of the brake that is usual, where none is given
_LINING_PCT: Final = (200 / 3, 100.0)  # linings brake between two thirds and all of their mark
_CLOSES_S: Final = (0.0, 0.3)  # a spring-set brake's coil, fed by its own rectifier, lets go so late at most; assumed


def brake_taken(asked: Asked) -> Taken:
    """The brake's torque at its own shaft, with its band where it is not given."""
    given = asked.stop.brake_torque_nm
    geared = asked.gear_ratio if asked.stop.brake_side == "driven" else 1.0
    value = brake_torque(asked) * geared if given is None else given
    low, high = (value, value) if given is not None else (_TORQUE[0] * value, _TORQUE[1] * value)
    return Taken(
        path="stop.brake_torque", label="brake torque", unit="N·m", value=value, low=low, high=high,
        how="" if given is not None else "assumed", given=given is not None,
    )  # fmt: skip


def lining_taken(asked: Asked) -> Taken:
    """What is left of the brake's mark at its worst."""
    given = asked.stop.lining_pu
    low, high = _LINING_PCT if given is None else (100 * given, 100 * given)
    return Taken(
        path="stop.lining", label="lining at its worst", unit="%", value=high, low=low, high=high,
        how="assumed" if given is None else "", given=given is not None, possible=(2.0, 100.0),
    )  # fmt: skip


def closing_taken(asked: Asked) -> Taken:
    """How late the brake closes."""
    given = asked.stop.brake_delay_s
    low, high = _CLOSES_S if given is None else (given, given)
    return Taken(
        path="stop.brake_delay", label="time until the brake closes", unit="s", value=low, low=low, high=high,
        how="assumed" if given is None else "", given=given is not None,
    )  # fmt: skip


def rests(asked: Asked, way: Way) -> tuple[Taken, ...]:
    """Facts behind a way's course that have a band, each with the side on which it leaves more room.

    What the load asks helps, unless the load drives: then less inertia is gained upon the faster before anything acts,
    and neither side is the worse. A timer may open too early as well as too late: no side then.
    """
    load = asked.load
    if asked.overhauls:
        found = [load.inertia, load.rotor, *less(load.power)]
    else:
        found = [*less(load.inertia, load.rotor), *more(load.power, load.breakaway)]
    if way.holds:
        found += [*more(brake_taken(asked), lining_taken(asked)), *less(closing_taken(asked))]
    if way.by_frequency and asked.breaks is not None and asked.drive_nm is not None:
        found.append(asked.breaks)
    if way.by_frequency:
        found.append(ramp_taken(asked))
    if way.by_circuit:
        found += more(STRENGTH, *((asked.stall,) if asked.stall is not None else ()))
    windowed = bool(way.window) and getattr(asked.stop, way.window) is not None
    return tuple(one.sensed(0) if windowed else one for one in found if one.wide)


def rests_of(asked: Asked, way: Way, row: StopRow) -> tuple[Taken, ...]:
    """The same of its row as taken. Direct current that comes too late as taken may be wanted where more has to be
    stopped, as well as too little where less is: no side then.
    """
    soft = rests(asked, way)
    return tuple(one.sensed(0) for one in soft) if way.direct and row.room < 0 else soft


def other(asked: Asked, taken: Sequence[Taken], values: Sequence[float]) -> Asked:
    """The same need with these facts at other values."""
    load, at = asked.load, {one.label: value for one, value in zip(taken, values, strict=True)}

    def now(one: Taken) -> float:
        return at.get(one.label, one.value)

    turning = turned(
        asked,
        inertia_times=asked.inertia_times(now(load.inertia), now(load.rotor)),
        rotor_kgm2=now(load.rotor),
        power_times=now(load.power) / load.power.value if load.power.value else 1.0,
        breakaway_pu=now(load.breakaway) / 100,
    )
    brake, lining, closing, stall = brake_taken(asked), lining_taken(asked), closing_taken(asked), asked.stall
    own = {"brake_torque_nm": (brake, 1.0), "lining_pu": (lining, 0.01), "brake_delay_s": (closing, 1.0),
           "drive_ramp_s": (ramp_taken(asked), 1.0)}  # fmt: skip
    changed = {name: at[one.label] * unit for name, (one, unit) in own.items() if one.label in at}
    stop = asked.stop.model_copy(update=changed) if changed else asked.stop
    if stall is not None and stall.label in at:
        stall = point(at[stall.label])
    drive_nm, breaks = asked.drive_nm, asked.breaks
    if drive_nm is not None and breaks is not None:  # what breaks down sooner brakes with about so much less
        drive_nm *= min(now(breaks) / breaks.value, 1.0)
    return replace(asked, corners=turning, stop=stop, stall=stall, strength=asked.strength * now(STRENGTH),
                   drive_nm=drive_nm, brief=True)  # fmt: skip


def room_of(asked: Asked, way: Way, soft: Sequence[Taken], row: StopRow) -> Room:
    """What is left of what is asked, as a share, by the values of these facts; `row` is the way's as they are taken."""
    at_hand = replace(asked, idle_serves=row.room >= 0)
    return lambda *values: way.make(other(at_hand, soft, values)).room


def worked(asked: Asked, way: Way) -> StopRow:
    """A way's row, to check where what is estimated decides."""
    row = way.make(asked)
    soft = rests_of(asked, way, row)
    if not soft or row.verdict is Verdict.UNKNOWN:
        return row
    seen: list[float | None] = [row.time_s]
    at_hand = replace(asked, idle_serves=row.room >= 0)

    def room(*values: float) -> float:
        found = way.make(other(at_hand, soft, values))
        seen.append(found.time_s)
        return found.room

    # Of the two ends only the one that may turn it; the other is worked for what is said then.
    ends = ends_of(soft)
    if (worst_room if row.room >= 0 else best_room)(room, ends, soft) * row.room >= 0:
        return row
    (best_room if row.room >= 0 else worst_room)(room, ends, soft)
    found = unsettled(f"{row.why} {_between(seen)}")
    return replace(row, verdict=found.verdict, why=found.text)


def _between(seconds: Sequence[float | None]) -> str:
    known = [one for one in seconds if one is not None]
    ends = [f"{write(end, 3)} s" for end in (min(known), max(known))] if known else []
    if len(known) < len(seconds):
        ends[1:] = ["never"] * bool(ends)
    if len(set(ends)) < 2:
        return "Over all that is estimated it may or may not."
    return f"Over all that is estimated: {ends[0]} to {ends[1]}."
