"""Each contact, coil and pole failed once: what a person would see, and what could hurt."""

from __future__ import annotations

from collections.abc import Iterator
from enum import StrEnum
from functools import lru_cache
from typing import Final

from vinegate.core.records import dataclass, replace
from vinegate.core.starter.logic import Circuit, Coil, Contact, Input, Kind, contacts_of
from vinegate.core.starter.machine import IN, OUT, Moving, State
from vinegate.core.starter.trunk import pieces_of


class Class(StrEnum):
    """How a fault ends, best first."""

    NOTICED = "safe, noticed"
    UNNOTICED = "safe, unnoticed"
    DANGEROUS = "dangerous"


@dataclass(frozen=True, slots=True, kw_only=True)
class Fault:
    """One element failed: what, how it ends, what is seen."""

    what: str
    ends: Class
    seen: str


@dataclass(frozen=True, slots=True)
class Case:
    """A fault as the circuit is given it: contacts that stay, coils that do not move."""

    what: str
    stuck: tuple[tuple[tuple[str, Contact], bool], ...] = ()
    held: tuple[tuple[str, int], ...] = ()
    weak: bool = False
    """Control volts too low for a coil to pull in."""

    def moving(self, circuit: Circuit) -> Moving:
        """The circuit with it."""
        return Moving(circuit, stuck=dict(self.stuck), held=dict(self.held), weak=self.weak)


def cases_of(circuit: Circuit) -> Iterator[Case]:
    """Every contact stuck either way, one that feeds several coils once; every coil dead, every pole welded."""
    for contact, tags in pieces_of(circuit):
        name = f"contact {contact.of}{' (breaks)' if contact.breaks else ''} in {', '.join(tags)}"
        for words, on in (("stays closed", True), ("stays open", False)):
            yield Case(f"{name} {words}", stuck=tuple(((tag, contact), on) for tag in tags))
    for device in circuit.devices:
        yield Case(f"coil {device.tag} dead", held=((device.tag, OUT),))
        if device.coil is Coil.CONTACTOR:
            yield Case(f"poles of {device.tag} welded", held=((device.tag, IN),))
    yield Case("control volts at 78 %", weak=True)


def swept(circuit: Circuit) -> tuple[Fault, ...]:
    """Every fault by itself, in each start with each stop, and an outage at the end. Kept as a proof is.

    None of a circuit that hurts without any: its proof says how.
    """
    return _all_faults(circuit.timeless())


@lru_cache(maxsize=256)
def _all_faults(circuit: Circuit) -> tuple[Fault, ...]:
    plain = _run(Moving(circuit))
    if isinstance(plain, str):
        return ()
    return tuple(_judged(circuit, case, plain) for case in cases_of(circuit))


def tried(circuit: Circuit) -> tuple[tuple[str, frozenset[str]], ...]:
    """What to do on the finished panel and what must then be in: the script without a fault, kept as a proof is.

    Where timers run out it names those that did, with what they are set to.
    """
    found, before = [], frozenset[str]()
    timers = {one.tag: one.set_to for one in circuit.devices if one.coil is Coil.TIMER}
    for words, poles in _all_tried(circuit.timeless()):
        ran = [f"{tag} {set_to}" for tag, set_to in timers.items() if set_to and tag in before ^ poles]
        found.append((f"{words}: {', '.join(ran)}" if words == _TIMERS and ran else words, poles))
        before = poles
    return tuple(found)


@lru_cache(maxsize=256)
def _all_tried(circuit: Circuit) -> tuple[tuple[str, frozenset[str]], ...]:
    found = _run(Moving(circuit))
    if isinstance(found, str):
        return ()
    return tuple(seen for step, seen in zip(_script(circuit), found, strict=True) if not step.again)


def _judged(circuit: Circuit, case: Case, plain: list[tuple[str, frozenset[str]]]) -> Fault:
    moving = case.moving(circuit)
    found = _run(moving)
    if isinstance(found, str):
        return Fault(what=case.what, ends=Class.DANGEROUS, seen=found)
    unlike = [seen for seen, usual in zip(found, plain, strict=True) if seen != usual]
    if not unlike:
        return Fault(what=case.what, ends=Class.UNNOTICED, seen="nothing: it starts and stops as ever")
    return Fault(what=case.what, ends=Class.NOTICED, seen=_difference(found, plain))


def _difference(found: list[tuple[str, frozenset[str]]], plain: list[tuple[str, frozenset[str]]]) -> str:
    for (step, now), (_, usual) in zip(found, plain, strict=True):
        if now != usual:
            lacks, more = sorted(usual - now), sorted(now - usual)
            words = [f"{', '.join(lacks)} stays out"] if lacks else []
            words += [f"{', '.join(more)} stays in"] if more else []
            return f"at “{step}” {' and '.join(words)}"
    return ""


_TIMERS: Final = "timers run out"


