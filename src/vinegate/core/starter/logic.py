"""A control circuit as data: what is pressed, what picks up, which contacts stand ahead of it, which poles close.

Contacts in series are all needed, those in parallel any. Everything drawn, listed, proved and run is read from here.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from enum import StrEnum
from typing import Final

from vinegate.core.numbers import write
from vinegate.core.records import dataclass, replace


@dataclass(frozen=True, slots=True)
class Contact:
    """A contact of an input or a coil. `breaks`: closed at rest. `late`: opens only after the make contacts closed."""

    of: str
    breaks: bool = False
    late: bool = False


@dataclass(frozen=True, slots=True)
class Series:
    parts: tuple[Logic, ...]


@dataclass(frozen=True, slots=True)
class Parallel:
    parts: tuple[Logic, ...]


Logic = Contact | Series | Parallel


def series(*parts: Logic | None) -> Series:
    """All of these; what is None is left out, and series within are taken apart."""
    found: list[Logic] = []
    for part in parts:
        if isinstance(part, Series):
            found += part.parts
        elif part is not None:
            found.append(part)
    return Series(tuple(found))


def either(*parts: Logic | None) -> Logic:
    """Any of these."""
    found = tuple(part for part in parts if part is not None)
    return found[0] if len(found) == 1 else Parallel(found)


def make(of: str) -> Contact:
    """Closed while what it belongs to is in, or pressed."""
    return Contact(of)


def broken(of: str, *, late: bool = False) -> Contact:
    """Open while what it belongs to is in, or pressed."""
    return Contact(of, breaks=True, late=late)


def contacts_of(logic: Logic) -> Iterator[Contact]:
    """Every contact, from the live side to the coil."""
    if isinstance(logic, Contact):
        yield logic
        return
    for part in logic.parts:
        yield from contacts_of(part)


def mapped(logic: Logic, change: Callable[[Contact], Logic]) -> Logic:
    """The same with every contact changed so."""
    if isinstance(logic, Contact):
        return change(logic)
    return type(logic)(tuple(mapped(part, change) for part in logic.parts))


class Kind(StrEnum):
    """What an input is: a button springs back, what is held stays, a guard trips and is reset by hand."""

    BUTTON = "button"
    HELD = "held"
    GUARD = "guard"


@dataclass(frozen=True, slots=True, kw_only=True)
class Input:
    """Something that a person or a guard works. `stops`: it must put every motor contactor out; `slows`: what brakes
    may be in meanwhile, though it is a guard.
    """

    tag: str
    name: str
    kind: Kind = Kind.BUTTON
    stops: bool = False
    starts: bool = False
    permits: bool = False
    """It must stand so for the motor to run."""
    slows: bool = False
    location: str = "door"
    turns: float = 0.0
    """Of a speed switch: the share of synchronous speed above which it closes, negative backwards; else nought."""


class Coil(StrEnum):
    """What a coil moves."""

    CONTACTOR = "contactor"
    RELAY = "relay"
    TIMER = "timer"
    LAMP = "lamp"
    HEATER = "heater"


@dataclass(frozen=True, slots=True, kw_only=True)
class Device:
    """A coil with the contacts ahead of it. `delay_s` of a timer: on-delay. `share` of line amperes its poles carry.

    `duty` is its utilization category; `motor` where its poles feed the motor.
    """

    tag: str
    name: str
    logic: Logic
    coil: Coil = Coil.CONTACTOR
    delay_s: float = 0.0
    transition: bool = False
    """Of a timer: it ends the first connection, and is set by the run-up."""
    latched: bool = False
    """It stays in without volts, until its unlatching coil has some."""
    unlatches: str = ""
    """Of an unlatching coil: the relay that it lets go."""
    lasts: bool = False
    """Of a timer: it is in at once, and stays so long after its coil has let go (off-delay)."""
    own: bool = False
    """A relay of electronics, that times itself: nobody sets it."""
    share: float = 1.0
    of_start: float = 0.0
    """What it carries during the start only, as a share of the locked-rotor amperes; nought where it runs on."""
    of_input: bool = False
    """Whether it carries what a drive takes in."""
    of_armature: bool = False
    """Whether it carries the direct current of an armature."""
    of_rings: float = 0.0
    """What it carries of a wound rotor's own amperes; nought where it stands in the line."""
    braking: bool = False
    """Whether it carries the direct current of a brake."""
    duty: str = "AC-3"
    motor: bool = True

    @property
    def set_to(self) -> str:
        """What a timer is set to; empty of what is none.

        >>> Device(tag="TR", name="star time", logic=make("1M"), coil=Coil.TIMER, delay_s=3.25).set_to
        '3.25 s'
        """
        return f"{write(self.delay_s, 3)} s" if self.coil is Coil.TIMER and self.delay_s and not self.own else ""


