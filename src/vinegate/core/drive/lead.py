"""The lead to the motor: the pulse's reflection at its end, what the winding bears, what the lead itself draws."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Final

from vinegate.core.assumed import band_of, preset
from vinegate.core.drive.bus import switching_v
from vinegate.core.drive.facts import FILTERS, WINDINGS
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, Verdict, at_most, check, rule, settled_by, unknown
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.tables import load
from vinegate.core.turning import Taken, Turns
from vinegate.core.working import Figure, Provenance

_HIGH_LINE: Final = 1.1
_SCHOOLS: Final = (2.0, 3.0)
_REFLECTED: Final = ((20e3, 0.92, 0.88, 0.96), (200e3, 0.80, 0.72, 0.88), (math.inf, 0.65, 0.58, 0.72))
_REACTOR_TIMES: Final = 3.0
_IVIC: Final = {"ivic-a": 1.1, "ivic-b": 1.5, "ivic-c": 2.0, "ivic-d": 2.5}
_PART_31_LOW: Final = 3.1
_PART_31_HIGH: Final = 2.04
_GENERAL_V: Final = 1000.0
_LOW_VOLTS: Final = 600.0
_HARD_VOLTS: Final = 560.0
_SMALL_W: Final = 3000.0
_LONG_FOR_SMALL_M: Final = 50.0
_LEAST_RISE_S: Final = 0.1e-6  # NEMA MG 1:2021 31.4.4.2; IEC TS 60034-25
_SLOWEST_US: Final = 20.0  # as slow as can be typed
_SOURCE: Final = "von Jouanne and Enjeti: long leads; U_d·(1 + ρ·min(1, l/l_c))"


@dataclass(frozen=True, slots=True, kw_only=True)
class Lead:
    """Metres, the two critical lengths, what is reflected, the bus at its highest; peak and what is borne, banded."""

    length_m: float
    critical_m: tuple[float, float]
    reflected: float
    bus_v: float
    peak_v: float
    low_v: float
    high_v: float
    limit_v: float
    known: bool
    filter: str
    classes_v: Mapping[str, float]
    """What windings made for drives bear, by what they are made for."""
    slow_us: float | None
    """Rise of the pulse from which the peak is surely borne; None where no rise that can be typed does it."""
    when: str = "with the line 10 % high"

    def peak_at(self, metres: float, critical_m: float) -> float:
        """Peak at the end of a lead without anything at the drive's output."""
        return self.bus_v * (1 + self.reflected * min(1.0, metres / critical_m))


def lead_of(need: Need) -> Lead | None:
    """Put it on the sheet; None while the length is not known."""
    sheet, facts = need.sheet, need.facts
    metres = facts.lead_m if facts.lead_m is not None else need.circuit.wiring.length_m
    if metres is None:
        sheet.needs([("drive.lead", "the lead's length")], "the peak at the motor's terminals")
        return None
    length = sheet.given("lead_m", "Lead to the motor", "l", metres, "m",
                         source="entered" if facts.lead_m is not None else "the run's length",
                         fact="drive.lead" if facts.lead_m is not None else "wiring.length")  # fmt: skip
    half, third = _critical(need)
    bus = _bus(need)
    _, share, low_share, high_share = next(row for row in _REFLECTED if need.power_w < row[0])
    reflected = sheet.given("reflected", "Reflected at the motor", "ρ", share, "", provenance=Provenance.ASSUMED,
                            source="by its size, usual")  # fmt: skip
    left = _overshoot(need, metres)
    peak = _peak(need, bus, reflected, length, third, left)
    classes = _classes(need)
    limit, known = _limit(need, classes)
    brakes = bus.value > _HIGH_LINE * math.sqrt(2) * need.line_v
    return Lead(
        length_m=metres,
        critical_m=(half.value, third.value),
        reflected=share,
        bus_v=bus.value,
        peak_v=peak.value,
        low_v=_corner(need, metres, bus.value, low_share, left, best=True),
        high_v=_corner(need, metres, bus.value, high_share, left, best=False),
        limit_v=limit,
        known=known,
        filter=facts.filter or "none",
        classes_v=classes,
        slow_us=_slow_us(need, metres, bus.value, high_share, limit) if left is None else None,
        when="while its resistor works" if brakes else "with the line 10 % high",
    )


