"""What the motor itself feeds into a fault ahead of it, by what it is fed through."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.facts import Drive
from vinegate.core.machine.stage import MACHINE
from vinegate.core.protection.need import Need
from vinegate.core.sheet import Sheet
from vinegate.core.start.stage import START
from vinegate.core.start.ways import way_of
from vinegate.core.work import Work
from vinegate.core.working import Figure, Provenance

_BACK: Final = 3.0  # times rated amperes: IEC 60909-0:2016 6.11


def own_fault(work: Work, rated: Figure | None) -> Figure | None:
    """kA of the first cycle: as at rest where it hangs on the line; through a converter only where that feeds back.

    `rated` are the amperes of all its motors. A rectifier lets nothing out; one that feeds back counts as a machine of
    three times its rated current (IEC 60909-0:2016 6.11). Past a drive, on its by-pass, the motor is on the line.
    """
    if not way_of(work.found(START).chosen).converts:
        return work.found(MACHINE).fault
    if rated is None or not work.circuit.of("drive", Drive).feeds_back:
        return None
    return work.sheet("protection").work(
        "fault_back", "Drive's own share in a fault, first cycle", "I_Mb", _BACK * rated.value / 1000, "kA",
        formula=f"{_BACK:g}·{rated.symbol}/1000", inputs=(rated,),
        source="IEC 60909-0:2016 6.11: a converter that feeds back; others feed none",
    )  # fmt: skip


def fault_total(sheet: Sheet, need: Need) -> None:
    """The largest current at its board with what its own motor and those said feed into it, kA: a rating is held
    against it. No line where nothing is added to the board's own, which stands on the supply's sheet.
    """
    faults, own = need.faults, need.motor_fault
    if faults is None:
        return
    facts = [one.value for one in faults.rests]
    times: list[Figure] = []
    if faults.one_line != 1:
        times.append(sheet.given("one_line", "From one line, of that between lines", "k_l", faults.one_line, "",
                                 provenance=faults.largest.provenance, source="the supply's sheet"))  # fmt: skip
    if (more := faults.subtransient(*facts)) != 1:
        times.append(sheet.given("first_cycle", "In the first cycle, of that behind X′d", "k_s", more, "",
                                 provenance=Provenance.STATED, source="X′d over X″d"))  # fmt: skip
    added = [*faults.said, *([own] if own is not None else [])]
    if not times and not added:
        return
    whole = faults.most(*facts) + (own.value if own is not None else 0.0)
    first = "·".join([*(one.symbol for one in times), faults.largest.symbol])
    sheet.work("fault_total", "Fault current at its board, motors counted", "I_ft", whole, "kA",
               formula="+".join([first, *(one.symbol for one in added)]), inputs=(*times, faults.largest, *added),
               source="what a short-circuit rating is held against")  # fmt: skip
