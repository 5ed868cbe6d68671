"""Short-circuit device, disconnect and contactor by IEC 60269, 60898, 60947 and 60364-4-43."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import partial
from typing import Final

from vinegate.core.grade import Gate, at_least, confirm, unknown
from vinegate.core.numbers import write
from vinegate.core.protection.bands import MINIATURE, Band, band_of, gg_ratings
from vinegate.core.protection.facts import DEVICES_IEC
from vinegate.core.protection.hold import hold, least_holding, surely_holds, surer
from vinegate.core.protection.in_service import input_gate, stated_opening
from vinegate.core.protection.need import Device, Need, with_protection
from vinegate.core.protection.ratings import next_up, ratings_in
from vinegate.core.protection.selectivity import upstream_gate
from vinegate.core.protection.sizing import (
    clears_gates,
    coordination_gate,
    directions,
    electronic_starter,
    fuse_rating_a,
    fuses_fit,
    holds_gate,
    in_sight_gate,
    lacks_current,
    nothing,
    overtemperature_gate,
    rating_gate,
    table,
)
from vinegate.core.protection.straight import fit_for_it, no_larger
from vinegate.core.rules.iec.conductors import grounding
from vinegate.core.sheet import Sheet
from vinegate.core.start.way import OFTEN, Windings, star_share
from vinegate.core.tables import load
from vinegate.core.working import Figure

_NAMES: Final = dict(DEVICES_IEC)
_RULES: Final = {
    "gg": "IEC 60364-4-43:2008 434; IEC 60269-1 gG",
    "am": "IEC 60364-4-43:2008 434; IEC 60269-2 aM",
    "motor-breaker": "IEC 60364-4-43:2008 434; IEC 60947-2, -4-1",
    **dict.fromkeys(MINIATURE, "IEC 60364-4-43:2008 434; IEC 60898-1"),
}
_CLEARS_S: Final = 5.0
_CLEARS: Final = "IEC 60364-4-43:2008 434.5.2"
_NAME: Final = "Short-circuit device"


def ratings_of(kind: str) -> Sequence[float]:
    """Ratings a device of this kind is made in."""
    if kind in ("gg", "am"):
        return gg_ratings()
    return ratings_in("mcb" if kind in MINIATURE else "iec")


def short_circuit(sheet: Sheet, need: Need) -> tuple[Device, Band | None]:
    """At least the rated current; the least rating that holds the start."""
    protection, rated = need.circuit.protection, need.flows
    kind = protection.device_iec or "gg"
    rule = _RULES[kind]
    if rated is None:
        return nothing("device", _NAME, rule, lacks_current(sheet, need, "rated current")), None
    asked = table(sheet, "device_pct", f"{_NAME}, of the rated current at least", "k_d", 100.0, "%", rule)
    flows = _flows(need, rated)
    least = sheet.percent("device_least", f"{_NAME}, not below", "I_d", asked, flows)
    advised, band = _advised(need, kind, least.value)
    rating = advised
    if protection.rating_a is not None:
        rating, band = protection.rating_a, _band(need, kind, protection.rating_a)
    if band is not None:
        table(sheet, "device_rating", "Rating taken", "I_n", rating, "A", band.source)
    gates = (
        _within(kind, rating, least, flows, entered=protection.rating_a is not None),
        holds_gate(need, band, f"{rating:g} A"),
        *clears_gates(need, band, _CLEARS_S, _CLEARS),
        *stated_opening(need, _CLEARS_S),
        *input_gate(need),
        *((overtemperature_gate(need, "IEC 60034-11:2020; IEC TS 60034-25:2022"),) if need.way.converts else ()),
        rating_gate(need, "IEC 60364-4-43:2008 434.5.1"),
        *no_larger(need, rating, "IEC 60947-4-1:2018 8.2.5.1"),
        *fit_for_it(need, kind == "motor-breaker" or kind in MINIATURE, "IEC 60947-2:2016 annex H"),
        coordination_gate(need, "IEC 60947-4-1:2018 8.2.5.1; the maker's tested combination"),
    )
    return Device(
        key="device", name=f"Short circuit: {_NAMES[kind]}", kind=_NAMES[kind], current=flows, rule=rule,
        asked=f"≥ {write(least.value)} A{need.also}", advised=f"{advised:g} A", chosen=f"{rating:g} A", gates=gates,
        path="protection.rating", take="" if rating == advised else f"{advised:g} A",
    ), band  # fmt: skip


def other_kinds(need: Need) -> Mapping[str, Need]:
    """Those usual of motors: types B and C of small breakers are said where they are used."""
    facts = need.circuit.protection
    if facts.rating_a is None or facts.device_iec is not None:
        return {}
    kinds = ("am", "motor-breaker", *(("mcb-d",) if facts.rating_a <= ratings_of("mcb-d")[-1] else ()))
    return {_NAMES[kind]: with_protection(need, device_iec=kind) for kind in kinds}


def _band(need: Need, kind: str, rating: float) -> Band | None:
    magnetic = need.circuit.start.instantaneous_trip_a if kind == "motor-breaker" else None
    return band_of(kind, rating, magnetic_a=magnetic, trip=need.circuit.protection.trip_class or "10")


def _advised(need: Need, kind: str, least: float) -> tuple[float, Band | None]:
    """The least rating that surely holds the start, where all that hangs on it stands no worse than with the least that
    holds it at all; the first above the rated current while that is not known.
    """
    most = need.circuit.protection.drive_device_a or math.inf
    ratings = [rating for rating in ratings_of(kind) if rating >= least - 1e-9] or [ratings_of(kind)[-1]]
    ratings = [rating for rating in ratings if rating <= most] or ratings[:1]
    rating = least_holding(need, ratings, lambda rating: _band(need, kind, rating)) or ratings[0]
    band = _band(need, kind, rating)
    if band is None or hold(need, band).holds is None or all(surely_holds(one, band) for one in need.everywhere):
        return rating, band
    now, larger = _hanging_on(need, band), [one for one in ratings if one > rating]

    def fits(other: Band) -> bool:
        return all(rank <= now.get(gate, rank) for gate, rank in _hanging_on(need, other).items())

    sure = surer(need, larger, partial(_band, need, kind), fits)
    return (rating, band) if sure is None else (sure, _band(need, kind, sure))


def _hanging_on(need: Need, band: Band) -> dict[tuple[str, str], int]:
    """What else hangs on the device, by where and gate: its switch, clearing a fault, the one upstream, the earth-fault
    loop, what the run bears.
    """
    size = need.circuit.wiring.size
    found: dict[tuple[str, str], int] = {}
    for one in need.everywhere:
        gates = [*clears_gates(one, band, _CLEARS_S, _CLEARS), *upstream_gate(one, band)]
        gates += disconnect(Sheet("protection", ""), one, band).gates
        if size is not None and load("conductor_iec").find(size=size) is not None:
            gates += grounding(Sheet("wiring", ""), one, band, size).gates
        found |= {(one.where, gate.key): gate.verdict.rank for gate in gates}
    return found


def _flows(need: Need, plate: Figure) -> Figure:
    """What the device and the switch carry: the motor's rated current, or the larger rated input of its drive."""
    return need.into_drive if need.into_drive is not None and need.into_drive.value > plate.value else plate


