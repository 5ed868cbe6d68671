"""Where things stand: the classification and its document, the areas of the job, and each device's area."""

from __future__ import annotations

from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure, numbered, words
from vinegate.core.place.materials import Materials, read_materials

STATUS: Final = (("unclassified", "unclassified"), ("division", "class and division"), ("zone", "zone"))
_CLASSES: Final = (("I", "I, gas or vapour"), ("II", "II, dust"), ("III", "III, fibres"))
_DIVISIONS: Final = (("1", "1, in normal work"), ("2", "2, only abnormally"))
_ZONES: Final = (
    ("0", "0, gas, lasting"),
    ("1", "1, gas, now and then"),
    ("2", "2, gas, rarely"),
    ("20", "20, dust, lasting"),
    ("21", "21, dust, now and then"),
    ("22", "22, dust, rarely"),
)
_GROUPS: Final = tuple((group, group) for group in ("IIA", "IIB", "IIB+H2", "IIC", "IIIA", "IIIB", "IIIC"))
_LEVELS: Final = tuple((level, level) for level in ("Ga", "Gb", "Gc", "Da", "Db", "Dc"))
_YES_NO: Final = (("yes", "yes"), ("no", "no"))
_SKY: Final = (("indoor", "indoor"), ("outdoor", "outdoor"))
_WATER: Final = (
    ("dry", "dry"),
    ("drops", "drips"),
    ("splash", "splashes"),
    ("hose", "hosed down"),
    ("under", "under water at times"),
)


class Hazard(Facts):
    """The classification's document: a competent person's, never ours."""

    classified_by: str | None = field(words("Classified by", 80, example="the site's competent person"))
    document: str | None = field(words("Document", 60, example="HL-EX-01, rev. B", help="Number and revision."))
    dated: str | None = field(words("Dated", 30, example="2026-03-14"))


def _named(word: str, choices: tuple[tuple[str, str], ...]) -> dict[str, str]:
    return {f"{word} {key}": key for key, _ in choices}


class Area(Facts):
    """One area of the job, as that document has it."""

    name: str | None = field(words("Area", 60, example="digester house"))
    status: str | None = field(
        choice("Classified as", STATUS, help="By the document. Empty is not known, never unclassified.")
    )
    hazard_class: str | None = field(choice("Class", _CLASSES, also=_named("class", _CLASSES), rules="nec"))
    division: str | None = field(
        choice("Division", _DIVISIONS, also=_named("division", _DIVISIONS) | _named("div", _DIVISIONS), rules="nec")
    )
    groups: str | None = field(
        words("Groups", 20, rules="nec", example="D", help="A to D gas, E to G dust; none in class III.")
    )
    zone: str | None = field(choice("Zone", _ZONES, also=_named("zone", _ZONES)))
    group: str | None = field(choice("Gas or dust group", _GROUPS))
    level: str | None = field(choice("Protection level", _LEVELS, help="EPL asked. Empty: as the zone asks."))
    materials: Materials | None = field(
        Fact(
            label="Materials present",
            read=read_materials,
            example="methane, hydrogen sulfide",
            help="From the library; your own as solvent (IIB 240 °C); as its document has it: IIB T3.",
            longest=200,
        )
    )
    ambient_low_c: float | None = field(
        measure("Coldest", q.TEMPERATURE, "θ_min", example="−20 °C", help="Of the air around.")
    )
    ambient_high_c: float | None = field(
        measure("Warmest", q.TEMPERATURE, "θ_max", example="40 °C", help="Of the air around.")
    )
    altitude_m: float | None = field(
        measure("Altitude", q.LENGTH, "h", example="320 m", help="Above sea. Empty: up to 1000 m.")
    )
    sky: str | None = field(choice("Indoors or out", _SKY))
    water: str | None = field(choice("Water", _WATER))
    dusty: str | None = field(choice("Dusty", _YES_NO))
    corrosive: str | None = field(choice("Corrosive", _YES_NO))


class Place(Facts):
    """In which area each device of the circuit stands, and what its own plate says."""

    motor: str | None = field(numbered("Motor", "area"))
    brake: str | None = field(numbered("Brake", "area"))
    heater: str | None = field(numbered("Space heater", "area", help="Empty: the motor has none."))
    buttons: str | None = field(numbered("Push buttons", "area"))
    starter: str | None = field(numbered("Starter", "area"))
    drive: str | None = field(numbered("Drive", "area"))
    drive_duty: str | None = field(
        choice("Listing covers drive duty", _YES_NO, help="The motor's, with the T-code on a drive.")
    )
    te_s: float | None = field(
        measure(
            "Time t_E", q.SECONDS, "t_E", example="9 s", help="Ex eb: seconds at I_A/I_N until its limit, as stamped."
        )
    )
    conditions: str | None = field(
        choice("Conditions (X) met", _YES_NO, help="Those of the certificate, where its number ends in X.")
    )
    heater_surface_c: float | None = field(
        measure("Heater's surface", q.TEMPERATURE, "θ_h", example="120 °C", help="Hottest, as marked.")
    )
    brake_marking: str | None = field(words("Brake's marking", 100, code="marking", example="CL I GP D T3C"))
    brake_enclosure: str | None = field(words("Brake's enclosure", 20, code="cabinet", example="type 4 or IP65"))
    buttons_marking: str | None = field(words("Buttons' marking", 100, code="marking", example="CL I DIV 1 GP C D"))
    buttons_enclosure: str | None = field(words("Buttons' enclosure", 20, code="cabinet", example="type 4X or IP65"))
    starter_marking: str | None = field(words("Starter's marking", 100, code="marking", example="CL I DIV 1 GP C D"))
    starter_enclosure: str | None = field(words("Starter's enclosure", 20, code="cabinet", example="type 12 or IP54"))
    starter_air_c: float | None = field(
        measure(
            "Starter's air up to",
            q.TEMPERATURE,
            "θ_s",
            example="50 °C",
            help="What its assembly is made for; empty: 40 °C.",
        )
    )
    drive_marking: str | None = field(words("Drive's marking", 100, code="marking"))
    drive_enclosure: str | None = field(words("Drive's enclosure", 20, code="cabinet", example="type 1 or IP21"))
