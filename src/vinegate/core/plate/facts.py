"""What a motor's plate says, whatever kind of machine it is on."""

from __future__ import annotations

import re
from typing import Any

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure, whole, words
from vinegate.core.numbers import QuantityError
from vinegate.core.plate.insulation import read_rise
from vinegate.core.plate.kind import KINDS, KINDS_ALSO, Family, family_of
from vinegate.core.plate.volts import AmpsDesignation, VoltsDesignation, read_amps, read_amps_or_several, read_volts
from vinegate.core.records import replace
from vinegate.core.tables import load

LEADS = (3, 6, 9, 12)
DESIGN_LETTERS = ("A", "B", "C", "D", "N", "NE", "NY", "NEY", "H", "HE", "HY", "HEY")


def _code_letter(text: str) -> str:
    letter = re.sub(r"^(?:KVA\b)?\s*(?:CODE\b)?\s*(?:LETTER\b)?\s*|\s*\(?KVA/HP\)?$", "", text.strip().upper())
    if load("code_letter").find(letter=letter) is None:
        known = ", ".join(row["letter"] for row in load("code_letter").rows)
        raise QuantityError(f"“{text.strip()}” is not a code letter: {known}.")
    return letter


def _design_letter(text: str) -> str:
    letter = re.sub(r"^(?:NEMA\b)?\s*(?:DES(?:IGN)?\b\.?)?\s*", "", text.strip().upper())
    if letter not in DESIGN_LETTERS:
        raise QuantityError(
            f"“{text.strip()}” is not a design letter: A to D (MG 1), N or H with E and Y (IEC 60034-12)."
        )
    return letter


_leads = whole("Leads", 3, 12, example="3, 6, 9 or 12", help="Leads brought out to the terminal box.")


def _read_leads(text: str) -> int:
    number = _leads.read(re.sub(r"\s*-?\s*(?:leads?|wires?)\s*$", "", text, flags=re.I))
    if number not in LEADS:
        raise QuantityError(f"{number} leads: a three-phase machine brings out 3, 6, 9 or 12.")
    assert isinstance(number, int)
    return number


_DEGREES = r"([+−-]?\d+(?:[.,]\d+)?)\s*(?:°\s*)?([CF]?)"
_FROM_TO = re.compile(
    rf"^\s*(?:T\s?a(?:mb)?\.?\s*[:=]?)?\s*{_DEGREES}\s*(?:\.{{2,3}}|…|to|/|(?:≤|<=?)\s*T\s?a(?:mb)?\.?\s*(?:≤|<=?))"
    rf"\s*{_DEGREES}\s*$", re.I
)  # fmt: skip
"""As explosion-protected machines are marked (IEC 60079-0): −20 °C ≤ Ta ≤ +60 °C."""


_ROUNDED_F = 1.0


def _read_ambient(text: str) -> float:
    """The highest, alone or of a range.

    >>> [_read_ambient(text) for text in ("-20..+60 °C", "−20 °C ≤ Ta ≤ +50 °C", "40", "-4 to 104 F", "40/104")]
    [60.0, 50.0, 40.0, 40.0, 40.0]
    """
    span = _FROM_TO.match(text)
    if span is None:
        return q.TEMPERATURE.read(text)
    low, low_unit, high, unit = (part.replace("−", "-").replace(",", ".") for part in span.groups())
    found = [q.TEMPERATURE.read(f"{value.removeprefix('+')} °{(own or unit or low_unit or 'C').upper()}")
             for value, own in ((low, low_unit), (high, unit))]  # fmt: skip
    if not any((low_unit, unit)) and abs(9 / 5 * found[0] + 32 - found[1]) < _ROUNDED_F:
        return found[0]  # 40/104: one ambient, in either unit
    if found[0] > found[1]:
        raise QuantityError(f"{text.strip()}: the lower end stands first.")
    return found[1]


_CAGE = (Family.CAGE,)
_AC = (Family.CAGE, Family.WOUND, Family.SINGLE)


def _code(label: str, kind: str, example: str, longest_text: int = 40, **more: Any) -> Fact:
    """A code that stands on the plate: any text is kept, and what it says is shown beside it."""
    return words(label, longest_text, code=kind, example=example, **more)


def _amperes(label: str, symbol: str, **more: Any) -> Fact:
    """Amperes that stand once, or for each of the voltages."""
    return Fact(label=label, read=read_amps_or_several, symbol=symbol, unit="A", quantity=q.CURRENT, **more)


