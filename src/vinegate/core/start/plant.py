"""The numbers of one start: network, machine and load on one axis of speed."""

from __future__ import annotations

import math

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.drive.envelope import Supplied
from vinegate.core.load.stage import Asked
from vinegate.core.machine.circuit import EquivalentCircuit
from vinegate.core.machine.curves import Model, run_at
from vinegate.core.machine.promise import Promise
from vinegate.core.records import dataclass, replace
from vinegate.core.rectifier import Armature
from vinegate.core.supply.network import BASE_VA, Complex, Network, Seen, seen_from, solve

POINTS = 321
_BEND = 1.7  # points lie closer together towards synchronous speed, where the curves bend
_LAST_SLIP = 1e-5
_HANGS_BELOW = 0.9
_NO_SYNCHRONOUS = 0.25  # rated slip, beyond that of any induction machine


@dataclass(frozen=True, slots=True, kw_only=True)
class Plant:
    """Arrays are over `slip`. Per unit on 1 MVA and the board's volts; torques in N·m, powers in W.

    `speed_pu` is of synchronous, `axis` the indices.
    `z_motor` is the machine in its running connection, seen per phase; `gap_nm` its gap torque at 1 per unit volts,
    `drag_nm` its own friction; `amps_per_pu` and `va_per_pu` turn per-unit current and power into amperes and VA.
    """

    network: Network
    at: int
    seen: Seen
    board_v: float
    plate_v: float
    frequency_hz: float
    amps_per_pu: float
    va_per_pu: float
    slip: Array
    speed_pu: Array
    axis: Array
    synchronous_rad_s: float
    z_motor: Complex
    gap_nm: Array
    drag_nm: Array
    load_nm: Array
    inertia_kgm2: float
    z_run: complex
    rated_current_a: float
    rated_torque_nm: float
    locked_current_a: float
    model: Model
    drive: Supplied | None = None
    """What a drive gives the motor; None where none is worked."""
    motors: int = 1
    """How many alike one drive would feed, and whether it takes single-phase input."""
    fed_by_one: bool = False
    first_torque_pu: float = 0.0
    """Of each step of a resistor at its slip rings, of rated."""
    inside: EquivalentCircuit | None = None
    """The circuit while it runs: the model, or what stands behind its start."""
    armature: Armature | None = None
    """Of a direct-current machine and its bridge: the axis ends where it would run without load."""

    @property
    def loop(self) -> float:
        """Source impedances that a line's ampere passes, as multiples of the line volts: √3, or 2 between two lines."""
        return 2.0 if self.fed_by_one else BASE_VA / (self.amps_per_pu * self.board_v)

    def volt_amperes(self, line_a: float) -> float:
        """What so many line amperes at its board take: √3·U·I of three phases, U·I of two lines."""
        return line_a / self.amps_per_pu * self.va_per_pu / (3**0.5 if self.fed_by_one else 1.0)

    @property
    def points(self) -> int:
        return int(self.slip.size)

    @property
    def omega(self) -> Array:
        """Shaft speed, rad/s."""
        return self.synchronous_rad_s * (1 - self.slip)

    @property
    def rated_current_pu(self) -> float:
        return self.rated_current_a / self.amps_per_pu

    @property
    def rated_slip(self) -> float:
        """Of the machine itself, at rated torque and plate volts: on the side where it runs."""
        torque = self.gap_nm * self.plate_pu**2 - self.drag_nm
        top = int(torque.argmax())
        return float(np.interp(-self.rated_torque_nm, -torque[top:], self.slip[top:]))

    @property
    def hangs_below_pu(self) -> float:
        """Below this share of the axis a machine that gains no more hangs: nine tenths of synchronous speed.

        A commutator machine has none, and the axis goes far beyond its rated speed: then nine tenths of that.
        """
        slip = self.rated_slip
        return _HANGS_BELOW * (1 - slip if slip > _NO_SYNCHRONOUS or self.armature is not None else 1.0)

    @property
    def plate_pu(self) -> float:
        """Plate volts over the board's nominal volts."""
        return self.plate_v / self.board_v


def speed_axis() -> Array:
    """Slips from standstill to just below synchronous speed."""
    slip = np.linspace(1.0, 0.0, POINTS) ** _BEND
    slip[-1] = _LAST_SLIP
    return slip


