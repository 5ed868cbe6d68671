"""A soft starter on its current limit."""

from __future__ import annotations

from typing import Final

from vinegate.core.start.connection import Connection, behave
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.held_back import HeldBack
from vinegate.core.start.plant import Plant, coarser
from vinegate.core.start.run_up import RunUp, at_speed_place, run_up
from vinegate.core.start.simulation import NEAR_SPEED, Settings, Simulation, keep, margin_left, seek, weaker_margin
from vinegate.core.start.trace import Course
from vinegate.core.start.way import Way

_KEY: Final = "soft-starter"
_LONGEST_SOFT_S: Final = 30.0
_COARSER: Final = 4


def _run(simulation: Simulation) -> None:
    """The least current limit that starts with the margin asked for, in half a minute and within the heat allowed."""
    limits = simulation.settings.limits

    def keeps(times: float) -> None:
        runs, course = _limited(simulation, times)
        keep(simulation, _KEY, course, runs=runs, setting=f"{times:.1f} ×", value=times, held=True)

    def starts(_: float, surely: bool) -> bool:
        return margin_left(simulation, simulation.found[_KEY], surely=surely)

    begin = _least_limit(simulation) if len(limits) > 1 else 0  # on coarser speeds it seemed enough
    seek(simulation, _KEY, limits, keeps, starts, begin)


def _limited(simulation: Simulation, times: float) -> tuple[RunUp, Course]:
    """The start at so many times the rated current, behind its kick."""
    settings, plant = simulation.settings, simulation.plant
    chosen = [Connection(key="limit", limit_pu=times * plant.rated_current_pu)]
    turns = [Turn(key="limit")]
    if settings.kick:
        chosen.append(Connection(key="kick", hold=settings.kick))
        turns = [Turn(key="kick", until_s=settings.kick_s), *turns]
    runs = run_up(plant, behave(plant, chosen))
    return runs, in_turn(runs, turns, dead_s=0, before=None)


def _least_limit(simulation: Simulation) -> int:
    """Its place among the limits, by coarser speeds."""
    settings, plant = simulation.settings, coarser(simulation.plant, _COARSER)
    limits = [Connection(key=f"{k:g}", limit_pu=k * plant.rated_current_pu) for k in settings.limits]
    soft = run_up(plant, behave(plant, limits))
    for row in range(len(limits)):
        stop = float(soft.stop[row])
        settled = soft.speed_pu_at(stop)
        near = int(at_speed_place(soft, stop))
        too_long = soft.time_s[row, near] > _LONGEST_SOFT_S or soft.i2t_s[row, near] > settings.most_i2t_s
        if settled < NEAR_SPEED or too_long:
            continue
        counted = plant.speed_pu <= NEAR_SPEED * settled
        spare = float(soft.spare_nm[row][counted].min()) / plant.rated_torque_nm
        if weaker_margin(plant, spare, settings) >= settings.margin_pu:
            return row
    return len(settings.limits) - 1


def _holds(plant: Plant, settings: Settings, value: float) -> HeldBack:
    return HeldBack(limit_a=value * plant.rated_current_a, kick=settings.kick, kick_s=settings.kick_s)


WAY = Way(
    key=_KEY,
    also=("soft start", "SS", "RVSS", "SSRV", "SSS", "solid state", "RVSSS", "solid-state reduced voltage"),
    label="soft starter, current limit",
    name="soft starter",
    order=4,
    needs="a bypass contactor",
    loss_share=0.01,
    stronger="a higher limit",
    gentler="a lower limit",
    phrase=lambda at, words: f"a soft starter{' held at' if at else ''}{at}",
    settings=("start.soft_limit", "start.kick", "start.kick_time", "start.soft_stop_ramp"),
    sought=("soft_limit",),
    level="start-soft_limit",
    electronic=True,
    lowers_volts=True,
    soft_stop=True,
    usual=True,
    run=_run,
    holds=_holds,
)
