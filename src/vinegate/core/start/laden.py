"""How a start's heat grows with what its load asks, without running it again."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Final

import numpy as np

from vinegate.core.load.stage import Asked as Load
from vinegate.core.machine.curves import Model, run_at
from vinegate.core.start.plant import Plant
from vinegate.core.start.trace import Course

_NEARLY: Final = 0.95  # of the speed it ends at: what comes after is its settling, which another load only shifts
_PROBE: Final = 1.05
_MOST_LOAD: Final = 1.2  # of rated; what is more fails by itself


def heat_times(plant: Plant, course: Course, load: Load, power: float, breakaway: float) -> float:
    """Heat of the winding with another shaft power and breakaway, as their fields take them, over that as simulated.

    Each step of the course takes so many times as long as the torque left over is smaller: `J·Δω/Δt` less what the
    load asks more. Infinite where nothing is left. Source: the equation of motion, `J·dω/dt = T − T_L`.
    """
    if power == load.power.value and breakaway == load.breakaway.value:
        return 1.0
    time, speed, heat = course.all("time_s"), course.all("speed_pu"), np.diff(course.running("i2t_s"))
    took, gained = np.diff(time), np.diff(speed)
    middle = (speed[1:] + speed[:-1]) / 2
    rises = (gained > 0) & (took > 0) & (middle < _NEARLY * course.final_speed_pu)
    if not rises.any() or heat.sum() <= 0:
        return 1.0
    rate = plant.inertia_kgm2 * plant.synchronous_rad_s
    left = rate * gained[rises] / took[rises]
    along = load.along(middle[rises] * plant.synchronous_rad_s * 30 / math.pi)
    times = power / load.power.value if load.power.value else 1.0
    less = left - (along(breakaway / 100) * times - along(load.breakaway_pu))
    if float(less.min()) <= 0:
        return math.inf
    more = heat[rises] * (left / less - 1)
    return 1.0 + float(more.sum()) / float(heat.sum())


def load_share(plant: Plant, course: Course, load: Load) -> float:
    """What the load takes of the torque that is left to gain speed, in the mean over a start's heat."""
    return (1 - 1 / heat_times(plant, course, load, _PROBE * load.power.value, load.breakaway.value)) / (_PROBE - 1)


@dataclass(frozen=True, slots=True)
class Losing:
    """What a machine loses while it carries its load: its circuit, the slip at rated load and the share it carries."""

    model: Model
    volts_v: float
    slip: float
    share: float

    def watts(self, times: float) -> float:
        """With so many times that load; slip goes with torque."""
        run = run_at(self.model, np.array([max(self.slip * min(self.share * times, _MOST_LOAD), 1e-4)]),
                     volts_v=self.volts_v)  # fmt: skip
        return float(run.input_w[0] - run.shaft_w[0])
