"""The stop's working: energy, brake, direct current and its supply, the drive's resistor, the armature's."""

from __future__ import annotations

import math

from vinegate.core.drive.bus import EFFICIENCY, USUAL, USUAL_DOWN_S
from vinegate.core.load.stage import Asked as Load
from vinegate.core.sheet import Sheet
from vinegate.core.stop.armature import first_a, time_constant_s, total_ohms
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.direct import delay_s, direct_a, path, peak_pu, timer_s
from vinegate.core.stop.drive import (
    bus_volts,
    ramp_s,
    resistor,
    shortest_ramp_s,
)
from vinegate.core.stop.friction import HOLD_FACTOR, brake_torque, lining_stops
from vinegate.core.stop.row import StopRow
from vinegate.core.stop.way import Way
from vinegate.core.working import Figure, Provenance

_ESTIMATED = Provenance.ESTIMATED


def put_sizes(sheet: Sheet, asked: Asked, load: Load, used: StopRow, way: Way, unit: str) -> Figure:
    """What turns, and the sizes of the way in use; `unit` is the dialect's of speed. Returns the inertia."""
    j, n = _turning(sheet, asked, load, unit)
    if used.turns is not None:
        _path(sheet, asked, used.turns)
    _brake(sheet, asked, used, way, j, n)
    return j


def _entered(value: object) -> Provenance:
    return Provenance.STATED if value is not None else Provenance.ASSUMED


def _turning(sheet: Sheet, asked: Asked, load: Load, unit: str) -> tuple[Figure, Figure]:
    n = sheet.given(
        "speed", "Speed it stops from", "n", float(asked.heavy.omega[0]) * 30 / math.pi, unit,
        provenance=Provenance.STAMPED, source="plate",
    )  # fmt: skip
    j = sheet.given(
        "inertia", "Inertia, load and rotor", "J", asked.heavy.inertia_kgm2, "kg·m²",
        provenance=_ESTIMATED if not load.inertia.given else Provenance.STATED, source="the load's sheet",
    )  # fmt: skip
    sheet.work(
        "energy", "Kinetic energy", "E_k", asked.heavy.energy_j / 1000, "kJ",
        formula="J·(π·n/30)²/2/1000", inputs=(j, n), source="definition",
    )  # fmt: skip
    return j, n


def _path(sheet: Sheet, asked: Asked, turns: float) -> None:
    """Turns and travel until it stands, by the way in use, the longest of the bands."""
    shaft = sheet.given(
        "turns",
        "Turns of the motor until rest",
        "φ",
        turns,
        "",
        provenance=_ESTIMATED,
        source="∫ ω dt of the way in use",
    )
    if asked.gear_ratio != 1:
        i = sheet.given("ratio", "Gear ratio", "i", asked.gear_ratio, "", source="the load's sheet")
        sheet.work(
            "driven_turns",
            "of the driven shaft",
            "φ_L",
            turns / asked.gear_ratio,
            "",
            formula="φ/i",
            inputs=(shaft, i),
            source="gear",
        )
    if asked.metres_a_turn is not None:
        each = sheet.given(
            "travel_turn", "Travel for a turn of the motor", "s_1", asked.metres_a_turn, "m", source="line speed · 60/n"
        )
        sheet.work(
            "travel", "Travel until rest", "s", turns * asked.metres_a_turn, "m", formula="φ·s_1", inputs=(shaft, each),
            source="its line speed at rated speed",
        )  # fmt: skip


