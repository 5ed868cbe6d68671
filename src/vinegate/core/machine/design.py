"""What the standards' design letters promise: least torques, nominal efficiencies."""

from __future__ import annotations

import math
from dataclasses import dataclass

from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.tables import Table, load

_MOST_MISMATCH = 0.06  # a kW rating counts as the tabulated hp it is nearest to


@dataclass(frozen=True, slots=True, kw_only=True)
class Floor:
    """A least torque, per unit of rated, and where it is written."""

    value_pu: float
    source: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Torques:
    """Least locked-rotor and breakdown torque; None where the standard has none for this machine."""

    locked_rotor: Floor | None
    breakdown: Floor | None


def least_torques(*, power_w: float, poles: int, design: str) -> Torques:
    """By design letter: NEMA MG 1 12.38 and 12.39 for A to D, IEC 60034-12 for N and its kin."""
    if design in ("A", "B"):
        return _nema(load("torque_nema_ab"), power_w, poles)
    if design == "C":
        return _nema(load("torque_nema_c"), power_w, poles)
    if design == "D":
        cite = "NEMA MG 1:2021 12.38.3"
        return Torques(locked_rotor=Floor(value_pu=2.75, source=cite), breakdown=Floor(value_pu=2.75, source=cite))
    if design.startswith("N"):
        return _iec(load("torque_iec_n"), power_w / 1000, poles)
    return Torques(locked_rotor=None, breakdown=None)


def _nema(table: Table, power_w: float, poles: int) -> Torques:
    hp = power_w / WATT_PER_HP
    row = min(table.rows, key=lambda candidate: abs(math.log(float(candidate["hp"]) / hp)))
    if abs(float(row["hp"]) / hp - 1) > _MOST_MISMATCH or f"lrt_{poles}" not in table.columns:
        return Torques(locked_rotor=None, breakdown=None)
    return Torques(
        locked_rotor=_floor(table, row, f"lrt_{poles}", 100), breakdown=_floor(table, row, f"bdt_{poles}", 100)
    )


def _iec(table: Table, kw: float, poles: int) -> Torques:
    for row in table.rows:
        if float(row["above_kw"]) < kw <= float(row["to_kw"]) and f"l_{poles}" in table.columns:
            return Torques(
                locked_rotor=_floor(table, row, f"l_{poles}", 1), breakdown=_floor(table, row, f"b_{poles}", 1)
            )
    return Torques(locked_rotor=None, breakdown=None)


def _floor(table: Table, row: dict[str, str], column: str, per: float) -> Floor | None:
    value = table.number(row, column)
    return Floor(value_pu=value / per, source=table.cite) if value is not None else None


def nominal_efficiency(*, power_w: float, poles: int, ie_class: str = "IE1") -> float | None:
    """Nominal efficiency, per unit, of an IE class at 50 Hz; None outside 0.75 to 200 kW or the tabulated poles.

    >>> round(nominal_efficiency(power_w=45000, poles=4, ie_class="IE3"), 3)
    0.942
    """
    table = load("efficiency_iec")
    row = table.find(**{"class": ie_class, "poles": str(poles)})
    kw = power_w / 1000
    if row is None or not 0.75 <= kw <= 200:
        return None
    lg = math.log10(kw)
    a, b, c, d = (float(row[key]) for key in "abcd")
    return (a * lg**3 + b * lg**2 + c * lg + d) / 100
