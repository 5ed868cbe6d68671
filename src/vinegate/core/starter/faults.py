"""Each contact, coil and pole failed once: what a person would see, and what could hurt."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from vinegate.core.starter.logic import Circuit, Coil, Contact, Kind, contacts_of
from vinegate.core.starter.machine import IN, OUT, Moving, State, fed, shorted


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
class _Case:
    what: str
    stuck: tuple[tuple[tuple[str, Contact], bool], ...] = ()
    held: tuple[tuple[str, int], ...] = ()


def _cases(circuit: Circuit) -> Iterator[_Case]:
    for device in circuit.devices:
        for contact in dict.fromkeys(contacts_of(device.logic)):
            name = f"contact {contact.of}{' (breaks)' if contact.breaks else ''} in {device.tag}"
            yield _Case(f"{name} stays closed", stuck=(((device.tag, contact), True),))
            yield _Case(f"{name} stays open", stuck=(((device.tag, contact), False),))
        yield _Case(f"coil {device.tag} dead", held=((device.tag, OUT),))
        if device.coil is Coil.CONTACTOR:
            yield _Case(f"poles of {device.tag} welded", held=((device.tag, IN),))


@lru_cache(maxsize=256)
def swept(circuit: Circuit) -> tuple[Fault, ...]:
    """Every fault by itself, in a start and a stop by button, then by the overload, and an outage between. Cached.

    None of a circuit that hurts without any: its proof says how.
    """
    plain = _run(Moving(circuit))
    if isinstance(plain, str):
        return ()
    return tuple(_judged(circuit, case, plain) for case in _cases(circuit))


def _judged(circuit: Circuit, case: _Case, plain: list[tuple[str, frozenset[str]]]) -> Fault:
    moving = Moving(circuit, stuck=dict(case.stuck), held=dict(case.held))
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


def _run(moving: Moving) -> list[tuple[str, frozenset[str]]] | str:
    """Contactors in after each step; a sentence where it hurts on the way."""
    circuit = moving.circuit
    begins = next(place for place, one in enumerate(circuit.inputs) if one.starts)
    stops = [place for place, one in enumerate(circuit.inputs) if one.stops]
    held = circuit.inputs[begins].kind is Kind.HELD
    seen: list[tuple[str, frozenset[str]]] = []
    state = moving.settle(moving.rest())
    if state is None:
        return "contactors chatter as power comes on"
    if _fed(moving, state):
        return _starts_alone(moving, state)
    for stop in stops:
        tag = circuit.inputs[stop].tag
        script = [("start", begins, True), ("timers", -1, True), (f"{tag} worked", stop, True)]
        script[1:1] = [] if held else [("let go", begins, False)]
        script += [("let go", begins, False)] if held else []
        script.append((f"{tag} back", stop, False))
        for step, place, worked in script:
            after = _stepped(moving, state, place, worked)
            if isinstance(after, str):
                return f"at “{step}”: {after}"
            state = after
            if "worked" in step and _fed(moving, state):
                return (
                    f"{tag} does not stop it: {', '.join(sorted(moving.poles_in(state) & set(circuit.feeds)))} stays in"
                )
            seen.append((step, moving.poles_in(state)))
        if "back" in script[-1][0] and _fed(moving, state):
            return "it starts by itself after the stop"
    dead = moving.settle(State(state.coils, state.pressed, False))
    back = moving.settle(State(dead.coils, dead.pressed, True)) if dead else None
    if back is None or _fed(moving, back):
        return "it starts by itself when power returns"
    return seen


def _starts_alone(moving: Moving, state: State) -> str:
    tags = sorted(moving.poles_in(state) & set(moving.circuit.feeds))
    welded = [tag for tag in tags if moving.circuit.device(tag).coil is Coil.CONTACTOR and tag in moving.held]
    return f"{', '.join(tags)} is in without a command" + (": only the disconnect stops it" if welded else "")


def _stepped(moving: Moving, state: State, place: int, worked: bool) -> State | str:
    """One step and all that follows; every position on the way is looked at for a short."""
    if place >= 0:
        pressed = (*state.pressed[:place], worked, *state.pressed[place + 1 :])
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
        if shorted(moving.circuit, moving.poles_in(state)):
            return "two phases are joined: a short"
        ways = moving.moving(state)
        if not ways:
            return state
        state = ways[0][1]
    return "contactors chatter"


def _fed(moving: Moving, state: State) -> bool:
    return fed(moving.circuit, moving.poles_in(state))
