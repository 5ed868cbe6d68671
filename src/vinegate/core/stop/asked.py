"""What every way to stop works from: the need, what turns at its heaviest and lightest, and the machine."""

from __future__ import annotations

import math
from itertools import product
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.drive.count import motors_on
from vinegate.core.drive.lowering import drives_it
from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import volts_of
from vinegate.core.load.stage import Asked as Load
from vinegate.core.machine.armature import armature_ohms
from vinegate.core.machine.circuit import EquivalentCircuit, operate
from vinegate.core.machine.describe import Machine
from vinegate.core.plate.kind import Family
from vinegate.core.plate.rated import Rated
from vinegate.core.records import dataclass, replace
from vinegate.core.rules import Papers
from vinegate.core.rules.sets import rule_set
from vinegate.core.stop.courses import Turning, freely, slowest, speeds_down
from vinegate.core.stop.facts import Stop
from vinegate.core.turning import Taken

_RAD_S: Final = math.pi / 30
LINE_SPEED: Final = "the load's line speed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Armature:
    """A direct-current machine at rated flux: `U = k·ω + I·R_a`. `field` says how its flux is kept."""

    k_vs: float
    resistance_ohm: float
    field: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """The need and the means.

    `corners` are what turns with the heaviest load first, then every other end of the bands. `machine` is None where no
    circuit is known, `armature` for all but direct-current machines. `hold` is "yes" with power off, "rest" while it
    has power, or "no". `metres_a_turn` is the load's travel for one turn of the motor; None where it has none.
    `coasts_s` is how long it takes to stop by itself, the slowest corner; None where it never stops. `rated_loss_w` is
    what the machine can shed for ever, by its circuit. `direct` is the direct current in use, once it is found;
    `measured` where the winding's ohms were; `papers` are the rule set's.
    """

    stop: Stop
    corners: tuple[Turning, ...]
    machine: EquivalentCircuit | None
    armature: Armature | None
    phases: int
    volts_v: float
    line_v: float
    rated_a: float
    stall: Taken | None
    locked_a: float | None
    hold: str
    hoist: bool
    overhauls: bool
    gear_ratio: float
    metres_a_turn: float | None
    coasts_s: float | None
    rated_loss_w: float | None
    per_hour: float | None
    hours: float | None
    energy_price: float | None
    load: Load
    direct: tuple[float, str] | None = None
    measured: bool = False
    guessed: bool = False
    """Whether its stator's ohms, unless measured, are only held to be as its rotor's."""
    rotor_kgm2: float = 0.0
    outside: float = 0.0
    """The share of its rotor circuit's ohms that a resistor at its rings has; `machine` is the circuit with it."""
    strength: float = 1.0
    """The machine's braking torque over what its circuit gives."""
    drive_nm: float | None = None
    """What a drive brakes with at the least, by its own sheet; None where none is worked."""
    breaks: Taken | None = None
    """The machine's breakdown torque, where nobody gave it."""
    motors: int = 1
    """Alike on one drive: what its bus takes comes from all of them, and the rest is said of each."""
    papers: Papers | None = None
    brief: bool = False
    """Whether a row is wanted for its verdict alone, without what is drawn of it."""
    idle_serves: bool = False
    """Whether a machine that stands before the way has acted is stopped by it as well: where it acts as taken."""

    @property
    def resistor_in(self) -> tuple[str, ...]:
        """What happens first of a wound rotor that is braked by its stator."""
        text = "The resistor at its rings is all in: the contactors of its steps fall out with the stator's."
        return (text,) if self.outside else ()

    @property
    def path_unknown(self) -> bool:
        """Whether a distance is asked of a load whose travel nobody knows."""
        return self.stop.distance_m is not None and self.metres_a_turn is None

    @property
    def heavy(self) -> Turning:
        return self.corners[0]

    def inertia_times(self, load: float, rotor: float) -> float:
        """Inertia on the shaft with these inertias of load, at its own shaft, and rotor, over that as taken."""
        return self.load.inertia_times(load, rotor)

    @property
    def must_hold(self) -> bool:
        return self.hold == "yes"

    @property
    def must_stop_dead(self) -> bool:
        """Whether it must come to rest when power fails."""
        return self.stop.power_failure == "stop" or (self.stop.power_failure is None and self.must_hold)


def _metres_a_turn(circuit: Circuit, speed_rpm: float) -> float | None:
    line_speed = circuit.load.line_speed_ms
    return line_speed * 60 / speed_rpm if line_speed else None


