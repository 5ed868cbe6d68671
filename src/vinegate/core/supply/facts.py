"""What feeds the circuit: the source, its transformer, the run to the motor, and the limits to hold."""

from __future__ import annotations

import re
from typing import Any, Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure, numbered, whole, words
from vinegate.core.numbers import QuantityError, read_numbers, split_unit, write
from vinegate.core.records import dataclass, replace
from vinegate.core.spellings import spelt
from vinegate.core.supply.cable import conductor
from vinegate.core.system_volts import read_system_volts


@dataclass(frozen=True, slots=True)
class FaultLevel:
    """A fault level given as amperes or as volt-amperes; the other is None."""

    current_a: float | None
    power_va: float | None


_SYMBOL: Final = re.compile(r"""^\s*[IS]_?(?:sc|cc|k)?\d?["'’″”]{0,2}\s*[=:]?\s*(?=\d)""", re.I)
_SAID_OF_IT: Final = re.compile(r"(?<=A)(?:sc|\s*(?:sym(?:m(?:etrical)?)?\.?|bolted|3[\s-]?ph(?:ase)?))\s*$", re.I)
_STATED_AT: Final = re.compile(r"(?:@|\bat\b)\s*[\d.,]+\s*k?V\b.*", re.I)


def read_fault_level(text: str) -> FaultLevel:
    """`14 kA` or `300 MVA`. Raises QuantityError, also for a bare number: either could be meant.

    >>> read_fault_level("14 kA").current_a, read_fault_level("300 MVA").power_va
    (14000.0, 300000000.0)
    >>> read_fault_level("Ik'' = 25 kA").current_a
    25000.0
    """
    text = _SAID_OF_IT.sub("", _SYMBOL.sub("", text))
    if (stated := _STATED_AT.search(text)) is not None:
        raise QuantityError(f"“{stated[0].strip()}”: the volts that it is stated at have a field of their own.")
    try:
        unit = spelt(split_unit(text)[1])
    except QuantityError:  # no number either
        unit = ""
    if unit.endswith("VA"):
        return FaultLevel(None, q.FAULT_POWER.read(text))
    if unit in ("A", "kA"):
        return FaultLevel(q.FAULT_CURRENT.in_us().read(text), None)  # 65,000 A is no fault of 65 A
    if re.match(r"inf", text.strip(), re.I):
        text = "An endless supply is an empty field, behind a transformer; else the most that may come, like 65 kA."
        raise QuantityError(text)
    raise QuantityError(f"“{text.strip()}” needs its unit: write it like 14 kA or 300 MVA.")


def read_x_over_r(text: str) -> float:
    """`6`, `X/R 6` or `R/X 0.25`. Raises QuantityError.

    >>> read_x_over_r("R/X 0.25"), read_x_over_r("6")
    (4.0, 6.0)
    """
    body = text.strip()
    inverse = re.match(r"R\s*/\s*X\s*[:=]?\s*", body, re.I)
    plain = re.match(r"X\s*/\s*R\s*[:=]?\s*", body, re.I)
    if inverse:
        (number,) = [read_numbers(body[inverse.end() :])[-1]]
        if number <= 0:
            raise QuantityError("R/X is above zero: write it like R/X 0.25.")
        return q.X_OVER_R.read(repr(1 / number))
    return q.X_OVER_R.read(body[plain.end() :] if plain else body)


_TIMES: Final = re.compile(r"\s*([1-8])\s*(?:x|×|no\.?|nos\.?)\s+?(?=\d)|\s*([1-8])\s*[x×]\s*(?=\d)", re.I)


_COOLED: Final = re.compile(r"\s*([\d.,]+)(?:\s*/\s*[\d.,]+){1,2}\s*([kM]VA)\b", re.I)


