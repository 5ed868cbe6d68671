"""Harmonic currents at the common coupling: IEEE 519."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Final

from vinegate.core.grade import Gate, at_most
from vinegate.core.numbers import write
from vinegate.core.tables import load

if TYPE_CHECKING:
    from collections.abc import Mapping

    from vinegate.core.drive.facts import Drive
    from vinegate.core.drive.line_side import LineSide

_COLUMNS: Final = ((11, "h11"), (17, "h17"), (23, "h23"), (35, "h35"), (math.inf, "over"))


def harmonic_limits(facts: Drive, side: LineSide) -> Mapping[int, float]:
    """The row's limits, of the demand there, as shares of this drive's fundamental."""
    fault, demand = facts.coupling_fault_a, facts.coupling_load_a
    if fault is None or demand is None:
        return {}
    row = _row(fault / demand)
    return {order: _limit(row, order) * demand / side.fundamental_a for order in side.orders}


def _row(ratio: float) -> dict[str, str]:
    rows = load("harmonic_current_519").rows
    return next((row for row in rows if ratio < float(row["ratio"])), rows[-1])


def _limit(row: dict[str, str], order: int) -> float:
    return float(row[next(column for most, column in _COLUMNS if order < most)])


def harmonics(facts: Drive, side: LineSide) -> list[Gate]:
    """Each order, and all together, in percent of the demand current at the coupling: table 2."""
    from vinegate.core.drive.line_side import coupling_open

    key, name, table = "drive.harmonic_current", "Harmonics at the common coupling", load("harmonic_current_519")
    fault, demand = facts.coupling_fault_a, facts.coupling_load_a
    if fault is None or demand is None:
        return [coupling_open(key, name, table.cite)]
    ratio = fault / demand
    row = _row(ratio)
    shares = {order: 100 * amps / demand for order, amps in zip(side.orders, side.together_a, strict=True)}
    total = math.sqrt(sum(share**2 for share in shares.values()))
    limits = {order: _limit(row, order) for order in shares}
    found = [_gate(f"{key}_total", f"{name}, in all", side, total, float(row["tdd"]), "All of them", ratio, table.cite)]
    worst = max(shares, key=lambda order: shares[order] / limits[order])
    found.append(_gate(key, name, side, shares[worst], limits[worst], f"The {worst}th", ratio, table.cite))
    return found


def _gate(
    key: str, name: str, side: LineSide, share: float, limit: float, what: str, ratio: float, cite: str
) -> Gate:  # fmt: skip
    text = (
        f"{what}: {write(share, 3)} % of the demand there; {limit:g} % are borne where I_sc/I_L is {write(ratio, 3)}."
    )
    return at_most(key, name, share, limit, sentence=text, source=cite, unit="%",
                   remedy=side.remedy(), rests=(side.taken(share),),
                   room=lambda at: limit - at)  # fmt: skip