def _said(flows: Figure) -> str:
    return "the drive's rated input" if flows.key == "protection.drive_input" else "rated current"


def _within(kind: str, rating: float, least: Figure, flows: Figure, *, entered: bool) -> Gate:
    said = "" if entered else "As advised: "
    text = f"{said}{rating:g} A, {_said(flows)} {write(least.value)} A."
    return at_least(
        "protection.device", "Device carries the motor", rating, least.value, sentence=text, source=_RULES[kind],
        unit="A", remedy=f"At least {next_up(least.value, ratings_of(kind)):g} A.",
    )  # fmt: skip


def disconnect(sheet: Sheet, need: Need, band: Band | None) -> Device:
    """At least the rated current in AC-23, and its fuses' rating; IEC 60204-1 asks for one that can be locked."""
    rule = "IEC 60947-3:2020 AC-23; IEC 60204-1:2016 5.3"
    rated = need.flows
    if rated is None:
        return nothing("disconnect", "Disconnect", rule, lacks_current(sheet, need, "rated current"))
    fuse_a, flows = fuse_rating_a(band), _flows(need, rated)
    advised = next_up(max(flows.value, fuse_a), ratings_in("iec"))
    rating = need.circuit.protection.disconnect_a or advised
    said = "" if need.circuit.protection.disconnect_a else "As advised: "
    text = f"{said}{rating:g} A in AC-23, {_said(flows)} {flows.shown}."
    gates = (
        at_least(
            "protection.disconnect", "Disconnect", rating, flows.value, sentence=text, source=rule, unit="A",
            remedy=f"At least {advised:g} A in AC-23.",
        ),
        *fuses_fit(rating, fuse_a, advised, "IEC 60947-3:2020, fuse-combination units"),
        in_sight_gate(need, "IEC 60204-1:2016 5.4, 5.6"),
    )  # fmt: skip
    return Device(
        key="disconnect",
        name="Disconnect",
        current=flows,
        rule=rule,
        asked=f"≥ {flows.shown}",
        advised=f"{advised:g} A",
        chosen=f"{rating:g} A",
        gates=gates,
        path="protection.disconnect",
        take="" if rating == advised else f"{advised:g} A",
    )