def read_at(values: Array, place: float) -> float:
    """A quantity over the axis at a fractional index, on the straight line between its neighbours."""
    low = min(int(place), values.size - 2)
    before = float(values[low])
    return before + (place - low) * (float(values[low + 1]) - before)


def coarser(plant: Plant, step: int) -> Plant:
    """The same start on every so manieth speed, for choosing among many settings."""
    keep = slice(None, None, step)
    return replace(
        plant,
        slip=plant.slip[keep],
        speed_pu=plant.speed_pu[keep],
        axis=plant.axis[: plant.slip[keep].size],
        z_motor=plant.z_motor[keep],
        gap_nm=plant.gap_nm[keep],
        drag_nm=plant.drag_nm[keep],
        load_nm=plant.load_nm[keep],
    )


def _angle(power_factor: Array, slip: Array, locked: float | None) -> Complex:
    """Of the current, as a complex number of length one; turned to a `locked` factor at rest, and less with speed."""
    angle = power_factor - 1j * np.sqrt(np.maximum(1 - power_factor**2, 0))
    if locked is None:
        return np.asarray(angle)
    wanted = math.acos(locked) - math.acos(min(float(power_factor[0]), 1.0))
    return np.asarray(angle * np.exp(-1j * wanted * slip))


def build(
    *, network: Network, at: int, model: Model, asked: Asked, plate_v: float, frequency_hz: float,
    rated_current_a: float, rated_torque_nm: float, run_ohm: complex, phase_factor: float,
    locked_power_factor: float | None = None, promise: Promise | None = None, neutral: bool = False,
    drive: Supplied | None = None, motors: int = 1, fed_by_one: bool = False, first_torque_pu: float = 0.0,
    armature: Armature | None = None, inside: EquivalentCircuit | None = None,
) -> Plant:  # fmt: skip
    """Put machine, load and network on one axis.

    `phase_factor` is √3 for three phases. A single-phase machine between two lines is half its impedance on half of
    the line volts: `amps_per_pu` then stands on 2 in place of √3. From line to `neutral` it is one phase of a wye whose
    volts are √3 times its own, and one phase alone carries power. A `locked_power_factor` that was measured turns the
    impedance to its angle at rest, and less with speed; its magnitude and the torque stay. No torque is taken above
    what is promised of the machine.
    """
    bus = network.buses[at]
    slip = speed_axis()
    run = run_at(model, slip, volts_v=plate_v)
    line_v = plate_v * (3**0.5 if neutral else 1.0)
    share = 3**0.5 if neutral or phase_factor > 1 else 2.0
    base_ohm = bus.volts_v**2 / BASE_VA
    z_motor = line_v / (share * run.line_current_a * _angle(run.power_factor, slip, locked_power_factor)) / base_ohm
    scale = (bus.volts_v / line_v) ** 2
    drag = run.gap_torque_nm - run.torque_nm
    gap = run.gap_torque_nm
    if promise is not None:
        gap = np.minimum(gap, promise.most_pu(1 - slip) * rated_torque_nm + drag)
    return Plant(
        network=network, at=at, seen=seen_from(network, at), board_v=bus.volts_v, plate_v=line_v,
        frequency_hz=frequency_hz, amps_per_pu=BASE_VA / (share * bus.volts_v),
        va_per_pu=BASE_VA / (3 if neutral else 1 if phase_factor > 1 else 2),
        slip=slip, speed_pu=1 - slip, axis=np.arange(slip.size, dtype=float),
        synchronous_rad_s=model.synchronous_rad_s(), z_motor=z_motor, gap_nm=gap * scale, drag_nm=drag,
        load_nm=asked.torque_at((1 - slip) * model.synchronous_rad_s() * 30 / math.pi),
        inertia_kgm2=asked.inertia_kgm2, z_run=run_ohm / base_ohm, rated_current_a=rated_current_a,
        rated_torque_nm=rated_torque_nm, locked_current_a=float(run.line_current_a[0]), model=model, drive=drive,
        motors=motors, fed_by_one=fed_by_one, first_torque_pu=first_torque_pu, armature=armature,
        inside=inside or (model if isinstance(model, EquivalentCircuit) else None),
    )  # fmt: skip


def before_pu(plant: Plant) -> Array:
    """Volts at every bus just before the start."""
    return np.asarray(np.abs(solve(plant.network)), dtype=float)
