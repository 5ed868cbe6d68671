"""The table's full-load current beside the plate's (NFPA 70 tables 430.247, 430.248 and 430.250)."""

from __future__ import annotations

from bisect import bisect
from typing import Final

from vinegate.core.plate.facts import Plate
from vinegate.core.plate.kind import Family
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.sheet import Sheet
from vinegate.core.tables import Table, load
from vinegate.core.working import Figure, Provenance

_NEAR_HP: Final = 0.03
_LOW_SPEED_RPM: Final = 1200.0
_HIGH_TORQUE: Final = ("C", "D")
_TABLES: Final = {
    Family.CAGE: "full_load_current_3ph",
    Family.WOUND: "full_load_current_3ph",
    Family.SINGLE: "full_load_current_1ph",
    Family.DC: "full_load_current_dc",
}
# Column to the plate volts it stands for.
_AC_COLUMNS: Final = {
    115: (110, 120),
    200: (198, 203),
    208: (204, 212),
    230: (220, 240),
    460: (440, 480),
    575: (550, 600),
}
_ON_208: Final = (198.0, 212.0)
_DC_COLUMNS: Final = {90: (85, 95), 120: (115, 125), 180: (175, 185), 240: (230, 250), 500: (490, 510), 550: (540, 560)}


def column_volts(plate_v: float, supply_v: float | None) -> float:
    """Volts whose column counts: a 230 V machine on a 200 or 208 V system goes by the system's.

    >>> column_volts(230, 208), column_volts(460, 480), column_volts(208, 208)
    (208, 460, 208)
    """
    low, high = _ON_208
    on_208 = supply_v is not None and low <= supply_v <= high and _AC_COLUMNS[230][0] <= plate_v <= _AC_COLUMNS[230][1]
    return supply_v if on_208 and supply_v is not None else plate_v


def plate_sizes(plate: Plate, *, two_speeds: bool) -> str:
    """Why the plate's amperes size it where they are more than the table's; empty for all other motors.

    430.6(A)(1): the tables hold for usual speeds and torques; those built for low speed or high torque draw more, and
    of several speeds each has its own.
    """
    if two_speeds:
        return "built for two speeds"
    if plate.speed_rpm is not None and plate.speed_rpm < _LOW_SPEED_RPM:
        return f"built for less than {_LOW_SPEED_RPM:g} rpm"
    letter = (plate.design_letter or "").upper()
    return f"built for high torque, design {letter}" if letter in _HIGH_TORQUE else ""


def table_current(sheet: Sheet, plate: Plate, rated: Figure | None, supply_v: float | None) -> Figure | None:
    """Full-load current tabulated for this kind, power and voltage, on the sheet; None where the table does not reach.

    A 230 V machine on a 208 V system has the 208 V column's; a power between two rows has what lies between theirs.
    """
    if plate.power_w is None or rated is None:
        return None
    table, hp = load(_TABLES[plate.family]), plate.power_w / WATT_PER_HP
    volts = column_volts(rated.value, supply_v)
    columns = _DC_COLUMNS if plate.family is Family.DC else _AC_COLUMNS
    column = next((str(name) for name, (low, high) in columns.items() if low <= volts <= high), None)
    if column is None or column not in table.columns:
        return None
    found = _at(table, column, hp)
    if found is None:
        return None
    value, between = found
    note = f"{between}For conductors, short-circuit protection and disconnect (430.6(A)(1)); overloads use the plate's."
    name = "Full-load current, table"
    return sheet.given(
        "table_current", name, "I_tab", value, "A", provenance=Provenance.TABLE, source=table.cite, note=note
    )


def _at(table: Table, column: str, hp: float) -> tuple[float, str] | None:
    """Amperes of a row of this power, or between two rows, and then which; None outside the table.

    430.6(A)(1) interpolates between rows for a machine that is marked in amperes alone; one of 4 hp is no other.
    """
    rows = [(float(row["hp"]), amps) for row in table.rows if (amps := table.number(row, column)) is not None]
    power, amps = min(rows, key=lambda row: abs(row[0] - hp))
    if abs(power / hp - 1) <= _NEAR_HP:
        return amps, ""
    place = bisect(rows, (hp, 0.0))
    if place in (0, len(rows)):
        return None
    (low, least), (high, most) = rows[place - 1 : place + 1]
    return least + (most - least) * (hp - low) / (
        high - low
    ), f"Between {least:g} A of {low:g} and {most:g} A of {high:g} hp. "
