"""What the machine says of itself, on its sheet: ohms, torques, inertia, stall times."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial
from typing import Final

import numpy as np

from vinegate.core.facts import Circuit
from vinegate.core.machine.circuit import EquivalentCircuit, breakdown, operate
from vinegate.core.machine.curves import Model, carrying_slip, curves
from vinegate.core.machine.inertia import inertia_gate, rotor_inertia_estimate
from vinegate.core.machine.promise import Promise
from vinegate.core.machine.tabulated import Tabulated
from vinegate.core.plate.kind import Family
from vinegate.core.plate.rated import Rated
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken
from vinegate.core.working import Figure, Provenance

_SOURCES = {
    "fitted": "fitted to the plate",
    "entered": "circuit as entered",
    "from tests": "IEEE 112:2017 5.10",
    "maker's curve": "the maker's curve as entered",
    "simple": "simple model of the kind, from the rated point",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Machine:
    """A model at plate volts, its origin (a key of `_SOURCES`) and the rated torque it belongs to.

    `locked_rotor_power_factor` is None for machines that do not start across the line; `factor_band` are its ends
    where it is estimated. `locked_rotor_current_a`
    is its current at rest at plate volts, likewise. `promise` is what its torques are held to, None where its curve is
    given and believed.
    """

    circuit: Model
    origin: str
    volts_v: float
    rated_torque_nm: float
    locked_rotor_power_factor: Figure | None
    promise: Promise | None = None
    factor_band: tuple[float, float] | None = None
    locked_rotor_current_a: float | None = None
    fitted: EquivalentCircuit | None = None
    """Of its running: behind a curve, or by tests with the rotor locked at few hertz; `measured` where it is no fit."""
    measured: bool = False

    @property
    def provenance(self) -> Provenance:
        return _provenance(self.origin)

    @property
    def inside(self) -> EquivalentCircuit | None:
        """Its circuit while it runs, for what a curve does not say; None where there is none."""
        return self.circuit if self.fitted is None and isinstance(self.circuit, EquivalentCircuit) else self.fitted

    @property
    def inside_provenance(self) -> Provenance:
        if self.fitted is None:
            return self.provenance
        return Provenance.STATED if self.measured else Provenance.ESTIMATED

    def rated_slip(self, by_plate: float, model: Model) -> float:
        """Slip of one of its models at rated torque: the plate's; its own where it was not made from the plate, and
        carries that.
        """
        entered = self.measured if model is self.fitted else self.origin in ("entered", "from tests")
        found = carrying_slip(model, self.rated_torque_nm, volts_v=self.volts_v) if entered else None
        return found or by_plate

    @property
    def most_nm(self) -> float | None:
        """The largest torque that a curve has."""
        return max(self.circuit.torque_nm) if isinstance(self.circuit, Tabulated) else None

    @property
    def breakdown_not_given(self) -> tuple[Taken, ...]:
        """Its breakdown torque, where nobody gave it."""
        return self.promise.breakdown_not_given if self.promise is not None else ()


def _provenance(origin: str) -> Provenance:
    return Provenance.ESTIMATED if origin in ("fitted", "simple") else Provenance.STATED


def describe(
    sheet: Sheet,
    circuit: EquivalentCircuit,
    origin: str,
    rated: Rated,
    rules: RuleSet,
    *,
    promise: Promise | None = None,
    winding_off: tuple[float, float] = (0.0, 0.0),
) -> Machine:
    """The circuit's ohms and what it says, on the sheet. `winding_off`: how far below and above its stator's may be."""
    assert rated.volts is not None
    provenance = _provenance(origin)
    volts, torque = rated.volts.value, _rated_torque(rated) or 1.0
    put = partial(sheet.given, provenance=provenance, source=_SOURCES[origin])
    still = operate(circuit, 1.0, volts_v=volts)
    power_factor, locked = float(still.power_factor), rules.words.locked_rotor.capitalize()
    put_ohms(put, circuit)
    put("start_torque", "Torque at rest, of rated", "T_1", 100 * float(still.gap_torque_nm) / torque, "%")
    put("start_current", f"{locked} current of the circuit", "I_1", float(still.line_current_a), "A")
    _put_top(put, circuit, volts, torque, rules)
    ends = _angle_ends(circuit, power_factor, winding_off) if origin == "fitted" else None
    note = f"Between {ends[0]:.2f} and {ends[1]:.2f}: {_OFF}." if ends is not None else ""
    return Machine(
        circuit=circuit,
        origin=origin,
        volts_v=volts,
        rated_torque_nm=torque,
        locked_rotor_power_factor=put("pf", f"{locked} power factor", "pf_LR", power_factor, "", note=note),
        promise=promise,
        factor_band=ends,
        locked_rotor_current_a=float(still.line_current_a),
    )


def put_ohms(put: Callable[..., Figure], circuit: EquivalentCircuit) -> None:
    """The circuit's parts, and what is left of them at rest and when cold."""
    put("r1", "Stator resistance", "R_1", circuit.r1_ohm, "Ω")
    put("x1", "Stator leakage reactance", "X_1", circuit.x1_ohm, "Ω")
    put("xm", "Magnetising reactance", "X_m", circuit.xm_ohm, "Ω")
    if circuit.rfe_ohm:
        put("rfe", "Core resistance", "R_fe", circuit.rfe_ohm, "Ω")
    for index, cage in enumerate(circuit.cages, start=2):
        place = {2: "running cage" if len(circuit.cages) > 1 else "rotor", 3: "starting cage"}[index]
        put(f"r{index}", f"Resistance, {place}", f"R_{index}", cage.r_ohm, "Ω")
        put(f"x{index}", f"Leakage reactance, {place}", f"X_{index}", cage.x_ohm, "Ω")
    if circuit.saturated < 1:
        put("leakage_left", "Leakage left at rest, where it saturates", "κ", 100 * circuit.saturated, "%")
    if circuit.cold < 1:
        put("rotor_cold", "Rotor resistance when cold, of that at rated load", "c", 100 * circuit.cold, "%")


