"""The circuit moving: positions of coils, what is pressed, one small step at a time in any order.

A coil that is energised travels: its break contacts open, then its make contacts close, then its late break contacts
open; let go, it travels back the same way. A timer runs on and is done some time after everything else has settled.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import Final, NamedTuple

from vinegate.core.starter.logic import LINES, Circuit, Coil, Contact, Kind, Logic, Parallel

OUT: Final = 0
IN: Final = 3
_BROKEN: Final = 1
_MADE: Final = 2


class State(NamedTuple):
    """Positions of the coils and of the inputs, in the circuit's order; whether there is power.

    A coil's position: 0 out; 1 break contacts open; 2 make contacts closed; 3 late ones open. Of a timer 1 is running
    and 3 done; of one that lasts 3 is in and 2 running out.
    """

    coils: tuple[int, ...]
    pressed: tuple[bool, ...]
    power: bool = True


class Move(NamedTuple):
    """One thing that happened, in words for the steps."""

    what: str
    tag: str = ""

    def __str__(self) -> str:
        return f"{self.what} {self.tag}".strip()


class Moving:
    """One circuit's behaviour. Stuck: contacts that stay as they are, by their device, and coils that do not move."""

    def __init__(self, circuit: Circuit, *, stuck: dict[tuple[str, Contact], bool] | None = None,
                 held: dict[str, int] | None = None, weak: bool = False) -> None:  # fmt: skip
        """`weak`: control volts at which no coil pulls in, though one that is in still holds."""
        self.circuit, self._weak = circuit, weak
        self.tags = [device.tag for device in circuit.devices]
        self.timers = [device.coil is Coil.TIMER for device in circuit.devices]
        self.lasts = [device.lasts for device in circuit.devices]
        self.inputs = [one.tag for one in circuit.inputs]
        self._stuck, self.held = stuck or {}, held or {}
        self._places = {tag: place for place, tag in enumerate(self.tags)}
        self._inputs = {tag: place for place, tag in enumerate(self.inputs)}
        self._seen: dict[tuple[frozenset[str], bool], tuple[bool, bool]] = {}
        self._unlatched = {one.unlatches: place for place, one in enumerate(circuit.devices) if one.unlatches}
        self._latched = [device.latched for device in circuit.devices]
        self._bits: dict[Contact, int] = {}
        self._fed = [self._test(device.logic, device.tag) for device in circuit.devices]
        self._by_coil = [self._closed_at(tag, range(IN + 1)) for tag in self.tags]
        self._by_input = [self._closed_at(tag, (False, True)) for tag in self.inputs]
        self._free = [
            (place, self._fed[place], Move("in", tag), Move("out", tag))
            for place, tag in enumerate(self.tags)
            if tag not in self.held
        ]
        self._moves: dict[State, tuple[tuple[Move, State], ...]] = {}
        self._aims: dict[State, dict[int, int]] = {}
        self._poles: dict[tuple[int, ...], frozenset[str]] = {}

    def rest(self) -> State:
        """Nothing pressed, everything as it settles with power."""
        coils = tuple(self.held.get(tag, OUT) for tag in self.tags)
        return State(coils, (False,) * len(self.inputs))

    def closed(self, state: State, of: str, contact: Contact) -> bool:
        """Whether a contact ahead of a coil is closed."""
        stuck = self._stuck.get((of, contact))
        if stuck is not None:
            return stuck
        place = self._inputs.get(contact.of)
        at = state.pressed[place] if place is not None else state.coils[self._places[contact.of]]
        return self._moved(contact, at)

    def _moved(self, contact: Contact, at: int) -> bool:
        """Of a coil, by how far it has travelled; of an input, by whether it is worked."""
        place = self._places.get(contact.of)
        if place is None:
            return bool(at) != contact.breaks
        if self.timers[place]:
            return (at >= (_MADE if self.lasts[place] else IN)) != contact.breaks
        if not contact.breaks:
            return at >= _MADE
        return at < (IN if contact.late else _BROKEN)

    def _closed_at(self, tag: str, positions: Iterable[int]) -> list[int]:
        """The bits of a device's contacts that are closed, at each of its positions."""
        own = [(contact, bit) for contact, bit in self._bits.items() if contact.of == tag]
        return [sum(bit for contact, bit in own if self._moved(contact, at)) for at in positions]

    def _test(self, logic: Logic, of: str) -> Callable[[int], bool]:
        """Whether a logic ahead of a coil lets volts through, by the bits of closed contacts: made once, asked often.

        Contacts of one series, or in parallel, are asked together.
        """
        parts = (logic,) if isinstance(logic, Contact) else logic.parts
        deep = [self._test(part, of) for part in parts if not isinstance(part, Contact)]
        plain = [part for part in parts if isinstance(part, Contact)]
        stuck = {self._stuck[of, one] for one in plain if (of, one) in self._stuck}
        bits = sum({self._bit(one) for one in plain if (of, one) not in self._stuck})
        if isinstance(logic, Parallel):
            if True in stuck:
                return lambda closed: True
            return lambda closed: bool(closed & bits) or any(one(closed) for one in deep)
        if False in stuck:
            return lambda closed: False
        if not deep:
            return lambda closed: closed & bits == bits
        return lambda closed: closed & bits == bits and all(one(closed) for one in deep)

    def _bit(self, contact: Contact) -> int:
        return self._bits.setdefault(contact, 1 << len(self._bits))

    def _closed(self, state: State) -> int:
        """The bits of every contact that is closed."""
        bits = 0
        for closed, at in zip(self._by_coil, state.coils, strict=True):
            bits |= closed[at]
        for closed, on in zip(self._by_input, state.pressed, strict=True):
            bits |= closed[on]
        return bits

    def energised(self, state: State, place: int) -> bool:
        """Whether a coil has volts."""
        return state.power and self._fed[place](self._closed(state))

    def moving(self, state: State) -> tuple[tuple[Move, State], ...]:
        """What must happen next, in any order: coils on their way. Empty once settled."""
        found = self._moves.get(state)
        if found is None:
            found = self._moves[state] = tuple(self._on_their_way(state))
        return found

    def aims(self, state: State) -> dict[int, int]:
        """The same by coils' places: where each that moves goes next."""
        found = self._aims.get(state)
        if found is None:
            ways = ((self.tags.index(move.tag), after) for move, after in self.moving(state))
            found = self._aims[state] = {place: after.coils[place] for place, after in ways}
        return found

    def _on_their_way(self, state: State) -> Iterator[tuple[Move, State]]:
        closed, power, coils = self._closed(state), state.power, state.coils
        for place, fed, goes_in, goes_out in self._free:
            at, on = coils[place], power and fed(closed)
            if self._weak and on and at < _MADE:
                on = False
            if at == (IN if on else OUT):
                continue
            if self._latched[place] and not on and not self._lets_go(state, closed, self.tags[place]):
                continue
            if self.lasts[place]:
                after = IN if on else min(at, _MADE)
            elif self.timers[place]:
                after = (_BROKEN if at == OUT else at) if on else OUT
            else:
                after = at + 1 if on else at - 1
            if after != at:
                yield goes_in if on else goes_out, self._with(state, place, after)

    def _lets_go(self, state: State, closed: int, tag: str) -> bool:
        """Whether a latched relay's other coil has volts."""
        place = self._unlatched.get(tag)
        return place is not None and state.power and self._fed[place](closed)

    def chosen(self, state: State) -> Iterator[tuple[Move, State]]:
        """What may happen once settled: a timer runs out, something is pressed or let go, power goes or comes."""
        for place, tag in enumerate(self.tags):
            if self.timers[place] and state.coils[place] == (_MADE if self.lasts[place] else _BROKEN):
                yield Move("runs out:", tag), self._with(state, place, OUT if self.lasts[place] else IN)
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

    def hurts(self, state: State) -> bool:
        """Whether two phases are joined by poles alone."""
        return self._power(self.poles_in(state), braking=False)[0]

    def drives(self, state: State) -> bool:
        """Whether the motor is fed, or its drive told to; what may brake it after a stop does not count."""
        return self._power(self.poles_in(state), braking=self.circuit.braking(state.pressed))[1]

    def _power(self, closed: frozenset[str], *, braking: bool) -> tuple[bool, bool]:
        key = (closed, braking)
        if key not in self._seen:
            self._seen[key] = (shorted(self.circuit, closed), fed(self.circuit, closed, braking=braking))
        return self._seen[key]

    def poles_in(self, state: State) -> frozenset[str]:
        """Contactors whose poles are closed."""
        found = self._poles.get(state.coils)
        if found is None:
            made = [tag for tag, at in zip(self.tags, state.coils, strict=True) if at >= _MADE]
            found = self._poles[state.coils] = frozenset(made)
        return found


