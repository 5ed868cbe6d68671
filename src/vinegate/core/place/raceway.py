"""The conduit to a motor in a classified location: which kinds may lie there."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Gate, check, confirm, rule
from vinegate.core.place.devices import area_name
from vinegate.core.place.facts import Area
from vinegate.core.rules import RuleSet
from vinegate.core.tables import load
from vinegate.core.turning import Turns

_KEY, _NAME = "place.raceway", "Conduit in its area"
_ORDER: Final = ("fails", "check", "passes")
_METAL: Final = "threaded metal conduit"


def raceway_gates(job: Job, circuit: Circuit, rules: RuleSet) -> Iterator[Gate]:
    """The stricter of the areas in which the run ends; none where no area is classified or no conduit is said.

    Source: NFPA 70:2023 501.10, 502.10, 503.10, 505.15, 506.15.
    """
    raceway = circuit.wiring.raceway
    if raceway is None or not rules.hazards.divisions:
        return
    place = circuit.place
    ends = {key for key in (place.motor, place.starter, place.drive) if key}
    found = [(row, area_name(job, key)) for key in sorted(ends) if (row := _row(job.area(key)))]
    if not found:
        return
    row, name = min(found, key=lambda pair: (_ORDER.index(pair[0]["pvc"]), not pair[0]["metal"]))
    if raceway == "pvc":
        yield from _of_pvc(row, name)
    elif row["metal"]:
        yield confirm(_KEY, _NAME, False, f"In {name}: {row['metal'][:1].lower()}{row['metal'][1:]}", row["source"])


def _of_pvc(row: dict[str, str], name: str) -> Iterator[Gate]:
    text, source, remedy = f"In {name}: {row['condition']}", row["source"], f"{_METAL[:1].upper()}{_METAL[1:]}."
    if row["pvc"] == "fails":
        yield rule(_KEY, _NAME, False, text, source, remedy=remedy)
    elif row["pvc"] == "check":
        turns = Turns(path="wiring.raceway", label="the conduit", passes=_METAL, passes_as="steel")
        yield check(_KEY, _NAME, turns, text, source, remedy=remedy)


def _row(area: Area) -> dict[str, str] | None:
    """The table's row of a classified area; None where it is not classified, or not in full."""
    zone = area.status == "zone"
    where = f"zone {area.zone}" if zone else f"{area.hazard_class} {area.division}"
    return load("hazard_raceway").find(where=where) if area.status in ("division", "zone") else None
