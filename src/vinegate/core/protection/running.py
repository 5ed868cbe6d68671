"""Volts lost while running, and what the next size up would save."""

from __future__ import annotations

from typing import Final

from vinegate.core.fed import volts_of
from vinegate.core.grade import Gate, at_most, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.kind import THREE_PHASE, Family
from vinegate.core.plate.rated import USUAL_POWER_FACTOR
from vinegate.core.protection.drop_ahead import Own, with_feeders
from vinegate.core.protection.need import Need
from vinegate.core.records import replace
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.wiring.run import run_of
from vinegate.core.working import Provenance

_KG_PER_MM2_M: Final = {"copper": 0.00896, "aluminium": 0.0027}
_MM2_PER_CMIL: Final = 5.067075e-4


def running_drop(sheet: Sheet, need: Need, rules: RuleSet, *, remedy: bool = True) -> tuple[Gate, ...]:
    """`√3·I·(R·pf + X·√(1−pf²))` of the run at rated current, of the volts at its board."""
    if need.circuit.plate.family is Family.DC:
        return (_direct_drop(sheet, need, rules),)
    volts, run, plate = volts_of(need.job, need.circuit), need.run, need.drawn
    if volts is None or run is None or plate is None:
        return (unknown("protection.drop", "Drop while running", _lacks(need, rules, volts, plate)),)
    stamped = need.circuit.plate.power_factor
    pf = sheet.given(
        "pf", "Rated power factor", "pf", stamped or USUAL_POWER_FACTOR, "",
        provenance=Provenance.STAMPED if stamped else Provenance.ASSUMED,
        source="plate" if stamped else "usual; the plate does not say", fact="plate.power_factor",
    )  # fmt: skip
    three = need.circuit.plate.family in THREE_PHASE and not need.fed_by_one
    u = sheet.given("board_volts", "Volts at the board", "U_b", volts, "V")
    ways, said = (3**0.5, "√3") if three else (2.0, "2")
    value = ways * plate.value * (
        run.r.value * pf.value + run.x.value * (1 - pf.value**2) ** 0.5
    ) / volts / 10  # fmt: skip
    drop = sheet.work(
        "drop", "Drop while running", "u_d", value, "%",
        formula=f"{said}·{plate.symbol}·({run.r.symbol}·pf+{run.x.symbol}·√(1−pf²))/U_b/10",
        inputs=(plate, run.r, run.x, pf, u), source="definition; at rated current",
    )  # fmt: skip
    limit, source = rules.practice.drop_pct, rules.practice.drop_source
    factor = Taken(
        path="plate.power_factor", label="rated power factor", value=pf.value, low=pf.value if stamped else _PF_BAND[0],
        high=pf.value if stamped else _PF_BAND[1], how="" if stamped else "assumed", given=bool(stamped),
        possible=(0.05, 1.0),
    )  # fmt: skip
    times = ways * plate.value / volts / 10
    text = f"{drop.value:.1f} % at rated current, {limit:g} % recommended."
    own = at_most(
        "protection.drop", "Drop while running", drop.value, limit, sentence=text, source=source, unit="%",
        rests=(factor,), remedy=_larger(need, rules, drop.value, limit, times, pf.value) if remedy else "",
        room=lambda factor: limit - times * (run.r.value * factor + run.x.value * max(1 - factor**2, 0.0) ** 0.5),
    )  # fmt: skip
    return own, *with_feeders(sheet, need, rules, Own(drop=drop, factor=pf, volts=u, taken=factor, ways=ways))


def _lacks(need: Need, rules: RuleSet, volts: object, plate: object, *, armature: bool = False) -> tuple[str, ...]:
    wanted = (
        ("plate.volts", "armature volts", volts) if armature else ("supply.volts", "system volts", volts),
        *((f"wiring: {label}", label, None) for label in need.run_lacks),
        ("plate.full_load_current", rules.words.full_load_current, plate),
    )
    return tuple(label for _, label in need.rated.lacking(*wanted))


_PF_BAND: Final = (0.7, 0.92)


