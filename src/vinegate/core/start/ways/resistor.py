"""A series resistor, cut out in steps."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

import numpy as np

from vinegate.core.start.connection import Connection, in_series, series_for
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.plant import Plant
from vinegate.core.start.simulation import Settings, Simulation, keep, seek, starts_with_margin
from vinegate.core.start.way import Way

ENDS: Final = 0.85
"""Of synchronous speed: where the last step is cut out."""


def _run(simulation: Simulation) -> None:
    """Steps cut out at even speeds up to 85 % of synchronous, the last at its moment where one is given; the lowest
    volts that start with margin.
    """
    settings, runs = simulation.settings, simulation.runs

    def keeps(k: float) -> None:
        keys = [f"resistor {k:g} {step}" for step in range(settings.steps)]
        ends = np.linspace(0.5, ENDS, settings.steps) if settings.steps > 1 else [ENDS]
        turns = [Turn(key=key, until_speed_pu=float(end)) for key, end in zip(keys, ends, strict=True)]
        if settings.changeover_s is not None:
            turns[-1] = Turn(key=keys[-1], until_s=settings.changeover_s)
        stalls = runs.stop[runs.row(keys[0])] <= 0.5
        course = in_turn(runs, turns[:1] if stalls else [*turns, Turn(key="full")], dead_s=0, before=None)
        text = f"{100 * k:.0f} % volts" + (f", {settings.steps} steps" if settings.steps > 1 else "")
        keep(simulation, "resistor", course, setting=text, value=k)

    def starts(k: float, surely: bool) -> bool:
        last = f"resistor {k:g} {settings.steps - 1}"
        return starts_with_margin(simulation, simulation.found["resistor"], last, surely=surely)

    seek(simulation, "resistor", settings.series, keeps, starts)


def _connections(plant: Plant, settings: Settings) -> Iterator[Connection]:
    for k in settings.series:
        ohms = series_for(plant, k, reactor=False)
        left = [(settings.steps - step) / settings.steps for step in range(settings.steps)]
        yield from (in_series(f"resistor {k:g} {step}", ohms * share) for step, share in enumerate(left))


WAY = Way(
    key="resistor",
    label="series resistor",
    also=("resistor", "primary resistor"),
    name="series resistor",
    order=8,
    needs="resistors rated for the starts",
    stronger="more volts behind its resistor",
    gentler="fewer volts behind its resistor",
    phrase=lambda at, words: f"a series resistor{' at' if at else ''}{at}",
    settings=("start.series_volts", "start.resistor_steps", "start.changeover"),
    sought=("series_volts_pu", "changeover_s"),
    moment="start-changeover",
    lowers_volts=True,
    connections=lambda plant, settings: tuple(_connections(plant, settings)),
    steps=lambda circuit, slip: circuit.start.resistor_steps or 1,
    run=_run,
)
