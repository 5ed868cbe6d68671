"""Full-voltage starting current: a band, and where it came from."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Final

from vinegate.core.assumed import assume
from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, check, rule
from vinegate.core.numbers import write, write_down
from vinegate.core.plate.kind import Family, volt_ampere_factor
from vinegate.core.plate.letter import by_letter, design_row, letter_drawing, letter_times
from vinegate.core.plate.rated import Rated
from vinegate.core.plate.usual_single import usual_single
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load
from vinegate.core.turning import Turns
from vinegate.core.working import Figure, Provenance


@dataclass(frozen=True, slots=True)
class LockedRotor:
    """Line current at rest at plate volts, full voltage: both ends of what it can be, amperes.

    High decides dip and protection, low decides starting torque. `high` is None for the open-ended letter V.
    """

    low: Figure
    high: Figure | None
    origin: str


@dataclass(frozen=True, slots=True)
class _Ask:
    sheet: Sheet
    circuit: Circuit
    rated: Rated
    rules: RuleSet

    @property
    def symbol(self) -> str:
        return self.rules.words.locked_rotor_symbol

    @property
    def name(self) -> str:
        return f"{self.rules.words.locked_rotor.capitalize()} current"

    def band(self, low: Figure, high: Figure, origin: str) -> LockedRotor:
        return LockedRotor(low, high, origin)


_BY_RESISTANCE = {
    Family.WOUND: "A wound rotor starts through resistance at its slip rings: the machine's sheet gives the ohms.",
    Family.DC: "At rest its armature's resistance alone is there: it starts from a drive that holds the current to "
    "a limit.",
}


def locked_rotor(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, known: tuple[float, str] | None = None
) -> LockedRotor | None:
    """Amperes and origin as `known` from the machine's curve, circuit or tests; else the best source the plate offers,
    in this order: stamped amperes; code letter (NEMA MG 1 10.37.2);
    ratio to rated current; the limit of IEC 60034-12 for designs N and H, of NEMA MG 1 for B, C and D; an assumed 5
    to 8 times rated current, of one phase from what its kind draws at least. None, with what is missing named, when not
    even that can be said.
    """
    ask = _Ask(sheet, circuit, rated, rules)
    if circuit.plate.family in (Family.WOUND, Family.DC):
        sheet.notes.append(_BY_RESISTANCE[circuit.plate.family])
        return None
    if known is not None:
        return _of_machine(ask, *known)
    sources: tuple[Callable[[_Ask], LockedRotor | None], ...] = (
        _stamped,
        _letter,
        _ratio,
        _design,
        _design_nema,
        _assumed,
    )
    for source in sources:
        found = source(ask)
        if found is not None:
            return found
    sheet.needs(rated.lacking(("plate.full_load_current", rules.words.full_load_current, None)), "the start")
    return None


_DIFFERS: Final = (0.8, 1.2)  # IEC 60034-1:2022 table 20 allows 20 % above; a machine twice as far off is another one
_LESS: Final = 1.05  # so much less than its plate says is rounding; assumed


def _of_machine(ask: _Ask, amps: float, origin: str) -> LockedRotor:
    """The machine's own, with a gate where the plate says otherwise."""
    said = {"entered": "the circuit as entered", "from tests": "the tests", "maker's curve": "the maker's curve"}[
        origin
    ]
    figure = ask.sheet.given(
        "locked_rotor_high", ask.name, ask.symbol, amps, "A", provenance=Provenance.STATED, source=said
    )
    plate = ask.circuit.plate
    stamped = ask.rated.at_rest_a
    if stamped is None and plate.starting_current_ratio is not None and ask.rated.current is not None:
        stamped = plate.starting_current_ratio * ask.rated.current.value
    ends = (stamped, stamped) if stamped is not None else _letters_ends(ask)
    if ends is not None:
        low, high = (end * share for end, share in zip(ends, _DIFFERS, strict=True))
        by_plate = " to ".join(dict.fromkeys(write(end, 3) for end in ends if math.isfinite(end)))
        text = f"{write(amps, 3)} A at rest by {said}, {by_plate} A by the plate."
        met = low <= amps <= high
        if met and ends[0] > _LESS * amps:
            ask.sheet.gates.append(_drawing_more(ask, amps, text))
            return ask.band(figure, figure, said)
        remedy = "Read both again: one of them is of another machine."
        source = "IEC 60034-1:2022 table 20: locked-rotor current within 20 %"
        ask.sheet.gates.append(rule("start.agrees", "Plate and machine agree", met, text, source, remedy=remedy))
    return ask.band(figure, figure, said)


