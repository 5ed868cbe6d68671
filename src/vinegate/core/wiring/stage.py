"""The run from the board to the motor on its sheet: its impedance."""

from __future__ import annotations

from vinegate.core.rules import RunImpedance
from vinegate.core.supply.stage import SUPPLY
from vinegate.core.wiring.run import run_of
from vinegate.core.work import Specification, Work


def _plan(work: Work) -> RunImpedance | None:
    hertz = work.found(SUPPLY).frequency_hz
    return work.rules.conductor(work.sheet("wiring"), run_of(work.circuit.wiring), hertz) if hertz else None


WIRING = Specification(key="wiring", plan=_plan, sheets={"wiring": "Wiring"})
