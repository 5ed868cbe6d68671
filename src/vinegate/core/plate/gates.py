"""Does the plate make sense? Each gate names the facts that disagree."""

from __future__ import annotations

import math
from typing import Any, Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import two_lines, volts_of
from vinegate.core.grade import Gate, at_most, check, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.agree import agree_gates
from vinegate.core.plate.frame_gate import frame_gate
from vinegate.core.plate.kind import THREE_PHASE, Family, has_poles, volt_ampere_factor
from vinegate.core.plate.letter import letter_gate
from vinegate.core.plate.per_connection import connection_gates
from vinegate.core.plate.power_gate import SMALL_W, power_gate
from vinegate.core.plate.rated import Rated
from vinegate.core.plate.rectifier_gate import dc_supply_gates
from vinegate.core.plate.speeds import two_speeds
from vinegate.core.plate.table_gate import table_gate
from vinegate.core.plate.volts import Connection
from vinegate.core.plate.which_kind import kind_gate
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Turns
from vinegate.core.working import Figure

OF_ITS_SUPPLY: Final = ("plate.volts", "plate.frequency")
"""What is between a plate and its supply, and no contradiction of the plate's own."""
_MOST_SLIP_PCT: Final = 13.0  # MG 1 design D reaches 8 to 13 %
_DOUBTFUL_SLIP_PCT: Final = 5.0  # MG 1 1.19.1: designs A, B and C stay below 5 %
_MOST_POLES: Final = 16
_JUST_ABOVE: Final = 1.05
_EDGE_PCT: Final = 2.0
_SAME_HZ_PCT: Final = 0.05
_ROUNDED_PCT: Final = 1e-9  # 57 Hz is a little more than 5 % below 60 to a computer


def plate_gates(sheet: Sheet, circuit: Circuit, job: Job, rated: Rated, rules: RuleSet, table: Figure | None) -> None:
    """Put the plate's gates on its sheet. `table` is the current tabulated for it, under a rule set that has one. While
    its kind is not known nothing else is judged of it: all of it goes by the kind.
    """
    plate, is_dc = circuit.plate, circuit.plate.family is Family.DC
    if (kind := kind_gate(plate)) is not None:
        sheet.gates.append(kind)
        if not kind.fails:
            return
    if has_poles(plate.kind):
        sheet.gates.append(_speed_gate(circuit, rated))
    sheet.gates.append(power_gate(sheet, circuit, rated, rules))
    sheet.gates += connection_gates(plate)
    if is_dc:
        sheet.gates += dc_supply_gates(sheet, circuit, job, rated)
    else:
        sheet.gates += [_volts_gate(circuit, job, rules), _frequency_gate(circuit, job, rated, rules)]
    built = rules.plate_sizes(circuit.plate, two_speeds=two_speeds(circuit))
    sheet.gates += _stamped_gates(circuit, rated, table, built)
    sheet.gates += agree_gates(circuit.plate, rated)


def _speed_gate(circuit: Circuit, rated: Rated) -> Gate:
    key, name = "plate.speed", "Speed below synchronous"
    source = "induction machine: rotor turns slower than its field"
    if rated.speed is None or rated.frequency is None:
        needs = [label for label, fact in (("speed", rated.speed), ("frequency", rated.frequency)) if fact is None]
        return unknown(key, name, tuple(needs))
    n, f = rated.speed, rated.frequency
    remedy = "Read speed and frequency on the plate again."
    if rated.slip is None or rated.synchronous is None:
        text = f"{n.shown} is above {write(60 * f.value)} {n.unit}, the highest synchronous speed at {f.shown}."
        return rule(key, name, False, text, source, remedy=remedy)
    slip, n_s = rated.slip.value, rated.synchronous
    if slip <= 0:
        text = f"{n.shown} is the synchronous speed at {f.shown}: an induction motor at full load turns slower."
        return rule(key, name, False, text, source, remedy=remedy)
    most = _MOST_SLIP_PCT
    text = f"Slip {write(slip, 3)} % below {n_s.shown}."
    just_above = _just_above(n.value, f.value)
    if slip > most and just_above is not None:
        poles = round(120 * f.value / just_above)
        text = f"{n.shown} is above {write(just_above)} {n.unit}, the synchronous speed of {poles} poles at {f.shown}: "
        text += "speed and frequency disagree."
    elif slip > most:
        text = f"{n.shown} at {f.shown} is {slip:.1f} % below {n_s.shown}: speed and frequency disagree."
    elif slip > _DOUBTFUL_SLIP_PCT and circuit.plate.design_letter != "D" and not _small(circuit):
        return _high_slip(key, name, circuit, n, n_s, slip)
    elif slip < _DOUBTFUL_SLIP_PCT and circuit.plate.design_letter == "D":
        return _little_slip(key, name, n, n_s, slip)
    elif round(120 * f.value / n_s.value) > _MOST_POLES:
        return _many_poles(key, name, n, f, n_s)
    return at_most(key, name, slip, most, sentence=text, source=source, unit="%", remedy=remedy)


