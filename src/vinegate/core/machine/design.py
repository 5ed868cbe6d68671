"""What the standards' design letters promise: least torques."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import pairwise

from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.records import dataclass, replace
from vinegate.core.tables import Table, load

_USUAL_PU = 1.5
ABOVE_A_FLOOR = 1.6
"""So many times the standard's least a machine may well give: half as much again, and a little more."""
_MOST_POLES = 8
_ROUNDING = 1e-6
_MOST_MISMATCH = 0.06  # a kW rating counts as the tabulated hp it is nearest to


@dataclass(frozen=True, slots=True, kw_only=True)
class Floor:
    """A least torque, per unit of rated, and where it is written."""

    value_pu: float
    source: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Torques:
    """Least locked-rotor, pull-up and breakdown torque; None where the standard has none for this machine."""

    locked_rotor: Floor | None
    breakdown: Floor | None
    pull_up: Floor | None = None


def least_torques(*, power_w: float, poles: int, design: str) -> Torques:
    """By design letter: NEMA MG 1 12.38 and 12.39 for A to D, IEC 60034-12 for N and its kin."""
    if design in ("A", "B"):
        return _with_pull_up(_nema(load("torque_nema_ab"), power_w, poles), _pull_up_ab)
    if design == "C":
        return _with_pull_up(_nema(load("torque_nema_c"), power_w, poles), _pull_up_c)
    if design == "D":
        floor = Floor(value_pu=2.75, source="NEMA MG 1:2021 12.38.3")
        return Torques(locked_rotor=floor, breakdown=floor)
    if design.startswith("N"):
        return _iec(load("torque_iec_n"), power_w / 1000, poles)
    return Torques(locked_rotor=None, breakdown=None)


def _with_pull_up(found: Torques, pull_up: Callable[[float], Floor]) -> Torques:
    return found if found.locked_rotor is None else replace(found, pull_up=pull_up(found.locked_rotor.value_pu))


def _pull_up_ab(locked_rotor_pu: float) -> Floor:
    """NEMA MG 1 12.40.1: 90 % of locked-rotor torque up to 110 %; rated torque below 145 %; 70 % of it from there."""
    cite = "NEMA MG 1:2021 12.40.1"
    if locked_rotor_pu <= 1.10:
        return Floor(value_pu=0.9 * locked_rotor_pu, source=cite)
    return Floor(value_pu=1.0 if locked_rotor_pu < 1.45 else 0.7 * locked_rotor_pu, source=cite)


def _pull_up_c(locked_rotor_pu: float) -> Floor:
    """NEMA MG 1 12.40.2: 70 % of locked-rotor torque."""
    return Floor(value_pu=0.7 * locked_rotor_pu, source="NEMA MG 1:2021 12.40.2")


def usual_locked_rotor(*, power_w: float, poles: int) -> Floor:
    """What a cage machine of which nothing more is said gives at rest: 150 %, or what lies as far above the least of
    designs B and N as machines do. The larger it is the less.
    """
    least = [_of_size("torque_nema_ab", "lrt", power_w / WATT_PER_HP, poles, "hp") / 100,
             _of_size("torque_iec_n", "l", power_w / 1000, poles, "to_kw")]  # fmt: skip
    of_size = ABOVE_A_FLOOR * min(least)
    if of_size >= _USUAL_PU:
        return Floor(value_pu=_USUAL_PU, source="usual of cage machines; no design letter or table says more")
    papers = " and ".join(load(name).cite for name in ("torque_nema_ab", "torque_iec_n"))
    return Floor(value_pu=of_size, source=f"{ABOVE_A_FLOOR:g} times the least of its size by {papers}; assumed")


def _of_size(name: str, column: str, power: float, poles: int, by: str) -> float:
    """A table's value at a power, or at the next above it that has one; the last beyond its end."""
    table, column = load(name), f"{column}_{min(poles, _MOST_POLES)}"
    rows = [row for row in table.rows if row[column]]
    row = next((row for row in rows if float(row[by]) >= power * (1 - _ROUNDING)), rows[-1])
    return float(row[column])


def _nema(table: Table, power_w: float, poles: int) -> Torques:
    """Of a power between two rows the lesser of both."""
    rows = _about(table, power_w / WATT_PER_HP)
    if not rows or f"lrt_{poles}" not in table.columns:
        return Torques(locked_rotor=None, breakdown=None)
    return Torques(locked_rotor=_least(table, rows, f"lrt_{poles}"), breakdown=_least(table, rows, f"bdt_{poles}"))


def _about(table: Table, hp: float) -> list[dict[str, str]]:
    """The row of a power, or the two between which it lies; none beyond the ends."""
    row = min(table.rows, key=lambda candidate: abs(math.log(float(candidate["hp"]) / hp)))
    if abs(float(row["hp"]) / hp - 1) <= _MOST_MISMATCH:
        return [row]
    return [row for pair in pairwise(table.rows) if float(pair[0]["hp"]) < hp < float(pair[1]["hp"]) for row in pair]


def _least(table: Table, rows: Sequence[dict[str, str]], column: str) -> Floor | None:
    found = [_floor(table, row, column, 100) for row in rows]
    if any(one is None for one in found):
        return None
    least = min((one for one in found if one is not None), key=lambda one: one.value_pu)
    between = f": the lesser of {rows[0]['hp']} and {rows[-1]['hp']} hp" if len(rows) > 1 else ""
    return replace(least, source=least.source + between)


def _iec(table: Table, kw: float, poles: int) -> Torques:
    for row in table.rows:
        if float(row["above_kw"]) < kw <= float(row["to_kw"]) and f"l_{poles}" in table.columns:
            return Torques(
                locked_rotor=_floor(table, row, f"l_{poles}", 1),
                breakdown=_floor(table, row, f"b_{poles}", 1),
                pull_up=_floor(table, row, f"u_{poles}", 1),
            )
    return Torques(locked_rotor=None, breakdown=None)


def _floor(table: Table, row: dict[str, str], column: str, per: float) -> Floor | None:
    value = table.number(row, column)
    return Floor(value_pu=value / per, source=table.cite) if value is not None else None