def _drawing_more(ask: _Ask, amps: float, text: str) -> Gate:
    """The plate's least is more than the machine takes that is believed: dip, device and terminals are to bear that."""
    turns = _statement(ask, amps)
    text = f"{text} Dip, devices and terminals are worked with the less. Passes with {turns.label} {turns.passes}."
    source = "NEMA MG 1:2021 10.37.2: a letter's band holds the current that was found; within a twentieth, assumed"
    return check("start.agrees", "Plate and machine agree", turns, text, source, remedy="Ask its maker which is right.")


def _statement(ask: _Ask, amps: float) -> Turns:
    """What of the plate would agree with so many amperes, as it states them."""
    plate, current = ask.circuit.plate, ask.rated.current
    if ask.rated.at_rest_a is not None:
        return Turns(path="plate.locked_rotor_current", label=f"{ask.rules.words.locked_rotor} amperes",
                     passes=f"up to {write_down(_LESS * amps)} A", passes_as=f"{write(amps, 3)} A")  # fmt: skip
    assert current is not None
    ratio = amps / current.value
    if plate.starting_current_ratio is not None:
        return Turns(path="plate.starting_current_ratio", label="starting ratio",
                     passes=f"up to {write_down(_LESS * ratio)}", passes_as=write(ratio, 3))  # fmt: skip
    letter = letter_drawing(plate, ask.rated, ratio)
    return Turns(path="plate.code_letter", label="code letter", passes=letter, passes_as=letter)


def _letters_ends(ask: _Ask) -> tuple[float, float] | None:
    """Amperes of the code letter's band; its last letter has no upper end."""
    ends, current = by_letter(ask.circuit.plate, ask.rated), ask.rated.current
    return None if ends is None or current is None else (ends[0] * current.value, ends[1] * current.value)


def _stamped(ask: _Ask) -> LockedRotor | None:
    amps = ask.rated.at_rest_a
    if amps is None:
        return None
    provenance = ask.circuit.source_of("plate.locked_rotor_current")
    figure = ask.sheet.given("locked_rotor_high", ask.name, ask.symbol, amps, "A", provenance=provenance)
    return ask.band(figure, figure, f"{provenance} amperes")


def _letter(ask: _Ask) -> LockedRotor | None:
    """kVA/hp band × hp × 1000/(√3·U): NEMA MG 1 10.37.2, NFPA 70 430.7(B)."""
    plate, power, volts = ask.circuit.plate, ask.rated.power, ask.rated.volts
    if plate.code_letter is None or plate.power_w is None or power is None or volts is None:
        return None
    table = load("code_letter")
    row = table.find(letter=plate.code_letter)
    assert row is not None  # the reader admits only letters of the table
    hp = power
    if power.unit != "hp":
        hp = ask.sheet.work(
            "power_hp",
            "Rated power in horsepower",
            "P_hp",
            plate.power_w / WATT_PER_HP,
            "hp",
            formula="P/0.7457",
            inputs=(power,),
            source="1 hp = 745.7 W",
        )
    times = letter_times(plate, ask.rated)
    ends: dict[str, Figure] = {}
    for end, column, many in zip(("low", "high"), ("from_kva_per_hp", "to_kva_per_hp"), times, strict=True):
        kva_per_hp = table.number(row, column)
        if kva_per_hp is not None:
            ends[end] = _letter_end(ask, end, kva_per_hp, hp, volts, many)
    if times != (1, 1):
        ask.sheet.notes.append(_OF_WYE if times[0] > 1 else f"Letter {plate.code_letter} {_OF_EITHER}")
    if "high" not in ends:
        label = f"{ask.rules.words.locked_rotor} amperes (letter V has no upper end)"
        ask.sheet.needs([("plate.locked_rotor_current", label)], "the highest starting current")
    _note_above_design(ask, ends["low"])
    return LockedRotor(ends["low"], ends.get("high"), f"code letter {plate.code_letter}")