def may_be_of_design_d(circuit: Circuit, rated: Rated) -> bool:
    """Whether it slips as only design D does, and no letter says that it is of another (NEMA MG 1:2021 1.19.1)."""
    slips = rated.slip is not None and rated.slip.value > _DOUBTFUL_SLIP_PCT
    return slips and circuit.plate.design_letter is None and not _small(circuit)


def _just_above(speed: float, hertz: float) -> float | None:
    """The synchronous speed that a speed lies a little above: what was read is hardly a pole number fewer."""
    below = [120 * hertz / poles for poles in range(2, 26, 2) if 120 * hertz / poles <= speed]
    return below[0] if below and speed <= _JUST_ABOVE * below[0] else None


def _small(circuit: Circuit) -> bool:
    """Machines below about 2 kW slip more than 5 % without being of a special design."""
    return circuit.plate.power_w is not None and circuit.plate.power_w <= SMALL_W


def _high_slip(key: str, name: str, circuit: Circuit, n: Figure, n_s: Figure, slip: float) -> Gate:
    """More slip than a machine of its size usually has, without a design letter that says so."""
    least = math.ceil(n_s.value * (1 - _DOUBTFUL_SLIP_PCT / 100))
    bad = math.floor(n_s.value * (1 - _MOST_SLIP_PCT / 100))
    turns = Turns(
        path="plate.speed",
        label="plate speed",
        passes=f"from {least} {n.unit}",
        fails=f"below {bad} {n.unit}",
        passes_as=f"{least} {n.unit}",
        fails_as=f"{bad - 2} {n.unit}",
    )
    letter = circuit.plate.design_letter
    why = f"for design {letter}" if letter else "without a design letter that says so"
    text = f"Slip {slip:.1f} % is high {why}. Passes for any plate speed {turns.passes}; {n.shown} given."
    remedy = "Read the speed again, or give the design letter."
    return check(key, name, turns, text, "NEMA MG 1:2021 1.19.1: designs A, B and C slip less than 5 %", remedy=remedy)


def _little_slip(key: str, name: str, n: Figure, n_s: Figure, slip: float) -> Gate:
    """Design D is known by its slip: with less of it, letter or speed was read wrongly, and its torque is not D's."""
    most = math.floor(n_s.value * (1 - _DOUBTFUL_SLIP_PCT / 100))
    said = f"{most} {n.unit}"
    turns = Turns(path="plate.speed", label="plate speed", passes=f"up to {said}", passes_as=said)
    text = f"Slip {slip:.1f} % is little for design D. Passes for any plate speed {turns.passes}; {n.shown} given."
    source = "NEMA MG 1:2021 1.19.1: design D slips 5 % or more"
    return check(key, name, turns, text, source, remedy="Read the speed and the design letter again.")


