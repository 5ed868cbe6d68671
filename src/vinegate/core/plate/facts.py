"""What a motor's plate says, whatever kind of machine it is on."""

from __future__ import annotations

from typing import Annotated, Any

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, measure, whole, words
from vinegate.core.plate.kind import KINDS, Family, family_of
from vinegate.core.plate.volts import AmpsDesignation, VoltsDesignation, read_amps, read_volts
from vinegate.core.quantity import QuantityError
from vinegate.core.tables import load

LEADS = (3, 6, 9, 12)
DESIGN_LETTERS = ("A", "B", "C", "D", "N", "NE", "NY", "NEY", "H", "HE", "HY", "HEY")


def _code_letter(text: str) -> str:
    letter = text.strip().upper()
    if load("code_letter").find(letter=letter) is None:
        known = ", ".join(row["letter"] for row in load("code_letter").rows)
        raise QuantityError(f"“{text.strip()}” is not a code letter: {known}.")
    return letter


def _design_letter(text: str) -> str:
    letter = text.strip().upper().removeprefix("DESIGN").strip()
    if letter not in DESIGN_LETTERS:
        raise QuantityError(
            f"“{text.strip()}” is not a design letter: A to D (MG 1), N or H with E and Y (IEC 60034-12)."
        )
    return letter


_leads = whole("Leads", 3, 12, example="3, 6, 9 or 12", help="Leads brought out to the terminal box.")


def _read_leads(text: str) -> int:
    number = _leads.read(text)
    if number not in LEADS:
        raise QuantityError(f"{number} leads: a three-phase machine brings out 3, 6, 9 or 12.")
    assert isinstance(number, int)
    return number


_CAGE = (Family.CAGE,)
_AC = (Family.CAGE, Family.WOUND, Family.SINGLE)


def _code(label: str, kind: str, example: str, longest_text: int = 40, **more: Any) -> Fact:
    """A code that stands on the plate: any text is kept, and what it says is shown beside it."""
    return words(label, longest_text, code=kind, example=example, **more)


