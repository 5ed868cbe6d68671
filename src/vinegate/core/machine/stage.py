"""The machine behind the plate: a circuit entered, from tests, or fitted; inertia and stall."""

from __future__ import annotations

import math

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, Kind, informs, rule, unknown
from vinegate.core.machine.armature import armature_gate
from vinegate.core.machine.behind_curve import behind, with_circuit
from vinegate.core.machine.circuit import Cage, EquivalentCircuit
from vinegate.core.machine.describe import Machine, describe, inertia
from vinegate.core.machine.efficiency import efficiency_of, losses_between
from vinegate.core.machine.fault_share import fault_share
from vinegate.core.machine.fit import Fit, fit
from vinegate.core.machine.of_plate import of_plate_gate, resistance_gate
from vinegate.core.machine.promise import Promise, promise_of
from vinegate.core.machine.simple_stage import maker_machine, simple_machine
from vinegate.core.machine.slip_rings import slip_rings
from vinegate.core.machine.stall import Stalls, stall_times
from vinegate.core.machine.target import NoFit, Target, winding_off
from vinegate.core.machine.tests112 import TestReport, TestsDisagree, circuit_from_tests
from vinegate.core.machine.torques import torques_gate
from vinegate.core.plate.gates import may_be_of_design_d
from vinegate.core.plate.kind import THREE_PHASE, Family
from vinegate.core.plate.locked_rotor import LockedRotor, locked_rotor
from vinegate.core.plate.rated import Rated
from vinegate.core.plate.stage import PLATE
from vinegate.core.records import dataclass, replace
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.work import Specification, Work
from vinegate.core.working import Figure, Provenance

_CLOSE = 0.10
_SLOW = 0.5  # of rated frequency: IEEE 112 asks a quarter; assumed
_RESIDUAL_DIGITS = 6  # what a search leaves of nought is no figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Described:
    """The machine, its current at rest, its rotor's inertia and that of the load it can start, its stall times."""

    machine: Machine | None
    inrush: LockedRotor | None
    inertia: Figure | None
    load_inertia: Figure | None
    stalls: Stalls
    fault: Figure | None

    @property
    def locked(self) -> Figure | None:
        """The largest current at rest, where it has an upper end."""
        return self.inrush.high if self.inrush else None


def _plan(work: Work) -> Described:
    sheet, circuit, rules, rated = work.sheet("machine"), work.circuit, work.rules, work.found(PLATE).rated
    known, runs = _given_machine(sheet, circuit, rated, rules)
    entered = known or runs
    belongs = of_plate_gate(entered, rated) if entered is not None else None
    sheet.gates += [
        gate for gate in (belongs, resistance_gate(circuit, rated), armature_gate(circuit, rated)) if gate is not None
    ]
    if (torques := torques_gate(circuit)) is not None:
        sheet.gates.append(torques)
    at_rest = None
    if known is not None and known.locked_rotor_current_a is not None:
        at_rest = (known.locked_rotor_current_a, known.origin)
    inrush = locked_rotor(work.sheet("start"), circuit, rated, rules, at_rest)
    turns, limit = inertia(sheet, circuit, rated, rules, _poles(rated))
    return Described(
        machine=_with_tests(sheet, known or _by_plate(sheet, circuit, rated, rules, inrush), runs),
        inrush=inrush,
        inertia=turns,
        load_inertia=limit,
        stalls=stall_times(sheet, circuit),
        fault=fault_share(work.sheet("supply"), inrush),
    )


def _given_machine(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet
) -> tuple[Machine | None, Machine | None]:
    """The machine as a maker's curve, a circuit or the usual tests give it, and as tests do that tell of its running
    alone; None where none of them is entered.

    What is so known is believed by every stage: its current at rest is the plan's locked-rotor current.
    """
    poles = _poles(rated)
    made = maker_machine(sheet, circuit, rated, rules, poles)
    if circuit.plate.family not in THREE_PHASE:
        return made, None
    found = _entered(circuit, rated, poles) or _tested(sheet, circuit, rated, poles)
    runs = found is not None and (found[1] == "entered" or _slowly(circuit, rated))
    if made is not None and found is not None and runs:
        return with_circuit(sheet, made, found[0], Provenance.STATED, "entered beside it"), None
    if made is not None:
        return behind(sheet, circuit, rated, made, poles) if circuit.plate.family is Family.CAGE else made, None
    if found is None or rated.volts is None:
        return None, None
    if circuit.plate.family is Family.WOUND and poles:
        slip_rings(sheet, circuit, rated, poles)
    if found[1] == "from tests" and runs and circuit.plate.family is Family.CAGE:
        return None, describe(Sheet("scratch", ""), found[0], found[1], rated, rules)
    known = describe(sheet, found[0], found[1], rated, rules)
    return known if runs else behind(sheet, circuit, rated, known, poles), None


def _slowly(circuit: Circuit, rated: Rated) -> bool:
    """Whether its rotor was locked at so few hertz that the current filled its bars, as it does while it runs; a wound
    one's coils have the same ohms at any.
    """
    hertz, own = circuit.machine.locked_frequency_hz, rated.frequency
    if hertz is None or own is None:
        return False
    return circuit.plate.family is not Family.CAGE or hertz <= _SLOW * own.value


def _with_tests(sheet: Sheet, machine: Machine | None, runs: Machine | None) -> Machine | None:
    """Tests with the rotor locked at few hertz: what they tell of its running, and nothing of its start."""
    if machine is None or runs is None or not isinstance(runs.circuit, EquivalentCircuit):
        return machine
    sheet.notes.append(
        "The rotor was locked at few hertz (IEEE 112:2017 5.9: at most a quarter): that gives its running. Braking, a "
        "drive and a reclosing follow the tests; a start follows the plate, as at line frequency its bars draw more."
    )
    return replace(machine, fitted=runs.circuit, measured=True)


