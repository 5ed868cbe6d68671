"""Short-circuit device, disconnect and starter by NFPA 70 article 430 and NEMA ICS 2."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from vinegate.core.fed import volts_of
from vinegate.core.grade import Gate, at_least, changes, confirm, from_answer, rule, unknown
from vinegate.core.numbers import horsepower, write
from vinegate.core.protection.bands import Band, band_of
from vinegate.core.protection.facts import DEVICES_NEC
from vinegate.core.protection.hold import holds_all
from vinegate.core.protection.in_service import carries_gate, draws_a, input_gate, stated_opening
from vinegate.core.protection.need import Device, Need, with_protection
from vinegate.core.protection.ratings import next_down, next_up, ratings_in, standard_ratings
from vinegate.core.protection.sizing import (
    clears_gates,
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
from vinegate.core.protection.straight import MARKED, no_larger, straight_rated
from vinegate.core.rules.nec.advised import advised_of, magnetic
from vinegate.core.rules.nec.table_current import column_volts
from vinegate.core.sheet import Sheet
from vinegate.core.start.way import Windings
from vinegate.core.tables import load
from vinegate.core.working import Figure

_COLUMN: Final = {
    "time-delay": "time_delay",
    "fuse": "fuse",
    "class-cc": "fuse",
    "inverse-time": "inverse_time",
    "instantaneous": "instantaneous",
}
_RULE: Final = "NFPA 70:2023 430.52"
_NAMES: Final = dict(DEVICES_NEC)
_CLEARS_S: Final = 5.0
_MOST_HP: Final = {False: 100.0, True: 40.0}  # 430.109(E): alternating, direct current
_HALF: Final = 0.5
_CLASS_CC_A: Final = 30.0
_LARGE_FUSE: Final = (600.0, 3.0)  # fuses of the 601 to 6000 A classification: at most 300 % (430.52(C)(1) exception 2)


def short_circuit(sheet: Sheet, need: Need) -> tuple[Device, Band | None]:
    """430.52: percent of the table's current, next standard size up; more where it does not hold the start."""
    kind = need.circuit.protection.device_nec or "time-delay"
    name = _NAMES[kind]
    if need.sizing is None:
        lacks = lacks_current(sheet, need, "full-load amperes")
        return nothing("device", "Short-circuit device", f"{_RULE}, percent of the table's current", lacks), None
    usual, usual_a, most, most_a = _limits(sheet, need, kind)
    advised = advised_of(need, kind, usual_a, most_a)
    entered = need.circuit.protection.rating_a
    rating = entered if entered is not None else advised
    band = band_of(kind, rating, magnetic_a=magnetic(need, kind, rating))
    gates = (
        _within(need, kind, rating, usual_a, most_a, entered=entered is not None),
        *([_listed(need)] if kind == "instantaneous" else _carries(need, rating, entered=entered is not None)),
        *_marked(sheet, need, rating),
        holds_gate(need, band, f"{rating:g} A"),
        *clears_gates(need, band, _CLEARS_S, "kept from NFPA 70:2023 110.10; 5 s as a usual bound"),
        *stated_opening(need, _CLEARS_S),
        rating_gate(need, "NFPA 70:2023 110.9, 110.10, 430.83"),
        *straight_rated(need, kind in ("inverse-time", "instantaneous"), "NFPA 70:2023 240.85, 430.83(E)"),
    )
    row = Device(
        key="device", name=f"Short circuit: {name}", kind=name, current=need.sizing,
        rule=f"{_RULE}: {usual.value:g} %, next standard size; most {most.value:g} %",
        asked=f"≤ {usual_a:g} A{need.also}", advised=f"{advised:g} A", chosen=f"{rating:g} A", gates=gates,
        path="protection.rating", take="" if rating == advised else f"{advised:g} A",
    )  # fmt: skip
    return row, band


def other_kinds(need: Need) -> Mapping[str, Need]:
    """A fuse's or a breaker's rating: the number at an instantaneous-trip breaker is its setting."""
    facts = need.circuit.protection
    if facts.rating_a is None or facts.device_nec is not None:
        return {}
    kinds = ("fuse", "inverse-time", *(("class-cc",) if facts.rating_a <= _CLASS_CC_A else ()))
    return {_NAMES[kind]: with_protection(need, device_nec=kind) for kind in kinds}


def _noted(need: Need, kind: str, half: float) -> str:
    note = ". Half of it for each half winding (430.4)." if half < 1 else ""
    if half < 1 and _single(need):
        note = ". Half of it, also where one device serves both halves: only if it lets the motor start (430.4)."
    if kind == "instantaneous" and need.motor == "design_b":
        note += f"{'' if note else '.'} Design B is taken as energy-efficient; an older one: 800 %, at most 1300 %."
    return note


