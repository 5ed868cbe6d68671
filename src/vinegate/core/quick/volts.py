"""Questions of lower and of unequal volts, and of the overload's setting."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure
from vinegate.core.grade import from_answer
from vinegate.core.numbers import write
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.insulation import read_rise
from vinegate.core.quick.tool import Tool
from vinegate.core.record.unbalance import (
    DERATING_SOURCE,
    DEVIATION_SOURCE,
    EVEN_OUT,
    NEGATIVE_SOURCE,
    borne,
    derating,
    deviation_pct,
    negative_pct,
)
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance

_PHASES: Final = (("3", "three-phase"), ("1", "single-phase"))
_PLATE: Final = Plate.fields()


class Reduced(Facts):
    """What each way of lower volts leaves of current and torque."""

    locked_a: float | None = field(
        measure("Locked-rotor amperes", q.CURRENT, "I_LR", label_iec="Starting current", example="560 A")
    )
    torque_pu: float | None = field(measure("Locked-rotor torque", q.TORQUE_RATIO, "T_LR", label_iec="Starting torque"))


_WAYS: Final = (
    ("wye", "Wye, then delta", 1 / 3, 1 / 3, 3**-0.5),
    ("tap50", "Autotransformer, 50 %", 0.25, 0.25, 0.5),
    ("tap65", "Autotransformer, 65 %", 0.4225, 0.4225, 0.65),
    ("tap80", "Autotransformer, 80 %", 0.64, 0.64, 0.8),
    ("series65", "Reactor or resistor, 65 %", 0.65, 0.4225, 0.65),
    ("series80", "Reactor or resistor, 80 %", 0.8, 0.64, 0.8),
    ("half", "Part winding", 0.65, 0.45, 1.0),
)
_USUAL: Final = Provenance.ASSUMED


def _torque_of(sheet: Sheet, key: str, name: str, share: float, torque: Figure) -> None:
    part = sheet.given(
        f"{key}_share", f"{name}: share of torque", f"b_{key}", share, "",
        provenance=_USUAL if key == "half" else Provenance.TABLE,
        source="usual of half a winding" if key == "half" else "square of the volts",
    )  # fmt: skip
    sheet.work(
        f"{key}_torque",
        f"{name}: torque",
        f"T_{key}",
        share * torque.value,
        "%",
        formula=f"b_{key}·T_LR",
        inputs=(part, torque),
        source="definition",
    )


def _reduced(sheet: Sheet, facts: Reduced, rules: RuleSet) -> str:
    amps = sheet.given("locked", "Locked-rotor current", "I_LR", facts.locked_a or 1, "A")
    torque = (
        sheet.given("torque", "Locked-rotor torque", "T_LR", 100 * (facts.torque_pu or 1), "%", source="of rated")
        if facts.torque_pu
        else None
    )
    for key, name, line, share, volts in _WAYS:
        factor = sheet.given(
            f"{key}_factor",
            f"{name}: share of amperes",
            f"a_{key}",
            line,
            "",
            provenance=_USUAL if key == "half" else Provenance.TABLE,
            source="usual of half a winding" if key == "half" else f"{100 * volts:.0f} % at the winding",
        )
        sheet.work(
            f"{key}_amps",
            f"{name}: from the line",
            f"I_{key}",
            line * amps.value,
            "A",
            formula=f"a_{key}·I_LR",
            inputs=(factor, amps),
            source="definition",
        )
        if torque is not None:
            _torque_of(sheet, key, name, share, torque)
    wye, tap, series = (write(amps.value * share, 3) for share in (1 / 3, 0.4225, 0.65))
    return f"Of {amps.shown}: wye-delta {wye} A, 65 % tap {tap} A, 65 % reactor {series} A."


class Setting(Facts):
    """Overload setting by where the relay stands."""

    current_a: float | None = field(measure("Full-load amperes", q.CURRENT, "FLA", label_iec="Rated current"))
    service: float | None = field(measure("Service factor", q.SERVICE_FACTOR, "SF", rules="nec"))
    rise_k: float | None = field(
        Fact(label="Temperature rise", read=read_rise, quantity=q.RISE, unit="K", symbol="Δθ", example="40 K")
    )
    place: str | None = field(choice("The relay stands", (("line", "in the line"), ("delta", "inside the delta"))))


def _setting(sheet: Sheet, facts: Setting, rules: RuleSet) -> str:
    current = sheet.given(
        "current", rules.words.full_load_current.capitalize(), rules.words.full_load_symbol, facts.current_a or 1, "A"
    )
    found = rules.overload(sheet, current, facts.service, facts.rise_k)
    dial, ceiling, most = current.value, found.normal.value, found.normal
    if facts.place == "delta":
        dial = sheet.work(
            "delta",
            "Inside the delta",
            "I_Δ",
            current.value / math.sqrt(3),
            "A",
            formula=f"{current.symbol}/√3",
            inputs=(current,),
            source="a phase of a delta",
        ).value
        ceiling = sheet.work(
            "ceiling_delta",
            "Most, inside the delta",
            "I_m",
            most.value / math.sqrt(3),
            "A",
            formula=f"{most.symbol}/√3",
            inputs=(most,),
            source="a phase of a delta",
        ).value
    word = "it may trip at" if rules.practice.by_trip_current else "set at"
    return f"Dial at {write(dial, 3)} A; {word} {write(ceiling, 3)} A at most."


class Unequal(Facts):
    """Three line volts: how unequal, and what that costs."""

    u12_v: float | None = field(measure("Volts 1-2", q.VOLTAGE, "U_12"))
    u23_v: float | None = field(measure("Volts 2-3", q.VOLTAGE, "U_23"))
    u31_v: float | None = field(measure("Volts 3-1", q.VOLTAGE, "U_31"))


def _unequal(sheet: Sheet, facts: Unequal, rules: RuleSet) -> str:
    three = (facts.u12_v or 1, facts.u23_v or 1, facts.u31_v or 1)
    apart, negative = deviation_pct(*three), negative_pct(*three)
    sheet.given("deviation", "By largest deviation", "u_d", apart, "%", source=DEVIATION_SOURCE)
    if negative is None:
        return "These three close no triangle: they are not line-to-line volts of one moment."
    sheet.given("negative", "By negative sequence", "u_n", negative, "%", source=NEGATIVE_SOURCE)
    counts = rules.practice.unbalance_by_deviation
    answer = borne(apart, negative, by_deviation=counts)
    sheet.gates.append(from_answer("unequal.borne", "The motor bears it", answer, remedy=EVEN_OUT))
    if counts and (share := derating(apart)) is not None:
        sheet.given("share", "Share of rated power left", "d", 100 * share, "%", provenance=Provenance.TABLE,
                    source=DERATING_SOURCE)  # fmt: skip
    return answer.text


TOOLS: Final = (
    Tool(
        key="reduced",
        title="Reduced volts",
        purpose="What each way leaves of current and torque.",
        facts=Reduced,
        needs=("locked_a",),
        work=_reduced,
    ),
    Tool(
        key="setting",
        title="Overload setting",
        purpose="By where the relay stands.",
        facts=Setting,
        needs=("current_a",),
        work=_setting,
    ),
    Tool(
        key="unequal",
        title="Unequal volts",
        purpose="Both definitions, and what may still be asked.",
        facts=Unequal,
        needs=("u12_v", "u23_v", "u31_v"),
        work=_unequal,
    ),
)