def transformer(*, many: bool = False, **more: Any) -> Fact:
    """A transformer's rating; `many` where those alike in parallel have a field of their own."""

    def read(text: str) -> float:
        if (cooled := _COOLED.match(text)) is not None:
            raise QuantityError(
                f"“{text.strip()}”: its impedance is that of the rating without fans: write {cooled[1]} {cooled[2]}."
            )
        times = _TIMES.match(text)
        rated = q.APPARENT_POWER.read(text[times.end() :] if times else text)
        count = int(times[1] or times[2]) if times else 1
        if count == 1:
            return rated
        alone = text[times.end() :].strip() if times else ""
        where = (
            f"{alone} here, and {count} under “Alike in parallel”" if many else "what all of them are rated together"
        )
        bank = f" Three of one phase each are one of {write(3 * rated / 1000)} kVA." if count == 3 else ""
        raise QuantityError(f"“{text.strip()}”: write {where}.{bank}")

    return replace(measure("Transformer", q.APPARENT_POWER, "S_T", **more), read=read)


EARTHINGS = (
    ("tn", "TN"),
    ("tn-s", "TN-S"),
    ("tn-c-s", "TN-C-S"),
    ("tt", "TT"),
    ("it", "IT"),
)

RESIDUAL_TYPES: Final = (("ac", "AC"), ("a", "A"), ("f", "F"), ("b", "B"))
LETTERS: Final = (("ics19", "NEMA ICS 19"), ("81346", "IEC 81346-2"), ("older", "older IEC letters"))


class Supply(Facts):
    """The source of a job: what the utility says and what stands on the transformer's plate."""

    volts_v: float | None = field(
        Fact(
            label="System volts",
            read=read_system_volts,
            symbol="U",
            unit="V",
            example="480Y/277, 120/240, 400/230",
            help="At the board, between lines.",
        )
    )
    frequency_hz: float | None = field(measure("Frequency", q.FREQUENCY, "f"))
    fault_level: FaultLevel | None = field(
        Fact(
            label="Utility fault level",
            read=read_fault_level,
            symbol="S_sc",
            unit="",
            example="14 kA or 300 MVA",
            help="Ahead of the transformer, from the utility.",
        )
    )
    fault_level_volts_v: float | None = field(
        measure("Stated at", q.PRIMARY_VOLTAGE, "U_1", help="The volts it is stated at; a level in MVA needs none.")
    )
    fault_x_over_r: float | None = field(Fact(label="Utility X/R", read=read_x_over_r, symbol="X/R", example="10"))
    transformer_power_va: float | None = field(
        transformer(help="Leave empty where the fault level is at the board.", many=True)
    )
    transformers: int | None = field(
        whole(
            "Alike in parallel", 1, 8, symbol="n_T", example="1", help="In service at once, on one busbar; empty: one."
        )
    )
    transformer_impedance_pu: float | None = field(measure("Impedance", q.IMPEDANCE_PERCENT, "z"))
    transformer_x_over_r: float | None = field(
        Fact(label="Transformer X/R", read=read_x_over_r, symbol="X/R", example="4, or R/X 0.25")
    )
    transformer_zero_pu: float | None = field(
        measure("Zero-sequence", q.IMPEDANCE_PERCENT, "z_0", help="Of the transformer; for the fault to ground.")
    )
    earthing: str | None = field(
        choice("Earthing", EARTHINGS, also={"PME": "tn-c-s"}, rules="iec", help="IEC 60364-1, 312.2.")
    )
    tolerance: str | None = field(
        choice(
            "Volts within",
            (("6", "±6 %"), ("10", "±10 %")),
            rules="iec",
            help="Voltage factor of IEC 60909-0; empty: ±10 %.",
        )
    )
    first_fault_a: float | None = field(
        measure("First-fault current", q.RESIDUAL_CURRENT, "I_d", rules="iec", help="IT: at the first fault to earth.")
    )
    monitor: str | None = field(
        choice("Insulation monitor", (("yes", "yes"), ("no", "no")), rules="iec", help="IT: signals the first fault.")
    )
    earth_resistance_ohm: float | None = field(
        measure("Earth electrode", q.EARTH_RESISTANCE, "R_A", rules="iec", help="TT and IT: of the exposed parts.")
    )
    residual_a: float | None = field(
        measure("Residual-current device", q.RESIDUAL_CURRENT, "I_Δn", rules="iec", help="Its rated current.")
    )
    residual_type: str | None = field(
        choice(
            "its type",
            RESIDUAL_TYPES,
            rules="iec",
            help="B where drives with three-phase rectifiers stand behind it.",
        )
    )
    in_use: str | None = field(choice("Source in use", (("utility", "utility"), ("standby", "standby generator"))))


