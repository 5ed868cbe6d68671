"""Does the plate make sense? Each gate names the facts that disagree."""

from __future__ import annotations

from functools import partial
from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.gate import Gate, Verdict, unknown
from vinegate.core.plate.frame_gate import frame_gate
from vinegate.core.plate.kind import Family, has_poles, volt_ampere_factor
from vinegate.core.plate.rated import Rated
from vinegate.core.plate.table_current import table_current, table_gate
from vinegate.core.quantity import WATT_PER_HP, write
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load
from vinegate.core.working import Figure

_MOST_SLIP_PCT: Final = 13.0  # MG 1 design D reaches 8 to 13 %
_DOUBTFUL_SLIP_PCT: Final = 5.0  # MG 1 1.19.1: designs A, B and C stay below 5 %
_LEAST_ETA_PF: Final = 0.45
_LEAST_SINGLE: Final = 0.12  # a shaded-pole machine turns most of what it takes into heat


def plate_gates(sheet: Sheet, circuit: Circuit, job: Job, rated: Rated, rules: RuleSet) -> None:
    """Put the plate's gates on its sheet."""
    plate, is_dc = circuit.plate, circuit.plate.family is Family.DC
    if has_poles(plate.kind):
        sheet.gates.append(_speed_gate(circuit, rated))
    sheet.gates.append(_power_gate(sheet, circuit, rated, rules))
    if is_dc:
        sheet.gates.append(_dc_supply_gate())
    else:
        sheet.gates += [_volts_gate(circuit, job, rules), _frequency_gate(job, rated)]
    sheet.gates += _stamped_gates(sheet, circuit, rated, rules)


def _dc_supply_gate() -> Gate:
    return Gate(
        key="plate.volts",
        name="Direct-current supply",
        verdict=Verdict.UNKNOWN,
        sentence="A direct-current machine needs its rectifier or drive between it and this supply.",
        source="armature volts are not the system's",
        remedy="Plan the rectifier's or drive's supply by its maker's data.",
        needs=("the rectifier or drive",),
    )


def _speed_gate(circuit: Circuit, rated: Rated) -> Gate:
    key, name = "plate.speed", "Speed below synchronous"
    source = "induction machine: rotor turns slower than its field"
    if rated.speed is None or rated.frequency is None:
        needs = [label for label, fact in (("speed", rated.speed), ("frequency", rated.frequency)) if fact is None]
        return unknown(key, name, tuple(needs))
    n, f = rated.speed, rated.frequency
    remedy = "Read speed and frequency on the plate again."
    common = partial(Gate, key=key, name=name, source=source)
    if rated.slip is None or rated.synchronous is None:
        text = f"{n.shown} is above {write(60 * f.value)} {n.unit}, the highest synchronous speed at {f.shown}."
        return common(verdict=Verdict.SHUT, sentence=text, remedy=remedy)
    slip, n_s = rated.slip.value, rated.synchronous
    with_slip = partial(common, value=slip, limit=_MOST_SLIP_PCT, margin=_MOST_SLIP_PCT - slip, unit="%")
    if slip <= 0:
        text = f"{n.shown} is the synchronous speed at {f.shown}: an induction motor at full load turns slower."
        return common(verdict=Verdict.SHUT, sentence=text, remedy=remedy)
    if slip > _MOST_SLIP_PCT:
        text = f"{n.shown} at {f.shown} is {slip:.1f} % below {n_s.shown}: speed and frequency disagree."
        return with_slip(verdict=Verdict.SHUT, sentence=text, remedy=remedy)
    if slip > _DOUBTFUL_SLIP_PCT and circuit.plate.design_letter != "D":
        text = f"Slip {slip:.1f} % is high for anything but design D."
        return with_slip(verdict=Verdict.AJAR, sentence=text, remedy=remedy)
    return with_slip(verdict=Verdict.OPEN, sentence=f"Slip {write(slip, 3)} % below {n_s.shown}.")


