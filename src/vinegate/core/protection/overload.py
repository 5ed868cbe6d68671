"""The overload relay: what it is set to, where it stands, its class against start and stall, its reset."""

from __future__ import annotations

import math
from typing import Any, Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, check, rule, unknown
from vinegate.core.numbers import write, write_down
from vinegate.core.plate.kind import Family, has_poles
from vinegate.core.plate.protector import Protector, read_protector
from vinegate.core.plate.rated import Rated
from vinegate.core.protection.facts import PLACES
from vinegate.core.protection.need import Device, Need
from vinegate.core.protection.reset import reset_gates
from vinegate.core.protection.sizing import nothing
from vinegate.core.protection.soft_stop import soft_stop_gate
from vinegate.core.protection.stalled import advised_class, class_gate, heat_pct, slow_class, stall_gate
from vinegate.core.protection.unsaid_place import over_unsaid
from vinegate.core.records import dataclass
from vinegate.core.rules import OverloadRange, RuleSet
from vinegate.core.rules.protocol import OnceSaid
from vinegate.core.sheet import Sheet
from vinegate.core.start.way import Windings
from vinegate.core.turning import Turns
from vinegate.core.working import Figure, Provenance

_DIAL_TRIPS_PCT: Final = 125.0
_PLACES: Final = dict(PLACES)
_CALIBRATED_C: Final = 40.0
_TRIP_RISE_K: Final = 60.0
_SAME_K: Final = 5.0
_FAR_K: Final = 20.0
_ROUNDED: Final = 1.0005
_HOLDS: Final = 1.05  # IEC 60947-4-1:2018 table 2: it must not trip at so many times its setting
_FAR_BELOW: Final = 0.7


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
    if rated.drawn is None:
        wanted = ("plate.full_load_current", rules.words.full_load_current, None)
        sheet.needs(rated.lacking(wanted), "the overload setting")
        return None
    sheet.refer(rated.drawn)
    plate = circuit.plate
    found = rules.overload(sheet, rated.drawn, plate.service_factor, plate.temperature_rise_k)
    if rules.practice.by_trip_current and plate.service_factor is None and plate.temperature_rise_k is None:
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
    facts, by_rule = need.circuit.protection, rules.papers.overload
    if allowed is None or need.plate is None:
        lacks = need.rated.lacking(("plate.full_load_current", rules.words.full_load_current, None))
        row = nothing("overload", "Overload", by_rule, tuple(label for _, label in lacks))
        sheet.gates += row.gates
        return row, Overload(setting=None, line_a=None, dial_a=None, trip=facts.trip_class or "10")
    seen = _seen(sheet, need)
    by_elements = rules.practice.by_trip_current and facts.overload_habit == "element"
    advised = _advised(sheet, rules, allowed, need.plate, seen, by_elements=by_elements)
    setting = advised
    if facts.overload_a is not None:
        setting = sheet.given("set", "Overload set to", "I_s", facts.overload_a, "A", fact="protection.overload")
    share = seen.value / need.plate.value
    line_a = sheet.work(
        "line", "As line amperes", "I_l", setting.value / share, "A",
        formula=f"{setting.symbol}·{need.plate.symbol}/{seen.symbol}", inputs=(setting, need.plate, seen),
        source="its place undone",
    )  # fmt: skip
    dial_a = _motor_amperes(line_a.value, by_elements=by_elements)
    said = facts.trip_class
    trip, holds = (said, class_gate(need, said, dial_a)) if said else advised_class(need, dial_a)
    gates = [
        _setting_gate(need, rules, allowed, setting.value / share, by_rule, by_elements=by_elements),
        *_place_gate(need), *_band_gate(need, setting.value), holds, *_of_its_class(need, trip, dial_a),
        *_ambient_gate(need, setting.value), *reset_gates(need, rules),
    ]  # fmt: skip
    as_advised = write(setting.value, 3) == write_down(advised.value)
    if not as_advised or facts.element_high_a is not None:  # what is advised stands as it is advised
        gates = [
            *over_unsaid(gates, need, rules, lambda one: plan_overload(Sheet("overload", ""), one, rules, allowed)[0])
        ]
    sheet.gates += gates
    _notes(sheet, need, rules)
    asked = f"trips ≤ {allowed.normal.shown}" if rules.practice.by_trip_current else f"= {seen.shown}"
    row = _row(need, rules, trip, asked, "" if setting is advised else f"{write(setting.value, 3)} A", advised, gates)
    return row, Overload(setting=setting, line_a=line_a, dial_a=dial_a, trip=trip)


