"""Nets with their wire numbers, elements with their pins: wire list, terminals and parts are read from these."""

from __future__ import annotations

from collections import Counter
from dataclasses import field
from typing import Final

from vinegate.core.records import dataclass
from vinegate.core.starter.logic import Circuit, Coil, Contact, Device, Kind, Logic, Series
from vinegate.core.starter.trunk import Chain, Prefix, chains_of, pieces_of

LIVE, RETURN = "X1", "X2"


@dataclass(frozen=True, slots=True, kw_only=True)
class Element:
    """A contact, coil or pole between two nets. `rung` counts the coils from one; nought in the power circuit."""

    what: str
    of: str
    pins: tuple[str, str]
    rung: int = 0
    location: str = "panel"

    @property
    def is_contact(self) -> bool:
        return self.what.endswith("contact")


@dataclass(frozen=True, slots=True, kw_only=True)
class Netlist:
    """Everything that is joined to something."""

    elements: tuple[Element, ...]
    marks: dict[int, tuple[str, str]] = field(default_factory=dict)
    """Marks of each element's two ends, by its place among them."""

    def nets(self) -> tuple[str, ...]:
        """Every net once, in the order in which they are met."""
        return tuple(dict.fromkeys(net for element in self.elements for net in element.pins))

    def terminals(self) -> tuple[tuple[str, tuple[str, ...]], ...]:
        """Nets that leave the panel, with the places they go to."""
        places: dict[str, set[str]] = {}
        for element in self.elements:
            for net in element.pins:
                places.setdefault(net, set()).add(element.location)
        return tuple(
            (net, tuple(sorted(where))) for net, where in places.items() if len(where) > 1 or "panel" not in where
        )


class _Numbers:
    """Wire numbers, one a net, from 1 on the live side; the return is 2."""

    def __init__(self) -> None:
        self._last = 2

    def next(self) -> str:
        self._last += 1
        return str(self._last)


def netlist_of(circuit: Circuit) -> Netlist:
    """Rung by rung, what chains share once; contacts between the same two nets carry the same numbers."""
    numbers, elements = _Numbers(), []
    places = {one.tag: one.location for one in circuit.inputs}
    nets: dict[Prefix, str] = {(): LIVE}
    for rung, device in enumerate(circuit.devices, start=1):
        chains = [one for one in chains_of(circuit) if one.device == rung - 1]
        whole = len(chains) == 1 and 0 < len(chains[0].parts) == chains[0].hangs
        end = nets[chains[0].prefix(chains[0].hangs)] if whole else numbers.next()
        for chain in chains:
            elements += _chained(chain, end, rung, numbers, places, nets)
        elements.append(Element(what=device.coil.value, of=device.tag, pins=(end, RETURN), rung=rung))
    for tag, poles in circuit.poles:
        elements += [Element(what="pole", of=tag, pins=pole) for pole in poles]
    for tag, poles in circuit.rests:
        elements += [Element(what="rest pole", of=tag, pins=pole) for pole in poles]
    for name, joins in circuit.between:
        elements += [Element(what=name, of=name, pins=pole) for pole in joins]
    return Netlist(elements=tuple(elements), marks=_marked(circuit, elements))


_FIGURES: Final = {"make contact": ("3", "4"), "break contact": ("1", "2"), "late break contact": ("1", "2")}
_TIMED: Final = {"make contact": ("7", "8"), "break contact": ("5", "6")}


def _marked(circuit: Circuit, elements: list[Element]) -> dict[int, tuple[str, str]]:
    """Ends by IEC 60947-5-1 annex L: place among the device's contacts, then 1-2 breaks, 3-4 makes, 5-8 delayed ones.

    An overload's own are 95-96 and 97-98, a coil's A1-A2, poles 1-2, 3-4, 5-6.
    """
    timers = {one.tag for one in circuit.devices if one.coil is Coil.TIMER}
    relays = {one.tag for one in circuit.inputs if one.kind is Kind.GUARD and one.location == "panel"}
    seen: Counter[tuple[str, str]] = Counter()
    found = {}
    for place, one in enumerate(elements):
        kind = "contact" if one.is_contact else one.what
        seen[one.of, kind] += 1
        count = seen[one.of, kind]
        if one.what == "pole":
            found[place] = (str(2 * count - 1), str(2 * count))
        elif one.what == "rest pole":
            found[place] = (f"R{2 * count - 1}", f"R{2 * count}")
        elif not one.is_contact:
            found[place] = ("A1", "A2")
        elif one.of in relays:
            found[place] = ("97", "98") if one.what == "make contact" else ("95", "96")
        else:
            figures = (_TIMED if one.of in timers else _FIGURES)[one.what]
            found[place] = (f"{count}{figures[0]}", f"{count}{figures[1]}")
    return found