def asked_of(
    job: Job, circuit: Circuit, rated: Rated, machine: Machine | None, load: Load, *, rotor_kgm2: float,
    rated_nm: float, stall: Taken | None, locked_a: float | None, drive_nm: float | None = None,
) -> Asked:  # fmt: skip
    """Put the facts together. `rated` has speed and current."""
    assert rated.speed and rated.current  # noqa: PT018
    stop, hoist, family = circuit.stop, load.kind == "hoist", circuit.plate.family
    overhauls = drives_it(circuit, load.kind)
    model = machine.inside if machine is not None else None
    omega = speeds_down(rated.speed.value * _RAD_S)
    slows_nm = _slows_nm(load, omega, model, drives=overhauls)
    heavy = Turning(omega=omega, load_nm=slows_nm, inertia_kgm2=load.inertia_kgm2, rated_nm=rated_nm)
    corners = _corners(heavy, stop, rotor_kgm2, drives=overhauls)
    volts_v = machine.volts_v if machine else 0.0
    return Asked(
        stop=stop, corners=corners, machine=model,
        armature=_armature(circuit, rated) if family is Family.DC else None,
        phases={Family.DC: 0, Family.SINGLE: 1}.get(family, 3),
        volts_v=volts_v,
        line_v=volts_of(job, circuit) or volts_v,
        rated_a=rated.current.value,
        stall=stall,
        locked_a=locked_a,
        hold=stop.hold or ("yes" if hoist else "no"),
        hoist=hoist,
        overhauls=overhauls,
        gear_ratio=circuit.load.gear_ratio or 1.0,
        metres_a_turn=_metres_a_turn(circuit, rated.speed.value),
        coasts_s=slowest([freely(turning).stops_s for turning in corners]),
        rated_loss_w=_rated_loss_w(model, machine, rated) if model and machine else None,
        per_hour=stop.per_hour or circuit.start.starts_per_hour,
        hours=circuit.wiring.hours,
        energy_price=job.limits.energy_price,
        load=load,
        rotor_kgm2=rotor_kgm2,
        measured=circuit.machine.dc_resistance_ohm is not None or circuit.machine.r1_ohm is not None,
        guessed=machine is not None and machine.origin == "simple",
        drive_nm=drive_nm, breaks=next(iter(machine.breakdown_not_given), None) if machine is not None else None,
        motors=motors_on(circuit), papers=rule_set(job.rules).papers,
    )  # fmt: skip


def _slows_nm(
    load: Load, omega: Array, model: EquivalentCircuit | None, *, drives: bool, times: float = 1.0,
    breakaway_pu: float | None = None,
) -> Array:  # fmt: skip
    """What slows it by itself, N·m: so many times the load's torque, and the machine's own drag."""
    torque = load.along(omega / _RAD_S)(load.breakaway_pu if breakaway_pu is None else breakaway_pu) * times
    if drives:  # with all it asks once it carries its load, however empty it starts, and no friction helps
        torque = np.full(omega.size, -float(load.running_at(omega[:1] / _RAD_S)[0]) * times)
    if model is None:
        return torque
    whole = model.synchronous_rad_s()
    return np.asarray(torque + model.drag_w / whole * (omega / whole) ** 2)


def turned(
    asked: Asked, *, inertia_times: float, rotor_kgm2: float, power_times: float, breakaway_pu: float
) -> tuple[Turning, ...]:
    """What turns, at every end of its bands, with other inertia and another load."""
    torque = _slows_nm(
        asked.load, asked.heavy.omega, asked.machine, drives=asked.overhauls, times=power_times,
        breakaway_pu=breakaway_pu,
    )  # fmt: skip
    heavy = replace(asked.heavy, load_nm=torque, inertia_kgm2=asked.load.inertia_kgm2 * inertia_times)
    return _corners(heavy, asked.stop, rotor_kgm2, drives=asked.overhauls)


def _corners(heavy: Turning, stop: Stop, rotor_kgm2: float, *, drives: bool) -> tuple[Turning, ...]:
    """Heavy and light, with little and with much friction; friction only eases a load that drives."""
    light, rough = stop.light_pu or 1.0, stop.friction_pu or 0.0
    loads = (1.0, light) if light < 1 else (1.0,)
    frictions = ((1.0, 1 - rough) if drives else (1 - rough, 1 + rough)) if rough else (1.0,)
    return tuple(heavy.lighter(share, rotor_kgm2).rubbing(times) for share, times in product(loads, frictions))


def _rated_loss_w(model: EquivalentCircuit, machine: Machine, rated: Rated) -> float | None:
    """Loss at rated output, as the start's duty has it."""
    if rated.power_w is None or rated.speed is None:
        return None
    slip = machine.rated_slip(max(1 - rated.speed.value * _RAD_S / model.synchronous_rad_s(), 1e-3), model)
    run = operate(model, np.array([slip]), volts_v=machine.volts_v)
    shaft = max(float(run.shaft_w[0]), 1.0)
    return rated.power_w * float(run.input_w[0] - run.shaft_w[0]) / shaft


def _armature(circuit: Circuit, rated: Rated) -> Armature | None:
    plate = circuit.plate
    if plate.power_w is None or rated.volts is None or rated.current is None or rated.speed is None:
        return None
    amps, volts = rated.current.value, rated.volts.value
    ohms = armature_ohms(circuit, power_w=plate.power_w, volts_v=volts, current_a=amps)
    if ohms is None:
        return None
    return Armature(
        k_vs=(volts - amps * ohms) / (rated.speed.value * _RAD_S),
        resistance_ohm=ohms,
        field={"dc-permanent": "magnets", "dc-series": "series"}.get(plate.kind or "", "fed"),
    )
