"""Conductors of a motor circuit and their grounding conductor by NFPA 70."""

from __future__ import annotations

from itertools import product
from typing import Final

from vinegate.core.grade import Gate, at_least, over, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family
from vinegate.core.protection.bands import Band
from vinegate.core.protection.metals import metals, over_metals
from vinegate.core.protection.need import Device, Need
from vinegate.core.protection.ratings import next_up, standard_ratings
from vinegate.core.protection.sizing import lacks_current, largest, nothing, table, whatever_is_not_said
from vinegate.core.records import dataclass, replace
from vinegate.core.rules.nec.asked_of_run import RULE, asked_of_run, rated_for
from vinegate.core.sheet import Sheet
from vinegate.core.start.way import Windings
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.working import Figure, Provenance

_LEAST_IN_PARALLEL: Final = "1/0 AWG"
_LARGEST_60: Final = "1 AWG"
_TERMINALS_BY_LETTER: Final = ("B", "C", "D")


@dataclass(frozen=True, slots=True, kw_only=True)
class Laid:
    """How the run is laid: insulation and terminal temperature, factors, sets."""

    metal: str
    insulation: int
    terminals: int
    ambient: float
    bundling: float
    sets: int
    marked: bool = True
    """Whether the terminals' column is marked, or follows from what the circuit is; else it goes by the size too."""

    def ampacity(self, size: str) -> float | None:
        """Lower of the terminals' column and the insulation's with its factors (110.14(C), 310.15), all sets."""
        found = load("ampacity_nec")
        row = found.find(size=size)
        if row is None:
            return None
        own = found.number(row, f"{self.metal}_{self.insulation}")
        ends = self.terminals if self.marked else max(self.terminals, terminals_for(size))
        end = found.number(row, f"{self.metal}_{min(ends, self.insulation)}")
        if own is None or end is None:
            return None
        return self.sets * min(end, own * self.ambient * self.bundling)

    def at(self, ambient_c: float, together: float) -> Laid | None:
        """The same in air of so many degrees, with so many loaded conductors together; None past the tables."""
        ambient = load("ambient_nec").step("upto_c", f"at_{self.insulation}", ambient_c)
        bundling = load("grouping_nec").step("upto", "percent", together)
        if ambient is None or bundling is None:
            return None
        return replace(self, ambient=ambient, bundling=bundling / 100)

    def least(self, amperes: float) -> str | None:
        """The least size that carries so many amperes."""
        for row in load("ampacity_nec").rows:
            carries = self.ampacity(row["size"])
            if carries is not None and carries >= amperes - 1e-9 and in_sets(row["size"], self.sets):
                return row["size"]
        return None


def in_sets(size: str, sets: int) -> bool:
    """310.10(G)(1): 1/0 AWG and larger may be run in parallel."""
    return sets == 1 or area_cmil(size) >= area_cmil(_LEAST_IN_PARALLEL)


def terminals_for(size: str) -> int:
    """110.14(C)(1): 60 °C on terminals for 14 to 1 AWG, 75 °C on those for larger conductors.

    >>> terminals_for("1 AWG"), terminals_for("1/0 AWG")
    (60, 75)
    """
    return 75 if area_cmil(size) > area_cmil(_LARGEST_60) else _UNMARKED


def may_be(size: str, need: Need) -> bool:
    return in_sets(size, need.circuit.wiring.sets or 1)


def area_cmil(size: str) -> float:
    """Circular mils of a tabulated size."""
    row = load("ampacity_nec").find(size=size)
    assert row is not None
    return float(row["cmil"])


