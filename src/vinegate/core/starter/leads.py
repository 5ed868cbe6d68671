"""How a motor's leads are marked: by number (NEMA MG 1 part 2), or by winding and end (IEC 60034-8)."""

from __future__ import annotations

from typing import Final

from vinegate.core.starter.logic import Circuit

_ENDS: Final = {
    "T1": "U1", "T2": "V1", "T3": "W1", "T4": "U2", "T5": "V2", "T6": "W2", "T7": "U3", "T8": "V3", "T9": "W3",
    "M1": "K", "M2": "L", "M3": "M",
}  # fmt: skip


def marks_of(circuit: Circuit, *, nema: bool) -> dict[str, str]:
    """Marks of its leads by their nets, where they are not the nets' own: several speeds count from the lowest.

    >>> from vinegate.core.starter.circuits import BY_WAY
    >>> from vinegate.core.starter.wishes import Wishes
    >>> found = marks_of(BY_WAY["full-voltage"](Wishes(speeds="constant")), nema=False)
    >>> found["T1"], found["T6"], marks_of(BY_WAY["wye-delta"](Wishes()), nema=False)["T6"]
    ('1U', '2U', 'W2')
    """
    if nema:
        return {}
    if not circuit.windings:
        return _ENDS
    return {
        lead: f"{place}{phase}"
        for place, winding in enumerate(circuit.windings, start=1)
        for phase, lead in zip("UVW", winding.leads, strict=True)
    }


def delta_joins(*, nema: bool) -> tuple[str, str]:
    """Which ends a delta joins first, as it closes ahead of the star and behind it."""
    return ("T1-T6", "T1-T5") if nema else ("U1-W2", "U1-V2")