def starter(sheet: Sheet, need: Need) -> Device:
    """Contactor by utilization category: AC-3, AC-4 jogged or plugged, AC-2 through rings; star-delta by shares."""
    rule, plate = "IEC 60947-4-1:2018 table 1", need.flows_each
    if need.way.electronic:
        return electronic_starter(need, "IEC 60947-4-2:2020; IEC 61800-2:2021")
    if plate is None:
        return nothing("starter", "Contactor", rule, lacks_current(sheet, need, "rated current"))
    category = _category(need)
    shares = _shares_of(need)
    asked = []
    for number, (name, _, share, symbol) in enumerate(shares, start=1):
        each = f"Contactor, {name}"
        percent = table(sheet, f"contactor_pct_{number}", each, symbol, share, "%", _share_source(need))
        asked.append(sheet.percent(f"contactor_{number}", f"{each}, at least", f"I_k{number}", percent, plate))
    advised = next_up(asked[0].value, ratings_in("iec"))
    entered = need.circuit.protection.contactor_a
    rating = entered or advised
    listed, brief = (_listed_shares(shares, asked, name) for name in (0, 1))
    volts = need.rated.volts.value if need.rated.volts else _USUAL_V
    at = f" at {write(volts)} V" if volts > _SAME_V else ""
    text = f"{'' if entered else 'As advised: '}{rating:g} A in {category}{at}; asked: {listed}."
    gate = at_least(
        "protection.starter", "Contactor", rating, asked[0].value, sentence=text, source=rule, unit="A",
        remedy=f"At least {advised:g} A in {category}{at}.",
    )  # fmt: skip
    whole = f"at least {next_up(plate.value, ratings_in('iec')):g} A in {category}{at}"
    line_a = rating * 100 / shares[0][2]
    beside = (*_opens_a_stall(need, category, line_a, plate.value), *directions(need, rule, whole))
    return Device(
        key="starter",
        name=f"Contactor, {category}",
        current=plate,
        rule=f"{rule}: {_share_source(need)}",
        asked=f"≥ {brief}",
        advised=f"{advised:g} A",
        chosen=f"{rating:g} A",
        gates=(gate, *(_contactor_volts(need, volts, category) if entered else ()), *beside),
        path="protection.contactor",
        take="" if rating == advised else f"{advised:g} A",
    )