def _brake(sheet: Sheet, asked: Asked, used: StopRow, way: Way, j: Figure, n: Figure) -> None:
    stop = asked.stop
    usual = "entered" if stop.brake_torque_nm else "usual: 1.5 times rated torque, twice for a hoist"
    if stop.brake_torque_nm and stop.brake_side == "driven":
        usual = "entered, over the gear ratio; the gear's losses help and are left out"
    sheet.given(
        "torque",
        "Brake torque at the motor",
        "T_B",
        brake_torque(asked),
        "N·m",
        provenance=_entered(stop.brake_torque_nm),
        source=usual,
    )
    load = sheet.given(
        "drives", "Torque with which the load drives", "T_d", max(-float(asked.heavy.load_nm.min()), 0.0), "N·m",
        provenance=_ESTIMATED, source="its torque when driven: no friction helps",
    )  # fmt: skip
    if asked.must_hold:
        factor = sheet.given(
            "factor", "Holding factor wanted", "k_B", stop.hold_factor or HOLD_FACTOR, "",
            provenance=_entered(stop.hold_factor), source="entered" if stop.hold_factor else "usual",
        )  # fmt: skip
        sheet.work(
            "hold_torque", "Brake torque to hold it", "T_h", factor.value * load.value, "N·m", formula="k_B·T_d",
            inputs=(factor, load), source="linings brake between two thirds and all of their mark",
        )  # fmt: skip
    if stop.within_s:
        t = sheet.given("within", "Stop within", "t_w", stop.within_s, "s")
        sheet.work(
            "stop_torque", "Brake torque for the time asked", "T_t",
            j.value * n.value * math.pi / 30 / t.value + load.value, "N·m", formula="J·π·n/30/t_w + T_d",
            inputs=(j, n, t, load), source="T = J·dω/dt; what friction takes is left out",
        )  # fmt: skip
    _lining(sheet, asked, used, way)


def _lining(sheet: Sheet, asked: Asked, used: StopRow, way: Way) -> None:
    """How long a lining lasts with the way in use."""
    if way.closes is None or used.time_s is None:
        return
    joules, source = way.closes(asked, used)
    if not math.isfinite(joules):
        return
    a_stop = sheet.given(
        "brake_heat", "Heat of the brake a stop", "E_s", joules / 1000, "kJ", provenance=_ESTIMATED,
        source=source,
    )  # fmt: skip
    stops = lining_stops(asked, joules)
    if stops is None:
        return
    work = sheet.given("lining_work", "Work of a lining", "W_B", (asked.stop.lining_work_j or 0.0) / 1000, "kJ")
    lasts = sheet.work(
        "lining_stops",
        "Stops of a lining",
        "N_B",
        stops,
        "",
        formula="W_B/E_s",
        inputs=(work, a_stop),
        source="its maker's work",
    )
    if asked.per_hour and asked.hours:
        per = sheet.given("stops_hour", "Stops an hour", "N_s", asked.per_hour, "")
        hours = sheet.given("hours", "Hours a year", "h_a", asked.hours, "h", source="the wiring's sheet")
        sheet.work(
            "lining_years", "Years of a lining", "Y_B", stops / asked.per_hour / asked.hours, "a",
            formula="N_B/N_s/h_a", inputs=(lasts, per, hours), source="stops as asked, every hour it runs",
        )  # fmt: skip


def put_direct(sheet: Sheet, asked: Asked) -> None:
    """The current of DC injection, the field it makes, its delay; then its supply."""
    value, source = direct_a(asked)
    provenance = Provenance.STATED if source == "entered" else _ESTIMATED if "circuit" in source else Provenance.ASSUMED
    amps = sheet.given("direct", "Direct current", "I_dc", value, "A", provenance=provenance, source=source)
    share = path(asked)[0]
    formula = "√(2/3)·I_dc" if asked.stop.dc_leads != "three" else "I_dc/√2"
    sheet.work(
        "equivalent",
        "Alternating current of the same field",
        "I_e",
        share * value,
        "A",
        formula=formula,
        inputs=(amps,),
        source="sum of the windings' fields; a delta is its wye equivalent",
        note="Near rest the iron saturates: its torque is bounded at 1.25 times rated volts in the gap.",
    )
    sheet.given(
        "delay", "Delay before it", "t_0", delay_s(asked), "s", provenance=_entered(asked.stop.dc_delay_s),
        source="entered" if asked.stop.dc_delay_s is not None else "three times (X_m + X_2)/(2π·f·R_2)",
    )  # fmt: skip
    sheet.work(
        "direct_times", "of rated current", "k_dc", value / asked.rated_a, "", formula="I_dc/I_r",
        inputs=(amps, sheet.given("rated", "Rated current", "I_r", asked.rated_a, "A", source="plate")),
        source="definition",
    )  # fmt: skip
    until, peak = timer_s(asked), peak_pu(asked)
    if until is not None:
        sheet.given(
            "timer", "DC timer opens after", "t_dc", until, "s", provenance=_entered(asked.stop.dc_time_s),
            source="entered" if asked.stop.dc_time_s is not None else "the slowest stop and a fifth of its braking",
        )  # fmt: skip
    if peak is not None:
        sheet.given(
            "direct_peak", "Largest braking torque, of rated", "k_T", 100 * peak, "%", provenance=_ESTIMATED,
            source="the machine's circuit, iron saturated near rest",
        )  # fmt: skip
    if asked.machine is not None:
        _direct_supply(sheet, asked, asked.machine.r1_ohm, amps)