def _many_poles(key: str, name: str, n: Figure, f: Figure, n_s: Figure) -> Gate:
    """A speed that only a machine of more poles than are usually made would have: mostly a digit lost."""
    least = math.ceil(120 * f.value / _MOST_POLES * (1 - _DOUBTFUL_SLIP_PCT / 100))
    turns = Turns(
        path="plate.speed", label="plate speed", passes=f"from {least} {n.unit}", passes_as=f"{least} {n.unit}"
    )
    poles = round(120 * f.value / n_s.value)
    text = f"{n.shown} at {f.shown} would be {poles} poles: few are made with over {_MOST_POLES}. "
    text += f"Passes for any plate speed {turns.passes}."
    source = "NEMA MG 1:2021 10.32: to 514 rpm at 60 Hz; IEC 60034-12:2016: two to eight poles"
    return check(key, name, turns, text, source, remedy="Read speed and frequency on the plate again.")


def _volts_gate(circuit: Circuit, job: Job, rules: RuleSet) -> Gate:
    """The supply against the plate's volts: rated zone, working zone, outside."""
    key, name = "plate.volts", "Plate volts fit the supply"
    designation, supply_v = circuit.plate.volts, volts_of(job, circuit)
    if designation is None or supply_v is None:
        missing = [label for label, fact in (("plate volts", designation), ("system volts", supply_v)) if fact is None]
        return unknown(key, name, tuple(missing))
    if volt_ampere_factor(circuit.plate.kind) > 1 and two_lines(job, circuit) and not circuit.from_drive:
        text = f"{write(supply_v)} V here is single-phase, three wires: nothing turns a three-phase field."
        remedy = "A three-phase supply, a single-phase motor, or a drive with a single-phase input."
        return rule(key, name, False, text, "two lines and a neutral: one phase", remedy=remedy)
    connection = designation.nearest(supply_v)[1]
    deviation = 100 * connection.deviation_pu(supply_v)
    inner, outer = (100 * share for share in rules.zone_pu)
    margin, supply = outer - abs(deviation), f"{write(supply_v)} V"
    on = f"{supply} is {abs(deviation):.1f} % {'above' if deviation > 0 else 'below'} the plate's {connection.text} V"
    source = rules.zone_source
    common: dict[str, Any] = {"value": deviation, "limit": outer, "margin": margin, "unit": "%"}
    if designation.usable(supply_v):
        return rule(key, name, True, f"The plate says usable at {supply}.", source, **common)
    swapped = _swapped(circuit, supply_v, outer / 100)
    if circuit.from_drive and circuit.plate.family in THREE_PHASE and abs(deviation) > inner and not swapped:
        return rule(key, name, True, f"{on}: {_BY_DRIVE[deviation < 0]}", "volts and hertz are the drive's")
    if margin < -1e-9:
        text = f"{on}, outside ±{write(outer)} %: no connection of {designation.text} V fits."
        remedy = f"Take a motor whose plate names {supply}, or change the supply."
        if measure := _in_measure(circuit, job, supply_v):
            remedy = f"{measure} {remedy}"
        at_neutral = designation.nearest(supply_v / math.sqrt(3))[1].deviation_pu(supply_v / math.sqrt(3))
        if circuit.plate.kind is None and abs(at_neutral) <= outer / 100:
            remedy = f"A single-phase motor would stand on a line and neutral here: choose its kind. {remedy}"
        if swapped:
            remedy = "Volts and amperes look swapped: read both on the plate again."
        return rule(key, name, False, text, source, remedy=remedy, **common)
    if abs(deviation) > inner or margin < _EDGE_PCT:
        return _at_the_edge(key, name, connection, on, (inner, outer), supply_v, source)
    text = f"{on}, within ±{write(inner)} %."
    if abs(deviation) < 0.05:
        text = f"{supply} is what the plate asks for as {connection.text} V."
    return rule(key, name, True, text, source, **common)


