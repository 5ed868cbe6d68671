"""What rungs share: one stop, one overload contact feeds all the coils behind it, as it is wired.

A coil's logic says all that stands ahead of it. Where chains begin with the same contacts they are one wire until they
part: those contacts exist once, and what follows hangs from the net behind them.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from vinegate.core.records import dataclass, replace
from vinegate.core.starter.logic import Circuit, Contact, Logic, Parallel, Series, contacts_of

Prefix = tuple[Contact, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Chain:
    """One way from the live side to a coil. Its first `hangs` contacts belong to a chain before it.

    `device` counts from nought; `parts` are all of it, in series.
    """

    device: int
    parts: tuple[Logic, ...]
    hangs: int = 0
    alone: bool = True
    """Whether no other chain feeds the same coil: then the net at its coil may feed further ones."""

    def prefix(self, length: int) -> Prefix:
        return tuple(part for part in self.parts[:length] if isinstance(part, Contact))

    @property
    def heads(self) -> int:
        """How many of its parts may be shared: the contacts it begins with, but never a net that two chains feed."""
        count = 0
        for part in self.parts if self.alone else self.parts[:-1]:
            if not isinstance(part, Contact):
                break
            count += 1
        return count


@lru_cache(maxsize=512)
def chains_of(circuit: Circuit) -> tuple[Chain, ...]:
    """Every chain in the order of the rungs, each hung from the first that begins as it does."""
    known: set[Prefix] = set()
    found = []
    for place, device in enumerate(circuit.devices):
        branches = device.logic.parts if isinstance(device.logic, Parallel) else (device.logic,)
        for branch in branches:
            parts = branch.parts if isinstance(branch, Series) else (branch,)
            chain = Chain(device=place, parts=parts, alone=len(branches) == 1)
            hangs = next((n for n in range(chain.heads, 0, -1) if chain.prefix(n) in known), 0)
            known |= {chain.prefix(n) for n in range(1, chain.heads + 1)}
            found.append(replace(chain, hangs=hangs))
    return tuple(found)


@lru_cache(maxsize=512)
def shared(circuit: Circuit) -> dict[tuple[str, Contact], frozenset[tuple[str, Contact]]]:
    """Which contacts ahead of which coils are one piece of metal; each with itself where it is alone."""
    groups: dict[tuple[str, Contact], set[tuple[str, Contact]]] = {
        (device.tag, contact): {(device.tag, contact)}
        for device in circuit.devices
        for contact in contacts_of(device.logic)
    }
    owners: dict[Prefix, tuple[str, Contact]] = {}
    for chain in chains_of(circuit):
        tag = circuit.devices[chain.device].tag
        for length in range(1, chain.heads + 1):
            prefix = chain.prefix(length)
            own = (tag, prefix[-1])
            whole = groups[owners.setdefault(prefix, own)] | groups[own]
            for one in whole:
                groups[one] = whole
    return {one: frozenset(group) for one, group in groups.items()}


def pieces_of(circuit: Circuit) -> Iterator[tuple[Contact, tuple[str, ...]]]:
    """Every contact once, with the coils it stands ahead of in their order."""
    order = {device.tag: place for place, device in enumerate(circuit.devices)}
    groups = shared(circuit)
    for group in dict.fromkeys(groups.values()):
        tags = tuple(sorted({tag for tag, _ in group}, key=order.__getitem__))
        yield next(iter(group))[1], tags


def without(circuit: Circuit, removed: tuple[str, ...]) -> Circuit:
    """The same with contacts bridged, each named as `2M in S`, to see what breaks; one that is shared goes for all."""
    named = {tuple(one.split(" in ")) for one in removed}
    gone = {
        (other.of, tag)
        for (of, contact), group in shared(circuit).items()
        if (contact.of, of) in named
        for tag, other in group
    }

    def cut(logic: Logic, of: str) -> Logic | None:
        if isinstance(logic, Contact):
            return None if (logic.of, of) in gone else logic
        parts = tuple(part for part in (cut(one, of) for one in logic.parts) if part is not None)
        if isinstance(logic, Parallel) and len(parts) < len(logic.parts):
            return None  # one way round is bridged: all of it is
        return type(logic)(parts) if parts else None

    devices = tuple(replace(device, logic=cut(device.logic, device.tag) or Series(())) for device in circuit.devices)
    return replace(circuit, devices=devices)