@dataclass(frozen=True, slots=True)
class _Step:
    """What is worked, with the words for it; nothing where timers are left to run."""

    words: str
    sets: tuple[tuple[str, bool], ...] = ()
    stops: bool = False
    """It must not be driven after this."""
    again: bool = False
    """Done before on the way to another stop: not asked for twice."""


def _script(circuit: Circuit) -> Iterator[_Step]:
    """Each start with each stop; a second station's or direction's once; limits, modes, jog and auto once."""
    begins = [one for one in circuit.inputs if one.starts and one.tag not in circuit.automatic]
    yield from _given(circuit)
    stops = [one for one in circuit.inputs if one.stops]
    turning = dict(zip((one.tag for one in begins), circuit.speeds, strict=False))
    for place, begin in enumerate(begins):
        against = [one for one in begins if one.name != begin.name]
        for which, stop in enumerate(stops if place == 0 or against else stops[:1]):
            for step in _once(circuit, begin, stop, against, turning.get(begin.tag)):
                yield replace(step, again=which > 0 and step.words.split()[0] not in (begin.tag, stop.tag))
    if circuit.rested:
        yield from _too_soon(circuit, begins[0], stops[0])
    yield from _limited(circuit, begins)
    for mode, _ in circuit.modes:
        yield _Step(f"{mode} selected", ((mode, True),))
        yield from _once(circuit, begins[0], stops[0], [], None)
        yield _Step(f"{mode} left", ((mode, False),), stops=True)
    special = {one.tag for one in circuit.inputs if one.starts} | circuit.silent | set(circuit.then)
    special |= {mode for mode, _ in circuit.modes} | set(circuit.automatic)
    for one in circuit.inputs:
        if one.tag not in special:
            yield _Step(f"{one.tag} pressed", ((one.tag, True),))
            yield _Step(f"{one.tag} let go", ((one.tag, False),), stops=True)
    if circuit.automatic:
        yield _Step(
            "by itself", tuple((tag, False) for tag in circuit.setup) + tuple((t, True) for t in circuit.automatic)
        )
        yield from _ends(circuit, _Step("its command goes", ((circuit.automatic[-1], False),), stops=True))
        yield _Step("off", tuple((tag, False) for tag in circuit.automatic), stops=True)


def _given(circuit: Circuit) -> Iterator[_Step]:
    """What permits stands so before anything else, with its timer."""
    permits = [one.tag for one in circuit.inputs if one.permits]
    if permits:
        yield _Step(f"{', '.join(permits)} closed", tuple((tag, True) for tag in permits))
    if _times(circuit, permits):
        yield _Step(_TIMERS)


def _times(circuit: Circuit, permits: list[str]) -> bool:
    """Whether a timer waits for one of them."""
    timers = (one for one in circuit.devices if one.coil is Coil.TIMER)
    return any(contact.of in permits for one in timers for contact in contacts_of(one.logic))


def _too_soon(circuit: Circuit, begin: Input, stop: Input) -> Iterator[_Step]:
    """Started, stopped, and started again before it has rested."""
    held, out = begin.kind is Kind.HELD, not circuit.lasting
    stopping = begin if held else stop
    yield _Step(f"{begin.tag} pressed", ((begin.tag, True),))
    if not held:
        yield _Step(f"{begin.tag} let go", ((begin.tag, False),))
        yield _Step(f"{stop.tag} worked", ((stop.tag, True),), stops=out)
    yield _Step(f"{stopping.tag} {'let go' if held else 'back'}", ((stopping.tag, False),), stops=out)
    yield _Step(f"{begin.tag} pressed too soon", ((begin.tag, True),))
    yield _Step(f"{begin.tag} let go", ((begin.tag, False),), stops=held)
    yield _Step(_TIMERS)


def _ends(circuit: Circuit, step: _Step) -> Iterator[_Step]:
    """What stops it, and the timer of what runs on behind it."""
    if not circuit.lasting:
        yield step
        return
    yield replace(step, stops=False)
    yield _Step(_TIMERS, stops=True)


def _limited(circuit: Circuit, begins: list[Input]) -> Iterator[_Step]:
    """Each limit reached while its direction runs; what permits taken away while it runs, and given back."""
    ways = {tag: begin for (tag, _), begin in zip(circuit.limits, begins, strict=False) if tag not in circuit.speeds}
    field = {one.tag for one in circuit.inputs if one.location == "field"}
    permits = [tag for tag in circuit.setup if tag in field]
    for tag, begin in [*ways.items(), *((tag, begins[0]) for tag in permits)]:
        away, held = tag not in permits, begin.kind is Kind.HELD
        let_go = _Step(f"{begin.tag} let go", ((begin.tag, False),), stops=held)
        yield _Step(f"{begin.tag} pressed", ((begin.tag, True),))
        if not held:
            yield let_go
        yield from _ends(circuit, _Step(f"{tag} {'reached' if away else 'goes'}", ((tag, away),), stops=True))
        if held:
            yield let_go
        yield _Step(f"{tag} back", ((tag, not away),), stops=True)
        if not away and (circuit.rested or _times(circuit, [tag])):
            yield _Step(_TIMERS)