def _limits(sheet: Sheet, need: Need, kind: str) -> tuple[Figure, float, Figure, float]:
    """Percentages on the sheet and the ratings they lead to: usual and largest."""
    assert need.sizing
    found, column = load("short_circuit_nec"), _COLUMN[kind]
    row = found.find(motor=need.motor)
    assert row is not None
    key = f"most_{column}"
    if kind == "inverse-time":
        key += "_to_100" if need.sizing.value <= 100 else "_above"
    if kind == "time-delay" and _single(need):
        return _single_fuse(sheet, need)
    half = _HALF if need.way.windings is Windings.HALF else 1.0
    note = _noted(need, kind, half)
    usual = table(
        sheet, "device_pct", f"Short-circuit device, usual{', each half' if half < 1 else ''}", "k_d",
        half * float(row[column]), "%", f"{found.cite}, {row['said']}{note}",
    )  # fmt: skip
    most = table(
        sheet, "device_most_pct", "the same, where it does not start otherwise", "k_m", half * float(row[key]), "%",
        f"{_RULE}(C)(1), exceptions{note}",
    )  # fmt: skip
    usual_work = sheet.percent("device_usual", "Short-circuit device, computed", "I_d", usual, need.sizing)
    most_work = sheet.percent("device_most", "Short-circuit device, not above", "I_dm", most, need.sizing)
    if kind == "instantaneous":
        return usual, round(usual_work.value), most, round(most_work.value)
    ratings = standard_ratings(fuse=kind != "inverse-time")
    usual_a = next_up(usual_work.value, ratings)
    most_a = max(next_down(most_work.value, ratings), usual_a)
    upto, times = _LARGE_FUSE
    if kind != "inverse-time" and most_a > upto:
        most_a = max(min(most_a, max(next_down(times * need.sizing.value, ratings), upto)), usual_a)
    for figure_key, text, symbol, value, source in (
        ("device_rating", "Next standard rating", "I_n", usual_a, "NFPA 70:2023 240.6(A); 430.52(C)(1), next size up"),
        ("device_rating_most", "Largest standard rating", "I_nm", most_a, "NFPA 70:2023 240.6(A), not above"),
    ):
        table(sheet, figure_key, text, symbol, value, "A", source)
    return usual, usual_a, most, most_a


def _single(need: Need) -> bool:
    return need.way.windings is Windings.HALF and need.circuit.protection.halves == "single"


def _single_fuse(sheet: Sheet, need: Need) -> tuple[Figure, float, Figure, float]:
    """430.4: one time-delay fuse for both half windings, at most 150 % of the motor's current."""
    assert need.sizing
    most = table(
        sheet,
        "device_pct",
        "One time-delay fuse for both halves, at most",
        "k_d",
        _SINGLE_PCT,
        "%",
        "NFPA 70:2023 430.4",
    )
    worked = sheet.percent("device_usual", "Short-circuit device, not above", "I_d", most, need.sizing)
    rating = next_down(worked.value, standard_ratings(fuse=True))
    table(sheet, "device_rating", "Largest standard rating", "I_n", rating, "A", "NFPA 70:2023 240.6(A), not above")
    return most, rating, most, rating


_SINGLE_PCT: Final = 150.0


def _within(need: Need, kind: str, rating: float, usual_a: float, most_a: float, *, entered: bool) -> Gate:
    """The rating against 430.52: above the usual one only where that does not hold the start."""
    key, name = "protection.device", "Device within the rule"
    if kind == "class-cc" and rating > _CLASS_CC_A:
        text = f"{rating:g} A: class CC fuses end at {_CLASS_CC_A:g} A."
        return rule(key, name, False, text, "UL 248-4", remedy="A time-delay fuse of class J or RK.", limit=_CLASS_CC_A)
    what, remedy = "Set" if kind == "instantaneous" else "Rated", ""
    common: dict[str, Any] = {"value": rating, "limit": usual_a, "margin": usual_a - rating, "unit": "A"}
    if rating <= usual_a:
        text = f"{what} {rating:g} A, {usual_a:g} A allowed."
        return rule(key, name, True, text if entered else f"As advised: {text}", _RULE, **common)
    if rating > most_a:
        text = f"{what} {rating:g} A, above the largest allowed, {most_a:g} A."
        remedy = f"Not above {usual_a:g} A."
        if most_a > usual_a:
            remedy = f"Not above {usual_a:g} A; up to {most_a:g} A only where it does not start otherwise."
        if need.way.windings is Windings.HALF:
            remedy += " Each half winding has its own device, at half; one time-delay fuse for both at most 150 %."
        return rule(key, name, False, text, _RULE, remedy=remedy, **common)
    return _above_usual(need, kind, rating, usual_a, most_a)