METALS = (("copper", "copper"), ("aluminium", "aluminum"))
METALS_ALSO = {"Cu": "copper", "Al": "aluminium", "alu": "aluminium"}
RACEWAYS = (("pvc", "PVC"), ("aluminium", "aluminum"), ("steel", "steel"))
RACEWAYS_ALSO = {
    "EMT": "steel", "IMC": "steel", "RMC": "steel", "rigid": "steel", "rigid steel": "steel", "ENT": "pvc",
    "steel conduit": "steel", "PVC conduit": "pvc", "aluminum conduit": "aluminium", "aluminium conduit": "aluminium",
}  # fmt: skip
"""NFPA 70:2023 articles 342, 344, 358 and 362."""


class Standby(Facts):
    """A generator that feeds the main board in place of the utility, at the system volts."""

    generator_power_va: float | None = field(measure("Generator", q.APPARENT_POWER, "S_G", example="300 kVA"))
    transient_reactance_pu: float | None = field(
        measure("X'd", q.REACTANCE_PERCENT, "x_d", help="Transient reactance on its own rating, from its data sheet.")
    )
    subtransient_reactance_pu: float | None = field(
        measure('X"d', q.REACTANCE_PERCENT, "x_d2", help="Subtransient, for the first cycle of a fault.")
    )
    sustained_a: float | None = field(
        measure(
            "Sustained fault current",
            q.CURRENT,
            "I_k",
            example="900 A",
            help="Three-phase, from its data sheet: what devices that open later see.",
        )
    )
    x_over_r: float | None = field(Fact(label="Generator X/R", read=read_x_over_r, symbol="X/R", example="15"))
    recovery_s: float | None = field(
        measure("Regulator recovers in", q.SECONDS, "t_r", example="1.5 s", help="Back within its band.")
    )

    @property
    def known(self) -> bool:
        """Whether enough is said of it to start on it."""
        return self.generator_power_va is not None and self.transient_reactance_pu is not None


SENSITIVE = (
    ("none", "nothing sensitive"),
    ("iti", "computers (ITI)"),
    ("own", "other, with its own limit"),
)
LOAD_MODELS = (("impedance", "constant impedance"), ("power", "constant power"))


class _BoardLoads(Facts):
    """What hangs on a board beside the planned motor: all of it already running."""

    load_power_va: float | None = field(measure("Other load", q.LOAD_POWER, "S_L", help="Already running."))
    motor_power_va: float | None = field(
        measure("of it motors", q.LOAD_POWER, "S_m", help="They feed a fault in its first cycle.")
    )
    continuous_power_va: float | None = field(
        measure("of it continuous", q.LOAD_POWER, "S_c", rules="nec", help="Three hours or more; empty: all of it.")
    )
    simultaneity_pu: float | None = field(
        measure(
            "Simultaneity of motors",
            q.SHARE,
            "g",
            rules="iec",
            example="80 %",
            help="Empty: all at once. IEC 61439-2 takes 0.8 for motors up to 100 kW where nothing is agreed.",
        )
    )
    load_power_factor: float | None = field(measure("its power factor", q.POWER_FACTOR, "pf", example="0.9"))
    load_model: str | None = field(
        choice("it behaves as", LOAD_MODELS, help="Drives and electronic supplies hold their power as volts fall.")
    )
    capacitor_power: float | None = field(
        measure("Capacitors", q.REACTIVE_POWER, "Q_c", help="Power-factor capacitors on this board.")
    )
    sensitive: str | None = field(choice("Sensitive load", SENSITIVE))
    sensitive_least_pu: float | None = field(
        measure("it needs at least", q.SHARE, "u_s", example="90 %", help="For a limit of its own.")
    )


MAIN: Final = ("main", "main board")


class _Named(Facts):
    """What a board is called."""

    name: str | None = field(words("Name", 40, example="MCC-1"))
    device_a: float | None = field(
        measure(
            "Device ahead",
            q.BOARD_DEVICE_CURRENT,
            "I_f",
            example="125 A",
            help="Protects its feeder: ahead of a transformer.",
        )
    )


