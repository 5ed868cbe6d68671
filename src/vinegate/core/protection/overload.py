"""The overload relay: what it is set to, where it stands, its class against start and stall, its reset."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from vinegate.core.facts import Circuit
from vinegate.core.gate import Gate, Verdict, unknown
from vinegate.core.plate.kind import Family, has_poles
from vinegate.core.plate.rated import Rated
from vinegate.core.protection.facts import PLACES
from vinegate.core.protection.need import Device, Need
from vinegate.core.protection.sizing import nothing, plain_gate
from vinegate.core.protection.trip_class import trip_class
from vinegate.core.quantity import write
from vinegate.core.rules import OverloadRange, RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.starting.trace import running
from vinegate.core.working import Figure, Provenance

_TOLERANCE: Final = 1.6
_COMMON: Final = ("10A", "10", "20", "30", "40")
_DIAL_TRIPS_PCT: Final = 125.0
_PLACES: Final = dict(PLACES)
_CALIBRATED_C: Final = 40.0
_TRIP_RISE_K: Final = 60.0
_SAME_K: Final = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Overload:
    """The setting in the relay's own place, as line amperes, and as the dial it stands for; its class."""

    setting: Figure | None
    line_a: Figure | None
    dial_a: float | None
    trip: str


def overload(sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, *, delta: bool) -> OverloadRange | None:
    """Relay in the line, and in the delta where the machine runs in delta from a wye-delta starter.

    From the *plate* current, never the table current (NFPA 70 430.6(A)(2)).
    """
    if rated.current is None:
        sheet.needs([("plate.full_load_current", rules.words.full_load_current)], "the overload setting")
        return None
    sheet.figures.append(rated.current)
    plate = circuit.plate
    found = rules.overload(sheet, rated.current, plate.service_factor, plate.temperature_rise_k)
    if rules.name == "nec" and plate.service_factor is None and plate.temperature_rise_k is None:
        sheet.needs([("plate.service_factor", "service factor or rise")], "the higher overload percentage")
    if delta:
        sheet.work(
            "in_delta",
            "The same relay inside the delta",
            "I_ph",
            found.normal.value / 3**0.5,
            "A",
            formula=f"{found.normal.symbol}/√3",
            inputs=(found.normal,),
            source="a delta winding carries line current over √3",
        )
    return found


def plan_overload(sheet: Sheet, need: Need, rules: RuleSet, allowed: OverloadRange | None) -> tuple[Device, Overload]:
    """Setting, class and gates of the relay."""
    facts = need.circuit.protection
    rule = "NFPA 70:2023 430.32" if rules.name == "nec" else "IEC 60947-4-1:2018"
    if allowed is None or need.plate is None:
        row = nothing("overload", "Overload", rule, (rules.words.full_load_current,))
        sheet.gates += row.gates
        return row, Overload(setting=None, line_a=None, dial_a=None, trip=facts.trip_class or "10")
    seen = _seen(sheet, need)
    by_elements = rules.name == "nec" and facts.overload_habit == "element"
    advised = _advised(sheet, rules, allowed, need.plate, seen, by_elements=by_elements)
    setting = advised
    if facts.overload_a is not None:
        setting = sheet.given("set", "Overload set to", "I_s", facts.overload_a, "A")
    share = seen.value / need.plate.value
    line_a = sheet.work(
        "line", "As line amperes", "I_l", setting.value / share, "A",
        formula=f"{setting.symbol}·{need.plate.symbol}/{seen.symbol}", inputs=(setting, need.plate, seen),
        source="its place undone",
    )  # fmt: skip
    dial_a = _motor_amperes(line_a.value, by_elements=by_elements)
    trip = facts.trip_class or _advised_class(need, dial_a)
    gates = [
        _setting_gate(need, rules, allowed, setting.value / share, rule, by_elements=by_elements),
        *_place_gate(need),
        *_band_gate(need, setting.value),
        _class_gate(need, trip, dial_a),
        _stall_gate(need, trip, dial_a),
        *_ambient_gate(need, setting.value),
        _reset_gate(need),
    ]
    sheet.gates += gates
    _notes(sheet, need)
    row = Device(
        key="overload",
        name=f"Overload, class {trip}",
        current=need.plate,
        rule=f"{rule}, {_PLACES[facts.overload_place or 'line']}",
        asked=f"≤ {allowed.normal.shown}" if rules.name == "nec" else f"= {seen.shown}",
        advised=f"{write(advised.value, 3)} A",
        chosen=f"{write(setting.value, 3)} A",
        gates=tuple(gates),
        path="protection.overload",
        take="" if setting is advised else f"{write(advised.value, 3)} A",
    )
    return row, Overload(setting=setting, line_a=line_a, dial_a=dial_a, trip=trip)


