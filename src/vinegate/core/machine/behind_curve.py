"""The circuit of a running machine whose start is known otherwise: by a maker's curve, or by tests of its rotor locked.

A curve is torque and amperes at one voltage and one frequency; a rotor locked at line frequency has another resistance
than while it runs. A circuit through the rated point, the amperes at rest and the torques stands in for the machine
wherever more is asked; a start across the line follows what is known of it.
"""

from __future__ import annotations

from functools import partial

from vinegate.core.facts import Circuit
from vinegate.core.machine.circuit import EquivalentCircuit
from vinegate.core.machine.curves import curves
from vinegate.core.machine.describe import Machine, put_ohms
from vinegate.core.machine.efficiency import efficiency_of
from vinegate.core.machine.fit import fit
from vinegate.core.machine.tabulated import Tabulated
from vinegate.core.machine.target import NoFit, Target
from vinegate.core.plate.rated import Rated
from vinegate.core.records import replace
from vinegate.core.sheet import Sheet
from vinegate.core.working import Provenance

_COUNT = 241


def behind(sheet: Sheet, circuit: Circuit, rated: Rated, machine: Machine, poles: int | None) -> Machine:
    """The machine with its circuit, on the sheet; as it was where its plate lacks something, or no circuit meets it."""
    found = _running(circuit, rated, machine, poles)
    if found is None:
        return machine
    if isinstance(machine.circuit, Tabulated):
        return with_circuit(sheet, machine, found, Provenance.ESTIMATED, "fitted to plate and curve")
    sheet.notes.append(
        "The rotor was locked at line frequency: that gives its start. Braking, a drive and a reclosing follow a "
        "circuit fitted to its plate and to these amperes and torques."
    )
    return replace(machine, fitted=found)


def _running(circuit: Circuit, rated: Rated, machine: Machine, poles: int | None) -> EquivalentCircuit | None:
    speed, current = rated.speed, rated.current
    if poles is None or speed is None or current is None or rated.power_w is None:
        return None
    known = curves(machine.circuit, volts_v=machine.volts_v, count=_COUNT)
    target = Target(
        volts_v=machine.volts_v,
        frequency_hz=machine.circuit.frequency_hz,
        poles=poles,
        power_w=rated.power_w,
        current_a=current.value,
        speed_rpm=speed.value,
        efficiency_pu=efficiency_of(Sheet("scratch", ""), circuit, rated, rated.power_w, poles),
        locked_rotor_current_a=float(known.line_current_a[0]),
        locked_rotor_torque_nm=float(known.torque_nm[0]),
        breakdown_torque_nm=float(known.torque_nm.max()),
        pull_up_torque_nm=float(known.torque_nm[: int(known.torque_nm.argmax()) + 1].min()),
        r1_ohm=circuit.machine.dc_resistance_ohm / 2 if circuit.machine.dc_resistance_ohm else None,
    )
    found = fit(target)
    return None if isinstance(found, NoFit) else found.circuit


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
