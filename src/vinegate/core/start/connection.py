"""A way the machine hangs on the board while it runs up, and what it does at every speed: all ways at once."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass
from vinegate.core.start.plant import Plant
from vinegate.core.supply.network import Complex, Seen, seen_from

_POWER_ROUNDS = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Connection:
    """How motor and run appear from the board.

    From the board one sees `scale·z_motor + run_scale·z_run + series`. The terminals have `terminal` times the volts
    across `scale·z_motor`; torque is `gain` times that of the running connection at those volts; the motor takes
    `motor` times the line current. `limit_pu` holds the line current by a lossless reactance, `hold` the share of
    volts behind the starter (a soft starter's two ways to work); `shunt` hangs on the board beside it. `rotor` is the
    resistance of the rotor's circuit over its own, where more is at its slip rings.
    """

    key: str
    scale: float = 1.0
    run_scale: float = 1.0
    series: complex = 0j
    terminal: float = 1.0
    gain: float = 1.0
    motor: float = 1.0
    winding: float = 1.0
    limit_pu: float = 0.0
    hold: float = 0.0
    shunt: complex = 0j
    rotor: float = 1.0


FULL = Connection(key="full")


def wye() -> Connection:
    """Windings of the running delta in wye: three times the impedance, a third of the torque at the same line volts."""
    return Connection(key="wye", scale=3.0, gain=1 / 3, winding=3**0.5)


def autotransformer(key: str, tap: float, shunt: complex) -> Connection:
    """Tap `t`: the line sees 1/t² of the impedance, the motor t of the volts and 1/t of the line current."""
    return Connection(key=key, scale=1 / tap**2, run_scale=1 / tap**2, terminal=tap, motor=1 / tap, shunt=shunt)


def part_winding(current: float, torque: float) -> Connection:
    """Half of the windings: `current` and `torque` of the full machine's at the same volts."""
    return Connection(key="part", scale=1 / current, gain=torque, winding=2.0)


def in_series(key: str, ohms_pu: complex) -> Connection:
    """A resistor or reactor ahead of the machine."""
    return Connection(key=key, series=ohms_pu)


def series_for(plant: Plant, volts_pu: float, *, reactor: bool) -> complex:
    """The resistor or reactor that leaves `volts_pu` of a stiff board's volts at the motor at rest, per unit.

    `|z/(z + R)| = k` solved for R, or for X.
    """
    z = complex(plant.z_motor[0]) + plant.z_run
    reach = abs(z) / volts_pu
    if reactor:
        return 1j * float(np.sqrt(max(reach**2 - z.real**2, 0.0)) - z.imag)
    return complex(np.sqrt(max(reach**2 - z.imag**2, 0.0)) - z.real, 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Behaviour:
    """What each connection does: arrays (connections, speeds). Currents and volts per unit, torques N·m.

    `line` is complex; `heat_w` is all that the motor turns into heat, `rotor_w` the rotor's part; neither has what a
    resistor at its rings takes.
    """

    keys: tuple[str, ...]
    line: Complex
    motor: Array
    winding: Array
    terminal: Array
    torque: Array
    rotor_w: Array
    heat_w: Array
    seen: Seen

    def at(self, key: str) -> int:
        return self.keys.index(key)


def at_rings(key: str, rotor: float) -> Connection:
    """Resistance at the slip rings: the rotor's circuit has `rotor` times its own."""
    return Connection(key=key, rotor=rotor)


def _machines(plant: Plant, connections: Sequence[Connection]) -> tuple[Complex, Array]:
    """Impedance and gap torque at 1 per unit volts, by connection where the rotors' circuits differ.

    With `k` times the ohms the machine is at slip `s` what it is at `s/k` without (proportional shifting; Chapman,
    Electric Machinery Fundamentals, 5th ed., section 6.5). Read between the axis's speeds as admittance, which is
    nearly straight towards synchronous speed.
    """
    if all(c.rotor == 1.0 for c in connections):
        return plant.z_motor, plant.gap_nm
    rising, admittance, gap = plant.slip[::-1], 1 / plant.z_motor[::-1], plant.gap_nm[::-1]
    slips = [plant.slip / c.rotor for c in connections]
    z = [1 / np.interp(slip, rising, admittance) for slip in slips]
    return np.array(z), np.array([np.interp(slip, rising, gap) for slip in slips])


def behave(plant: Plant, connections: Sequence[Connection]) -> Behaviour:
    """Solve every connection at every speed with the network. No loop over speed."""

    scale, terminals, gain, carries, winding, rotor = _columns(connections)
    own_z, own_gap = _machines(plant, connections)
    z_motor = scale * own_z
    ahead = np.array([c.run_scale * plant.z_run + c.series for c in connections])[:, None]
    line, through, seen = _fed(plant, connections, z_motor + ahead)
    amps = np.abs(through)
    terminal = amps * (scale * np.abs(own_z)) * terminals
    gap = gain * own_gap * terminal**2
    synchronous = plant.synchronous_rad_s
    motor_in = amps**2 * z_motor.real * plant.va_per_pu
    torque = gap - plant.drag_nm
    slipping_w = plant.slip * gap * synchronous
    outside = 1 - 1 / rotor
    motor = amps * carries
    return Behaviour(
        keys=tuple(c.key for c in connections),
        line=line,
        motor=motor,
        winding=motor * winding,
        terminal=terminal / plant.plate_pu,
        torque=torque,
        rotor_w=slipping_w * (1 - outside),
        heat_w=motor_in - torque * plant.omega - slipping_w * outside,
        seen=seen,
    )


def _columns(connections: Sequence[Connection]) -> Array:
    """Their scale, terminal, gain, motor, winding and rotor, each a column: (6, connections, 1)."""
    rows = [(c.scale, c.terminal, c.gain, c.motor, c.winding, c.rotor) for c in connections]
    return np.array(rows).T[:, :, None]


def _fed(plant: Plant, connections: Sequence[Connection], z: Complex) -> tuple[Complex, Complex, Seen]:
    """Currents in the line and through the machine, and the network as it is seen with them."""
    seen, hung = plant.seen, [c.shunt for c in connections]
    shunt = np.array(hung)[:, None] if any(hung) else None
    line = through = np.zeros_like(z)
    rounds = _POWER_ROUNDS if plant.network.has_power_loads else 1
    for _ in range(rounds):
        open_pu, z_source = seen.open_pu[plant.at], seen.transfer_pu[plant.at]
        held = _held_back(connections, z, open_pu, z_source)
        if shunt is not None:
            y = 1 / held + shunt
            board = open_pu / (1 + z_source * y)
            line, through = board * y, board / held
        else:
            line = through = open_pu / (held + z_source)
        if rounds > 1:
            seen = seen_from(plant.network, plant.at, seen.volts(line))
    return line, through, seen


def _held_back(connections: Sequence[Connection], z: Complex, open_pu: Complex, z_source: Complex) -> Complex:
    """The impedance with the reactance a soft starter puts in: to hold the line current, or the share of volts behind.

    Phase control is lossless and passes the same current, which is what a reactance does (fundamental only).
    """
    if not any(c.limit_pu or c.hold for c in connections):
        return z
    limit, hold = np.array([(c.limit_pu, c.hold) for c in connections]).T[:, :, None]
    wanted = np.zeros(z.shape)
    if hold.any():
        behind = np.where(hold > 0, np.abs(z) / np.maximum(hold, 1e-9), 0)
        wanted = np.where(hold > 0, np.sqrt(np.maximum(behind**2 - z.real**2, 0)) - z.imag, 0)
    if limit.any():
        loop = z + z_source
        reach = np.where(limit > 0, np.abs(open_pu) / np.maximum(limit, 1e-12), 0)
        wanted = np.where(limit > 0, np.sqrt(np.maximum(reach**2 - loop.real**2, 0)) - loop.imag, wanted)
    return z + 1j * np.maximum(wanted, 0)
