"""Every way to start, simulated with network, machine and load together."""

from __future__ import annotations

from collections.abc import Mapping

from vinegate.core.start import ways
from vinegate.core.start.connection import behave
from vinegate.core.start.facts import Start
from vinegate.core.start.plant import Plant, before_pu
from vinegate.core.start.run_up import run_up
from vinegate.core.start.simulation import MethodRun, Settings, Simulation


def simulate(
    plant: Plant,
    start: Start,
    *,
    dip_limit_pu: float | None,
    margin_pu: float,
    most_i2t_s: float,
    loss_share: float,
    cage: bool,
    weakest: float = 1.0,
    brief: bool = False,
) -> Mapping[str, MethodRun]:
    """Run every method that a machine of this kind can be run by; a method not eligible is for the caller to mark.

    `cage` is false for machines that only start at full voltage; `most_i2t_s` is the heat a soft starter's limit may
    lead to, in seconds at rest; `weakest` the share of its torque that a machine may fall short to. A `brief` one
    leaves out the less usual methods. Full voltage comes first.
    """
    settings = Settings.of(start, margin_pu, most_i2t_s, weakest)
    tried = [way for way in ways.WAYS if (cage or way.any_machine) and (way.usual or not brief)]
    simulation = Simulation(
        plant=plant,
        settings=settings,
        dip_limit_pu=dip_limit_pu,
        loss_share=loss_share,
        before=before_pu(plant),
        runs=run_up(plant, behave(plant, [one for way in tried for one in way.connections(plant, settings)])),
    )
    for way in tried:
        way.run(simulation)
    return simulation.found