def laid(sheet: Sheet, need: Need) -> Laid | None:
    """The run's factors on the sheet. None where the ambient is past what its insulation bears."""
    wiring = need.circuit.wiring
    degrees = 30.0 if wiring.ambient_c is None else wiring.ambient_c
    bears = [word for word in _INSULATIONS if load("ambient_nec").step("upto_c", f"at_{word}", degrees) is not None]
    insulation = int(wiring.insulation or next(iter(bears), "75"))
    terminals, marked, why = _terminals(need)
    said = Provenance.STATED if wiring.terminals else Provenance.TABLE
    sheet.given("terminals", "Terminals' column", "θ_t", terminals, "°C", provenance=said, source=why)
    given = wiring.insulation is not None
    sheet.given(
        "insulation", "Insulation's column", "θ_i", insulation, "°C",
        provenance=Provenance.STATED if given else Provenance.ASSUMED,
        source="entered" if given else "75 °C insulation is the least usual in raceway",
    )  # fmt: skip
    ambient = load("ambient_nec").step("upto_c", f"at_{insulation}", degrees)
    bundling = load("grouping_nec").step("upto", "percent", wiring.grouped or 3)
    if ambient is None or bundling is None:
        return None
    said = Provenance.ASSUMED if wiring.ambient_c is None else Provenance.TABLE
    source = f"{load('ambient_nec').cite}, {degrees:g} °C"
    sheet.given("ambient", "Factor for ambient", "k_a", ambient, "", provenance=said, source=source)
    said = Provenance.ASSUMED if wiring.grouped is None else Provenance.TABLE
    source = f"{load('grouping_nec').cite}, {wiring.grouped or 3} loaded conductors"
    sheet.given(
        "bundling", "Factor for loaded conductors together", "k_b", bundling / 100, "", provenance=said, source=source
    )
    return Laid(
        metal=wiring.metal or "copper",
        insulation=insulation,
        terminals=terminals if marked else _UNMARKED,
        ambient=ambient,
        bundling=bundling / 100,
        sets=wiring.sets or 1,
        marked=marked,
    )


def _terminals(need: Need) -> tuple[int, bool, str]:
    """110.14(C)(1): 60 °C up to 100 A and 1 AWG unless marked, or for motors of design B, C or D; 75 °C above. Whether
    that holds for every size, and why.
    """
    wiring = need.circuit.wiring
    if wiring.terminals:
        return int(wiring.terminals), True, "entered: marked on the equipment"
    if need.design in _TERMINALS_BY_LETTER:
        return 75, True, "NFPA 70:2023 110.14(C)(1)(a)(4): motor of design B, C or D"
    if need.sizing is not None and need.sizing.value > 100:
        return 75, True, "NFPA 70:2023 110.14(C)(1)(b): circuit above 100 A"
    if load("ampacity_nec").find(size=wiring.size or "") and terminals_for(wiring.size or "") > _UNMARKED:
        return 75, False, "NFPA 70:2023 110.14(C)(1)(b): terminals for conductors larger than 1 AWG"
    return _UNMARKED, False, "NFPA 70:2023 110.14(C)(1)(a): up to 100 A and 1 AWG, not marked otherwise"


def conductors(sheet: Sheet, need: Need, overload_a: Figure | None) -> Device:
    """430.22: at least 125 % of the table's current; other duties by 430.22(E), of the plate's."""
    del overload_a
    wiring = need.circuit.wiring
    if need.sizing is None or (need.plate is None and wiring.duty is not None):
        return nothing("conductors", "Conductors", RULE, lacks_current(sheet, need, "full-load amperes"))
    asked, by_rule = asked_of_run(sheet, need)
    found = laid(sheet, need)
    if found is None:
        text = "The ambient is past what this insulation bears."
        cite = load("ambient_nec").cite
        gate = rule("protection.conductors", "Ampacity", False, text, cite, remedy="90 °C insulation.")
        return Device(
            key="conductors", name="Conductors", current=need.sizing, rule=by_rule, asked=f"≥ {write(asked.value)} A",
            advised="–", chosen=wiring.size or "–", gates=(gate,), path="wiring.size",
        )  # fmt: skip
    advised = found.least(asked.value)
    _motor_side(sheet, need, found)
    _secondary(sheet, need, found)
    gate, chosen = _gate(sheet, need, found, asked, advised)
    gates: tuple[Gate, ...] = (gate,)
    if need.way.converts and need.circuit.protection.drive_input_a is None:
        lacks = sheet.needs([("protection.drive_input", "the drive's rated input amperes")], "conductors ahead of it")
        gates = (gate, unknown("protection.drive_input", "Conductors ahead of the drive", lacks))
    return Device(
        key="conductors",
        name="Conductors",
        current=need.sizing,
        rule=by_rule,
        asked=f"≥ {write(asked.value)} A",
        advised=advised or "more sets in parallel",
        chosen=chosen,
        gates=gates,
        path="wiring.size",
        take=advised if advised and advised != wiring.size else "",
    )


