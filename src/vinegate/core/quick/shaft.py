"""Questions of the shaft: braking, a drive at two speeds, capacitors."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, field, measure
from vinegate.core.grade import at_most
from vinegate.core.numbers import QuantityError, read_numbers, write
from vinegate.core.quick.tool import Tool, said_or
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken, more
from vinegate.core.working import Figure, Provenance

_RAD: Final = math.pi / 30
_IDLE: Final = (0.2, 0.6)
"""No-load amperes of rated, from large two-pole to small or slow machines: estimated."""


class Injection(Facts):
    """Direct current into two leads of a motor that runs out."""

    current_a: float | None = field(measure("Full-load amperes", q.CURRENT, "I_N", label_iec="Rated current"))
    times: float | None = field(measure("Times rated", q.TIMES_CURRENT, "k", example="2", help="1.5 to 3 is usual."))
    ohms_ohm: float | None = field(measure("Between two leads", q.OHMS, "R"))


def _injection(sheet: Sheet, facts: Injection, rules: RuleSet) -> str:
    current = sheet.given("current", "Rated amperes", "I_N", facts.current_a or 1, "A")
    times = sheet.given("times", "Times rated", "k", facts.times or 2, "", **said_or(facts.times))
    direct = sheet.work(
        "direct",
        "Direct current",
        "I_dc",
        math.sqrt(1.5) * times.value * current.value,
        "A",
        formula="√1.5·k·I_N",
        inputs=(times, current),
        source="two leads in line bear the heat of three: 2·I_dc² = 3·(k·I_N)²",
    )
    ohms = sheet.given("ohms", "Between two leads", "R", facts.ohms_ohm or 1, "Ω")
    volts = sheet.work(
        "volts",
        "Direct volts",
        "U_dc",
        direct.value * ohms.value,
        "V",
        formula="I_dc·R",
        inputs=(direct, ohms),
        source="Ohm's law, at the winding's temperature now",
    )
    return f"{direct.shown} direct at {volts.shown}; switched off when it stands."


class Plug(Facts):
    """Reversed to stop, and the window of its speed switch."""

    inertia_kgm2: float | None = field(measure("All inertia at the motor", q.INERTIA, "J"))
    speed_rpm: float | None = field(measure("Speed", q.SPEED, "n"))
    torque_nm: float | None = field(
        measure("Plugging torque, mean", q.ASKED_TORQUE, "T", help="Some 1.2 to 2 times rated.")
    )
    opens_rpm: float | None = field(measure("Switch opens below", q.SPEED, "n_0", example="75 rpm"))
    delay_s: float | None = field(measure("Contactor's time to open", q.SECONDS, "t_c", example="0.05 s"))


def _plug(sheet: Sheet, facts: Plug, rules: RuleSet) -> str:
    j = sheet.given("inertia", "Inertia", "J", facts.inertia_kgm2 or 1, "kg·m²")
    n = sheet.given("speed", "Speed", "n", facts.speed_rpm or 1, "rpm")
    torque = sheet.given("torque", "Plugging torque", "T", facts.torque_nm or 1, "N·m")
    time = sheet.work("time", "Time to rest", "t", j.value * n.value * _RAD / torque.value, "s",
                      formula="0.10471976·J·n/T", inputs=(j, n, torque), source="J·dω/dt = T")  # fmt: skip
    heat = sheet.work("heat", "Heat in the rotor", "W", 1.5e-3 * j.value * (n.value * _RAD) ** 2, "kJ",
                      formula="0.0015·J·(0.10471976·n)²", inputs=(j, n),
                      source="slip from 2 to 1: three times its kinetic energy")  # fmt: skip
    said = (
        f"At rest in {write(time.value, 2)} s; {write(heat.value, 3)} kJ in the rotor, three times its kinetic energy."
    )
    if facts.delay_s is not None:
        delay = sheet.given("delay", "Contactor's time", "t_c", facts.delay_s, "s")
        least = sheet.work("least", "Switch opens at least at", "n_m", torque.value * delay.value / (j.value * _RAD),
                           "rpm", formula="T·t_c/(0.10471976·J)", inputs=(torque, delay, j),
                           source="what it loses while the contactor opens")  # fmt: skip
        said += f" Opening above {write(least.value, 2)} rpm it never turns back."
        if facts.opens_rpm is not None:
            sheet.gates.append(
                at_most(
                    "plug.window",
                    "Does not turn back",
                    least.value,
                    facts.opens_rpm,
                    unit="rpm",
                    source="what it loses while the contactor opens",
                    sentence=f"Opens below {write(facts.opens_rpm, 3)} rpm; loses {write(least.value, 2)} meanwhile.",
                    remedy="A higher setting of the switch.",
                )
            )
    return said


class Resistor(Facts):
    """A drive's braking resistor."""

    inertia_kgm2: float | None = field(measure("All inertia at the motor", q.INERTIA, "J"))
    speed_rpm: float | None = field(measure("From speed", q.SPEED, "n"))
    time_s: float | None = field(measure("Within", q.DURATION, "t"))
    every_s: float | None = field(measure("Every", q.STRETCH, "t_c", example="2 min"))
    link_v: float | None = field(measure("Link volts while it brakes", q.DIRECT_VOLTS, "U_b", example="760 V"))