def _category(need: Need) -> str:
    jogs = need.circuit.protection.jogging == "yes"
    if need.motor == "dc":
        return "DC-5" if jogs else "DC-3"
    if need.way.at_rings:  # its first step bounds what is made and broken, jogged or plugged too
        return "AC-2"
    return "AC-4" if jogs else "AC-3"


_Share = tuple[str, str, float, str]


def _listed_shares(shares: Sequence[_Share], asked: Sequence[Figure], name: int) -> str:
    """Amperes of each by its name, or by its short one: none where there is nothing to tell apart."""
    amps = [f"{write(figure.value, 3)} A" for figure in asked]
    return ", ".join(f"{one[name]} {each}".strip() for one, each in zip(shares, amps, strict=True))


def _shares_of(need: Need) -> tuple[_Share, ...]:
    if need.way.windings is Windings.WYE:
        star = math.floor(100 * _star_share(need))
        return (("line and delta", "", 58.0, "k_1"), ("star", "star", float(star), "k_2"))
    return (
        ("each half", "each half", 50.0, "k_1") if need.way.windings is Windings.HALF else ("line", "", 100.0, "k_1"),
    )


def _star_share(need: Need) -> float:
    return star_share(need.circuit.start.starts_per_hour)


_USUAL_V: Final = 400.0
_SAME_V: Final = 440.0


def _contactor_volts(need: Need, volts: float, category: str) -> tuple[Gate, ...]:
    """A contactor's amperes hold for its volts: at 690 V it makes and breaks fewer than at 400 V."""
    said = need.circuit.protection.contactor_volts_v
    key, name, source = "protection.contactor_volts", "Contactor rated at these volts", "IEC 60947-4-1:2018 5.3.2, 5.4"
    if volts <= _SAME_V and said is None:
        return ()
    if said is None:
        return (unknown(key, name, (f"the volts at which the contactor has its {category} amperes",)),)
    text = f"Its {category} amperes are for {write(said)} V, the motor runs on {write(volts)} V."
    return (
        at_least(
            key, name, said, volts * _NEAR, sentence=text, source=source, unit="V",
            remedy=f"A contactor with these amperes in {category} at {write(volts)} V.",
        ),
    )  # fmt: skip


_NEAR: Final = 0.95
_BREAKS: Final = 8.0
"""Times its amperes that a contactor of AC-3 is tested to open (IEC 60947-4-1:2018 table 7)."""


def _opens_a_stall(need: Need, category: str, line_a: float, rated_a: float) -> tuple[Gate, ...]:
    """Machines of the best classes draw more at rest than usual ones: AC-3e is for them, or a larger contactor."""
    at_rest = need.current.value if need.current is not None else 0.0
    if category != "AC-3" or at_rest <= _BREAKS * rated_a * _NEARLY:
        return ()
    text = (
        f"At rest it draws {write(at_rest, 3)} A, {write(at_rest / rated_a, 2)} times its rated current; a contactor "
        f"of AC-3 is tested to open {_BREAKS:.0f} times its own, {write(_BREAKS * line_a, 3)} A in the line. Else one "
        "of AC-3e."
    )
    done = _BREAKS * line_a >= at_rest
    return (confirm("protection.category", "Contactor opens a stall", done, text, "IEC 60947-4-1:2018 table 7"),)


_NEARLY: Final = 1.001


def _share_source(need: Need) -> str:
    if need.way.windings is Windings.WYE:
        often = _star_share(need) > 1 / 3
        star = f"{'0.4' if often else '1/3'} in star (0.4 is usual above {OFTEN:.0f} starts an hour)"
        return f"star-delta: 1/√3 in line and delta, {star}"
    if need.way.windings is Windings.HALF:
        return "part winding: half of the rated current in each"
    return "the rated current"
