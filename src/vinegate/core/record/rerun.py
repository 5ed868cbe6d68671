"""Our own start run again on the volts that were measured, so that only what differs otherwise is left."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Callable
from itertools import repeat
from typing import Final, NamedTuple

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.load.stage import Asked
from vinegate.core.records import dataclass, replace
from vinegate.core.start.compare import MethodRow
from vinegate.core.start.connection import FULL, Connection, behave
from vinegate.core.start.detail import Detail
from vinegate.core.start.facts import Start
from vinegate.core.start.first import stages_of
from vinegate.core.start.held_back import HeldBack
from vinegate.core.start.plant import Plant
from vinegate.core.start.run_up import AT_SPEED
from vinegate.core.start.simulation import Settings
from vinegate.core.start.way import Way
from vinegate.core.start.ways import USUAL

_LONGEST_S: Final = 600.0
_WAITS_S: Final = 0.05
_LEAST_SPARE: Final = 1e-4
_BUS_BEARS: Final = 0.9
"""Of the planned volts: assumed, as makers state their lower limit at 10 to 15 % below rated."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Volts:
    """Line volts at the starter against time from the moment of switching on."""

    time_s: Array
    line_v: Array

    def at(self, seconds: float) -> float:
        return float(np.interp(seconds, self.time_s, self.line_v))

    def reader(self) -> Callable[[float], float]:
        """The same for many moments, one at a time."""
        times, volts = self.time_s.tolist(), self.line_v.tolist()

        def read(seconds: float) -> float:
            after = bisect_right(times, seconds)
            if after in (0, len(times)):
                return float(volts[0 if after == 0 else -1])
            share = (seconds - times[after - 1]) / (times[after] - times[after - 1])
            return float(volts[after - 1] + share * (volts[after] - volts[after - 1]))

        return read


def held(volts: float) -> Volts:
    """The same volts throughout."""
    return Volts(time_s=np.array([0.0]), line_v=np.array([volts]))


@dataclass(frozen=True, slots=True, kw_only=True)
class Turn:
    """One connection, and until when; None: to the end."""

    connection: Connection
    until_s: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Again:
    """Against `time_s`: speed of synchronous, amperes in the line. `duration_s` is None where it never gets there."""

    time_s: Array
    speed_pu: Array
    line_a: Array
    duration_s: float | None
    running_a: float
    running_factor: float | None
    plateau_a: float
    """At rest, in its first connection, at the volts of that moment; the most that electronics let flow."""


def turns_for(way: Way, row: MethodRow, start: Start, plant: Plant) -> tuple[Turn, ...] | None:
    """The connections in turn; None for a way whose volts electronics decide, that only its own strip shows."""
    if way.electronic or way.by_frequency:
        return None
    stages = stages_of(plant, start, row)
    if len(stages) < len(row.stages) or (not stages and way is not USUAL):
        return None
    first = tuple(Turn(connection=connection, until_s=until_s) for connection, until_s in stages)
    return *first, Turn(connection=FULL)


def held_by(way: Way, row: MethodRow, start: Start, plant: Plant) -> HeldBack | None:
    """How electronics held the volts back in the planned start; None for a way without."""
    if way.holds is None or row.value is None:
        return None
    return way.holds(plant, Settings.of(start, 0.0, 1.0, 1.0), row.value)


def by_frequency(detail: Detail, own_v: Array, volts: Volts, up_s: float | None) -> Again | None:
    """A drive's start on other volts: its ramp stays, and the same power takes amperes as `1/U`.

    None where the volts fall below nine tenths of those planned: then what it can give may be less too.
    """
    time = np.array(detail.time_s)
    line = np.interp(time, volts.time_s, volts.line_v)
    if float((line / own_v).min()) < _BUS_BEARS:
        return None
    amps = np.array(detail.line_a) * own_v / line
    return Again(
        time_s=time, speed_pu=np.array(detail.speed_pct) / 100, line_a=amps, duration_s=up_s,
        running_a=float(amps[-1]), running_factor=None, plateau_a=float(amps.max()),
    )  # fmt: skip