class Plate(Facts):
    """The nameplate, as stamped. Every field may be missing."""

    kind: str | None = field(
        choice("Machine", KINDS, also=KINDS_ALSO, help="Three-phase cage where nothing is chosen.")
    )
    motor_type: str | None = field(words("Model", 60, help="Maker's type, as stamped.", example="TEFC 405T"))
    power_w: float | None = field(
        measure("Power", q.RATED_POWER, "P", label_iec="Rated output", help="Shaft power: hp, kW.")
    )
    volts: VoltsDesignation | None = field(
        Fact(
            label="Volts",
            read=read_volts,
            symbol="U_N",
            unit="V",
            example="230/460 or 400Δ/690Y",
            help="A slash separates connections, a hyphen is one connection's range.",
        )
    )
    full_load_current: AmpsDesignation | None = field(
        Fact(
            label="Full-load amperes",
            label_iec="Rated current",
            read=read_amps,
            symbol="FLA",
            unit="A",
            example="184/92",
            help="In the order of the volts.",
        )
    )
    frequency_hz: float | None = field(measure("Hertz", q.FREQUENCY, "f", label_iec="Frequency", families=_AC))
    speed_rpm: float | None = field(
        measure("Speed", q.SPEED, "n", label_iec="Rated speed", help="Full-load speed as stamped.")
    )
    service_factor: float | None = field(measure("Service factor", q.SERVICE_FACTOR, "SF", example="1.15", rules="nec"))
    code_letter: str | None = field(
        Fact(
            label="Code letter",
            read=_code_letter,
            example="G",
            help="Locked-rotor kVA per hp.",
            rules="nec",
            code="letter",
            families=(Family.CAGE, Family.SINGLE),
        )
    )
    code_letter_for: str | None = field(
        choice(
            "Code letter is for",
            (("run", "as it runs"), ("wye-start", "wye start")),
            help="A motor marked for wye start carries the wye connection's letter (NEC 430.7(B)).",
            rules="nec",
            families=_CAGE,
        )
    )
    locked_rotor_current_a: float | AmpsDesignation | None = field(
        _amperes(
            "Locked-rotor amperes",
            "I_LR",
            label_iec="Starting current",
            example="560 A",
            help="If stamped: at the connected volts, or in the order of the volts.",
            families=(Family.CAGE, Family.SINGLE),
        )
    )
    starting_current_ratio: float | None = field(
        measure(
            "LRA / FLA",
            q.CURRENT_RATIO,
            "c",
            label_iec="I_A/I_N",
            help="Starting over rated current.",
            families=(Family.CAGE, Family.SINGLE),
        )
    )
    design_letter: str | None = field(
        Fact(
            label="Design",
            read=_design_letter,
            example="B",
            help="MG 1: A to D. IEC 60034-12: N, NE, H, HE…",
            code="design",
            families=_CAGE,
        )
    )
    efficiency_pu: float | None = field(measure("Efficiency", q.EFFICIENCY, "η", help="Nominal, at full load."))
    power_factor: float | None = field(measure("Power factor", q.POWER_FACTOR, "pf", label_iec="cos φ", families=_AC))
    temperature_rise_k: float | None = field(
        Fact(label="Temp. rise", read=read_rise, quantity=q.RISE, unit="K", symbol="Δθ", example="80 K or B")
    )
    leads: int | None = field(
        Fact(
            label="Leads",
            read=_read_leads,
            example="12",
            help="Leads brought out: 3, 6, 9 or 12.",
            families=(Family.CAGE, Family.WOUND),
        )
    )
    service_factor_current_a: float | AmpsDesignation | None = field(
        _amperes(
            "SF amperes", "SFA", rules="nec", example="210/105", help="At service factor, in the order of the volts."
        )
    )
    insulation_class: str | None = field(_code("Insulation class", "insulation", "F"))
    duty: str | None = field(_code("Duty", "duty", "CONT or S1", label_iec="Duty type"))
    enclosure: str | None = field(_code("Enclosure", "enclosure", "TEFC"))
    frame: str | None = field(_code("Frame", "frame", "405T or 225M"))
    protection: str | None = field(_code("IP code", "ip", "IP55"))
    cooling: str | None = field(_code("Cooling", "cooling", "IC411"))
    mounting: str | None = field(_code("Mounting", "mounting", "IM B3"))
    efficiency_class: str | None = field(_code("IE class", "efficiency", "IE3"))
    thermal_protection: str | None = field(_code("Thermal protection", "thermal", "AUTO, MAN or NONE"))
    temperature_code: str | None = field(_code("T-code", "tcode", "T3C"))
    rotation: str | None = field(_code("Rotation", "rotation", "CCW ODE"))
    bearings: str | None = field(
        words("Bearings", 60, example="6313 / 6212", help="Drive end, opposite end, as stamped.")
    )
    ambient_c: float | None = field(
        replace(measure("Ambient", q.TEMPERATURE, "θ_a", help="Highest ambient the rating is for."), read=_read_ambient)
    )
    listing: str | None = field(
        _code(
            "Hazardous listing",
            "marking",
            "CL I GP D",
            longest_text=100,
            help="As stamped, AEx too; empty where there is none.",
            rules="nec",
        )
    )
    ex_marking: str | None = field(
        _code("Ex marking", "marking", "Ex db IIB T4 Gb", longest_text=100, help="As stamped.", rules="iec")
    )
    start_capacitor: str | None = field(
        _code("Start capacitor", "capacitor", "216-259 µF 250 V", families=(Family.SINGLE,))
    )
    run_capacitor: str | None = field(_code("Run capacitor", "capacitor", "30 µF 370 V", families=(Family.SINGLE,)))
    rotor_volts_v: float | None = field(
        measure(
            "Rotor volts",
            q.VOLTAGE,
            "U_2",
            families=(Family.WOUND,),
            example="320 V",
            help="Between slip rings, at rest, open.",
        )
    )
    rotor_current_a: float | None = field(
        measure(
            "Rotor amperes", q.CURRENT, "I_2", families=(Family.WOUND,), example="85 A", help="At rated load, shorted."
        )
    )
    field_volts_v: float | None = field(
        measure("Field volts", q.FIELD_VOLTAGE, "U_f", families=(Family.DC,), example="150 V")
    )
    field_current_a: float | None = field(
        measure("Field amperes", q.CURRENT, "I_f", families=(Family.DC,), example="1.4 A")
    )

    @property
    def family(self) -> Family:
        """Which plate this is."""
        return family_of(self.kind)
