"""What keeps a motor out for a time: a rest after each stop, a purge ahead of each start."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit as Facts
from vinegate.core.facts import Job
from vinegate.core.grade import Gate, at_most, confirm, unknown
from vinegate.core.numbers import counted, write, write_down
from vinegate.core.place.devices import marking_of
from vinegate.core.records import replace
from vinegate.core.starter.facts import Starter
from vinegate.core.starter.logic import (
    Circuit,
    Coil,
    Contact,
    Device,
    Kind,
    Logic,
    broken,
    either,
    make,
    mapped,
    series,
)
from vinegate.core.starter.machine import fed
from vinegate.core.starter.wishes import PURGE, PURGED, Wishes
from vinegate.core.turning import less, point

_REST: Final = "TA"
_MINUTE_S, _HOUR_S = 60.0, 3600.0
_LEAST_S: Final = 1.0
"""At work between a start and the next stop, where nothing is said of it."""


def with_rest(circuit: Circuit, wishes: Wishes) -> Circuit:
    """The same, kept out for its time after each stop: `START·/TA`, of held contacts `AUTO·(/TA + M)`.

    TA is in while anything feeds the motor and lasts after it, without control power as well; what has sealed by then
    does not ask it again, so that the order in which its contact and a seal move does not matter.
    """
    if circuit.momentary or circuit.brakes or circuit.windings or circuit.rides or circuit.modes or wishes.reverses:
        return circuit
    begins = {one.tag: one.kind for one in circuit.inputs if one.starts or one.tag in circuit.automatic[:1]}
    lines = [tag for tag in circuit.feeds if fed(circuit, frozenset({tag}))]
    rested = broken(_REST)

    def put(contact: Contact) -> Logic:
        kind = None if contact.breaks else begins.get(contact.of)
        if kind is None:
            return contact
        held = either(rested, *(make(tag) for tag in lines)) if kind is Kind.HELD else rested
        return series(contact, held)

    timer = Device(tag=_REST, name="rests after a stop", logic=either(*(make(tag) for tag in lines)), coil=Coil.TIMER,
                   delay_s=wishes.rests_s, lasts=True, motor=False)  # fmt: skip
    devices = (replace(one, logic=mapped(one.logic, put)) for one in circuit.devices)
    return replace(circuit, devices=(*devices, timer), rested=_REST, grants=(*circuit.grants, "rests_s"))


def with_purge(circuit: Circuit, wishes: Wishes) -> Circuit:
    """Its timer, whose contact stands beside the overload's: `TPg = PRG`, and the motor only while TPg is in."""
    timer = Device(tag=PURGED, name="purged", logic=make(PURGE), coil=Coil.TIMER, delay_s=wishes.purges_s, motor=False)
    return replace(circuit, devices=(*circuit.devices, timer), setup=(*circuit.setup, PURGE))


def waits_gates(job: Job, circuit: Facts, facts: Starter, drawn: Circuit) -> list[Gate]:
    """Whether its rest leaves it as many starts as are asked, and whether what is kept under pressure is purged."""
    rests = _rest_gate(circuit, facts) if facts.rests_s and "rests_s" in drawn.grants else None
    purged = _purge_gate(job, circuit, facts)
    return [gate for gate in (rests, purged) if gate is not None]


def _rest_gate(circuit: Facts, facts: Starter) -> Gate | None:
    """Of each hour: so many rests, and so many stretches at work where it is said how long one is."""
    starts, rests_s = circuit.start.starts_per_hour, facts.rests_s or 0.0
    if not starts:
        return None
    behind = [
        point(rests_s, path="starter.rests", label="rests for", unit="s"),
        point(starts, path="start.starts_per_hour", label="starts an hour"),
    ]
    work_s, often, at_work = circuit.load.stretch_s, f"{counted(starts, 'start')} an hour", ""
    if work_s:
        behind.append(point(work_s, path="load.stretch", label="longest at a stretch", unit="s"))
        at_work = f" of {write(work_s / _MINUTE_S, 3)} min at work"

    def room(rests: float, starts: float, works: float = _LEAST_S) -> float:
        return _HOUR_S / starts - works - rests

    most_s = max(room(0.0, starts, work_s or _LEAST_S), 0.0)
    return at_most(
        "starter.rests", "Rest leaves the starts that are asked", rests_s, most_s, unit="s",
        sentence=f"It rests {write(rests_s, 3)} s after each stop; {often}{at_work} leave {write_down(most_s)} s.",
        source="as said of the start and of the load", rests=less(*behind), room=room,
        remedy=f"At most {write_down(most_s)} s, or fewer starts." if most_s >= 1 else "Fewer starts.",
    )  # fmt: skip


def _purge_gate(job: Job, circuit: Facts, facts: Starter) -> Gate | None:
    """A housing that is kept under pressure is purged of gas before anything in it has volts (IEC 60079-2:2014 7,
    NFPA 496): by either rule set, whichever of the plate's markings says so.
    """
    area, marks = circuit.place.motor, marking_of(circuit, "motor")[0].ex
    kept = [one for mark in marks if not mark.dust for one in mark.types if one.startswith("p")]
    if area is None or job.area(area).status != "zone" or not kept:
        return None
    key, name, source = "starter.purge", "Purged before it starts", "NFPA 496:2021; IEC 60079-2:2014 7, 8"
    if facts.purges_s:
        text = (
            f"It starts once it has been purged for {write(facts.purges_s, 3)} s, and is cut off when that fails: "
            "flow, time and pressure by its certificate."
        )
        return confirm(key, name, False, text, source)
    if facts.follows == "yes":
        text = "It runs only while another's contact is in: that contact is its purge unit's, which times it."
        return confirm(key, name, False, text, source)
    return unknown(key, name, ("how long it is purged before a start",))
