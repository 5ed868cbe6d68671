"""A soft starter on a ramp of volts or torque."""

from __future__ import annotations

from vinegate.core.start.held_back import HeldBack
from vinegate.core.start.plant import Plant
from vinegate.core.start.ramp import Ramp, ramped
from vinegate.core.start.simulation import Settings, Simulation, keep
from vinegate.core.start.way import Way


def _ramp(s: Settings) -> Ramp:
    return Ramp(initial=s.initial, ramp_s=s.ramp_s, of_torque=s.ramp_of == "torque", kick=s.kick, kick_s=s.kick_s)


def _holds(plant: Plant, settings: Settings, value: float) -> HeldBack:
    return HeldBack(ramp=_ramp(settings), kick=settings.kick, kick_s=settings.kick_s)


def _run(simulation: Simulation) -> None:
    s = simulation.settings
    course = ramped(simulation.plant, simulation.runs, _ramp(s))
    text = f"{100 * s.initial:.0f} %, {s.ramp_s:g} s"
    full = simulation.found["full-voltage"].torque  # it goes on to full volts: what it needs in the end is there
    keep(simulation, "soft-ramp", course, torque=full, setting=text, value=s.initial)


WAY = Way(
    key="soft-ramp",
    label="soft starter, voltage ramp",
    name="soft starter (ramp)",
    order=5,
    needs="a bypass contactor",
    loss_share=0.01,
    stronger="more volts to begin with",
    gentler="fewer volts to begin with",
    phrase=lambda at, words: "a soft starter on a ramp",
    settings=(
        "start.soft_initial",
        "start.soft_ramp",
        "start.soft_ramp_of",
        "start.kick",
        "start.kick_time",
        "start.soft_stop_ramp",
    ),
    electronic=True,
    lowers_volts=True,
    soft_stop=True,
    run=_run,
    holds=_holds,
)
