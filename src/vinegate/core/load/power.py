"""The power a load asks of the motor's shaft, and whether the motor carries it."""

from __future__ import annotations

import math

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, at_most, check
from vinegate.core.load.bands import USUAL_EFFICIENCY, WATER, gear_taken, points_nm
from vinegate.core.load.facts import Load
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import GRAVITY, WATT_PER_HP
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken, Turns, less, more
from vinegate.core.working import Figure, Provenance

_TRUE_PCT = 0.5  # a plate's power is rounded
_LITTLE_PCT = 10.0  # assumed


def power_on(sheet: Sheet, facts: Load, rated: Rated) -> Figure:
    """Shaft power at the motor, kW: entered, from torque, flow or force; else the motor's own, assumed."""
    assert rated.power is not None
    assert rated.speed is not None
    ratio = facts.gear_ratio or 1.0
    if facts.power_w is not None:
        at_load = sheet.given(
            "power_entered", "Shaft power asked", "P_1", facts.power_w / 1000, "kW", fact="load.power"
        )
    elif facts.torque_nm is not None:
        t = sheet.given(
            "torque_entered", "Torque asked, at the load", "T_1", facts.torque_nm, "N·m", fact="load.torque"
        )
        i = gear(sheet, ratio)
        at_load = sheet.work("power_entered", "Shaft power asked", "P_1",
                             t.value * rated.speed.value / ratio * math.pi / 30000, "kW", formula="T_1·n/i/9549.3",
                             inputs=(t, rated.speed, i), source="P = T·ω")  # fmt: skip
    else:
        found = _from_flow(sheet, facts) or _from_force(sheet, facts) or _from_points(sheet, facts, rated.speed, ratio)
        if found is None:
            watts = rated.power_w
            assert watts is not None
            note = "Nothing says what the load takes: taken as the motor's rated power."
            return sheet.given("power", "Shaft power asked of the motor", "P_L", watts / 1000, "kW",
                               provenance=Provenance.ASSUMED, source="the plate's rated power", note=note)  # fmt: skip
        at_load = found
    through = gear_taken(facts)
    if facts.gear_efficiency_pu is None and not through.wide:
        return sheet.work("power", "Shaft power asked of the motor", "P_L", at_load.value, "kW", formula="P_1",
                          inputs=(at_load,), source="no gear loss stated")  # fmt: skip
    eta = sheet.given(
        "gear", "Gear efficiency", "η_g", through.value / 100, "",
        provenance=Provenance.ASSUMED if through.wide else Provenance.STATED,
        source="usual; not given" if through.wide else "entered", fact="load.gear_efficiency",
    )  # fmt: skip
    return sheet.work("power", "Shaft power asked of the motor", "P_L", at_load.value / eta.value, "kW",
                      formula="P_1/η_g", inputs=(at_load, eta), source="gear between motor and load")  # fmt: skip


def _efficiency(sheet: Sheet, facts: Load, kind: str) -> Figure:
    if facts.machine_efficiency_pu is not None:
        return sheet.given(
            "efficiency",
            f"Efficiency of the {kind}",
            "η_L",
            facts.machine_efficiency_pu,
            "",
            fact="load.machine_efficiency",
        )
    return sheet.given(
        "efficiency",
        f"Efficiency of the {kind}",
        "η_L",
        USUAL_EFFICIENCY[kind],
        "",
        provenance=Provenance.ASSUMED,
        source="usual; not given",
    )


def _from_flow(sheet: Sheet, facts: Load) -> Figure | None:
    """`P = ρ·g·Q·H/η` for a pump, `P = Q·Δp/η` for a fan."""
    if not facts.by_flow or facts.flow_m3s is None:
        return None
    q = sheet.given("flow", "Flow", "Q", facts.flow_m3s, "m³/s")
    if facts.head_m is not None:
        eta = _efficiency(sheet, facts, "pump")
        h = sheet.given("head", "Head", "H", facts.head_m, "m")
        rho = sheet.given(
            "density",
            "Density",
            "ρ",
            facts.density or WATER,
            "kg/m³",
            provenance=Provenance.STATED if facts.density else Provenance.TABLE,
            source="entered" if facts.density else "water",
        )
        return sheet.work(
            "power_entered",
            "Shaft power asked",
            "P_1",
            rho.value * GRAVITY * q.value * h.value / eta.value / 1000,
            "kW",
            formula="ρ·9.80665·Q·H/(1000·η_L)",
            inputs=(rho, q, h, eta),
            source="hydraulic power over efficiency",
        )
    eta = _efficiency(sheet, facts, "fan")
    assert facts.pressure is not None
    rise = sheet.given("pressure", "Pressure rise", "Δp", facts.pressure, "Pa")
    return sheet.work(
        "power_entered",
        "Shaft power asked",
        "P_1",
        q.value * rise.value / eta.value / 1000,
        "kW",
        formula="Q·Δp/(1000·η_L)",
        inputs=(q, rise, eta),
        source="air power over efficiency",
    )


