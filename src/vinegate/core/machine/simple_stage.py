"""Machines without a fitted circuit, on the sheet: wound-rotor, single-phase, direct-current, and a maker's curve."""

from __future__ import annotations

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, rule
from vinegate.core.machine.armature import armature_ohms
from vinegate.core.machine.curves import Model
from vinegate.core.machine.describe import Machine, describe_curve
from vinegate.core.machine.efficiency import efficiency_of, losses_between
from vinegate.core.machine.maker_curve import factor_between, to_machine
from vinegate.core.machine.promise import Promise, stated
from vinegate.core.machine.simple import (
    RatedPoint,
    direct_current,
    single_phase,
    wound_rotor,
)
from vinegate.core.machine.slip_rings import slip_rings
from vinegate.core.machine.torques import LEAST_BREAKDOWN_PU
from vinegate.core.numbers import write
from vinegate.core.plate.kind import SWITCHED, Family, has_poles, volt_ampere_factor
from vinegate.core.plate.locked_rotor import LockedRotor
from vinegate.core.plate.rated import Rated
from vinegate.core.plate.usual_single import usual_single
from vinegate.core.records import replace
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance

_WOUND_BREAKDOWN_PU = 2.5
_USUAL_EFFICIENCY, _LEAST_LOSS_PU = 0.85, 0.02  # assumed; the least of what is lost where a plate leaves nothing
_AT_REST = (0.5, 0.95)  # power factor of one phase at rest, whatever starts it; assumed
_MAKERS_DIFFER = (1 / 1.33, 1.33)  # of torques of which no band is told, assumed


def _rated_point(sheet: Sheet, circuit: Circuit, rated: Rated, poles: int | None) -> RatedPoint | None:
    """The rated point in SI: power factor and loss from the plate, or from what power, volts and amperes leave."""
    plate = circuit.plate
    if plate.power_w is None or rated.volts is None or rated.current is None or rated.speed is None:
        return None
    apparent = volt_ampere_factor(plate.kind) * rated.volts.value * rated.current.value
    efficiency = _efficiency(sheet, circuit, rated, apparent, poles)
    factor = 1.0 if plate.family is Family.DC else plate.power_factor or plate.power_w / (apparent * efficiency)
    return RatedPoint(
        power_w=plate.power_w,
        volts_v=rated.volts.value,
        current_a=rated.current.value,
        speed_rpm=rated.speed.value,
        frequency_hz=rated.frequency.value if rated.frequency else 50.0,
        power_factor=min(max(factor, 0.2), 1.0),
        loss_w=max(1 / efficiency - 1, _LEAST_LOSS_PU) * plate.power_w,
    )


def _efficiency(sheet: Sheet, circuit: Circuit, rated: Rated, apparent_va: float, poles: int | None) -> float:
    plate, power_w = circuit.plate, rated.power_w
    assert power_w is not None
    if plate.family is Family.DC:
        return power_w / apparent_va
    if plate.family is Family.CAGE and poles:
        return efficiency_of(sheet, circuit, rated, power_w, poles)
    if plate.efficiency_pu is not None or plate.power_factor is not None:
        return plate.efficiency_pu or power_w / (apparent_va * (plate.power_factor or 1.0))
    sheet.given(
        "assumed_efficiency", "Efficiency, for the power factor", "η", 100 * _USUAL_EFFICIENCY, "%",
        provenance=Provenance.ASSUMED, source="usual; the plate gives neither efficiency nor power factor",
    )  # fmt: skip
    return _USUAL_EFFICIENCY


def maker_machine(sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, poles: int | None) -> Machine | None:
    """The maker's curve in place of any model."""
    curve = circuit.machine.curve
    if curve is None:
        return None
    point = _rated_point(sheet, circuit, rated, poles)
    if point is None:
        return None
    top = 120 * point.frequency_hz / poles if poles else max(curve.speed.values)
    phases, band = volt_ampere_factor(circuit.plate.kind), None
    found = to_machine(curve, point, top_rpm=top, slips=poles is not None, phase_factor=phases)
    if curve.power_factor is None:
        losses = losses_between(circuit.plate)
        band = factor_between(curve, point, top_rpm=top, phase_factor=phases, losses=losses) if poles else _AT_REST
    return describe_curve(
        sheet,
        found,
        "maker's curve",
        point.torque_nm,
        rules,
        volts_v=point.volts_v,
        factor_band=band,
    )


def simple_machine(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, inrush: LockedRotor | None, poles: int | None
) -> Machine | None:
    """The stated model of the plate's kind; None, with what is missing named."""
    plate, point = circuit.plate, _rated_point(sheet, circuit, rated, poles)
    if point is None or (has_poles(plate.kind) and poles is None):
        wanted = (
            ("plate.power", "power", rated.power),
            ("plate.volts", "plate volts", rated.volts),
            ("plate.full_load_current", rules.words.full_load_current, rated.current),
            *(rated.turning(poles) if has_poles(plate.kind) else (("plate.speed", "speed", rated.speed),)),
        )
        sheet.needs(rated.lacking(*wanted), "the machine model")
        return None
    if plate.family is Family.WOUND:
        assert poles
        return _wound(sheet, circuit, rated, point, rules, poles)
    if plate.family is Family.DC or plate.kind == "universal":
        return _commutator(sheet, circuit, point, rules)
    assert poles
    return _single(sheet, circuit, point, rules, inrush, poles)