def _in_measure(circuit: Circuit, job: Job, supply_v: float) -> str:
    """What its maker may re-rate it to, where volts and hertz here stand as on the plate: the flux is kept."""
    designation, hertz, here = circuit.plate.volts, circuit.plate.frequency_hz, job.supply.frequency_hz
    if designation is None or not hertz or not here or hertz == here:
        return ""
    connection = designation.with_its_flux(supply_v, here / hertz)
    if connection is None:
        return ""
    as_here, share = connection.high_v * here / hertz, here / hertz
    return (
        f"Volts and hertz stand as on the plate: with its maker's word plan it as for {as_here:.0f} V and {here:g} Hz, "
        f"{share:.2f} times its power and synchronous speed."
    )


_BY_DRIVE: Final = (
    "its drive gives no more than the plate's.",
    "its drive gives what the line has; what that leaves is on its sheet.",
)


def off_the_line(circuit: Circuit, job: Job, rules: RuleSet) -> str:
    """Why the motor may not hang on this line itself, where a drive stands between; empty where it may."""
    designation, supply_v = circuit.plate.volts, volts_of(job, circuit)
    own_hz, hertz = circuit.plate.frequency_hz, job.supply.frequency_hz
    if designation is not None and supply_v is not None and not designation.usable(supply_v):
        connection = designation.nearest(supply_v)[1]
        if abs(connection.deviation_pu(supply_v)) > rules.zone_pu[1] + 1e-9:
            return f"the line has {write(supply_v)} V, its plate {connection.text} V"
    if own_hz and hertz:
        down, up = rules.frequency_zone_pu
        if not down - _ROUNDED_PCT / 100 <= hertz / own_hz - 1 <= up + _ROUNDED_PCT / 100:
            return f"the line has {write(hertz)} Hz, its plate {write(own_hz)} Hz"
    return ""


def _swapped(circuit: Circuit, supply_v: float, within: float) -> bool:
    """Whether what stands as amperes would fit the supply's volts."""
    amps = circuit.plate.full_load_current
    values = [value for group in amps.per_connection_a for value in group] if amps is not None else []
    return any(abs(supply_v / value - 1) <= within for value in values)


def _at_the_edge(
    key: str, name: str, connection: Connection, on: str, zones: tuple[float, float], supply_v: float, source: str
) -> Gate:
    """At the end of what it may work in: the volts that are really there decide, or a plate that names them."""
    inner, outer = zones
    down = supply_v < connection.low_v
    keeps = min(inner, outer - _EDGE_PCT)
    edge = connection.low_v * (1 - keeps / 100) if down else connection.high_v * (1 + keeps / 100)
    past = connection.low_v * (1 - outer / 100) if down else connection.high_v * (1 + outer / 100)
    same = 1e-6  # 1.1 · 400 is a little more than 440 to a computer
    bad, good = math.floor(past + same) - 1, math.ceil(edge - same)
    if not down:
        bad, good = math.ceil(past - same) + 1, math.floor(edge + same)
    turns = Turns(
        path="supply.volts",
        label="volts at the board",
        passes=f"{'from' if down else 'up to'} {good} V",
        fails=f"{'below' if down else 'above'} {write(past, 3)} V",
        passes_as=f"{good} V",
        fails_as=f"{bad} V",
    )
    text = f"{on}: close to the ±{write(outer)} % it may work in, hotter and weaker. Passes for {turns.label} "
    text += f"{turns.passes}; {write(supply_v)} V given."
    return check(key, name, turns, text, source, remedy=f"Prefer a plate that names {write(supply_v)} V.")