def _chained(
    chain: Chain, end: str, rung: int, numbers: _Numbers, places: dict[str, str], nets: dict[Prefix, str]
) -> list[Element]:
    """What is the chain's own, from the net it hangs on to its coil; the nets behind its first contacts are kept."""
    here, found = nets[chain.prefix(chain.hangs)], []
    for place in range(chain.hangs, len(chain.parts)):
        there = end if place == len(chain.parts) - 1 else numbers.next()
        found += _laid(chain.parts[place], here, there, rung, numbers, places)
        if place < chain.heads:
            nets[chain.prefix(place + 1)] = there
        here = there
    return found


def _laid(logic: Logic, from_: str, to: str, rung: int, numbers: _Numbers, places: dict[str, str]) -> list[Element]:
    if isinstance(logic, Contact):
        what = "late break contact" if logic.late else "break contact" if logic.breaks else "make contact"
        return [Element(what=what, of=logic.of, pins=(from_, to), rung=rung, location=places.get(logic.of, "panel"))]
    if isinstance(logic, Series):
        found, here = [], from_
        for place, part in enumerate(logic.parts):
            there = to if place == len(logic.parts) - 1 else numbers.next()
            found += _laid(part, here, there, rung, numbers, places)
            here = there
        return found
    return [one for part in logic.parts for one in _laid(part, from_, to, rung, numbers, places)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """A device of the panel: amperes of its poles, category, contacts wired; `mirror`: its break contacts interlock;
    `delay`: what its timer is set to.
    """

    tag: str
    name: str
    amps: float | None
    duty: str
    makes: int
    breaks: int
    late: int
    mirror: bool
    delay: str = ""

    @property
    def contacts(self) -> int:
        return self.makes + self.breaks + self.late

    @property
    def block(self) -> str:
        """The least usual auxiliary block of a contactor that has them, makes and breaks; empty where none is taken."""
        if not (self.duty and self.contacts):
            return ""
        fits = (f"{size}+{size}" for size in _BLOCKS if max(self.makes, self.breaks + self.late) <= size)
        return next(fits, "two blocks, or a relay")


_BLOCKS: Final = (1, 2, 4)  # make and break contacts each, as they are made (IEC 60947-5-1)
_MAKES: Final = 7.0  # times its AC-3 amperes that a contactor carries through a start (IEC 60947-4-1:2018, AC-3)


@dataclass(frozen=True, slots=True, kw_only=True)
class Amps:
    """What contactors carry: the line while it runs, the motor at rest at full volts, a brake's direct current, a wound
    rotor's rings, an armature, a drive's input. None while it is not known.
    """

    line: float | None
    locked: float | None = None
    direct: float | None = None
    rings: float | None = None
    armature: float | None = None
    input: float | None = None


def _carries(device: Device, amps: Amps) -> float | None:
    """Amperes of the rating that its place asks; None while the current it follows is not known."""
    line_a, locked_a, direct_a = amps.line, amps.locked, amps.direct
    if device.coil is not Coil.CONTACTOR:
        return None
    if device.of_input:
        return amps.input
    if device.of_armature:
        return amps.armature
    if device.of_rings:
        return device.of_rings * amps.rings if amps.rings else None
    if device.braking:
        turning = device.share * line_a if line_a and device.motor else 0.0
        return max(direct_a, turning) if direct_a is not None else None
    if device.of_start:
        return device.of_start * locked_a / _MAKES if locked_a else None
    return device.share * line_a if line_a and device.share else None


def parts_of(circuit: Circuit, amps: Amps) -> tuple[Part, ...]:
    """Every coil with what it must carry and how many contacts are wired of it.

    What carries the start alone follows the amperes at rest: behind a tap t the line takes t² of them and the star
    point of the winding t(1 − t). Direct current of a brake flows through its own contactor and a star point that
    closes for it.
    """
    used = Counter(contact for contact, _ in pieces_of(circuit))
    locked = {tag for pair in circuit.apart for tag in pair}
    found = []
    for device in circuit.devices:
        own = {contact: count for contact, count in used.items() if contact.of == device.tag}
        contactor = device.coil is Coil.CONTACTOR
        found.append(
            Part(
                tag=device.tag,
                name=device.name,
                amps=_carries(device, amps),
                duty=device.duty if contactor else "",
                makes=sum(count for one, count in own.items() if not one.breaks),
                breaks=sum(count for one, count in own.items() if one.breaks and not one.late),
                late=sum(count for one, count in own.items() if one.late),
                mirror=device.tag in locked,
                delay=f"{'off' if device.lasts else 'on'}-delay, {device.set_to}" if device.set_to else "",
            )
        )
    return tuple(found)
