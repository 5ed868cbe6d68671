"""The machine behind the plate: a circuit entered, from tests, or fitted; inertia and stall."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from vinegate.core.facts import Circuit
from vinegate.core.gate import Gate, Verdict, unknown
from vinegate.core.machine.circuit import Cage, EquivalentCircuit, breakdown, operate
from vinegate.core.machine.design import Floor, least_torques, nominal_efficiency
from vinegate.core.machine.fit import Fit, NoFit, Target, fit
from vinegate.core.machine.inertia import iec_load_inertia, nema_load_inertia, rotor_inertia_estimate
from vinegate.core.machine.tests112 import TestReport, TestsDisagree, circuit_from_tests
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.starting.locked_rotor import LockedRotor
from vinegate.core.working import Figure, Provenance

_CLOSE, _LOOSE = 0.05, 0.20
_STATED_TORQUE = Floor(value_pu=1.5, source="usual of cage machines; no design letter or table says more")
_STATED_BREAKDOWN = Floor(value_pu=2.0, source="usual of cage machines; no design letter or table says more")
_STALL_S, _STALL_HP = 12.0, 500
_STALL_SOURCE = "NEMA MG 1:2021 12.49: at least this, for 500 hp and less"


@dataclass(frozen=True, slots=True, kw_only=True)
class Machine:
    """A circuit at plate volts, its origin ("fitted", "entered", "from tests") and the rated torque it belongs to."""

    circuit: EquivalentCircuit
    origin: str
    volts_v: float
    rated_torque_nm: float
    locked_rotor_power_factor: Figure


def plan_machine(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, inrush: LockedRotor | None
) -> Machine | None:
    """The machine, and its figures and gates on the sheet. None, with what is missing named, when there is none yet."""
    poles = _poles(rated)
    _inertia(sheet, circuit, rated, rules, poles)
    _stall(sheet, circuit)
    found = _entered(sheet, circuit, rated, poles) or _tested(sheet, circuit, rated, poles)
    if found is None:
        found = _fitted(sheet, circuit, rated, rules, inrush, poles)
    if found is None or rated.volts is None:
        return None
    return _describe(sheet, found[0], found[1], rated, rules)


def _poles(rated: Rated) -> int | None:
    if rated.synchronous is None or rated.frequency is None or rated.slip is None or rated.slip.value <= 0:
        return None
    return round(120 * rated.frequency.value / rated.synchronous.value)


def _entered(sheet: Sheet, circuit: Circuit, rated: Rated, poles: int | None) -> tuple[EquivalentCircuit, str] | None:
    m = circuit.machine
    if m.r1_ohm is None or m.x1_ohm is None or m.xm_ohm is None or m.r2_ohm is None or m.x2_ohm is None:
        return None
    if poles is None or rated.frequency is None:
        return None
    found = EquivalentCircuit(
        r1_ohm=m.r1_ohm,
        x1_ohm=m.x1_ohm,
        xm_ohm=m.xm_ohm,
        rfe_ohm=m.rfe_ohm,
        cages=(Cage(r_ohm=m.r2_ohm, x_ohm=m.x2_ohm),),
        poles=poles,
        frequency_hz=rated.frequency.value,
    )
    return found, "entered"


def _tested(sheet: Sheet, circuit: Circuit, rated: Rated, poles: int | None) -> tuple[EquivalentCircuit, str] | None:
    m = circuit.machine
    values = [m.dc_resistance_ohm, m.no_load_volts_v, m.no_load_current_a, m.no_load_power_w, m.locked_volts_v]
    values += [m.locked_current_a, m.locked_power_w, m.locked_frequency_hz]
    if poles is None or rated.frequency is None or any(value is None for value in values):
        return None
    dc, u0, i0, p0, ul, il, pl, fl = (float(value) for value in values if value is not None)
    report = TestReport(
        dc_resistance_ohm=dc,
        no_load_v=u0,
        no_load_a=i0,
        no_load_w=p0,
        locked_v=ul,
        locked_a=il,
        locked_w=pl,
        locked_hz=fl,
        frequency_hz=rated.frequency.value,
        poles=poles,
        design=(circuit.plate.design_letter or "B")[:1],
    )
    try:
        return circuit_from_tests(report), "from tests"
    except TestsDisagree as error:
        sheet.gates.append(
            Gate(
                key="machine.tests",
                name="The tests are of one machine",
                verdict=Verdict.SHUT,
                sentence=f"{error}."[0].upper() + f"{error}."[1:],
                source="IEEE 112:2017 5.10",
                remedy="Read volts, amperes and watts of the tests again.",
            )
        )
        return None


def _fitted(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, inrush: LockedRotor | None, poles: int | None
) -> tuple[EquivalentCircuit, str] | None:
    target = _target(sheet, circuit, rated, rules, inrush, poles)
    key, name = "machine.fit", "A circuit meets the plate"
    if target is None:
        sheet.gates.append(unknown(key, name, tuple(missing.label for missing in sheet.missing)))
        return None
    found = fit(target)
    source = "double-cage circuit through rated current, power and speed and locked-rotor current"
    if isinstance(found, NoFit):
        text = f"No circuit meets this plate: {found.reason}."
        remedy = "Read the plate again, or enter the machine's circuit."
        sheet.gates.append(
            Gate(key=key, name=name, verdict=Verdict.SHUT, sentence=text, source=source, remedy=remedy, weighs=False)
        )
        return None
    sheet.gates.append(_fit_gate(key, name, found, target, source))
    for label, title in (
        ("locked_rotor_torque", "Fit: locked-rotor torque off by"),
        ("breakdown_torque", "Fit: breakdown torque off by"),
    ):
        sheet.given(
            f"residual_{label}",
            title,
            "δ",
            100 * found.residuals[label],
            "%",
            provenance=Provenance.ESTIMATED,
            source=source,
        )
    return found.circuit, "fitted"


def _fit_gate(key: str, name: str, found: Fit, target: Target, source: str) -> Gate:
    """Judged by what is short of a floor, or off a given figure; above a floor is as the standard allows."""
    off = {
        "locked-rotor torque": (found.residuals["locked_rotor_torque"], target.locked_rotor_torque_is_least),
        "breakdown torque": (found.residuals["breakdown_torque"], target.breakdown_torque_is_least),
    }
    counted = {label: abs(value) for label, (value, least) in off.items() if value < 0 or not least}
    label, worst = max(counted.items(), key=lambda pair: pair[1], default=("", 0.0))
    verdict = Verdict.OPEN if worst <= _CLOSE else Verdict.AJAR if worst <= _LOOSE else Verdict.SHUT
    text = "Exactly through rated current, power and speed and locked-rotor current; the torques as asked."
    if verdict is not Verdict.OPEN:
        text = f"Through rated point and locked-rotor current, but {label} is {100 * worst:.0f} % off: the odd figure."
    remedy = "" if verdict is Verdict.OPEN else f"Check {label} and locked-rotor current against the maker's data."
    return Gate(key=key, name=name, verdict=verdict, sentence=text, source=source, remedy=remedy, weighs=False)


def _target(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, inrush: LockedRotor | None, poles: int | None
) -> Target | None:
    wanted = (
        ("plate.power", "power", rated.power),
        ("plate.volts", "plate volts", rated.volts),
        ("plate.full_load_current", rules.words.full_load_current, rated.current),
        ("plate.speed", "speed and frequency", poles),
        ("plate.locked_rotor_current", f"{rules.words.locked_rotor} current", inrush.high if inrush else None),
    )
    missing = [(path, label) for path, label, value in wanted if value is None]
    if missing:
        sheet.needs(missing, "the machine model")
        return None
    assert rated.volts and rated.current and rated.speed and rated.frequency and poles  # noqa: PT018
    assert circuit.plate.power_w and inrush and inrush.high  # noqa: PT018
    power_w = circuit.plate.power_w
    torque = power_w / (rated.speed.value * 2 * math.pi / 60)
    start, start_least = _torque(sheet, circuit, power_w, poles, "locked_rotor")
    top, top_least = _torque(sheet, circuit, power_w, poles, "breakdown")
    return Target(
        volts_v=rated.volts.value,
        frequency_hz=rated.frequency.value,
        poles=poles,
        power_w=power_w,
        current_a=rated.current.value,
        speed_rpm=rated.speed.value,
        efficiency_pu=_efficiency(sheet, circuit, rated, power_w, poles),
        locked_rotor_current_a=inrush.high.value,
        locked_rotor_torque_nm=start * torque,
        breakdown_torque_nm=top * torque,
        locked_rotor_torque_is_least=start_least,
        breakdown_torque_is_least=top_least,
    )


def _torque(sheet: Sheet, circuit: Circuit, power_w: float, poles: int, which: str) -> tuple[float, bool]:
    """Per unit of rated torque, and whether it is a floor."""
    facts = circuit.machine
    given = facts.locked_rotor_torque_pu if which == "locked_rotor" else facts.breakdown_torque_pu
    name = "Locked-rotor torque, of rated" if which == "locked_rotor" else "Breakdown torque, of rated"
    symbol = "T_LR" if which == "locked_rotor" else "T_bd"
    key = f"{which}_torque"
    if given is not None:
        sheet.given(key, name, symbol, 100 * given, "%", provenance=circuit.source_of(f"machine.{which}_torque"))
        return given, False
    floors = least_torques(power_w=power_w, poles=poles, design=circuit.plate.design_letter or "")
    floor = floors.locked_rotor if which == "locked_rotor" else floors.breakdown
    provenance = Provenance.TABLE
    if floor is None:
        floor = _STATED_TORQUE if which == "locked_rotor" else _STATED_BREAKDOWN
        provenance = Provenance.ASSUMED
    sheet.given(key, f"{name}, at least", symbol, 100 * floor.value_pu, "%", provenance=provenance, source=floor.source)
    return floor.value_pu, True


def _efficiency(sheet: Sheet, circuit: Circuit, rated: Rated, power_w: float, poles: int) -> float:
    """Stamped; else from the stamped power factor; else nominal IE1, as an assumption."""
    plate = circuit.plate
    if plate.efficiency_pu is not None:
        return plate.efficiency_pu
    assert rated.volts is not None
    assert rated.current is not None
    if plate.power_factor is not None:
        value = power_w / (3**0.5 * rated.volts.value * rated.current.value * plate.power_factor)
        if 0.2 < value < 0.99:
            return value
    nominal = nominal_efficiency(power_w=power_w, poles=poles) or 0.85
    source = "nominal of class IE1, IEC 60034-30-1:2014, 50 Hz; 85 % where that has none"
    sheet.given("efficiency", "Efficiency", "η", 100 * nominal, "%", provenance=Provenance.ASSUMED, source=source)
    return nominal


def _describe(sheet: Sheet, circuit: EquivalentCircuit, origin: str, rated: Rated, rules: RuleSet) -> Machine:
    """The circuit's ohms and what it says, on the sheet."""
    assert rated.volts is not None
    provenance = Provenance.ESTIMATED if origin == "fitted" else Provenance.STATED
    source = {"fitted": "fitted to the plate", "entered": "circuit as entered", "from tests": "IEEE 112:2017 5.10"}[
        origin
    ]

    def put(key: str, name: str, symbol: str, value: float, unit: str) -> Figure:
        return sheet.given(key, name, symbol, value, unit, provenance=provenance, source=source)

    put("r1", "Stator resistance", "R_1", circuit.r1_ohm, "Ω")
    put("x1", "Stator leakage reactance", "X_1", circuit.x1_ohm, "Ω")
    put("xm", "Magnetising reactance", "X_m", circuit.xm_ohm, "Ω")
    if circuit.rfe_ohm:
        put("rfe", "Core resistance", "R_fe", circuit.rfe_ohm, "Ω")
    for index, cage in enumerate(circuit.cages, start=2):
        place = {2: "running cage" if len(circuit.cages) > 1 else "rotor", 3: "starting cage"}[index]
        put(f"r{index}", f"Resistance, {place}", f"R_{index}", cage.r_ohm, "Ω")
        put(f"x{index}", f"Leakage reactance, {place}", f"X_{index}", cage.x_ohm, "Ω")
    volts = rated.volts.value
    still = operate(circuit, 1.0, volts_v=volts)
    top = breakdown(circuit, volts_v=volts)
    synchronous = circuit.synchronous_rad_s()
    torque = _rated_torque(rated) or 1.0
    put("start_torque", "Torque at rest, of rated", "T_1", 100 * float(still.gap_torque_nm) / torque, "%")
    put(
        "start_current",
        f"{rules.words.locked_rotor.capitalize()} current of the circuit",
        "I_1",
        float(still.line_current_a),
        "A",
    )
    put("top_torque", "Largest torque, of rated", "T_top", 100 * top.torque_nm / torque, "%")
    put("top_speed", "at a speed of", "n_top", synchronous * (1 - top.slip) * 30 / math.pi, rules.words.speed_unit)
    slips = np.linspace(top.slip, 1.0, 200)
    least = float(operate(circuit, slips, volts_v=volts).gap_torque_nm.min())
    put("pull_up", "Least torque on the way up, of rated", "T_up", 100 * least / torque, "%")
    power_factor = put(
        "pf", f"{rules.words.locked_rotor.capitalize()} power factor", "pf_LR", float(still.power_factor), ""
    )
    return Machine(
        circuit=circuit, origin=origin, volts_v=volts, rated_torque_nm=torque, locked_rotor_power_factor=power_factor
    )