def _row(need: Need, rules: RuleSet, trip: str, asked: str, said: str, advised: Figure, gates: list[Gate]) -> Device:
    best = f"{write_down(advised.value)} A"
    set_to = said or best
    return Device(
        key="overload",
        name=f"Overload, class {trip}",
        current=need.plate,
        rule=f"{rules.papers.overload}, {_PLACES[need.circuit.protection.overload_place or 'line']}",
        asked=asked,
        advised=best,
        chosen=set_to,
        gates=tuple(gates),
        path="protection.overload",
        take="" if set_to == best else best,
    )


def _of_its_class(need: Need, trip: str, dial_a: float) -> tuple[Gate, ...]:
    """What its class holds besides the start."""
    return (*slow_class(need, trip), *soft_stop_gate(need, trip, dial_a), *stall_gate(need, trip, dial_a))


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
        source="plate" if stamped else "usual; the plate does not say", fact="plate.power_factor",
    )  # fmt: skip
    kvar = sheet.given(
        "capacitor", "Capacitors behind it", "Q", capacitor / 1000, "kvar", fact="protection.motor_capacitor"
    )
    u, i = need.rated.volts, need.plate
    sheet.refer(u)
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
    if not rules.practice.by_trip_current:
        return sheet.work(
            "advised", "Setting advised", "I_adv", seen.value, "A", formula=seen.symbol, inputs=(seen,),
            source="the rated current in its place",
        )  # fmt: skip
    if by_elements:
        return sheet.work(
            "advised", "Elements by trip current", "I_adv", allowed.normal.value * seen.value / plate.value, "A",
            formula=f"{allowed.normal.symbol}·{seen.symbol}/{plate.symbol}", inputs=(allowed.normal, seen, plate),
            source="NFPA 70:2023 430.32(A)(1), in its place",
        )  # fmt: skip
    return sheet.work(
        "advised", "Dial advised, in motor amperes", "I_adv",
        allowed.normal.value / 1.25 * seen.value / plate.value, "A",
        formula=f"{allowed.normal.symbol}/1.25·{seen.symbol}/{plate.symbol}", inputs=(allowed.normal, seen, plate),
        source="NFPA 70:2023 430.32(A)(1), for a relay that trips by 1.25 times its mark: read its instructions",
    )  # fmt: skip


def _setting_gate(
    need: Need, rules: RuleSet, allowed: OverloadRange, line_a: float, by_rule: str, *, by_elements: bool
) -> Gate:
    """What it trips at against what the rule set allows."""
    assert need.plate
    key, name, entered = "protection.setting", "Overload setting", need.circuit.protection.overload_a is not None
    said = "" if entered else "As advised: "
    if not rules.practice.by_trip_current:
        return _setting_iec(need, key, name, said, line_a, by_rule)
    trips = line_a if by_elements else 1.25 * line_a
    normal, top = allowed.normal.value, allowed.ceiling.value if allowed.ceiling else allowed.normal.value
    text = f"{said}trips at {write(trips, 3)} A in the line, {write(normal, 3)} A allowed."
    remedy = f"Trip at no more than {allowed.normal.shown}, in the line."
    common: dict[str, Any] = {"remedy": remedy, "value": trips, "limit": normal, "unit": "A", "margin": normal - trips}
    if allowed.if_said is not None and normal * _ROUNDED < trips <= allowed.if_said.most_a * _ROUNDED:
        return _by_its_mark(key, name, trips, normal, allowed.if_said, by_rule, remedy)
    if trips > top * _ROUNDED:
        text = f"Trips at {write(trips, 3)} A in the line, above the ceiling of {write(top, 3)} A."
        return rule(key, name, False, text, by_rule, **common)
    if trips > normal * _ROUNDED:
        share = heat_pct(need, need.circuit.protection.trip_class or "10", normal / 1.25)
        if share is None:
            return unknown(key, name, need.course_lacks)
        text = f"Trips at {write(trips)} A: above the usual {write(normal)} A, allowed to {write(top, 3)} A only "
        text += f"if it will not start. {'It does not.' if share > 100 else 'It does.'}"
        to_the_top = {"limit": top, "margin": top - trips} if share > 100 else {}
        return rule(key, name, share > 100, text, by_rule, **common | to_the_top)
    if trips < need.plate.value:
        text = f"Trips at {write(trips, 3)} A: it may open at full load."
        below = {"limit": need.plate.value, "margin": trips - need.plate.value}
        return rule(key, name, False, text, by_rule, **common | below)
    return rule(key, name, True, text, by_rule, **common)