def _critical(need: Need) -> tuple[Figure, Figure]:
    """The length from which the pulse is wholly reflected, by two schools: a half of its way, and a third."""
    sheet, facts = need.sheet, need.facts
    speed = sheet.given("wave", "Speed of the pulse in it", "v", preset("drive_speed_in_lead"), "m/µs",
                        provenance=Provenance.ASSUMED, source="half of light's, by the insulation")  # fmt: skip
    stated = facts.rise_s is not None
    rise = sheet.given(
        "rise_us", "Rise of the pulse", "t_r", 1e6 * facts.rise_s if facts.rise_s else preset("drive_rise"), "µs",
        source="entered" if stated else "usual of present transistors",
        provenance=Provenance.STATED if stated else Provenance.ASSUMED, fact="drive.rise",
    )  # fmt: skip
    times = _REACTOR_TIMES if facts.filter == "output-reactor" else 1.0
    sources = ("two schools; the shorter is judged by", "by the pulse's shape: von Jouanne, Enjeti")
    half, third = (
        sheet.work(
            f"critical_{mark}", f"Critical length, a {mark} of the way", f"l_{share:g}",
            times * speed.value * rise.value / share, "m",
            formula=f"{f'{times:g}·' if times != 1 else ''}v·t_r/{share:g}", inputs=(speed, rise), source=source,
        )
        for share, mark, source in zip(_SCHOOLS, ("half", "third"), sources, strict=True)
    )  # fmt: skip
    return half, third


def _bus(need: Need) -> Figure:
    """At its highest: the line a tenth high, or where the resistor switches in."""
    bus_v = max(_HIGH_LINE * math.sqrt(2) * need.line_v, _braking_v(need))
    return need.sheet.given("bus_v", "Bus at its highest", "U_d", bus_v, "V", provenance=Provenance.TABLE,
                            source="√2·1.1·U, or where its resistor switches in")  # fmt: skip


def _peak(need: Need, bus: Figure, reflected: Figure, length: Figure, critical: Figure, left: float | None) -> Figure:
    """At the terminals. `left` is the overshoot that a filter leaves, where there is one."""
    whole = length.value >= critical.value
    formula = f"U_d·(1+{left:g})" if left is not None else ("U_d·(1+ρ)" if whole else "U_d·(1+ρ·l/l_3)")
    share = left if left is not None else reflected.value * min(1.0, length.value / critical.value)
    return need.sheet.work(
        "peak", "Peak at the motor's terminals", "Û", bus.value * (1 + share), "V", formula=formula,
        inputs=(bus, reflected, length, critical), source=_SOURCE, provenance=Provenance.ESTIMATED,
    )  # fmt: skip


def _braking_v(need: Need) -> float:
    """The bus while a resistor works: as entered, else where it usually switches; nought without one."""
    stop = need.circuit.stop
    if stop.resistor_ohm is None:
        return 0.0
    return stop.bus_v or switching_v(need.line_v)


def _overshoot(need: Need, metres: float) -> float | None:
    """What a filter leaves over the bus, within its reach; None where the lead rings freely."""
    row = load("drive_filter").find(kind=need.facts.filter or "none")
    assert row is not None
    over = float(row["overshoot"])
    return over if over and metres <= float(row["reach"]) else None


def _corner(need: Need, metres: float, bus_v: float, gamma: float, left: float | None, *, best: bool) -> float:
    if left is not None:
        return bus_v * (1 + left * (0.8 if best else 1.2))
    low_v, high_v = band_of("drive_speed_in_lead")
    low_t, high_t = band_of("drive_rise")
    if need.facts.rise_s is not None:
        low_t = high_t = 1e6 * need.facts.rise_s
    times = _REACTOR_TIMES if need.facts.filter == "output-reactor" else 1.0
    critical = times * (high_v * high_t / _SCHOOLS[0] if best else low_v * low_t / _SCHOOLS[1])
    return bus_v * (1 + gamma * min(1.0, metres / critical))


def _slow_us(need: Need, metres: float, bus_v: float, gamma: float, limit_v: float) -> float | None:
    """Rise, µs, from which the worst corner is borne: `U_d·(1+ρ·3·l/(v·t_r)) = Û_w`, solved for the rise."""
    spare = limit_v / bus_v - 1
    if spare <= 0:
        return None
    times = _REACTOR_TIMES if need.facts.filter == "output-reactor" else 1.0
    found = gamma / spare * metres * _SCHOOLS[1] / (times * band_of("drive_speed_in_lead")[0])
    return found if found <= _SLOWEST_US else None


def _classes(need: Need) -> dict[str, float]:
    """Peaks that windings made for drives bear, V: MG 1 part 31, and the classes of IEC 60034-18-41."""
    made = (_PART_31_LOW if need.plate_v <= _LOW_VOLTS else _PART_31_HIGH) * max(need.plate_v, need.line_v / 1.05)
    return {"mg1-31": made} | {key: times * _HIGH_LINE * math.sqrt(2) * need.line_v for key, times in _IVIC.items()}


