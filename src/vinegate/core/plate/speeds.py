"""Two speeds of one motor, as far as earlier stages ask: that there are two, and what the low one draws.

They are facts of the starter, which is planned later: its circuit is drawn by them.
"""

from __future__ import annotations

from typing import Final, Protocol, cast

from vinegate.core.facts import Circuit


class _Speeds(Protocol):
    @property
    def speeds(self) -> str | None: ...

    @property
    def low_current_a(self) -> float | None: ...


def _of(circuit: Circuit) -> _Speeds:
    return cast(_Speeds, circuit.part("starter"))


def two_speeds(circuit: Circuit) -> bool:
    """Whether the starter's sheet has two of them; the plate's figures are then the high one's."""
    return _of(circuit).speeds is not None


def leads_taken(circuit: Circuit) -> str:
    """Why its leads serve its two speeds alone, no star, delta or half; empty where they may.

    One winding with poles that double takes all six; two windings bring out three leads each, where it has six.
    """
    speeds = _of(circuit).speeds
    if speeds is None or (speeds == _TWO_WINDINGS and circuit.plate.leads != _THREE_EACH):
        return ""
    return "Its leads serve its two speeds."


_TWO_WINDINGS: Final = "separate"
_THREE_EACH: Final = 6


def low_current_a(circuit: Circuit) -> float | None:
    """Amperes of the low speed, where they are given; None of a motor of one speed."""
    return _of(circuit).low_current_a if two_speeds(circuit) else None
