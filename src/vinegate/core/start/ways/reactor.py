"""A series reactor."""

from __future__ import annotations

from vinegate.core.start.connection import in_series, series_for
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.simulation import Simulation, keep, seek, starts_with_margin
from vinegate.core.start.way import Way
from vinegate.core.start.ways.resistor import ENDS


def _run(simulation: Simulation) -> None:
    settings, runs = simulation.settings, simulation.runs

    def keeps(k: float) -> None:
        key, until = f"reactor {k:g}", settings.changeover_s
        turn = Turn(key=key, until_s=until) if until is not None else Turn(key=key, until_speed_pu=ENDS)
        stalls = runs.stop[runs.row(key)] <= 0.5
        course = in_turn(runs, [turn] if stalls else [turn, Turn(key="full")], dead_s=0, before=None)
        keep(simulation, "reactor", course, setting=f"{100 * k:.0f} % volts", value=k)

    def starts(k: float, surely: bool) -> bool:
        return starts_with_margin(simulation, simulation.found["reactor"], f"reactor {k:g}", surely=surely)

    seek(simulation, "reactor", settings.series, keeps, starts)


WAY = Way(
    key="reactor",
    label="series reactor",
    also=("reactor", "primary reactor", "reactor start"),
    name="series reactor",
    order=7,
    needs="a reactor rated for the starts",
    stronger="more volts behind its reactor",
    gentler="fewer volts behind its reactor",
    phrase=lambda at, words: f"a series reactor{' at' if at else ''}{at}",
    settings=("start.series_volts", "start.changeover"),
    sought=("series_volts_pu", "changeover_s"),
    moment="start-changeover",
    lowers_volts=True,
    connections=lambda plant, settings: tuple(
        in_series(f"reactor {k:g}", series_for(plant, k, reactor=True)) for k in settings.series
    ),
    run=_run,
    steps=lambda circuit, slip: 1,
)
