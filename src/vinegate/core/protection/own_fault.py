"""What the motor itself feeds into a fault ahead of it, by what it is fed through."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.facts import Drive
from vinegate.core.machine.stage import MACHINE
from vinegate.core.start.stage import START
from vinegate.core.start.ways import way_of
from vinegate.core.work import Work
from vinegate.core.working import Figure

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