def _resistor(sheet: Sheet, facts: Resistor, rules: RuleSet) -> str:
    j = sheet.given("inertia", "Inertia", "J", facts.inertia_kgm2 or 1, "kg·m²")
    n = sheet.given("speed", "Speed", "n", facts.speed_rpm or 1, "rpm")
    t = sheet.given("time", "Within", "t", facts.time_s or 1, "s")
    energy = sheet.work(
        "energy",
        "Energy of a stop",
        "W",
        0.5e-3 * j.value * (n.value * _RAD) ** 2,
        "kJ",
        formula="0.0005·J·(0.10471976·n)²",
        inputs=(j, n),
        source="kinetic energy, losses left out",
    )
    peak = sheet.work("peak", "Peak power", "P_p", 2 * energy.value / t.value, "kW", formula="2·W/t",
                      inputs=(energy, t), source="even deceleration: the most at its beginning")  # fmt: skip
    u = sheet.given("link", "Link volts while it brakes", "U_b", facts.link_v or 1, "V")
    ohms = sheet.work("ohms", "Resistance at most", "R", u.value**2 / (1000 * peak.value), "Ω",
                      formula="U_b²/(1000·P_p)", inputs=(u, peak), source="Ohm's law")  # fmt: skip
    said = f"At most {ohms.shown}, {write(peak.value, 3)} kW at the peak, {write(energy.value, 3)} kJ a stop"
    if facts.every_s and facts.every_s < t.value:
        said += f"; every {write(facts.every_s, 3)} s is shorter than one stop"
    elif facts.every_s:
        every = sheet.given("every", "Every", "t_c", facts.every_s, "s")
        mean = sheet.work("mean", "Mean power", "P_m", energy.value / every.value, "kW", formula="W/t_c",
                          inputs=(energy, every), source="definition")  # fmt: skip
        said += f", {write(mean.value, 2)} kW in the mean"
    return f"{said}. Not below the least ohms of the drive's chopper."


_POWERS: Final = {"linear": 1.0, "square": 2.0, "squared": 2.0, "cube": 3.0, "cubed": 3.0}


def _exponent(text: str) -> float:
    value = _POWERS.get(text.strip().lower()) or read_numbers(text)[-1]
    if not 0 <= value <= 4:
        raise QuantityError(f"“{text.strip()}”: power goes with speed to something from 0 to 4; 3 for most fans.")
    return value


class Speeds(Facts):
    """A pump or fan on a drive at two speeds."""

    power_w: float | None = field(measure("Power at full speed", q.POWER, "P"))
    share_pu: float | None = field(measure("Second speed", q.SHARE, "s", example="70 %"))
    hours: float | None = field(measure("Hours a year at it", q.HOURS, "h"))
    power_of: float | None = field(
        Fact(
            label="Power goes with speed to the",
            read=_exponent,
            symbol="e",
            example="3",
        )
    )
    price: float | None = field(measure("Price a kWh", q.PRICE, "p"))


def _speeds(sheet: Sheet, facts: Speeds, rules: RuleSet) -> str:
    power = sheet.given("power", "Power at full speed", "P", (facts.power_w or 1) / 1000, "kW")
    share = sheet.given("share", "Second speed", "s", facts.share_pu or 1, "")
    exponent = 3.0 if facts.power_of is None else facts.power_of
    e = sheet.given(
        "exponent",
        "Exponent",
        "e",
        exponent,
        "",
        **said_or(facts.power_of, "affinity laws, no static head"),
    )
    there = power.value * share.value**exponent
    sheet.work("there", "Power there", "P_2", there, "kW", formula="P·s^e", inputs=(power, share, e),
               source="power as that exponent of speed")  # fmt: skip
    h = sheet.given("hours", "Hours a year", "h", facts.hours or 0, "h")
    saved = sheet.work(
        "saved",
        "Saved at the shaft",
        "W",
        (power.value - there) * h.value,
        "kWh",
        formula=f"(P − {write(there, 6)})·h",
        inputs=(power, h),
        source="against full speed and a throttle that costs nothing",
    )
    price = f", {write(saved.value * facts.price, 3)} in money" if facts.price else ""
    said = f"{write(there, 3)} kW at {100 * share.value:g} % speed for {power.shown}:"
    less = f"{write(saved.value, 3)} kWh a year less at the shaft{price}."
    return f"{said} {less} With the speed to the {e.value:g}; static head makes it less."


