"""North American practice: NFPA 70 article 430, NEMA MG 1."""

from __future__ import annotations

from typing import Final

from vinegate.core.numbers import write
from vinegate.core.protection.ratings import standard_ratings
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.rules.nec import conductors as runs
from vinegate.core.rules.nec import devices
from vinegate.core.rules.nec.conduit import conduit
from vinegate.core.rules.nec.control import CONTROL
from vinegate.core.rules.nec.feeder import feeder, feeder_ground, feeder_laid
from vinegate.core.rules.nec.harmonics import harmonic_limits, harmonics
from vinegate.core.rules.nec.inertia import nema_load_inertia
from vinegate.core.rules.nec.table_current import plate_sizes, table_current
from vinegate.core.rules.protocol import (
    Drives,
    Hazards,
    OnceSaid,
    OverloadRange,
    Papers,
    Practice,
    RunFacts,
    RunImpedance,
    Words,
    run_hertz,
    run_length,
    run_warmth,
    sets_in_parallel,
)
from vinegate.core.sheet import Sheet
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
    papers = Papers(
        own=("NFPA", "NEMA", "UL", "IEEE", "ANSI"),
        duty="NEMA MG 1:2021 1.40, 10.36: time ratings",
        overload="NFPA 70:2023 430.32",
        reset="NFPA 70:2023 430.43",
        overspeed="NFPA 70:2023 430.89",
        aluminium="NFPA 70:2023 110.14, 430.9(B)",
        stop="NFPA 79",
        emergency="NFPA 79:2024 9.2.2 and 9.2.5.4",
        classification="NFPA 70:2023 500.4(A)",
        groups="NFPA 70:2023 500.6",
        gas="NFPA 70:2023 500.8(D)(1)",
        heater="NFPA 70:2023 501.125(A)",
        ambient="NFPA 70:2023 500.8(C)(5)",
        drive_duty="NFPA 70:2023 501.125(B)",
        hoist="NFPA 70:2023 article 610",
        of_hoist="A limit switch stops it at its upper end (610.55), its disconnect is in view (610.31); conductors by "
        "610.14.",
        wet_run="NFPA 70:2023 300.5(B), 300.9, 310.10(C)",
        of_wet_run="A raceway is wet inside where it lies wet: conductors listed for that (a W in their type), boxes "
        "that drain.",
    )
    practice = Practice(
        us_units=True,
        nema_leads=True,
        service_factor=True,
        by_trip_current=True,
        protectors=True,
        unbalance_by_deviation=True,
        sizes_by_setting=False,
        voltage_factors=False,
        strong_design="C",
        drop_pct=3.0,
        drop_source="NFPA 70:2023 210.19(A), informational note: 3 % at the farthest outlet",
        drop_total_pct=(5.0, 5.0),
        drop_total_source="NFPA 70:2023 215.2(A), informational note: 5 % of feeders and branch circuit together",
        insulation_field="insulation",
        adiabatic="nec",
    )
    hazards = Hazards(
        divisions=True,
        listing_in_zones=True,
        american_marks=True,
        letter_codes=True,
        types=True,
        reaches=True,
        own_dust=True,
        unmarked_cool=True,
        zone_2_motors=True,
    )
    control = CONTROL
    drives = Drives(
        breakdown_times=1.5,
        breakdown_source="NEMA MG 1:2021 part 31: 150 % of the torque at that frequency",
        safe_speed="safe_speed_nema",
        size_of=lambda plate: plate.power_w / WATT_PER_HP if plate.power_w else None,
    )
    # NEMA MG 1 12.38 to 12.40 give least values: a stated torque has no tolerance below it.
    conductors = "conductor_nec"
    torque_tolerance = (1.0, 1.25)
    current_tolerance = (1.0, 1.0)
    zone_pu = (0.10, 0.10)
    zone_source = "NEMA MG 1:2021 12.44"
    frequency_zone_pu = (-0.05, 0.05)
    frequency_inner_pu: float | None = None
    deviations_together_pu: float | None = 0.10

    short_circuit = staticmethod(devices.short_circuit)
    disconnect = staticmethod(devices.disconnect)
    starter = staticmethod(devices.starter)
    conductors_row = staticmethod(runs.conductors)
    may_be = staticmethod(runs.may_be)
    grounding = staticmethod(runs.grounding)
    device_fact = "protection.device_nec"
    other_kinds = staticmethod(devices.other_kinds)
    conduit = staticmethod(conduit)
    table_current = staticmethod(table_current)
    plate_sizes = staticmethod(plate_sizes)

    feeder = staticmethod(feeder)
    feeder_laid = staticmethod(feeder_laid)
    feeder_ground = staticmethod(feeder_ground)
    harmonics = staticmethod(harmonics)
    harmonic_limits = staticmethod(harmonic_limits)

    def flicker_standard(self, rated_a: float) -> str:
        """IEEE 1453, whatever the current."""
        del rated_a
        return "IEEE 1453:2022"

    def large_change_s(self, rated_a: float) -> float | None:
        """The utility's word."""
        del rated_a
        return None

    def ratings(self, kind: str) -> tuple[float, ...]:
        """NFPA 70 240.6(A); none for a breaker without a time-delay element, which is set."""
        return () if kind == "instantaneous" else standard_ratings(fuse=kind != "inverse-time")

    def load_inertia(self, power_w: float, poles: int, synchronous_rpm: float) -> tuple[float, str]:
        """NEMA MG 1 12.54."""
        limit = nema_load_inertia(power_hp=power_w / WATT_PER_HP, synchronous_rpm=synchronous_rpm)
        return limit, "NEMA MG 1:2021 12.54, designs A and B: two starts cold or one hot"

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

    def conductor(self, sheet: Sheet, run: RunFacts, frequency_hz: float) -> RunImpedance | None:
        """NFPA 70 chapter 9 table 9, scaled to the run's length and sets; reactance to the frequency.

        At another conductor temperature than 75 °C: `R = R_75·(1 + α·(θ − 75))` (chapter 9 table 8, note 2).
        """
        cells = _table_9(sheet, run)
        if cells is None or run.length_m is None:
            return None
        cite = load("conductor_nec").cite

        def put(name: str, title: str, symbol: str, value: float, unit: str) -> Figure:
            table = Provenance.TABLE
            return sheet.given(run.key(name), title, run.symbol(symbol), value, unit, provenance=table, source=cite)

        r_unit, x_unit = (
            put("r_unit", "Resistance", "r", cells[0], "Ω/kft"),
            put("x_unit", "Reactance at 60 Hz", "x", cells[1], "Ω/kft"),
        )
        kft = run_length(sheet, run, run.length_m / _THOUSAND_FEET_M, "kft")
        sets = sets_in_parallel(sheet, run)
        warm, warm_text, inputs = self._warmth(sheet, run)
        r = sheet.work(run.key("r"), "Run resistance" if not run.mark else "Feeder resistance",
                       f"R_{'run' if not run.mark else 'f' + run.mark}",
                       1000 * r_unit.value * kft.value / sets.value * warm, "mΩ",
                       formula=f"1000·{r_unit.symbol}·{kft.symbol}/{sets.symbol}{warm_text}",
                       inputs=(r_unit, kft, sets, *inputs), source=f"{cite}, 75 °C")  # fmt: skip
        hertz = run_hertz(sheet, run, frequency_hz)
        x = sheet.work(run.key("x"), "Run reactance" if not run.mark else "Feeder reactance",
                       f"X_{'run' if not run.mark else 'f' + run.mark}",
                       1000 * x_unit.value * kft.value / sets.value * frequency_hz / 60, "mΩ",
                       formula=f"1000·{x_unit.symbol}·{kft.symbol}/{sets.symbol}·{hertz.symbol}/60",
                       inputs=(x_unit, kft, sets, hertz), source=cite)  # fmt: skip
        return RunImpedance(r, x)

    @staticmethod
    def _warmth(sheet: Sheet, run: RunFacts) -> tuple[float, str, tuple[Figure, ...]]:
        if run.temperature_c is None:
            return 1.0, "", ()
        alpha = 0.00323 if run.metal == "copper" else 0.00330
        degrees = run_warmth(sheet, run, run.temperature_c)
        return 1 + alpha * (run.temperature_c - 75), f"·(1+{alpha}·(θ−75))", (degrees,)

    def in_ground(self, method: str | None) -> bool:
        return False  # its raceways and cables have one table, in air and in earth

    def overload(
        self, sheet: Sheet, current: Figure, service_factor: float | None, rise_k: float | None
    ) -> OverloadRange:
        """NFPA 70 430.32(A)(1) and, where it will not start, 430.32(C)."""
        generous = (service_factor or 0) >= _MARKED or (rise_k is not None and rise_k <= 40)
        unsaid = service_factor is None and rise_k is None
        provenance = Provenance.ASSUMED if unsaid else Provenance.TABLE
        because = "service factor 1.15 or more, or rise 40 °C or less" if generous else "all other motors"
        note = "Neither service factor nor rise is given: the lower percentage." if unsaid else ""
        normal_pct = sheet.given(
            "normal_pct",
            "Overload, normal",
            "k",
            _GENEROUS_PCT if generous else 115.0,
            "%",
            provenance=provenance,
            source=f"NFPA 70:2023 430.32(A)(1), {because}",
            note=note,
        )
        normal = sheet.percent("normal", "Trips at no more than", "I_OL", normal_pct, current)
        ceiling_pct = sheet.given(
            "ceiling_pct",
            "Overload, if it will not start",
            "k_max",
            140.0 if generous else 130.0,
            "%",
            provenance=provenance,
            source=f"NFPA 70:2023 430.32(C), {because}",
        )
        ceiling = sheet.percent("ceiling", "Ceiling if it will not start", "I_max", ceiling_pct, current)
        dial = f"the plate's {current.shown}" if generous else f"{write(normal.value / 1.25, 3)} A, below the plate's"
        sheet.notes.append(
            f"Two habits, one result: a relay whose dial already trips at 1.15 to 1.25 × its mark is set to {dial}; "
            f"elements or settings given as trip current go to {normal.shown}. "
            f"Never multiply twice: read the relay's instructions."
        )
        marked = OnceSaid(path="plate.service_factor", label="service factor", text=f"{_MARKED:g}",
                          most_a=_GENEROUS_PCT / 100 * current.value)  # fmt: skip
        return OverloadRange(normal, ceiling, marked if unsaid else None)