def _motor_side(sheet: Sheet, need: Need, found: Laid) -> None:
    """Conductors between starter and motor where they differ: 430.22(C) wye-start, (D) part-winding."""
    assert need.sizing
    share = {Windings.WYE: 72.0, Windings.HALF: 62.5}.get(need.way.windings)
    if share is None:
        return
    clause = "(C)" if need.way.windings is Windings.WYE else "(D)"
    percent = table(sheet, "motor_side_pct", "Between starter and motor", "k_w", share, "%", f"{RULE}{clause}")
    asked = sheet.percent("motor_side", "Between starter and motor, each", "I_w", percent, need.sizing)
    size = found.least(asked.value)
    sheet.notes.append(
        f"Between starter and motor six conductors carry at least {asked.shown} each: {size or 'none tabulated'}, "
        f"before the factor for six together where they share a raceway ({RULE}{clause})."
    )


def _secondary(sheet: Sheet, need: Need, found: Laid) -> None:
    """430.23: a wound rotor's conductors to its controller, and between controller and resistor."""
    amps, duty = need.circuit.plate.rotor_current_a, need.circuit.wiring.duty
    if need.circuit.plate.family is not Family.WOUND or amps is None:
        return
    i_2 = sheet.given("rotor_current", "Rotor amperes", "I_2", amps, "A", provenance=Provenance.STAMPED)
    cells = load("duty_nec")
    row = cells.find(duty=duty) if duty else None
    share = (cells.number(row, rated_for(need)) if row else None) or 125.0
    clause = f"NFPA 70:2023 430.23({'B' if row else 'A'})"
    percent = table(sheet, "secondary_pct", "Rotor conductors, of the rotor's current", "k_2", share, "%", clause)
    asked = sheet.percent("secondary", "Between slip rings and controller", "I_2c", percent, i_2)
    cells = load("secondary_nec")
    resistor = cells.find(duty=need.circuit.start.rotor_duty or "continuous")
    assert resistor is not None
    percent = table(
        sheet, "resistor_pct", f"Resistor conductors, {resistor['name']}", "k_R", float(resistor["percent"]), "%",
        cells.cite,
    )  # fmt: skip
    leads = sheet.percent("resistor", "Between controller and resistor, where they stand apart", "I_2R", percent, i_2)
    sheet.notes.append(
        f"Rotor circuit, laid as the run: slip rings to controller at least {asked.shown}, "
        f"{found.least(asked.value) or 'none tabulated'}; controller to resistor {leads.shown}, "
        f"{found.least(leads.value) or 'none tabulated'} (430.23). Its overload is that of the stator (430.32(E))."
    )


def _gate(sheet: Sheet, need: Need, found: Laid, asked: Figure, advised: str | None) -> tuple[Gate, str]:
    wiring, key, name = need.circuit.wiring, "protection.conductors", "Ampacity"
    if wiring.size is None:
        sheet.needs([("wiring.size", "conductor size")], "ampacity")
        return unknown(key, name, ("conductor size",)), "–"
    carries = found.ampacity(wiring.size)
    if carries is None:
        return unknown(key, name, (f"a size of {load('ampacity_nec').cite}",)), wiring.size
    cite = load("ampacity_nec").cite
    sheet.given(
        "ampacity", "Ampacity as laid", "I_z", carries, "A", provenance=Provenance.TABLE,
        source=f"{cite}, {found.metal}: the lower of the terminals' column and the insulation's with k_a·k_b; all sets",
    )  # fmt: skip
    sets = f"{found.sets} × " if found.sets > 1 else ""
    remedy = f"At least {advised}." if advised else "More sets in parallel."
    if not in_sets(wiring.size, found.sets):
        text = f"{wiring.size} may not be run in parallel: 1/0 AWG is the least (310.10(G))."
        single = replace(found, sets=1).least(asked.value)
        remedy = f"1/0 AWG in each set{f', or a single {single}' if single else ''}."
        return rule(key, name, False, text, cite, remedy=remedy), f"{sets}{wiring.size}"
    gate = _of_either(need, found, asked, remedy)
    return whatever_is_not_said(gate, lambda: _at_worst(need, found, asked.value), "More sets in parallel"), (
        f"{sets}{wiring.size}"
    )


