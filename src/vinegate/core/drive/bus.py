"""A drive's bus while its resistor works: its volts, and what of the shaft's power reaches it."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.arrays import Array
from vinegate.core.turning import Taken

EFFICIENCY: Final = 0.9  # through motor and drive to the bus; usual
GIVEN_BACK: Final = Taken(label="the estimate of what the stop gives back", value=1.0, low=0.9, high=1.1, sense=1)
"""More ohms, or watts, are borne where it is less than worked."""
USUAL_DOWN_S: Final = 5.0
LONGEST_S: Final = 120.0
"""Of a ramp that nobody set: it may be made so long, where the usual one is too short."""
_TIMES: Final = 1.6
_SHARED_V: Final = 720.0
_SHARED_LINES_V: Final = (380.0, 500.0)
USUAL: Final = "usual: drives for 380 to 500 V switch at 720 V and above; others at 1.6 times the line"


def ramp_down(set_s: float | None, within_s: float | None) -> Taken:
    """The ramp down: as set, else as asked, else the usual one, or as much longer as it takes."""
    given = set_s or within_s
    value = given or USUAL_DOWN_S
    return Taken(path="stop.drive_ramp", label="ramp down", unit="s", value=value, low=value, sense=1,
                 high=value if given else LONGEST_S, how="" if given else "usual", given=given is not None)  # fmt: skip


def switching_v(line_v: float) -> float:
    """Where the resistor usually switches in: the low end of 720 to 790 V for 380 to 500 V, else 1.6 times the line.

    >>> switching_v(400), switching_v(480), switching_v(690)
    (720.0, 720.0, 1104.0)
    """
    low, high = _SHARED_LINES_V
    return _SHARED_V if low <= line_v <= high else _TIMES * line_v


def bears_w(said_v: float | None, line_v: float, ohm: float) -> float:
    """What a resistor takes at most, W: `U_B²/R`, at the bus's volts as said or usual.

    >>> bears_w(800, 400, 64), bears_w(None, 400, 51.84)
    (10000.0, 10000.0)
    """
    return (said_v or switching_v(line_v)) ** 2 / ohm


def shortest_down_s(omega: Array, slows_nm: Array, inertia_kgm2: float, shaft_w: float) -> float:
    """The even ramp from the greatest of these speeds whose power at the shaft is just taken, s:
    `t = J·ω_0/min(P/ω + T_L)`; infinite where what drives brings more than that. Speeds above nought, rad/s.
    """
    slack = float((shaft_w / omega + slows_nm).min())
    return inertia_kgm2 * float(omega.max()) / slack if slack > 0 else math.inf