_MARKED, _GENEROUS_PCT = 1.15, 125.0  # service factor, and what it allows of the plate's amperes: 430.32(A)(1)


def _table_9(sheet: Sheet, run: RunFacts) -> tuple[float, float] | None:
    """Table 9's r and x, ohms per 1000 ft; None, with what is missing named, when it cannot be looked up."""
    wanted = (
        (f"{run.path}.size", "conductor size", run.size),
        (f"{run.path}.metal", "metal", run.metal),
        (f"{run.path}.raceway", "raceway", run.raceway),
        (f"{run.path}.length", "length", run.length_m),
    )
    missing = [(path, label) for path, label, value in wanted if value is None]
    if missing:
        sheet.needs(missing, f"the impedance of {'the run' if not run.mark else 'the feeder'}")
        return None
    assert run.size
    assert run.metal
    assert run.raceway
    table = load("conductor_nec")
    row = table.find(size=run.size)
    if row is None:
        sheet.needs(
            [(f"{run.path}.size", f"an AWG or kcmil size ({run.size} is not in {table.cite})")],
            f"the impedance of {'the run' if not run.mark else 'the feeder'}",
        )
        return None
    r = table.number(row, f"r_{'cu' if run.metal == 'copper' else 'al'}_{_RACEWAY_COLUMNS[run.raceway]}")
    x = table.number(row, "x_steel" if run.raceway == "steel" else "x_pvc_or_aluminium")
    if r is None or x is None:
        sheet.needs(
            [(f"{run.path}.size", f"a size tabulated in {run.metal}")],
            f"the impedance of {'the run' if not run.mark else 'the feeder'}",
        )
        return None
    return r, x