def _above_usual(need: Need, kind: str, rating: float, usual_a: float, most_a: float) -> Gate:
    """430.52(C)(1) exception 2: only where the usual rating does not let the motor start; no reason alone passes."""
    key, name = "protection.device", "Device within the rule"
    what = f"{'Set' if kind == 'instantaneous' else 'Rated'} {rating:g} A"
    band, source = band_of(kind, usual_a, magnetic_a=magnetic(need, kind, usual_a)), f"{_RULE}(C)(1), exceptions"
    holds, remedy = holds_all(need.everywhere, band) if band is not None else None, f"Take {usual_a:g} A."
    if holds is None and need.circuit.protection.exception == "start":
        text = f"{what}: {usual_a:g} A does not hold the start, as stated; the start is not known here."
        return from_answer(key, name, changes(text, source), remedy="Supply, machine and load: then it is judged.")
    if holds is None:
        return unknown(key, name, (f"whether {usual_a:g} A holds the start: supply, machine and load",))
    text = f"{what}, above the usual {usual_a:g} A, which holds the start."
    if not holds:
        text = f"{what}: {usual_a:g} A does not hold the start, up to {most_a:g} A allowed."
    limit = usual_a if holds else most_a
    return rule(key, name, not holds, text, source, remedy=remedy, value=rating, limit=limit, margin=limit - rating,
                unit="A")  # fmt: skip


def _carries(need: Need, rating: float, *, entered: bool) -> tuple[Gate, ...]:
    """430.52 sets no least rating: what a device carries does."""
    least = next_up(draws_a(need) or 0.0, standard_ratings(fuse=True))
    source = "UL 248-1, UL 489: a device carries its rating"
    return carries_gate(need, rating, entered=entered, source=source, least=f"{least:g}")


def _marked(sheet: Sheet, need: Need, rating: float) -> tuple[Gate, ...]:
    """Never above the device marked on a starter or its overload, where one is (430.52(C)(2)), nor on a drive, that
    always has one (430.130(A)(2)): behind that the motor's temperature is watched."""
    if not need.way.converts:
        return tuple(no_larger(need, rating, f"{_RULE}(C)(2)"))
    marked = tuple(no_larger(need, rating, "NFPA 70:2023 430.130(A)(2)"))
    if not marked:
        lacks = sheet.needs([(MARKED[0], "the largest device marked on the drive")], "the device ahead")
        marked = (unknown(*MARKED, lacks),)
    return (*marked, *input_gate(need), overtemperature_gate(need, "NFPA 70:2023 430.126(A)"))


def _listed(need: Need) -> Gate:
    """An instantaneous-trip breaker protects only as part of a listed combination controller (430.52(C)(3))."""
    key, name = "protection.listed", "Listed combination"
    said = need.circuit.protection.listed
    if said is None:
        return unknown(key, name, ("whether the breaker is part of a listed combination",))
    text = "Adjustable, part of a listed combination with overload and starter."
    if said != "yes":
        text = "An instantaneous-trip breaker outside a listed combination is not allowed."
    remedy = "A listed combination controller, or another kind of device."
    return rule(key, name, said == "yes", text, f"{_RULE}(C)(3)", remedy=remedy)


def _switched(need: Need) -> tuple[Figure | None, str]:
    """What the switch is sized by: the table's current, or the larger rated input of a drive."""
    into, sizing = need.into_drive, need.sizing
    if into is not None and sizing is not None and into.value > sizing.value:
        return into, "NFPA 70:2023 430.128"
    return sizing, "NFPA 70:2023 430.110(A)"


def disconnect(sheet: Sheet, need: Need, band: Band | None) -> Device:
    """430.110, 430.128: at least 115 % of the table's current or a drive's input, and of its fuses' rating (430.57).

    430.102: in sight; 430.107, 110.25: lockable.
    """
    flows, rule_text = _switched(need)
    if flows is None:
        return nothing("disconnect", "Disconnect", rule_text, lacks_current(sheet, need, "full-load amperes"))
    share = table(sheet, "disconnect_pct", "Disconnect, at least", "k_s", 115.0, "%", rule_text)
    asked = sheet.percent("disconnect", "Disconnect, not below", "I_s", share, flows)
    fuse_a = fuse_rating_a(band)
    advised = next_up(max(asked.value, fuse_a), ratings_in("switch_nec"))
    entered = need.circuit.protection.disconnect_a
    rating = entered or advised
    isolating = need.horsepower is not None and need.horsepower > _MOST_HP[need.motor == "dc"]
    kind = "its horsepower must cover the motor's"
    if isolating:
        kind = "an isolating switch marked “Do not operate under load” is allowed (430.109(E))"
    text = f"{'' if entered else 'As advised: '}{rating:g} A switch, {write(asked.value)} A asked; {kind}."
    if not entered and fuse_a > asked.value:
        text = f"As advised: {rating:g} A, for {fuse_a:g} A fuses; {write(asked.value)} A asked; {kind}."
    gates = (
        at_least("protection.disconnect", "Disconnect", rating, asked.value, sentence=text, source=rule_text, unit="A",
                 remedy=f"At least {advised:g} A{'' if isolating else ', rated in horsepower'}."),
        *fuses_fit(rating, fuse_a, advised, "NFPA 70:2023 430.57"),
        in_sight_gate(need, "NFPA 70:2023 430.102(B), 110.25"),
    )  # fmt: skip
    return Device(
        key="disconnect",
        name="Disconnect",
        current=flows,
        rule=f"{rule_text}: 115 %",
        asked=f"≥ {write(asked.value)} A",
        advised=f"{advised:g} A",
        chosen=f"{rating:g} A",
        gates=gates,
        path="protection.disconnect",
        take="" if rating == advised else f"{advised:g} A",
    )


