"""The gates of one way to start, from its course."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.grade import Gate, at_least, rule
from vinegate.core.start.asked import UNLOADED, Asked
from vinegate.core.start.drive_course import COUNTED, available_torque
from vinegate.core.start.judge_capacitor import capacitor_gate
from vinegate.core.start.judge_commutator import commutator_gate
from vinegate.core.start.judge_flicker import flicker_gates
from vinegate.core.start.judge_heat import class_gate, per_hour_gate, stall_gate, succession_gate, trip_gate
from vinegate.core.start.judge_volts import (
    contactor_gate,
    dip_gate,
    sensitive_gate,
    share_drawn,
    utility_gate,
)
from vinegate.core.start.laden import Laden
from vinegate.core.start.plant import Plant
from vinegate.core.start.relay import RelayHeat
from vinegate.core.start.simulation import MethodRun
from vinegate.core.start.trace import Outcome
from vinegate.core.start.ways import way_of
from vinegate.core.turning import SLACK, Taken, less, more

_MOST_LIMIT: Final = 2.0
"""Of drives for a short time, times the motor's rated amperes: of one a size larger."""
_SOURCE: Final = "least of machine torque less load torque over the speed range, of rated"


def judge(
    plant: Plant, run: MethodRun, asked: Asked, before: Array, relay: RelayHeat, terminals: Gate | None = None
) -> tuple[Gate, ...]:
    """All gates of one method. `terminals` is the gate of the terminals' volts where the starter does not lower them
    on purpose.
    """
    laden = Laden(plant, run.course, asked.load)
    found: list[Gate | None] = [
        torque_gate(plant, run, asked),
        terminals,
        dip_gate(plant, run, asked, before),
        contactor_gate(plant, run, asked, before),
        *[sensitive_gate(plant, run, asked, load, before) for load in asked.sensitive],
        utility_gate(plant, run, asked),
        *(flicker_gates(plant, run, asked, before) if asked.flicker is not None else ()),
        stall_gate(laden, run, asked),
        commutator_gate(run, asked),
        class_gate(laden, run, asked, relay),
        succession_gate(laden, run, asked),
        per_hour_gate(laden, run, asked),
        capacitor_gate(laden, run, asked),
        trip_gate(plant, run, asked),
    ]
    return tuple(gate for gate in found if gate is not None)


def torque_gate(plant: Plant, run: MethodRun, asked: Asked, leaves: tuple[Taken, ...] = ()) -> Gate:
    """Least margin of torque over the way up; a lower bound where the torque is a promised least. `leaves` is the share
    of its torque that a run leaves which is not known; none where it is.
    """
    key, name, limit = "start.torque", "Torque to get away", 100 * asked.margin_pu
    if run.torque is None:
        return _driven(plant, run, asked, key, name, limit)
    speed, torque = run.torque
    load = _load_of(plant, asked, speed)
    least = torque - load(asked.load.power.value, asked.load.breakaway.value)
    place = int(np.argmin(least))
    margin = 100 * float(least[place]) / plant.rated_torque_nm
    text = f"{'At least ' if _is_least(asked) else ''}{margin:.0f} % of rated torque to spare on the way up."
    if run.course.outcome is Outcome.STALLS:
        text = "It does not break the load away: at rest the load asks more than it gives."
    elif run.course.outcome is Outcome.HANGS:
        text = f"It hangs at {100 * run.course.final_speed_pu:.0f} % of speed, where its torque meets the load's."
    elif margin < limit:
        text += f" {limit:.0f} % is asked."
    promised = _deciding(asked, float(speed[place]))
    governed = [_governed(asked, speed, one) for one in promised]

    current, fed = _by_current(plant, run, asked, speed)

    def room(*facts: float) -> float:
        power, breakaway, *rest = facts[len(promised) :]
        grown = torque * (rest[0] if leaves else 1.0) * (fed(rest[-1]) if current else 1.0)
        for one, where, value in zip(promised, governed, facts, strict=False):
            grown[where] *= value / one.value
        spare = float((grown - load(power, breakaway)).min()) / plant.rated_torque_nm
        return spare - asked.margin_pu

    asks = (asked.load.power, asked.load.breakaway)
    return at_least(
        key, name, margin, limit, sentence=text, source=_SOURCE, unit="%", remedy=_stronger(run, asked), room=room,
        rests=more(*promised) + less(*asks) + more(*leaves) + less(*current),
    )  # fmt: skip


def _by_current(
    plant: Plant, run: MethodRun, asked: Asked, speed: Array
) -> tuple[tuple[Taken, ...], Callable[[float], Array]]:
    """The current at rest where nobody gave it, and torque at these speeds with another one, over that as taken: it was
    taken at its high end, and one that draws less keeps more volts, whose square torque goes with.
    """
    sag, whole = asked.sag, np.ones_like(speed)
    if sag is None or sag.current.given or not sag.current.wide or run.held or run.ramped or run.commutator:
        return (), lambda amps: whole
    course, taken, share = run.course, [one.value for one in sag.rests], share_drawn(plant, run)
    amperes = course.all("motor_a")
    drawn = np.interp(speed, course.all("speed_pu"), amperes) / max(float(amperes.max()), 1e-9)

    def kept(amps: float) -> Array:
        falls = 1 - sag.stays([amps, *taken[1:]], share) * sag.plate_v / sag.volts_v
        return np.asarray(1 - drawn * falls)

    return (sag.current,), lambda amps: (kept(amps) / kept(taken[0])) ** 2


