"""The place's sheet: who stands where, the sketch, each device's verdict, what the plates say."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from markupsafe import Markup

from vinegate.core.facts import Circuit, Job, kind_of, number_of
from vinegate.core.located import area_name
from vinegate.core.numbers import write
from vinegate.core.place.covers import lacking
from vinegate.core.place.devices import DEVICES, level_or_division, marking_of, short
from vinegate.core.place.explain import Part, explain
from vinegate.core.place.temperature import lowest
from vinegate.core.plan import Plan
from vinegate.core.rules.sets import rule_set
from vinegate.drawing.areas_sketch import Ground, areas_sketch
from vinegate.drawing.scene import svg
from vinegate.web.form import FormField, next_key

STANDS: Final = tuple(f"place.{key}" for key in DEVICES)
SHEET: Final = (
    "place",
    "hazard",
    "plate.listing",
    "plate.ex_marking",
    "plate.temperature_code",
    "plate.enclosure",
    "plate.protection",
    "plate.insulation_class",
    "plate.ambient",
)
_PLATES: Final = tuple(path for path in SHEET if path.startswith("plate."))


@dataclass(frozen=True, slots=True, kw_only=True)
class AreaCard:
    """One area of the job in the list: its fields' prefix, its name, what it is, whether this circuit uses it."""

    key: str
    name: str
    short: str
    materials: str
    used: bool
    empty: bool


_OF_DIVISION: Final = ("hazard_class", "division", "groups")
_OF_ZONE: Final = ("zone", "group", "level")


def area_fields(fields: Mapping[str, FormField], job: Job) -> dict[str, tuple[FormField, ...]]:
    """Each area's fields; those of the way it is not classified are left out while they are empty."""
    found = {}
    for key in dict.fromkeys(path.partition(".")[0] for path in fields):
        if kind_of(key) != "area":
            continue
        status = job.area(key).status
        other = {"division": _OF_ZONE, "zone": _OF_DIVISION}.get(status or "", (*_OF_DIVISION, *_OF_ZONE))
        own = [field for path, field in fields.items() if path.startswith(f"{key}.")]
        found[key] = tuple(
            field for field in own if field.text or field.error or field.path.partition(".")[2] not in other
        )
    return found


def cards(plan: Plan, job: Job) -> tuple[AreaCard, ...]:
    """The job's areas and a new one, used ones marked."""
    used = {row.area for row in plan.placed.devices if row.area} if plan.placed else set()
    keys = sorted({*job.areas, *used}, key=number_of)
    found = []
    for key in (*keys, next_key("area", keys)):
        area = job.area(key)
        found.append(
            AreaCard(
                key=key,
                name=area_name(job, key),
                short=short(area),
                materials=area.materials.text if area.materials else "",
                used=key in used,
                empty=not area.name and area.status is None,
            )
        )
    return tuple(found)


def sketch(plan: Plan, job: Job) -> Markup | None:
    """The areas that are described or used, in plan; None in a plan without a place."""
    if plan.placed is None:
        return None
    known = [card for card in cards(plan, job) if card.used or not card.empty]
    grounds = [_ground(job, card.key) for card in known or cards(plan, job)[:1]]
    waiting = Ground(key="", name="not placed yet", short="", below="", danger="")
    scene = areas_sketch([*grounds, waiting], plan.placed.devices)
    return Markup(svg(scene, "areas-sketch"))  # noqa: S704 - our own drawing


def _ground(job: Job, key: str) -> Ground:
    area = job.area(key)
    limit = (
        lowest(area.materials.items, rule_set(job.rules)) if area.materials and area.status != "unclassified" else None
    )
    below = f"at most {write(limit.most_c, 3)} °C, {limit.material}" if limit else ""
    danger = level_or_division(area) if not lacking(area) else "?"
    return Ground(key=key, name=area_name(job, key), short=short(area), below=below, danger=danger)


def said(circuit: Circuit) -> tuple[tuple[str, tuple[Part, ...]], ...]:
    """Each device's marking with what its parts mean."""
    found = []
    for key in DEVICES:
        if key == "heater":
            continue
        text = marking_of(circuit, key)[1]
        parts = explain(text)
        if parts:
            found.append((f"{key}: {text}", parts))
    return tuple(found)


def own_fields(plan: Plan, fields: Mapping[str, FormField]) -> tuple[FormField, ...]:
    """Fields of the devices that are there, then what the motor's plate says of places."""
    there = {row.key for row in plan.placed.devices} if plan.placed else set()
    wanted = [f"place.{key}_{what}" for key in DEVICES for what in ("marking", "enclosure") if key in there]
    wanted += ["place.starter_air"] if "starter" in there else []
    wanted += [*_PLATES, "place.conditions"]
    certified = "plate.ex_marking" in fields and bool(fields["plate.ex_marking"].text)
    wanted += ["place.te"] if certified else []
    wanted += ["place.drive_duty"] if "drive" in there or certified else []
    wanted += ["place.heater_surface"] if "heater" in there else []
    return tuple(fields[path] for path in wanted if path in fields)