def _limit(need: Need, classes: Mapping[str, float]) -> tuple[float, bool]:
    """What the winding bears, and whether what it is made for is known."""
    facts, sheet = need.facts, need.sheet
    if facts.peak_v is not None:
        found, source, known = facts.peak_v, "its maker", True
    elif facts.winding in _IVIC:
        source, known = f"IEC 60034-18-41:2014, {dict(WINDINGS)[facts.winding]}", True
        found = classes[facts.winding]
    elif facts.winding == "mg1-31":
        found, source, known = classes["mg1-31"], "NEMA MG 1:2021 31.4.4.2", True
    else:
        found, known = _GENERAL_V, facts.winding is not None
        source = "NEMA MG 1:2021 30.2.2.8; IEC TS 60034-25: windings for the mains"
    sheet.given("winding_v", "Peak that the winding bears", "Û_w", found, "V", source=source,
                provenance=Provenance.STATED if known else Provenance.ASSUMED)  # fmt: skip
    return found, known


_FILTERED: Final = {
    "dvdt": "a sine filter or a terminator",
    "terminator": "a sine filter",
    "sine": "a shorter lead",
}
"""What holds the pulses down further than what stands there."""


def _held_down(need: Need, lead: Lead) -> str:
    """What helps: what stands there already does not."""
    first = _FILTERED.get(lead.filter, "a dv/dt filter to its reach, then a sine filter or a terminator")
    made_for = "drives" if need.facts.winding in (None, "general") else "more volts"
    return f"{first[:1].upper()}{first[1:]}; or a motor made for {made_for}."


def insulation_gate(need: Need, lead: Lead) -> Gate:
    """The peak over the whole band of lead, rise and reflection against what the winding bears."""
    key, name = "drive.insulation", "Winding bears the pulses"
    words = dict(WINDINGS)
    where = f"{write(lead.length_m, 3)} m"
    what = "" if lead.filter == "none" else f" behind its {dict(FILTERS)[lead.filter]}"
    text = f"At {where}{what} its terminals see up to {write(lead.peak_v, 3)} V, {lead.when}"
    remedy = _held_down(need, lead)
    if lead.known:
        who = "by its maker" if need.facts.peak_v else words[need.facts.winding or "general"]
        general = (
            need.facts.winding == "general" and need.plate_v > _HARD_VOLTS and lead.filter in ("none", "output-reactor")
        )
        text = f"{text}; it bears {write(lead.limit_v, 4)} V, {who}."
        if general:
            return rule(key, name, False, f"{text} For such volts a filter is a must.", _SOURCE, remedy=remedy)
        peak = Taken(
            label="rise and speed of the pulse",
            value=lead.peak_v,
            low=lead.low_v,
            high=lead.high_v,
            how="estimated",
            sense=-1,
        )
        gate = at_most(key, name, lead.peak_v, lead.limit_v, sentence=text, source=_SOURCE, unit="V", remedy=remedy,
                       rests=(peak,), room=lambda at: lead.limit_v - at)  # fmt: skip
        if gate.verdict is Verdict.PASSES and _faster(need):
            turns = Turns(path="drive.peak", label="the peak that it bears at so fast a rise", passes="by its maker")
            return check(key, name, turns, f"{text} That is for rises of 0.1 µs and slower.", _SOURCE, remedy=remedy)
        return gate if gate.verdict is not Verdict.CHECK else _slower(gate, lead)
    most = max(lead.classes_v.values())
    if lead.low_v > most:
        return rule(key, name, False, f"{text}: more than any of its volts is made for.", _SOURCE, remedy=remedy,
                    value=lead.peak_v, limit=most, unit="V")  # fmt: skip
    turns = _made_for(need, lead)
    text = (
        f"{text}; {_GENERAL_V:.0f} V is what general-purpose windings bear. Passes where {turns.label} is "
        f"{turns.passes}."
    )
    return check(key, name, turns, text, _SOURCE, remedy=remedy)


def _faster(need: Need) -> bool:
    """Whether the pulse rises faster than part 31 and the curve of TS 60034-25 are for, and nobody answers for it."""
    facts, rise_s = need.facts, need.facts.rise_s
    if facts.peak_v is not None or facts.winding in _IVIC or (facts.filter or "none") not in ("none", "output-reactor"):
        return False
    return rise_s is not None and rise_s < _LEAST_RISE_S * (1 - 1e-9)


