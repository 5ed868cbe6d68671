"""A direct-current machine's own drive: a controlled bridge that holds the armature's current to a limit."""

from __future__ import annotations

from vinegate.core.numbers import write
from vinegate.core.start.dc_course import dc_course
from vinegate.core.start.simulation import MethodRun, Simulation
from vinegate.core.start.trace import Outcome
from vinegate.core.start.way import Way

_KEY = "dc-drive"


def _run(simulation: Simulation) -> None:
    s, plant = simulation.settings, simulation.plant
    assert plant.armature is not None
    course, margin = dc_course(plant, simulation.runs, plant.armature, ramp_s=s.drive_ramp_s, limit=s.drive_limit)
    simulation.found[_KEY] = MethodRun(
        method=_KEY,
        course=course,
        margin_pu=margin if course.outcome is Outcome.REACHES else None,
        setting=f"{s.drive_ramp_s:g} s ramp, {write(s.drive_limit, 3)} ×",
        value=s.drive_limit,
        held=True,
        ramped=True,
        commutator=True,
        rated_torque_nm=plant.rated_torque_nm,
        rated_current_a=plant.rated_current_a,
    )


WAY = Way(
    key=_KEY,
    label="DC drive",
    name="DC drive",
    order=9,
    needs="fast fuses, and a choke or transformer, by its maker",
    loss_share=0.02,
    phrase=lambda at, words: "a DC drive",
    settings=("start.drive_ramp", "start.drive_limit", "start.converter_lines", "start.converter_volts"),
    electronic=True,
    rectifies=True,
    soft_stop=True,
    speed_control=True,
    any_machine=True,
    usual=True,
    run=_run,
)
