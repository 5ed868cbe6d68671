"""The circuit with the new motor in it: what stops passing that passes now."""

from __future__ import annotations

from typing import Any, Final

from vinegate.core.drive.stage import DRIVE
from vinegate.core.grade import Gate, Verdict
from vinegate.core.load.stage import LOAD
from vinegate.core.machine.describe import Machine
from vinegate.core.machine.facts import MachineFacts
from vinegate.core.machine.stage import MACHINE
from vinegate.core.place.stage import PLACE
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.stage import PLATE
from vinegate.core.protection.stage import PROTECTION
from vinegate.core.records import dataclass
from vinegate.core.replacement.facts import NewMachine, Replacement
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.left import supposed
from vinegate.core.replacement.pair import Pair
from vinegate.core.rules.dialect import say
from vinegate.core.start.stage import START, way_in_use
from vinegate.core.starter.stage import STARTER
from vinegate.core.stop.stage import STOP
from vinegate.core.supply.stage import SUPPLY
from vinegate.core.wiring.stage import WIRING
from vinegate.core.work import Specification, Work

_AHEAD: Final[tuple[Specification[Any], ...]] = (
    PLATE, SUPPLY, WIRING, MACHINE, LOAD, DRIVE, START, PROTECTION, STOP, PLACE, STARTER,
)  # fmt: skip
_OWN: Final = (PLATE.key, MACHINE.key)
"""What these ask is of the plate alone, or of plate and supply: rows of their own."""


@dataclass(frozen=True, slots=True, kw_only=True)
class There:
    """The new machine on this circuit, and what is judged of the circuit with it."""

    machine: Machine | None
    gates: tuple[Gate, ...]


def there(work: Work, plate: Plate) -> There:
    """The plate taken over, as it holds on this supply, what is known of the new machine with it, and the overload's
    setting left to be chosen; it starts the way that the old one does. What is entered elsewhere of the old motor goes.
    """
    known = work.circuit.of("new_machine", NewMachine)
    elsewhere = supposed(work.circuit.of("replacement", Replacement))
    return work.supposing(
        lambda other: There(machine=other.found(MACHINE).machine, gates=_gates(other)),
        plate={name: getattr(plate, name) for name in Plate.model_fields},
        machine={name: getattr(known, name) for name in MachineFacts.model_fields},
        protection={"overload_a": None, **work.found(PROTECTION).kind_fitted(work.rules.device_fact)},
        **elsewhere | {"start": elsewhere["start"] | {"method": way_in_use(work)}},
    )


def _gates(work: Work) -> tuple[Gate, ...]:
    for stage in _AHEAD:
        work.found(stage)
    sheets = [key for stage in _AHEAD if stage.key not in _OWN for key in stage.sheets]
    return tuple(gate for key in sheets for sheet in work.written(key) for gate in sheet.gates if gate.weighs)


def circuit_row(work: Work, pair: Pair, found: There) -> Row | None:
    """The worst of what is worse than now. None where the new plate does not add up: nothing follows from it."""
    if any(gate.verdict is Verdict.FAILS for gate in pair.new.odd):
        return None
    before = {gate.key: gate.verdict.rank for gate in _gates(work)}
    worse = [gate for gate in found.gates if gate.verdict.rank > before.get(gate.key, Verdict.PASSES.rank)]
    row = Said("circuit", "The circuit with it", "", "")
    if not worse:
        return row.put(fits=Fits.SAME, text="Nothing that is asked of the circuit turns worse.")
    return _worst(row, sorted(worse, key=lambda gate: -gate.verdict.rank), pair.rules.name)


def _worst(row: Said, worse: list[Gate], rules: str) -> Row:
    first = worse[0]
    more = f" {len(worse) - 1} more: see below." if len(worse) > 1 else ""
    text, task = f"{say(first.name, rules)}: {say(first.sentence, rules)}{more}", say(first.remedy, rules)
    if first.verdict is Verdict.FAILS:
        return row.put(fits=Fits.NOT, text=text, source=first.source, task=task)
    if first.verdict is Verdict.UNKNOWN:
        return row.put(fits=Fits.UNKNOWN, text="", needs=tuple(say(one, rules) for one in first.needs))
    if first.turns is not None:
        label, its = say(first.turns.label, rules), first.turns.path.startswith(("machine.", "plate."))
        return row.put(fits=Fits.UNKNOWN, text=text, needs=(f"the new motor's {label}" if its else label,))
    return row.put(fits=Fits.WITH, text=text, source=first.source, task=task or "See below.")