def _made_for(need: Need, lead: Lead) -> Turns:
    """The least of each standard that surely bears it; where neither has one, a peak for its maker to promise."""
    bear = [key for key, volts in lead.classes_v.items() if volts >= lead.high_v]
    found = [key for key in bear if key == "mg1-31"] + [key for key in bear if key in _IVIC][:1]
    weak = need.plate_v > _HARD_VOLTS and lead.filter in ("none", "output-reactor")
    fails = "general" if weak or lead.low_v > _GENERAL_V else ""
    words = dict(WINDINGS)
    if found:
        return Turns(path="drive.winding", label="what its winding is made for", passes_as=found[0], fails_as=fails,
                     passes=" or ".join(words[one] for one in found), fails=words.get(fails, ""))  # fmt: skip
    peak = f"{10 * math.ceil(lead.high_v / 10)} V"
    return Turns(path="drive.peak", label="the peak that its winding bears", passes=f"{peak} or more", passes_as=peak)


def _slower(gate: Gate, lead: Lead) -> Gate:
    """A slower rise settles it, where no other fact does."""
    if lead.slow_us is None or (gate.turns is not None and gate.turns.path):
        return gate
    rise = f"{math.ceil(100 * lead.slow_us) / 100:g} µs"
    turns = Turns(path="drive.rise", label="the drive's rise time", passes=f"{rise} or more", passes_as=rise)
    return settled_by(gate, turns)


def lead_gates(need: Need, lead: Lead | None, fastest_hz: float) -> list[Gate]:
    """What stands in it: a filter within its reach, no contactor opened live, a small drive's charging current."""
    found = []
    facts = need.facts
    row = load("drive_filter").find(kind=facts.filter or "none")
    assert row is not None
    source = load("drive_filter").source
    if lead is not None and float(row["reach"]) and lead.length_m > float(row["reach"]):
        text = f"{lead.length_m:.0f} m of lead; by its {dict(FILTERS)[lead.filter]} {row['reach']} m are reached."
        found.append(rule("drive.lead", "Lead within the reach of its filter", False, text, source,
                          remedy="A sine filter, or a shorter lead."))  # fmt: skip
    if float(row["most_hz"]) and fastest_hz > float(row["most_hz"]):
        text = f"{write(fastest_hz, 3)} Hz are above the {row['most_hz']} Hz that a sine filter is usually made for."
        found.append(
            rule("drive.filter", "Filter made for the frequency", False, text, source, remedy="Its maker's word.")
        )
    if facts.contactor == "free":
        text = "A contactor in the lead that opens while the drive works draws an arc and may break it."
        found.append(
            rule(
                "drive.contactor",
                "Lead opened only with the drive off",
                False,
                text,
                "its maker's word, as of all of them",
                remedy="Its auxiliary contact blocks the drive before it opens, and it closes first.",
            )
        )
    return [*found, *_charging(need, lead)]


def _charging(need: Need, lead: Lead | None) -> list[Gate]:
    """A small drive's current into a long lead."""
    small = need.power_w * need.motors < _SMALL_W
    if lead is None or not small or lead.length_m * need.motors <= _LONG_FOR_SMALL_M:
        return []
    if need.facts.filter not in (None, "none"):
        return []
    text = (
        f"{lead.length_m * need.motors:.0f} m of lead in all draw a charging current that a small drive may trip on. "
        "Passes where what stands at its output is an output reactor."
    )
    turns = Turns(path="drive.filter", label="what stands at its output", passes="an output reactor",
                  passes_as="output-reactor")  # fmt: skip
    return [check("drive.charging", "Lead's charging current", turns, text, "usual above 50 to 100 m below 3 kW",
                  remedy="An output reactor, or the next size of drive.")]  # fmt: skip


_BEARINGS: Final = ((30e3, ("none",), "a screened lead and good bonding"),
                    (100e3, ("insulated", "ring"), "one bearing insulated, or a shaft ring"),
                    (math.inf, ("both",), "the far bearing insulated and a common-mode filter"))  # fmt: skip
_LADDER: Final = ("none", "insulated", "ring", "both")


def bearing_gate(need: Need) -> Gate:
    """Bearing currents: rules of practice by size."""
    key, name = "drive.bearing", "Bearings against currents"
    asked, words = next((asked, words) for most, asked, words in _BEARINGS if need.power_w <= most)
    source = "NEMA MG 1:2021 31.4.4.3; IEC TS 60034-25: practice by size"
    said = need.facts.bearings
    kw = f"{write(need.power_w / 1000, 3)} kW"
    if asked == ("none",):
        return rule(key, name, True, f"Up to 30 kW {words} do; it has {kw}.", source)
    if said is None:
        return unknown(key, name, (f"what its bearings have against currents ({words})",))
    met = _LADDER.index(said) >= min(_LADDER.index(one) for one in asked)
    return rule(key, name, met, f"At {kw} {words} is asked.", source, remedy=f"{words[:1].upper()}{words[1:]}.")