_OF_WYE: Final = "The letter is for the wye connection: full voltage in delta draws three times that."
_OF_EITHER: Final = (
    "is little for a machine as it runs, and usual for one marked for its wye start, which draws three times that in "
    "delta: the band takes both until the plate says what its letter is for."
)


def _letter_end(ask: _Ask, end: str, kva_per_hp: float, hp: Figure, volts: Figure, times: float) -> Figure:
    cite = f"{load('code_letter').cite}, letter {ask.circuit.plate.code_letter}"
    symbol = "k_low" if end == "low" else "k"
    per_hp = ask.sheet.given(
        f"kva_per_hp_{end}",
        f"Locked-rotor kVA per hp, {end} end",
        symbol,
        kva_per_hp,
        "kVA/hp",
        provenance=Provenance.TABLE,
        source=cite,
    )
    factor = volt_ampere_factor(ask.circuit.plate.kind)
    root = "√3·" if factor > 1 else ""
    return ask.sheet.work(
        f"locked_rotor_{end}",
        f"{ask.name}, {end} end",
        ask.symbol if end == "high" else f"{ask.symbol}_low",
        times * 1000 * per_hp.value * hp.value / (factor * volts.value),
        "A",
        formula=f"{f'{times:.0f}·' if times > 1 else ''}1000·{symbol}·{hp.symbol}/({root}{volts.symbol})",
        inputs=(per_hp, hp, volts),
        source=cite,
    )


def _ratio(ask: _Ask) -> LockedRotor | None:
    ratio, current = ask.circuit.plate.starting_current_ratio, ask.rated.current
    if ratio is None or current is None:
        return None
    provenance = ask.circuit.source_of("plate.starting_current_ratio")
    c = ask.sheet.given("ratio", f"{ask.symbol}/{current.symbol}", "c", ratio, "", provenance=provenance)
    high = _times_rated(ask, "high", c, current, "starting ratio of the plate")
    return ask.band(high, high, f"{write(ratio)} × {current.symbol}")


def _times_rated(ask: _Ask, end: str, ratio: Figure, current: Figure, source: str) -> Figure:
    return ask.sheet.work(
        f"locked_rotor_{end}",
        ask.name,
        ask.symbol if end == "high" else f"{ask.symbol}_low",
        ratio.value * current.value,
        "A",
        formula=f"{ratio.symbol}·{current.symbol}",
        inputs=(ratio, current),
        source=source,
    )


def _design(ask: _Ask) -> LockedRotor | None:
    """Upper limit of IEC 60034-12 for designs N and H; the low end stays assumed."""
    plate, volts, current = ask.circuit.plate, ask.rated.volts, ask.rated.current
    if plate.design_letter not in ("N", "H", "NY", "HY") or plate.power_w is None or volts is None or current is None:
        return None
    table = load("locked_rotor_apparent_power")
    kw = plate.power_w / 1000
    for row in table.rows:
        low, high = table.number(row, "above_kw"), table.number(row, "to_kw")
        if low is not None and high is not None and low < kw <= high:
            break
    else:
        return None
    kva_per_kw = table.number(row, "kva_per_kw")
    assert kva_per_kw is not None
    power = ask.sheet.given("power_kw", "Rated output", "P_kW", kw, "kW", provenance=Provenance.STAMPED)
    limit = ask.sheet.given(
        "kva_per_kw", "Largest S/P at rest", "k", kva_per_kw, "kVA/kW", provenance=Provenance.TABLE, source=table.cite
    )
    top = ask.sheet.work(
        "locked_rotor_high",
        f"{ask.name}, the standard's limit",
        ask.symbol,
        1000 * kva_per_kw * kw / (3**0.5 * volts.value),
        "A",
        formula=f"1000·k·P_kW/(√3·{volts.symbol})",
        inputs=(limit, power, volts),
        source=table.cite,
    )
    ratio = assume(ask.sheet, "locked_rotor_ratio_low", "ratio_low", "Low end, times rated current", "c_low")
    return LockedRotor(
        _times_rated(ask, "low", ratio, current, ratio.source), top, f"limit for design {plate.design_letter}"
    )