def _direct_supply(sheet: Sheet, asked: Asked, stator_ohm: float, amps: Figure) -> None:
    """Volts, transformer, bridge and resistor: a single-phase bridge."""
    value, times = amps.value, path(asked)[1]
    estimate = "as much as its rotor, referred" if asked.guessed else "the machine's sheet"
    r_1 = sheet.given(
        "r1", "Stator resistance, of the wye", "R_1", stator_ohm, "Ω",
        provenance=Provenance.STATED if asked.measured else _ESTIMATED,
        source="measured between two leads, halved" if asked.measured else estimate,
    )  # fmt: skip
    volts = sheet.work("direct_volts", "Direct volts at its leads", "U_dc", times * r_1.value * value, "V",
                       formula=f"{times:g}·R_1·I_dc", inputs=(r_1, amps),
                       source="two windings in series, or one and two; cold, a fifth less")  # fmt: skip
    bridge = sheet.work(
        "bridge_volts", "Alternating volts of its bridge", "U_ac", volts.value / 0.9, "V",
        formula="U_dc/0.9", inputs=(volts,), source="single-phase bridge: mean 2·√2/π of rms",
    )  # fmt: skip
    secondary = bridge
    if asked.stop.dc_supply_v is not None:
        secondary = sheet.given(
            "secondary", "Transformer's secondary", "U_2", asked.stop.dc_supply_v, "V", fact="stop.dc_supply"
        )
        ohms = sheet.work("limiting", "Limiting resistor", "R_v", 0.9 * secondary.value / value - times * r_1.value,
                          "Ω", formula=f"0.9·U_2/I_dc − {times:g}·R_1", inputs=(secondary, amps, r_1),
                          source="what the bridge gives beyond")  # fmt: skip
        sheet.work(
            "limiting_watts", "its watts while it flows", "P_v", ohms.value * value**2, "W", formula="R_v·I_dc²",
            inputs=(ohms, amps), source="definition",
        )  # fmt: skip
    sheet.work("transformer", "Its transformer, short-time", "S_T", secondary.value * value / 1000, "kVA",
               formula=f"{secondary.symbol}·I_dc/1000", inputs=(secondary, amps),
               source="smooth current: rms of the secondary is I_dc")  # fmt: skip
    sheet.work(
        "bridge_amps", "Each diode's mean current", "I_F", value / 2, "A", formula="I_dc/2", inputs=(amps,),
        source="each path carries half a period",
    )  # fmt: skip


def put_drive(sheet: Sheet, asked: Asked) -> None:
    """Bus, resistor and energy of the ramp."""
    found = resistor(asked)
    if found.peak_w <= 0:
        return
    source = f"largest of (J·dω/dt − T_L)·ω, {100 * EFFICIENCY:.0f} % through motor and drive"
    if asked.motors > 1:
        source = f"{asked.motors} motors; {source}"
    p = sheet.given(
        "peak", "Braking power, peak", "P_p", found.peak_w / 1000, "kW", provenance=_ESTIMATED, source=source
    )
    u = sheet.given(
        "bus",
        "Bus volts at which it switches in",
        "U_B",
        bus_volts(asked),
        "V",
        provenance=_entered(asked.stop.bus_v),
        source="entered" if asked.stop.bus_v is not None else USUAL,
    )
    sheet.work(
        "ohms", "Braking resistor, at most", "R_B", found.most_ohm, "Ω", formula="U_B²/(1000·P_p)", inputs=(u, p),
        source="it must take the peak at the bus' volts", provenance=_ESTIMATED,
    )  # fmt: skip
    e = sheet.given("joules", "Energy to the bus a stop", "E_B", found.joules / 1000, "kJ", provenance=_ESTIMATED,
                    source="its mean over the ramp")  # fmt: skip
    t = sheet.given(
        "ramp", "Ramp", "t_d", ramp_s(asked), "s", provenance=_entered(asked.stop.drive_ramp_s),
        source="entered" if asked.stop.drive_ramp_s else f"what is asked, or usual: {USUAL_DOWN_S:g} s",
    )  # fmt: skip
    ohms = asked.stop.resistor_ohm or asked.stop.drive_least_ohm
    shortest, of_each = math.inf if ohms is None else shortest_ramp_s(asked, ohms), "U_B²/R"
    if asked.motors > 1:
        of_each += f"/{asked.motors}"
    if math.isfinite(shortest):
        sheet.given(
            "shortest", "Shortest ramp that resistor takes", "t_s", shortest, "s",
            provenance=_ESTIMATED, source=f"J·ω_0/min(P/(0.9·ω) + T_L), P = {of_each}",
        )  # fmt: skip
    _often(sheet, asked, e, t)


