"""The place on its sheet: the document, each area in use, each device, and what heat and height leave."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.gate import Gate, Verdict, unknown
from vinegate.core.location.covers import group_covers, groups_of, lacking
from vinegate.core.location.derating import derate
from vinegate.core.location.devices import DeviceRow, area_name, device_rows, short
from vinegate.core.location.facts import AREAS, Area
from vinegate.core.location.materials import Material
from vinegate.core.location.temperature import limit_of
from vinegate.core.quantity import write
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure

_CAUTIONS: Final = (
    "A competent person chooses, installs and inspects equipment for hazardous areas (NFPA 70 500.3, 500.4; "
    "IEC 60079-14, 60079-17). The classification is theirs: nothing here infers it.",
    "A certificate ending in X has conditions of use. Nothing certified may be modified; repair is by an approved shop "
    "(IEC 60079-19). Flame paths, joints and bolts are kept as they came.",
    "Seals in the conduit within 18 in of an explosion-proof enclosure, or glands of the same protection as the "
    "enclosure; unused entries are closed with certified plugs. Live work only under a permit.",
)


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

    def device(self, key: str) -> DeviceRow | None:
        return next((row for row in self.devices if row.key == key), None)


def located(job: Job, circuit: Circuit) -> Circuit:
    """The circuit with ambients that are not given taken from its areas: conductors', relay's and motor's."""
    place = circuit.place
    motor = job.area(place.motor).ambient_high_c if place.motor else None
    starter = job.area(place.starter).ambient_high_c if place.starter else None
    warmest = max((value for value in (motor, starter) if value is not None), default=None)
    wiring, protection = circuit.wiring, circuit.protection
    if wiring.ambient_c is None and warmest is not None:
        wiring = wiring.model_copy(update={"ambient_c": warmest})
    filled = {}
    if protection.motor_ambient_c is None and motor is not None:
        filled["motor_ambient_c"] = motor
    if protection.relay_ambient_c is None and starter is not None:
        filled["relay_ambient_c"] = starter
    if filled:
        protection = protection.model_copy(update=filled)
    if wiring is circuit.wiring and protection is circuit.protection:
        return circuit
    return circuit.with_parts(wiring=wiring, protection=protection)


def plan_place(sheet: Sheet, job: Job, circuit: Circuit, *, load: Figure | None, rated_kw: float | None,
               full_load: Figure | None, overload: Figure | None) -> Placed:  # fmt: skip
    """Judge every device where it stands. Missing areas are unknown, never unclassified."""
    rows = device_rows(job, circuit)
    used = tuple(key for key, _ in AREAS if any(row.area == key for row in rows))
    areas = tuple(_area_row(job, key) for key in used)
    classified = any(row.status in ("division", "zone") for row in areas)
    _area_gate(sheet, circuit, rows)
    if classified:
        sheet.gates.append(_document(sheet, job))
        sheet.notes += _CAUTIONS
    for key in used:
        sheet.gates += _materials(job, key)
    for row in rows:
        if row.area:
            sheet.gates.append(_device_gate(row))
    _limits(sheet, job, used)
    left = _derated(sheet, job, circuit, load, rated_kw, full_load, overload)
    return Placed(devices=rows, areas=areas, load_left_pu=left, classified=classified)


def _area_row(job: Job, key: str) -> AreaRow:
    area = job.area(key)
    names = tuple(material.name for material in area.materials.items) if area.materials else ()
    return AreaRow(key=key, name=area_name(job, key), short=short(area), status=area.status or "", materials=names)


def _area_gate(sheet: Sheet, circuit: Circuit, rows: tuple[DeviceRow, ...]) -> None:
    missing = [row for row in rows if not row.area]
    labels = sheet.needs(
        [(f"place.{row.key}", f"where the {row.name} stands") for row in missing], "whether it may stand there"
    )
    if missing:
        sheet.gates.append(unknown("place.area", "Where it stands", labels))


def _document(sheet: Sheet, job: Job) -> Gate:
    hazard = job.hazard
    key, name = "place.document", "Classification"
    asked = (
        ("hazard.classified_by", "who classified it", hazard.classified_by),
        ("hazard.document", "the classification's document", hazard.document),
        ("hazard.dated", "its date", hazard.dated),
    )
    missing = [(path, label) for path, label, value in asked if not value]
    if missing:
        return unknown(key, name, sheet.needs(missing, "what the areas rest on"))
    return Gate(
        key=key,
        name=name,
        verdict=Verdict.OPEN,
        sentence=f"By {hazard.classified_by}: {hazard.document}, {hazard.dated}.",
        source="NFPA 70:2023 500.4(A); IEC 60079-10-1, 60079-10-2",
    )


