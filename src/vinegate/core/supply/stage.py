"""The supply on its sheet: the source, the way to the circuit's board, and the fault currents there."""

from __future__ import annotations

from vinegate.core.facts import Job
from vinegate.core.records import dataclass
from vinegate.core.sheet import Sheet
from vinegate.core.supply.agree import agree_gates
from vinegate.core.supply.faults import Faults, faults_at
from vinegate.core.supply.source import Source, source_at_board
from vinegate.core.supply.tree import Feed, board_name, feed
from vinegate.core.work import Specification, Work


@dataclass(frozen=True, slots=True, kw_only=True)
class Supplied:
    """What feeds the circuit; None for what is not known."""

    source: Source | None
    feed: Feed | None
    faults: Faults | None
    frequency_hz: float | None
    lacks: tuple[str, ...] = ()
    """What the network at the circuit's board waits for."""


def _plan(work: Work) -> Supplied:
    sheet, job, circuit = work.sheet("supply"), work.job, work.circuit
    hertz = job.supply.frequency_hz or circuit.plate.frequency_hz
    if hertz is None:
        sheet.needs([("plate.frequency", "plate frequency")], "reactances")  # asked there anyway, and serves
    source = source_at_board(sheet, job)
    found = feed(sheet, job, circuit, work.rules, source, hertz)
    lacks = () if source is not None and found is not None and found.known else _lacks(sheet, job)
    sheet.gates += agree_gates(job, circuit.wiring.board)
    faults = faults_at(sheet, job, work.rules, source, found)
    return Supplied(source=source, feed=found, faults=faults, frequency_hz=hertz, lacks=lacks)


def _lacks(sheet: Sheet, job: Job) -> tuple[str, ...]:
    """Each fact of source and feeders that is not said; the supply itself where not even its volts are."""
    found = []
    for one in sheet.missing:
        board, _, _ = one.path.partition(".")
        of_feeder = board in job.boards and " of " not in one.label
        found.append(f"{one.label} of {board_name(job, board)}'s feeder" if of_feeder else one.label)
    return tuple(dict.fromkeys(found)) if found and job.supply.volts_v is not None else ("the supply",)


SUPPLY = Specification(key="supply", plan=_plan, sheets={"supply": "Supply"})
