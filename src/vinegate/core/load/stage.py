"""What the driven machine asks of the motor's shaft: power, torque against speed, inertia."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.grade import rule, unknown
from vinegate.core.load.agree import agree_gates
from vinegate.core.load.bands import (
    Shape,
    breakaway_taken,
    gear_taken,
    inertia_taken,
    power_taken,
    rotor_taken,
    through_gear,
)
from vinegate.core.load.curve import curve_of
from vinegate.core.load.duty import duty_gate
from vinegate.core.load.facts import LOAD_KINDS, Load
from vinegate.core.load.points import LoadPoints
from vinegate.core.load.power import gear, power_gate, power_on, service_factor_of
from vinegate.core.load.service import service_gates
from vinegate.core.machine.stage import MACHINE
from vinegate.core.numbers import write
from vinegate.core.plate.stage import PLATE
from vinegate.core.quantity import GRAVITY
from vinegate.core.records import dataclass
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load as load_table
from vinegate.core.turning import Taken
from vinegate.core.work import Specification, Work
from vinegate.core.working import Figure, Provenance

_BREAKAWAY_ENDS = 0.1  # static friction is gone by a tenth of full speed


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """The load at the motor's shaft.

    `torque_nm` at `full_speed_rpm`; `shape` is the exponent of speed, `full_pu` and `breakaway_pu` shares of the
    torque; `inertia_kgm2` of load and rotor together. `power`, `breakaway` and `inertia` are those facts with the bands
    in which they may lie, `rotor` the rotor's own inertia with its band.
    """

    kind: str
    torque_nm: float
    full_speed_rpm: float
    shape: float
    full_pu: float
    breakaway_pu: float
    points: LoadPoints | None
    curve: LoadPoints | None = None
    """Of a kind whose torque is no power of speed; breakaway comes on top."""
    inertia_kgm2: float
    load_inertia_kgm2: float
    power: Taken
    breakaway: Taken
    inertia: Taken
    rotor: Taken
    runs_shape: float | None = None
    """Exponent of speed once it carries all of its load; None: as it starts."""
    hung_kgm2: float = 0.0
    """Of the load's inertia, what hangs on a rope: known with force and speed."""

    def torque_at(self, speed_rpm: Array) -> Array:
        """Torque at the motor's shaft at these speeds, N·m: the shape, and friction fading to a tenth of speed."""
        return self.along(speed_rpm)(self.breakaway_pu)

    def running_at(self, speed_rpm: Array) -> Array:
        """The same once it carries all of its load: a damper or a valve that was closed for the start is open."""
        starting = self.torque_at(speed_rpm)
        if self.points is not None or self.curve is not None:
            return starting
        x = np.abs(np.asarray(speed_rpm, dtype=float) / self.full_speed_rpm)
        return np.maximum(starting, self.torque_nm * x ** (self.shape if self.runs_shape is None else self.runs_shape))

    def along(self, speed_rpm: Array) -> Callable[[float], Array]:
        """The same as a function of the breakaway, a share of the torque."""
        x = np.asarray(speed_rpm, dtype=float) / self.full_speed_rpm
        if self.points is not None:
            torque = self.torque_nm * np.interp(x, self.points.speed_pu, self.points.torque_pu)
            return lambda _: torque
        if self.curve is not None:
            base = np.interp(x, self.curve.speed_pu, self.curve.torque_pu)
        else:
            base = self.full_pu * (np.abs(x) ** self.shape if self.shape else np.ones_like(x))
        fading = np.minimum(np.maximum(1 - x / _BREAKAWAY_ENDS, 0.0), 1.0)
        gone = base * (1 - fading)
        return lambda rubs: self.torque_nm * np.maximum(base, rubs * fading + gone)

    def inertia_times(self, load: float, rotor: float) -> float:
        """Inertia on the shaft with these inertias of load, at its own shaft, and rotor, over that as taken."""
        own, at_load = self.load_inertia_kgm2 - self.hung_kgm2, self.inertia.value
        if self.inertia.how:  # taken as so many times the rotor's, whatever that is
            load *= rotor / self.rotor.value
        known = self.hung_kgm2
        return ((own * load / at_load if at_load else own) + known + rotor) / (own + known + self.rotor.value)


