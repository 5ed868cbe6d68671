"""Harmonic currents of equipment on public supplies: IEC 61000-3-2 and 61000-3-12."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Final

import numpy as np

from vinegate.core.grade import Gate, at_most, from_answer, on_site, rule
from vinegate.core.numbers import write
from vinegate.core.tables import load

if TYPE_CHECKING:
    from collections.abc import Mapping

    from vinegate.core.drive.facts import Drive
    from vinegate.core.drive.line_side import LineSide

_SMALL_A: Final = 16.0
_LARGE_A: Final = 75.0
_LEAST_RATIO: Final = 33.0


def harmonic_limits(facts: Drive, side: LineSide) -> Mapping[int, float]:
    """Table 3's orders, where it holds: 16 to 75 A on a coupling strong enough."""
    if facts.coupling_fault_a is None or not _SMALL_A < side.rms_a <= _LARGE_A:
        return {}
    ratio = facts.coupling_fault_a / side.rms_a
    return (
        {int(order): limit for order, limit in _limits(ratio).items() if order.isdigit()}
        if ratio >= _LEAST_RATIO
        else {}
    )


def _limits(ratio: float) -> dict[str, float]:
    """Between the rows, straight."""
    rows = load("harmonic_current_iec").rows
    ratios = [float(row["rsce"]) for row in rows]
    return {
        name: float(np.interp(ratio, ratios, [float(row[name]) for row in rows]))
        for name in ("5", "7", "11", "13", "thc")
    }


def harmonics(facts: Drive, side: LineSide) -> list[Gate]:
    """By the input current: up to 16 A none for professional use, to 75 A by table 3, above it the network operator."""
    from vinegate.core.drive.line_side import coupling_open

    key, name, table = "drive.harmonic_current", "Harmonics on the public supply", load("harmonic_current_iec")
    if side.rms_a <= _SMALL_A:
        text = f"{write(side.rms_a, 3)} A: professional equipment above 1 kW has no limits there."
        return [rule(key, name, True, text, "IEC 61000-3-2:2018 7")]
    if side.rms_a > _LARGE_A:
        text = (
            f"{write(side.rms_a, 3)} A are more than {_LARGE_A:.0f} A a phase: the network operator says what "
            "is allowed."
        )
        return [from_answer(key, name, on_site(text, "IEC TR 61000-3-6 and the network operator"))]
    if facts.coupling_fault_a is None:
        return [coupling_open(key, name, table.cite)]
    ratio = facts.coupling_fault_a / side.rms_a
    if ratio < _LEAST_RATIO:
        text = (
            f"Fault current there is {write(ratio, 3)} times the drive's: below {_LEAST_RATIO:.0f} the table "
            "does not go."
        )
        return [rule(key, name, False, text, table.cite, remedy=side.remedy("a stronger supply"))]
    return [_by_table(key, name, side, ratio)]


def _by_table(key: str, name: str, side: LineSide, ratio: float) -> Gate:
    """What comes nearest to its limit, with the band of an estimate."""
    table, limits = load("harmonic_current_iec"), _limits(ratio)
    shares = {
        str(order): 100 * amps / side.fundamental_a for order, amps in zip(side.orders, side.harmonics_a, strict=True)
    }
    shares["thc"] = math.sqrt(sum(share**2 for share in shares.values()))
    worst = max(limits, key=lambda one: shares[one] / limits[one])
    what = "All of them" if worst == "thc" else f"The {worst}th"
    text = (
        f"{what}: {write(shares[worst], 3)} % of its current; {write(limits[worst], 3)} % are allowed at R_sce "
        f"{write(ratio, 3)}."
    )
    return at_most(key, name, shares[worst], limits[worst], sentence=text, source=table.cite, unit="%",
                   remedy=side.remedy(), rests=(side.taken(shares[worst]),),
                   room=lambda at: limits[worst] - at)  # fmt: skip
