"""A voltmeter on the running control circuit, an ohmmeter on the dead one; and faults to hunt with them."""

from __future__ import annotations

from enum import StrEnum

from vinegate.core.records import dataclass
from vinegate.core.starter.faults import Case, Class, cases_of, swept
from vinegate.core.starter.logic import Circuit, Coil, Contact
from vinegate.core.starter.machine import Moving, State
from vinegate.core.starter.netlist import LIVE, RETURN, Element, Netlist


class Reading(StrEnum):
    """What the meter shows: full control volts, none, no steady reading; or, dead, a short way, a coil, none."""

    FULL = "full control volts"
    NONE = "0 V"
    FLOATS = "nothing steady: one of the two floats"
    THROUGH = "0 Ω"
    COIL = "a coil's ohms"
    OPEN = "open"


@dataclass(frozen=True, slots=True, kw_only=True)
class Meter:
    """A circuit as it stands, with its fault if it has one."""

    circuit: Circuit
    netlist: Netlist
    moving: Moving
    state: State
    fault: Case | None = None

    def nets(self) -> tuple[str, ...]:
        """Points of the control circuit to measure at."""
        return tuple(dict.fromkeys(net for one in self._control() for net in one.pins))

    def reads(self, one: str, other: str) -> Reading:
        """Between two nets, by a meter of many megohms: a net behind a coil is at the far side's potential.

        Raises KeyError for a net that is not in the control circuit.
        """
        joined = self._joined()
        here, there = joined[one], joined[other]
        if here == there:
            return Reading.NONE if self.state.power else Reading.THROUGH
        if not self.state.power:
            return Reading.COIL if self._by_coils(here, there) else Reading.OPEN
        volts = [self._potential(group) for group in (here, there)]
        if None in volts:
            return Reading.FLOATS
        return Reading.NONE if volts[0] == volts[1] else Reading.FULL

    def _control(self) -> list[Element]:
        return [one for one in self.netlist.elements if one.rung]

    def _joined(self) -> dict[str, frozenset[str]]:
        """Nets that closed contacts make one."""
        groups = {net: {net} for net in self.nets()}
        for element in self._control():
            if element.what.endswith("contact") and self._closed(element):
                whole = groups[element.pins[0]] | groups[element.pins[1]]
                for net in whole:
                    groups[net] = whole
        return {net: frozenset(group) for net, group in groups.items()}

    def _closed(self, element: Element) -> bool:
        contact = Contact(element.of, element.what != "make contact", element.what.startswith("late"))
        return self.moving.closed(self.state, self.circuit.devices[element.rung - 1].tag, contact)

    def _coils(self) -> list[Element]:
        """Windings that are whole."""
        dead = {tag for tag, at in self.fault.held if at == 0} if self.fault else set()
        kinds = {kind.value for kind in Coil}
        return [one for one in self._control() if one.what in kinds and one.of not in dead]

    def _potential(self, group: frozenset[str]) -> str | None:
        """The side of the supply that it has, by itself or through a coil; None where it floats."""
        if LIVE in group:
            return LIVE
        if RETURN in group or any(one.pins[0] in group for one in self._coils()):
            return RETURN
        return None

    def _by_coils(self, here: frozenset[str], there: frozenset[str]) -> bool:
        """Whether coils join them: each lies on the return with its far end."""
        ends = [RETURN in group or any(one.pins[0] in group for one in self._coils()) for group in (here, there)]
        return all(ends)


def hidden(circuit: Circuit, seed: int) -> Case | None:
    """One of the faults that a person would notice, by a seed; None of a circuit that has none."""
    both = zip(cases_of(circuit), swept(circuit), strict=False)
    seen = [case for case, fault in both if fault.ends is not Class.UNNOTICED]
    return seen[seed * 2654435761 % 2**32 % len(seen)] if seen else None
