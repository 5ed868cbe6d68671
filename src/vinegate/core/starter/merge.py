"""Buttons of several stations that do one and the same: seen as one, so that a proof does not walk them all."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from vinegate.core.records import replace
from vinegate.core.starter.logic import Circuit, Contact, Input, Logic


@lru_cache(maxsize=256)
def merged(circuit: Circuit) -> Circuit:
    """The same with a further station's button left out where each of its contacts stands beside the first one's.

    In series or in parallel with its like it adds nothing that the first may not do; a contact that lacks its like
    (bridged, or wired elsewhere) keeps its button in.
    """
    for one in circuit.inputs:
        twin = next((other for other in circuit.inputs if other is not one and _alike(other, one)), None)
        if twin is None or circuit.inputs.index(twin) > circuit.inputs.index(one):
            continue
        if all(_beside(device.logic, one.tag, twin.tag) for device in circuit.devices):
            return merged(_dropped(circuit, one.tag))
    return circuit


def _alike(one: Input, other: Input) -> bool:
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
