"""Conductors by IEC 60364-5-52 and 60364-4-43; the protective conductor and the loop by 60364-5-54 and 60364-4-41."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, Verdict, at_least, at_most, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family
from vinegate.core.protection.bands import Band
from vinegate.core.protection.need import Device, Need
from vinegate.core.protection.sizing import lacks_current, least_touching_a, nothing, table, whatever_is_not_said
from vinegate.core.rules.iec.earth import disconnection, earth_loop, earthing_gates, protective_withstand
from vinegate.core.rules.iec.laid import BULK, Laid, laid, least_at_worst, over_ways, sets_apart, unsaid_of
from vinegate.core.rules.iec.sizes import area_mm2, next_size, protective_size
from vinegate.core.sheet import Sheet
from vinegate.core.start.way import Windings
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.working import Figure, Provenance

_TABULATED: Final = "a tabulated size in mm²"
_RULE: Final = "IEC 60364-4-43:2008 433.1"
_TRIPS: Final = 1.2
_MORE: Final = "More in parallel, or another way to lay it"


def may_be(size: str, need: Need) -> bool:
    """Any size may be run in parallel (IEC 60364-5-52:2009 523.7 asks only that they share the current)."""
    del size, need
    return True


def conductors(sheet: Sheet, need: Need, overload_a: Figure | None) -> Device:
    """I_b ≤ I_n ≤ I_z with I_n the overload's setting, and I_2 ≤ 1.45·I_z."""
    wiring, plate = need.circuit.wiring, need.flows_each
    if plate is None or overload_a is None:
        return nothing("conductors", "Conductors", _RULE, lacks_current(sheet, need, "rated current"))
    found = laid(sheet, need)
    ahead = need.circuit.protection.drive_input_a if need.way.converts else None
    least_a = max(plate.value, overload_a.value, ahead or _unsaid_a(need))
    if found is None:
        text = "Ambient or grouping is past the standard's tables."
        cite = load("ambient_iec").cite
        gate = rule("protection.conductors", "Ampacity", False, text, cite, remedy="Another way to lay it.")
        advised: str | None = None
        gates: tuple[Gate, ...] = (gate,)
    else:
        advised = found.least(least_a)
        _motor_side(sheet, need, found, overload_a)
        _rotor_side(sheet, need, found)
        carries = _ampacity(sheet, need, found)
        gates = (_gate(need, found, plate, overload_a, carries, advised),)
        if need.way.converts:
            gates = (*gates, _ahead_of_drive(sheet, need, found, ahead))
    sets = f"{wiring.sets} × " if (wiring.sets or 1) > 1 else ""
    return Device(
        key="conductors",
        name="Conductors",
        current=need.into_drive if ahead is not None and ahead > plate.value else plate,
        rule=f"{_RULE}: I_b ≤ I_n ≤ I_z",
        asked=f"≥ {write(least_a)} A",
        advised=advised or "more in parallel",
        chosen=f"{sets}{wiring.size}" if wiring.size else "–",
        gates=gates,
        path="wiring.size",
        take=advised if advised and advised != wiring.size else "",
    )


def _unsaid_a(need: Need) -> float:
    """What a drive of which no input is given takes at the least, A: what all its motors draw."""
    return need.flows.value if need.way.converts and need.flows is not None else 0.0