def _by_plate(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, inrush: LockedRotor | None
) -> Machine | None:
    """The machine that its plate gives. None, with what is missing named, when there is none yet."""
    if circuit.plate.family is not Family.CAGE:
        return simple_machine(sheet, circuit, rated, rules, inrush, _poles(rated))
    found = _fitted(sheet, circuit, rated, rules, inrush, _poles(rated))
    if found is None or rated.volts is None:
        return None
    off = winding_off(found[2], losses_between(circuit.plate))
    return describe(sheet, found[0], "fitted", rated, rules, promise=found[1], winding_off=off)


def _poles(rated: Rated) -> int | None:
    if rated.synchronous is None or rated.frequency is None or rated.slip is None or rated.slip.value <= 0:
        return None
    return round(120 * rated.frequency.value / rated.synchronous.value)


def _entered(circuit: Circuit, rated: Rated, poles: int | None) -> tuple[EquivalentCircuit, str] | None:
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
        friction_w=m.friction_w,
    )
    try:
        return circuit_from_tests(report), "from tests"
    except TestsDisagree as error:
        text = f"{error}."[0].upper() + f"{error}."[1:]
        remedy = "Read volts, amperes and watts of the tests again."
        name = "The tests are of one machine"
        sheet.gates.append(rule("machine.tests", name, False, text, "IEEE 112:2017 5.10", remedy=remedy))
        return None


def _fitted(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, inrush: LockedRotor | None, poles: int | None
) -> tuple[EquivalentCircuit, Promise, Target] | None:
    wanted = _target(sheet, circuit, rated, rules, inrush, poles)
    key, name = "machine.fit", "A circuit meets the plate"
    if wanted is None:
        sheet.gates.append(informs(unknown(key, name, tuple(missing.label for missing in sheet.missing))))
        return None
    target, promise = wanted
    found = fit(target)
    source = "double-cage circuit through rated current, power and speed and locked-rotor current"
    if isinstance(found, NoFit):
        text = f"No circuit meets this plate: {found.reason}."
        remedy = "Read the plate again, or enter the machine's circuit."
        sheet.gates.append(rule(key, name, False, text, source, remedy=remedy))
        return None
    sheet.gates.append(_fit_gate(key, name, found, source))
    for label, title, symbol in (
        ("locked_rotor_torque", "Fit: locked-rotor torque off by", "δ_LR"),
        ("breakdown_torque", "Fit: breakdown torque off by", "δ_b"),
    ):
        sheet.given(
            f"residual_{label}",
            title,
            symbol,
            round(100 * found.residuals[label], _RESIDUAL_DIGITS),
            "%",
            provenance=Provenance.ESTIMATED,
            source=source,
        )
    return found.circuit, promise, target


def _fit_gate(key: str, name: str, found: Fit, source: str) -> Gate:
    """Judged by what is short of the torques: what is above them is cut off before a start is worked."""
    off = {
        "locked-rotor torque": found.residuals["locked_rotor_torque"],
        "breakdown torque": found.residuals["breakdown_torque"],
    }
    label, least = min(off.items(), key=lambda pair: pair[1])
    worst = max(-least, 0.0)
    text = "Exactly through rated current, power and speed and locked-rotor current; the torques as asked."
    if worst > _CLOSE:
        text = f"Through rated point and locked-rotor current, but {label} is {100 * worst:.0f} % short."
    elif max(off.values()) > _CLOSE:
        text = "Through rated point and locked-rotor current. Its torques are more; a start has those promised."
    remedy = f"Check {label} and locked-rotor current against the maker's data."
    return rule(key, name, worst <= _CLOSE, text, source, remedy=remedy, kind=Kind.INFORMS)


def _target(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, inrush: LockedRotor | None, poles: int | None
) -> tuple[Target, Promise] | None:
    wanted = (
        ("plate.power", "power", rated.power),
        ("plate.volts", "plate volts", rated.volts),
        ("plate.full_load_current", rules.words.full_load_current, rated.current),
        *rated.turning(poles),
        rated.at_rest(rules.words.locked_rotor, inrush.high if inrush else None),
    )
    missing = rated.lacking(*wanted)
    if missing:
        sheet.needs(missing, "the machine model")
        return None
    assert rated.volts and rated.current and rated.speed and rated.frequency and poles  # noqa: PT018
    assert circuit.plate.power_w and inrush and inrush.high  # noqa: PT018
    power_w = circuit.plate.power_w
    torque = power_w / (rated.speed.value * 2 * math.pi / 60)
    strong = may_be_of_design_d(circuit, rated)
    promise = promise_of(sheet, circuit, power_w, poles, rules.torque_tolerance, may_be_d=strong)
    target = Target(
        volts_v=rated.volts.value,
        frequency_hz=rated.frequency.value,
        poles=poles,
        power_w=power_w,
        current_a=rated.current.value,
        speed_rpm=rated.speed.value,
        efficiency_pu=efficiency_of(sheet, circuit, rated, power_w, poles),
        locked_rotor_current_a=inrush.high.value,
        locked_rotor_torque_nm=promise.locked_rotor.value_pu * torque,
        breakdown_torque_nm=promise.breakdown.value_pu * torque,
        locked_rotor_torque_is_least=promise.locked_rotor.is_least,
        breakdown_torque_is_least=promise.breakdown.is_least,
        r1_ohm=circuit.machine.dc_resistance_ohm / 2 if circuit.machine.dc_resistance_ohm else None,
        pull_up_torque_nm=promise.pull_up.value_pu * torque,
    )
    return target, promise


MACHINE = Specification(key="machine", plan=_plan, sheets={"machine": "Machine"})
