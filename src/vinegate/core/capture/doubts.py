"""Whether channels fit each other: which way volts and currents turn, and whether the currents lag as a motor's do."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.capture.process import Course

_NEEDED: Final = ("u12", "u23", "u31", "i1", "i2", "i3")
_THIRD: Final = np.exp(2j * np.pi / 3)
_LAGS: Final = (-10.0, 95.0)
"""Degrees between which a motor's current stands behind its volts, idle to full load and at rest, as read."""
_MENDS: Final = (("with all three turned round", 180.0), ("each read with the next phase's volts", -120.0),
                 ("each read with the last phase's volts", 120.0))  # fmt: skip
_PLAIN: Final = 0.5
"""Of the whole: a system turns one way where the other is less than so much of it."""


def doubts_of(course: Course) -> tuple[str, ...]:
    """What does not fit, in words; nothing without three volts and three currents as waves.

    Symmetrical components (Fortescue 1918): three phasors turn 1-2-3 where `x_1 + a·x_2 + a²·x_3` outweighs
    `x_1 + a²·x_2 + a·x_3`.
    """
    if not set(_NEEDED) <= course.phasor.keys():
        return ()
    amps = course.mean_a()
    at = int(np.argmax(amps > 0.5 * float(np.max(amps)))) + 3  # the window is full of current then
    if at >= amps.size:
        return ()
    u12, u23, u31, *currents = (course.phasor[role][at] for role in _NEEDED)
    volts = ((u12 - u31) / 3, (u23 - u12) / 3, (u31 - u23) / 3)
    turn_u, turn_i = _turn(*volts), _turn(*currents)
    if turn_u and turn_i and turn_u != turn_i:
        return (
            "Volts and currents follow each other in opposite order: two channels of one of them are changed over.",
        )
    lag = math.degrees(np.angle(sum(u * np.conj(i) for u, i in zip(volts, currents, strict=True))))
    if turn_i == 0 or _LAGS[0] <= lag <= _LAGS[1]:
        return ()
    text = f"The currents stand {lag:.0f}° behind their volts, where a motor's stand 0 to 90°"
    turned = ((what, (lag + by + 180) % 360 - 180) for what, by in _MENDS)
    found = [f"at {then:.0f}° {what}" for what, then in turned if _LAGS[0] <= then <= _LAGS[1]]
    return (f"{text}: {', '.join(found) or 'some are turned round, or belong to other phases'}.",)


def _turn(one: complex, two: complex, three: complex) -> int:
    """1 where they follow each other 1-2-3, −1 the other way, 0 where that is not plain."""
    with_, against = abs(one + _THIRD * two + _THIRD**2 * three), abs(one + _THIRD**2 * two + _THIRD * three)
    if min(with_, against) > _PLAIN * max(with_, against):
        return 0
    return 1 if with_ > against else -1
