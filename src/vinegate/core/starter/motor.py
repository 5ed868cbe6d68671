"""The motor while its circuit runs: speed and line amperes, by this plan's machine, network and load."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.machine.curves import run_at
from vinegate.core.records import dataclass, replace
from vinegate.core.start.connection import FULL, Connection, behave
from vinegate.core.start.plant import Plant, before_pu
from vinegate.core.start.trace import volts_along
from vinegate.core.starter.hung import Hangs, Hung
from vinegate.core.tables.trip_class import trip_class

_GAIN: Final = 0.002
_LEAST_S, _MOST_S = 0.001, 0.5
_KEPT: Final = 300
_GRID: Final = 2000  # points each way
_SETTLED: Final = 1e-8  # of synchronous speed in a step


@dataclass(frozen=True, slots=True, kw_only=True)
class Turned:
    """Over time, s: speed in rpm (negative backwards), amperes of the line, the board's volts per unit."""

    time_s: Array
    speed_rpm: Array
    line_a: Array
    board_pu: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class Relay:
    """The overload: what it is set to, in line amperes, and its class."""

    line_a: float
    trip: str

    def heat_pct(self, turned: Turned) -> Array:
        """Heat of the quickest relay of its class over time, of that at which it trips, per cent, from cold."""
        square = (turned.line_a / self.line_a) ** 2
        steps = np.diff(turned.time_s) * (square[1:] + square[:-1]) / 2
        heat = trip_class(self.trip).heat_along(turned.time_s, np.concatenate([[0.0], np.cumsum(steps)]))
        return 100 * heat


@dataclass(frozen=True, slots=True, kw_only=True)
class _Table:
    """One connection with its field forwards, over speeds from -1 to 1 of synchronous."""

    torque_nm: Array
    line_a: Array
    board_pu: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class Slow:
    """The low of two speeds: its synchronous speed, torque and amperes over those of the high one."""

    speed: float
    torque: float
    amps: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Brakes:
    """What slows it: direct current's torque, N·m, over shares of synchronous speed; a spring-set brake's, N·m."""

    speed_pu: tuple[float, ...] = ()
    direct_nm: tuple[float, ...] = ()
    spring_nm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Shaft:
    """The plan's machine and load over speeds both ways; `firsts` are the connections ahead of the running one."""

    plant: Plant
    firsts: tuple[Connection, ...]
    by_frequency: bool = False
    """A drive: it runs by its own ramps, which are on its sheet and not worked here."""
    slow: Slow | None = None
    brakes: Brakes = Brakes()

    def turned(self, hangs: Sequence[tuple[float, Hung]], until_s: float) -> Turned | None:
        """`J dω/dt = T − T_L` through what it hangs in, from rest; None where a connection is not worked here.

        Each step is taken implicitly in the torque's slope, so that a long one settles and does not swing. Once two
        phases have met its device has tripped. Fed on some phases it does not start. Unfed it slows by its load alone.
        """
        if self.by_frequency or any(hung.how is Hangs.FIRST and hung.step >= len(self.firsts) for _, hung in hangs):
            return None
        speeds, both = _both_ways(self.plant)
        wanted = {hung.hangs_in for _, hung in hangs}
        known = {(Hangs.WHOLE, 0): FULL} | {(Hangs.FIRST, step): one for step, one in enumerate(self.firsts)}
        tables = {key: _table(both, connection) for key, connection in known.items() if key in wanted}
        if any(hung.how is Hangs.SLOW for _, hung in hangs):
            if self.slow is None:
                return None
            whole = tables.get((Hangs.WHOLE, 0)) or _table(both, FULL)
            tables[Hangs.SLOW, 0] = _slowed(whole, speeds, self.slow, float(before_pu(self.plant)[self.plant.at]))
        if self.brakes.direct_nm and any(hung.how is Hangs.DIRECT for _, hung in hangs):
            tables[Hangs.DIRECT, 0] = _braking(self.brakes, speeds, float(before_pu(self.plant)[self.plant.at]))
        load = np.concatenate([-self.plant.load_nm[:0:-1], self.plant.load_nm])
        even = np.concatenate([-self.plant.speed_pu[:0:-1], self.plant.speed_pu])
        walk = _Walk(self.plant, speeds, tables, np.interp(speeds, even, load), self.brakes.spring_nm)
        return walk.through(_to_a_trip(hangs), until_s)