class Capacitor(Facts):
    """Kilovars at the motor."""

    power_w: float | None = field(measure("Power", q.POWER, "P"))
    efficiency_pu: float | None = field(measure("Efficiency", q.EFFICIENCY, "η"))
    factor_pu: float | None = field(measure("Power factor now", q.POWER_FACTOR, "cosφ_1"))
    wanted_pu: float | None = field(measure("Power factor wanted", q.POWER_FACTOR, "cosφ_2", example="0.95"))
    idle_a: float | None = field(
        measure("No-load amperes", q.CURRENT, "I_0", help="Empty: a third of rated, estimated.")
    )
    volts_v: float | None = field(measure("Volts", q.VOLTAGE, "U"))


def _capacitor(sheet: Sheet, facts: Capacitor, rules: RuleSet) -> str:
    p = sheet.given("power", "Power", "P", (facts.power_w or 1) / 1000, "kW")
    eta = sheet.given("efficiency", "Efficiency", "η", facts.efficiency_pu or 1, "")
    one = sheet.given("now", "Power factor now", "c_1", facts.factor_pu or 1, "", fact="capacitor.factor")
    two = sheet.given("wanted", "Power factor wanted", "c_2", facts.wanted_pu or 1, "")
    value = p.value / eta.value * (math.sqrt(1 - one.value**2) / one.value - math.sqrt(1 - two.value**2) / two.value)
    need = sheet.work("need", "Kilovars for it", "Q", value, "kvar",
                      formula="P/η·(√(1 − c_1²)/c_1 − √(1 − c_2²)/c_2)", inputs=(p, eta, one, two),
                      source="definition")  # fmt: skip
    if value <= 0:
        return "It has that power factor already."
    if facts.volts_v is None:
        said = f"{write(need.value, 3)} kvar at full load."
        return f"{said} Give volts to see what it may be at most before it excites itself."
    most = _self_excites(sheet, facts, need, facts.volts_v, p.value * 1000 / (eta.value * one.value))
    return f"{need.shown} wanted; {most.shown} at most where it is switched with the motor."


def _self_excites(sheet: Sheet, facts: Capacitor, need: Figure, volts_v: float, apparent_va: float) -> Figure:
    """The most at the motor's leads, and the gate of what is wanted."""
    rated = apparent_va / (math.sqrt(3) * volts_v)
    idle = sheet.given("idle", "No-load amperes", "I_0", facts.idle_a or rated / 3, "A",
                       **said_or(facts.idle_a, "a third of rated", Provenance.ESTIMATED))  # fmt: skip
    low, high = (rated * share for share in _IDLE) if facts.idle_a is None else (idle.value, idle.value)
    amps = Taken(path="capacitor.idle", label="no-load amperes", unit="A", value=idle.value, low=low, high=high,
                 how="estimated" if facts.idle_a is None else "")  # fmt: skip
    u = sheet.given("volts", "Volts", "U", volts_v, "V")
    most = sheet.work("most", "Most, switched with the motor", "Q_m", 0.9e-3 * math.sqrt(3) * u.value * idle.value,
                      "kvar", formula="0.0009·√3·U·I_0", inputs=(u, idle),
                      source="nine tenths of its magnetizing power: more excites it once switched off")  # fmt: skip
    sheet.gates.append(at_most(
        "capacitor.most", "Does not excite itself", need.value, most.value, unit="kvar", source=most.source,
        sentence=f"{need.shown} wanted, {most.shown} at most at its leads.",
        remedy="Switched by itself, on the board. None behind a drive or soft starter.",
        rests=more(amps), room=lambda amps: most.value * amps / idle.value - need.value,
    ))  # fmt: skip
    return most


TOOLS: Final = (
    Tool(
        key="injection",
        title="Direct-current braking",
        purpose="Amperes and volts into two leads.",
        facts=Injection,
        needs=("current_a", "ohms_ohm"),
        work=_injection,
    ),
    Tool(
        key="plug",
        title="Plugging",
        purpose="Time, heat, and the window of the speed switch.",
        facts=Plug,
        needs=("inertia_kgm2", "speed_rpm", "torque_nm"),
        work=_plug,
    ),
    Tool(
        key="resistor",
        title="Braking resistor",
        purpose="Ohms, peak and mean power behind a drive.",
        facts=Resistor,
        needs=("inertia_kgm2", "speed_rpm", "time_s", "link_v"),
        work=_resistor,
    ),
    Tool(
        key="speeds",
        title="A drive at two speeds",
        purpose="Power and energy of a pump or fan.",
        facts=Speeds,
        needs=("power_w", "share_pu", "hours"),
        work=_speeds,
    ),
    Tool(
        key="capacitor",
        title="Capacitors",
        purpose="Kilovars for a power factor, and the most at its leads.",
        facts=Capacitor,
        needs=("power_w", "efficiency_pu", "factor_pu", "wanted_pu"),
        work=_capacitor,
    ),
)