class Plate(Facts):
    """The nameplate, as stamped. Every field may be missing."""

    kind: Annotated[str | None, choice("Machine", KINDS, help="Three-phase cage where nothing is chosen.")] = None
    motor_type: Annotated[str | None, words("Type", 60, help="Maker's type, as stamped.", example="TEFC 405T")] = None
    power_w: Annotated[
        float | None, measure("Power", q.POWER, "P", label_iec="Rated output", help="Shaft power: hp, kW.")
    ] = None
    volts: Annotated[
        VoltsDesignation | None,
        Fact(
            label="Volts",
            read=read_volts,
            symbol="U_N",
            unit="V",
            example="230/460 or 400Δ/690Y",
            help="A slash separates connections, a hyphen is one connection's range.",
        ),
    ] = None
    full_load_current: Annotated[
        AmpsDesignation | None,
        Fact(
            label="Full-load amperes",
            label_iec="Rated current",
            read=read_amps,
            symbol="FLA",
            unit="A",
            example="184/92",
            help="In the order of the volts.",
        ),
    ] = None
    frequency_hz: Annotated[float | None, measure("Hertz", q.FREQUENCY, "f", label_iec="Frequency", families=_AC)] = (
        None
    )
    speed_rpm: Annotated[
        float | None, measure("Speed", q.SPEED, "n", label_iec="Rated speed", help="Full-load speed as stamped.")
    ] = None
    service_factor: Annotated[
        float | None, measure("Service factor", q.SERVICE_FACTOR, "SF", example="1.15", rules="nec")
    ] = None
    code_letter: Annotated[
        str | None,
        Fact(
            label="Code letter",
            read=_code_letter,
            example="G",
            help="Locked-rotor kVA per hp.",
            rules="nec",
            code="letter",
            families=(Family.CAGE, Family.SINGLE),
        ),
    ] = None
    code_letter_for: Annotated[
        str | None,
        choice(
            "Code letter is for",
            (("run", "as it runs"), ("wye-start", "wye start")),
            help="A motor marked for wye start carries the wye connection's letter (NEC 430.7(B)).",
            rules="nec",
            families=_CAGE,
        ),
    ] = None
    locked_rotor_current_a: Annotated[
        float | None,
        measure(
            "Locked-rotor amperes",
            q.CURRENT,
            "I_LR",
            label_iec="Starting current",
            example="560 A",
            help="If stamped; at the connected volts.",
            families=(Family.CAGE, Family.SINGLE),
        ),
    ] = None
    starting_current_ratio: Annotated[
        float | None,
        measure(
            "LRA / FLA",
            q.CURRENT_RATIO,
            "c",
            label_iec="I_A/I_N",
            help="Starting over rated current.",
            families=(Family.CAGE, Family.SINGLE),
        ),
    ] = None
    design_letter: Annotated[
        str | None,
        Fact(
            label="Design",
            read=_design_letter,
            example="B",
            help="MG 1: A to D. IEC 60034-12: N, NE, H, HE…",
            code="design",
            families=_CAGE,
        ),
    ] = None
    efficiency_pu: Annotated[float | None, measure("Efficiency", q.EFFICIENCY, "η", help="Nominal, at full load.")] = (
        None
    )
    power_factor: Annotated[
        float | None, measure("Power factor", q.POWER_FACTOR, "pf", label_iec="cos φ", families=_AC)
    ] = None
    temperature_rise_k: Annotated[float | None, measure("Rise", q.RISE, "Δθ", rules="nec", example="40 °C")] = None
    leads: Annotated[
        int | None,
        Fact(
            label="Leads",
            read=_read_leads,
            example="12",
            help="Leads brought out: 3, 6, 9 or 12.",
            families=(Family.CAGE, Family.WOUND),
        ),
    ] = None
    service_factor_current_a: Annotated[
        float | None, measure("SF amperes", q.CURRENT, "SFA", rules="nec", example="105 A", help="At service factor.")
    ] = None
    insulation_class: Annotated[str | None, _code("Insulation class", "insulation", "F")] = None
    duty: Annotated[str | None, _code("Duty", "duty", "CONT or S1", label_iec="Duty type")] = None
    enclosure: Annotated[str | None, _code("Enclosure", "enclosure", "TEFC")] = None
    frame: Annotated[str | None, _code("Frame", "frame", "405T or 225M")] = None
    protection: Annotated[str | None, _code("IP code", "ip", "IP55")] = None
    cooling: Annotated[str | None, _code("Cooling", "cooling", "IC411")] = None
    mounting: Annotated[str | None, _code("Mounting", "mounting", "IM B3")] = None
    efficiency_class: Annotated[str | None, _code("IE class", "efficiency", "IE3")] = None
    thermal_protection: Annotated[str | None, _code("Thermal protection", "thermal", "AUTO, MAN or NONE")] = None
    temperature_code: Annotated[str | None, _code("T-code", "tcode", "T3C")] = None
    rotation: Annotated[str | None, _code("Rotation", "rotation", "CCW ODE")] = None
    bearings: Annotated[
        str | None, words("Bearings", 60, example="6313 / 6212", help="Drive end, opposite end, as stamped.")
    ] = None
    ambient_c: Annotated[
        float | None, measure("Ambient", q.TEMPERATURE, "θ_a", help="Highest ambient the rating is for.")
    ] = None
    listing: Annotated[
        str | None,
        _code(
            "Hazardous listing",
            "marking",
            "CL I GP D",
            longest_text=100,
            help="As stamped, AEx too; empty where there is none.",
            rules="nec",
        ),
    ] = None
    ex_marking: Annotated[
        str | None, _code("Ex marking", "marking", "Ex db IIB T4 Gb", longest_text=100, help="As stamped.", rules="iec")
    ] = None
    start_capacitor: Annotated[
        str | None,
        _code("Start capacitor", "capacitor", "216-259 µF 250 V", families=(Family.SINGLE,)),
    ] = None
    run_capacitor: Annotated[
        str | None, _code("Run capacitor", "capacitor", "30 µF 370 V", families=(Family.SINGLE,))
    ] = None
    rotor_volts_v: Annotated[
        float | None,
        measure(
            "Rotor volts",
            q.VOLTAGE,
            "U_2",
            families=(Family.WOUND,),
            example="320 V",
            help="Between slip rings, at rest, open.",
        ),
    ] = None
    rotor_current_a: Annotated[
        float | None,
        measure(
            "Rotor amperes", q.CURRENT, "I_2", families=(Family.WOUND,), example="85 A", help="At rated load, shorted."
        ),
    ] = None
    field_volts_v: Annotated[
        float | None, measure("Field volts", q.FIELD_VOLTAGE, "U_f", families=(Family.DC,), example="150 V")
    ] = None
    field_current_a: Annotated[
        float | None, measure("Field amperes", q.CURRENT, "I_f", families=(Family.DC,), example="1.4 A")
    ] = None

    @property
    def family(self) -> Family:
        """Which plate this is."""
        return family_of(self.kind)