def _to_a_trip(hangs: Sequence[tuple[float, Hung]]) -> list[tuple[float, Hung]]:
    found: list[tuple[float, Hung]] = []
    for at, hung in hangs:
        if hung.how is Hangs.SHORT:
            return [*found, (at, Hung(Hangs.OFF, "tripped"))]
        found.append((at, hung))
    return found


def _both_ways(plant: Plant) -> tuple[Array, Plant]:
    """Speeds from -1 to 1 of synchronous, and the plant over them: against its field (slip 2 to 1), then with it."""
    slip = 1 + plant.speed_pu[:0:-1]
    run = run_at(plant.model, slip, volts_v=plant.plate_v)
    rest = run_at(plant.model, plant.slip[:1], volts_v=plant.plate_v)
    share = rest.line_current_a[0] / run.line_current_a
    against_z = plant.z_motor[0] * share * np.ones(slip.size, dtype=complex)
    against_nm = plant.gap_nm[0] * run.gap_torque_nm / rest.gap_torque_nm[0]
    nothing = np.zeros(slip.size)
    both = replace(
        plant, slip=np.concatenate([slip, plant.slip]), speed_pu=np.concatenate([1 - slip, plant.speed_pu]),
        axis=np.arange(slip.size + plant.slip.size, dtype=float), z_motor=np.concatenate([against_z, plant.z_motor]),
        gap_nm=np.concatenate([against_nm, plant.gap_nm]), drag_nm=np.concatenate([nothing, plant.drag_nm]),
        load_nm=np.concatenate([nothing, plant.load_nm]),
    )  # fmt: skip
    return both.speed_pu, both


def _table(both: Plant, connection: Connection) -> _Table:
    found = behave(both, [connection])
    return _Table(
        torque_nm=found.torque[0],
        line_a=np.abs(found.line[0]) * both.amps_per_pu,
        board_pu=volts_along(found)[0, both.at],
    )


def _slowed(whole: _Table, speeds: Array, slow: Slow, open_pu: float) -> _Table:
    """The same machine with more poles: its curve over its own speeds; faster than these it brakes as it drove.

    Mirrored about its own synchronous speed, as slip's sign turns (Fitzgerald, Electric Machinery, 6th ed., 6.5: the
    stator's drop, which makes the braking side the stronger, is left out).
    """
    own = speeds / slow.speed
    over = own > 1.0
    at = np.clip(np.where(over, 2.0 - own, own), -1.0, 1.0)
    torque = slow.torque * np.interp(at, speeds, whole.torque_nm) * np.where(over, -1.0, 1.0)
    return _Table(
        torque_nm=torque,
        line_a=slow.amps * np.interp(at, speeds, whole.line_a),
        board_pu=open_pu - slow.amps * (open_pu - np.interp(at, speeds, whole.board_pu)),
    )


def _braking(brakes: Brakes, speeds: Array, open_pu: float) -> _Table:
    """Against whichever way it turns; its own supply is not the motor's line."""
    torque = np.interp(np.abs(speeds), brakes.speed_pu, brakes.direct_nm)
    return _Table(torque_nm=-np.sign(speeds) * torque, line_a=np.zeros(speeds.size),
                  board_pu=np.full(speeds.size, open_pu))  # fmt: skip


