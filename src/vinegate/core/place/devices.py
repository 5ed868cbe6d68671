"""Each device of a circuit in its area, with its own verdict."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Answer, Kind, Verdict, breaks, depends, lacks, meets, on_site, worst_of
from vinegate.core.located import area_name
from vinegate.core.place import enclosure
from vinegate.core.place.air import cold, starter_air, wet
from vinegate.core.place.checks import Check, ambient_check, conditions_check, protection_check, temperature_check
from vinegate.core.place.covers import lacking, level_asked, odd_group
from vinegate.core.place.facts import Area
from vinegate.core.place.heater import heater_checks
from vinegate.core.place.increased_safety import increased_safety, safety_checks
from vinegate.core.place.listing import Marking, read_marking
from vinegate.core.place.temperature import code_of, lowest
from vinegate.core.place.used import Used
from vinegate.core.place.wanted import wanted
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.rules.sets import rule_set
from vinegate.core.turning import Turns

_NAMES: Final = {
    "motor": "motor",
    "brake": "brake",
    "heater": "space heater",
    "buttons": "push buttons",
    "starter": "starter",
    "drive": "drive",
}
DEVICES: Final = tuple(_NAMES)
_AIR_MOVERS: Final = ("fan-open", "fan-closed")


@dataclass(frozen=True, slots=True, kw_only=True)
class DeviceRow:
    """One device: where it stands, what is asked there, what it says, and each check. `area` is empty while not known.

    `most_c` is the hottest surface allowed, where what is present is known.
    """

    key: str
    name: str
    area: str
    area_name: str
    asked: str
    enclosure_asked: str
    has: str
    verdict: Verdict
    why: str
    checks: tuple[Check, ...]
    most_c: float | None = None
    decides: str = ""


def braked(circuit: Circuit, used: Used) -> bool:
    """Whether the circuit has a brake of its own."""
    if used.holds or circuit.stop.hold == "yes":
        return True
    return circuit.stop.hold is None and circuit.load.kind == "hoist"


def present(circuit: Circuit, used: Used) -> tuple[str, ...]:
    """The devices the circuit has, whether or not their area is given."""
    has = {
        "motor": True,
        "starter": not circuit.from_drive,
        "drive": circuit.from_drive,
        "brake": braked(circuit, used),
    }
    return tuple(key for key in DEVICES if has.get(key) or getattr(circuit.place, key) is not None)


def short(area: Area) -> str:
    """The classification in few words.

    >>> short(Area.model_validate({"status": "zone", "zone": "1", "group": "IIB"}))
    'Zone 1, IIB'
    """
    if area.status is None or lacking(area):
        return "not known"
    if area.status == "unclassified":
        return "unclassified"
    if area.status == "zone":
        level = f", {area.level}" if area.level else ""
        return f"Zone {area.zone}, {area.group}{level}"
    groups = f", {area.groups.strip().upper()}" if area.groups else ""
    return f"Class {area.hazard_class} Div {area.division}{groups}"


def device_rows(job: Job, circuit: Circuit, used: Used) -> tuple[DeviceRow, ...]:
    """Every device that is present, in the order from the motor back to the supply."""
    return tuple(device_row(job, circuit, key, used) for key in present(circuit, used))


def device_row(job: Job, circuit: Circuit, key: str, used: Used) -> DeviceRow:
    """A device that is present."""
    where = getattr(circuit.place, key)
    name = _NAMES[key]
    if where is None:
        return _unplaced(key, name)
    area, rules = job.area(where), rule_set(job.rules)
    limit = lowest(area.materials.items, rules, overloads=key == "motor") if area.materials else None
    marking, text = marking_of(circuit, key)
    checks = _checks(job, circuit, key, area, marking, used)
    weighing = [check for check in checks if check.kind is Kind.ENGINEERING]
    worst = max(weighing or checks, key=lambda check: check.verdict.rank)
    classified = area.status in ("division", "zone") and not lacking(area)
    return DeviceRow(
        key=key,
        name=name,
        area=where,
        area_name=area_name(job, where),
        asked=wanted(area, key, limit, rules, area.ambient_high_c) if classified and key != "heater" else "",
        enclosure_asked=_enclosure_asked(key, area, rules),
        has=text,
        verdict=worst_of(check.verdict for check in weighing or checks),
        why=worst.text,
        checks=checks,
        most_c=limit.most_c if classified and limit else None,
        decides=limit.material if classified and limit else "",
    )


def _unplaced(key: str, name: str) -> DeviceRow:
    text = f"Where the {name} stands is not known."
    check = Check.of("Area", on_site(text))
    return DeviceRow(
        key=key, name=name, area="", area_name="", asked="", enclosure_asked="", has="", verdict=check.verdict,
        why=text, checks=(check,),
    )  # fmt: skip


def marking_of(circuit: Circuit, key: str) -> tuple[Marking, str]:
    """What stands on the device about hazardous places, read, and as typed. A heater is the motor's."""
    if key in ("motor", "heater"):
        plate = circuit.plate
        text = " / ".join(part for part in (plate.listing, plate.ex_marking) if part)
        marking = read_marking(text)
        code = code_of(plate.temperature_code)
        if code and not marking.temperature:
            marking = Marking(listed=marking.listed, temperature=code, ex=marking.ex, unread=marking.unread)
        return marking, f"{text} {code}".strip() if code not in text.upper() else text
    text = getattr(circuit.place, f"{key}_marking") or ""
    return read_marking(text), text