def joined(circuit: Circuit, closed: frozenset[str]) -> tuple[frozenset[str], ...]:
    """Nets that closed poles join, in groups."""
    groups: dict[str, set[str]] = {}
    resting = (pair for pair in circuit.rests if pair[0] not in closed)
    for _, poles in (*(pair for pair in circuit.poles if pair[0] in closed), *resting):
        for one, other in poles:
            whole = groups.get(one, {one}) | groups.get(other, {other})
            for net in whole:
                groups[net] = whole
    return tuple(dict.fromkeys(frozenset(group) for group in groups.values()))


def shorted(circuit: Circuit, closed: frozenset[str]) -> bool:
    """Whether two phases of the line are joined by poles alone."""
    return any(len(group & set(LINES)) > 1 for group in joined(circuit, closed))


def fed(circuit: Circuit, closed: frozenset[str], *, braking: bool = False) -> bool:
    """Whether the motor has volts, or its drive the command: not by a star point alone.

    While `braking`, what slows it does not count.
    """
    feeds = closed & set(circuit.feeds)
    if braking:
        feeds -= set(circuit.brakes)
    with_poles = {tag for tag, _ in circuit.poles}
    if feeds - with_poles:
        return True
    return any(group & set(LINES) and group - set(LINES) for group in joined(circuit, frozenset(feeds)))