class MainBoard(_BoardLoads, _Named):
    """The board that the source feeds."""


class _Feeder(_Named):
    """How a further board is fed: its feeder, and a transformer where it has other volts."""

    fed_from: str | None = field(numbered("Fed from", "board", MAIN, help="The main board where nothing is chosen."))
    size: str | None = field(conductor("Feeder size", example="250 kcmil or 95 mm²", help="One phase conductor."))
    metal: str | None = field(choice("Metal", METALS, also=METALS_ALSO))
    raceway: str | None = field(choice("Raceway", RACEWAYS, also=RACEWAYS_ALSO, rules="nec"))
    length_m: float | None = field(measure("Length", q.LENGTH, "l", help="One way."))
    sets: int | None = field(whole("Sets in parallel", 1, 12, symbol="m", example="1"))
    ground_size: str | None = field(
        conductor(
            "Grounding conductor",
            label_iec="Protective conductor",
            example="6 AWG or 16 mm²",
            help="Of its feeder; PEN where it is one.",
        )
    )
    zero_ratio: float | None = field(
        measure("Z0/Z1 of feeder", q.ZERO_RATIO, "k_0", example="3", help="For the fault to ground, where known.")
    )
    volts_v: float | None = field(
        Fact(
            label="Its volts",
            read=read_system_volts,
            symbol="U",
            unit="V",
            example="208Y/120",
            help="Only behind a transformer of its own.",
        )
    )
    transformer_power_va: float | None = field(transformer(example="45 kVA"))
    transformer_impedance_pu: float | None = field(measure("Impedance", q.IMPEDANCE_PERCENT, "z"))
    transformer_x_over_r: float | None = field(
        Fact(label="Transformer X/R", read=read_x_over_r, symbol="X/R", example="2")
    )


class Board(_BoardLoads, _Feeder):
    """A further board with what hangs on it."""

    @property
    def used(self) -> bool:
        """Whether anything is said of this board."""
        return any(getattr(self, name) is not None for name in Board.model_fields)


class Limits(Facts):
    """What the job will not exceed."""

    dip_pu: float | None = field(measure("Dip limit, board", q.DIP_LIMIT, "ΔU_max", help="The utility's, or your own."))
    dip_source: str | None = field(
        Fact(label="Limit from", read=str.strip, example="supply contract", help="Whose limit it is.")
    )
    terminal_pu: float | None = field(
        measure(
            "Least terminal volts",
            q.VOLTS_LIMIT,
            "U_min",
            example="85 %",
            help="Share of the plate volts the motor must keep while starting.",
        )
    )
    start_power_va: float | None = field(
        measure("Most starting kVA", q.LOAD_POWER, "S_max", help="Where the supply contract has one.")
    )
    start_current_a: float | None = field(
        measure("Most starting amperes", q.CURRENT, "I_max", help="Where the supply contract has one.")
    )
    tags: str | None = field(
        choice("Letters", LETTERS, help="Of devices on drawings, for all the job. Empty: by the rule set.")
    )
    wire_marks: str | None = field(
        choice("Wires marked", (("net", "by their net"), ("target", "by where the other end goes")),
               help="On ferrules, for all the job. Empty: by their net.")
    )  # fmt: skip
    contactor_pu: float | None = field(
        measure("Contactors hold to", q.SHARE, "u_c", example="70 %", help="Empty: 75 %, all that is promised.")
    )
    flicker: float | None = field(
        measure(
            "Flicker limit Pst",
            q.FLICKER,
            "P_max",
            example="1",
            help="Empty: none. IEC 61000-3-3 has 1 for public supplies.",
        )
    )
    torque_pu: float | None = field(
        measure("Least torque margin", q.MARGIN, "m_T", example="10 %", help="Of rated torque; empty: 10 %.")
    )
    demand_price: float | None = field(
        measure("Demand charge", q.PRICE, "c_d", example="12", help="Money for a kW of the month's demand.")
    )
    energy_price: float | None = field(measure("Energy price", q.PRICE, "c_e", example="0.14", help="Money for a kWh."))