def _deciding(asked: Asked, speed_pu: float) -> list[Taken]:
    """The promised torques, the one that decides at this speed first."""
    if asked.promise is None:
        return []
    first = asked.promise.at(speed_pu).taken
    parts = (asked.promise.locked_rotor, asked.promise.pull_up, asked.promise.breakdown)
    return [first, *(one.taken for one in parts if one.taken is not first)]


def _is_least(asked: Asked) -> bool:
    """Whether the machine's torque is one that is promised at least."""
    return asked.promise is not None and not asked.promise.pull_up.taken.how.startswith("assumed")


def _governed(asked: Asked, speed: Array, promised: Taken) -> slice:
    """Where on the way up, whose speeds rise, this promise is the one that holds the torque down."""
    assert asked.promise is not None
    low, high = np.searchsorted(speed, asked.promise.reach(promised))
    return slice(int(low), int(high))


def _load_of(plant: Plant, asked: Asked, speed_pu: Array) -> Callable[[float, float], Array]:
    """Load torque at these speeds, of synchronous, for a shaft power and a breakaway as their fields take them."""
    base = asked.load.power.value
    along = asked.load.along(speed_pu * plant.synchronous_rad_s * 30 / np.pi)
    return lambda power, breakaway: along(breakaway / 100) * (power / base if base else 1.0)


def _stronger(run: MethodRun, asked: Asked) -> str:
    """What helps: unloading it first where it can be, then what its way has in hand."""
    own, helps = way_of(run.method).stronger_than(run.value), asked.helps or ("a stronger motor",)
    first = helps[:1] if helps[0] == UNLOADED else ()
    text = "; ".join((*first, *((own,) if own else ()), *helps[len(first) :]))
    return f"{text[:1].upper()}{text[1:]}."


def _left_by(plant: Plant, run: MethodRun, asked: Asked) -> Callable[..., float]:
    """The least torque left on the way up, of rated: of a load's power and breakaway, of so many times what its drive
    gives, and of a machine with so many times the breakdown torque taken.
    """
    reaches = run.course.outcome is Outcome.REACHES
    counted = plant.speed_pu <= COUNTED * (run.course.final_speed_pu if reaches else 1 - plant.rated_slip)
    load = _load_of(plant, asked, plant.speed_pu[counted])

    @cache
    def gives(breaks: float) -> Array:
        return available_torque(plant, run.value or 1.0, breaks)[counted]

    def left(power: float, breakaway: float, times: float = 1.0, breaks: float = 1.0) -> float:
        return float((times * gives(breaks) - load(power, breakaway)).min()) / plant.rated_torque_nm

    return left


def _driven(plant: Plant, run: MethodRun, asked: Asked, key: str, name: str, limit: float) -> Gate:
    """A way whose torque is what its electronics give: the margin as simulated, against the load's bands and, where a
    machine turns a field, that of its breakdown torque.

    A drive's limit that nobody gave may be set higher: torque goes with it, at the least.
    """
    reaches = run.margin_pu is not None and run.course.outcome is Outcome.REACHES
    soft, asks = _limit_of(run, asked), (asked.load.power, asked.load.breakaway)
    text, remedy = "It does not bring the load to speed on its current limit.", "A higher limit, or a longer ramp."
    breaks = asked.promise.breakdown_not_given if asked.promise is not None else ()
    if not reaches and not any(one.wide for one in (*asks, *soft, *breaks)):
        return rule(key, name, False, text, _SOURCE, remedy=remedy, limit=limit, unit="%")
    held, left = run.value or 1.0, _left_by(plant, run, asked)
    taken = left(*(one.value for one in asks))
    margin = run.margin_pu if reaches and run.margin_pu is not None else min(taken, -SLACK)

    def room(power: float, breakaway: float, *others: float) -> float:
        times = others[0] / held if soft else 1.0
        broken = others[-1] / breaks[0].value if breaks else 1.0
        return margin + left(power, breakaway, times, broken) - taken - asked.margin_pu

    if reaches:
        text = f"{100 * margin:.0f} % of rated torque to spare on the way up."
    return at_least(
        key, name, 100 * margin, limit, sentence=text, source=_SOURCE, unit="%", room=room,
        rests=(*less(*asks), *soft, *breaks), remedy=remedy,
    )  # fmt: skip


def _limit_of(run: MethodRun, asked: Asked) -> tuple[Taken, ...]:
    """The limit of a drive of which neither amperes nor a limit are given: a usual one, or a larger drive's."""
    if not (way_of(run.method).by_frequency and asked.limit_assumed) or run.value is None:
        return ()
    return more(Taken(path="start.drive_limit", label="drive limit", value=run.value, low=run.value,
                      high=max(_MOST_LIMIT, run.value), how="usual"))  # fmt: skip
