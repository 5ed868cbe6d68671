"""The circuit run in time: what is pressed when, and when each contact moves, by travel times drawn from a seed."""

from __future__ import annotations

import heapq
from collections.abc import Sequence
from functools import lru_cache
from typing import Final

import numpy as np

from vinegate.core.records import dataclass
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


Switched = tuple[float, str, bool]
"""At a time, s, an input is closed or opened by what the motor does."""


def ran(
    circuit: Circuit, acts: Sequence[Act], seed: int = 0, fault: Case | None = None, switched: Sequence[Switched] = ()
) -> Run:
    """Play the acts from rest with power on; after each comes what moves within 0.3 s, or the seconds it waits.

    `switched` comes about by itself meanwhile, in the order of time.
    """
    play = _Play(circuit, seed, fault, switched)
    for act in (*acts, Act("", True, 0.0)):
        play.act(act)
    return play.run()


@dataclass(frozen=True, slots=True)
class _Known:
    """What every run of a circuit asks anew: how it moves without a fault, and what its motor hangs in."""

    moving: Moving
    hung: dict[frozenset[str], Hung]


@lru_cache(maxsize=8)
def _known(circuit: Circuit) -> _Known:
    return _Known(Moving(circuit), {})


class _Play:
    """The circuit with what is on its way: (time, turn, coil's place, position it goes to)."""

    def __init__(self, circuit: Circuit, seed: int, fault: Case | None, switched: Sequence[Switched]) -> None:
        self.circuit, self.random = circuit, np.random.default_rng(seed)
        known = _known(circuit)
        self.moving, self._hung = fault.moving(circuit) if fault else known.moving, known.hung
        self.state, self.now, self.bad, self.turn = self.moving.rest(), 0.0, False, 0
        self.events: list[Event] = []
        self.queue: list[tuple[float, int, int, int]] = []
        self.coming = [one for one in switched if one[1] in self.moving.inputs]
        self.hangs = [(0.0, self._hangs())]
        self._look()

    def act(self, act: Act) -> None:
        """Work it, then let pass what it waits."""
        if act.tag == "power":
            self.state = State(self.state.coils, self.state.pressed, act.on)
        elif act.tag in self.moving.inputs:
            self.state = _pressed(self.moving, self.state, act.tag, on=act.on)
        self._look()
        until = self.now + (1000 * act.wait_s if act.wait_s else _HOLD_MS)
        while len(self.events) < _MOST_EVENTS:
            following = self.queue[0][0] if self.queue else until
            if self.coming and 1000 * self.coming[0][0] <= min(following, until):
                at_s, tag, on = self.coming.pop(0)
                self.now = max(self.now, 1000 * at_s)
                self.state = _pressed(self.moving, self.state, tag, on=on)
                self._look()
            elif self.queue and following <= until:
                self._move()
            else:
                break
        self.now = until

    def _move(self) -> None:
        """The next coil is where it was going."""
        self.now, _, place, aim = heapq.heappop(self.queue)
        coils = (*self.state.coils[:place], aim, *self.state.coils[place + 1 :])
        self.state = State(coils, self.state.pressed, self.state.power)
        self.events.append(Event(self.now, self.moving.tags[place], aim))
        self.bad = self.bad or self.moving.hurts(self.state)
        hung = self._hangs()
        if hung != self.hangs[-1][1]:
            self.hangs.append((self.now / 1000, hung))
        lasts = self.moving.lasts[place]
        if self.moving.timers[place] and aim == (2 if lasts else 1):
            band = float(self.random.uniform(1 - _TIMER_BAND, 1 + _TIMER_BAND))
            self._send(1000 * self.circuit.devices[place].delay_s * band, place, OUT if lasts else IN)
        self._look()

    def _hangs(self) -> Hung:
        closed = self.moving.poles_in(self.state)
        found = self._hung.get(closed)
        if found is None:
            found = self._hung[closed] = hung_of(self.circuit, closed)
        return found

    def _look(self) -> None:
        """Send each coil on its way where it is not on it already."""
        moving = self.moving
        aims = moving.aims(self.state)
        # A timer that runs goes on; one whose coil has let go, or come back, does not.
        self.queue[:] = [
            one for one in self.queue if aims.get(one[2], one[3] if moving.timers[one[2]] else None) == one[3]
        ]
        heapq.heapify(self.queue)
        waiting = {one[2] for one in self.queue}
        for place, aim in aims.items():
            if place not in waiting:
                self._send(_travel(moving, place, self.state.coils[place], aim, self.random), place, aim)

    def _send(self, after_ms: float, place: int, aim: int) -> None:
        self.turn += 1
        heapq.heappush(self.queue, (self.now + after_ms, self.turn, place, aim))

    def run(self) -> Run:
        """How it stands now."""
        pressed = zip(self.moving.inputs, self.state.pressed, strict=True)
        return Run(
            state=self.state, events=tuple(self.events), until_ms=self.now, hangs=tuple(self.hangs),
            shorted=self.bad, pressed=tuple(tag for tag, on in pressed if on),
        )  # fmt: skip


def _pressed(moving: Moving, state: State, tag: str, *, on: bool) -> State:
    place = moving.inputs.index(tag)
    return State(state.coils, (*state.pressed[:place], on, *state.pressed[place + 1 :]), state.power)


def _travel(moving: Moving, place: int, at: int, aim: int, random: np.random.Generator) -> float:
    if moving.timers[place]:
        return 1.0
    low, high = _IN_MS[at] if aim > at else _OUT_MS[3 - at]
    return float(random.uniform(low, high))