class _Walk:
    """Where the start stands: the moment, its place on the axis of speed, its connection; and what it went through."""

    def __init__(self, plant: Plant, turns: tuple[Turn, ...], volts: Volts, held_back: HeldBack | None) -> None:
        behaviour = behave(plant, [turn.connection for turn in turns])
        board = np.abs(behaviour.seen.volts(behaviour.line))[plant.at] * plant.board_v
        self.amps = np.abs(behaviour.line) * plant.amps_per_pu / board
        self.gap = (behaviour.torque + plant.drag_nm) / board**2
        self.needed = plant.load_nm + plant.drag_nm
        # One number is read at a time: lists are quicker than arrays then.
        self._amps, self._gap = self.amps.tolist(), self.gap.tolist()
        self._needed, self._omega = self.needed.tolist(), plant.omega.tolist()
        self._plant, self._turns, self._held_back = plant, turns, held_back
        self._line, self._known_until = volts.reader(), float(volts.time_s[-1])
        self._steady_v = self._steady(float(volts.line_v[0])) if volts.time_s.size == 1 else None
        self._least = _LEAST_SPARE * plant.rated_torque_nm
        self.time, self.turn, self.place = 0.0, 0, 0
        self.noted: list[tuple[float, int, float, int]] = []
        self._note()

    def _steady(self, line: float) -> Array | None:
        """Volts behind the starter by turn and speed, on a line that stays; None where a ramp moves them in time."""
        if self._held_back is None:
            return np.full(self.amps.shape, line)
        if self._held_back.ramp is not None:
            return None
        return np.asarray(line * self._held_back.limited(self.amps * line))

    def _kicked(self) -> bool:
        return self._held_back is not None and self.time < self._held_back.kick_s

    def _spare(self, when: float) -> tuple[float, float]:
        """Torque to spare at this speed and at the next, N·m."""
        gap, needed, at, line = self._gap[self.turn], self._needed, self.place, self._line(when)
        here = next_ = line
        if self._held_back is not None:
            amps, share = self._amps[self.turn], self._held_back.share
            here, next_ = line * share(when, amps[at] * line), line * share(when, amps[at + 1] * line)
        return gap[at] * here * here - needed[at], gap[at + 1] * next_ * next_ - needed[at + 1]

    def _note(self) -> None:
        volts, amps = self._line(self.time), self._amps[self.turn][self.place]
        if self._held_back is not None:
            volts *= self._held_back.share(self.time, amps * volts)
        self.noted.append((self.time, self.place, amps * volts, self.turn))

    def on(self) -> bool:
        """To the next connection, to the next speed, or a while in waiting; False where it has ended."""
        if self.place >= self._plant.points - 1 or self.time >= _LONGEST_S:
            return False
        until, more = self._turns[self.turn].until_s, self.turn < len(self._turns) - 1
        if until is not None and more and self.time >= until:
            self.turn += 1
        else:
            now = self._spare(self.time)
            if now[0] > self._least and now[1] > self._least:
                if self._steady_v is None or self._kicked():
                    self._speeds_up(now)
                else:
                    self._runs_up(self._steady_v, until if more and until is not None else _LONGEST_S)
            elif not more and self.time >= self._known_until and not self._rises():
                return False
            else:
                self.time += _WAITS_S
        self._note()
        return True

    def _rises(self) -> bool:
        ramp = self._held_back.ramp if self._held_back is not None else None
        return ramp is not None and self.time < ramp.ends_s

    def _speeds_up(self, now: tuple[float, float]) -> None:
        step = self._plant.inertia_kgm2 * (self._omega[self.place + 1] - self._omega[self.place]) * 2
        middle = self._spare(self.time + step / (now[0] + now[1]) / 2) if self._held_back is not None else now
        self.time += step / (max(middle[0], now[0]) + max(middle[1], now[1]))
        self.place += 1

    def _runs_up(self, volts: Array, until_s: float) -> None:
        """As far as it goes at once, on volts that stay: to where torque lacks, or a moment."""
        here, plant = slice(self.place, None), self._plant
        spare = self.gap[self.turn, here] * volts[self.turn, here] ** 2 - self.needed[here]
        suffices = np.minimum(spare[:-1], spare[1:]) > self._least
        steps = suffices.size if suffices.all() else int(suffices.argmin())
        took = plant.inertia_kgm2 * np.diff(plant.omega[here])[:steps] * 2 / (spare[:steps] + spare[1 : steps + 1])
        times = np.cumsum((self.time, *took)).tolist()
        reached = times[1 : bisect_left(times, min(until_s, _LONGEST_S)) + 1]
        first, last = self.place + 1, self.place + len(reached)
        lines = self.amps[self.turn, first:last] * volts[self.turn, first:last]
        self.noted += zip(reached, range(first, last), lines.tolist(), repeat(self.turn), strict=False)
        self.place, self.time = last, reached[-1]


