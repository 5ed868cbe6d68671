"""A drive, up its ramp of frequency."""

from __future__ import annotations

from vinegate.core.numbers import write
from vinegate.core.start.drive_course import drive_course
from vinegate.core.start.simulation import MethodRun, Simulation
from vinegate.core.start.trace import Outcome
from vinegate.core.start.way import Way


def _run(simulation: Simulation) -> None:
    s, plant = simulation.settings, simulation.plant
    limit = plant.drive.limit_a / plant.rated_current_a if plant.drive is not None else s.drive_limit
    course, margin = drive_course(
        plant,
        simulation.runs,
        ramp_s=s.drive_ramp_s,
        limit=limit,
        loss_share=simulation.loss_share,
    )
    simulation.found["drive"] = MethodRun(
        method="drive",
        course=course,
        margin_pu=margin if course.outcome is Outcome.REACHES else None,
        setting=f"{s.drive_ramp_s:g} s ramp, {write(limit, 3)} ×",
        value=limit,
        held=True,
        ramped=True,
        count=plant.motors,
        rated_torque_nm=plant.rated_torque_nm,
    )


WAY = Way(
    key="drive",
    label="drive",
    also=(
        "VFD",
        "VSD",
        "ASD",
        "AFD",
        "variable-frequency drive",
        "variable-speed drive",
        "frequency converter",
        "inverter",
        "INV",
        "VVVF",
        "FC",
        "frequency drive",
    ),
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