def _put_top(
    put: Callable[..., Figure], circuit: EquivalentCircuit, volts: float, torque: float, rules: RuleSet
) -> None:
    """The largest torque, its speed, and the least on the way there."""
    top = breakdown(circuit, volts_v=volts)
    synchronous = circuit.synchronous_rad_s()
    put("top_torque", "Largest torque, of rated", "T_top", 100 * top.torque_nm / torque, "%")
    put("top_speed", "at a speed of", "n_top", synchronous * (1 - top.slip) * 30 / math.pi, rules.words.speed_unit)
    slips = np.linspace(top.slip, 1.0, 200)
    least = float(operate(circuit, slips, volts_v=volts).gap_torque_nm.min())
    put("pull_up", "Least torque on the way up, of rated", "T_up", 100 * least / torque, "%")


_TORQUE_OFF: Final = 0.2
_OFF: Final = "torque at rest a fifth off, losses and their split other than taken"


def _angle_ends(
    circuit: EquivalentCircuit, power_factor: float, winding_off: tuple[float, float]
) -> tuple[float, float]:
    """How far the angle moves: torque at rest goes with the rotor's resistance, the stator's lies beside it in series.

    The amperes at rest, and so the ohms that both are a part of, stay: `(R_1 + R_2)/Z`. Apart, by the root of squares.
    """
    still = 1 / (1 / (1j * circuit.xm_ohm) + sum(1 / complex(c.r_ohm, c.x_ohm) for c in circuit.cages))
    impedance = math.hypot(circuit.r1_ohm + still.real, circuit.x1_ohm + still.imag)
    below, above = (math.hypot(_TORQUE_OFF * still.real, ohm) / impedance for ohm in winding_off)
    return max(power_factor - below, 0.02), min(power_factor + above, 0.98)


def _rated_torque(rated: Rated) -> float | None:
    if rated.power_w is None or rated.speed is None:
        return None
    return rated.power_w / (rated.speed.value * 2 * math.pi / 60)


