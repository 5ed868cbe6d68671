"""A drive, up its ramp of frequency."""

from __future__ import annotations

from vinegate.core.start.drive_course import drive_course
from vinegate.core.start.simulation import MethodRun, Simulation
from vinegate.core.start.trace import Outcome
from vinegate.core.start.way import Way


def _run(simulation: Simulation) -> None:
    s = simulation.settings
    course, margin = drive_course(
        simulation.plant,
        simulation.runs,
        ramp_s=s.drive_ramp_s,
        limit=s.drive_limit,
        boost=s.drive_boost,
        loss_share=simulation.loss_share,
    )
    simulation.found["drive"] = MethodRun(
        method="drive",
        course=course,
        margin_pu=margin if course.outcome is Outcome.REACHES else None,
        setting=f"{s.drive_ramp_s:g} s ramp, {s.drive_limit:g} ×",
        value=s.drive_limit,
        held=True,
        starts_by_frequency=True,
        rated_torque_nm=simulation.plant.rated_torque_nm,
    )


WAY = Way(
    key="drive",
    label="drive",
    name="drive",
    order=9,
    needs="filters and cable by its maker",
    loss_share=0.03,
    phrase=lambda at, words: "a drive",
    settings=("start.drive_ramp", "start.drive_limit", "start.drive_boost"),
    electronic=True,
    by_frequency=True,
    soft_stop=True,
    speed_control=True,
    usual=True,
    run=_run,
)