@dataclass(frozen=True, slots=True, kw_only=True)
class Loaded:
    """The load at the shaft, and its power as it stands on the sheet; None while they are not known."""

    asked: Asked | None = None
    power: Figure | None = None


def _plan(work: Work) -> Loaded:
    """Put the load on its sheet, with what is missing named while its kind is not known."""
    sheet, circuit, rules, facts = work.sheet("load"), work.circuit, work.rules, work.circuit.load
    rated, rotor = work.found(PLATE).rated, work.found(MACHINE).inertia
    sheet.gates += service_gates(circuit, rules)
    if facts.kind is None:
        sheet.needs([("load.kind", "the load")], "torque margin, time and heat of the start")
        sheet.gates.append(unknown("load.power", "Motor carries its load", ("the load",)))
        return Loaded()
    if rated.power is None or rated.speed is None:
        return Loaded()
    shape = Shape.of(load_table("load_shape").find(kind=facts.kind))
    power = power_on(sheet, facts, rated)
    taken, through = power_taken(facts, power, rated), gear_taken(facts)
    power_gate(sheet, taken, through, rated, service_factor_of(circuit, rules))
    sheet.gates += agree_gates(facts, rated)
    if (duty := duty_gate(circuit, rules)) is not None:
        sheet.gates.append(duty)
    torque = sheet.work("torque", "Torque asked of the motor's shaft", "T_L",
                        30000 / math.pi * power.value / rated.speed.value, "N·m", formula="9549.3·P_L/n",
                        inputs=(power, rated.speed), source="T = P/ω at the plate's speed")  # fmt: skip
    points = _points(sheet, facts, rated.speed.value)
    breakaway = _breakaway(sheet, facts, shape, points)
    hung = _hung(sheet, facts, rated.speed)
    total, own = _inertia(sheet, facts, rotor, shape, hung)
    if (lacks := facts.kind == "points" and points is None) and facts.points is None:
        sheet.needs([("load.points", "the load's points")], "the load's torque against speed")
    if lacks or total is None or own is None:
        return Loaded(power=power)
    hung_kgm2 = hung.value if hung else 0.0
    asked = Asked(
        kind=facts.kind, torque_nm=torque.value, full_speed_rpm=rated.speed.value, shape=shape.exponent,
        full_pu=shape.full, runs_shape=shape.runs,
        breakaway_pu=breakaway.value / 100, points=points, curve=curve_of(sheet, facts),
        inertia_kgm2=total.value, load_inertia_kgm2=own.value, hung_kgm2=hung_kgm2,
        power=through_gear(taken, through), breakaway=breakaway_taken(breakaway, shape),
        inertia=inertia_taken(facts, own.value - hung_kgm2, rotor, shape),
        rotor=rotor_taken(circuit, rotor),
    )  # fmt: skip
    return Loaded(asked=asked, power=power)


def _points(sheet: Sheet, facts: Load, speed_rpm: float) -> LoadPoints | None:
    """The load's points, of full speed and the torque there; what does not fit the shaft's speed is said."""
    if facts.kind != "points" or facts.points is None:
        return None
    full_rpm = speed_rpm / (facts.gear_ratio or 1.0)
    found = facts.points.per_unit(full_rpm)
    if found is None:
        reach = 100 * facts.points.top_pu(full_rpm)
        text = f"Its points reach {reach:.0f} % of the {write(full_rpm)} rpm that it turns at"
        text += " and ask no torque there." if facts.points.full_nm(full_rpm) == 0 else "."
        remedy = "Points at the load's own shaft, from rest to full speed; or the gear's ratio."
        sheet.gates.append(rule("load.points", "Points reach full speed", False, text, "n = n_N/i", remedy=remedy))
    return found