def starter(sheet: Sheet, need: Need) -> Device:
    """The least NEMA size that carries the horsepower at these volts, for this way to start and duty."""
    cite, facts, key = load("starter_nema").cite, need.circuit.protection, "protection.starter"
    hp, volts = need.horsepower, need.rated.volts
    if need.way.electronic:
        return electronic_starter(need, "NFPA 70:2023 430.83; UL 60947-4-2")
    amps = need.stamped or need.sizing
    if hp is None or volts is None or amps is None:
        return nothing("starter", "Starter", cite, lacks_current(sheet, need, "full-load amperes"))
    column = _starter_column(need, column_volts(volts.value, volts_of(need.job, need.circuit)))
    advised = least_nema(column, hp, amps.value) if column else None
    if column is None or advised is None:
        text = f"No NEMA size is tabulated for this: its maker's horsepower rating must reach {horsepower(hp, 3)}."
        gate = confirm(key, "Starter rated in horsepower", False, text, cite)
        return _starter_row(need, cite, horsepower(hp), "by maker", "by maker", (gate,), "")
    sizes = [row["size"] for row in load("starter_nema").rows]
    size = facts.starter_size or advised
    row = load("starter_nema").find(size=size)
    assert row is not None
    limit = load("starter_nema").number(row, column)
    said = "" if facts.starter_size else "As advised: "
    carries = horsepower(limit) if limit else "not rated for this"
    jogs = ", jogging" if facts.jogging == "yes" else ""
    text = f"{said}size {size} carries {carries}, {horsepower(hp, 3)} asked{jogs}."
    met = sizes.index(size) >= sizes.index(advised)
    gate = rule(key, "Starter", met, text, cite, remedy=f"Size {advised}.")
    take = "" if size == advised else advised
    turning = least_nema(column.replace("wye", "full").replace("part", "full"), hp, amps.value)
    gates = (gate, *directions(need, cite, f"size {turning}" if turning else ""))
    return _starter_row(need, cite, f"≥ {horsepower(hp)}", f"size {advised}", f"size {size}", gates, take)


def _starter_row(
    need: Need, cite: str, asked: str, advised: str, chosen: str, gates: tuple[Gate, ...], take: str
) -> Device:
    return Device(
        key="starter",
        name="Starter",
        current=need.plate,
        rule=cite,
        asked=asked,
        advised=advised,
        chosen=chosen,
        gates=gates,
        path="protection.starter_size",
        take=take,
    )


def _starter_column(need: Need, volts: float) -> str | None:
    """Column of the starter table."""
    near = next((v for v, top in ((200, 215), (230, 250), (460, 600)) if volts <= top), None)
    if need.motor == "single":
        return "single_115" if volts <= 127 else "single_230" if volts <= 250 else None
    if near is None or need.motor == "dc":
        return None
    if need.circuit.protection.jogging == "yes":
        return f"jog_{near}"
    return {Windings.WYE: f"wye_{near}", Windings.HALF: f"part_{near}"}.get(need.way.windings, f"full_{near}")


def least_nema(column: str, hp: float, amperes: float) -> str | None:
    """The least size whose horsepower in that column and, at full voltage, continuous amperes reach the motor's.

    >>> least_nema("full_460", 75, 92), least_nema("full_460", 50, 62), least_nema("jog_230", 7.5, 22)
    ('4', '3', '2')
    """
    found = load("starter_nema")
    for row in found.rows:
        limit = found.number(row, column)
        whole = column.startswith(("full", "jog", "single"))
        if limit is not None and limit >= hp * 0.995 and (not whole or float(row["amperes"]) >= amperes):
            return row["size"]
    return None
