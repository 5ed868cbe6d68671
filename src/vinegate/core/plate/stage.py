"""The plate on its sheet: the rated point, what the rule set tabulates for it, and whether it adds up."""

from __future__ import annotations

from vinegate.core.fed import volts_of
from vinegate.core.plate.gates import plate_gates
from vinegate.core.plate.rated import Rated, rate
from vinegate.core.records import dataclass
from vinegate.core.work import Specification, Work
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Plated:
    """The rated point; `table` is the current tabulated for it, where the rule set sizes by one."""

    rated: Rated
    table: Figure | None

    @property
    def sizing(self) -> Figure | None:
        """The current that sizes conductors and devices."""
        return self.table or self.rated.drawn


def _plan(work: Work) -> Plated:
    sheet, job, circuit, rules = work.sheet("plate"), work.job, work.circuit, work.rules
    rated = rate(sheet, circuit, job, rules)
    table = rules.table_current(sheet, circuit.plate, rated.volts, volts_of(job, circuit))
    plate_gates(sheet, circuit, job, rated, rules, table)
    return Plated(rated=rated, table=table)


PLATE = Specification(key="plate", plan=_plan, sheets={"plate": "Motor"})
