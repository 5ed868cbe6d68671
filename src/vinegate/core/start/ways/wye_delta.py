"""Wye, then delta."""

from __future__ import annotations

from vinegate.core.grade import Answer, Verdict
from vinegate.core.start.connection import wye
from vinegate.core.start.simulation import Simulation, two_connections
from vinegate.core.start.way import Asking, Way, Windings


def _run(simulation: Simulation) -> None:
    two_connections(
        simulation, "wye-delta", "wye", volts_before=3**-0.5, setting=simulation.settings.transition, value=None
    )


def _possible(asking: Asking) -> Answer:
    gate = asking.wye_delta
    text = "" if gate.verdict is Verdict.PASSES else gate.sentence
    return Answer(verdict=gate.verdict, text=text, turns=gate.turns, needs=gate.needs)


WAY = Way(
    key="wye-delta",
    label="wye-delta",
    also=("Y-D", "Y/D", "YD", "SD", "S/D", "YDT", "Y-Δ", "Y/Δ", "star/delta", "wye/delta"),
    name="wye-delta",
    order=2,
    needs="three contactors and six conductors",
    stronger="a way that gives more than a third of its torque",
    phrase=lambda at, words: f"{words.wye}-delta",
    settings=("start.changeover", "start.transition", "start.dead_time", "start.instantaneous_trip"),
    sought=("changeover_s",),
    moment="start-changeover",
    windings=Windings.WYE,
    lowers_volts=True,
    usual=True,
    possible=_possible,
    connections=lambda plant, settings: (wye(),),
    run=_run,
)