def _frequency_gate(circuit: Circuit, job: Job, rated: Rated, rules: RuleSet) -> Gate:
    """Plate frequency against the supply's: within the rule set's range, and with the volts in the sum it allows."""
    key, name, supply_hz = "plate.frequency", "Plate frequency fits the supply", job.supply.frequency_hz
    if rated.frequency is None or supply_hz is None:
        absent = (("plate frequency", rated.frequency), ("system frequency", supply_hz))
        return unknown(key, name, tuple(label for label, fact in absent if fact is None))
    off = 100 * (supply_hz / rated.frequency.value - 1)
    text = f"{rated.frequency.shown} on plate and supply."
    if abs(off) > _SAME_HZ_PCT:
        way = "above" if off > 0 else "below"
        text = f"{write(supply_hz)} Hz is {abs(off):.1f} % {way} the plate's {rated.frequency.shown}."
        if circuit.from_drive:
            text = f"{write(supply_hz)} Hz on the line; a drive makes the plate's {rated.frequency.shown}."
            return rule(key, name, True, text, "a drive's output does not hang on the line's frequency")
    remedy = "Ask the maker for ratings at the supply's frequency, or take another motor, or a drive."
    down, up = (100 * share for share in rules.frequency_zone_pu)
    if off < down - _ROUNDED_PCT or off > up + _ROUNDED_PCT:
        return rule(key, name, False, text, rules.zone_source, remedy=remedy, value=abs(off), limit=max(-down, up))
    if rules.frequency_inner_pu is not None and abs(off) > 100 * rules.frequency_inner_pu + _SAME_HZ_PCT:
        return _between_zones(key, name, text, rated.frequency.value, rules, remedy, below=off < 0)
    volts, supply_v = circuit.plate.volts, volts_of(job, circuit)
    if rules.deviations_together_pu is None or volts is None or supply_v is None or abs(off) <= _SAME_HZ_PCT:
        return rule(key, name, True, text, rules.zone_source, value=abs(off), limit=max(-down, up), unit="%")
    both = abs(off) + abs(100 * volts.nearest(supply_v)[1].deviation_pu(supply_v))
    most = 100 * rules.deviations_together_pu
    text += f" With the volts' deviation {both:.1f} % of {most:g} % allowed together."
    return at_most(key, name, both, most, sentence=text, source=rules.zone_source, unit="%", remedy=remedy)


def _between_zones(key: str, name: str, text: str, hertz: float, rules: RuleSet, remedy: str, *, below: bool) -> Gate:
    """Past the zone for continuous work, within the one for a while."""
    assert rules.frequency_inner_pu is not None
    inner = hertz * (1 + (-1 if below else 1) * rules.frequency_inner_pu)
    outer = hertz * (1 + rules.frequency_zone_pu[0 if below else 1])
    turns = Turns(
        path="supply.frequency",
        label="frequency",
        passes=f"{'from' if below else 'up to'} {write(inner)} Hz",
        fails=f"{'below' if below else 'above'} {write(outer)} Hz",
        passes_as=f"{write(inner)} Hz",
        fails_as=f"{write(outer * (0.99 if below else 1.01))} Hz",
    )
    text += f" That is for a while, not for ever. Passes for any {turns.label} {turns.passes}."
    return check(key, name, turns, text, rules.zone_source, remedy=remedy)


def _stamped_gates(circuit: Circuit, rated: Rated, table: Figure | None, built: str) -> list[Gate]:
    """Figures stamped twice in different words; only where both stand on the plate."""
    found = [letter_gate(circuit.plate, rated), _service_factor_gate(circuit, rated), frame_gate(circuit, rated)]
    found.append(table_gate(table, rated, built))
    return [gate for gate in found if gate is not None]


def _service_factor_gate(circuit: Circuit, rated: Rated) -> Gate | None:
    """Amperes at service factor against full-load amperes."""
    amps = rated.at_factor_a
    if amps is None or rated.current is None:
        return None
    full, factor = rated.current.value, circuit.plate.service_factor or _MOST_FACTOR
    less, more = amps < full, amps > _SF_TIMES * factor * full
    text = f"{write(amps)} A at service factor, {'less than ' if less else ''}{rated.current.shown} at full load"
    text += f": more than a service factor of {write(factor, 3)} explains." if more else "."
    return rule(
        "plate.sf_amps", "SF amperes go with full-load amperes", not less and not more, text,
        "NEMA MG 1:2021 1.42, 12.51", remedy="Read both amperes again.",
    )  # fmt: skip


_MOST_FACTOR: Final = 1.4  # NEMA MG 1:2021 table 12-4: the largest, of the smallest machines
_SF_TIMES: Final = 1.15  # amperes rise a little faster than the load; assumed
