"""The units this trade writes, and how plates and drawings spell them."""

from __future__ import annotations

import re
from functools import cache
from typing import Final

from pint import UnitRegistry

_DEFINITIONS: Final = """
kilo- = 1e3 = k-
mega- = 1e6 = M-
giga- = 1e9 = G-
tera- = 1e12 = T-
milli- = 1e-3 = m-
micro- = 1e-6 = u-
nano- = 1e-9 = n-
farad = [capacity] = F
henry = [inductance] = H
watt = [power] = W
volt = [volts] = V
ampere = [amperes] = A
hertz = [frequency] = Hz
rpm = [speed]
joule = [work] = J
kilowatthour = 3.6e6 joule
turn = [angle]
degree = 0.002777777777777778 turn
metre = [length] = m
voltampere = [apparent] = VA
kelvin = [rise] = K
second = [time] = s
minute = 60 second
hour = 3600 second
ohm = [resistance]
kgmsq = [inertia]
gdsq = 0.25 kgmsq
lbftsq = 0.042140110093804 kgmsq
kgcmsq = 1e-4 kgmsq
one = []
hp = 745.699872 watt
ps = 735.49875 watt
foot = 0.3048 metre = ft
inch = 0.0254 metre
yard = 0.9144 metre = yd
percent = 0.01 one
newtonmetre = [torque] = Nm
lbft = 1.3558179483314004 newtonmetre
lbin = 0.1129848290276167 newtonmetre
kgfm = 9.80665 newtonmetre
newton = [force]
lbf = 4.4482216152605 newton
kgf = 9.80665 newton
flow = [flow]
lps = 0.001 flow
mcubedperhour = 0.0002777777777777778 flow
lpm = 1.6666666666666667e-5 flow
gpm = 6.30901964e-5 flow
cfm = 4.719474432e-4 flow
mps = [linear]
fpm = 0.00508 mps
mpm = 0.016666666666666667 mps
mmps = 0.001 mps
ips = 0.0254 mps
ipspeak = 0.017960512241591 mps
pascal = [pressure] = Pa
bar = 1e5 pascal
psi = 6894.757293168361 pascal
mmwater = 9.80665 pascal
inchwater = 249.08891 pascal
density = [density]
lbpercubicfoot = 16.01846337396 density
var = [reactive] = VAr
ampsqs = [through]
kampsqs = 1e6 ampsqs
kmperwatt = [soil]
""".strip().splitlines()

