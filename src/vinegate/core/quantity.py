"""The kinds of quantity of this trade: what a bare number means, and what is plausible."""

from __future__ import annotations

from typing import Final

from vinegate.core.measured import Quantity
from vinegate.core.records import replace

GRAVITY: Final = 9.80665  # m/s², ISO 80000-3
WATT_PER_HP: Final = 745.699872  # 550 ft·lbf/s, NIST SP 811 table B.8

_PER_HOUR: Final = r"(?:starts?|stops?|times)?\s*(?:(?:/|per|an|a|1/)\s*h(?:ours?|rs?)?|h\s*(?:-1|⁻¹))?"
_HOURS: Final = r"h(?:ours?|rs?)?(?:\s*(?:/|per|a)\s*(?:a|yr|year|annum))?"
_OF_RATED: Final = r"(?:of\s+)?(?:FLA|FLC|I_?N|rated(?:\s+current)?)"
_DIRECT: Final = r"d\.?c\.?"
_WATER: Final = r"H2O|H₂O|WC|WS|w\.c\.|(?:of\s+)?water|(?:of\s+)?head"

POWER = Quantity(
    name="power", unit="W", shown="W", bare="kW", bare_us="hp", example="30 hp or 22 kW", least=10, most=5e6,
    ahead=r"P_?[2NM]?(?=\s*[=:])|P(?=\s+\d)", behind=r"B?HP|kW|PS",
)  # fmt: skip
RATED_POWER = replace(POWER, aside=r"nom(?:inal|\.)?|rated|output")
SHAFT_POWER = replace(POWER, aside=r"absorbed|brake|duty|(?:at\s+(?:the\s+)?)?shaft")
VOLTAGE = Quantity(name="voltage", unit="V", shown="V", bare="V", example="460 V or 0.4 kV", least=50, most=1100)
PRIMARY_VOLTAGE = Quantity(
    name="primary voltage", unit="V", shown="V", bare="V", example="12.47 kV or 480 V", least=100, most=4e5
)
CURRENT = Quantity(name="current", unit="A", shown="A", bare="A", example="92 A", least=0.01, most=20000)
_POLES = r"[1-4]\s*-?\s*p(?:oles?|h)?\b"
DEVICE_CURRENT = replace(CURRENT, aside=rf"[/,-]?\s*{_POLES}|(?<=A)\s*T(?:\s*/\s*\d+\s*AF)?|trip|rated", ahead=_POLES)
"""Of a device: 125 A 3P, 100 AT, 100 AT/125 AF. What kind it is has a field of its own."""
BOARD_DEVICE_CURRENT = replace(
    DEVICE_CURRENT,
    aside=rf"(?:(?:{DEVICE_CURRENT.aside}|(?:main\s+)?(?:MCCB|MCB|ACB|CB|breaker|fuses?|gG))[\s,/-]*)+",
)
"""The same ahead of a board, of which no kind is asked: 225 A MCB, 60 A fuse."""
SWITCH_CURRENT = replace(
    CURRENT,
    aside=rf"[/,-]?\s*{_POLES}|(?<=A)\s*S(?:\s*/\s*\d+\s*AF)?|(?:non-?\s?|un)?fus(?:ed|ible)|NF|rated",
    ahead=_POLES,
)
"""Of a switch: 60 A 3P, 60 AS, 60 A fused."""
FREQUENCY = Quantity(name="frequency", unit="Hz", shown="Hz", bare="Hz", example="60 Hz", least=10, most=400)
SPEED = Quantity(
    name="speed", unit="rpm", shown="min⁻¹", bare="rpm", example="1760 rpm", least=50, most=25000, ahead="n",
    aside=r"(?:@|at)?\s*(?:FL|full[\s-]?load)|nameplate|rated|nominal",
)  # fmt: skip
LENGTH = Quantity(
    name="length", unit="m", shown="m", bare="metre", bare_us="foot", example="62 m or 200 ft", least=0, most=5000,
    aside=r"\(?(?:one[\s-]?way|run|route)\)?",
)  # fmt: skip
SIZE = Quantity(
    name="size", unit="metre", shown="m", bare="millimetre", bare_us="inch", example="140 mm or 5.5 in",
    least=0.01, most=3,
)  # fmt: skip
FAULT_CURRENT = Quantity(name="fault current", unit="A", shown="A", bare="kA", example="14 kA", least=50, most=4e5)
RATED_FAULT = replace(
    FAULT_CURRENT, least=500, aside=r"SCCR|rms|sym(?:m(?:etrical)?)?\.?"
)  # 65,000 A is no rating of 65 A
FAULT_POWER = Quantity(name="fault level", unit="VA", shown="VA", bare="MVA", example="300 MVA", least=1e4, most=1e11)
APPARENT_POWER = Quantity(
    name="apparent power", unit="VA", shown="VA", bare="kVA", example="500 kVA", least=500, most=2e8,
    aside=r"dry(?:[\s-]type)?|ONAN|oil(?:[\s-]filled)?|cast[\s-]?resin",
)  # fmt: skip
IMPEDANCE_PERCENT = Quantity(
    name="impedance",
    unit="one",
    shown="",
    bare="percent",
    bare_too="one",
    example="5 %",
    least=0.005,
    most=0.25,
    aside="I?Z",
    ahead=r"%?\s?I?Z|[uvz]_?kr?",
)
_NOMINAL: Final = r"(?:NEMA\s*)?nom(?:inal|\.)?"
EFFICIENCY = Quantity(
    name="efficiency",
    unit="one",
    shown="",
    bare="percent",
    bare_too="one",
    example="94.1 %",
    least=0.1,
    most=0.995,
    ahead=rf"{_NOMINAL}(?:\s*eff\.?)?|eff\.?|η|IE[1-5]\s*[-–]?",
    aside=rf"{_NOMINAL}(?:\s*eff\.?)?|NEMA|eff\.?",
)
POWER_FACTOR = Quantity(
    name="power factor",
    unit="one",
    shown="",
    bare="one",
    bare_too="percent",
    example="0.86",
    least=0.05,
    most=1.0,
    aside=r"lag(?:ging)?|ind(?:uctive)?|P\.?F\.?",
    ahead=r"P\.?F\.?|cos\s?(?:φ|phi)",
)
SERVICE_FACTOR = Quantity(
    name="service factor",
    unit="one",
    shown="",
    bare="one",
    example="1.15",
    least=1.0,
    most=1.75,
    ahead=r"S\.?\s?F\.?",
)
DIP_LIMIT = Quantity(
    name="limit", unit="one", shown="", bare="percent", bare_too="one", example="5 %", least=0.001, most=1.0,
    usual=(0.005, 0.4), aside=r"max(?:imum|\.)?", ahead=r"max(?:imum|\.)?|≤|<=?",
)  # fmt: skip
VOLTS_LIMIT = Quantity(
    name="share of volts", unit="one", shown="", bare="percent", bare_too="one", example="85 %", least=0.2, most=1.0,
    ahead=r"min(?:imum|\.)?|≥|>=?", aside=r"min(?:imum|\.)?",
)  # fmt: skip
MARGIN = Quantity(
    name="margin", unit="one", shown="", bare="percent", bare_too="one", example="10 %", least=0.0, most=2.0,
    usual=(0.005, 1.0),
)  # fmt: skip
CURRENT_RATIO = Quantity(
    name="ratio",
    unit="one",
    shown="",
    bare="one",
    example="7.2",
    least=1.5,
    most=15,
    ahead="I_?A/I_?N",
    aside=_OF_RATED,
)
X_OVER_R = Quantity(name="X/R", unit="one", shown="", bare="one", example="6, or R/X 0.25", least=0.05, most=100)
RISE = Quantity(
    name="temperature rise", unit="K", shown="K", bare="K", example="80 K", least=5, most=200,
    ahead=r"rise|Δ\s?[Tθt]", aside="rise",
)  # fmt: skip
TORQUE_RATIO = Quantity(
    name="torque ratio", unit="one", shown="", bare="percent", bare_too="one", example="150 %", least=0.2, most=6,
    aside=r"(?:of\s+)?(?:FLT|full[\s-]?load(?:\s+torque)?|rated(?:\s+torque)?)",
)  # fmt: skip
INERTIA = Quantity(
    name="inertia",
    unit="kgmsq",
    shown="kg·m²",
    bare="kgmsq",
    bare_us="lbftsq",
    example="0.9 kg·m² or 20 lb·ft²",
    least=1e-5,
    most=1e4,
    ahead=r"J(?:_?[A-Z]+)?(?=\s*[=:\d])",
    behind=r"GD\s?[²2]|W\s?[RK]\s?[²2]",
)
DURATION = Quantity(name="time", unit="second", shown="s", bare="second", example="12 s", least=0.05, most=3600)
OHMS = Quantity(name="resistance", unit="ohm", shown="Ω", bare="ohm", example="0.25 Ω", least=1e-5, most=1e5)
TEST_VOLTAGE = Quantity(name="voltage", unit="V", shown="V", bare="V", example="95 V", least=1, most=1100)
TEST_POWER = Quantity(name="power", unit="W", shown="W", bare="W", example="420 W", least=1, most=5e6)
FIELD_VOLTAGE = Quantity(
    name="voltage", unit="V", shown="V", bare="V", example="150 V", least=1, most=1100, aside=_DIRECT
)
TEMPERATURE = Quantity(
    name="temperature",
    unit="kelvin",
    shown="°C",
    bare="kelvin",
    example="40 °C",
    least=-60,
    most=400,
    aside=r"max\.?",
    ahead=r"max\.?|amb(?:ient|\.)?|T_?amb",
)
TORQUE = Quantity(
    name="torque",
    unit="newtonmetre",
    shown="N·m",
    bare="newtonmetre",
    bare_us="lbft",
    example="420 N·m or 310 lb-ft",
    least=0,
    most=1e7,
)
FORCE = Quantity(
    name="force", unit="newton", shown="N", bare="newton", bare_us="lbf", example="18 kN or 4000 lbf", least=0, most=1e8
)
# What a load asks is above nought: a load that asks nothing is one of its kinds.
ASKED_TORQUE = replace(TORQUE, least=1e-3)
ROPE_PULL = replace(FORCE, least=1.0)
LINE_SPEED = Quantity(
    name="speed",
    unit="mps",
    shown="m/s",
    bare="mps",
    bare_us="fpm",
    example="0.2 m/s or 40 ft/min",
    least=1e-4,
    most=100,
)
FLOW = Quantity(
    name="flow", unit="flow", shown="m³/s", bare="mcubedperhour", bare_us="gpm", example="420 m³/h or 1850 gpm",
    least=1e-7, most=1000,
)  # fmt: skip
HEAD = Quantity(
    name="head",
    unit="metre",
    shown="m",
    bare="metre",
    bare_us="foot",
    example="32 m or 105 ft",
    least=0.01,
    most=5000,
    aside=_WATER,
)
PRESSURE = Quantity(
    name="pressure", unit="pascal", shown="Pa", bare="pascal", bare_us="inchwater", example="900 Pa or 3.6 in. wg",
    least=0.1, most=1e8,
)  # fmt: skip
DENSITY = Quantity(
    name="density",
    unit="density",
    shown="kg/m³",
    bare="density",
    bare_us="lbpercubicfoot",
    example="1000 kg/m³ or 62.4 lb/ft³",
    least=0.1,
    most=20000,
)
BREAKAWAY = Quantity(
    name="breakaway", unit="one", shown="", bare="percent", bare_too="one", example="15 %", least=0, most=3,
    usual=(0.02, 3),
)  # fmt: skip
HOLDING_FACTOR = Quantity(
    name="factor", unit="one", shown="", bare="one", bare_too="percent", example="1.5", least=1, most=5
)
GEAR_RATIO = Quantity(
    name="gear ratio", unit="one", shown="", bare="one", example="24.5", least=0.01, most=2000, ahead="i"
)
COUNT_PER_HOUR = Quantity(
    name="count an hour", unit="one", shown="", bare="one", example="4", least=0, most=1000, aside=_PER_HOUR
)
REACTIVE_POWER = Quantity(
    name="reactive power", unit="VAr", shown="var", bare="kVAr", example="30 kvar", least=0, most=1e8
)
LOAD_POWER = Quantity(name="load", unit="VA", shown="VA", bare="kVA", example="120 kVA", least=0, most=2e8)
REACTANCE_PERCENT = Quantity(
    name="reactance", unit="one", shown="", bare="one", bare_too="percent", example="0.22 or 22 %", least=0.02, most=0.6
)
TIMES_CURRENT = Quantity(
    name="multiple", unit="one", shown="", bare="one", example="3.5", least=0.5, most=9, aside=_OF_RATED
)
SECONDS = Quantity(name="time", unit="second", shown="s", bare="second", example="2.5 s", least=0, most=3600)
CARRIED = replace(SECONDS, least=1e-4)  # what is carried for no time is not carried
SHARE = Quantity(
    name="share", unit="one", shown="", bare="percent", bare_too="one", example="65 %", least=0.02, most=1,
    usual=(0.03, 1),
)  # fmt: skip
PULSE = Quantity(name="share", unit="one", shown="", bare="percent", bare_too="one", example="70 %", least=0.1, most=1)
CONDUCTOR_TEMPERATURE = Quantity(
    name="temperature", unit="kelvin", shown="°C", bare="kelvin", example="75 °C", least=-20, most=250
)
PRICE = Quantity(
    name="price", unit="one", shown="", bare="one", example="0.14", least=0, most=100000, ahead="[€$£]",
    aside=r"[€$£]?\s*(?:(?:/|per)\s*kWh)?",
)  # fmt: skip
FLICKER = Quantity(name="flicker severity", unit="one", shown="", bare="one", example="1", least=0.1, most=10)
ZERO_RATIO = Quantity(name="ratio", unit="one", shown="", bare="one", example="3", least=0.5, most=10)
AMBIENT = Quantity(name="ambient", unit="kelvin", shown="°C", bare="kelvin", example="40 °C", least=-40, most=85,
                   aside=r"max(?:imum|\.)?|amb(?:ient|\.)?")  # fmt: skip
