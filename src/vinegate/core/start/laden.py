"""How a start's heat grows with what its load asks, without running it again."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cached_property
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.load.stage import Asked as Load
from vinegate.core.machine.curves import Model, run_at
from vinegate.core.machine.tabulated import Tabulated, lost
from vinegate.core.records import dataclass
from vinegate.core.start.plant import Plant
from vinegate.core.start.trace import Course

_NEARLY: Final = 0.95  # of the speed it ends at: what comes after is its settling, which another load only shifts
_PROBE: Final = 1.05
_MOST_LOAD: Final = 1.2  # of rated; what is more fails by itself


class Laden:
    """Heat of a start's winding with another load, over that as simulated.

    Each step of the course takes so many times as long as the torque left over is smaller: `J·Δω/Δt` less what the
    load asks more. Source: the equation of motion, `J·dω/dt = T − T_L`.
    """

    def __init__(self, plant: Plant, course: Course, load: Load) -> None:
        self._plant, self._course, self._load = plant, course, load
        self._found: dict[tuple[float, float], float] = {}

    def times(self, power: float, breakaway: float) -> float:
        """With another shaft power and breakaway, as their fields take them. Infinite where no torque is left.

        Several gates ask it of the same corners.
        """
        found = self._found.get((power, breakaway))
        if found is None:
            found = self._found[power, breakaway] = self._times(power, breakaway)
        return found

    def _times(self, power: float, breakaway: float) -> float:
        load = self._load
        if power == load.power.value and breakaway == load.breakaway.value:
            return 1.0
        left, share, taken, along = self._steps
        if not left.size:
            return 1.0
        times = power / load.power.value if load.power.value else 1.0
        less = left - (along(breakaway / 100) * times - taken)
        return 1.0 + float(share @ (left / less - 1)) if float(less.min()) > 0 else math.inf

    def stronger(self, times: float) -> float:
        """Heat with so many times the machine's torque and its current as it is: each step is as much quicker, or
        slower. Without end where it no longer gains.
        """
        left, share, taken, _ = self._steps
        if not left.size:
            return 1.0
        there = left + (times - 1) * (left + taken)
        return 1.0 + float(share @ (left / there - 1)) if float(there.min()) > 0 else math.inf

    def ramped(self, heavier: float, power: float, breakaway: float) -> float:
        """Of a ramp that lasts as long whatever it turns: heat with the square of its torque, `J·dω/dt + T_L`."""
        load = self._load
        left, share, taken, along = self._steps
        if not left.size or (heavier == 1 and power == load.power.value and breakaway == load.breakaway.value):
            return 1.0
        times = power / load.power.value if load.power.value else 1.0
        torque = heavier * left + along(breakaway / 100) * times
        return 1.0 + float(share @ ((torque / (left + taken)) ** 2 - 1))

    @cached_property
    def _steps(self) -> tuple[Array, Array, Array, Callable[[float], Array]]:
        """Of each step that gains speed: torque left, its share of the heat, the load's torque; and that for a
        breakaway.
        """
        plant, course, load = self._plant, self._course, self._load
        time, speed, heat = course.all("time_s"), course.all("speed_pu"), course.running("i2t_s")
        took, gained, heat = time[1:] - time[:-1], speed[1:] - speed[:-1], heat[1:] - heat[:-1]
        middle = (speed[1:] + speed[:-1]) / 2
        rises = (gained > 0) & (took > 0) & (middle < _NEARLY * course.final_speed_pu) & (float(heat.sum()) > 0)
        along = load.along(middle[rises] * plant.synchronous_rad_s * 30 / math.pi)
        left = plant.inertia_kgm2 * plant.synchronous_rad_s * gained[rises] / took[rises]
        return left, heat[rises] / max(float(heat.sum()), 1e-300), along(load.breakaway_pu), along

    @property
    def share(self) -> float:
        """What the load takes of the torque that is left to gain speed, in the mean over the heat."""
        load = self._load
        return (1 - 1 / self.times(_PROBE * load.power.value, load.breakaway.value)) / (_PROBE - 1)


@dataclass(frozen=True, slots=True)
class Losing:
    """What a machine loses while it carries its load: its circuit, the slip at rated load and the share it carries.

    Of a curve that is read off, amperes and power factor are too coarse for the difference of two powers: it loses by
    its rated loss.
    """

    model: Model
    volts_v: float
    slip: float
    share: float

    def watts(self, times: float = 1.0) -> float:
        """With so many times that load; slip goes with torque."""
        load = min(self.share * times, _MOST_LOAD)
        if isinstance(self.model, Tabulated):
            return float(lost(self.model.rated_loss_w, np.array(load)))
        slip = max(self.slip * load, 1e-4)
        run = run_at(self.model, np.array([slip]), volts_v=self.volts_v)
        return float(run.input_w[0] - run.shaft_w[0])

    def over(self, most: float) -> Callable[[float], float]:
        """The same up to `most` times that load, by the square through both ends: current is load and field."""
        here = self.watts()
        if most == 1.0:
            return lambda _: here
        grows = (self.watts(most) - here) / (most**2 - 1)
        return lambda times: here + grows * (times**2 - 1)