def _at_worst(need: Need, found: Laid, amperes: float) -> str | None:
    """The least size that carries so many amperes however it is laid, as far as that is not said."""
    wiring, air = need.circuit.wiring, [one.high for one in _unsaid(need)]
    words = _INSULATIONS if wiring.insulation is None else (str(found.insulation),)
    laid_so = [replace(found, metal=metal, insulation=int(word)).at(*air)
               for metal, word in product(metals(wiring.metal), words)]  # fmt: skip
    return largest((None if one is None else one.least(amperes) for one in laid_so), area_cmil)


def _of_either(need: Need, found: Laid, asked: Figure, remedy: str) -> Gate:
    """Over the metal, where it is not said."""
    size, said = need.circuit.wiring.size or "", need.circuit.wiring.metal

    def gates_of(metal: str) -> tuple[Gate, ...]:
        laid_so = replace(found, metal=metal)
        return (_unmarked(need, laid_so, asked, remedy),) if laid_so.ampacity(size) is not None else ()

    return over_metals("wiring.metal", said, gates_of)[0]


def _unmarked(need: Need, found: Laid, asked: Figure, remedy: str) -> Gate:
    """Over what the terminals may be marked, where the 60 °C of a circuit up to 100 A hangs on that alone."""
    if found.marked or terminals_for(need.circuit.wiring.size or "") > _UNMARKED:
        return _uninsulated(need, found, asked, remedy)
    marks = (str(_UNMARKED), "75")
    gates = {mark: _uninsulated(need, replace(found, terminals=int(mark)), asked, remedy) for mark in marks}
    return over("wiring.terminals", "terminals marked", marks[0], gates)


def _uninsulated(need: Need, found: Laid, asked: Figure, remedy: str) -> Gate:
    """Over the insulation, where it is not said."""
    if need.circuit.wiring.insulation is not None:
        return _carries(need, found, asked, remedy)
    gates = {word: _carries(need, replace(found, insulation=int(word)), asked, remedy) for word in _INSULATIONS}
    return over("wiring.insulation", "insulation of", str(found.insulation), gates)


_UNMARKED: Final = 60
_INSULATIONS: Final = ("75", "60", "90")


def _carries(need: Need, found: Laid, asked: Figure, remedy: str) -> Gate:
    """Ampacity with one insulation, over what is not said of air and company."""
    size, rests = need.circuit.wiring.size or "", _unsaid(need)

    def amperes(*facts: float) -> float:
        laid_so = found.at(*facts)
        return 0.0 if laid_so is None else laid_so.ampacity(size) or 0.0

    carries = amperes(*(one.value for one in rests))
    sets = f"{found.sets} × " if found.sets > 1 else ""
    return at_least(
        "protection.conductors", "Ampacity", carries, asked.value, source=load("ampacity_nec").cite, unit="A",
        sentence=f"{sets}{size} carries {write(carries)} A as laid, {write(asked.value)} A asked.",
        rests=rests, room=lambda *facts: amperes(*facts) - asked.value, remedy=remedy,
    )  # fmt: skip


_AMBIENT_BAND_C: Final = (20.0, 40.0)
_TOGETHER: Final = (3.0, 6.0)