def inertia(
    sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet, poles: int | None
) -> tuple[Figure | None, Figure | None]:
    """The rotor's own inertia, stated or estimated, and the most it can start of a load's."""
    given, turns = circuit.machine.inertia_kgm2, None
    power_w = circuit.plate.power_w
    if given is not None:
        said = circuit.source_of("machine.inertia")
        turns = sheet.given("inertia", "Rotor inertia", "J_m", given, "kg·m²", provenance=said)
    made = circuit.machine.load_inertia_kgm2
    allowed = None
    if made is not None:
        said = circuit.source_of("machine.load_inertia")
        allowed = sheet.given("load_inertia", "Load inertia it can start", "J_max", made, "kg·m²", provenance=said,
                              source="its maker's")  # fmt: skip
    if power_w is None or poles is None or rated.synchronous is None:
        return turns, allowed
    power_kw = power_w / 1000
    if turns is not None and (unlike := inertia_gate(turns.value, power_kw=power_kw, poles=poles)) is not None:
        sheet.gates.append(unlike)
    if turns is None:
        estimate = rotor_inertia_estimate(power_kw=power_kw, poles=poles)
        source = "power law through usual figures; within a factor of 1.5"
        turns = sheet.given(
            "inertia", "Rotor inertia", "J_m", estimate, "kg·m²", provenance=Provenance.ESTIMATED, source=source
        )
    if allowed is not None:
        return turns, allowed
    limit, source = rules.load_inertia(power_w, poles, rated.synchronous.value)
    if limit <= 0:
        return turns, None
    own = circuit.plate.family is Family.CAGE  # the standards' inertia is that of cage machines of three phases
    startable = sheet.given(
        "load_inertia", "Load inertia it can start", "J_max", limit, "kg·m²",
        provenance=Provenance.TABLE if own else Provenance.ASSUMED,
        source=source if own else f"as of a cage machine of three phases, {source}",
    )  # fmt: skip
    return turns, startable


def describe_curve(
    sheet: Sheet,
    model: Model,
    origin: str,
    rated_torque_nm: float,
    rules: RuleSet,
    *,
    volts_v: float,
    at_rest: bool = True,
    factor_band: tuple[float, float] | None = None,
) -> Machine:
    """What a curve says: torque and current at rest where it starts so, the largest torque and its speed.
    `factor_band`: ends of its power factor at rest, where that is not of the curve.
    """
    provenance = Provenance.STATED if origin == "maker's curve" else Provenance.ESTIMATED
    found = curves(model, volts_v=volts_v, count=161)
    put = partial(sheet.given, provenance=provenance, source=_SOURCES[origin])
    factor, locked = None, rules.words.locked_rotor.capitalize()
    if at_rest:
        put("start_torque", "Torque at rest, of rated", "T_1", 100 * float(found.torque_nm[0]) / rated_torque_nm, "%")
        put("start_current", f"{locked} current of the curve", "I_1", float(found.line_current_a[0]), "A")
        known = provenance if factor_band is None or origin == "simple" else Provenance.ASSUMED
        at = float(found.power_factor[0])
        if factor_band is not None:
            factor_band = min(factor_band[0], at), max(factor_band[1], at)
        note = f"Between {factor_band[0]:.2f} and {factor_band[1]:.2f}." if factor_band is not None else ""
        factor = put("pf", f"{locked} power factor", "pf_LR", at, "", provenance=known, note=note)
    best = int(np.argmax(found.torque_nm))
    put("top_torque", "Largest torque, of rated", "T_top", 100 * float(found.torque_nm[best]) / rated_torque_nm, "%")
    put("top_speed", "at a speed of", "n_top", float(found.speed_rpm[best]), rules.words.speed_unit)
    return Machine(
        circuit=model,
        origin=origin,
        volts_v=volts_v,
        rated_torque_nm=rated_torque_nm,
        locked_rotor_power_factor=factor,
        factor_band=factor_band,
        locked_rotor_current_a=float(found.line_current_a[0]) if at_rest else None,
    )
