"""The circuit behind a maker's curve: what a braking, a drive and a reclosing ask of a machine that a curve cannot say.

A curve is torque and amperes at one voltage and one frequency. A circuit through its rated point, its amperes at rest
and its torques stands in for it wherever more is asked; a start across the line still follows the curve itself.
"""

from __future__ import annotations

from functools import partial

import numpy as np

from vinegate.core.facts import Circuit
from vinegate.core.machine.circuit import EquivalentCircuit
from vinegate.core.machine.describe import Machine, put_ohms
from vinegate.core.machine.efficiency import efficiency_of
from vinegate.core.machine.fit import fit
from vinegate.core.machine.tabulated import Tabulated
from vinegate.core.machine.target import NoFit, Target
from vinegate.core.plate.rated import Rated
from vinegate.core.records import replace
from vinegate.core.sheet import Sheet
from vinegate.core.working import Provenance


def behind(sheet: Sheet, circuit: Circuit, rated: Rated, machine: Machine, poles: int | None) -> Machine:
    """The machine with its circuit, on the sheet; as it was where its plate lacks something, or no circuit meets it."""
    model, speed, current = machine.circuit, rated.speed, rated.current
    if not isinstance(model, Tabulated) or poles is None or speed is None or current is None or rated.power_w is None:
        return machine
    torque = np.array(model.torque_nm)
    target = Target(
        volts_v=machine.volts_v,
        frequency_hz=model.frequency_hz,
        poles=poles,
        power_w=rated.power_w,
        current_a=current.value,
        speed_rpm=speed.value,
        efficiency_pu=efficiency_of(Sheet("scratch", ""), circuit, rated, rated.power_w, poles),
        locked_rotor_current_a=model.current_a[0],
        locked_rotor_torque_nm=model.torque_nm[0],
        breakdown_torque_nm=float(torque.max()),
        pull_up_torque_nm=float(torque[: int(torque.argmax()) + 1].min()),
        r1_ohm=circuit.machine.dc_resistance_ohm / 2 if circuit.machine.dc_resistance_ohm else None,
    )
    found = fit(target)
    if isinstance(found, NoFit):
        return machine
    return with_circuit(sheet, machine, found.circuit, Provenance.ESTIMATED, "fitted to plate and curve")


def with_circuit(
    sheet: Sheet, machine: Machine, circuit: EquivalentCircuit, provenance: Provenance, source: str
) -> Machine:
    """Its ohms on the sheet, and what they are for."""
    put_ohms(partial(sheet.given, provenance=provenance, source=source), circuit)
    sheet.notes.append(
        "Starts follow the maker's curve. Braking, a drive and a reclosing ask more of a machine than a curve says: a "
        f"circuit stands in for it there, {source}."
    )
    return replace(machine, fitted=circuit, measured=provenance is Provenance.STATED)
