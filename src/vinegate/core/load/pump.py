"""A centrifugal pump against its system: flow, speed and power, each a share of that at duty.

Pump `H = H_0·n² − a·Q²`, system `H = H_st + (1 − H_st)·Q²`, heads as shares of the duty's (Karassik, Pump Handbook,
4th ed., chapters 2.3 and 9.1). Shaft power by likeness: `P = n³·p(Q/n)`, p straight from the shut-off power to one.
"""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.arrays import Array

SHUT_OFF_POWER: Final = 0.45  # of duty, as in the table of shapes
USUAL_SHUT_OFF: Final = 1.25


def least_speed(static: float, shutoff: float = USUAL_SHUT_OFF) -> float:
    """Below this share of full speed nothing is lifted: `n = √(H_st/H_0)`.

    >>> round(least_speed(0.4), 3)
    0.566
    """
    return math.sqrt(static / shutoff)


def speed_for(flow: float, static: float, shutoff: float = USUAL_SHUT_OFF) -> float:
    """The speed at which this flow runs, both as shares.

    >>> round(speed_for(0.7, 0.4), 2), speed_for(1.0, 0.4)
    (0.81, 1.0)
    """
    return math.sqrt((static + (shutoff - static) * flow**2) / shutoff)


def flow_at(speed: Array, static: float, shutoff: float = USUAL_SHUT_OFF) -> Array:
    """The flow at these speeds; nought where nothing is lifted."""
    return np.asarray(np.sqrt(np.maximum(shutoff * speed**2 - static, 0.0) / (shutoff - static)))


def power_at(speed: Array, flow: Array) -> Array:
    """Shaft power at these speeds and flows.

    >>> round(float(power_at(np.array(0.81), np.array(0.7))), 2)
    0.49
    """
    like = np.divide(flow, speed, out=np.zeros_like(np.asarray(flow, dtype=float)), where=np.asarray(speed) > 0)
    return np.asarray(speed**3 * (SHUT_OFF_POWER + (1 - SHUT_OFF_POWER) * like))


def torque_at(speed: Array, static: float, shutoff: float = USUAL_SHUT_OFF) -> Array:
    """Torque at these speeds, a share of that at duty."""
    flow = flow_at(speed, static, shutoff)
    return np.asarray(SHUT_OFF_POWER * speed**2 + (1 - SHUT_OFF_POWER) * speed * flow)