def _motor_amperes(line_a: float, *, by_elements: bool) -> float:
    """The dial that a setting stands for: elements are named by their trip current."""
    return line_a * 100 / _DIAL_TRIPS_PCT if by_elements else line_a


def _seen(sheet: Sheet, need: Need) -> Figure:
    """Rated amperes where the relay stands."""
    assert need.plate
    plate, place = need.plate, need.circuit.protection.overload_place or "line"
    if place == "delta":
        return _placed(
            sheet, plate, plate.value / 3**0.5, f"{plate.symbol}/√3", "inside the delta", "a winding's share"
        )
    if place == "half":
        return _placed(sheet, plate, plate.value / 2, f"{plate.symbol}/2", "each half winding", "half of it each")
    capacitor = need.circuit.protection.motor_capacitor
    if place == "capacitor" and capacitor and need.rated.volts is not None:
        return _behind_capacitor(sheet, need, capacitor)
    return _placed(sheet, plate, plate.value, plate.symbol, "in the line", "all of it")


def _placed(sheet: Sheet, plate: Figure, value: float, formula: str, where: str, source: str) -> Figure:
    return sheet.work(
        "seen", f"Rated amperes {where}", "I_o", value, "A", formula=formula, inputs=(plate,), source=source
    )


def _behind_capacitor(sheet: Sheet, need: Need, capacitor: float) -> Figure:
    """Capacitors behind the relay take reactive current out of it (NFPA 70 460.9)."""
    assert need.plate
    assert need.rated.volts
    stamped = need.circuit.plate.power_factor
    pf = sheet.given(
        "pf", "Rated power factor", "pf", stamped or 0.85, "",
        provenance=Provenance.STAMPED if stamped else Provenance.ASSUMED,
        source="plate" if stamped else "usual; the plate does not say",
    )  # fmt: skip
    kvar = sheet.given("capacitor", "Capacitors behind it", "Q", capacitor / 1000, "kvar")
    u, i = need.rated.volts, need.plate
    sheet.figures.append(u)
    active = i.value * pf.value
    reactive = i.value * (1 - pf.value**2) ** 0.5 - 1000 * kvar.value / (3**0.5 * u.value)
    return sheet.work(
        "seen", "Rated amperes ahead of the capacitors", "I_o", (active**2 + reactive**2) ** 0.5, "A",
        formula=f"√(({i.symbol}·pf)²+({i.symbol}·√(1−pf²)−1000·Q/(√3·{u.symbol}))²)", inputs=(i, pf, kvar, u),
        source="active current unchanged, reactive lowered; NFPA 70:2023 460.9",
    )  # fmt: skip


def _advised(
    sheet: Sheet, rules: RuleSet, allowed: OverloadRange, plate: Figure, seen: Figure, *, by_elements: bool
) -> Figure:
    """NEC: the dial that trips at what is allowed, for a relay that trips by 1.25 times its mark; or the trip current.

    IEC: the rated current.
    """
    if rules.name != "nec":
        return sheet.work(
            "advised", "Setting advised", "I_s", seen.value, "A", formula=seen.symbol, inputs=(seen,),
            source="the rated current in its place",
        )  # fmt: skip
    if by_elements:
        return sheet.work(
            "advised", "Elements by trip current", "I_s", allowed.normal.value * seen.value / plate.value, "A",
            formula=f"{allowed.normal.symbol}·{seen.symbol}/{plate.symbol}", inputs=(allowed.normal, seen, plate),
            source="NFPA 70:2023 430.32(A)(1), in its place",
        )  # fmt: skip
    return sheet.work(
        "advised", "Dial advised, in motor amperes", "I_s",
        allowed.normal.value / 1.25 * seen.value / plate.value, "A",
        formula=f"{allowed.normal.symbol}/1.25·{seen.symbol}/{plate.symbol}", inputs=(allowed.normal, seen, plate),
        source="NFPA 70:2023 430.32(A)(1), for a relay that trips by 1.25 times its mark: read its instructions",
    )  # fmt: skip


