"""The job's hazardous-area schedule: its areas, every device in them, and what a further material would do."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from vinegate.core.facts import Job, read_circuit, read_job
from vinegate.core.grade import Verdict
from vinegate.core.place.covers import lacking
from vinegate.core.place.devices import area_name, short
from vinegate.core.place.materials import Material, find
from vinegate.core.place.temperature import Limit, coolest_needed, limit_of, lowest
from vinegate.core.place.what_if import Standing, standings
from vinegate.store import jobs
from vinegate.store.jobs import Access

_READ: Final = ("plate", "load", "start", "stop", "place")


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
    """Plan the places of every circuit; the rest of their plans is not needed."""
    job, _ = read_job(access.facts, access.rules)
    circuits = []
    for circuit in jobs.circuits(access):
        raw = jobs.loads(circuit.facts)
        circuits.append((circuit.tag, read_circuit({key: raw.get(key) for key in _READ}, access.rules)[0]))
    material = find(gained) if gained else None
    area = where if where in job.areas else ""
    rows = standings(job, circuits, material, area)
    plain = {key for key, area in job.areas.items() if area.status == "unclassified"}
    kept = tuple(row for row in rows if row.device.area not in plain)
    tags = dict.fromkeys(tag for tag, _ in circuits)
    ordinary = tuple(tag for tag in tags if not any(row.tag == tag for row in kept))
    return Hazards(
        areas=_areas(job),
        rows=kept,
        ordinary=ordinary,
        gained=material,
        where=area,
        unread=gained if gained and material is None else "",
    )


def _areas(job: Job) -> tuple[AreaLine, ...]:
    found = []
    for key, area in job.areas.items():
        if not area.name and area.status is None:
            continue
        items = area.materials.items if area.materials else ()
        classified = area.status in ("division", "zone") and not lacking(area)
        least = lowest(items, job.rules.value) if classified else None
        found.append(
            AreaLine(
                key=key,
                name=area_name(job, key),
                short=short(area),
                present=tuple(Present(material=one, limit=limit_of(one, job.rules.value)) for one in items),
                lowest=least,
                code=(coolest_needed(least, job.rules.value) or "cooler than T6") if least else "",
            )
        )
    return tuple(found)
