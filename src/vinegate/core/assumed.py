"""Stated assumptions, for facts that are missing. Each is shown as assumed and can be replaced by the fact."""

from __future__ import annotations

from vinegate.core.sheet import Sheet
from vinegate.core.tables import load
from vinegate.core.working import Figure, Provenance


def assume(sheet: Sheet, preset: str, key: str, name: str, symbol: str) -> Figure:
    """Put a preset on the sheet as an assumption. Raises KeyError for a preset that is not in the table."""
    row = load("preset").find(key=preset)
    if row is None:
        raise KeyError(preset)
    unit = "" if row["unit"] == "1" else row["unit"]
    return sheet.given(key, name, symbol, float(row["value"]), unit, provenance=Provenance.ASSUMED, source=row["why"])


def preset(key: str) -> float:
    """The figure of a preset. Raises KeyError for one that is not in the table."""
    row = load("preset").find(key=key)
    if row is None:
        raise KeyError(key)
    return float(row["value"])


def band_of(preset: str) -> tuple[float, float]:
    """The band in which a preset's fact may lie. Raises KeyError for a preset that is not in the table."""
    row = load("preset").find(key=preset)
    if row is None:
        raise KeyError(preset)
    return float(row["low"]), float(row["high"])
