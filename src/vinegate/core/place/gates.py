"""The gates of the place, and its cautions."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import (
    Answer,
    Gate,
    Kind,
    Verdict,
    at_most,
    confirm,
    from_answer,
    ordered,
    rule,
    unknown,
)
from vinegate.core.located import area_name, warmest_air
from vinegate.core.numbers import write, write_down
from vinegate.core.place.checks import Check
from vinegate.core.place.covers import group_covers, groups_of, lacking
from vinegate.core.place.devices import DeviceRow, short
from vinegate.core.place.facts import Area
from vinegate.core.place.materials import Material
from vinegate.core.records import replace
from vinegate.core.rules.sets import rule_set
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken, point
from vinegate.core.wording import inside
from vinegate.core.working import Figure

CAUTIONS: Final = (
    "A competent person chooses, installs and inspects equipment for hazardous areas (NFPA 70 500.3, 500.4; "
    "IEC 60079-14, 60079-17). The classification is theirs: nothing here infers it.",
    "A certificate ending in X has conditions of use. Nothing certified may be modified; repair is by an approved shop "
    "(IEC 60079-19). Flame paths, joints and bolts are kept as they came.",
    "Seals in the conduit within 18 in of an explosion-proof enclosure, or glands of the same protection as the "
    "enclosure; unused entries are closed with certified plugs. Live work only under a permit.",
)

NOT_EQUAL: Final = (
    "Divisions and zones are not equal. Division 1 holds what zones 0 and 1 hold, division 2 is about zone 2. Division "
    "1 equipment may stand in zone 1 or 2 of the same gas, not in zone 0 (505.20); of zone equipment only Ga or "
    "Da may stand in division 1 (501.5, 502.6). Groups are near, not the same: D is IIA, C is IIB, B is IIB+H2 or IIC, "
    "A is IIC, and some materials fall otherwise. Neither is turned into the other here."
)


def document_gate(sheet: Sheet, job: Job) -> Gate:
    hazard = job.hazard
    key, name = "place.document", "Classification"
    asked = (
        ("hazard.classified_by", "who classified it", hazard.classified_by),
        ("hazard.document", "the classification's document", hazard.document),
        ("hazard.dated", "its date", hazard.dated),
    )
    missing = [(path, label) for path, label, value in asked if not value or _STILL_OPEN.fullmatch(value)]
    if not missing and not _YEAR.search(hazard.dated or ""):
        missing = [("hazard.dated", "its date, with the year")]
    if missing:
        return unknown(key, name, sheet.needs(missing, "what the areas rest on"))
    text = f"By {hazard.classified_by}: {hazard.document}, {hazard.dated}."
    source = rule_set(job.rules).papers.classification
    return rule(key, name, True, text, source)


_STILL_OPEN: Final = re.compile(
    r"\W*|\W*(?:un|not )known\W*|n/?a|none|tb[acd]|pending|open|(?:to |still to )(?:be |follow|come).*", re.I
)
_YEAR: Final = re.compile(r"(?<!\d)(?:19|20)\d\d(?!\d)|\d{1,2}[./-]\d{1,2}[./-]\d\d(?!\d)")


def materials_gates(job: Job, key: str) -> list[Gate]:
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
    source = rule_set(job.rules).papers.groups
    remedy = "Have the area classified for it, or keep it out."
    return [rule(f"place.materials_{key}", f"Materials, {name}", not outside, text, source, remedy=remedy)]


def belongs(area: Area, material: Material) -> bool:
    """Whether a material is of the class and groups, or zone and group, that the area was classified for."""
    if area.status == "division":
        kind = {"I": "gas", "II": "dust", "III": "fibre"}[area.hazard_class or "I"]
        return material.kind == kind and (kind == "fibre" or material.nec_group in groups_of(area))
    hydrogen = material.name == "hydrogen" and area.group == "IIB+H2"
    return group_covers(area.group or "", "IIB+H2" if hydrogen else material.iec_group)


def device_gates(row: DeviceRow) -> list[Gate]:
    """What decides of a device in its area, and what is to be confirmed of it."""
    name = f"{row.name[:1].upper()}{row.name[1:]} in {'their' if row.key == 'buttons' else 'its'} area"
    weighing = [check for check in row.checks if check.kind is Kind.ENGINEERING]
    gates = [_weighed(row, name, weighing)] if weighing else []
    gates += [
        confirm(
            f"place.{row.key}_{check.name.lower().replace(' ', '_')}",
            f"{name}: {inside(check.name)}",
            False,
            check.text,
            check.rule,
        )
        for check in row.checks
        if check.kind is Kind.CONFIRM
    ]
    return gates


def _weighed(row: DeviceRow, name: str, weighing: list[Check]) -> Gate:
    worst = [check for check in weighing if check.verdict is row.verdict]
    others = [check for check in worst if check.text != row.why]
    more = "".join(f" {check.text}" for check in others) if row.verdict is not Verdict.PASSES else ""
    decisive = max(weighing, key=lambda check: check.verdict.rank)
    lacks = [f"{row.name}: {_LACKS[check.name]}" for check in weighing if check.verdict is Verdict.UNKNOWN]
    found = Answer(verdict=row.verdict, text=f"{row.why}{more}", rule=decisive.rule, turns=decisive.turns)
    remedy = " ".join(dict.fromkeys(filter(None, (_remedy(row, check) for check in worst))))
    return from_answer(f"place.{row.key}", name, found, remedy=remedy, needs=tuple(lacks))


def _remedy(row: DeviceRow, check: Check) -> str:
    """What helps against this one: its own, the marking that is asked, or the enclosure."""
    if check.name in _REMEDIES:
        return _REMEDIES[check.name]
    if row.asked and check.name != "Enclosure":
        return f"Asked here: {row.asked}."
    return f"Asked: {row.enclosure_asked}; or another place." if row.enclosure_asked else ""


_REMEDIES: Final = {
    "Increased safety": "An overload of a quicker class, or a motor of a longer t_E.",
    "Duty": "A motor certified for that duty.",
    "Electronic start": "A start without electronics, or a motor certified for it.",
    "Plugging": "Another way to stop it and to turn it round, or a motor of another protection.",
    "Drive duty": "Its maker's word on the drive, or a motor listed or certified with it.",
    "Conditions": "Meet its certificate's conditions, or take a device that has none.",
    "Ambient": "One certified for the air that is here.",
    "Air": "One whose ratings its maker gives for that air, or a cooler place.",
    "Area": "Have the area classified.",
    "Heater": "A cooler heater, or none; its area is its motor's.",
}
# What a check lacks when it is unknown.
_LACKS: Final = {
    "Increased safety": "t_E and I_A/I_N",
    "Duty": "which duty its plate means",
    "Electronic start": "whether its certificate covers the starter",
    "Area": "its area's classification",
    "Protection": "its listing or marking",
    "Temperature": "its T-code, or what is present",
    "Ambient": "the area's warmest air",
    "Enclosure": "its enclosure, or its surroundings",
    "Drive duty": "whether its listing covers the drive",
    "Conditions": "whether its certificate's conditions are met",
    "Heater": "the heater's surface, or what is present",
}


def cooler_air(job: Job, circuit: Circuit) -> tuple[float, str] | None:
    """The warmest air that the run meets, °C, and whose it is, where the run was sized for cooler; else None."""
    said, warmest = circuit.wiring.ambient_c, warmest_air(job, circuit)
    return warmest if said is not None and warmest is not None and warmest[0] > said else None


def conductors_air(job: Job, circuit: Circuit, air: tuple[float, str], there: Gate | None) -> list[Gate]:
    """The run in the air of an area that it ends in, warmer than what was said of it: its ampacity `there`."""
    if there is None:
        return []
    said, (degrees, key) = circuit.wiring.ambient_c or 0.0, air
    text = f"Sized for {write(said)} °C; the air in {area_name(job, key)} reaches {write(degrees)} °C. {there.sentence}"
    return [replace(there, key="place.ambient", name="Air about the conductors", sentence=text)]


def ambient_order(job: Job, key: str) -> tuple[Gate, ...]:
    """An area's coldest air is not above its warmest."""
    low, high = job.area(key).ambient_low_c, job.area(key).ambient_high_c
    text = f"{area_name(job, key)}: from {write(low or 0.0)} to {write(high or 0.0)} °C."
    return ordered(
        "place.ambients", "Coldest and warmest air", low, high, sentence=text, unit="°C", source="read wrongly",
        remedy="Exchange them.",
    )  # fmt: skip


