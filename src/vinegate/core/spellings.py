"""How people spell the units of this trade: on plates and drawings, and at the keyboard."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Final

FAHRENHEIT: Final = "fahrenheit"

_SIGNS: Final = str.maketrans({
    "º": "°", "˚": "°", "μ": "µ", "²": "2", "³": "3", "₂": "2", "⁻": "-", "¹": "1", "^": "", "′": "'",
    "’": "'", "″": '"', "”": '"',
})  # fmt: skip
_PLAIN: Final = (
    (re.compile(r"\s*[·⋅*]\s*"), " "),  # a product
    (re.compile(r"(?<=\w)\s*-\s*(?=[A-Za-z°])"), " "),  # lb-ft
    (re.compile(r"(?<=[A-Za-z])\.\s*(?=\w)"), " "),  # in. wg, h.p.
    (re.compile(r"\s*\bper\b(?!\s*(?:cent|unit))\s*", re.I), "/"),
    (re.compile(r"\s*/\s*"), "/"),
    (re.compile(r"\s+"), " "),
)
_WORDS: Final = {
    word: short
    for short, words in {
        "lb": "lbs pound pounds", "ft": "foot feet lf", "in": "inch inches", "m": "metre metres meter meters mtr mtrs",
        "l": "litre litres liter liters ltr", "s": "sec secs second seconds", "min": "mins minute minutes",
        "h": "hr hrs hour hours", "gal": "gallon gallons", "t": "tonne tonnes", "rev": "revs revolution revolutions",
        "deg": "degree degrees", "ohm": "ohms",
    }.items()
    for word in words.split()
}  # fmt: skip

# One unit a line: its name, and its spellings without regard to capitals.
_ANY: Final = """
hp: hp; h p; bhp; b h p; horsepower; horse power
ps: ps; cv; pk
kW: kw; kilowatt; kilowatts
W: w; watt; watts
rpm: rpm; r p m; r/min; rev/min; 1/min; /min; min-1; min -1; tr/min; u/min
A: a; amp; amps; ampere; amperes; a rms; amps rms; a ac; aic; at; a t
kA: ka; ka rms; ka sym; ka rms sym; ka sym rms; kaic; k aic
V: v; volt; volts; vac; v ac; v a c; volts ac; v rms; v~
kV: kv
VA: va
kVA: kva
MVA: mva
GVA: gva
VAr: var
kVAr: kvar
MVAr: mvar
Hz: hz; hertz; cps; c/s; ~; cycle; cycles
kilohertz: khz
foot: ft; '
inch: in; "
metre: m
centimetre: cm
percent: %; percent; per cent; pct
perday: /day; /d; a day; starts/day; starts a day; stops/day; times/day; times a day
one: sf; s f; x; ×; times; pu; p u; per unit; :1; : 1; to 1
kelvin: °c; ° c; c; k; deg c; degc; celsius; deg celsius
fahrenheit: °f; ° f; f; deg f; degf; fahrenheit
degree: °; deg
turn: turn; turns; rev
kilojoule: kj; kws
kilowatthour: kwh
second: s
minute: min
hour: h
ohm: ohm
milliohm: milliohm; milliohms
kiloohm: kohm; kohms
megaohm: meg; megohm; megohms
mmps: mm/s; mm/s rms
ips: in/s rms; ips rms
ipspeak: in/s; ips; in/s pk; in/s peak; ips pk; ips peak
kgmsq: kg m2; kgm2
kgcmsq: kg cm2; kgcm2
gdsq: gd2; kg m2 gd2; kgm2 gd2; kgf m2; kgfm2; kgf m2 gd2; kgfm2 gd2
lbftsq: lb ft2; lbft2; lb ft2 wk2; lbft2 wk2; wk2; wr2; wk2 ft2; lb ft2 wr2; lbft2 wr2
lbinsq: lb in2; lbin2
slugftsq: slug ft2
newtonmetre: n m; nm
kilonewtonmetre: kn m; knm
lbft: lb ft; lbft; lbf ft; lbfft; ft lb; ftlb; ft lbf; ftlbf
lbin: lb in; lbin; lbf in; lbfin; in lb; inlb; in lbf; inlbf
kgfm: kg m; kgm; kgf m; kgfm; kp m; kpm
newton: n; newton; newtons
kilonewton: kn
lbf: lb; lbf
kip: kip; kips
kgf: kg; kgs; kgf; kp
tonneforce: t; tf
flow: m3/s
mcubedperhour: m3/h; cmh
mcubedperminute: m3/min
mcubedperday: m3/d; m3/day
lps: l/s
lpm: l/min; lpm
lph: l/h; lph
gpm: gpm; us gpm; usgpm; gal/min; us gal/min
igpm: igpm; imp gpm; imp gal/min
mgd: mgd
cfm: cfm; ft3/min
cfs: cfs; ft3/s
mps: m/s
mpm: m/min
fpm: fpm; ft/min
ftps: fps; ft/s
pascal: pa
hectopascal: hpa
kilopascal: kpa
megapascal: mpa
bar: bar; barg; bar g; bar(g)
psi: psi; psig; lb/in2
mmwater: mm wg; mmwg; mm h2o; mmh2o; mm wc; mmwc; mm ws; mmws
inchwater: in wg; inwg; " w g; in w g; in h2o; inh2o; in wc; inwc; in w c; " wg; "wg; " wc; "wc; " h2o
metrewater: m h2o; mh2o; m wc; mwc; m ws; mws; m wg
footwater: ft h2o; fth2o; ft wc; ft wg
density: kg/m3
kgperlitre: kg/l; kg/dm3; g/cm3; g/ml; t/m3
lbpercubicfoot: lb/ft3
kampsqs: ka2 s; ka2s
ampsqs: a2 s; a2s
kmperwatt: k m/w; km/w; °c m/w; c m/w
kcmperwatt: k cm/w; kcm/w; °c cm/w; c cm/w
"""
# Where capitals tell milli from mega, or are a sign's.
_EXACT: Final = """
milliampere: mA; ma
millisecond: ms
microsecond: µs; us
nanosecond: ns
microfarad: µF; uF
millifarad: mF
henry: H
millihenry: mH
microhenry: µH; uH
joule: J
megajoule: MJ
gigajoule: GJ
meganewton: MN
ohm: Ω
milliohm: mΩ; mohm; mOhm; mOHM
kiloohm: kΩ
megaohm: MΩ; Mohm; MOhm; MOHM
gigaohm: GΩ; Gohm; GOhm; GOHM
teraohm: TΩ; Tohm; TOhm
"""


def _table(lines: str) -> dict[str, str]:
    rows = (line.partition(": ") for line in lines.strip().splitlines())
    return {one: name for name, _, spellings in rows for one in spellings.split("; ")}


_OF_ANY, _OF_EXACT = _table(_ANY), _table(_EXACT)


@lru_cache(maxsize=1024)
def spelt(text: str) -> str:
    """The registry's name for a unit as it is written; what is not known here is its own name.

    >>> spelt("ft-lbs"), spelt("KVA"), spelt("m³/hr"), spelt("lb·in²"), spelt("MΩ"), spelt("parsec")
    ('lbft', 'kVA', 'mcubedperhour', 'lbinsq', 'megaohm', 'parsec')
    """
    plain = text.translate(_SIGNS).strip().rstrip(".")
    for pattern, instead in _PLAIN:
        plain = pattern.sub(instead, plain)
    plain = re.sub(r"[A-Za-z]+", lambda word: _WORDS.get(word[0].lower(), word[0]), plain.strip())
    return _OF_EXACT.get(plain) or _OF_ANY.get(plain.lower()) or plain
