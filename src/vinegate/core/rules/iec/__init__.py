"""IEC practice: 60034, 60364, 60947-4-1."""

from __future__ import annotations

import math
import re

from vinegate.core.plate.facts import Plate
from vinegate.core.rules.iec import conductors as runs
from vinegate.core.rules.iec import devices
from vinegate.core.rules.iec.control import CONTROL
from vinegate.core.rules.iec.feeder import feeder, feeder_ground, feeder_laid
from vinegate.core.rules.iec.harmonics import harmonic_limits, harmonics
from vinegate.core.rules.iec.inertia import iec_load_inertia
from vinegate.core.rules.iec.laid import in_ground
from vinegate.core.rules.protocol import (
    Drives,
    Hazards,
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


def frame_size(plate: Plate) -> float | None:
    """Shaft height in millimetres, as the frame begins.

    >>> frame_size(Plate(frame="225M")), frame_size(Plate())
    (225.0, None)
    """
    found = re.match(r"\s*(\d{2,3})", plate.frame or "")
    return float(found[1]) if found else None


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
    papers = Papers(
        own=("IEC", "ISO", "EN"),
        duty="IEC 60034-1:2022 4.2, duty types S1 to S10",
        overload="IEC 60947-4-1:2018",
        reset="IEC 60204-1:2016 7.3.1",
        overspeed="IEC 60204-1:2016 7.6",
        aluminium="IEC 60204-1:2016 12.2: aluminium from 16 mm²; IEC 60947-1:2020",
        stop="IEC 60204-1",
        emergency="IEC 60204-1:2016 9.2.2 and 9.2.3.4.2",
        classification="IEC 60079-10-1, 60079-10-2",
        groups="ISO/IEC 80079-20-1, 80079-20-2",
        gas="IEC 60079-14:2013 5.6.2",
        heater="IEC 60079-0:2017 29",
        ambient="IEC 60079-0:2017 5.1.1",
        hoist="IEC 60204-32:2008",
        of_hoist="A limit switch stops it at its upper end; its supply switch and disconnector by that part.",
        drive_duty="IEC 60079-14:2013 5.11",
        wet_run="IEC 60364-5-52:2009 522.3",
        of_wet_run="A cable, and glands, for the water that they stand in there.",
    )
    practice = Practice(
        us_units=False,
        nema_leads=False,
        service_factor=False,
        by_trip_current=False,
        protectors=False,
        unbalance_by_deviation=False,
        sizes_by_setting=True,
        voltage_factors=True,
        strong_design="H",
        drop_pct=5.0,
        drop_source="IEC 60364-5-52:2009 table G.52.1: 5 %, other than lighting",
        drop_total_pct=(5.0, 8.0),
        drop_total_source="IEC 60364-5-52:2009 table G.52.1: from the origin, 5 % or 8 % by whose network it is",
        insulation_field="insulation_iec",
        adiabatic="iec",
    )
    hazards = Hazards(
        divisions=False,
        listing_in_zones=False,
        american_marks=False,
        letter_codes=False,
        types=False,
        reaches=False,
        own_dust=False,
        unmarked_cool=False,
        zone_2_motors=False,
    )
    control = CONTROL
    drives = Drives(
        breakdown_times=1.3,
        breakdown_source="IEC TS 60034-25: a third more than the torque asked, usual",
        safe_speed="safe_speed_iec",
        size_of=frame_size,
    )
    # IEC 60034-1:2022 table of tolerances: torques −15 % at rest (+25 %), −10 % at breakdown; starting current +20 %.
    conductors = "conductor_iec"
    torque_tolerance = (0.85, 1.25)
    current_tolerance = (1.0, 1.2)
    zone_pu = (0.05, 0.10)
    zone_source = "IEC 60034-1:2022 7.3, zones A and B"
    frequency_zone_pu = (-0.05, 0.03)
    frequency_inner_pu: float | None = 0.02
    deviations_together_pu: float | None = None

    short_circuit = staticmethod(devices.short_circuit)
    disconnect = staticmethod(devices.disconnect)
    starter = staticmethod(devices.starter)
    conductors_row = staticmethod(runs.conductors)
    may_be = staticmethod(runs.may_be)
    grounding = staticmethod(runs.grounding)
    device_fact = "protection.device_iec"
    other_kinds = staticmethod(devices.other_kinds)
    conduit = staticmethod(runs.no_conduit)

    def table_current(self, sheet: Sheet, plate: Plate, rated: Figure | None, supply_v: float | None) -> None:
        """None: by the IEC's standards everything is sized by the plate."""
        return

    def plate_sizes(self, plate: Plate, *, two_speeds: bool) -> str:
        """Nothing is asked: the plate sizes it in any case."""
        return ""

    feeder = staticmethod(feeder)
    feeder_laid = staticmethod(feeder_laid)
    feeder_ground = staticmethod(feeder_ground)
    harmonics = staticmethod(harmonics)
    harmonic_limits = staticmethod(harmonic_limits)

    def flicker_standard(self, rated_a: float) -> str:
        """By the current: 16 A, 75 A, above.

        >>> Iec().flicker_standard(10), Iec().flicker_standard(40), Iec().flicker_standard(200)[:19]
        ('IEC 61000-3-3:2013', 'IEC 61000-3-11:2017', 'IEC TR 61000-3-7:20')
        """
        if rated_a <= 16:
            return "IEC 61000-3-3:2013"
        if rated_a <= 75:
            return "IEC 61000-3-11:2017"
        return "IEC TR 61000-3-7:2008 and the network operator, above 75 A"

    def large_change_s(self, rated_a: float) -> float | None:
        """T_max of IEC 61000-3-3 and -3-11, clause 5; above 75 A the operator's word.

        >>> Iec().large_change_s(75), Iec().large_change_s(76)
        (0.5, None)
        """
        return 0.5 if rated_a <= 75 else None

    def ratings(self, kind: str) -> tuple[float, ...]:
        """As the device's own table has them."""
        return tuple(devices.ratings_of(kind))

    def load_inertia(self, power_w: float, poles: int, synchronous_rpm: float) -> tuple[float, str]:
        """IEC 60034-12, design N."""
        limit = iec_load_inertia(power_kw=power_w / 1000, poles=poles)
        return limit, "IEC 60034-12:2016, design N: two starts cold or one hot"

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

    def conductor(self, sheet: Sheet, run: RunFacts, frequency_hz: float) -> RunImpedance | None:
        """IEC 60228 resistance brought to 1.25 × its 20 °C value, and 0.08 mΩ/m (IEC 60364-5-52 annex G).

        At a stated conductor temperature: `R = R_20·(1 + α·(θ − 20))` (IEC 60228:2004 annex A).
        """
        row = _conductor_row(sheet, run)
        if row is None or run.length_m is None:
            return None
        cite, table = load("conductor_iec").cite, Provenance.TABLE

        def put(name: str, title: str, symbol: str, value: float, unit: str, source: str) -> Figure:
            return sheet.given(run.key(name), title, run.symbol(symbol), value, unit, provenance=table, source=source)

        r_20 = put("r_unit", "Resistance, 20 °C", "r", row, "Ω/km", cite)
        annex = "IEC 60364-5-52:2009 annex G"
        if run.temperature_c is None:
            warm = put("warm", "Working over 20 °C resistance", "k", 1.25, "", annex)
        else:
            alpha = 0.00393 if run.metal == "copper" else 0.00403
            degrees = run_warmth(sheet, run, run.temperature_c)
            warm = sheet.work(run.key("warm"), "Working over 20 °C resistance", run.symbol("k"),
                              1 + alpha * (run.temperature_c - 20), "", formula=f"1+{alpha}·(θ−20)",
                              inputs=(degrees,), source="IEC 60228:2004 annex A")  # fmt: skip
        x_unit = put("x_unit", "Reactance", "x", 0.08, "Ω/km", f"{annex}, no better known")
        length = run_length(sheet, run, run.length_m, "m")
        sets = sets_in_parallel(sheet, run)
        r = sheet.work(run.key("r"), "Run resistance" if not run.mark else "Feeder resistance",
                       f"R_{'run' if not run.mark else 'f' + run.mark}",
                       warm.value * r_20.value * length.value / sets.value, "mΩ",
                       formula=f"{warm.symbol}·{r_20.symbol}·{length.symbol}/{sets.symbol}",
                       inputs=(warm, r_20, length, sets), source=f"{cite}; {annex}")  # fmt: skip
        hertz = run_hertz(sheet, run, frequency_hz)
        x = sheet.work(run.key("x"), "Run reactance" if not run.mark else "Feeder reactance",
                       f"X_{'run' if not run.mark else 'f' + run.mark}",
                       x_unit.value * length.value / sets.value * frequency_hz / 50, "mΩ",
                       formula=f"{x_unit.symbol}·{length.symbol}/{sets.symbol}·{hertz.symbol}/50",
                       inputs=(x_unit, length, sets, hertz), source=annex)  # fmt: skip
        return RunImpedance(r, x)

    def in_ground(self, method: str | None) -> bool:
        return in_ground(method or "")

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
            share = sheet.given(
                f"{key}_ratio", name, f"k_{key}", factor, "", provenance=Provenance.TABLE, source=source
            )
            sheet.work(
                key,
                name,
                symbol,
                factor * normal.value,
                "A",
                formula=f"k_{key}·I_r",
                inputs=(share, normal),
                source=source,
            )
        return OverloadRange(normal, None)


def _conductor_row(sheet: Sheet, run: RunFacts) -> float | None:
    """Resistance at 20 °C, ohms per kilometre; None, with what is missing named."""
    wanted = (
        (f"{run.path}.size", "conductor size", run.size),
        (f"{run.path}.metal", "metal", run.metal),
        (f"{run.path}.length", "length", run.length_m),
    )
    missing = [(path, label) for path, label, value in wanted if value is None]
    if missing:
        sheet.needs(missing, f"the impedance of {'the run' if not run.mark else 'the feeder'}")
        return None
    assert run.size
    assert run.metal
    table = load("conductor_iec")
    row = table.find(size=run.size)
    if row is None:
        sheet.needs(
            [(f"{run.path}.size", f"a size in mm² ({run.size} is not in {table.cite})")],
            f"the impedance of {'the run' if not run.mark else 'the feeder'}",
        )
        return None
    value = table.number(row, f"r_{run.metal}")
    if value is None:
        sheet.needs(
            [(f"{run.path}.size", f"a size tabulated in {run.metal}")],
            f"the impedance of {'the run' if not run.mark else 'the feeder'}",
        )
    return value
