"""What earlier stages give a start, and what it lacks: for its first moment, to be simulated, to weigh its ways."""

from __future__ import annotations

from vinegate.core.drive.envelope import Supplied
from vinegate.core.facts import Circuit
from vinegate.core.load.stage import Asked
from vinegate.core.machine.describe import Machine
from vinegate.core.machine.stall import Stalls
from vinegate.core.plate.kind import Family
from vinegate.core.plate.locked_rotor import LockedRotor
from vinegate.core.plate.rated import Rated
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet, RunImpedance
from vinegate.core.supply.source import Source
from vinegate.core.supply.tree import Feed
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Given:
    """What earlier stages found; None for what is missing."""

    rated: Rated
    source: Source | None
    feed: Feed | None
    run: RunImpedance | None
    inrush: LockedRotor | None
    machine: Machine | None
    load: Asked | None
    frequency_hz: float | None
    stalls: Stalls
    inertia_limit: Figure | None
    drive: Supplied | None
    supply_lacks: tuple[str, ...]


def at_first(given: Given, rules: RuleSet, circuit: Circuit) -> tuple[str, ...]:
    """Source, machine and plate of the first moment."""
    absent = [*given.supply_lacks]
    if circuit.plate.family in (Family.WOUND, Family.DC):
        if given.machine is None:
            absent.append("the machine")
    else:
        at_rest = given.rated.at_rest(rules.words.locked_rotor, given.inrush.high if given.inrush else None)
        absent += [label for _, label in given.rated.lacking(at_rest)]
    wanted = (
        ("plate.volts", "plate volts", given.rated.volts),
        ("plate.full_load_current", rules.words.full_load_current, given.rated.current),
    )
    absent += [label for _, label in given.rated.lacking(*wanted)]
    return tuple(dict.fromkeys(absent))


def to_simulate(given: Given, circuit: Circuit) -> tuple[str, ...]:
    """What keeps a start from being simulated, source and machine being known."""
    if not circuit.load.kind:
        return ("the load",)
    if circuit.load.kind == "points" and circuit.load.points is None:
        return ("the load's points",)
    if circuit.machine.inertia_kgm2 is None and given.load is None:
        return ("rotor inertia",)
    if given.frequency_hz is None:
        return ("frequency",)
    return (_machine_lacks(given, circuit),)


def to_compare(given: Given, circuit: Circuit) -> tuple[str, ...]:
    """What the ways to start are not simulated for."""
    lacks = [] if circuit.load.kind else ["the load"]
    if given.machine is None:
        lacks.append(_machine_lacks(given, circuit))
    return tuple(lacks)


def _machine_lacks(given: Given, circuit: Circuit) -> str:
    """Of what a machine is worked from, what is not given; where all is, no machine meets it."""
    rated = given.rated
    parts = [("power", "power", rated.power), ("volts", "volts", rated.volts), ("amperes", "amperes", rated.current),
             ("speed", "speed", rated.speed)]  # fmt: skip
    if circuit.plate.family is not Family.DC:
        parts.append(("frequency", "frequency", rated.frequency))
    absent = [label for _, label in rated.lacking(*parts)]
    return f"the machine: {', '.join(absent)}" if absent else "a machine that meets its plate"
