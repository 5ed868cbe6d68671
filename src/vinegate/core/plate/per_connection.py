"""Amperes that a plate gives for each of its voltages: those of the connection in use, and whether they go together."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.volts import AmpsDesignation, Connection

_SAME_POWER: Final = 1.12


AT_REST: Final = ("locked_rotor_current", "locked-rotor amperes", " at rest")
AT_FACTOR: Final = ("service_factor_current", "SF amperes", " at SF")
FOR_EACH: Final = (AT_REST, AT_FACTOR)
"""Amperes that a plate gives once, or for each of its voltages: field, words, and when they flow."""
AS_MANY: Final = tuple(f"plate.{name}" for name, _, _ in FOR_EACH)
"""Gates that are not known where there are not as many of them as voltages."""


def as_connected(plate: Plate, name: str, connection: Connection | None, rated_v: float) -> float | None:
    """Amperes of one of these fields, of the connection in use; a single value is for that. None where the plate gives
    another number of them, or it is not known which connection that is.
    """
    value: float | AmpsDesignation | None = getattr(plate, f"{name}_a")
    if not isinstance(value, AmpsDesignation):
        return value
    if plate.volts is None or connection is None:
        return None
    every = plate.volts.connections
    return value.at(every.index(connection), connection, rated_v, len(every))


def too_many(plate: Plate, name: str, words: str) -> str:
    """What to ask for again where their number is not that of the voltages; empty where it is."""
    value, volts = getattr(plate, f"{name}_a"), plate.volts
    if not isinstance(value, AmpsDesignation) or volts is None:
        return ""
    given, asked = len(value.per_connection_a), len(volts.connections)
    return "" if given in (1, asked) else f"{words}: {given} values for {asked} voltage{'s' if asked > 1 else ''}"


def connection_gates(plate: Plate) -> list[Gate]:
    """Amperes of two connections go inversely with their volts: the same windings, the same power."""
    found = [_gate(plate, "plate.amps", "Amperes of both connections", "", plate.full_load_current)]
    for name, words, when in FOR_EACH:
        key, title = f"plate.{name}", f"Both amperes{when}"
        again = too_many(plate, name, words)
        found.append(
            unknown(key, title, (again,)) if again else _gate(plate, key, title, when, getattr(plate, f"{name}_a"))
        )
    return [gate for gate in found if gate is not None]


def _gate(plate: Plate, key: str, name: str, when: str, amps: float | AmpsDesignation | None) -> Gate | None:
    volts = plate.volts
    if volts is None or len(volts.connections) != 2:
        return None
    if not isinstance(amps, AmpsDesignation) or len(amps.per_connection_a) != 2:
        return None
    (v_1, v_2) = ((c.low_v + c.high_v) / 2 for c in volts.connections)
    (i_1, i_2) = (sum(group) / len(group) for group in amps.per_connection_a)
    met = 1 / _SAME_POWER <= v_1 * i_1 / (v_2 * i_2) <= _SAME_POWER
    text, remedy = f"{amps.text} A{when} for {volts.text} V.", ""
    if not met:
        text += f" Amperes go inversely with volts: {write(i_1)} A at {write(v_1)} V is {write(i_1 * v_1 / v_2, 3)} A "
        text += f"at {write(v_2)} V."
        remedy = "Read the amperes again, in the order of the volts."
    return rule(key, name, met, text, "P = √3·U·I·η·pf, the same P", remedy=remedy)
