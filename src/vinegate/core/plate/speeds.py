"""Two speeds of one motor, as far as earlier stages ask: that there are two, and what the low one draws.

They are facts of the starter, which is planned later: its circuit is drawn by them.
"""

from __future__ import annotations

from typing import Protocol, cast

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


def low_current_a(circuit: Circuit) -> float | None:
    """Amperes of the low speed, where they are given; None of a motor of one speed."""
    return _of(circuit).low_current_a if two_speeds(circuit) else None
