"""What fails by a value that its writer assumes and not at an end of that, or by a kind that nobody has said: to check,
wherever it is shown. An assumption fails nothing alone, as it passes nothing (`by_assumption`, `doubt`).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from vinegate.core.doubt import Doubt
from vinegate.core.grade import Gate, Verdict, resting, worst_of
from vinegate.core.place.devices import DeviceRow
from vinegate.core.place.stage import Placed
from vinegate.core.protection.stage import Protected
from vinegate.core.records import dataclass, replace
from vinegate.core.sheet import Stage
from vinegate.core.start.compare import Comparison, MethodRow
from vinegate.core.stop.stage import Stopping
from vinegate.core.turning import Turns


@dataclass(frozen=True, slots=True)
class Lift:
    """Why a gate that fails is to check: the fact behind it, and where that would not fail, in words."""

    turns: Turns
    text: str


Lifts = Mapping[str, Lift]
"""By the keys of the gates."""


def lifted_stages(stages: tuple[Stage, ...], lifts: Lifts) -> tuple[Stage, ...]:
    """The sheets, with what is lifted to check."""
    if not lifts:
        return stages
    return tuple(replace(one, gates=tuple(_lifted(gate, lifts) for gate in one.gates)) for one in stages)


def _lifted(gate: Gate, lifts: Lifts) -> Gate:
    lift = lifts.get(gate.key)
    return replace(resting(gate, lift.text), turns=lift.turns) if lift is not None and gate.fails else gate


@dataclass(frozen=True, slots=True)
class Standing:
    """How gates stand on their sheets, by their keys, and which no longer fail: what is shown elsewhere follows. `dips`
    are the least and the deepest of the start in use by what is assumed, over that as it is planned.
    """

    gates: Mapping[str, Gate]
    lifted: frozenset[str]
    dips: tuple[float, float] = (1.0, 1.0)

    def gate(self, gate: Gate) -> Gate:
        """As it stands on its sheet, where it was lifted there."""
        return self.gates[gate.key] if gate.key in self.lifted and gate.fails else gate

    def row(self, verdict: Verdict, stage: str) -> Verdict:
        """The verdict of the row in use, where it failed by what is lifted: no gate of its stage fails any more, on
        whatever sheet.
        """
        gates = [gate for key, gate in self.gates.items() if gate.weighs and key.startswith(f"{stage}.")]
        there = [gate.verdict for gate in gates if gate.key in self.lifted]
        if verdict is not Verdict.FAILS or not there or any(gate.fails for gate in gates):
            return verdict
        return worst_of(there)


def standing(
    stages: Iterable[Stage], lifts: Lifts, doubt: Doubt | None, dips: tuple[float, float] = (1.0, 1.0)
) -> Standing:
    """Of closed sheets. A doubt that lifts has lifted all that it is cast on."""
    gates = {gate.key: gate for stage in stages for gate in stage.gates}
    doubted = [gate.key for gate in gates.values() if gate.doubted] if doubt is not None and doubt.lifts else []
    return Standing(gates, frozenset((*lifts, *doubted)), dips)


def lifted_comparison(found: Comparison | None, now: Standing) -> Comparison | None:
    """The way in use as its gates now are, with its dips: the others are judged as they were."""
    if found is None:
        return None
    if now.dips != (1.0, 1.0):
        found = replace(found, dips=(found.dips[0] * now.dips[0], found.dips[1] * now.dips[1]))
    if not now.lifted:
        return found

    def lifted(row: MethodRow) -> MethodRow:
        if not row.chosen:
            return row
        return replace(row, gates=tuple(map(now.gate, row.gates)), verdict=now.row(row.verdict, "start"))

    return replace(found, rows=tuple(map(lifted, found.rows)))


def lifted_protected(found: Protected, now: Standing) -> Protected:
    if not now.lifted:
        return found
    return replace(found, devices=tuple(replace(one, gates=tuple(map(now.gate, one.gates))) for one in found.devices))


def lifted_stopping(found: Stopping | None, now: Standing) -> Stopping | None:
    """The way to stop in use as its gates now are."""
    if found is None or not now.lifted:
        return found
    rows = (replace(row, verdict=now.row(row.verdict, "stop")) if row.chosen else row for row in found.rows)
    return replace(found, rows=tuple(rows))


def lifted_placed(found: Placed, now: Standing) -> Placed:
    """A device that fails in its area by what is assumed, with each of its checks that does."""

    def lifted(row: DeviceRow) -> DeviceRow:
        key = f"place.{row.key}"
        if key not in now.lifted or row.verdict is not Verdict.FAILS:
            return row
        there = now.gates[key].verdict
        checks = (replace(one, verdict=there) if one.verdict is Verdict.FAILS else one for one in row.checks)
        return replace(row, verdict=there, checks=tuple(checks))

    return replace(found, devices=tuple(map(lifted, found.devices))) if now.lifted else found