COIL_VOLTAGE = Quantity(
    name="voltage", unit="V", shown="V", bare="V", example="120 V or 24 VDC", least=6, most=690,
    aside=rf"{_DIRECT}|[,/]?\s*[56]0(?:/60)?\s*Hz",
)  # fmt: skip
EARTH_RESISTANCE = Quantity(
    name="resistance", unit="ohm", shown="Ω", bare="ohm", example="12 Ω", least=0.05, most=10000
)
RESIDUAL_CURRENT = Quantity(
    name="residual current", unit="A", shown="A", bare="A", example="0.3 A or 300 mA", least=0.005, most=30
)
HOURS = Quantity(
    name="count of hours", unit="one", shown="", bare="one", example="4000", least=0, most=8784, aside=_HOURS
)
TURNS = Quantity(name="angle", unit="turn", shown="turns", bare="turn", example="2 turns or 90°", least=0, most=1e5)
WORK = Quantity(name="work", unit="joule", shown="J", bare="kilojoule", example="12 kJ", least=1, most=1e13)
STRETCH = Quantity(name="time", unit="second", shown="s", bare="minute", example="20 min", least=1, most=6e5)
SOIL = Quantity(
    name="thermal resistivity",
    unit="kmperwatt",
    shown="K·m/W",
    bare="kmperwatt",
    example="1.5 K·m/W",
    least=0.3,
    most=5,
)
LET_THROUGH = Quantity(
    name="let-through", unit="ampsqs", shown="A²s", bare="kampsqs", example="0.2 kA²s", least=1, most=1e12
)
DIRECT_VOLTS = Quantity(
    name="test voltage", unit="V", shown="V", bare="V", example="500 V", least=50, most=15000, aside=_DIRECT
)
BUS_VOLTAGE = replace(VOLTAGE, aside=_DIRECT, most=1200.0)  # 690 V lines: 1104 V and more while it brakes

SAID_TWICE: Final = {"N·m": TORQUE, "kg·m²": INERTIA}
"""Units of results that North American shops read in their own, which are said beside."""
