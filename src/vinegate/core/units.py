"""The units this trade writes. How they are spelt: spellings.py."""

from __future__ import annotations

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
lbinsq = 2.926396534292e-4 kgmsq
slugftsq = 1.3558179483314 kgmsq
kgcmsq = 1e-4 kgmsq
one = []
hp = 745.699872 watt
ps = 735.49875 watt
foot = 0.3048 metre = ft
inch = 0.0254 metre
centimetre = 0.01 metre
yard = 0.9144 metre = yd
percent = 0.01 one
perday = 0.041666666666666664 one
newtonmetre = [torque] = Nm
lbft = 1.3558179483314004 newtonmetre
lbin = 0.1129848290276167 newtonmetre
kgfm = 9.80665 newtonmetre
newton = [force]
lbf = 4.4482216152605 newton
kgf = 9.80665 newton
tonneforce = 9806.65 newton
kip = 4448.2216152605 newton
flow = [flow]
lps = 0.001 flow
mcubedperhour = 0.0002777777777777778 flow
mcubedperminute = 0.016666666666666666 flow
mcubedperday = 1.1574074074074073e-5 flow
lph = 2.777777777777778e-7 flow
lpm = 1.6666666666666667e-5 flow
gpm = 6.30901964e-5 flow
igpm = 7.576816666666667e-5 flow
mgd = 0.0438126363888889 flow
cfs = 0.028316846592 flow
cfm = 4.719474432e-4 flow
mps = [linear]
fpm = 0.00508 mps
ftps = 0.3048 mps
mpm = 0.016666666666666667 mps
mmps = 0.001 mps
ips = 0.0254 mps
ipspeak = 0.017960512241591 mps
pascal = [pressure] = Pa
bar = 1e5 pascal
hectopascal = 100 pascal
psi = 6894.757293168361 pascal
mmwater = 9.80665 pascal
inchwater = 249.08891 pascal
metrewater = 9806.65 pascal
footwater = 2989.06692 pascal
density = [density]
lbpercubicfoot = 16.01846337396 density
kgperlitre = 1000 density
var = [reactive] = VAr
ampsqs = [through]
kampsqs = 1e6 ampsqs
kmperwatt = [soil]
kcmperwatt = 0.01 kmperwatt
""".strip().splitlines()


@cache
def registry() -> UnitRegistry:
    """Only the units this trade writes: an unknown word is an error, not a surprise."""
    return UnitRegistry(list(_DEFINITIONS))