_LEFT: Final = (0.95, 1.1)  # a third of the losses taken as constant; between a fifth and a half it is so much


def load_gate(load: Figure | None, power: Taken | None, left_kw: float) -> Gate:
    key, name = "place.derated", "Heat and height"
    if load is None or power is None:
        return unknown(key, name, ("the load",))
    per = load.value / power.value if power.value else 1.0
    estimate = Taken(label="what heat and height leave, estimated", value=1.0, low=_LEFT[0], high=_LEFT[1])
    return at_most(
        key, name, load.value, left_kw, unit="kW", source="IEC 60034-1:2022 8.10; NEMA MG 1 14.4",
        sentence=f"The load asks {write(load.value, 3)} kW; heat and height leave about {write(left_kw, 3)} kW.",
        rests=(power, estimate), room=lambda asked, times: left_kw * times - asked * per,
        remedy="A larger machine, a better insulation class, or one made for the place: its maker says.",
    )  # fmt: skip


def overload_gate(overload: Figure | None, amps: float) -> Gate:
    key, name = "place.overload", "Overload for heat and height"
    if overload is None:
        return unknown(key, name, ("the overload's setting",))
    fact = point(overload.value, path="protection.overload", label="overload setting", unit="A")
    estimate = Taken(label="what heat and height leave, estimated", value=1.0, low=_LEFT[0], high=_LEFT[1])
    return at_most(
        key, name, overload.value, amps, unit="A", source="the relay must trip for what the machine can shed here",
        sentence=f"The overload is set for {write(overload.value, 3)} A; about {write(amps, 3)} A is left here.",
        rests=(fact, estimate), room=lambda setting, times: amps * times - setting,
        remedy=f"Set it to {write_down(amps * _LEFT[0])} A at most, or ask the machine's maker.",
    )  # fmt: skip