def _design_nema(ask: _Ask) -> LockedRotor | None:
    """Largest current of designs B, C and D, NEMA MG 1 12.35.1 (NFPA 70 table 430.251(B)); the low end stays assumed.

    A power between two rows has the larger one's.
    """
    plate, volts, current = ask.circuit.plate, ask.rated.volts, ask.rated.current
    row = design_row(plate, ask.rated)
    if row is None or volts is None or current is None:
        return None
    table = load("locked_rotor_nema")
    at_230 = ask.sheet.given(
        "design_230", f"Largest current of design {plate.design_letter} at 230 V, {row['hp']} hp", "I_230",
        float(row["amps_230"]), "A", provenance=Provenance.TABLE, source=table.cite,
    )  # fmt: skip
    top = ask.sheet.work(
        "locked_rotor_high", f"{ask.name}, the standard's limit", ask.symbol, at_230.value * 230 / volts.value, "A",
        formula=f"I_230·230/{volts.symbol}", inputs=(at_230, volts), source=table.cite,
    )  # fmt: skip
    ratio = assume(ask.sheet, "locked_rotor_ratio_low", "ratio_low", "Low end, times rated current", "c_low")
    low = _times_rated(ask, "low", ratio, current, ratio.source)
    return LockedRotor(low if low.value < top.value else top, top, f"limit for design {plate.design_letter}")


def _note_above_design(ask: _Ask, low: Figure) -> None:
    """A letter whose low end lies above what the design letter allows."""
    row, volts = design_row(ask.circuit.plate, ask.rated), ask.rated.volts
    if row is None or volts is None:
        return
    most = float(row["amps_230"]) * 230 / volts.value
    if low.value > most:
        plate = ask.circuit.plate
        ask.sheet.notes.append(
            f"Letter {plate.code_letter} draws at least {write(low.value, 3)} A, design {plate.design_letter} at most "
            f"{write(most, 3)} A (NEMA MG 1:2021 12.35.1): read both letters again. The code letter is used."
        )


def _assumed(ask: _Ask) -> LockedRotor | None:
    current = ask.rated.current
    if current is None:
        return None
    ends, times = {}, []
    for end, symbol in (("low", "c_low"), ("high", "c")):
        ratio = _assumed_ratio(ask, end, symbol, f"Assumed multiple of {current.symbol}, {end} end")
        times.append(write(ratio.value))
        ends[end] = _times_rated(ask, end, ratio, current, ratio.source)
    ask.sheet.needs(
        [("plate.code_letter", "code letter, starting ratio or stamped amperes")], "a firm starting current"
    )
    return LockedRotor(ends["low"], ends["high"], f"assumed {' to '.join(times)} × {current.symbol}")


def _assumed_ratio(ask: _Ask, end: str, symbol: str, name: str) -> Figure:
    """At the low end what its kind draws at least: single-phase machines of some draw less than three-phase ones."""
    usual = usual_single(ask.circuit.plate.kind)
    if usual is None or end == "high":
        return assume(ask.sheet, f"locked_rotor_ratio_{end}", f"ratio_{end}", name, symbol)
    return ask.sheet.given(
        f"ratio_{end}", name, symbol, usual.drawn_least, "", provenance=Provenance.ASSUMED,
        source=f"least usual of its kind: {usual.why}",
    )  # fmt: skip
