"""The plate on its sheet: the rated point, what the rule set tabulates for it, and whether it adds up."""

from __future__ import annotations

from vinegate.core.fed import volts_of
from vinegate.core.plate.gates import plate_gates
from vinegate.core.plate.rated import Rated, rate
from vinegate.core.plate.speeds import low_current_a, two_speeds
from vinegate.core.records import dataclass
from vinegate.core.work import Specification, Work
from vinegate.core.working import Figure, Provenance


@dataclass(frozen=True, slots=True, kw_only=True)
class Plated:
    """The rated point; `table` is the current tabulated for it, where the rule set sizes by one.

    `sizing` is the current that sizes conductors and devices.
    """

    rated: Rated
    table: Figure | None
    sizing: Figure | None


def _plan(work: Work) -> Plated:
    sheet, job, circuit, rules = work.sheet("plate"), work.job, work.circuit, work.rules
    rated = rate(sheet, circuit, job, rules)
    table = rules.table_current(sheet, circuit.plate, rated.volts, volts_of(job, circuit))
    plate_gates(sheet, circuit, job, rated, rules, table)
    return Plated(rated=rated, table=table, sizing=_sizing(work, rated, table))


def _sizing(work: Work, rated: Rated, table: Figure | None) -> Figure | None:
    """The table's; the plate's where there is none, or where it draws more for how it is built; the low of two speeds
    where that draws most.
    """
    sheet, circuit, drawn = work.sheet("plate"), work.circuit, rated.drawn
    found = table or drawn
    built = work.rules.plate_sizes(circuit.plate, two_speeds=two_speeds(circuit))
    if found is not None and drawn is not None and built and drawn.value > found.value:
        sheet.notes.append(
            f"It is {built}: its plate's amperes, more than the table's, size its circuit (430.6(A)(1))."
        )
        found = drawn
    low = low_current_a(circuit)
    if found is None or low is None or low <= found.value:
        return found
    sheet.notes.append("Its low speed draws most, and sizes its circuit.")
    return sheet.given("low_current", "Amperes at low speed", "I_l", low, "A", provenance=Provenance.STAMPED)


PLATE = Specification(key="plate", plan=_plan, sheets={"plate": "Motor"})
