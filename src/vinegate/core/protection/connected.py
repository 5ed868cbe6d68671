"""The rated point as the motor is joined: lower, on a drive whose volts end above the plate's frequency."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.facts import Drive
from vinegate.core.drive.need import lower_connection
from vinegate.core.fed import volts_of
from vinegate.core.plate.rated import Rated
from vinegate.core.plate.stage import PLATE
from vinegate.core.plate.volts import Connection
from vinegate.core.records import dataclass, replace
from vinegate.core.sheet import Sheet
from vinegate.core.start.stage import START
from vinegate.core.start.ways import way_of
from vinegate.core.work import Work
from vinegate.core.working import Figure

_SAME: Final = "the same power from fewer volts"


@dataclass(frozen=True, slots=True, kw_only=True)
class Connected:
    """The plate's amperes, the table's, and those that size the circuit, in the connection in use."""

    rated: Rated
    table: Figure | None
    sizing: Figure | None


def connected(work: Work) -> Connected:
    """A step: overload, conductors, starter and record go by what flows in the connection in use."""
    return work.step("protection: connection", lambda: _connected(work))


def joined_lower(work: Work) -> Connection | None:
    """The connection for fewer volts that its drive takes it in; None on the line, or in the line's own."""
    rated, line_v = work.found(PLATE).rated, volts_of(work.job, work.circuit)
    base_hz = work.circuit.of("drive", Drive).base_hz
    if base_hz is None or line_v is None or not way_of(work.found(START).chosen).by_frequency:
        return None
    return lower_connection(work.circuit, rated, line_v, base_hz)


def _connected(work: Work) -> Connected:
    plated, lower = work.found(PLATE), joined_lower(work)
    rated, table, sizing = plated.rated, plated.table, plated.sizing
    if lower is None or rated.volts is None or rated.current is None:
        return Connected(rated=rated, table=table, sizing=sizing)
    sheet = work.sheet("protection")
    volts = sheet.given("lower_volts", "Plate volts, lower connection", "U_Nl", lower.high_v, "V",
                        provenance=work.circuit.source_of("plate.volts"))  # fmt: skip
    amps = _amperes(work, sheet, rated, lower, volts)
    if sizing is rated.drawn:
        sizing = amps
    if table is not None:
        there = sheet.work("lower_sizing", "The table's amperes, lower connection", "I_tl",
                           table.value * rated.volts.value / volts.value, "A",
                           formula=f"{table.symbol}·{rated.volts.symbol}/U_Nl",
                           inputs=(table, rated.volts, volts), source=_SAME)  # fmt: skip
        table, sizing = there, there if sizing is table else sizing
    return Connected(rated=replace(rated, usable=amps), table=table, sizing=sizing)


def _amperes(work: Work, sheet: Sheet, rated: Rated, lower: Connection, volts: Figure) -> Figure:
    """As stamped for that connection; else by the volts."""
    assert rated.volts
    assert rated.current
    plate = work.circuit.plate
    key, name, symbol = "lower_current", "Full-load amperes, lower connection", "I_Nl"
    stamped, designation = plate.full_load_current, plate.volts
    if stamped is not None and designation is not None:
        count = len(designation.connections)
        value = stamped.at(designation.connections.index(lower), lower, lower.high_v, count)
        if value is not None and len(stamped.per_connection_a) == count:
            by = work.circuit.source_of("plate.full_load_current")
            return sheet.given(key, name, symbol, value, "A", provenance=by)
    return sheet.work(key, name, symbol, rated.current.value * rated.volts.value / volts.value, "A",
                      formula=f"{rated.current.symbol}·{rated.volts.symbol}/U_Nl",
                      inputs=(rated.current, rated.volts, volts), source=_SAME)  # fmt: skip
