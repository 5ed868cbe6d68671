"""Letters on drawings: by NEMA ICS 19, by IEC 81346-2, or by the older IEC habit. The circuit is the same."""

from __future__ import annotations

from collections import Counter
from typing import Final

from vinegate.core.records import replace
from vinegate.core.starter.logic import Circuit, Coil, Device, Input, Kind, mapped
from vinegate.core.starter.wishes import PERMIT

_COILS: Final[dict[str, dict[Coil, str]]] = {
    "81346": {Coil.CONTACTOR: "QA", Coil.RELAY: "KF", Coil.TIMER: "KF", Coil.LAMP: "PF", Coil.HEATER: "EB"},
    "older": {Coil.CONTACTOR: "K", Coil.RELAY: "K", Coil.TIMER: "K", Coil.LAMP: "H", Coil.HEATER: "E"},
}
_WORKED: Final[dict[str, dict[str, str]]] = {
    "81346": {"hand": "SF", "overload": "FC", "field": "B", "command": "KF"},
    "older": {"hand": "S", "overload": "F", "field": "B", "command": "K"},
}


def named_by(circuit: Circuit, habit: str) -> dict[str, str]:
    """Old tags with their new ones, numbered in the order of the drawing; empty where the letters are NEMA's own.

    >>> from vinegate.core.starter.circuits import BY_WAY
    >>> from vinegate.core.starter.wishes import Wishes
    >>> found = named_by(BY_WAY["full-voltage"](Wishes()), "81346")
    >>> found["M"], found["STOP"], found["START"], found["OL"]
    ('QA1', 'SF1', 'SF2', 'FC1')
    """
    if habit not in _COILS:
        return {}
    counts: Counter[str] = Counter()

    def next_(letters: str) -> str:
        counts[letters] += 1
        return f"{letters}{counts[letters]}"

    names = {device.tag: next_(_COILS[habit][device.coil]) for device in circuit.devices}
    return names | {one.tag: next_(_WORKED[habit][_kind(one)]) for one in circuit.inputs}


def _kind(one: Input) -> str:
    if one.kind is Kind.GUARD and one.location == "panel":
        return "overload"
    if one.tag == PERMIT:
        return "command"
    return "field" if one.location == "field" else "hand"


def renamed(circuit: Circuit, names: dict[str, str]) -> Circuit:
    """The same circuit with other tags."""
    if not names:
        return circuit

    def name(tag: str) -> str:
        return names.get(tag, tag)

    def device(one: Device) -> Device:
        logic = mapped(one.logic, lambda contact: replace(contact, of=name(contact.of)))
        return replace(one, tag=name(one.tag), logic=logic, unlatches=name(one.unlatches))

    def all_of(tags: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(name(tag) for tag in tags)

    return replace(
        circuit,
        inputs=tuple(replace(one, tag=name(one.tag)) for one in circuit.inputs),
        devices=tuple(device(one) for one in circuit.devices),
        poles=tuple((name(tag), poles) for tag, poles in circuit.poles),
        rests=tuple((name(tag), poles) for tag, poles in circuit.rests),
        apart=tuple((name(one), name(other)) for one, other in circuit.apart),
        pauses=tuple((name(one), name(other), pause_s) for one, other, pause_s in circuit.pauses),
        limits=tuple((name(one), name(other)) for one, other in circuit.limits), then=all_of(circuit.then),
        chain=tuple((name(one), name(other)) for one, other in circuit.chain),
        heaters=all_of(circuit.heaters), release=name(circuit.release), lasting=name(circuit.lasting),
        momentary=all_of(circuit.momentary), rides=name(circuit.rides), rested=name(circuit.rested),
        modes=tuple((name(one), all_of(tags)) for one, tags in circuit.modes),
        wanted=all_of(circuit.wanted), brakes=all_of(circuit.brakes), speeds=all_of(circuit.speeds),
        setup=all_of(circuit.setup), automatic=all_of(circuit.automatic),
    )  # fmt: skip