def _enclosure_asked(key: str, area: Area, rules: RuleSet) -> str:
    if key == "heater":
        return ""
    if key == "motor":
        if area.status == "unclassified":
            return enclosure.machine_asked(area)
        return "IP{}{}".format(*enclosure.ip_asked(area))
    return enclosure.asked_text(area, rules)


def _checks(job: Job, circuit: Circuit, key: str, area: Area, marking: Marking, used: Used) -> tuple[Check, ...]:
    rules = rule_set(job.rules)
    missing = lacking(area)
    if missing:
        return (Check.of("Area", lacks(f"Not known of this area: {', '.join(missing)}.")),)
    strange = odd_group(area)
    if strange:
        return (Check.of("Area", breaks(strange)),)
    if area.status == "division" and not rules.hazards.divisions:
        text = "Classes and divisions are not IEC's: have it classified in zones."
        return (Check.of("Area", breaks(text, rules.papers.classification)),)
    if key == "heater":
        if circuit.place.motor not in (None, circuit.place.heater):
            return (Check.of("Heater", breaks("It stands in its motor, and is said to stand elsewhere.")),)
        return heater_checks(circuit, area, rules) if area.status != "unclassified" else (_plain_heater(),)
    checks = [
        _enclosure_check(circuit, key, area, rules),
        *(starter_air(circuit, area) if key == "starter" else ()),
        *cold(key, area),
        *wet(circuit, key, area, rules),
    ]
    if area.status == "unclassified":
        return tuple(checks)
    return (
        protection_check(circuit, key, area, marking, rules),
        temperature_check(circuit, key, area, marking, rules),
        ambient_check(circuit, key, area, marking, rules),
        *checks,
        *_of_marking(circuit, key, marking, used, rules),
    )


def _of_marking(circuit: Circuit, key: str, marking: Marking, used: Used, rules: RuleSet) -> tuple[Check, ...]:
    """What a device's own marking asks beside, in a classified area."""
    checks: list[Check] = []
    if key == "motor" and increased_safety(marking):
        checks += safety_checks(circuit, used, marking)
    if key == "motor" and circuit.from_drive:
        checks.append(_drive_duty(circuit, rules))
    if any(mark.condition == "X" for mark in marking.ex):
        checks.append(conditions_check(circuit))
    if key == "motor":
        checks += _two_codes(circuit, marking)
    if marking.unread:
        text = f"Not understood in its marking: {', '.join(marking.unread)}."
        checks.append(Check.of("Marking", on_site(f"{text} Read it against the certificate.")))
    return tuple(checks)


def _two_codes(circuit: Circuit, marking: Marking) -> list[Check]:
    """A plate whose T-code is not that of its marking."""
    code = code_of(circuit.plate.temperature_code)
    marked = {mark.temperature for mark in marking.ex if mark.temperature and not mark.dust}
    marked |= {marking.temperature} if marking.listed and marking.temperature else set()
    if not code or not marked or code in marked:
        return []
    text = f"Its marking says {', '.join(sorted(marked))}, its T-code {code}: read the plate again."
    turns = Turns(path="plate.temperature_code", label="T-code", passes=sorted(marked)[0], passes_as=sorted(marked)[0])
    return [Check.of("Marking", depends(f"{text} Passes for {sorted(marked)[0]}.", turns))]


def _plain_heater() -> Check:
    text = "In an unclassified area nothing limits it but its own plate."
    return Check.of("Heater", meets(text))


def _enclosure_check(circuit: Circuit, key: str, area: Area, rules: RuleSet) -> Check:
    missing = enclosure.surroundings_lacking(area)
    if key == "motor":
        plate = circuit.plate
        found = enclosure.machine(
            area, plate.enclosure, plate.protection, in_air_stream=circuit.load.kind in _AIR_MOVERS
        )
    else:
        name = f"{key}_enclosure"
        found = enclosure.cabinet(area, getattr(circuit.place, name), rules, f"place.{name}")
    if missing and found.verdict is not Verdict.FAILS:
        return Check.of(
            "Enclosure", on_site(f"{found.text} Not said of the surroundings: {', '.join(missing)}.", found.rule)
        )
    return Check.of("Enclosure", found)


def _drive_duty(circuit: Circuit, rules: RuleSet) -> Check:
    said, rule = circuit.place.drive_duty, rules.papers.drive_duty
    texts: dict[str | None, Answer] = {
        "yes": meets("Its listing and T-code cover the drive.", rule),
        "no": breaks("On a drive it runs hotter, and its listing does not cover that.", rule),
        None: lacks("Whether its listing and T-code cover the drive is not known.", rule),
    }
    return Check.of("Drive duty", texts[said])


def level_or_division(area: Area) -> str:
    """For the sketch: how dangerous, `0` to `2`, empty where unclassified or not known."""
    if area.status == "division" and area.division:
        return area.division
    if area.status == "zone" and area.zone:
        return {"Ga": "0", "Gb": "1", "Gc": "2", "Da": "0", "Db": "1", "Dc": "2"}[level_asked(area)]
    return ""