def _setting_gate(
    need: Need, rules: RuleSet, allowed: OverloadRange, line_a: float, rule: str, *, by_elements: bool
) -> Gate:
    """What it trips at against what the rule set allows."""
    assert need.plate
    name, entered = "Overload setting", need.circuit.protection.overload_a is not None
    said = "" if entered else "As advised: "
    if rules.name != "nec":
        over = line_a / need.plate.value
        verdict = Verdict.OPEN if over <= 1.0005 else Verdict.AJAR if over <= 1.05 else Verdict.SHUT
        low = over < 0.9
        text = f"{said}{write(line_a, 3)} A in line amperes, rated {need.plate.shown}."
        if low and verdict is Verdict.OPEN:
            verdict, text = Verdict.AJAR, f"{text} It may trip at full load."
        remedy = f"Set it to {need.plate.shown}."
        return plain_gate("setting", name, verdict, text, rule, value=line_a, limit=need.plate.value, remedy=remedy)
    trips = line_a if by_elements else 1.25 * line_a
    top = allowed.ceiling.value if allowed.ceiling else allowed.normal.value
    verdict = Verdict.OPEN
    text = f"{said}trips at {write(trips, 3)} A in the line, {write(allowed.normal.value, 3)} A allowed."
    if trips > top * 1.0005:
        verdict = Verdict.SHUT
        text = f"Trips at {write(trips, 3)} A in the line, above the ceiling of {write(top, 3)} A."
    elif trips > allowed.normal.value * 1.0005:
        verdict = Verdict.AJAR
        text = f"Trips at {write(trips, 3)} A: above the usual, allowed to {write(top, 3)} A if it will not start."
    elif trips < 1.02 * need.plate.value:
        verdict = Verdict.AJAR
        text = f"Trips at {write(trips, 3)} A: it may open at full load."
    remedy = f"Trip at no more than {allowed.normal.shown}, in the line."
    return plain_gate("setting", name, verdict, text, rule, value=trips, limit=allowed.normal.value, remedy=remedy)


def _place_gate(need: Need) -> tuple[Gate, ...]:
    """A place that this machine, started this way, does not have."""
    place, method = need.circuit.protection.overload_place, need.method
    wrong = {
        "delta": "" if need.runs_in_delta else "The machine does not run in a delta whose windings are brought out.",
        "half": "" if method == "part-winding" else "There are no half windings of their own when it starts this way.",
        "capacitor": "" if need.circuit.protection.motor_capacitor else "No capacitors at the motor are given.",
    }.get(place or "", "")
    if not wrong:
        return ()
    remedy = "Put it in the line, or give what is missing."
    return (plain_gate("place", "Overload's place", Verdict.SHUT, wrong, "where its current flows", remedy=remedy),)


def _band_gate(need: Need, setting: float) -> tuple[Gate, ...]:
    """The setting inside the element's or dial's own band, where that is given."""
    facts = need.circuit.protection
    if facts.element_low_a is None and facts.element_high_a is None:
        return ()
    low, high = facts.element_low_a or 0.0, facts.element_high_a or float("inf")
    verdict = Verdict.OPEN if low <= setting <= high else Verdict.SHUT
    text = f"{write(setting, 3)} A in a band from {write(low, 3)} to {write(high, 3)} A."
    remedy = "Another relay or element whose band holds the setting."
    return (plain_gate("band", "Setting in its band", verdict, text, "the relay's marking", remedy=remedy),)


def heat_pct(need: Need, name: str, setting_a: float) -> float | None:
    """Heat of the quickest relay of a class after the start, in percent of that at which it trips, from cold."""
    detail, used = need.detail, need.used
    if detail is None or used is None or used.time_s is None:
        return None
    time, line = np.array(detail.time_s), np.array(detail.line_a)
    if need.circuit.protection.overload_place == "delta" and used.changes_at_s is not None:
        line = np.where(time < used.changes_at_s, line * 3**0.5, line)
    square = np.asarray((line / setting_a) ** 2)
    return float(100 * trip_class(name).heat_along(time, running(time, square)).max())


def _advised_class(need: Need, setting_a: float) -> str:
    """The quickest class from 10 on that holds the start with its tolerance; the slowest where none does."""
    shares = {name: heat_pct(need, name, setting_a) for name in _COMMON if name != "10A"}
    if any(share is None for share in shares.values()):
        return "10"
    for limit in (100 / _TOLERANCE, 100.0):
        for name, share in shares.items():
            if share is not None and share <= limit:
                return name
    return _COMMON[-1]