def _by_its_mark(key: str, name: str, trips: float, normal: float, once: OnceSaid, by_rule: str, remedy: str) -> Gate:
    """Above what is allowed while a fact of the plate is not said, and within it once that is."""
    turns = Turns(path=once.path, label=once.label, passes=f"{once.text} or more", passes_as=once.text, fails="less",
                  fails_as="1")  # fmt: skip
    text = f"Trips at {write(trips, 3)} A in the line: {write(normal, 3)} A are allowed without a {once.label} of "
    text += f"{once.text}. Passes where it is {once.text} or more: {write(once.most_a, 3)} A."
    return check(key, name, turns, text, by_rule, remedy=remedy)


def _setting_iec(need: Need, key: str, name: str, said: str, line_a: float, by_rule: str) -> Gate:
    """Set to the rated current: above it the machine is not protected, well below it trips at full load."""
    assert need.plate
    rated = need.plate.value
    text = f"{said}{write(line_a, 3)} A in line amperes, rated {need.plate.shown}."
    remedy = f"Set it to {need.plate.shown}."
    common: dict[str, Any] = {"remedy": remedy, "value": line_a, "limit": rated, "unit": "A", "margin": rated - line_a}
    if line_a < rated / _HOLDS:
        common |= {"limit": rated / _HOLDS, "margin": line_a - rated / _HOLDS}
    if rated / _HOLDS <= line_a <= rated * _ROUNDED:
        return rule(key, name, True, text, by_rule, **common)
    if line_a > rated * _HOLDS or line_a < rated * _FAR_BELOW:
        text += " It may trip at full load." if line_a < rated else " It lets the machine be overloaded."
        return rule(key, name, False, text, by_rule, **common)
    over = line_a > rated
    turns = Turns(
        path="protection.overload",
        label="overload setting",
        passes=f"{'up to' if over else 'from'} {write(rated if over else rated / _HOLDS, 3)} A in the line",
        fails=f"above {write(rated * _HOLDS, 3)} A" if over else f"below {write(rated * _FAR_BELOW, 3)} A",
        passes_as=f"{write(_in_place(need, rated), 4)} A",
        fails_as=f"{write(_in_place(need, rated * (_HOLDS + 0.02) if over else rated * _FAR_BELOW * 0.97), 4)} A",
    )
    text += f" Passes for any {turns.label} {turns.passes}."
    return check(key, name, turns, text, by_rule, remedy=remedy)


def _in_place(need: Need, line_a: float) -> float:
    """Line amperes as the relay's own place sees them."""
    place = need.circuit.protection.overload_place
    return line_a / 3**0.5 if place == "delta" else line_a / 2 if place == "half" else line_a


def _place_gate(need: Need) -> tuple[Gate, ...]:
    """A place that this machine, started this way, does not have."""
    place, halves = need.circuit.protection.overload_place, need.way.windings is Windings.HALF
    wrong = {
        "delta": "" if need.runs_in_delta else "The machine does not run in a delta whose windings are brought out.",
        "half": "" if halves else "There are no half windings of their own when it starts this way.",
        "capacitor": "" if need.circuit.protection.motor_capacitor else "No capacitors at the motor are given.",
    }.get(place or "", "")
    if not wrong:
        return ()
    remedy = "Put it in the line, or give what is missing."
    return (rule("protection.place", "Overload's place", False, wrong, "where its current flows", remedy=remedy),)


def _band_gate(need: Need, setting: float) -> tuple[Gate, ...]:
    """The setting inside the element's or dial's own band, where that is given."""
    facts = need.circuit.protection
    if facts.element_low_a is None and facts.element_high_a is None:
        return ()
    low, high = facts.element_low_a or 0.0, facts.element_high_a
    inside = setting >= low and (high is None or setting <= high)
    span = f"from {write(low, 3)} A" + (f" to {write(high, 3)} A" if high is not None else " up")
    text = f"{write(setting, 3)} A in a band {span}."
    remedy = "Another relay or element whose band holds the setting."
    return (rule("protection.band", "Setting in its band", inside, text, "the relay's marking", remedy=remedy),)


