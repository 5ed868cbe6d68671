"""What does one and the same several times, seen fewer times, so that a proof does not walk it all: buttons of several
stations, guards in series, links of a long chain.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from typing import Final

from vinegate.core.records import replace
from vinegate.core.starter.logic import Circuit, Contact, Input, Kind, Logic, make, series


@lru_cache(maxsize=256)
def merged(circuit: Circuit) -> Circuit:
    """The same with a further station's button, or a further guard, left out where each of its contacts stands beside
    the first one's.

    In series or in parallel with its like it adds nothing that the first may not do; a contact that lacks its like
    (bridged, or wired elsewhere) keeps its button in.
    """
    for one in circuit.inputs:
        twin = next((other for other in circuit.inputs if other is not one and _alike(other, one)), None)
        if twin is None or circuit.inputs.index(twin) > circuit.inputs.index(one):
            continue
        if all(_beside(device.logic, one.tag, twin.tag) for device in circuit.devices):
            return merged(_dropped(circuit, one.tag))
    link = _link(circuit)
    return merged(_without_link(circuit, link)) if link else circuit


def _link(circuit: Circuit) -> int:
    """Place of a link in the middle of a long chain that is wired as the one before it; nought where there is none.

    It sees the one before it alone, as every other does, and a start asks each alike: what holds of a first
    and a further one holds of more.
    """
    for place in range(1, len(circuit.chain) - 1) if len(circuit.chain) > WALKED else ():
        own = {name for pair in circuit.chain[place : place + 2] for name in pair}
        tag, before = circuit.chain[place][1], circuit.chain[place - 1][1]
        others = [device for device in circuit.devices if device.tag not in own]
        plain = _plain(circuit, place) and _plain(circuit, place + 1)
        if plain and all(_beside(device.logic, tag, before) for device in others):
            return place
    return 0


WALKED: Final = 2
"""Links of a chain."""


def _plain(circuit: Circuit, place: int) -> bool:
    """Whether a link is wired from the one before it: its timer by that, its contactor by both."""
    (timer, tag), begun = circuit.chain[place], make(circuit.chain[place - 1][1])
    wired = circuit.device(timer).logic, circuit.device(tag).logic
    return wired == (begun, series(begun, make(timer)))


def _without_link(circuit: Circuit, place: int) -> Circuit:
    """The next link hangs on the one before."""
    gone, before, (timer, next_) = circuit.chain[place], circuit.chain[place - 1][1], circuit.chain[place + 1]
    hangs: dict[str, Logic] = {timer: make(before), next_: series(make(before), make(timer))}
    found = _dropped(circuit, gone[1])
    return replace(
        found,
        devices=tuple(
            replace(one, logic=hangs.get(one.tag, one.logic)) for one in found.devices if one.tag not in gone
        ),
        poles=tuple((tag, poles) for tag, poles in found.poles if tag not in gone),
        steps=(*found.steps[:place], *found.steps[place + 1 :]),
        chain=(*found.chain[:place], *found.chain[place + 1 :]),
    )


def _alike(one: Input, other: Input) -> bool:
    """But for their tags; guards whatever trips them, other stops whether they spring back or stay."""
    guards = one.kind is Kind.GUARD, other.kind is Kind.GUARD
    if one.stops and other.stops and guards[0] == guards[1]:
        one = replace(one, name=other.name, location=other.location, kind=other.kind)
    return replace(one, tag=other.tag) == other


def _nodes(logic: Logic) -> Iterator[tuple[Logic, ...]]:
    """The parts of each series and each parallel."""
    if isinstance(logic, Contact):
        yield (logic,)
        return
    yield logic.parts
    for part in logic.parts:
        if not isinstance(part, Contact):
            yield from _nodes(part)


def _beside(logic: Logic, tag: str, twin: str) -> bool:
    """Whether the two have the same contacts, each pair in one series or parallel."""
    for parts in _nodes(logic):
        own = {(part.breaks, part.late) for part in parts if isinstance(part, Contact) and part.of == tag}
        like = {(part.breaks, part.late) for part in parts if isinstance(part, Contact) and part.of == twin}
        if own != like:
            return False
    return True


def _dropped(circuit: Circuit, tag: str) -> Circuit:
    def kept(logic: Logic) -> Logic:
        if isinstance(logic, Contact):
            return logic
        return type(logic)(tuple(kept(part) for part in logic.parts if not isinstance(part, Contact) or part.of != tag))

    return replace(
        circuit,
        inputs=tuple(one for one in circuit.inputs if one.tag != tag),
        devices=tuple(replace(device, logic=kept(device.logic)) for device in circuit.devices),
    )