def _unsaid(need: Need) -> tuple[Taken, Taken]:
    """Ambient and loaded conductors together, with the bands in which they may lie where they are not said."""
    wiring = need.circuit.wiring
    ambient = 30.0 if wiring.ambient_c is None else wiring.ambient_c
    together = float(wiring.grouped or 3)
    given = wiring.ambient_c is not None
    low, high = (ambient, ambient) if given else _AMBIENT_BAND_C
    few, many = (together, together) if wiring.grouped else _TOGETHER
    return (
        Taken(path="wiring.ambient", label="ambient", unit="°C", value=ambient, low=low, high=high,
              how="" if given else "assumed", given=given),
        Taken(path="wiring.grouped", label="loaded conductors together", value=together, low=few, high=many,
              how="" if wiring.grouped else "assumed", given=wiring.grouped is not None, whole=True),
    )  # fmt: skip


def grounding(sheet: Sheet, need: Need, band: Band | None, size: str | None) -> Device:
    """250.122: by the device ahead; upsized in proportion where the phase conductors are; never above them."""
    found, wiring = load("grounding_nec"), need.circuit.wiring
    by_rule = found.cite
    if band is None:
        return nothing("grounding", "Grounding conductor", by_rule, ("the short-circuit device",))
    rating = band.rating_a
    if band.device == "instantaneous" and need.sizing is not None:
        rating = next_up(1.75 * need.sizing.value, standard_ratings(fuse=True))
        by_rule += "; 250.122(D)(2), by the time-delay fuse it would have"
    row = next((row for row in found.rows if float(row["upto_a"]) >= rating), None)
    if row is None:
        return nothing("grounding", "Grounding conductor", by_rule, ("a tabulated rating",))
    wanted = {metal: _upsized(need, metal, row[metal], size) for metal in metals(wiring.metal)}
    asked = next(iter(wanted.values()))[0]
    chosen = wiring.ground_size or asked
    known = load("ampacity_nec").find(size=chosen)
    if known is None:
        return nothing("grounding", "Grounding conductor", by_rule, (f"a size of {by_rule}",))

    def gate_of(metal: str) -> Gate:
        least, why = wanted[metal]
        laid, said = (wiring.ground_size, "") if wiring.ground_size else (least, "As advised: ")
        text = f"{said}{laid} {'Cu' if metal == 'copper' else 'Al'} behind {rating:g} A, {least} asked{why}."
        met = area_cmil(laid) >= area_cmil(least)
        return rule("protection.grounding", "Grounding conductor", met, text, by_rule, remedy=f"At least {least}.")

    return Device(
        key="grounding",
        name="Grounding conductor",
        current=None,
        rule=f"{by_rule}{', in each raceway' if (wiring.sets or 1) > 1 else ''}",
        asked=f"≥ {asked}",
        advised=asked,
        chosen=chosen,
        gates=over_metals("wiring.metal", wiring.metal, lambda metal: (gate_of(metal),)),
        path="wiring.ground_size",
        take=asked if chosen != asked else "",
    )


def _upsized(need: Need, metal: str, tabulated: str, size: str | None) -> tuple[str, str]:
    """In proportion to the area of the phase conductors over the least that would do (250.122(B)), (A) as a cap."""
    if size is None:
        return tabulated, ""
    silent = Sheet("wiring", "")
    found = laid(silent, need)
    known = found is not None and need.sizing is not None and need.plate is not None
    least = replace(found, metal=metal).least(asked_of_run(silent, need)[0].value) if found and known else None
    if least is None:
        least = size
    if area_cmil(tabulated) > area_cmil(size) * (need.circuit.wiring.sets or 1):
        return size, " (never above the phase conductors, 250.122(A))"
    ratio = area_cmil(size) / area_cmil(least)
    if ratio <= 1:
        return tabulated, ""
    wanted = ratio * area_cmil(tabulated)
    sizes = [row["size"] for row in load("ampacity_nec").rows]
    grown = next((one for one in sizes if area_cmil(one) >= wanted - 1), sizes[-1])
    if area_cmil(grown) > area_cmil(size):
        grown = size
    if grown == tabulated:
        return tabulated, ""
    return grown, f" ({write(ratio, 3)} × with the phase conductors, 250.122(B))"
