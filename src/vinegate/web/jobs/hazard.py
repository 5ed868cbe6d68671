"""The job's hazardous-area schedule: its areas, every device in them, and what a further material would do."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from vinegate.core.facts import Circuit as CircuitFacts
from vinegate.core.facts import Job, kind_of, read_circuit, read_job
from vinegate.core.grade import Verdict
from vinegate.core.located import area_name
from vinegate.core.place.covers import lacking
from vinegate.core.place.devices import short
from vinegate.core.place.materials import Material, find
from vinegate.core.place.temperature import Limit, coolest_needed, limit_of, lowest
from vinegate.core.place.used import Used
from vinegate.core.place.what_if import Standing, standings
from vinegate.core.rules.sets import rule_set
from vinegate.core.summary import placed_from
from vinegate.store import jobs
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.web.jobs.summaries import rows_of

_READ: Final = ("plate", "load", "start", "stop", "protection", "place")


@dataclass(frozen=True, slots=True, kw_only=True)
class Present:
    """A material in an area with the hottest surface it allows."""

    material: Material
    limit: Limit | None


@dataclass(frozen=True, slots=True, kw_only=True)
class AreaLine:
    """An area of the job: what it is, what is in it, the surface and code that follow."""

    key: str
    name: str
    short: str
    present: tuple[Present, ...]
    lowest: Limit | None
    code: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Hazards:
    """Everything on the page. `rows` are the devices in classified or unknown areas, `ordinary` tags of circuits wholly
    in unclassified ones. `gained` is the material asked about, `unread` what was asked and not found.
    """

    areas: tuple[AreaLine, ...]
    rows: tuple[Standing, ...]
    ordinary: tuple[str, ...]
    gained: Material | None
    where: str
    unread: str
    planning: int = 0
    wrong: tuple[str, ...] = ()
    """What cannot be read of the areas: their devices are judged without it."""

    @property
    def failing(self) -> tuple[Standing, ...]:
        return tuple(row for row in self.rows if row.fails)

    @property
    def misplaced(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(row.tag for row in self.rows if row.device.verdict is Verdict.FAILS))

    @property
    def lacking(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(row.tag for row in self.rows if row.device.verdict is Verdict.UNKNOWN))


def hazards(access: Access, *, gained: str, where: str) -> Hazards:
    """The devices as they are kept with the circuits; with a material gained they are judged anew."""
    job, errors = read_job(access.facts, access.rules)
    material = find(gained) if gained else None
    area = where if where in job.areas else ""
    planned = rows_of(access)
    if material is None:
        rows = tuple(
            Standing(tag=circuit.tag, driven=summary["driven"], device=device)
            for circuit, summary in planned.rows
            for device in placed_from(summary["placed"])
        )
    else:
        rows = standings(
            job, [_places(access, row, summary.get("used")) for row, summary in planned.rows], material, area
        )
    plain = {key for key, area in job.areas.items() if area.status == "unclassified"}
    kept = tuple(row for row in rows if row.device.area not in plain)
    tags = [circuit.tag for circuit, summary in planned.rows if not summary.get("waits")]
    ordinary = tuple(tag for tag in tags if not any(row.tag == tag for row in kept))
    return Hazards(
        areas=_areas(job),
        rows=kept,
        ordinary=ordinary,
        gained=material,
        where=area,
        unread=gained if gained and material is None else "",
        planning=planned.planning,
        wrong=tuple(
            f"{job.area(part).name or part}: {error.message}"
            for error in errors
            if kind_of(part := error.path.partition(".")[0]) == "area"
        ),
    )


def _places(access: Access, row: Circuit, used: Mapping[str, str] | None) -> tuple[str, CircuitFacts, Used]:
    """What places are judged from; the rest of the facts is not needed. `used` is none while it is being planned."""
    raw = jobs.loads(row.facts)
    circuit, _ = read_circuit({key: raw.get(key) for key in _READ}, access.rules)
    return row.tag, circuit, Used(**used) if used else Used.said(circuit)


def _areas(job: Job) -> tuple[AreaLine, ...]:
    found = []
    for key, area in job.areas.items():
        if not area.name and area.status is None:
            continue
        items = area.materials.items if area.materials else ()
        classified = area.status in ("division", "zone") and not lacking(area)
        least = lowest(items, rule_set(job.rules)) if classified else None
        found.append(
            AreaLine(
                key=key,
                name=area_name(job, key),
                short=short(area),
                present=tuple(Present(material=one, limit=limit_of(one, rule_set(job.rules))) for one in items),
                lowest=least,
                code=(coolest_needed(least, rule_set(job.rules)) or "cooler than T6") if least else "",
            )
        )
    return tuple(found)