def _materials(job: Job, key: str) -> list[Gate]:
    """Whether the area's classification is of the materials said to be in it."""
    area, name = job.area(key), area_name(job, key)
    if area.status not in ("division", "zone") or lacking(area):
        return []
    if area.materials is None:
        return [unknown(f"place.materials_{key}", f"Materials, {name}", (f"what is present in {name}",))]
    outside = [material for material in area.materials.items if not belongs(area, material)]
    text = f"{', '.join(material.name for material in area.materials.items)}: within {short(area)}."
    if outside:
        first = outside[0]
        group = first.nec_group if area.status == "division" else first.iec_group
        text = f"{first.name} is group {group or 'not listed'}: {short(area)} does not cover it."
    return [
        Gate(
            key=f"place.materials_{key}",
            name=f"Materials, {name}",
            verdict=Verdict.SHUT if outside else Verdict.OPEN,
            sentence=text,
            source="NFPA 70:2023 500.6; ISO/IEC 80079-20-1, 80079-20-2",
            remedy="Have the area classified for it, or keep it out." if outside else "",
        )
    ]


def belongs(area: Area, material: Material) -> bool:
    """Whether a material is of the class and groups, or zone and group, that the area was classified for."""
    if area.status == "division":
        kind = {"I": "gas", "II": "dust", "III": "fibre"}[area.hazard_class or "I"]
        return material.kind == kind and (kind == "fibre" or material.nec_group in groups_of(area))
    hydrogen = material.name == "hydrogen" and area.group == "IIB+H2"
    return group_covers(area.group or "", "IIB+H2" if hydrogen else material.iec_group)


def _device_gate(row: DeviceRow) -> Gate:
    others = [check for check in row.checks if check.verdict is row.verdict and check.text != row.why]
    more = "".join(f" {check.text}" for check in others) if row.verdict is not Verdict.OPEN else ""
    decisive = max(row.checks, key=lambda check: check.verdict.rank)
    lacks = [f"{row.name}: {_LACKS[check.name]}" for check in row.checks if check.verdict is Verdict.UNKNOWN]
    return Gate(
        key=f"place.{row.key}",
        name=f"{row.name[:1].upper()}{row.name[1:]} in its area",
        verdict=row.verdict,
        sentence=f"{row.why}{more}",
        source=decisive.rule,
        remedy="" if row.verdict is Verdict.OPEN or not row.asked else f"Asked here: {row.asked}.",
        needs=tuple(lacks) if row.verdict is Verdict.UNKNOWN else (),
    )


# What a check lacks when it is unknown.
_LACKS: Final = {
    "Area": "its area's classification",
    "Protection": "its listing or marking",
    "Temperature": "its T-code, or what is present",
    "Ambient": "the area's warmest air",
    "Enclosure": "its enclosure, or its surroundings",
    "Drive duty": "whether its listing covers the drive",
    "Conditions": "whether its certificate's conditions are met",
    "Heater": "the heater's surface, or what is present",
}


def _limits(sheet: Sheet, job: Job, used: tuple[str, ...]) -> None:
    """The hottest surface each material allows, as figures."""
    for key in used:
        area = job.area(key)
        if area.status not in ("division", "zone") or area.materials is None:
            continue
        for number, material in enumerate(area.materials.items, start=1):
            limit = limit_of(material, job.rules.value)
            if limit is not None:
                sheet.given(
                    f"{key}_limit_{number}", f"Hottest surface for {material.name}, {area_name(job, key)}", "θ_max",
                    limit.most_c, "°C", source=limit.rule, note=material.note,
                )  # fmt: skip


def _derated(
    sheet: Sheet, job: Job, circuit: Circuit, load: Figure | None, rated_kw: float | None, full_load: Figure | None,
    overload: Figure | None,
) -> float | None:  # fmt: skip
    """Load and overload against what heat and height leave."""
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
    sheet.gates.append(_load_gate(load, left_kw))
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
        sheet.gates.append(_overload_gate(overload, amps))
    return found.power_pu


def _load_gate(load: Figure | None, left_kw: float) -> Gate:
    key, name = "place.derated", "Heat and height"
    if load is None:
        return unknown(key, name, ("the load",))
    verdict = Verdict.SHUT if load.value > left_kw else Verdict.AJAR
    return Gate(
        key=key,
        name=name,
        verdict=verdict,
        sentence=f"The load asks {write(load.value, 3)} kW; heat and height leave about {write(left_kw, 3)} kW.",
        source="IEC 60034-1:2022 8.10; NEMA MG 1 14.4",
        value=load.value,
        limit=left_kw,
        margin=left_kw - load.value,
        unit="kW",
        remedy="A larger machine, a better insulation class, or one made for the place: its maker says.",
        estimated=True,
    )


def _overload_gate(overload: Figure | None, amps: float) -> Gate:
    key, name = "place.overload", "Overload for heat and height"
    if overload is None:
        return unknown(key, name, ("the overload's setting",))
    verdict = Verdict.SHUT if overload.value > 1.15 * amps else Verdict.AJAR
    text = f"The overload is set for {write(overload.value, 3)} A; about {write(amps, 3)} A is left here."
    return Gate(
        key=key,
        name=name,
        verdict=verdict,
        sentence=text,
        source="the relay must trip for what the machine can shed here",
        value=overload.value,
        limit=amps,
        margin=amps - overload.value,
        unit="A",
        remedy=f"Set it to {write(amps, 3)} A at most."
        if overload.value > amps
        else "Its maker's figure instead of this estimate.",
        estimated=True,
    )