def again(plant: Plant, turns: tuple[Turn, ...], volts: Volts, held_back: HeldBack | None = None) -> Again:
    """Along the speed axis, with the volts of each moment: `Δt = J·Δω/(T·(U/U_N)² − T_L)`.

    Between two speeds the volts are those of the moment; an open transition is passed over. The machine waits where
    its torque does not suffice, and goes on when another connection or better volts come. Behind a soft starter
    amperes go with its share of the volts, torque with the square of it.
    """
    walk = _Walk(plant, turns, volts, held_back)
    while walk.on():
        pass
    times, places, lines, rows = (np.array(column) for column in zip(*walk.noted, strict=True))
    found = _told(plant, times, places, lines, walk.amps, walk.gap, walk.needed, volts, rows)
    return replace(found, plateau_a=float(found.line_a.max())) if held_back is not None else found


def _told(
    plant: Plant, times: Array, places: np.typing.NDArray[np.int_], lines: Array, amps: Array, gap: Array,
    needed: Array, volts: Volts, rows: np.typing.NDArray[np.int_],
) -> Again:  # fmt: skip
    speed, turn = plant.speed_pu[places], int(rows[-1])
    last = volts.at(float(times[-1]))
    settles = settled_place(gap[turn] * last**2 - needed)
    running = float(np.interp(settles, plant.axis, amps[turn])) * last
    ends = float(np.interp(settles, plant.axis, plant.speed_pu))
    there = (speed >= AT_SPEED * ends) & (rows == amps.shape[0] - 1)
    reached = bool(there.any()) and ends > 0.5
    angle = plant.z_motor + plant.z_run
    return Again(
        time_s=times, speed_pu=speed, line_a=lines, running_a=running, plateau_a=float(amps[0, 0]) * volts.at(0.0),
        running_factor=float(np.interp(settles, plant.axis, angle.real / np.abs(angle))),
        duration_s=float(times[int(np.argmax(there))]) if reached else None,
    )  # fmt: skip


def settled_place(spare: Array) -> float:
    """Where torque and load meet nearest to synchronous speed, as a fractional index; 0 where it never turns."""
    gains = np.flatnonzero(spare > 0)
    if not gains.size:
        return 0.0
    last = int(gains[-1])
    if last == spare.size - 1:
        return float(last)
    return last + float(spare[last] / (spare[last] - spare[last + 1]))


class Settled(NamedTuple):
    """Where it runs: amperes in the line, speed, power factor."""

    amps: float
    rpm: float
    factor: float


def running_at(plant: Plant, load: Asked, line_v: float) -> Settled:
    """Where it settles at these volts at the starter, carrying all of its load."""
    behaviour = behave(plant, [FULL])
    board = np.abs(behaviour.seen.volts(behaviour.line))[plant.at] * plant.board_v
    gap = ((behaviour.torque + plant.drag_nm) / board**2)[0] * line_v**2
    speeds = plant.omega * 30 / np.pi
    place = settled_place(gap - load.running_at(speeds) - plant.drag_nm)
    amps = float(np.interp(place, plant.axis, (np.abs(behaviour.line) * plant.amps_per_pu / board)[0])) * line_v
    angle = plant.z_motor + plant.z_run
    return Settled(amps, float(np.interp(place, plant.axis, speeds)),
                   float(np.interp(place, plant.axis, angle.real / np.abs(angle))))  # fmt: skip