def _rated_torque(rated: Rated) -> float | None:
    if rated.power is None or rated.speed is None:
        return None
    watts = rated.power.value * (WATT_PER_HP if rated.power.unit == "hp" else 1000)
    return watts / (rated.speed.value * 2 * math.pi / 60)


def _inertia(sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, poles: int | None) -> None:
    given = circuit.machine.inertia_kgm2
    power_w = circuit.plate.power_w
    if given is not None:
        sheet.given("inertia", "Rotor inertia", "J_m", given, "kg·m²", provenance=circuit.source_of("machine.inertia"))
    if power_w is None or poles is None or rated.synchronous is None:
        return
    if given is None:
        estimate = rotor_inertia_estimate(power_kw=power_w / 1000, poles=poles)
        source = "power law through usual figures; within a factor of 1.5"
        sheet.given(
            "inertia", "Rotor inertia", "J_m", estimate, "kg·m²", provenance=Provenance.ESTIMATED, source=source
        )
    if rules.name == "nec":
        limit = nema_load_inertia(power_hp=power_w / WATT_PER_HP, synchronous_rpm=rated.synchronous.value)
        source = "NEMA MG 1:2021 12.54, designs A and B: two starts cold or one hot"
    else:
        limit = iec_load_inertia(power_kw=power_w / 1000, poles=poles)
        source = "IEC 60034-12:2016, design N: two starts cold or one hot"
    if limit > 0:
        sheet.given(
            "load_inertia",
            "Load inertia it can start",
            "J_max",
            limit,
            "kg·m²",
            provenance=Provenance.TABLE,
            source=source,
        )


def _stall(sheet: Sheet, circuit: Circuit) -> None:
    facts = circuit.machine
    for key, name, symbol, value in (
        ("stall_hot", "Safe stall time, hot", "t_hot", facts.stall_hot_s),
        ("stall_cold", "Safe stall time, cold", "t_cold", facts.stall_cold_s),
    ):
        if value is not None:
            sheet.given(key, name, symbol, value, "s", provenance=circuit.source_of(f"machine.{key}"))
    power_w = circuit.plate.power_w
    if facts.stall_hot_s is None and power_w is not None and power_w <= _STALL_HP * WATT_PER_HP * 1.001:
        sheet.given(
            "stall_hot",
            "Safe stall time, hot",
            "t_hot",
            _STALL_S,
            "s",
            provenance=Provenance.ASSUMED,
            source=_STALL_SOURCE,
        )
