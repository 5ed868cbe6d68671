"""The conduit to a motor in a classified location: which kinds may lie there."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Gate, check, confirm, rule
from vinegate.core.located import area_name
from vinegate.core.place.facts import Area
from vinegate.core.rules import RuleSet
from vinegate.core.supply.conduit import FLEXIBLE, raceway_of
from vinegate.core.tables import load
from vinegate.core.turning import Turns

_KEY, _NAME = "place.raceway", "Conduit in its area"
_ORDER: Final = ("fails", "check", "passes")
_METAL: Final = "threaded metal conduit"
_TUBING: Final = "Tubing is none of the methods for it."
_FLEXIBLE: Final = {
    "fails": "Flexible conduit is none of the methods for it; fittings listed for it are.",
    "check": "Flexible conduit only for the short piece to the motor, liquidtight and with listed fittings.",
}
_HEAVY: Final = "schedule 80"


def raceway_gates(job: Job, circuit: Circuit, rules: RuleSet) -> Iterator[Gate]:
    """The stricter of the areas in which the run ends; none where no area is classified or no conduit is said.

    Source: NFPA 70:2023 501.10, 502.10, 503.10, 505.15, 506.15.
    """
    kind = circuit.wiring.conduit_kind or ""
    raceway = raceway_of(circuit.wiring.raceway, kind)
    if raceway is None or not rules.hazards.divisions:
        return
    place = circuit.place
    ends = {key for key in (place.motor, place.starter, place.drive) if key}
    found = [(row, area_name(job, key)) for key in sorted(ends) if (row := _row(job.area(key)))]
    if not found:
        return
    column = "tubing" if kind == "emt" else "flexible" if kind in FLEXIBLE else "pvc"
    row, name = min(found, key=lambda pair: (_ORDER.index(pair[0][column]), not pair[0]["metal"]))
    if column != "pvc":
        yield from _of_light(row, name, column)
    elif raceway == "pvc":
        yield from _of_pvc(row, name, kind)
    elif row["metal"]:
        yield confirm(_KEY, _NAME, False, f"In {name}: {row['metal'][:1].lower()}{row['metal'][1:]}", row["source"])


def _of_pvc(row: dict[str, str], name: str, kind: str) -> Iterator[Gate]:
    thin = kind == "pvc-40" and _HEAVY in row["condition"]
    yield from _graded(row, "fails" if thin else row["pvc"], f"In {name}: {row['condition']}", _turns(kind))


def _of_light(row: dict[str, str], name: str, column: str) -> Iterator[Gate]:
    text = _TUBING if column == "tubing" else _FLEXIBLE.get(row[column], "")
    yield from _graded(row, row[column], f"In {name}: {text[:1].lower()}{text[1:]}", _turns("said"))


def _turns(kind: str) -> Turns:
    """To another conduit, in the field that says which it is."""
    path, word = ("wiring.conduit_kind", "rmc") if kind else ("wiring.raceway", "steel")
    return Turns(path=path, label="the conduit", passes=_METAL, passes_as=word)


def _graded(row: dict[str, str], verdict: str, text: str, turns: Turns) -> Iterator[Gate]:
    source, remedy = row["source"], f"{_METAL[:1].upper()}{_METAL[1:]}."
    if verdict == "fails":
        yield rule(_KEY, _NAME, False, text, source, remedy=remedy)
    elif verdict == "check":
        yield check(_KEY, _NAME, turns, text, source, remedy=remedy)


def _row(area: Area) -> dict[str, str] | None:
    """The table's row of a classified area; None where it is not classified, or not in full."""
    zone = area.status == "zone"
    where = f"zone {area.zone}" if zone else f"{area.hazard_class} {area.division}"
    return load("hazard_raceway").find(where=where) if area.status in ("division", "zone") else None