def _class_gate(need: Need, name: str, setting_a: float) -> Gate:
    key, title = "class", "Trip class holds the start"
    share = heat_pct(need, name, setting_a)
    if share is None:
        return unknown(f"protection.{key}", title, ("the start, simulated to speed",))
    text = f"Class {name}: the start uses {write(share, 2)} % of the quickest relay's heat, from cold."
    verdict = Verdict.OPEN if share * _TOLERANCE <= 100 else Verdict.AJAR if share <= 100 else Verdict.SHUT
    return plain_gate(
        key, title, verdict, text, "IEC 60947-4-1:2018 table 3", value=share, limit=100.0, unit="%", estimated=True,
        remedy="A slower class, where the machine bears it, or a quicker start.",
    )  # fmt: skip


def _stall_gate(need: Need, name: str, setting_a: float) -> Gate:
    """A stalled rotor: the class trips before the safe stall time from hot."""
    key, title = "stall", "Trips on a stalled rotor"
    if need.stall_hot is None or need.locked is None:
        return unknown(f"protection.{key}", title, ("safe stall time, hot",))
    times = np.array([need.locked.value / setting_a])
    soonest, last = (
        float(found[0]) for found in (trip_class(name).earliest_s(times), trip_class(name).latest_s(times))
    )
    stall = need.stall_hot.value
    band = f"{write(soonest, 2)} to {write(last, 2)} s"
    text = f"Stalled, class {name} opens in {band} from cold; it bears {write(stall)} s."
    if last <= stall:
        verdict = Verdict.AJAR if need.stall_hot.soft else Verdict.OPEN
    else:
        verdict = Verdict.AJAR if soonest <= stall else Verdict.SHUT
    return plain_gate(
        key, title, verdict, text, "IEC 60947-4-1:2018 table 3; IEEE 620:1996", value=last, limit=stall, unit="s",
        estimated=True, remedy="Get the machine's safe stall time; a quicker class, or thermistors.",
    )  # fmt: skip


def _ambient_gate(need: Need, setting: float) -> tuple[Gate, ...]:
    """A relay without compensation feels its own ambient, not the motor's."""
    facts = need.circuit.protection
    if facts.compensated != "no":
        return ()
    here = _CALIBRATED_C if facts.relay_ambient_c is None else facts.relay_ambient_c
    room = max(_TRIP_RISE_K + _CALIBRATED_C - here, 1.0) / _TRIP_RISE_K
    trips = 100 * room**0.5
    there = _CALIBRATED_C if facts.motor_ambient_c is None else facts.motor_ambient_c
    text = f"Not compensated, at {here:g} °C: it trips at about {trips:.0f} % of what {write(setting, 3)} A says."
    verdict = Verdict.OPEN if abs(here - there) <= _SAME_K else Verdict.AJAR
    text += " The motor is no cooler or hotter: it follows it." if verdict is Verdict.OPEN else ""
    remedy = "Correct the setting by the maker's curve, or take a compensated relay."
    source = "rise goes with current squared; about 60 K at trip, calibrated at 40 °C"
    return (plain_gate("ambient", "Ambient at the overload", verdict, text, source, estimated=True, remedy=remedy),)


def _reset_gate(need: Need) -> Gate:
    """Automatic reset only where a restart can hurt nobody (NFPA 70 430.43)."""
    facts, key, name = need.circuit.protection, "reset", "Reset"
    source = "NFPA 70:2023 430.43; IEC 60204-1:2016 7.3.1"
    if facts.reset != "automatic":
        said = "Manual" if facts.reset else "As advised, manual"
        return plain_gate(key, name, Verdict.OPEN, f"{said}: it stays off until someone has looked.", source)
    if facts.restart_harmless == "yes":
        text = "Automatic, the restart said to be harmless: it may start without warning."
        return plain_gate(key, name, Verdict.AJAR, text, source, remedy="Mark the machine: starts automatically.")
    text = "Automatic reset on a machine whose restart may injure."
    return plain_gate(key, name, Verdict.SHUT, text, source, remedy="Manual reset.")


def _notes(sheet: Sheet, need: Need) -> None:
    family = need.circuit.plate.family
    if family is Family.SINGLE:
        sheet.notes.append("Single-phase: one element, in either ungrounded line (430.37).")
    elif family is not Family.DC and has_poles(need.circuit.plate.kind):
        sheet.notes.append("Three phases: an element in each, and a relay that trips sooner when one is lost.")
    if need.circuit.protection.thermistor == "yes":
        sheet.notes.append(
            "Thermistors act in addition: they see the winding itself, blocked cooling too; not a stall's first moment."
        )
