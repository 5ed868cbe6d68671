"""Across the line past its drive: whether a by-pass is drawn, why it may not close, and what is supposed of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final, Protocol, cast

from vinegate.core.drive.count import motors_on
from vinegate.core.facts import Circuit
from vinegate.core.plate.gates import off_the_line
from vinegate.core.protection.connected import joined_lower
from vinegate.core.start.stage import START
from vinegate.core.start.ways import USUAL, way_of
from vinegate.core.work import Work

ACROSS: Final[Mapping[str, object]] = {"method": USUAL.key, "speed_control": None, "soft_stop": None}
"""The start's facts where the motor hangs on the line itself."""


class _Drawn(Protocol):
    @property
    def bypass(self) -> str | None: ...


def by_pass(circuit: Circuit) -> bool:
    """Whether one is drawn. It is a fact of the starter, which is planned later."""
    return cast(_Drawn, circuit.part("starter")).bypass == "yes"


def barred(work: Work) -> tuple[str, str] | None:
    """Why the motor may not hang on the line, and by what; None where it may, as far as is known."""
    study = work.found(START)
    line = study.comparison.row(USUAL.key) if study.comparison else None
    if line is not None and line.outcome is None:
        return line.why, ""
    if off_line := off_the_line(work.circuit, work.job, work.rules):
        return f"Past the drive {off_line}.", "NEMA MG 1:2021 12.44; IEC 60034-1:2022 7.3"
    if lower := joined_lower(work):
        text = f"Its windings are joined for {lower.high_v:g} V: across the line they saturate."
        return text, "volts over hertz; IEC TS 60034-25"
    return None


def starts_across(work: Work) -> bool:
    """Whether what is sized here starts it across the line too, past its drive."""
    study = work.found(START)
    if not way_of(study.chosen).by_frequency or not by_pass(work.circuit):
        return False
    return study.comparison is not None and motors_on(work.circuit) == 1 and barred(work) is None