def _ampacity(sheet: Sheet, need: Need, found: Laid) -> Figure | None:
    size = need.circuit.wiring.size
    if size is None:
        sheet.needs([("wiring.size", "conductor size")], "ampacity")
        return None
    table_row = load("ampacity_iec").find(insulation=found.insulation, metal=found.metal, size=size)
    value = load("ampacity_iec").number(table_row, found.method) if table_row else None
    if value is None:
        return None
    wiring = need.circuit.wiring
    unsaid = wiring.method is None or wiring.insulation_iec is None
    source = f"{load('ampacity_iec').cite}, {BULK[found.insulation]} {found.metal}, method {found.method}"
    plain = sheet.given(
        "tabulated", "Ampacity, tabulated", "I_t", value, "A",
        provenance=Provenance.ASSUMED if unsaid else Provenance.TABLE, source=source,
        note="Method or insulation is assumed." if unsaid else "",
    )  # fmt: skip
    figures = {figure.key: figure for figure in sheet.figures}
    k_a, k_g = figures["wiring.ambient"], figures["wiring.grouping"]
    sets = table(sheet, "sets_carrying", "Conductors in parallel", "m_p", float(found.sets), "", "entered, or one")
    inputs, formula, carries = [sets, plain, k_a, k_g], "m_p·I_t·k_a·k_g", sets.value * value * k_a.value * k_g.value
    if found.soil != 1:
        inputs.append(table(sheet, "soil", "Factor for the soil", "k_s", found.soil, "", load("soil_iec").cite))
        formula, carries = f"{formula}·k_s", carries * found.soil
    return sheet.work(
        "ampacity", "Ampacity as laid", "I_z", carries, "A", formula=formula, inputs=inputs, source=source
    )


def _gate(
    need: Need, found: Laid, plate: Figure, overload_a: Figure, carries: Figure | None, advised: str | None
) -> Gate:
    key, name, size = "protection.conductors", "Ampacity", need.circuit.wiring.size
    if carries is None or size is None:
        return unknown(key, name, ("conductor size" if size is None else _TABULATED,))
    setting, allowed = overload_a.value, 1.45 * carries.value
    text = (
        f"I_b {write(plate.value)} ≤ I_n {write(setting)} ≤ I_z {write(carries.value)} A; "
        f"I_2 {write(_TRIPS * setting, 3)} ≤ 1.45·I_z {write(allowed, 3)} A."
    )
    asks, remedy = max(setting, plate.value), f"At least {advised}." if advised else f"{_MORE}."
    if carries.value < asks:
        text = (
            f"{size} carries {write(carries.value)} A as laid; I_b {write(plate.value)} A, overload {write(setting)} A."
        )
    if apart := sets_apart(need.circuit.wiring):
        text += f" Circuits together {need.circuit.wiring.grouped}{apart}."
    gate = over_ways(need, found, lambda way: _carries(need, way, text, asks, setting, remedy))
    return whatever_is_not_said(gate, lambda: least_at_worst(need, found, asks), _MORE)


def _carries(need: Need, found: Laid, text: str, asks: float, setting: float, remedy: str) -> Gate:
    """Ampacity laid in one way, over what is not said of air and company."""
    size, (rests, laid_so) = need.circuit.wiring.size or "", unsaid_of(need, found)
    carries = found.ampacity(size) or 0.0

    def room(*facts: float) -> float:
        amps = laid_so(*facts).ampacity(size)
        return -asks if amps is None else min(amps - asks, (1.45 * amps - _TRIPS * setting) / 1.45)

    return at_least(
        "protection.conductors", "Ampacity", carries, asks, sentence=text, source=_RULE, unit="A", rests=rests,
        room=room, remedy=remedy,
    )  # fmt: skip


def _ahead_of_drive(sheet: Sheet, need: Need, found: Laid, ahead_a: float | None) -> Gate:
    """I_b of the run ahead of a drive is its rated input: the drive keeps the motor within it, not the run."""
    key, name, size = "protection.drive_input", "Conductors ahead of the drive", need.circuit.wiring.size
    if ahead_a is None or size is None:
        paths = [("protection.drive_input", "the drive's rated input amperes", ahead_a), ("wiring.size", "size", size)]
        return unknown(key, name, sheet.needs([(path, label) for path, label, said in paths if said is None], name))
    drawn = sheet.given(
        "drive_input",
        "Drive's rated input",
        "I_in",
        ahead_a,
        "A",
        provenance=Provenance.STAMPED,
        fact="protection.drive_input",
    )
    if found.ampacity(size) is None:
        return unknown(key, name, (_TABULATED,))
    gate = over_ways(need, found, lambda way: _bears_input(need, way, drawn, size))
    return whatever_is_not_said(gate, lambda: least_at_worst(need, found, drawn.value), _MORE)