Pole = tuple[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Winding:
    """One of several speeds: its leads on the three phases, and those that must be joined meanwhile."""

    words: str
    leads: tuple[str, str, str]
    star: tuple[str, ...] = ()
    slow: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Circuit:
    """A starter. `poles` are the pairs of nets that each contactor joins; `apart` the pairs that are never in at once.

    `restarts`: a two-wire circuit, that starts by itself when power returns; `wanted` is which contactors are in at the
    end of a start.
    """

    key: str
    name: str
    inputs: tuple[Input, ...]
    devices: tuple[Device, ...]
    poles: tuple[tuple[str, tuple[Pole, ...]], ...]
    between: tuple[tuple[str, tuple[Pole, ...]], ...] = ()
    """What stands between nets of the power circuit beside contactors, by its name."""
    rests: tuple[tuple[str, tuple[Pole, ...]], ...] = ()
    """Pairs of nets that a contactor's rest poles join while it is out."""
    fed_by: str = "through what stands ahead"
    """In words, while its leads are on no phase by poles alone."""
    apart: tuple[tuple[str, str], ...] = ()
    restarts: bool = False
    wanted: tuple[str, ...] = ()
    brakes: tuple[str, ...] = ()
    """What a stop by button brings in to slow it; a guard puts it out as well."""
    speeds: tuple[str, ...] = ()
    """Inputs that say the shaft turns: once none does, a brake must be out as well."""
    limits: tuple[tuple[str, str], ...] = ()
    """Inputs, each with the device that it must keep out: a limit its direction, a turning shaft the other one."""
    then: tuple[str, ...] = ()
    """Inputs that are worked after its start before it reaches its end: a button for delta, a speed switch."""
    modes: tuple[tuple[str, tuple[str, ...]], ...] = ()
    """Selectors with what is in at the end of a start while they stand so."""
    rides: str = ""
    """The timer that lasts through an outage: while it does, power that comes back starts it again, as is asked."""
    momentary: tuple[str, ...] = ()
    """Buttons that drive it only while they are pressed."""
    setup: tuple[str, ...] = ()
    """Selectors that must stand so before its start button does anything."""
    automatic: tuple[str, ...] = ()
    """Inputs that run it by themselves, together: after an outage they do again, as is asked of them."""
    pauses: tuple[tuple[str, str, float], ...] = ()
    """Of pairs in `apart`: seconds by timer from the first's end to the second's start; it goes that way only."""
    windings: tuple[Winding, ...] = ()
    """Of several speeds; empty where the motor has one."""
    heaters: tuple[str, ...] = ()
    """Contactors that have an overload each, behind their line poles; empty where one stands in the line."""
    turns: tuple[tuple[tuple[Pole, ...], tuple[str, ...]], ...] = ()
    """Of a winding in the line: the two ends of its parts, and its star's nets. No part is joined while the star is."""
    steps: tuple[tuple[Pole, ...], ...] = ()
    """Of a resistor or reactor cut out in steps: the nets that each further step joins; after the last none of it is
    left.
    """
    chain: tuple[tuple[str, str], ...] = ()
    """Timers with their contactors, each pair begun by the contactor before it."""
    rings: tuple[str, ...] = ()
    """A wound rotor's leads."""
    straight: tuple[str, ...] = ()
    """Leads that a soft starter of two controlled phases does not switch: with its contactor in they carry volts."""
    release: str = ""
    """The relay that lets a spring-set brake go."""
    lasting: str = ""
    """The timer that lets it run on after a stop by button; a guard puts it out at once."""
    rested: str = ""
    """The timer that keeps it out for a while after each stop."""
    grants: tuple[str, ...] = ()
    """Which wishes, by their names, it is drawn to."""

    def timeless(self) -> Circuit:
        """The same with every timer and pause at nought: what is true however long they are set is found once."""
        devices = tuple(replace(one, delay_s=0.0) if one.delay_s else one for one in self.devices)
        return replace(self, pauses=(), devices=devices)

    def device(self, tag: str) -> Device:
        """Raises StopIteration."""
        return next(device for device in self.devices if device.tag == tag)

    def braking(self, pressed: tuple[bool, ...]) -> bool:
        """Whether what brakes it may be in: stopped by no guard, and turning as far as anything says so."""
        stopped, guarded = self.ends(pressed)
        stopped = stopped or not self.asked_to_run(pressed)
        turning = [on for one, on in zip(self.inputs, pressed, strict=True) if one.tag in self.speeds]
        return stopped and not guarded and (any(turning) or not turning)

    def ends(self, pressed: tuple[bool, ...]) -> tuple[bool, bool]:
        """Whether anything that stops it is worked, and whether that is a guard."""
        worked = [one for one, on in zip(self.inputs, pressed, strict=True) if on and one.stops]
        return bool(worked), any(one.kind is Kind.GUARD and not one.slows for one in worked)

    @property
    def asks(self) -> tuple[tuple[str, ...], ...]:
        """Inputs of which one set must stand so for it to run: held contacts, a selector's two places; empty: none."""
        permits = tuple(one.tag for one in self.inputs if one.permits)
        ways: tuple[tuple[str, ...], ...] = ((),)
        if self.restarts:
            ways = tuple((one.tag,) for one in self.inputs if one.starts)
        elif self.automatic:
            ways = (self.setup[:1], self.automatic)
        found = tuple((*permits, *way) for way in ways)
        return found if any(found) else ()

    def asked_to_run(self, pressed: tuple[bool, ...]) -> bool:
        """Whether one of those sets stands so; True where none is asked."""
        on = {one.tag for one, worked in zip(self.inputs, pressed, strict=True) if worked}
        return not self.asks or any(on.issuperset(way) for way in self.asks)

    @property
    def silent(self) -> frozenset[str]:
        """Inputs that begin nothing by themselves: what stops, limits, says that it turns, or permits."""
        stops = {one.tag for one in self.inputs if one.stops}
        turned = {one.tag for one in self.inputs if one.tag in self.then and one.kind is Kind.HELD}
        modes = {tag for tag, _ in self.modes}
        return frozenset(stops | turned | modes | {tag for tag, _ in self.limits} | {*self.speeds, *self.setup})

    def moved(self) -> Circuit:
        """The same without lamps and heaters: nothing depends on them."""
        return replace(self, devices=tuple(one for one in self.devices if one.coil not in (Coil.LAMP, Coil.HEATER)))

    def deciding(self) -> Circuit:
        """The same without its brake's relay as well, where no contact of that is used."""
        moved = self.moved()
        if any(contact.of == self.release for one in moved.devices for contact in contacts_of(one.logic)):
            return moved
        return replace(moved, release="", devices=tuple(one for one in moved.devices if one.tag != self.release))

    @property
    def feeds(self) -> tuple[str, ...]:
        """What feeds the motor, or tells its drive to: every stop must put them out."""
        return tuple(device.tag for device in self.devices if device.motor)


PHASES: Final = ("L1", "L2", "L3")
LINES: Final = (*PHASES, "N")
"""All that a motor may hang on: of one phase on a line and neutral too."""