def _from_force(sheet: Sheet, facts: Load) -> Figure | None:
    if facts.force_n is None or facts.line_speed_ms is None:
        return None
    f = sheet.given("force", "Rope pull", "F", facts.force_n, "N")
    v = sheet.given("line_speed", "Rope speed", "v", facts.line_speed_ms, "m/s")
    eta = _efficiency(sheet, facts, "winch")
    return sheet.work(
        "power_entered",
        "Shaft power asked",
        "P_1",
        f.value * v.value / eta.value / 1000,
        "kW",
        formula="F·v/(1000·η_L)",
        inputs=(f, v, eta),
        source="force times speed over efficiency",
    )


def _from_points(sheet: Sheet, facts: Load, speed: Figure, ratio: float) -> Figure | None:
    """Of points in N·m, what they ask at full speed."""
    full_nm = points_nm(facts, speed.value)
    if full_nm is None:
        return None
    t = sheet.given("torque_entered", "Torque at full speed, at the load", "T_1", full_nm, "N·m", source="its points")
    i = gear(sheet, ratio)
    return sheet.work("power_entered", "Shaft power asked", "P_1", t.value * speed.value / ratio * math.pi / 30000,
                      "kW", formula="T_1·n/i/9549.3", inputs=(t, speed, i), source="P = T·ω")  # fmt: skip


def gear(sheet: Sheet, ratio: float) -> Figure:
    """The gear's ratio, once on the sheet however often it is used."""
    known = next((figure for figure in sheet.figures if figure.key == "load.ratio"), None)
    return known or sheet.given("ratio", "Gear ratio", "i", ratio, "", fact="load.gear_ratio")


def power_gate(sheet: Sheet, power: Taken, through: Taken, rated: Rated, service_factor: float) -> None:
    """What the load takes against what the plate gives; the service factor is kept in hand, and said."""
    assert rated.power is not None
    assert rated.power_w is not None
    per = WATT_PER_HP if power.unit == "hp" else 1000.0
    most = rated.power_w * (1 + _TRUE_PCT / 100) / per
    gear = 1.0
    shaft = next((figure for figure in reversed(sheet.figures) if figure.key == "load.power"), None)
    if shaft is not None and power.value:
        gear = shaft.value * 1000 / per / power.value
    share = 100 * power.value * gear * per / rated.power_w
    text = f"The load takes {share:.0f} % of the plate's {rated.power.shown}."
    if not power.given:
        text = f"What the load takes is not given: {power.text(power.value)} taken of the plate's {rated.power.shown}."
    if through.wide and gear != 1.0:
        text += f" Its gear's efficiency is not given: {through.text(through.value)} taken."
    elif power.given and 100 + _TRUE_PCT < share <= 100 * service_factor:
        sheet.gates.append(_within_service_factor(text, power, most / gear, service_factor))
        return
    if power.given and share < _LITTLE_PCT:
        sheet.gates.append(_little(text, power, most / gear))
        return
    reserve = Taken(label="use of the service factor", value=1.0, low=1.0, high=max(service_factor, 1.0),
                    how="kept in hand", sense=1)  # fmt: skip
    sheet.gates.append(
        at_most(
            "load.power",
            "Motor carries its load",
            share,
            100.0 + _TRUE_PCT,
            sentence=text,
            unit="%",
            source="rated power; the service factor is kept in hand",
            remedy="A larger motor." if share > 100 else "Give the load's shaft power, or take a larger motor.",
            rests=(*less(power), *more(through), *([reserve] if reserve.wide else [])),
            room=lambda asked, passes, used=1.0: most * used - asked * gear * through.value / passes,
        )
    )


def _little(text: str, power: Taken, most: float) -> Gate:
    """So little that a unit, a point or a gear was read wrongly, or the motor was meant for another load."""
    least = _LITTLE_PCT / 100 * most
    turns = Turns(
        path=power.path, label=power.label, passes=f"from {power.text(least)}", passes_as=power.text(1.02 * least)
    )
    text += (
        f" Hardly a motor is bought for less than a tenth of its power. Passes for any {turns.label} {turns.passes}."
    )
    return check(
        "load.power", "Motor carries its load", turns, text, "read wrongly; or a motor far too large: low power factor",
        remedy="Read what the load takes again, its unit and its gear.",
    )  # fmt: skip


def service_factor_of(circuit: Circuit, rules: RuleSet) -> float:
    """What MG 1 14.37 lets a machine be loaded to: not on a drive, and not under IEC, which has none."""
    drive = circuit.from_drive or circuit.start.speed_control == "yes"
    return 1.0 if not rules.practice.service_factor or drive else circuit.plate.service_factor or 1.0


def _within_service_factor(text: str, power: Taken, most: float, service_factor: float) -> Gate:
    """One school plans on the service factor, another keeps it for what was not foreseen: it is to check."""
    turns = Turns(
        path="load.power", label=power.label, passes=f"up to {power.text(most)}",
        fails=f"above {power.text(most * service_factor)}", passes_as=power.text(0.99 * most),
        fails_as=power.text(1.03 * most * service_factor),
    )  # fmt: skip
    text += (
        f" Within its service factor of {service_factor:g}: allowed at rated volts and hertz up to 40 °C and 1000 m,"
    )
    text += f" hotter and with less torque in hand. Passes for any {turns.label} {turns.passes}."
    return check(
        "load.power", "Motor carries its load", turns, text, "NEMA MG 1:2021 14.37",
        remedy="A larger motor, or agree to run in the service factor.",
    )  # fmt: skip
