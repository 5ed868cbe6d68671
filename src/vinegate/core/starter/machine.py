"""The circuit moving: positions of coils, what is pressed, one small step at a time in any order.

A coil that is energised travels: its break contacts open, then its make contacts close, then its late break contacts
open; let go, it travels back the same way. A timer runs on and is done some time after everything else has settled.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from vinegate.core.starter.logic import PHASES, Circuit, Coil, Contact, Kind, closes, contacts_of

OUT: Final = 0
IN: Final = 3
_BROKEN: Final = 1
_MADE: Final = 2


@dataclass(frozen=True, slots=True)
class State:
    """Positions of the coils and of the inputs, in the circuit's order; whether there is power.

    A coil's position: 0 out; 1 break contacts open; 2 make contacts closed; 3 late ones open. Of a timer 1 is running
    and 3 done.
    """

    coils: tuple[int, ...]
    pressed: tuple[bool, ...]
    power: bool = True


@dataclass(frozen=True, slots=True)
class Move:
    """One thing that happened, in words for the steps."""

    what: str
    tag: str = ""

    def __str__(self) -> str:
        return f"{self.what} {self.tag}".strip()


class Moving:
    """One circuit's behaviour. Stuck: contacts that stay as they are, by their device, and coils that do not move."""

    def __init__(self, circuit: Circuit, *, stuck: dict[tuple[str, Contact], bool] | None = None,
                 held: dict[str, int] | None = None) -> None:  # fmt: skip
        self.circuit = circuit
        self.tags = [device.tag for device in circuit.devices]
        self.timers = [device.coil is Coil.TIMER for device in circuit.devices]
        self.inputs = [one.tag for one in circuit.inputs]
        self._stuck, self.held = stuck or {}, held or {}
        self._contacts = [tuple(dict.fromkeys(contacts_of(device.logic))) for device in circuit.devices]

    def rest(self) -> State:
        """Nothing pressed, everything as it settles with power."""
        coils = tuple(self.held.get(tag, OUT) for tag in self.tags)
        return State(coils, (False,) * len(self.inputs))

    def closed(self, state: State, of: str, contact: Contact) -> bool:
        """Whether a contact ahead of a coil is closed."""
        stuck = self._stuck.get((of, contact))
        if stuck is not None:
            return stuck
        if contact.of in self.inputs:
            return state.pressed[self.inputs.index(contact.of)] != contact.breaks
        place = self.tags.index(contact.of)
        at = state.coils[place]
        if self.timers[place]:
            return (at == IN) != contact.breaks
        if not contact.breaks:
            return at >= _MADE
        return at < IN if contact.late else at < _BROKEN

    def energised(self, state: State, place: int) -> bool:
        """Whether a coil has volts."""
        if not state.power:
            return False
        of = self.tags[place]
        shut = frozenset(one for one in self._contacts[place] if self.closed(state, of, one))
        return closes(self.circuit.devices[place].logic, shut)

    def moving(self, state: State) -> list[tuple[Move, State]]:
        """What must happen next, in any order: coils on their way. Empty once settled."""
        found = []
        for place, tag in enumerate(self.tags):
            if tag in self.held:
                continue
            at, on = state.coils[place], self.energised(state, place)
            if self.timers[place]:
                after = (_BROKEN if at == OUT else at) if on else OUT
            else:
                after = min(at + 1, IN) if on else max(at - 1, OUT)
            if after != at:
                found.append((Move("in" if on else "out", tag), self._with(state, place, after)))
        return found

    def chosen(self, state: State) -> Iterator[tuple[Move, State]]:
        """What may happen once settled: a timer runs out, something is pressed or let go, power goes or comes."""
        for place, tag in enumerate(self.tags):
            if self.timers[place] and state.coils[place] == _BROKEN:
                yield Move("runs out:", tag), self._with(state, place, IN)
        for place, tag in enumerate(self.inputs):
            words = ("press", "let go") if self._button(place) else ("trip", "reset")
            pressed = (*state.pressed[:place], not state.pressed[place], *state.pressed[place + 1 :])
            yield Move(words[state.pressed[place]], tag), State(state.coils, pressed, state.power)
        yield (
            Move("power goes" if state.power else "power comes back"),
            State(state.coils, state.pressed, not state.power),
        )

    def _button(self, place: int) -> bool:
        return self.circuit.inputs[place].kind is not Kind.GUARD

    def _with(self, state: State, place: int, at: int) -> State:
        return State((*state.coils[:place], at, *state.coils[place + 1 :]), state.pressed, state.power)

    def settle(self, state: State, most: int = 200) -> State | None:
        """All coils moved in turn; None where it never settles."""
        for _ in range(most):
            ways = self.moving(state)
            if not ways:
                return state
            for place, tag in enumerate(self.tags):
                if tag not in self.held and any(move.tag == tag for move, _ in ways):
                    state = self._with(state, place, next(s.coils[place] for m, s in ways if m.tag == tag))
        return None

    def poles_in(self, state: State) -> frozenset[str]:
        """Contactors whose poles are closed."""
        return frozenset(tag for tag, at in zip(self.tags, state.coils, strict=True) if at >= _MADE)


@lru_cache(maxsize=4096)
def joined(circuit: Circuit, closed: frozenset[str]) -> tuple[frozenset[str], ...]:
    """Nets that closed poles join, in groups."""
    groups: dict[str, set[str]] = {}
    for tag, poles in circuit.poles:
        if tag not in closed:
            continue
        for one, other in poles:
            whole = groups.get(one, {one}) | groups.get(other, {other})
            for net in whole:
                groups[net] = whole
    return tuple(dict.fromkeys(frozenset(group) for group in groups.values()))


def shorted(circuit: Circuit, closed: frozenset[str]) -> bool:
    """Whether two phases of the line are joined by poles alone."""
    return any(len(group & set(PHASES)) > 1 for group in joined(circuit, closed))


def fed(circuit: Circuit, closed: frozenset[str]) -> bool:
    """Whether the motor has volts, or its drive the command: not by a star point alone."""
    feeds = closed & set(circuit.feeds)
    with_poles = {tag for tag, _ in circuit.poles}
    if feeds - with_poles:
        return True
    return any(group & set(PHASES) and group - set(PHASES) for group in joined(circuit, frozenset(feeds)))
