"""Can this machine start in wye and run in delta on this supply?"""

from __future__ import annotations

import math

from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import volts_of
from vinegate.core.grade import Gate, check, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.speeds import leads_taken
from vinegate.core.plate.volts import Connection, VoltsDesignation, Winding
from vinegate.core.rules import RuleSet
from vinegate.core.turning import Turns

_SOURCE = "each winding takes line volts in delta and line volts/√3 in wye; both ends of each must be brought out"


def wye_delta_gate(circuit: Circuit, job: Job, rules: RuleSet) -> Gate:
    """Eligible when the plate is a delta at the supply's volts and six or twelve leads are brought out."""
    wye = rules.words.wye
    key, name = "wye_delta.eligible", f"{wye.capitalize()}-delta possible"
    designation, supply_v = circuit.plate.volts, volts_of(job, circuit)
    if designation is None or supply_v is None:
        absent = (("plate volts", designation), ("system volts", supply_v))
        return unknown(key, name, tuple(label for label, fact in absent if fact is None))
    if taken := leads_taken(circuit):
        return rule(key, name, False, taken, _SOURCE, remedy="A motor of one speed, or another way to start.")
    connection = designation.nearest(supply_v)[1]
    volts = write(supply_v)
    if connection.winding is Winding.WYE:
        text = (
            f"The plate is {wye} at {connection.text.rstrip('Y')} V: in delta on {volts} V "
            f"each winding would get 1.73 × its volts."
        )
        remedy = f"{wye.capitalize()}-delta on {volts} V needs a plate with Δ at {volts} V."
        return rule(key, name, False, text, _SOURCE, remedy=remedy)
    leads = circuit.plate.leads
    if leads in (3, 9):
        text = f"{leads} leads: the windings are joined inside and cannot be changed from {wye} to delta."
        return rule(key, name, False, text, _SOURCE, remedy="It needs a machine with 6 or 12 leads.")
    return _by_leads(key, name, designation, connection, leads, wye)


def _by_leads(
    key: str, name: str, designation: VoltsDesignation, connection: Connection, leads: int | None, wye: str
) -> Gate:
    both = {c.winding for c in designation.connections} >= {Winding.DELTA, Winding.WYE}
    if connection.winding is Winding.DELTA and (both or leads in (6, 12)):
        return rule(key, name, True, f"Delta at {connection.text.rstrip('Δ')} V, all six ends at hand.", _SOURCE)
    if leads is None:
        return unknown(key, name, ("leads",))
    if leads == 12:
        text = f"12 leads: delta at {connection.text} V, {wye} on the same supply gives each winding 58 %."
        return rule(key, name, True, text, _SOURCE)
    text = f"Six leads at one voltage are usually brought out for {wye}-delta, at times for part winding."
    if len(designation.connections) > 1:
        text = f"Six leads with {designation.text} V: the plate does not say at which volts they form a delta."
    as_delta = f"{connection.text}Δ/{math.sqrt(3) * connection.high_v:.0f}Y"
    turns = Turns(
        path="plate.volts",
        label="diagram on the motor",
        passes=f"with a delta at {connection.text} V",
        fails="with a part winding",
        passes_as=as_delta,
        fails_as=f"{connection.text}Y",
    )
    text += f" Passes where the diagram on the motor shows a delta at {connection.text} V."
    remedy = f"Read the connection diagram on the motor; then write the volts as {as_delta}."
    return check(key, name, turns, text, _SOURCE, remedy=remedy)