class _Walk:
    """Steps through time at one table after the other; all read off an even grid of speeds."""

    def __init__(
        self, plant: Plant, speeds: Array, tables: dict[tuple[Hangs, int], _Table], load: Array, spring_nm: float = 0.0
    ) -> None:
        self.plant, self.rest_nm, self.spring_nm = plant, float(plant.load_nm[0]), spring_nm
        self.open_pu = float(before_pu(plant)[plant.at])
        grid = np.linspace(-1.0, 1.0, 2 * _GRID + 1)

        def even(values: Array) -> list[float]:
            return list(map(float, np.interp(grid, speeds, values)))

        self.load = even(load)
        self.tables = {how: (even(one.torque_nm), even(one.line_a), even(one.board_pu)) for how, one in tables.items()}

    def through(self, hangs: list[tuple[float, Hung]], until_s: float) -> Turned:
        rows: list[tuple[float, float, float, float]] = []
        speed, now = 0.0, 0.0
        ends = [at for at, _ in hangs[1:]] + [until_s]
        for (_, hung), end in zip(hangs, ends, strict=True):
            rows.append((now, speed, *self._seen(hung, speed)))
            while now < end - 1e-9:
                span = min(self._span(hung, speed), end - now)
                after = self._after(hung, speed, span)
                if abs(after - speed) < _SETTLED:
                    span = end - now
                speed, now = after, now + span
                rows.append((now, speed, *self._seen(hung, speed)))
        return self._kept(rows)

    def _span(self, hung: Hung, speed: float) -> float:
        """Seconds in which it gains or loses about so much of synchronous speed."""
        net = abs(self._net(hung, speed, math.copysign(1.0, speed or self._drive(hung, 0.0))))
        wanted = _GAIN * self.plant.inertia_kgm2 * self.plant.synchronous_rad_s / max(net, 1e-9)
        return min(max(wanted, _LEAST_S), _MOST_S)

    def _kept(self, rows: list[tuple[float, float, float, float]]) -> Turned:
        """Every so manieth row, and each at which the amperes leap."""
        every = max(1, len(rows) // _KEPT)
        leaps = [abs(one[2] - other[2]) > 0.02 * self.plant.locked_current_a for one, other in pairwise(rows)]
        keep = [place for place in range(len(rows)) if place % every == 0 or any(leaps[max(place - 1, 0) : place + 1])]
        found = np.array([rows[place] for place in sorted({*keep, len(rows) - 1})], dtype=float)
        rpm = self.plant.synchronous_rad_s * 30 / math.pi
        return Turned(time_s=found[:, 0], speed_rpm=found[:, 1] * rpm, line_a=found[:, 2], board_pu=found[:, 3])

    def _seen(self, hung: Hung, speed: float) -> tuple[float, float]:
        table = self.tables.get(hung.hangs_in)
        if table is None:
            return 0.0, self.open_pu
        own = -speed if hung.backwards else speed
        return _read(table[1], own), _read(table[2], own)

    def _drive(self, hung: Hung, speed: float) -> float:
        table = self.tables.get(hung.hangs_in)
        if table is None:
            return 0.0
        return -_read(table[0], -speed) if hung.backwards else _read(table[0], speed)

    def _after(self, hung: Hung, speed: float, span: float) -> float:
        """Speed after a step. At rest it stays until its torque is more than the load's hold."""
        at_rest = self._drive(hung, 0.0)
        holds = self.rest_nm + self._grip(hung)
        if speed == 0.0 and abs(at_rest) <= holds:
            return 0.0
        ahead = math.copysign(1.0, speed or at_rest)
        net = self._net(hung, speed, ahead)
        near = ahead / _GRID
        slope = (self._net(hung, speed + near, ahead) - net) / near
        mass = self.plant.inertia_kgm2 * self.plant.synchronous_rad_s / span
        after = speed + net / (mass - min(slope, 0.0))
        if speed * after < 0 and abs(at_rest) <= holds:
            return 0.0
        return min(max(after, -1.0), 1.0)

    def _net(self, hung: Hung, speed: float, ahead: float) -> float:
        held = _read(self.load, speed) if speed else ahead * self.rest_nm
        return self._drive(hung, speed) - held - ahead * self._grip(hung)

    def _grip(self, hung: Hung) -> float:
        return self.spring_nm if hung.gripped else 0.0


def _read(values: list[float], speed: float) -> float:
    """Between two points of the even grid."""
    place = min(max((speed + 1.0) * _GRID, 0.0), 2.0 * _GRID - 1e-9)
    low = int(place)
    return values[low] + (place - low) * (values[low + 1] - values[low])
