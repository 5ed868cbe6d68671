"""The drive on paper: operating points, the year, what to set with a blank beside it, and what is wired."""

from __future__ import annotations

from typing import TYPE_CHECKING

from vinegate.core.numbers import write
from vinegate.core.paper import PaperTable

if TYPE_CHECKING:
    from vinegate.core.drive.stage import Driven, Found


def paper_of(found: Found) -> tuple[PaperTable, ...]:
    """Nothing where no drive is worked."""
    driven = found.driven
    if driven is None:
        return ()
    tables = [_points(driven), *_year(driven), _parameters(driven), _signals(driven)]
    return tuple(tables)


def _points(driven: Driven) -> PaperTable:
    head = (
        driven.plain.unit,
        "Hz",
        "N·m asked",
        "kW",
        "A",
        "V",
        "N·m for ever",
        "N·m short",
        "Hours",
        "Verdict",
        "Why",
    )
    rows = tuple(
        (
            write(row.point.rpm), write(row.hz, 3), write(row.point.nm, 3), write(row.kw, 3), write(row.amps, 3),
            write(row.volts, 3), write(row.continuous_nm, 3), write(row.short_nm, 3),
            write(row.point.hours) if row.point.hours is not None else "–", row.verdict.value, row.why,
        )
        for row in driven.rows
    )  # fmt: skip
    return PaperTable(
        stage="drive",
        title="Drive: operating points",
        note="one motor, fastest first",
        head=head,
        rows=rows,
        numbers=tuple(range(1, 9)),
    )


def _year(driven: Driven) -> tuple[PaperTable, ...]:
    energy = driven.energy
    if energy is None:
        return ()
    head = ("Flow set by", *(f"kW at {100 * flow:.0f} %" for flow in energy.flow), "MWh a year")
    rows = tuple(
        (
            f"{way.name}{' (now)' if way.key == energy.now else ''}",
            *(write(kw, 3) if kw is not None else "–" for kw in way.kw),
            write(way.year_kwh / 1000, 3) if way.year_kwh is not None else "–",
        )
        for way in energy.ways
    )
    return (PaperTable(stage="drive", title="Drive: energy at the same flow", note="within 15 % of a saving, estimated",
                       head=head, rows=rows, numbers=tuple(range(1, len(head)))),)  # fmt: skip


def _parameters(driven: Driven) -> PaperTable:
    rows = tuple(
        (f"{'! ' if one.safety else ''}{one.name}", f"{one.value} {one.unit}".strip(), one.why, one.source)
        for one in driven.parameters
    )
    return PaperTable(stage="drive", title="Drive: what to set", note="generic names; ! touches safety", rows=rows,
                      head=("Parameter", "Value", "Why", "Source"), blank="As set")  # fmt: skip


def _signals(driven: Driven) -> PaperTable:
    rows = tuple((one.name, one.kind, one.behaves) for one in driven.signals)
    return PaperTable(stage="drive", title="Drive: what is wired to it", head=("Signal", "Kind", "Behaves"), rows=rows)
