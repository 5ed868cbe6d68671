"""Part winding: half of it first."""

from __future__ import annotations

from typing import Final

from vinegate.core.fed import volts_of
from vinegate.core.grade import Answer, breaks, depends, ruled, wants
from vinegate.core.plate.speeds import leads_taken
from vinegate.core.plate.volts import Winding
from vinegate.core.start.connection import part_winding
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.simulation import Simulation, keep
from vinegate.core.start.way import Asking, Way, Windings
from vinegate.core.turning import Turns

_MAKER: Final = Turns(
    path="start.part_winding", label="made for part-winding start", passes="yes", fails="no", passes_as="yes",
    fails_as="no",
)  # fmt: skip


def _run(simulation: Simulation) -> None:
    delay = simulation.settings.part_delay_s
    turns = [Turn(key="part", until_s=delay), Turn(key="full")]
    course = in_turn(simulation.runs, turns, dead_s=0, before=None)
    keep(simulation, "part-winding", course, setting=f"second half after {delay:g} s", changes_at_s=delay)


def _possible(asking: Asking) -> Answer:
    """Two parallel halves: made for it, or nine or twelve leads at the lower voltage where the maker allows it."""
    circuit = asking.circuit
    plate, supply_v = circuit.plate, volts_of(asking.job, circuit)
    if taken := leads_taken(circuit):
        return breaks(taken)
    said = circuit.start.part_winding
    if said is not None:
        return ruled(said == "yes", "" if said == "yes" else "Its maker does not allow a part-winding start.")
    if plate.leads is None:
        return wants("leads")
    if plate.leads == 3:
        return breaks("Three leads: the windings cannot be taken in halves.")
    if plate.volts is None or supply_v is None:
        named = (("plate volts", plate.volts), ("system volts", supply_v))
        return wants(*(label for label, fact in named if fact is None))
    connections = plate.volts.connections
    if any(c.winding is not Winding.NOT_SAID for c in connections):
        return breaks("This plate has no part winding.")
    if plate.leads in (9, 12) and len(connections) == 2:
        low = min(connections, key=lambda c: c.low_v)
        if plate.volts.nearest(supply_v)[1] == low:
            return depends("Only if its maker allows it: halves are parallel at the lower volts.", _MAKER)
        return breaks(f"At {connections[-1].text} V the halves are in series: no part winding.")
    return depends("Six leads may be a part winding: the diagram on the motor decides.", _MAKER)


WAY = Way(
    key="part-winding",
    also=("PW", "half winding"),
    label="part winding",
    name="part winding",
    order=3,
    needs="two contactors and a motor made for it",
    stronger="a way that gives more than half its torque",
    phrase=lambda at, words: "part winding",
    settings=("start.part_current", "start.part_torque", "start.part_delay"),
    moment="start-part_delay",
    windings=Windings.HALF,
    possible=_possible,
    connections=lambda plant, settings: (part_winding(settings.part_current, settings.part_torque),),
    run=_run,
)