def _bears_input(need: Need, way: Laid, drawn: Figure, size: str) -> Gate:
    rests, laid_so = unsaid_of(need, way)
    carries = way.ampacity(size) or 0.0
    advised = way.least(drawn.value)
    return at_least(
        "protection.drive_input", "Conductors ahead of the drive", carries, drawn.value, unit="A", rests=rests,
        sentence=f"{size} carries {write(carries)} A as laid; the drive draws {drawn.shown} at its rating.",
        source="IEC 60364-4-43:2008 433.1, I_b the drive's rated input",
        room=lambda *facts: (laid_so(*facts).ampacity(size) or 0.0) - drawn.value,
        remedy=f"At least {advised}." if advised else f"{_MORE}.",
    )  # fmt: skip


def _motor_side(sheet: Sheet, need: Need, found: Laid, overload_a: Figure) -> None:
    if need.way.windings is not Windings.WYE:
        return
    asked = sheet.work(
        "motor_side", "Between starter and motor, each", "I_w", overload_a.value / 3**0.5, "A",
        formula=f"{overload_a.symbol}/√3", inputs=(overload_a,), source="a delta winding carries line current over √3",
    )  # fmt: skip
    size = found.least(asked.value)
    sheet.notes.append(
        f"Between starter and motor six conductors carry {asked.shown} each: {size or 'none tabulated'}, "
        f"before the factor for two circuits where both cables lie together."
    )


def _rotor_side(sheet: Sheet, need: Need, found: Laid) -> None:
    amps = need.circuit.plate.rotor_current_a
    if need.circuit.plate.family is not Family.WOUND or amps is None:
        return
    i_2 = sheet.given("rotor_current", "Rotor amperes", "I_2", amps, "A", provenance=Provenance.STAMPED)
    sheet.notes.append(
        f"Rotor circuit, laid as the run: slip rings to resistor at least {i_2.shown}, "
        f"{found.least(i_2.value) or 'none tabulated'} (433.1, with I_b the rotor's rated current)."
    )


def _lacks(need: Need, band: Band | None) -> tuple[str, ...]:
    device = () if band is not None else ("the short-circuit device",)
    known = need.fault is not None and need.far is not None
    return (*(() if known else need.lacks_far or ("the supply",)), *device)


def withstand_gate(need: Need, found: Laid, band: Band | None, size: str) -> Gate:
    """`k²·S² ≥ I²t` at the near end, with the most current, and at the far end, with the longest time.

    Of several sets one conductor bears a fault near its origin alone; at the motor they share it (434.4).
    """
    key, name = "protection.withstand", "Conductor bears the fault"
    source = f"IEC 60364-4-43:2008 434.5.2{', 434.4' if found.sets > 1 else ''}, k of table 43A"
    if band is None or need.fault is None or need.far is None:
        return unknown(key, name, _lacks(need, band))
    near, far = 1000 * need.fault.value, least_touching_a(need.far, need)
    bears, at_far = (found.k * area_mm2(size)) ** 2, band.let_through_a2s(far) / found.sets**2
    if at_far == float("inf"):
        between = "line and neutral" if need.neutral else "lines"
        text = f"At {far:.0f} A, the least between {between} at the motor, opening is not certain."
        return rule(key, name, False, text, source, remedy="A device that opens at less, or a larger run.")
    at_near, said = band.let_through_a2s(near), need.circuit.protection.let_through_a2s
    energy = max(said if said is not None else at_near, at_far)
    one = f"; one of {found.sets} may bear it alone" if found.sets > 1 else ""
    text = f"I²t {write(energy / 1e6, 3)} of {write(bears / 1e6, 3)} kA²s that {size} bears{one}."
    limits = band.pickup_a is not None and said is None and at_far <= bears < at_near
    if limits:
        text = f"It bears a fault at the motor; at its board, {write(near / 1000, 3)} kA, its own limiting decides."
    through = Taken(
        path="protection.let_through", label="let-through I²t at its board", unit="kA²s", value=energy / 1e6,
        low=(_LIMITS_TO * energy if limits else energy) / 1e6, high=energy / 1e6,
        how="of a full cycle" if limits else "", given=not limits,
    )  # fmt: skip
    return at_most(
        key, name, energy / 1e6, bears / 1e6, sentence=text, source=source, unit="kA²s", rests=(through,),
        room=lambda through: bears / 1e6 - max(through, at_far / 1e6),
        remedy="A larger conductor, or a device that lets less through.",
    )  # fmt: skip