def _wound(
    sheet: Sheet, circuit: Circuit, rated: Rated, point: RatedPoint, rules: RuleSet, poles: int
) -> Machine | None:
    given = circuit.machine.breakdown_torque_pu
    breakdown = given or _WOUND_BREAKDOWN_PU
    sheet.given(
        "breakdown_torque",
        "Breakdown torque, of rated",
        "T_bd",
        100 * breakdown,
        "%",
        provenance=circuit.source_of("machine.breakdown_torque") if given else Provenance.ASSUMED,
        source="entered" if given else "middle of what wound-rotor machines have",
    )
    leads = circuit.machine.dc_resistance_ohm
    measured = circuit.machine.r1_ohm or (leads / 2 if leads else None)
    found = wound_rotor(point, poles=poles, breakdown_pu=max(breakdown, LEAST_BREAKDOWN_PU), stator_ohm=measured)
    slip_rings(sheet, circuit, rated, poles)
    if found is None:
        assert measured
        sheet.gates.append(_too_many_ohms(measured, breakdown))
        return None
    sheet.given(
        "r1", "Stator resistance", "R_1", found.r1_ohm, "Ω",
        provenance=Provenance.STATED if measured else Provenance.ASSUMED,
        source="as measured" if measured else "as much as its rotor, referred: measure it between two leads",
    )  # fmt: skip
    sheet.notes.append("Curves with the slip rings shorted. Resistance there moves the same torque to a lower speed.")
    return describe_curve(sheet, found, "simple", point.torque_nm, rules, volts_v=point.volts_v, at_rest=False)


def _too_many_ohms(ohms: float, breakdown_pu: float) -> Gate:
    text = f"{write(ohms, 3)} Ω a phase of the stator leave it no {100 * breakdown_pu:.0f} % of torque at breakdown."
    return rule(
        "machine.fit", "A circuit meets the plate", False, text, "Fitzgerald, 6th ed., section 6.5",
        remedy="Measure the ohms between two leads again, and read its breakdown torque again.",
    )  # fmt: skip


def _single(
    sheet: Sheet, circuit: Circuit, point: RatedPoint, rules: RuleSet, inrush: LockedRotor | None, poles: int
) -> Machine | None:
    if inrush is None or inrush.high is None:
        sheet.needs([("plate.code_letter", f"{rules.words.locked_rotor} current")], "the machine model")
        return None
    usual = usual_single(circuit.plate.kind)
    assert usual is not None
    at_rest = tuple(end / usual.at_rest for end in usual.at_rest_band)
    torques, promised = [], {}
    for key, name, symbol, taken, band in (
        ("locked_rotor", "Locked-rotor torque, of rated", "T_LR", usual.at_rest, at_rest),
        ("breakdown", "Breakdown torque, of rated", "T_bd", usual.breakdown, _MAKERS_DIFFER),
    ):
        path = f"{key}_torque"
        given = getattr(circuit.machine, f"{path}_pu")
        value = given if given is not None else taken
        provenance = circuit.source_of(f"machine.{path}") if given is not None else Provenance.ASSUMED
        source = "entered" if given is not None else usual.why
        sheet.given(path, name, symbol, 100 * value, "%", provenance=provenance, source=source)
        torques.append(value)
        promised[key] = stated(key, value, *(band if given is None else ()))
    found = single_phase(
        point,
        poles=poles,
        locked_rotor_current_a=inrush.high.value,
        locked_rotor_pu=torques[0],
        breakdown_pu=max(torques[1], LEAST_BREAKDOWN_PU),
        switched=circuit.plate.kind in SWITCHED,
    )
    rises = torques[0] < torques[1] and circuit.machine.locked_rotor_torque_pu is None
    promise = Promise(**promised, pull_up=stated("pull_up", min(torques), *(at_rest if rises else _MAKERS_DIFFER)))
    machine = describe_curve(
        sheet, found, "simple", point.torque_nm, rules, volts_v=point.volts_v, factor_band=_AT_REST
    )
    return replace(machine, promise=promise)


def _commutator(sheet: Sheet, circuit: Circuit, point: RatedPoint, rules: RuleSet) -> Machine | None:
    given = circuit.machine.armature_resistance_ohm
    kind = circuit.plate.kind or ""
    dc = circuit.plate.family is Family.DC
    ohms = armature_ohms(circuit, power_w=point.power_w, volts_v=point.volts_v, current_a=point.current_a)
    if ohms is None:
        sheet.notes.append("At rated amperes its armature would take all of its volts: no such machine turns.")
        return None
    r: Figure = sheet.given(
        "armature_r",
        "Armature resistance",
        "R_a",
        ohms,
        "Ω",
        provenance=circuit.source_of("machine.armature_resistance") if given is not None else Provenance.ESTIMATED,
        source="entered" if given is not None else "half of the rated loss is in it: (U·I − P)/(2·I²)",
    )
    if dc:
        u = sheet.given("armature_volts", "Armature volts", "U_N", point.volts_v, "V", provenance=Provenance.STAMPED)
        sheet.work(
            "bare_inrush",
            "Current at rest without resistance",
            "I_0",
            point.volts_v / ohms,
            "A",
            formula="U_N/R_a",
            inputs=(u, r),
            source="no back electromotive force at rest",
        )
        sheet.notes.append("Never across the line: it starts on the current limit of its drive.")
    found: Model = direct_current(point, kind=kind, resistance_ohm=ohms)
    return describe_curve(sheet, found, "simple", point.torque_nm, rules, volts_v=point.volts_v, at_rest=not dc,
                          factor_band=None if dc else _AT_REST)  # fmt: skip