def _once(circuit: Circuit, begin: Input, stop: Input, against: list[Input], speed: str | None) -> Iterator[_Step]:
    """Started, the other way pressed while it runs, stopped, turning on for a while, the stop taken back."""
    held = begin.kind is Kind.HELD
    yield _Step(f"{begin.tag} pressed", ((begin.tag, True),))
    if not held:
        yield _Step(f"{begin.tag} let go", ((begin.tag, False),))
    yield _Step(_TIMERS)
    if speed:
        yield _Step("it turns", ((speed, True),))
    stays = [one.tag for one in circuit.inputs if one.tag in circuit.then and one.kind is Kind.HELD]
    for tag in circuit.then:
        yield _Step(f"{tag} worked", ((tag, True),))
        if tag not in stays:
            yield _Step(f"{tag} let go", ((tag, False),))
        yield _Step(_TIMERS)
    for other in against:
        yield _Step(f"{other.tag} pressed while it runs", ((other.tag, True),))
        yield _Step(f"{other.tag} let go", ((other.tag, False),))
    later = bool(circuit.lasting) and stop.kind is not Kind.GUARD
    yield _Step(f"{stop.tag} worked", ((stop.tag, True),), stops=not later)
    if held:
        yield _Step(f"{begin.tag} let go", ((begin.tag, False),), stops=not later)
    if circuit.brakes or any(one.lasts for one in circuit.devices):
        yield _Step(_TIMERS, stops=later)
    if speed or stays:
        resting = tuple((tag, False) for tag in (*([speed] if speed else []), *stays))
        yield _Step("at rest", resting, stops=True)
    yield _Step(f"{stop.tag} back", ((stop.tag, False),), stops=True)


def _run(moving: Moving) -> list[tuple[str, frozenset[str]]] | str:
    """Contactors in after each step; a sentence where it hurts on the way."""
    circuit = moving.circuit
    seen: list[tuple[str, frozenset[str]]] = []
    setup = tuple(one.tag in circuit.setup and not one.permits for one in circuit.inputs)
    state = moving.settle(State(moving.rest().coils, setup))
    if state is None:
        return "contactors chatter as power comes on"
    if moving.drives(state):
        return _starts_alone(moving, state)
    for step in _script(circuit):
        after = _stepped(moving, state, step)
        if isinstance(after, str):
            return f"at “{step.words}”: {after}"
        state = after
        if step.stops and moving.drives(state):
            return _goes_on(moving, state, step)
        seen.append((step.words, moving.poles_in(state)))
    dead = moving.settle(State(state.coils, state.pressed, False))
    if dead is not None and circuit.rides:  # longer than it rides
        over = _stepped(moving, dead, _Step(_TIMERS))
        dead = None if isinstance(over, str) else over
    back = moving.settle(State(dead.coils, dead.pressed, True)) if dead else None
    if back is None or moving.drives(back):
        return "it starts by itself when power returns"
    return seen


def _goes_on(moving: Moving, state: State, step: _Step) -> str:
    """The sentence for what is still driven where it must not be."""
    tags = ", ".join(sorted(moving.poles_in(state) & set(moving.circuit.feeds)))
    if step.words.endswith("worked"):
        return f"{step.words.split()[0]} does not stop it: {tags} stays in"
    return (
        "it starts by itself after the stop" if step.words.endswith("back") else f"at “{step.words}”: {tags} stays in"
    )


def _starts_alone(moving: Moving, state: State) -> str:
    tags = sorted(moving.poles_in(state) & set(moving.circuit.feeds))
    welded = [tag for tag in tags if moving.circuit.device(tag).coil is Coil.CONTACTOR and tag in moving.held]
    return f"{', '.join(tags)} is in without a command" + (": only the disconnect stops it" if welded else "")


def _stepped(moving: Moving, state: State, step: _Step) -> State | str:
    """One step and all that follows; every position on the way is looked at for a short."""
    if step.sets:
        sets = dict(step.sets)
        pressed = tuple(sets.get(tag, on) for tag, on in zip(moving.inputs, state.pressed, strict=True))
        return _settled(moving, State(state.coils, pressed, state.power))
    for _ in range(2 * len(moving.tags)):
        runs = [after for move, after in moving.chosen(state) if move.what == "runs out:"]
        if not runs:
            return state
        found = _settled(moving, runs[0])
        if isinstance(found, str):
            return found
        state = found
    return state


def _settled(moving: Moving, state: State) -> State | str:
    for _ in range(200):
        if moving.hurts(state):
            return "two phases are joined: a short"
        ways = moving.moving(state)
        if not ways:
            return state
        state = ways[0][1]
    return "contactors chatter"
