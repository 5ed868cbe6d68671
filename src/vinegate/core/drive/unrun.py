"""A run to the motor of which too little is said: the drive's sheet is judged without it, and behind one that takes all
that running may lose.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from vinegate.core.drive.duty import Row
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, Verdict, unknown
from vinegate.core.plate.rated import USUAL_POWER_FACTOR
from vinegate.core.records import dataclass, replace
from vinegate.core.wiring.run import run_lacks, run_of


@dataclass(frozen=True, slots=True)
class Judged:
    """Gates of the drive's sheet, and its operating points with theirs."""

    gates: tuple[Gate, ...]
    rows: tuple[Row, ...]


def most_ohm(need: Need) -> float:
    """Resistance a phase, Ω, of the longest run that keeps what is recommended while running (`drop_pct`).

    `u = √3·I·R·pf / U`, its reactance left out: so the most that its ohms may be. It carries all motors.
    """
    drop_v = need.rules.practice.drop_pct / 100 * need.plate_v
    factor = need.circuit.plate.power_factor or USUAL_POWER_FACTOR
    return drop_v / (math.sqrt(3) * need.motors * need.plate_a * factor)


def behind_a_run(sheet: Judged, need: Need, behind: Callable[[float], Judged]) -> Judged:
    """The sheet's gates and rows; a gate that passes only without a run is not known. `behind` gives them behind so
    many ohms.
    """
    if need.lead_ohm is not None:
        return sheet
    there = behind(most_ohm(need))
    lacking = run_lacks(need.rules, run_of(need.circuit.wiring), need.base_hz)
    rows = zip(sheet.rows, there.rows, strict=True)
    return Judged(
        _settled(sheet.gates, there.gates, lacking),
        tuple(replace(row, gates=_settled(row.gates, other.gates, lacking)) for row, other in rows),
    )


def _settled(gates: Sequence[Gate], behind: Sequence[Gate], lacking: tuple[str, ...]) -> tuple[Gate, ...]:
    there = {gate.key: gate.verdict for gate in behind}
    return tuple(unknown(gate.key, gate.name, lacking) if _turns(gate, there) else gate for gate in gates)


def _turns(gate: Gate, there: dict[str, Verdict]) -> bool:
    return gate.verdict is Verdict.PASSES and there.get(gate.key, gate.verdict) is not Verdict.PASSES