def _direct_drop(sheet: Sheet, need: Need, rules: RuleSet) -> Gate:
    """`2·I·R` of the run between rectifier and motor, of the armature's volts: direct current has no reactance."""
    key, name = "protection.drop", "Drop while running"
    run, plate, rated = need.run, need.plate, need.rated.volts
    if run is None or plate is None or rated is None:
        return unknown(key, name, _lacks(need, rules, rated, plate, armature=True))
    drop = sheet.work(
        "drop", "Drop while running, rectifier to motor", "u_d", 2 * plate.value * run.r.value / rated.value / 10, "%",
        formula=f"2·{plate.symbol}·{run.r.symbol}/{rated.symbol}/10", inputs=(plate, run.r, rated),
        source="definition; direct current, there and back",
    )  # fmt: skip
    limit, source = rules.practice.drop_pct, rules.practice.drop_source
    return at_most(
        key, name, drop.value, limit, sentence=f"{drop.value:.1f} % at rated current, {limit:g} % recommended.",
        source=source, unit="%", remedy="A larger size.",
    )  # fmt: skip


def _larger(need: Need, rules: RuleSet, drop: float, limit: float, times: float, pf: float) -> str:
    """The size of run that keeps the recommendation."""
    wiring, hertz = need.circuit.wiring, need.job.supply.frequency_hz or need.circuit.plate.frequency_hz
    rows = [row["size"] for row in load(rules.conductors).rows]
    if drop <= limit or wiring.size not in rows or hertz is None:
        return "A larger size."
    for size in rows[rows.index(wiring.size) + 1 :]:
        found = rules.conductor(Sheet("scratch", ""), replace(run_of(wiring), size=size), hertz)
        if found is None:
            continue
        kept = times * (found.r.value * pf + found.x.value * (1 - pf**2) ** 0.5)
        if kept <= limit:
            return f"{size} keeps it to {kept:.1f} %."
    return "No single size keeps it: more conductors in parallel, or a shorter run."


def next_size_note(sheet: Sheet, need: Need) -> None:
    """What the next size up saves in a year, and the metal it costs."""
    wiring, price = need.circuit.wiring, need.job.limits.energy_price
    if wiring.size is None or wiring.hours is None or need.drawn is None or need.run is None or not wiring.length_m:
        return
    name = "conductor_iec" if "mm²" in wiring.size else "conductor_nec"
    found = load(name)
    sizes = [row["size"] for row in found.rows]
    if wiring.size not in sizes[:-1]:
        return
    larger = sizes[sizes.index(wiring.size) + 1]
    now, then = (_ohms(name, size, need) for size in (wiring.size, larger))
    if now is None or then is None:
        return
    count = 3 if need.circuit.plate.family in THREE_PHASE and not need.fed_by_one else 2
    saved_w = count * need.drawn.value**2 * need.run.r.value / 1000 * (1 - then / now)
    kwh = saved_w * wiring.hours / 1000
    metal = count * wiring.length_m * ((area_of(larger) or 0.0) - (area_of(wiring.size) or 0.0)) * (wiring.sets or 1)
    money = f", {write(kwh * price, 3)} at {write(price)} a kWh" if price else ""
    kilograms = metal * _KG_PER_MM2_M[wiring.metal or "copper"]
    sheet.notes.append(
        f"Next size, {larger}: {write(saved_w, 3)} W less at rated current, {write(kwh, 3)} kWh a year{money}, "
        f"for {write(kilograms, 3)} kg more metal."
    )


def _ohms(name: str, size: str, need: Need) -> float | None:
    """Resistance a length by the table: only its ratio is used."""
    table, wiring = load(name), need.circuit.wiring
    row = table.find(size=size)
    metal = wiring.metal or "copper"
    if row is None:
        return None
    if name == "conductor_iec":
        return table.number(row, f"r_{metal}")
    return table.number(row, f"r_{'cu' if metal == 'copper' else 'al'}_{run_of(wiring).raceway or 'pvc'}")


def area_of(size: str) -> float | None:
    """mm² of a size of either table; None for one that is in neither.

    >>> area_of("35 mm²"), round(area_of("1/0 AWG"), 1)
    (35.0, 53.5)
    """
    if "mm²" in size:
        return float(size.split(maxsplit=1)[0])
    row = load("ampacity_nec").find(size=size)
    return None if row is None else float(row["cmil"]) * _MM2_PER_CMIL
