"""IEC practice: 60034, 60364, 60947-4-1."""

from __future__ import annotations

import math

from vinegate.core.rules.protocol import OverloadRange, RunImpedance, Words, sets_in_parallel
from vinegate.core.sheet import Sheet
from vinegate.core.supply.facts import Wiring
from vinegate.core.tables import load
from vinegate.core.working import Figure, Provenance


class Iec:
    """The IEC's standards for low-voltage installations."""

    name = "iec"
    title = "IEC"
    words = Words(
        dialect="iec",
        locked_rotor="starting",
        full_load_current="rated current",
        locked_rotor_symbol="I_A",
        full_load_symbol="I_N",
        wye="star",
        across_the_line="Direct on line",
        speed_unit="r/min",
        paper="A4",
    )
    zone_pu = (0.05, 0.10)
    zone_source = "IEC 60034-1:2022 7.3, zones A and B"

    def power(self, sheet: Sheet, power_w: float, provenance: Provenance) -> Figure:
        return sheet.given("power", "Rated output", "P", power_w / 1000, "kW", provenance=provenance)

    def torque(self, sheet: Sheet, power: Figure, speed: Figure) -> Figure:
        """`T = P/ω`, N·m, with P in kW and n in min⁻¹: 30 000/π = 9549.3."""
        return sheet.work(
            "torque",
            "Rated torque",
            "T",
            30000 / math.pi * power.value / speed.value,
            "N·m",
            formula="9549.3·P/n",
            inputs=(power, speed),
            source="T = P/ω",
        )

    def conductor(self, sheet: Sheet, wiring: Wiring, frequency_hz: float) -> RunImpedance | None:
        """IEC 60228 resistance brought to 1.25 × its 20 °C value, and 0.08 mΩ/m (IEC 60364-5-52 annex G)."""
        row = _conductor_row(sheet, wiring)
        if row is None or wiring.length_m is None:
            return None
        table = load("conductor_iec")
        r_20 = sheet.given(
            "r_unit", "Resistance, 20 °C", "r", row, "Ω/km", provenance=Provenance.TABLE, source=table.cite
        )
        annex = "IEC 60364-5-52:2009 annex G"
        warm = sheet.given(
            "warm", "Working over 20 °C resistance", "k", 1.25, "", provenance=Provenance.TABLE, source=annex
        )
        x_unit = sheet.given(
            "x_unit", "Reactance", "x", 0.08, "Ω/km", provenance=Provenance.TABLE, source=f"{annex}, no better known"
        )
        length = sheet.given("length", "Length", "l", wiring.length_m, "m")
        sets = sets_in_parallel(sheet, wiring)
        r = sheet.work(
            "r",
            "Run resistance",
            "R_run",
            warm.value * r_20.value * length.value / sets.value,
            "mΩ",
            formula="k·r·l/m",
            inputs=(warm, r_20, length, sets),
            source=f"{table.cite}; {annex}",
        )
        hertz = sheet.given("frequency", "Frequency", "f", frequency_hz, "Hz")
        x = sheet.work(
            "x",
            "Run reactance",
            "X_run",
            x_unit.value * length.value / sets.value * frequency_hz / 50,
            "mΩ",
            formula="x·l/m·f/50",
            inputs=(x_unit, length, sets, hertz),
            source=annex,
        )
        return RunImpedance(r, x)

    def overload(
        self, sheet: Sheet, current: Figure, service_factor: float | None, rise_k: float | None
    ) -> OverloadRange:
        """Dial at the rated current; a relay to IEC 60947-4-1 holds 1.05 and trips by 1.2 times its setting."""
        source = "IEC 60947-4-1:2018 table 2 (temperature-compensated, all poles)"
        normal = sheet.work(
            "normal",
            "Relay setting, in the line",
            "I_r",
            current.value,
            "A",
            formula=current.symbol,
            inputs=(current,),
            source="IEC 60947-4-1:2018; set to the rated current",
        )
        for key, name, symbol, factor in (
            ("holds", "Holds for two hours, cold", "I_hold", 1.05),
            ("trips", "Then trips within two hours", "I_trip", 1.2),
        ):
            share = sheet.given(f"{key}_ratio", name, "k", factor, "", provenance=Provenance.TABLE, source=source)
            sheet.work(
                key, name, symbol, factor * normal.value, "A", formula="k·I_r", inputs=(share, normal), source=source
            )
        return OverloadRange(normal, None)


def _conductor_row(sheet: Sheet, wiring: Wiring) -> float | None:
    """Resistance at 20 °C, ohms per kilometre; None, with what is missing named."""
    wanted = (
        ("wiring.size", "conductor size", wiring.size),
        ("wiring.metal", "metal", wiring.metal),
        ("wiring.length", "length", wiring.length_m),
    )
    missing = [(path, label) for path, label, value in wanted if value is None]
    if missing:
        sheet.needs(missing, "the run's impedance")
        return None
    assert wiring.size
    assert wiring.metal
    table = load("conductor_iec")
    row = table.find(size=wiring.size)
    if row is None:
        sheet.needs([("wiring.size", f"a size in mm² ({wiring.size} is not in {table.cite})")], "the run's impedance")
        return None
    value = table.number(row, f"r_{wiring.metal}")
    if value is None:
        sheet.needs([("wiring.size", f"a size tabulated in {wiring.metal}")], "the run's impedance")
    return value
