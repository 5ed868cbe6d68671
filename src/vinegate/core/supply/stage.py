"""The supply on its sheet: the source, the way to the circuit's board, and the fault currents there."""

from __future__ import annotations

from vinegate.core.records import dataclass
from vinegate.core.supply.agree import agree_gates
from vinegate.core.supply.faults import Faults, faults_at
from vinegate.core.supply.source import Source, source_at_board
from vinegate.core.supply.tree import Feed, feed
from vinegate.core.work import Specification, Work


@dataclass(frozen=True, slots=True, kw_only=True)
class Supplied:
    """What feeds the circuit; None for what is not known."""

    source: Source | None
    feed: Feed | None
    faults: Faults | None
    frequency_hz: float | None


def _plan(work: Work) -> Supplied:
    sheet, job, circuit = work.sheet("supply"), work.job, work.circuit
    hertz = job.supply.frequency_hz or circuit.plate.frequency_hz
    if hertz is None:
        sheet.needs([("plate.frequency", "plate frequency")], "reactances")  # asked there anyway, and serves
    source = source_at_board(sheet, job)
    found = feed(sheet, job, circuit, work.rules, source, hertz)
    sheet.gates += agree_gates(job, circuit.wiring.board)
    faults = faults_at(sheet, job, work.rules, source, found)
    return Supplied(source=source, feed=found, faults=faults, frequency_hz=hertz)


SUPPLY = Specification(key="supply", plan=_plan, sheets={"supply": "Supply"})