def _power_gate(sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet) -> Gate:
    """Efficiency × power factor implied by power, volts and amperes, against 1 and against the plate's own."""
    key, name = "plate.power", "Power, volts and amperes agree"
    plate = circuit.plate
    wanted = (("power", rated.power), ("volts", rated.volts), (rules.words.full_load_current, rated.current))
    missing = tuple(label for label, fact in wanted if fact is None)
    if rated.power is None or rated.volts is None or rated.current is None:
        return unknown(key, name, missing)
    implied = _implied(sheet, rated.power, rated.volts, rated.current, volt_ampere_factor(plate.kind))
    source = "P = √3·U·I·η·pf" if volt_ampere_factor(plate.kind) > 1 else "P = U·I·η·pf"
    remedy = "Read power, volts and amperes on the plate again; check which volts the amperes are for."
    common = partial(Gate, key=key, name=name, source=source, value=implied.value)
    if implied.value > 1:
        text = (
            f"{rated.power.shown} from {rated.current.shown} at {rated.volts.shown} is more than goes in: "
            f"efficiency × power factor would be {implied.value:.2f}."
        )
        return common(limit=1.0, margin=1 - implied.value, verdict=Verdict.SHUT, sentence=text, remedy=remedy)
    if plate.efficiency_pu and plate.power_factor:
        stamped = plate.efficiency_pu * plate.power_factor
        apart = abs(implied.value / stamped - 1)
        verdict = Verdict.OPEN if apart <= 0.05 else Verdict.AJAR if apart <= 0.12 else Verdict.SHUT
        text = f"Efficiency × power factor: {implied.value:.3f} from power, volts and amperes, {stamped:.3f} as given."
        kept = "" if verdict is Verdict.OPEN else remedy
        return common(limit=stamped, margin=0.12 - apart, verdict=verdict, sentence=text, remedy=kept)
    least = _LEAST_ETA_PF if plate.family is not Family.SINGLE else _LEAST_SINGLE
    if implied.value < least:
        text = f"Efficiency × power factor would be only {implied.value:.2f}: the amperes look high for the power."
        return common(limit=least, verdict=Verdict.AJAR, sentence=text, remedy=remedy)
    text = f"Efficiency × power factor comes to {implied.value:.2f}, which a motor can have."
    return common(limit=1.0, margin=1 - implied.value, verdict=Verdict.OPEN, sentence=text)


def _implied(sheet: Sheet, power: Figure, volts: Figure, current: Figure, factor: float) -> Figure:
    three = factor > 1
    watts_per = WATT_PER_HP if power.unit == "hp" else 1000.0
    per_text = "745.7" if power.unit == "hp" else "1000"
    return sheet.work(
        "eta_pf",
        "Efficiency × power factor, implied",
        "ηpf",
        power.value * watts_per / (factor * volts.value * current.value),
        "",
        formula=f"{per_text}·P/({'√3·' if three else ''}U_N·{current.symbol})",
        inputs=(power, volts, current),
        source="P = √3·U·I·η·pf" if three else "P = U·I·η·pf",
    )


def _volts_gate(circuit: Circuit, job: Job, rules: RuleSet) -> Gate:
    """The supply against the plate's volts: rated zone, working zone, outside."""
    key, name = "plate.volts", "Plate volts fit the supply"
    designation, supply_v = circuit.plate.volts, job.volts_at(circuit.wiring.board)
    if designation is None or supply_v is None:
        missing = [label for label, fact in (("plate volts", designation), ("system volts", supply_v)) if fact is None]
        return unknown(key, name, tuple(missing))
    connection = designation.nearest(supply_v)[1]
    deviation = 100 * connection.deviation_pu(supply_v)
    inner, outer = (100 * share for share in rules.zone_pu)
    common = partial(Gate, key=key, name=name, source=rules.zone_source, value=deviation, limit=outer, unit="%")
    margin = outer - abs(deviation)
    supply = f"{write(supply_v)} V"
    on = f"{supply} is {abs(deviation):.1f} % {'above' if deviation > 0 else 'below'} the plate's {connection.text} V"
    if designation.usable(supply_v):
        return common(margin=margin, verdict=Verdict.OPEN, sentence=f"The plate says usable at {supply}.")
    if margin < -1e-9:
        text = f"{on}, outside ±{write(outer)} %: no connection of {designation.text} fits."
        remedy = f"Take a motor whose plate names {supply}, or change the supply."
        return common(margin=margin, verdict=Verdict.SHUT, sentence=text, remedy=remedy)
    if abs(deviation) > inner or margin < 2:
        text = f"{on}: close to the ±{write(outer)} % it may work in, hotter and weaker."
        remedy = f"Prefer a plate that names {supply} or says usable at it."
        return common(margin=margin, verdict=Verdict.AJAR, sentence=text, remedy=remedy)
    if abs(deviation) < 0.05:
        text = f"{supply} is what the plate asks for as {connection.text} V."
    else:
        text = f"{on}, within ±{write(inner)} %."
    return common(margin=margin, verdict=Verdict.OPEN, sentence=text)