def _ambient_gate(need: Need, setting: float) -> tuple[Gate, ...]:
    """A relay without compensation feels its own ambient, not the motor's."""
    facts = need.circuit.protection
    if facts.compensated != "no":
        return ()
    here, there = facts.relay_ambient_c, facts.motor_ambient_c
    key, name = "protection.ambient", "Ambient at the overload"
    if here is None or there is None:
        missing = (("ambient at the overload", here), ("ambient at the motor", there))
        return (unknown(key, name, tuple(label for label, value in missing if value is None)),)
    room = max(_TRIP_RISE_K + _CALIBRATED_C - here, 1.0) / _TRIP_RISE_K
    trips = 100 * room**0.5
    text = f"Not compensated, at {here:g} °C: it trips at about {trips:.0f} % of what {write(setting, 3)} A says."
    source = "rise goes with current squared; about 60 K at trip, calibrated at 40 °C"
    remedy = "Correct the setting by the maker's curve, or take a compensated relay."
    apart = abs(here - there)
    if apart <= _SAME_K:
        text += " The motor is no cooler or hotter: it follows it."
        return (rule(key, name, True, text, source),)
    if apart > _FAR_K:
        return (rule(key, name, False, text, source, remedy=remedy),)
    turns = Turns(
        path="protection.relay_ambient", label="ambient at the overload", passes=f"within {_SAME_K:g} K of the motor's",
        fails=f"more than {_FAR_K:g} K from it", passes_as=f"{there:g} °C", fails_as=f"{there + _FAR_K + 2:g} °C",
    )  # fmt: skip
    return (check(key, name, turns, f"{text} Passes for any {turns.label} {turns.passes}.", source, remedy=remedy),)


# NFPA 70:2023 430.32(A)(2): ultimate trip of a thermal protector, of the table's full-load current, by amperes up to.
_PROTECTOR_PCT: Final = ((9.0, 170.0), (20.0, 156.0), (math.inf, 140.0))


def _protector(sheet: Sheet, need: Need) -> None:
    """430.32(A)(2): a protector in the motor stands for the overload where its ultimate trip is low enough."""
    said = need.circuit.plate.thermal_protection
    protector = read_protector(said)
    if protector is None or not protector.watches or protector is Protector.SENSORS or need.table is None:
        return
    share = next(percent for upto, percent in _PROTECTOR_PCT if need.table.value <= upto)
    source = "NFPA 70:2023 430.32(A)(2)"
    percent = sheet.given("protector_pct", "Protector in the motor, ultimate trip at most", "k_p", share, "%",
                          provenance=Provenance.TABLE, source=source)  # fmt: skip
    most = sheet.percent("protector", "Protector in the motor trips by", "I_p", percent, need.table)
    sheet.notes.append(
        f"The plate names a thermal protector ({said}): listed with the motor it may stand for a separate overload "
        f"where it trips by {most.shown} (430.32(A)(2)); here the overload is in addition."
    )


def _notes(sheet: Sheet, need: Need, rules: RuleSet) -> None:
    family = need.circuit.plate.family
    if family is Family.SINGLE:
        sheet.notes.append("Single-phase: one element, in either ungrounded line (430.37).")
    elif family is not Family.DC and has_poles(need.circuit.plate.kind):
        sheet.notes.append("Three phases: an element in each, and a relay that trips sooner when one is lost.")
    if rules.practice.protectors:
        _protector(sheet, need)
    if need.way.windings is Windings.WYE and need.circuit.protection.overload_place in (None, "line") and need.plate:
        inside = write(need.plate.value / 3**0.5, 3)
        sheet.notes.append(
            f"Usually better inside the delta, set to {inside} A: there it sees the windings' own current in both "
            "connections, and a stall in the first at its true share."
        )
    if need.circuit.protection.thermistor == "yes":
        sheet.notes.append(
            "Thermistors act in addition: they see the winding itself, blocked cooling too; not a stall's first moment."
        )