def _breakaway(sheet: Sheet, facts: Load, shape: Shape, points: LoadPoints | None) -> Figure:
    if points is not None:
        return sheet.given("breakaway", "Breakaway torque", "b", 100 * points.torque_pu[0], "%")
    if facts.breakaway_pu is not None:
        return sheet.given("breakaway", "Breakaway torque, of that asked", "b", 100 * facts.breakaway_pu, "%")
    return sheet.given(
        "breakaway",
        "Breakaway torque, of that asked",
        "b",
        100 * shape.breakaway,
        "%",
        provenance=Provenance.ASSUMED,
        source=f"usual for {dict(LOAD_KINDS)[facts.kind or 'constant']}: {shape.why}",
    )


def _hung(sheet: Sheet, facts: Load, speed: Figure) -> Figure | None:
    """What hangs on a hoist's rope moves with the shaft: `J = (F/g)·(v/ω)²`; None without rope pull and speed."""
    if facts.kind != "hoist" or facts.force_n is None or facts.line_speed_ms is None:
        return None
    force = sheet.given("hung_force", "Rope pull", "F_h", facts.force_n, "N", fact="load.force")
    v = sheet.given("hung_speed", "Rope speed at full speed", "v_h", facts.line_speed_ms, "m/s", fact="load.line_speed")
    return sheet.work(
        "hung", "Hung mass at the motor's shaft", "J_h",
        force.value / GRAVITY * (v.value / (speed.value * math.pi / 30)) ** 2, "kg·m²",
        formula=f"F_h/{GRAVITY:g}·(30·v_h/(π·{speed.symbol}))²", inputs=(force, v, speed),
        source="equal kinetic energy of the mass on the rope",
    )  # fmt: skip


def _inertia(
    sheet: Sheet, facts: Load, rotor: Figure | None, shape: Shape, hung: Figure | None
) -> tuple[Figure | None, Figure | None]:
    """Load inertia at the motor's shaft, `J/i²` with what hangs on the rope, and the sum with the rotor's."""
    if rotor is None:
        sheet.needs([("machine.inertia", "rotor inertia")], "starting time and heat")
        return None, None
    if facts.inertia_kgm2 is not None and facts.gear_efficiency_pu is not None and facts.gear_ratio is None:
        sheet.needs([("load.gear_ratio", "the gear's ratio")], "the load's inertia at the motor")  # it has a gear
        return None, None
    if facts.inertia_kgm2 is None:
        times = sheet.given("inertia_times", "Load inertia over the rotor's", "k_J", shape.inertia, "",
                            provenance=Provenance.ASSUMED, source=f"usual: {shape.why}")  # fmt: skip
        sheet.needs([("load.inertia", "the load's inertia")], "a firm starting time and heat")
        own = sheet.work("inertia", "Load inertia at the motor's shaft", "J_L",
                         shape.inertia * rotor.value + (hung.value if hung else 0.0), "kg·m²",
                         formula=f"k_J·J_m{'+J_h' if hung else ''}",
                         inputs=(times, rotor, *((hung,) if hung else ())), source="assumed")  # fmt: skip
    else:
        given = sheet.given(
            "inertia_entered", "Load inertia, at its shaft", "J_1", facts.inertia_kgm2, "kg·m²", fact="load.inertia"
        )
        ratio = gear(sheet, facts.gear_ratio or 1.0)
        own = sheet.work("inertia", "Load inertia at the motor's shaft", "J_L",
                         given.value / ratio.value**2 + (hung.value if hung else 0.0), "kg·m²",
                         formula=f"J_1/i²{'+J_h' if hung else ''}", inputs=(given, ratio, *((hung,) if hung else ())),
                         source="equal kinetic energy")  # fmt: skip
    total = sheet.work("inertia_total", "Inertia to bring up to speed", "J", own.value + rotor.value, "kg·m²",
                       formula="J_L+J_m", inputs=(own, rotor), source="rotor and load on one shaft")  # fmt: skip
    return total, own


LOAD = Specification(key="load", plan=_plan, sheets={"load": "Load"})
