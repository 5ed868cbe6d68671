"""Races between two contactors that must never meet: the corners of their travel times."""

from __future__ import annotations

from typing import Final

from vinegate.core.records import dataclass
from vinegate.core.starter.logic import Circuit

CLOSES_MS: Final = (10.0, 25.0)
"""Coil on to make contacts closed: usual of alternating-current contactors, to 40 ms of large ones."""
BREAKS_AHEAD_MS: Final = (3.0, 5.0)
ARC_MS: Final = (5.0, 15.0)
LEAST_MS: Final = 20.0
_EARLY: Final = 0.95  # of what a timer is set to
SOURCE: Final = "travel and arc times usual, its maker's count; a break contact closes 3 to 5 ms after the poles open"


@dataclass(frozen=True, slots=True, kw_only=True)
class Race:
    """Of one pair: the least time from the end of the first's arc to the second's closing, ms."""

    first: str
    second: str
    margin_ms: float


def races_of(circuit: Circuit) -> tuple[Race, ...]:
    """`min(break contact closes) + pause + min(closing) − max(arc)` for each pair, either way round."""
    found = []
    paused = {(first, second): pause_s for first, second, pause_s in circuit.pauses}
    for pair in circuit.apart:
        for first, second in (pair, pair[::-1]):
            if (second, first) in paused and first not in circuit.brakes:
                continue  # a timed transition goes one way; a brake's end lets a start that is held in at once
            pause = 1000 * _EARLY * paused.get((first, second), 0.0)
            margin = BREAKS_AHEAD_MS[0] + pause + CLOSES_MS[0] - ARC_MS[1]
            found.append(Race(first=first, second=second, margin_ms=margin))
    return tuple(found)
