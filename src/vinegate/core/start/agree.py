"""What is asked of a start, against the way that is chosen and against itself."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, ordered, rule
from vinegate.core.numbers import counted
from vinegate.core.start.compare import meets_needs

_RARE: Final = 2.0
"""Starts an hour past which it is not switched twice a day at most."""


def asked_gates(circuit: Circuit, chosen: str) -> tuple[Gate, ...]:
    """A way that was chosen gives what is asked besides; what is switched rarely is not started often."""
    found, start = [], circuit.start
    if start.method is not None and (lacks := meets_needs(chosen, circuit)):
        remedy = "Start it by a way that gives it, or do not ask it."
        found.append(rule("start.wishes", "Gives what is asked", False, lacks, "asked here", remedy=remedy))
    if start.switching == "rare":
        text = f"Switched at most twice a day, with {counted(start.starts_per_hour or 0.0, 'start')} an hour."
        found += ordered(
            "start.rarely", "Switched as rarely as it starts", start.starts_per_hour, _RARE, unit="1/h",
            sentence=text, source="IEC 61000-3-3: more volts may change where it is rare",
            remedy="How it is switched, or the starts an hour.",
        )  # fmt: skip
    return tuple(found)