_LIMITS_TO: Final = 0.003  # of a full cycle: small breakers let some 20 000 A²s through at ten kiloamperes; estimated


def no_conduit(sheet: Sheet, need: Need, size: str | None, ground: str) -> Device | None:
    """IEC 60364-5-52 sets no share that wires may fill: 522.8 asks that they can be drawn in without harm."""
    del sheet, need, size, ground
    return None


def grounding(sheet: Sheet, need: Need, band: Band | None, size: str | None) -> Device:
    """Table 54.2's size, the loop and its disconnection time, the adiabatic equation."""
    by_rule, wiring = "IEC 60364-5-54:2011 table 54.2", need.circuit.wiring
    if size is None:
        return nothing("grounding", "Protective conductor", by_rule, ("conductor size",))
    asked = next_size(protective_size(size)) or size
    chosen = wiring.ground_size or asked
    if "mm²" not in chosen:
        return nothing("grounding", "Protective conductor", by_rule, ("a size in mm²",))
    found = laid(Sheet("wiring", ""), need)
    loop = earth_loop(sheet, need, size, chosen)
    adiabatic = None
    behind = need.way.converts or need.job.supply.earthing == "tt"
    if found is not None and loop is not None and band is not None and not behind:
        adiabatic = protective_withstand(need, found.k, band, area_mm2(chosen), chosen, loop)
    gates = [_size_gate(chosen, asked, by_rule, entered=wiring.ground_size is not None, adiabatic=adiabatic)]
    gates.append(disconnection(sheet, need, band, loop))
    gates += earthing_gates(need, chosen)
    if found is not None:
        gates.append(withstand_gate(need, found, band, size))
    if adiabatic is not None:
        gates.append(adiabatic)
    return Device(
        key="grounding",
        name="Protective conductor",
        current=None,
        rule=by_rule,
        asked=f"≥ {asked}",
        advised=asked,
        chosen=chosen,
        gates=tuple(gates),
        path="wiring.ground_size",
        take=asked if chosen != asked else "",
    )


def _size_gate(chosen: str, asked: str, rule_text: str, *, entered: bool, adiabatic: Gate | None) -> Gate:
    """By the table; smaller is allowed where the adiabatic equation shows it (543.1.1)."""
    key, name = "protection.grounding", "Protective conductor"
    said = "" if entered else "As advised: "
    text = f"{said}{chosen}, {asked} by the table."
    remedy = f"{asked}, or the device's real I²t in the adiabatic equation."
    if area_mm2(chosen) >= area_mm2(asked):
        return rule(key, name, True, text, rule_text)
    if adiabatic is None or adiabatic.verdict is Verdict.UNKNOWN:
        return unknown(key, name, ("its loop and device, for the adiabatic equation",))
    shown = adiabatic.verdict is Verdict.PASSES
    text += f" The adiabatic equation {'allows it' if shown else 'does not allow it'}."
    return rule(key, name, shown, text, rule_text, remedy=remedy)