def _often(sheet: Sheet, asked: Asked, e: Figure, t: Figure) -> None:
    """What the resistor takes over the hour, by the energy of a stop and its ramp."""
    if not asked.per_hour:
        return
    per = sheet.given("stops_hour_drive", "Stops an hour", "N_d", asked.per_hour, "")
    sheet.work(
        "mean", "Resistor's mean power", "P_m", 1000 * e.value * per.value / 3600, "W", formula="1000·E_B·N_d/3600",
        inputs=(e, per), source="mean over the hour",
    )  # fmt: skip
    sheet.work(
        "duty", "Resistor's duty", "d_B", 100 * t.value * per.value / 3600, "%", formula="100·t_d·N_d/3600",
        inputs=(t, per), source="share of the hour",
    )  # fmt: skip
    if asked.hours:
        _returned(sheet, asked, e, per)


def _returned(sheet: Sheet, asked: Asked, e: Figure, per: Figure) -> None:
    hours = sheet.given("hours_drive", "Hours a year", "h_y", asked.hours or 0.0, "h", source="the wiring's sheet")
    back = sheet.work(
        "returned", "Energy a line bridge returns a year", "E_a", e.value * per.value * hours.value / 3600, "kWh",
        formula="E_B·N_d·h_y/3600", inputs=(e, per, hours), source="all that reaches the bus",
    )  # fmt: skip
    if asked.energy_price:
        price = sheet.given("price", "Price of a kWh", "c_e", asked.energy_price, "", source="the job's limits")
        sheet.work(
            "saving",
            "which saves a year",
            "c_a",
            back.value * price.value,
            "",
            formula="E_a·c_e",
            inputs=(back, price),
            source="in the money of the price",
        )


def put_armature(sheet: Sheet, asked: Asked, j: Figure) -> None:
    found = asked.armature
    assert found is not None
    k = sheet.given(
        "k", "Volts of the armature per rad/s", "k", found.k_vs, "V·s", provenance=_ESTIMATED, source="(U − I·R_a)/ω_n"
    )
    r_a = sheet.given(
        "armature", "Armature circuit", "R_a", found.resistance_ohm, "Ω", provenance=_ESTIMATED,
        source="half of the rated loss is in it",
    )  # fmt: skip
    i_1 = sheet.given(
        "first", "First current", "I_1", first_a(asked), "A", provenance=_entered(asked.stop.armature_first),
        source="entered" if asked.stop.armature_first else "usual: twice rated; by the maker's commutation limit",
    )  # fmt: skip
    whole = sheet.given(
        "loop", "Armature and resistor", "R_t", total_ohms(asked, found), "Ω", provenance=_ESTIMATED, source="k·ω/I_1"
    )
    sheet.work(
        "armature_resistor", "Braking resistor", "R_x", whole.value - r_a.value, "Ω", formula="R_t − R_a",
        inputs=(whole, r_a), source=f"first current {i_1.shown}",
    )  # fmt: skip
    sheet.work(
        "constant", "Time constant of the first stage", "τ", time_constant_s(asked, found), "s", formula="J·R_t/k²",
        inputs=(j, whole, k), source="J·dω/dt = −k²·ω/R",
    )  # fmt: skip
