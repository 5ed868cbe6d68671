"""From torque to time: quadrature on the speed axis, `t = ∫ J dω/(T − T_L)`, for all connections at once."""

from __future__ import annotations

from functools import cached_property

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass
from vinegate.core.start.connection import Behaviour
from vinegate.core.start.plant import Plant, read_at
from vinegate.core.start.trace import shown_of

AT_SPEED = 0.98  # of the operating speed: the rest is approached without end
_LEAST_TORQUE_PU = 1e-4


@dataclass(frozen=True, kw_only=True, eq=False)
class RunUp:
    """Running integrals from rest, arrays (connections, speeds); not meaningful past `stop`, where torque runs out.

    `stop` is the fractional index of the first speed at which the machine no longer gains; the last index when it
    gains all the way. `takes_s` is the time from each speed to the next. Heats, and what is drawn, are worked when they
    are first asked for: of settings that are only tried, few are.
    """

    plant: Plant
    behaviour: Behaviour
    spare_nm: Array
    takes_s: Array
    time_s: Array
    stop: Array

    @cached_property
    def heat_j(self) -> Array:
        """All that the motor turns into heat."""
        return self._integral(self.behaviour.heat_w)

    @cached_property
    def i2t_s(self) -> Array:
        """Of winding current over that at rest, squared."""
        locked = self.plant.locked_current_a / self.plant.amps_per_pu
        return self._integral((self.behaviour.winding / locked) ** 2)

    @cached_property
    def shown(self) -> Array:
        """What is drawn (`shown_of`)."""
        rotor_j = self._integral(self.behaviour.rotor_w)
        return shown_of(self.plant, self.behaviour, (self.time_s, rotor_j, self.heat_j, self.i2t_s))

    def _integral(self, rate: Array) -> Array:
        return _summed((rate[:, :-1] + rate[:, 1:]) / 2 * self.takes_s)

    def row(self, key: str) -> int:
        return self.behaviour.at(key)

    def speed_pu_at(self, place: float) -> float:
        """Share of synchronous speed at a fractional index."""
        return read_at(self.plant.speed_pu, place)

    def read(self, values: Array, row: int, place: float) -> float:
        """A running integral of one connection at a fractional index."""
        return read_at(values[row], place)

    def place_of_time(self, row: int, seconds: float) -> float:
        """Where this connection is after so many seconds from rest; its stop when it is there before."""
        last = int(self.stop[row])
        times = self.time_s[row, : last + 1]
        return float(min(np.interp(seconds, times, np.arange(last + 1)), self.stop[row]))


def run_up(plant: Plant, behaviour: Behaviour) -> RunUp:
    """Integrate. Between two speeds torque is taken as straight, so `∫dω/T` is the logarithmic mean's: exact for it."""
    spare = behaviour.torque - plant.load_nm
    floor = _LEAST_TORQUE_PU * plant.rated_torque_nm
    takes_s = plant.inertia_kgm2 * np.diff(plant.omega) * _mean_inverse(np.maximum(spare, floor))
    return RunUp(
        plant=plant,
        behaviour=behaviour,
        spare_nm=spare,
        takes_s=takes_s,
        time_s=_summed(takes_s),
        stop=_stops(spare, spare > floor),
    )


def _summed(steps: Array) -> Array:
    """Running sums of each row, from nought."""
    found = np.zeros((steps.shape[0], steps.shape[1] + 1))
    steps.cumsum(axis=1, out=found[:, 1:])
    return found


def _mean_inverse(torque: Array) -> Array:
    """`ln(b/a)/(b − a)`, the mean of 1/T over a straight line from a to b."""
    a, b = torque[:, :-1], torque[:, 1:]
    apart = b - a
    near = np.abs(apart) < 1e-6 * (a + b)
    found: Array = np.log(b / a) / np.where(near, 1.0, apart)
    return np.asarray(np.where(near, 2 / (a + b), found), dtype=float)


def _stops(spare: Array, gains: np.typing.NDArray[np.bool_]) -> Array:
    """First fractional index where spare torque is gone, by the straight line to its zero."""
    end = spare.shape[1] - 1
    first = np.where(gains.all(axis=1), end, np.argmin(gains, axis=1))
    found: Array = first.astype(float)
    for row, place in enumerate(first):
        if 0 < place < end or (place == end and not gains[row, -1]):
            before, after = spare[row, place - 1], spare[row, place]
            found[row] = place - 1 + before / (before - after) if before > after else place
    return found


def stop_after(runs: RunUp, row: int, place: float) -> float:
    """Where this connection stops gaining when it takes over at `place`; `place` itself when it does not gain there."""
    start = int(np.ceil(place))
    spare = runs.spare_nm[row, start:]
    lost = np.flatnonzero(spare <= _LEAST_TORQUE_PU * runs.plant.rated_torque_nm)
    if not lost.size:
        return float(runs.plant.points - 1)
    index = start + int(lost[0])
    if index == start:
        return max(place, float(index - 1)) if index > 0 else place
    before, after = runs.spare_nm[row, index - 1], runs.spare_nm[row, index]
    return float(index - 1 + before / (before - after))


def at_speed_place(runs: RunUp, stop: float) -> float:
    """Index of the speed that counts as reached: 98 % of the one where the machine settles."""
    target = AT_SPEED * runs.speed_pu_at(stop)
    return float(np.interp(target, runs.plant.speed_pu, runs.plant.axis))
