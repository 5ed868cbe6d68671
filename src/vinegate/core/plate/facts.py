"""What a three-phase induction motor's plate says."""

from __future__ import annotations

from typing import Annotated

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, measure, whole, words
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


def _code(label: str, kind: str, example: str, **more: str) -> Fact:
    """A code that stands on the plate: any text is kept, and what it says is shown beside it."""
    return words(label, 40, code=kind, example=example, **more)


class Plate(Facts):
    """The nameplate, as stamped. Every field may be missing."""

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
    frequency_hz: Annotated[float | None, measure("Hertz", q.FREQUENCY, "f", label_iec="Frequency")] = None
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
        ),
    ] = None
    code_letter_for: Annotated[
        str | None,
        choice(
            "Code letter is for",
            (("run", "running connection"), ("wye-start", "wye start")),
            help="A motor marked for wye start carries the wye connection's letter (NEC 430.7(B)).",
            rules="nec",
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
        ),
    ] = None
    starting_current_ratio: Annotated[
        float | None,
        measure("LRA / FLA", q.CURRENT_RATIO, "c", label_iec="I_A/I_N", help="Starting over rated current."),
    ] = None
    design_letter: Annotated[
        str | None,
        Fact(
            label="Design",
            read=_design_letter,
            example="B",
            help="MG 1: A to D. IEC 60034-12: N, NE, H, HE…",
            code="design",
        ),
    ] = None
    efficiency_pu: Annotated[float | None, measure("Efficiency", q.EFFICIENCY, "η", help="Nominal, at full load.")] = (
        None
    )
    power_factor: Annotated[float | None, measure("Power factor", q.POWER_FACTOR, "pf", label_iec="cos φ")] = None
    temperature_rise_k: Annotated[float | None, measure("Rise", q.RISE, "Δθ", rules="nec", example="40 °C")] = None
    leads: Annotated[
        int | None,
        Fact(label="Leads", read=_read_leads, example="12", help="Leads brought out: 3, 6, 9 or 12."),
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
