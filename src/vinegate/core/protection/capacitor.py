"""Capacitors switched with the motor: what they may hang behind, and how large they may be."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, at_most, rule, unknown
from vinegate.core.machine.describe import Machine
from vinegate.core.numbers import write
from vinegate.core.plate.kind import THREE_PHASE
from vinegate.core.plate.speeds import two_speeds
from vinegate.core.protection.need import Need
from vinegate.core.turning import Taken, more

SHARE: Final = 0.9
_SOURCE: Final = "IEC 60831-1:2014: at most 0.9 of the motor's no-load current; NEMA MG 1:2021 14.44"
_READ: Final = (0.95, 1.05)  # of a no-load current as measured; assumed
_FITTED: Final = (0.75, 1.25)  # of one from a circuit that was fitted; estimated


def idles(machine: Machine | None, measured_a: float | None) -> Taken | None:
    """No-load amperes of the machine with their band; None where they are not known."""
    value = measured_a
    if value is None and machine is not None and machine.inside is not None:
        value = machine.volts_v / (3**0.5 * (machine.inside.x1_ohm + machine.inside.xm_ohm))
    if value is None:
        return None
    low, high = _READ if measured_a is not None else _FITTED
    return Taken(
        path="machine.no_load_current", label="no-load amperes", unit="A", value=value, low=value * low,
        high=value * high, how="" if measured_a is not None else "estimated", typed=_READ, given=measured_a is not None,
    )  # fmt: skip


def capacitor_gates(need: Need, idle: Taken | None) -> tuple[Gate, ...]:
    """Where capacitors at the motor are given: what switches them with it, and self-excitation."""
    var, family = need.circuit.protection.motor_capacitor, need.circuit.plate.family
    if not var or family not in THREE_PHASE:
        return ()
    return _behind(need), _size(need, var, idle)


def _behind(need: Need) -> Gate:
    key, name, way, circuit = "protection.capacitor", "Capacitors switched with the motor", need.way, need.circuit
    source = "IEC 60947-4-2: none at a controller's output; NEMA MG 1:2021 14.44"
    remedy = "Put them ahead of the starter, switched by a contactor of their own, or at the board."
    if way.electronic or way.converts:
        text = f"Behind a {way.name}: their surges destroy its semiconductors."
        return rule(key, name, False, text, source, remedy=remedy)
    excited = [
        words
        for words, so in (
            ("an open change-over", need.used is not None and need.used.spike is not None),
            ("reversing", circuit.start.reversing == "yes"),
            ("jogging or plugging", circuit.protection.jogging == "yes"),
            ("a change of speed", two_speeds(circuit)),
        )
        if so
    ]
    if excited:
        text = (
            f"They keep the machine excited once it is off: with {' and '.join(excited)} it is switched on against its "
        )
        return rule(key, name, False, f"{text}own volts.", source, remedy=remedy)
    if need.comparison is None and circuit.start.method is None:
        return unknown(key, name, ("the way to start",))
    return rule(key, name, True, f"With {way.name}, by contactors that close once.", source)


def _size(need: Need, var: float, idle: Taken | None) -> Gate:
    """Below what it magnetises itself with: more, and it excites itself as it runs down, to volts above its own."""
    key, name = "protection.capacitor_size", "Capacitors at the motor are small enough"
    volts = need.rated.volts
    if idle is None or volts is None:
        return unknown(key, name, ("the machine's no-load amperes",))
    per_a = SHARE * 3**0.5 * volts.value / 1000
    text = f"{write(var / 1000, 3)} kvar; {SHARE:.0%} of what it idles with are {write(per_a * idle.value, 3)} kvar."
    return at_most(
        key, name, var / 1000, per_a * idle.value, sentence=text.replace("%", " %"), source=_SOURCE, unit="kvar",
        rests=more(idle), room=lambda amps: per_a * amps - var / 1000,
        remedy="Smaller ones, or at the board with a contactor of their own.",
    )  # fmt: skip
