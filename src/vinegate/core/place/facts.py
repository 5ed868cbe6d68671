"""Where things stand: the classification and its document, the areas of the job, and each device's area."""

from __future__ import annotations

from typing import Annotated, Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, measure, numbered, words
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

    classified_by: Annotated[str | None, words("Classified by", 80, example="the site's competent person")] = None
    document: Annotated[str | None, words("Document", 60, example="HL-EX-01, rev. B", help="Number and revision.")] = (
        None
    )
    dated: Annotated[str | None, words("Dated", 30, example="2026-03-14")] = None


class Area(Facts):
    """One area of the job, as that document has it."""

    name: Annotated[str | None, words("Area", 60, example="digester house")] = None
    status: Annotated[
        str | None, choice("Classified as", STATUS, help="By the document. Empty is not known, never unclassified.")
    ] = None
    hazard_class: Annotated[str | None, choice("Class", _CLASSES, rules="nec")] = None
    division: Annotated[str | None, choice("Division", _DIVISIONS, rules="nec")] = None
    groups: Annotated[
        str | None, words("Groups", 20, rules="nec", example="D", help="A to D gas, E to G dust; none in class III.")
    ] = None
    zone: Annotated[str | None, choice("Zone", _ZONES)] = None
    group: Annotated[str | None, choice("Gas or dust group", _GROUPS)] = None
    level: Annotated[str | None, choice("Protection level", _LEVELS, help="EPL asked. Empty: as the zone asks.")] = None
    materials: Annotated[
        Materials | None,
        Fact(
            label="Materials present",
            read=read_materials,
            example="methane, hydrogen sulfide",
            help="From the library, or your own with group and °C in brackets: solvent (IIB 240 °C).",
            longest=200,
        ),
    ] = None
    ambient_low_c: Annotated[
        float | None, measure("Coldest", q.TEMPERATURE, "θ_min", example="−20 °C", help="Of the air around.")
    ] = None
    ambient_high_c: Annotated[
        float | None, measure("Warmest", q.TEMPERATURE, "θ_max", example="40 °C", help="Of the air around.")
    ] = None
    altitude_m: Annotated[
        float | None, measure("Altitude", q.LENGTH, "h", example="320 m", help="Above sea. Empty: up to 1000 m.")
    ] = None
    sky: Annotated[str | None, choice("Stands", _SKY)] = None
    water: Annotated[str | None, choice("Water", _WATER)] = None
    dusty: Annotated[str | None, choice("Dusty", _YES_NO)] = None
    corrosive: Annotated[str | None, choice("Corrosive", _YES_NO)] = None


class Place(Facts):
    """In which area each device of the circuit stands, and what its own plate says."""

    motor: Annotated[str | None, numbered("Motor", "area")] = None
    brake: Annotated[str | None, numbered("Brake", "area")] = None
    heater: Annotated[str | None, numbered("Space heater", "area", help="Empty: the motor has none.")] = None
    buttons: Annotated[str | None, numbered("Push buttons", "area")] = None
    starter: Annotated[str | None, numbered("Starter", "area")] = None
    drive: Annotated[str | None, numbered("Drive", "area")] = None
    drive_duty: Annotated[
        str | None, choice("Listing covers drive duty", _YES_NO, help="The motor's, with the T-code on a drive.")
    ] = None
    te_s: Annotated[
        float | None,
        measure("t_E", q.SECONDS, "t_E", example="9 s", help="Ex eb: seconds at I_A/I_N until its limit, as stamped."),
    ] = None
    conditions: Annotated[
        str | None, choice("Conditions (X) met", _YES_NO, help="Those of the certificate, where its number ends in X.")
    ] = None
    heater_surface_c: Annotated[
        float | None, measure("Heater's surface", q.TEMPERATURE, "θ_h", example="120 °C", help="Hottest, as marked.")
    ] = None
    brake_marking: Annotated[str | None, words("Brake's marking", 100, code="marking", example="CL I GP D T3C")] = None
    brake_enclosure: Annotated[str | None, words("Brake's enclosure", 20, code="cabinet", example="type 4 or IP65")] = (
        None
    )
    buttons_marking: Annotated[
        str | None, words("Buttons' marking", 100, code="marking", example="CL I DIV 1 GP C D")
    ] = None
    buttons_enclosure: Annotated[
        str | None, words("Buttons' enclosure", 20, code="cabinet", example="type 4X or IP65")
    ] = None
    starter_marking: Annotated[
        str | None, words("Starter's marking", 100, code="marking", example="CL I DIV 1 GP C D")
    ] = None
    starter_enclosure: Annotated[
        str | None, words("Starter's enclosure", 20, code="cabinet", example="type 12 or IP54")
    ] = None
    drive_marking: Annotated[str | None, words("Drive's marking", 100, code="marking")] = None
    drive_enclosure: Annotated[str | None, words("Drive's enclosure", 20, code="cabinet", example="type 1 or IP21")] = (
        None
    )