# Spellings met on plates and drawings, in the order they are replaced.
FAHRENHEIT: Final = "fahrenheit"
SPELLINGS: Final = (
    (re.compile(r"\b(?:horse ?power|h\.p\.|bhp)$", re.I), "hp"),
    (re.compile(r"^hp$", re.I), "hp"),
    (re.compile(r"^(?:cv|pk|ps)$", re.I), "ps"),
    (re.compile(r"^(?:min\s*(?:⁻¹|-1|\^-1)|1/min|/min|r/min|r\.p\.m\.?|rpm|tr/min|u/min)$", re.I), "rpm"),
    (re.compile(r"^(?:amps?|amperes?)$", re.I), "ampere"),
    (re.compile(r"^(?:volts?|v\s?a\.?c\.?)$", re.I), "volt"),
    (re.compile(r"^k[vV][aA]$"), "kVA"),
    (re.compile(r"^M[vV][aA]$"), "MVA"),
    (re.compile(r"^[vV][aA]$"), "VA"),
    (re.compile(r"^[kK][wW]$"), "kW"),
    (re.compile(r"^[kK][vV]$"), "kV"),
    (re.compile(r"^[kK][aA]$"), "kA"),
    (re.compile(r"^[wW]$"), "W"),
    (re.compile(r"^[vV]$"), "V"),
    (re.compile(r"^[aA]$"), "A"),
    (re.compile(r"^(?:hz|hertz|cps|c/s|~|cycles?)\.?$", re.I), "Hz"),
    (re.compile(r"^khz$", re.I), "kilohertz"),
    (re.compile(r"^[µμu]s$"), "microsecond"),
    (re.compile(r"^ns$"), "nanosecond"),
    (re.compile(r"^[µμu]F$"), "microfarad"),
    (re.compile(r"^mF$"), "millifarad"),
    (re.compile(r"^mH$"), "millihenry"),
    (re.compile(r"^[µμu]H$"), "microhenry"),
    (re.compile(r"^(?:′|'|ft|feet|foot)\.?$", re.I), "foot"),
    (re.compile(r'^(?:″|"|in|inch|inches)\.?$', re.I), "inch"),
    (re.compile(r"^(?:m|metres?|meters?)\.?$", re.I), "metre"),
    (re.compile(r"^(?:%|per ?cent)$", re.I), "percent"),
    (re.compile(r"^(?:°\s?c|c|k|deg\.? ?c)$", re.I), "kelvin"),
    (re.compile(r"^(?:°\s?f|f|deg\.? ?f)$", re.I), FAHRENHEIT),
    (re.compile(r"^(?:°|deg|degrees?)$", re.I), "degree"),
    (re.compile(r"^(?:turns?|revs?|revolutions?)$", re.I), "turn"),
    (re.compile(r"^J$"), "joule"),
    (re.compile(r"^kJ$"), "kilojoule"),
    (re.compile(r"^MJ$"), "megajoule"),
    (re.compile(r"^GJ$"), "gigajoule"),
    (re.compile(r"^kWh$", re.I), "kilowatthour"),
    (re.compile(r"^(?:s|sec|secs|seconds?)\.?$", re.I), "second"),
    (re.compile(r"^(?:min|mins|minutes?)\.?$", re.I), "minute"),
    (re.compile(r"^(?:h|hrs?|hours?)\.?$", re.I), "hour"),
    (re.compile(r"^(?:Ω|Ω|ohms?)$", re.I), "ohm"),
    (re.compile(r"^m(?:Ω|Ω)$"), "milliohm"),
    (re.compile(r"^k(?:Ω|Ω|ohms?)$"), "kiloohm"),
    (re.compile(r"^M(?:Ω|Ω|ohms?|eg|egohms?)$"), "megaohm"),
    (re.compile(r"^G(?:Ω|Ω|ohms?)$"), "gigaohm"),
    (re.compile(r"^T(?:Ω|Ω|ohms?)$"), "teraohm"),
    (re.compile(r"^mm/s(?: ?rms)?$", re.I), "mmps"),
    (re.compile(r"^(?:in/s|ips) ?rms$", re.I), "ips"),
    (re.compile(r"^(?:in/s|ips)(?: ?(?:pk|peak))?$", re.I), "ipspeak"),
    (re.compile(r"^kg\s?[·*. ]?\s?m(?:²|2|\^2)$", re.I), "kgmsq"),
    (re.compile(r"^kg\s?[·*. ]?\s?cm(?:²|2|\^2)$", re.I), "kgcmsq"),
    (re.compile(r"^kg\s?[·*. ]?\s?m(?:²|2|\^2)\s?gd(?:²|2|\^2)$", re.I), "gdsq"),
    (re.compile(r"^(?:lb|wk(?:²|2|\^2))\.?\s?[·*. -]?\s?ft(?:²|2|\^2)(?:\s?wk(?:²|2|\^2))?$", re.I), "lbftsq"),
    (re.compile(r"^wk(?:²|2|\^2)$", re.I), "lbftsq"),
    (re.compile(r"^(?:sf|s\.f\.|x|×|:\s?1)$", re.I), "one"),
    (re.compile(r"^N\s?[·*. ]?\s?m$", re.I), "newtonmetre"),
    (re.compile(r"^kN\s?[·*. ]?\s?m$", re.I), "kilonewtonmetre"),
    (re.compile(r"^(?:lb|lbf)\s?[·*. -]?\s?(?:ft|feet)$|^ft[·*. -]?lbf?$", re.I), "lbft"),
    (re.compile(r"^(?:lb|lbf)\s?[·*. -]?\s?in$|^in[·*. -]?lbf?$", re.I), "lbin"),
    (re.compile(r"^k(?:g|gf|p)\s?[·*. -]?\s?m$", re.I), "kgfm"),
    (re.compile(r"^N$"), "newton"),
    (re.compile(r"^kN$"), "kilonewton"),
    (re.compile(r"^MN$"), "meganewton"),
    (re.compile(r"^lbf?\.?$", re.I), "lbf"),
    (re.compile(r"^kgf?$", re.I), "kgf"),
    (re.compile(r"^m(?:³|3|\^3)/s$", re.I), "flow"),
    (re.compile(r"^m(?:³|3|\^3)/h$", re.I), "mcubedperhour"),
    (re.compile(r"^l/s$", re.I), "lps"),
    (re.compile(r"^l/min$", re.I), "lpm"),
    (re.compile(r"^(?:us\s?)?gpm$|^gal/min$", re.I), "gpm"),
    (re.compile(r"^cfm$|^ft(?:³|3|\^3)/min$", re.I), "cfm"),
    (re.compile(r"^m/s$", re.I), "mps"),
    (re.compile(r"^m/min$", re.I), "mpm"),
    (re.compile(r"^(?:ft/min|fpm)$", re.I), "fpm"),
    (re.compile(r"^kPa$", re.I), "kPa"),
    (re.compile(r"^Pa$", re.I), "Pa"),
    (re.compile(r"^bar$", re.I), "bar"),
    (re.compile(r"^psi$", re.I), "psi"),
    (re.compile(r"^(?:mm\s?(?:wg|H2O|H₂O))$", re.I), "mmwater"),
    (re.compile(r"^(?:in\.?\s?(?:wg|H2O|H₂O))$", re.I), "inchwater"),
    (re.compile(r"^kg/m(?:³|3|\^3)$", re.I), "density"),
    (re.compile(r"^lb/ft(?:³|3|\^3)$", re.I), "lbpercubicfoot"),
    (re.compile(r"^kA(?:²|2|\^2)\s?s$"), "kampsqs"),
    (re.compile(r"^A(?:²|2|\^2)\s?s$"), "ampsqs"),
    (re.compile(r"^K\s?[·*. ]?\s?m\s?/\s?W$", re.I), "kmperwatt"),
    (re.compile(r"^kvar$", re.I), "kVAr"),
    (re.compile(r"^Mvar$", re.I), "MVAr"),
)


@cache
def registry() -> UnitRegistry:
    """Only the units this trade writes: an unknown word is an error, not a surprise."""
    return UnitRegistry(list(_DEFINITIONS))
