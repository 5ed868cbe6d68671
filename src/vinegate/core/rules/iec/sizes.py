"""Sizes in square millimetres: areas, the next one up, and the protective conductor's by table 54.2."""

from __future__ import annotations

from vinegate.core.tables import load


def area_mm2(size: str) -> float:
    """
    >>> area_mm2("35 mm²")
    35.0
    """
    return float(size.split(maxsplit=1)[0])


def protective_size(size: str) -> float:
    """IEC 60364-5-54 table 54.2, mm², of the same metal: S to 16, 16 to 35, S/2 above.

    >>> [protective_size(f"{s} mm²") for s in (6, 25, 35, 70)]
    [6.0, 16.0, 16.0, 35.0]
    """
    area = area_mm2(size)
    return area if area <= 16 else 16.0 if area <= 35 else area / 2


def next_size(area: float) -> str | None:
    """The least tabulated size of at least that area."""
    sizes = dict.fromkeys(row["size"] for row in load("ampacity_iec").rows)
    return next((size for size in sizes if area_mm2(size) >= area - 1e-9), None)
