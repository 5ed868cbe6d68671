"""North American practice: NFPA 70 article 430, NEMA MG 1."""

from __future__ import annotations

from typing import Final

from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.rules.protocol import OverloadRange, RunImpedance, Words, sets_in_parallel
from vinegate.core.sheet import Sheet
from vinegate.core.supply.facts import Wiring
from vinegate.core.tables import load
from vinegate.core.working import Figure, Provenance

_THOUSAND_FEET_M: Final = 304.8
_RACEWAY_COLUMNS: Final = {"pvc": "pvc", "aluminium": "aluminium", "steel": "steel"}


class Nec:
    """NFPA 70 and NEMA MG 1."""

    name = "nec"
    title = "NEC"
    words = Words(
        dialect="nec",
        locked_rotor="locked-rotor",
        full_load_current="full-load amperes",
        locked_rotor_symbol="I_LR",
        full_load_symbol="FLA",
        wye="wye",
        across_the_line="Across the line",
        speed_unit="rpm",
        paper="letter",
    )
    zone_pu = (0.10, 0.10)
    zone_source = "NEMA MG 1:2021 12.44"

    def power(self, sheet: Sheet, power_w: float, provenance: Provenance) -> Figure:
        return sheet.given("power", "Rated power", "P", power_w / WATT_PER_HP, "hp", provenance=provenance)

    def torque(self, sheet: Sheet, power: Figure, speed: Figure) -> Figure:
        """`T = 5252·P/n`, lb-ft: 33 000 ft·lbf/min per hp over 2π."""
        return sheet.work(
            "torque",
            "Rated torque",
            "T",
            33000 / (2 * 3.141592653589793) * power.value / speed.value,
            "lb-ft",
            formula="5252·P/n",
            inputs=(power, speed),
            source="T = P/ω; 33 000 ft·lbf/min per hp",
        )

    def conductor(self, sheet: Sheet, wiring: Wiring, frequency_hz: float) -> RunImpedance | None:
        """NFPA 70 chapter 9 table 9, scaled to the run's length and sets; reactance to the frequency."""
        cells = _table_9(sheet, wiring)
        if cells is None or wiring.length_m is None:
            return None
        table = load("conductor_nec")
        r_row, x_row = cells
        r_unit = sheet.given(
            "r_unit", "Resistance", "r", r_row, "Ω/kft", provenance=Provenance.TABLE, source=table.cite
        )
        x_unit = sheet.given(
            "x_unit", "Reactance at 60 Hz", "x", x_row, "Ω/kft", provenance=Provenance.TABLE, source=table.cite
        )
        kft = sheet.given("length", "Length", "l", wiring.length_m / _THOUSAND_FEET_M, "kft")
        sets = sets_in_parallel(sheet, wiring)
        r = sheet.work(
            "r",
            "Run resistance",
            "R_run",
            1000 * r_unit.value * kft.value / sets.value,
            "mΩ",
            formula="1000·r·l/m",
            inputs=(r_unit, kft, sets),
            source=f"{table.cite}, 75 °C",
        )
        hertz = sheet.given("frequency", "Frequency", "f", frequency_hz, "Hz")
        x = sheet.work(
            "x",
            "Run reactance",
            "X_run",
            1000 * x_unit.value * kft.value / sets.value * frequency_hz / 60,
            "mΩ",
            formula="1000·x·l/m·f/60",
            inputs=(x_unit, kft, sets, hertz),
            source=table.cite,
        )
        return RunImpedance(r, x)

    def overload(
        self, sheet: Sheet, current: Figure, service_factor: float | None, rise_k: float | None
    ) -> OverloadRange:
        """NFPA 70 430.32(A)(1) and, where it will not start, 430.32(C)."""
        generous = (service_factor or 0) >= 1.15 or (rise_k is not None and rise_k <= 40)
        unsaid = service_factor is None and rise_k is None
        provenance = Provenance.ASSUMED if unsaid else Provenance.TABLE
        because = "service factor 1.15 or more, or rise 40 °C or less" if generous else "all other motors"
        note = "Neither service factor nor rise is given: the lower percentage." if unsaid else ""
        normal_pct = sheet.given(
            "normal_pct",
            "Overload, normal",
            "k",
            125.0 if generous else 115.0,
            "%",
            provenance=provenance,
            source=f"NFPA 70:2023 430.32(A)(1), {because}",
            note=note,
        )
        normal = _percent_of(sheet, "normal", "Trips at no more than", "I_OL", normal_pct, current)
        ceiling_pct = sheet.given(
            "ceiling_pct",
            "Overload, if it will not start",
            "k_max",
            140.0 if generous else 130.0,
            "%",
            provenance=provenance,
            source=f"NFPA 70:2023 430.32(C), {because}",
        )
        ceiling = _percent_of(sheet, "ceiling", "Ceiling if it will not start", "I_max", ceiling_pct, current)
        fla = f"{current.shown}"
        sheet.notes.append(
            f"Two habits, one result: a relay whose dial already trips at 1.15 to 1.25 × its mark is set to the "
            f"plate's {fla}; elements or settings given as trip current go to {normal.shown}. "
            f"Never multiply twice: read the relay's instructions."
        )
        return OverloadRange(normal, ceiling)


def _percent_of(sheet: Sheet, key: str, name: str, symbol: str, percent: Figure, current: Figure) -> Figure:
    return sheet.work(
        key,
        name,
        symbol,
        percent.value / 100 * current.value,
        "A",
        formula=f"{percent.symbol}/100·{current.symbol}",
        inputs=(percent, current),
        source=percent.source,
    )


def _table_9(sheet: Sheet, wiring: Wiring) -> tuple[float, float] | None:
    """Table 9's r and x, ohms per 1000 ft; None, with what is missing named, when it cannot be looked up."""
    wanted = (
        ("wiring.size", "conductor size", wiring.size),
        ("wiring.metal", "metal", wiring.metal),
        ("wiring.raceway", "raceway", wiring.raceway),
        ("wiring.length", "length", wiring.length_m),
    )
    missing = [(path, label) for path, label, value in wanted if value is None]
    if missing:
        sheet.needs(missing, "the run's impedance")
        return None
    assert wiring.size
    assert wiring.metal
    assert wiring.raceway
    table = load("conductor_nec")
    row = table.find(size=wiring.size)
    if row is None:
        sheet.needs(
            [("wiring.size", f"an AWG or kcmil size ({wiring.size} is not in {table.cite})")], "the run's impedance"
        )
        return None
    r = table.number(row, f"r_{'cu' if wiring.metal == 'copper' else 'al'}_{_RACEWAY_COLUMNS[wiring.raceway]}")
    x = table.number(row, "x_steel" if wiring.raceway == "steel" else "x_pvc_or_aluminium")
    if r is None or x is None:
        sheet.needs([("wiring.size", f"a size tabulated in {wiring.metal}")], "the run's impedance")
        return None
    return r, x
