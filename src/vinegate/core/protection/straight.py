"""What a device is marked for, and the system's earthing: whether one pole may have to open the volts between lines."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from vinegate.core.grade import Gate, at_most, confirm
from vinegate.core.numbers import write
from vinegate.core.protection.need import Need
from vinegate.core.system_volts import SystemVolts

_KEY: Final = "protection.straight"
_HIGHEST_V: Final = 240.0
"""Three poles are made for as much straight: slash ratings of three-phase devices begin above."""


def straight_rated(need: Need, breaker: bool, source: str) -> Iterator[Gate]:
    """A slash rating, 480Y/277 V, is for solidly grounded systems that have those volts; asked where this one may not.

    Source: NFPA 70:2023 240.85 and 430.83(E).
    """
    volts = need.job.volts_at(need.circuit.wiring.board)
    if not isinstance(volts, SystemVolts):
        return
    what = "breaker and controller" if breaker else "controller"
    verb = "are" if breaker else "is"
    if volts.kind == "high-leg":
        text = (
            f"Toward the high leg its {what} {verb} marked {write(volts)} V, not {write(volts / 2)}/{write(volts)} V."
        )
    elif not volts.kind and volts > _HIGHEST_V:
        slash = f"{write(volts)}Y/{write(volts / 3**0.5, 3)} V"
        unless = "" if volts.neutral_v is None else f"Unless it is a solidly grounded {slash} system, "
        text = f"{unless}{what if unless else what.capitalize()} {verb} marked {write(volts)} V, not {slash}."
    else:
        return
    yield confirm(_KEY, "Volts marked on the device", False, text, source)


def fit_for_it(need: Need, breaker: bool, source: str) -> Iterator[Gate]:
    """A breaker on an IT system: of two faults one pole may have to open the line volts.

    Source: IEC 60947-2:2016 annex H.
    """
    if breaker and need.job.supply.earthing == "it":
        text = "Tried for IT systems: with two faults to earth one pole opens at the volts between lines."
        yield confirm(_KEY, "Breaker for an IT system", False, text, source)


MARKED: Final = ("protection.drive_device", "Device no larger than marked")


def no_larger(need: Need, rating: float, source: str) -> Iterator[Gate]:
    """The short-circuit device against the largest that is marked on drive, starter or overload; none where none is.

    Source: NFPA 70:2023 430.52(C)(2), 430.130(A)(2); IEC 60947-4-1:2018 8.2.5.1.
    """
    marked = need.circuit.protection.drive_device_a
    if marked is not None:
        yield at_most(
            *MARKED, rating, marked, sentence=f"{rating:g} A, marked for {write(marked)} A at most.", source=source,
            unit="A", remedy=f"At most {write(marked)} A, of the kind marked.",
        )  # fmt: skip
