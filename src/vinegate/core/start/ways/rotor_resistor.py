"""A wound rotor's resistor at its slip rings, cut out section by section."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.machine.slip_rings import first_torque, ohms_in_turn
from vinegate.core.start.connection import Connection, at_rings
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.plant import Plant
from vinegate.core.start.simulation import Settings, Simulation, keep
from vinegate.core.start.way import Way

_KEY: Final = "rotor-resistor"


def _ohms(plant: Plant, settings: Settings) -> tuple[float, ...]:
    """Of the rotor's circuit in turn, over the rotor's own."""
    return ohms_in_turn(plant.rated_slip, plant.first_torque_pu, settings.rotor_steps)


def _steps(circuit: Circuit, slip_pu: float | None) -> int | None:
    if slip_pu is None or slip_pu <= 0:
        return circuit.start.rotor_steps
    return len(ohms_in_turn(slip_pu, first_torque(circuit), circuit.start.rotor_steps))


def _connections(plant: Plant, settings: Settings) -> Sequence[Connection]:
    ohms = _ohms(plant, settings)
    return tuple(at_rings(f"rotor {step}", times) for step, times in enumerate(ohms, start=1))


def _run(simulation: Simulation) -> None:
    """A section is cut out where the next begins as the first did: at rest it stands at `t_1·s_N` of its own slips."""
    plant, runs = simulation.plant, simulation.runs
    ohms = _ohms(plant, simulation.settings)
    begins = plant.first_torque_pu * plant.rated_slip
    turns = [
        Turn(key=f"rotor {step}", until_speed_pu=max(1 - begins * after, 0.0))
        for step, after in enumerate((*ohms[1:], 1.0), start=1)
    ][: len(ohms)]
    stalls = bool(turns) and runs.stop[runs.row(turns[0].key)] <= 0.5
    course = in_turn(runs, turns[:1] if stalls else [*turns, Turn(key="full")], dead_s=0, before=None)
    text = f"{len(ohms)} step{'s' if len(ohms) != 1 else ''}" if ohms else "rings shorted"
    keep(simulation, _KEY, course, setting=text, value=None)


WAY = Way(
    key=_KEY,
    label="rotor resistor",
    also=("slip-ring starter", "slip-ring resistor", "rotor resistance", "secondary resistor"),
    name="rotor resistor",
    order=2,
    needs="a resistor at the slip rings, and a contactor for each of its steps",
    phrase=lambda at, words: f"a rotor resistor{' in' if at else ''}{at}",
    settings=("start.rotor_steps", "start.rotor_peak"),
    at_rings=True,
    usual=True,
    connections=_connections,
    run=_run,
    steps=_steps,
)
