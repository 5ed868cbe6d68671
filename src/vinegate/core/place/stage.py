"""The place on its sheet: the document, each area in use, each device, and what heat and height leave."""

from __future__ import annotations

from itertools import count

from vinegate.core.facts import Job, number_of
from vinegate.core.grade import confirm, unknown
from vinegate.core.load.stage import LOAD
from vinegate.core.located import area_name
from vinegate.core.place.derating import derate
from vinegate.core.place.devices import DeviceRow, device_row, present, short
from vinegate.core.place.gates import (
    CAUTIONS,
    NOT_EQUAL,
    ambient_order,
    conductors_air,
    cooler_air,
    device_gates,
    document_gate,
    load_gate,
    materials_gates,
    overload_gate,
)
from vinegate.core.place.raceway import raceway_gates
from vinegate.core.place.temperature import limit_of
from vinegate.core.place.used import Used
from vinegate.core.plate.stage import PLATE
from vinegate.core.protection.stage import PROTECTION, carried_in
from vinegate.core.records import dataclass, replace
from vinegate.core.rules.sets import rule_set
from vinegate.core.sheet import Sheet
from vinegate.core.start.stage import START
from vinegate.core.stop.stage import STOP
from vinegate.core.work import Specification, Work


@dataclass(frozen=True, slots=True, kw_only=True)
class AreaRow:
    """An area that is used: its key, name, classification in short, and the materials in it."""

    key: str
    name: str
    short: str
    status: str
    materials: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """Devices in their areas; `load_left_pu` is the share of rated load that heat and height leave."""

    devices: tuple[DeviceRow, ...]
    areas: tuple[AreaRow, ...]
    load_left_pu: float | None
    classified: bool
    used: Used | None = None

    def device(self, key: str) -> DeviceRow | None:
        return next((row for row in self.devices if row.key == key), None)


def _plan(work: Work) -> Placed:
    """Judge every device where it stands. Missing areas are unknown, never unclassified."""
    sheet, job, circuit = work.sheet("place"), work.job, work.circuit
    used = _used(work)
    rows = tuple(_row(work, key, used) for key in present(circuit, used))
    standing = tuple(sorted({row.area for row in rows if row.area}, key=number_of))
    areas = tuple(_area_row(job, key) for key in standing)
    classified = any(row.status in ("division", "zone") for row in areas)
    _area_gate(sheet, rows, classified=classified)
    if classified:
        sheet.gates.append(document_gate(sheet, job))
        sheet.notes += CAUTIONS
        if work.rules.hazards.divisions:
            sheet.notes.append(NOT_EQUAL)
    for key in standing:
        sheet.gates += [*materials_gates(job, key), *ambient_order(job, key)]
    for row in rows:
        if row.area:
            sheet.gates += device_gates(row)
    sheet.gates += raceway_gates(job, circuit, work.rules)
    if (air := cooler_air(job, circuit)) is not None:
        sheet.gates += conductors_air(job, circuit, air, carried_in(work, air[0]))
    _limits(sheet, job, standing)
    left = _derated(sheet, work)
    return Placed(devices=rows, used=used, areas=areas, load_left_pu=left, classified=classified)


def _used(work: Work) -> Used:
    """The ways in use, chosen or advised; of a stop only one that serves: else its brake is none yet."""
    stopping = work.found(STOP)
    serves = stopping is not None and (work.circuit.stop.method is not None or stopping.used.verdict.usable)
    return Used(
        trip=work.found(PROTECTION).overload.trip,
        start=work.found(START).chosen,
        stop=stopping.chosen if stopping is not None and serves else work.circuit.stop.method or "",
    )


def _row(work: Work, key: str, used: Used) -> DeviceRow:
    """One device, as a step: a brake that comes and goes leaves the motor as it is."""
    asked = used if used.reverses else replace(used, stop="")
    return work.step(f"place: {key}", lambda: device_row(work.job, work.circuit, key, asked), asked)


def _area_row(job: Job, key: str) -> AreaRow:
    area = job.area(key)
    names = tuple(material.name for material in area.materials.items) if area.materials else ()
    return AreaRow(key=key, name=area_name(job, key), short=short(area), status=area.status or "", materials=names)


def _area_gate(sheet: Sheet, rows: tuple[DeviceRow, ...], *, classified: bool) -> None:
    """Beside a device in a classified area the place of every other one has to be known."""
    missing = [row for row in rows if not row.area]
    if not missing:
        return
    names = " and ".join(f"the {row.name}" for row in missing)
    alone = len(missing) == 1 and missing[0].key != "buttons"
    stands, key, name = f"where {names} stand{'s' if alone else ''}", "place.area", "Where it stands"
    if classified:
        sheet.gates.append(unknown(key, name, (stands,)))
        return
    text = f"{stands[0].upper()}{stands[1:]}: nothing is taken as unclassified."
    sheet.gates.append(confirm(key, name, False, text, "the classification's document"))


def _limits(sheet: Sheet, job: Job, used: tuple[str, ...]) -> None:
    """The hottest surface each material allows, as figures."""
    symbols = (f"θ_max{number}" for number in count(1))
    for key in used:
        area = job.area(key)
        if area.status not in ("division", "zone") or area.materials is None:
            continue
        for number, material in enumerate(area.materials.items, start=1):
            limit = limit_of(material, rule_set(job.rules))
            if limit is not None:
                sheet.given(
                    f"{key}_limit_{number}", f"Hottest surface for {material.name}, {area_name(job, key)}",
                    next(symbols), limit.most_c, "°C", source=limit.rule, note=material.note,
                )  # fmt: skip


def _derated(sheet: Sheet, work: Work) -> float | None:
    """Load and overload against what heat and height leave."""
    job, circuit, rated, loaded = work.job, work.circuit, work.found(PLATE).rated, work.found(LOAD)
    rated_kw, full_load = rated.power_w / 1000 if rated.power_w else None, rated.current
    if circuit.place.motor is None:
        return None
    found = derate(sheet, job.area(circuit.place.motor), circuit.plate)
    if found is None:
        sheet.gates.append(unknown("place.derated", "Heat and height", ("the insulation class",)))
        return None
    if found.figure is None or rated_kw is None:
        return found.power_pu
    left_kw = found.power_pu * rated_kw
    sheet.given("power_left", "Power left", "P_x", left_kw, "kW", provenance=found.figure.provenance, source="x·P")
    sheet.gates.append(load_gate(loaded.power, loaded.asked.power if loaded.asked else None, left_kw))
    if full_load is not None and found.power_pu < 1:
        amps = found.power_pu * full_load.value
        sheet.given(
            "current_left",
            "Current left",
            "I_x",
            amps,
            "A",
            provenance=found.figure.provenance,
            source="x·I, taken as the load",
        )
        sheet.gates.append(overload_gate(work.found(PROTECTION).overload.line_a, amps))
    return found.power_pu


PLACE = Specification(key="place", plan=_plan, sheets={"place": "Place"})
