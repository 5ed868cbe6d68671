"""A circuit with a machine of the same kind so many times as large: what grows with it, and what was the old one's."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from vinegate.core.facts import circuit_parts
from vinegate.core.numbers import QuantityError
from vinegate.core.plate.volts import AmpsDesignation

_GROWS: Final = (
    "plate.power", "plate.locked_rotor_current", "load.power", "load.torque", "load.flow", "load.force", "load.inertia",
    "machine.inertia", "machine.load_inertia", "drive.rated", "drive.heavy", "stop.brake_torque", "stop.brake_power",
    "stop.brake_stop", "stop.lining_work", "stop.dc_current", "stop.resistor_power", "protection.drive_input",
    "protection.drive_device", "plate.service_factor_current", "plate.rotor_current", "plate.field_current",
    "start.instantaneous_trip", "drive.single_phase", "drive.loss",
)  # fmt: skip
"""With its power: torque, inertia and heat, as of machines alike at one speed."""
_SHRINKS: Final = ("stop.resistor", "stop.drive_least")
_ITS_OWN: Final = (
    "plate.frame", "plate.efficiency", "machine.curve", "machine.dc_resistance", "machine.r1", "machine.x1",
    "machine.xm", "machine.rfe", "machine.r2", "machine.x2", "machine.no_load_volts", "machine.no_load_current",
    "machine.no_load_power", "machine.friction", "machine.locked_volts", "machine.locked_current",
    "machine.locked_power", "machine.locked_frequency", "machine.armature_resistance", "drive.tuned_r",
    "drive.tuned_idle", "protection.element_low", "protection.element_high",
)  # fmt: skip
"""Stamped on the one that is there, measured of it or chosen for it: nothing says what the larger one has."""


def grown(circuit: Mapping[str, Any], times: float, *, us: bool) -> dict[str, dict[str, str]]:
    """What changes, by part and name, as one would type it. What cannot be read stays as it is."""
    changed: dict[str, dict[str, str]] = {}
    for path in (*_GROWS, *_SHRINKS, *_ITS_OWN):
        part, _, name = path.partition(".")
        text = str((circuit.get(part) or {}).get(name) or "")
        if not text:
            continue
        new = "" if path in _ITS_OWN else _scaled(part, name, text, 1 / times if path in _SHRINKS else times, us=us)
        if new is not None:
            changed.setdefault(part, {})[name] = new
    return changed


def _scaled(part: str, name: str, text: str, times: float, *, us: bool) -> str | None:
    fact = circuit_parts()[part].fields()[name]
    assert fact.quantity is not None
    try:
        value = fact.taken(text, us=us)
    except QuantityError:
        return None
    about = "~" if fact.roughly(text, us=us) else ""
    if isinstance(value, AmpsDesignation):
        return about + value.scaled(times).text
    assert isinstance(value, float)
    return f"{about}{value * times:.6g} {fact.quantity.unit}"
