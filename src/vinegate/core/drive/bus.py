"""A drive's bus while its resistor works: its volts, and what of the shaft's power reaches it."""

from __future__ import annotations

from typing import Final

EFFICIENCY: Final = 0.9  # through motor and drive to the bus; usual
_TIMES: Final = 1.6
_SHARED_V: Final = 720.0
_SHARED_LINES_V: Final = (380.0, 500.0)
USUAL: Final = "usual: drives for 380 to 500 V switch at 720 V and above; others at 1.6 times the line"


def switching_v(line_v: float) -> float:
    """Where the resistor usually switches in: the low end of 720 to 790 V for 380 to 500 V, else 1.6 times the line.

    >>> switching_v(400), switching_v(480), switching_v(690)
    (720.0, 720.0, 1104.0)
    """
    low, high = _SHARED_LINES_V
    return _SHARED_V if low <= line_v <= high else _TIMES * line_v
