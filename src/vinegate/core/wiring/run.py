"""The run from the board to the motor as its conductors' facts."""

from __future__ import annotations

from vinegate.core.rules import RuleSet, RunFacts
from vinegate.core.sheet import Sheet
from vinegate.core.supply.conduit import raceway_of
from vinegate.core.wiring.facts import Wiring


def run_of(wiring: Wiring) -> RunFacts:
    """The run from the board to the motor."""
    return RunFacts(
        path="wiring",
        mark="",
        size=wiring.size,
        metal=wiring.metal,
        raceway=raceway_of(wiring.raceway, wiring.conduit_kind),
        length_m=wiring.length_m,
        sets=wiring.sets,
        temperature_c=wiring.temperature_c,
    )


def run_lacks(rules: RuleSet, run: RunFacts, frequency_hz: float | None) -> tuple[str, ...]:
    """What its impedance waits for; the run itself where neither its size nor its length is said."""
    if run.size is None and run.length_m is None:
        return ("the run to the motor",)
    sheet = Sheet("scratch", "")
    rules.conductor(sheet, run, frequency_hz or 1.0)
    labels = [one.label for one in sheet.missing]
    found = (one if one.startswith(("a ", "an ")) else f"the run's {one.removeprefix('conductor ')}" for one in labels)
    return (*found, *(() if frequency_hz else ("plate frequency",)))
