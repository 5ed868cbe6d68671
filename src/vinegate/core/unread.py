"""What was typed and cannot be read: nothing is planned with it, so that what it stands for is not known.

A plan made without such a fact is not one of the circuit that was meant: an empty field and an unreadable one differ.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from vinegate.core.facts import JOB_STAGES, Circuit, Job, kind_of, model_of
from vinegate.core.field import Fact, FieldError
from vinegate.core.grade import Gate, informs, unknown
from vinegate.core.place.facts import Place
from vinegate.core.records import replace
from vinegate.core.sheet import Stage
from vinegate.core.supply.tree import path_to
from vinegate.core.work import Specification, Work


def with_unread(
    closed: tuple[Stage, ...], errors: Iterable[FieldError], work: Work, stages: Iterable[Specification[Any]]
) -> tuple[Stage, ...]:
    """The sheets with a gate, not known, for each fact of this circuit that cannot be read. What it has nothing of, and
    what leaves its verdict alone, only informs.
    """
    owners = {part: stage for stage in stages for part in stage.facts}
    gates: dict[str, list[Gate]] = {}
    for error in errors:
        if not _is_asked(error, work.job, work.circuit):
            continue
        part = error.path.partition(".")[0]
        owner = owners.get(part)
        sheet = owner.key if owner is not None else sheet_of(part)
        gate = _gate(error, sheet, work.rules.words.dialect)
        gates.setdefault(sheet, []).append(gate if owner is None or _weighs(owner, work) else informs(gate))
    if not gates:
        return closed
    return tuple(
        replace(stage, gates=(*gates[stage.key], *stage.gates)) if stage.key in gates else stage for stage in closed
    )


def _weighs(owner: Specification[Any], work: Work) -> bool:
    """Whether the circuit has a station of it."""
    return not owner.informs and (owner.station is None or owner.station(work.found(owner)) is not None)


def _gate(error: FieldError, sheet: str, dialect: str) -> Gate:
    part, _, name = error.path.partition(".")
    fact = _fact_of(error)
    label = fact.label_for(dialect) if fact is not None else name or part
    label = label[:1].lower() + label[1:] if label[1:2].islower() else label
    return replace(
        unknown(f"{sheet}.unread.{part}.{name}", f"{label}, as it is typed", (f"{label} as it can be read",)),
        sentence=f"Cannot be read, and nothing is planned with it. {error.message}",
        remedy="",
    )


def sheet_of(part: str) -> str:
    """The sheet of a part that the job or every circuit has.

    >>> sheet_of("plate"), sheet_of("area_2"), sheet_of("limits"), sheet_of("nothing")
    ('plate', 'place', 'supply', 'supply')
    """
    if kind_of(part) == "area" or part == "hazard":
        return "place"
    return part if part not in JOB_STAGES and kind_of(part) is None and model_of(part) is not None else "supply"


def _fact_of(error: FieldError) -> Fact | None:
    part, _, name = error.path.partition(".")
    model = model_of(part)
    return model.fields().get(name) if model is not None else None


def _is_asked(error: FieldError, job: Job, circuit: Circuit) -> bool:
    """Whether the circuit's plan would look at it: not at another rule set's field or another family's, nor at boards,
    areas and sources that have nothing to do with it.
    """
    fact, part = _fact_of(error), error.path.partition(".")[0]
    if fact is not None and fact.rules not in ("", job.rules.value):
        return False
    if part == "plate" and fact is not None and fact.families and circuit.plate.family not in fact.families:
        return False
    kind = kind_of(part)
    if kind == "board":
        return part in path_to(job, circuit.wiring.board)
    if kind == "area":
        return any(getattr(circuit.place, name) == part for name in Place.model_fields)
    return part != "standby" or job.on_standby or circuit.start.on_standby == "yes"
