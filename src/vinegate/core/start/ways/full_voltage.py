"""Full voltage, across the line."""

from __future__ import annotations

from vinegate.core.start.connection import FULL
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.simulation import Simulation, keep
from vinegate.core.start.way import Way


def _run(simulation: Simulation) -> None:
    keep(simulation, "full-voltage", in_turn(simulation.runs, [Turn(key="full")], dead_s=0, before=None))


WAY = Way(
    key="full-voltage",
    label="full voltage",
    also=(
        "direct on line",
        "across the line",
        "DOL",
        "D.O.L.",
        "D.O.L",
        "direct",
        "FVNR",
        "combination FVNR",
        "FVNR combination",
        "line start",
        "ATL",
        "FV",
        "manual",
        "MAN",
        "COMB",
        "MMS",
        "manual motor starter",
        "contactor",
        "combination",
    ),
    name="full voltage",
    order=1,
    needs="a contactor",
    phrase=lambda at, words: "full voltage",
    settings=("start.instantaneous_trip",),
    any_machine=True,
    usual=True,
    connections=lambda plant, settings: (FULL,),
    run=_run,
)