def _frequency_gate(job: Job, rated: Rated) -> Gate:
    """Plate frequency against the supply's, ±5 % (NEMA MG 1 12.44)."""
    key, name, supply_hz = "plate.frequency", "Plate frequency fits the supply", job.supply.frequency_hz
    if rated.frequency is None or supply_hz is None:
        absent = (("plate frequency", rated.frequency), ("system frequency", supply_hz))
        return unknown(key, name, tuple(label for label, fact in absent if fact is None))
    off = 100 * (supply_hz / rated.frequency.value - 1)
    common = partial(Gate, key=key, name=name, source="NEMA MG 1:2021 12.44", value=off, limit=5.0, unit="%")
    if abs(off) > 5:
        text = f"The plate is for {rated.frequency.shown}, the supply is {write(supply_hz)} Hz."
        remedy = "Ask the maker for ratings at the supply's frequency, or take another motor."
        return common(margin=5 - abs(off), verdict=Verdict.SHUT, sentence=text, remedy=remedy)
    return common(margin=5 - abs(off), verdict=Verdict.OPEN, sentence=f"{rated.frequency.shown} on plate and supply.")


def _stamped_gates(sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet) -> list[Gate]:
    """Figures stamped twice in different words; only where both stand on the plate."""
    found = [_letter_gate(circuit, rated), _service_factor_gate(circuit, rated), frame_gate(circuit, rated)]
    if rules.name == "nec":
        found.append(table_gate(table_current(sheet, circuit, rated), rated))
    return [gate for gate in found if gate is not None]


def _letter_gate(circuit: Circuit, rated: Rated) -> Gate | None:
    """Code letter against stamped locked-rotor amperes."""
    plate = circuit.plate
    if plate.code_letter is None or plate.locked_rotor_current_a is None or plate.power_w is None or not rated.volts:
        return None
    table = load("code_letter")
    row = table.find(letter=plate.code_letter)
    assert row is not None
    factor = volt_ampere_factor(plate.kind)
    per_hp = factor * rated.volts.value * plate.locked_rotor_current_a / 1000 / (plate.power_w / WATT_PER_HP)
    low, high = table.number(row, "from_kva_per_hp") or 0.0, table.number(row, "to_kva_per_hp") or float("inf")
    common = partial(Gate, key="plate.letter", name="Code letter and locked-rotor amperes agree", source=table.cite)
    said = f"{write(plate.locked_rotor_current_a)} A is {write(per_hp, 3)} kVA/hp"
    if low <= per_hp < high:
        return common(verdict=Verdict.OPEN, sentence=f"{said}, within letter {plate.code_letter}.")
    near = low * 0.95 <= per_hp < high * 1.05
    text = f"{said}, outside letter {plate.code_letter}: code letter and locked-rotor amperes disagree."
    remedy = "Read both again; the stamped amperes are used."
    return common(verdict=Verdict.AJAR if near else Verdict.SHUT, sentence=text, remedy=remedy)


def _service_factor_gate(circuit: Circuit, rated: Rated) -> Gate | None:
    """Amperes at service factor against full-load amperes."""
    amps = circuit.plate.service_factor_current_a
    if amps is None or rated.current is None:
        return None
    common = partial(Gate, key="plate.sf_amps", name="SF amperes above full-load amperes", source="NEMA MG 1:2021 1.42")
    if amps < rated.current.value:
        text = f"{write(amps)} A at service factor is less than {rated.current.shown} at full load."
        return common(verdict=Verdict.SHUT, sentence=text, remedy="Read both amperes again.")
    return common(
        verdict=Verdict.OPEN, sentence=f"{write(amps)} A at service factor, {rated.current.shown} at full load."
    )
