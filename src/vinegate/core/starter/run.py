"""The circuit run in time: what is pressed when, and when each contact moves, by travel times drawn from a seed."""

from __future__ import annotations

import heapq
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from vinegate.core.starter.faults import Case
from vinegate.core.starter.hung import Hung, hung_of
from vinegate.core.starter.logic import Circuit
from vinegate.core.starter.machine import IN, OUT, Moving, State

# Least and most milliseconds of each step of travel, in (0-1, 1-2, 2-3) and out (3-2, 2-1, 1-0).
_IN_MS: Final = ((8.0, 20.0), (3.0, 5.0), (2.0, 4.0))
_OUT_MS: Final = ((1.0, 3.0), (5.0, 14.0), (3.0, 5.0))
_MOST_EVENTS: Final = 4000
_HOLD_MS: Final = 300.0
_TIMER_BAND: Final = 0.05


@dataclass(frozen=True, slots=True)
class Act:
    """What a person or the line does: a tag pressed or let go (tripped or reset), or "power"; `wait` of a time, s."""

    tag: str
    on: bool = True
    wait_s: float = 0.0


@dataclass(frozen=True, slots=True)
class Event:
    """A device at a position at a time, ms."""

    at_ms: float
    tag: str
    position: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """How it stands at the end, what moved when, what the motor hung in from when, s, whether a short came about."""

    state: State
    events: tuple[Event, ...]
    until_ms: float
    hangs: tuple[tuple[float, Hung], ...]
    shorted: bool
    pressed: tuple[str, ...]

    @property
    def connection(self) -> str:
        """What the motor hangs in at the end, in words."""
        return self.hangs[-1][1].words


def acts_from(text: str) -> tuple[Act, ...]:
    """`START+ START- w4 STOP+ power-`: pressed, let go, seconds waited. Words that say nothing are passed over.

    >>> acts_from("START+ w2.5 power- x y+")
    (Act(tag='START', on=True, wait_s=0.0), Act(tag='', on=True, wait_s=2.5), Act(tag='power', on=False, wait_s=0.0), \
Act(tag='y', on=True, wait_s=0.0))
    """
    found = []
    for word in text.split()[:200]:
        if word[:1] == "w" and word[1:].replace(".", "", 1).isdigit():
            found.append(Act("", True, min(float(word[1:]), 600.0)))
        elif word[-1:] in "+-":
            found.append(Act(word[:-1], word.endswith("+")))
    return tuple(found)


def ran(circuit: Circuit, acts: Sequence[Act], seed: int = 0, fault: Case | None = None) -> Run:
    """Play the acts from rest with power on; after each comes what moves within 0.3 s, or the seconds it waits."""
    random = np.random.default_rng(seed)
    moving = Moving(circuit, stuck=dict(fault.stuck), held=dict(fault.held)) if fault else Moving(circuit)
    state, now, bad = moving.rest(), 0.0, False
    events: list[Event] = []
    queue: list[tuple[float, int, int, int]] = []
    hangs = [(0.0, hung_of(circuit, moving.poles_in(state)))]
    turn = 0

    def look() -> None:
        """Send each coil on its way where it is not on it already."""
        nonlocal turn
        ways = ((moving.tags.index(move.tag), after) for move, after in moving.moving(state))
        aims = {place: after.coils[place] for place, after in ways}
        queue[:] = [one for one in queue if aims.get(one[2], one[3] if moving.timers[one[2]] else None) == one[3]]
        heapq.heapify(queue)
        waiting = {one[2] for one in queue}
        for place, aim in aims.items():
            if place not in waiting:
                turn += 1
                heapq.heappush(queue, (now + _travel(moving, place, state.coils[place], aim, random), turn, place, aim))

    look()
    for act in (*acts, Act("", True, 0.0)):
        if act.tag == "power":
            state = State(state.coils, state.pressed, act.on)
        elif act.tag in moving.inputs:
            place = moving.inputs.index(act.tag)
            state = State(state.coils, (*state.pressed[:place], act.on, *state.pressed[place + 1 :]), state.power)
        look()
        until = now + (1000 * act.wait_s if act.wait_s else _HOLD_MS)
        while queue and queue[0][0] <= until and len(events) < _MOST_EVENTS:
            now, _, place, aim = heapq.heappop(queue)
            coils = (*state.coils[:place], aim, *state.coils[place + 1 :])
            state = State(coils, state.pressed, state.power)
            events.append(Event(now, moving.tags[place], aim))
            bad = bad or moving.hurts(state)
            hung = hung_of(circuit, moving.poles_in(state))
            if hung != hangs[-1][1]:
                hangs.append((now / 1000, hung))
            runs = moving.timers[place] and aim == (2 if moving.lasts[place] else 1)
            if runs:
                delay = 1000 * circuit.devices[place].delay_s * float(random.uniform(1 - _TIMER_BAND, 1 + _TIMER_BAND))
                turn += 1
                heapq.heappush(queue, (now + delay, turn, place, OUT if moving.lasts[place] else IN))
            look()
        now = until
    return Run(
        state=state, events=tuple(events), until_ms=now, hangs=tuple(hangs),
        shorted=bad, pressed=tuple(tag for tag, on in zip(moving.inputs, state.pressed, strict=True) if on),
    )  # fmt: skip


def _travel(moving: Moving, place: int, at: int, aim: int, random: np.random.Generator) -> float:
    if moving.timers[place]:
        return 1.0
    low, high = _IN_MS[at] if aim > at else _OUT_MS[3 - at]
    return float(random.uniform(low, high))
