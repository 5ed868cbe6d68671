"""What was typed and cannot be read: nothing is planned with it, so that what it stands for is not known.

A plan made without such a fact is not one of the circuit that was meant: an empty field and an unreadable one differ.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from vinegate.core.facts import JOB_STAGES, Circuit, Job, kind_of, model_of
from vinegate.core.field import Fact, FieldError
from vinegate.core.grade import Gate, informs, unknown
from vinegate.core.located import area_name
from vinegate.core.place.facts import Place
from vinegate.core.records import replace
from vinegate.core.rules.sets import rule_set
from vinegate.core.sheet import AS_TYPED, Stage
from vinegate.core.supply.tree import board_name, path_to
from vinegate.core.work import Specification, Work


def with_unread(
    closed: tuple[Stage, ...], errors: Iterable[FieldError], work: Work, stages: Iterable[Specification[Any]]
) -> tuple[Stage, ...]:
    """The sheets with a gate, not known, for each fact of this circuit that cannot be read. What it has nothing of, and
    what leaves its verdict alone, only informs.
    """
    gates: dict[str, list[Gate]] = {}
    for error in errors:
        sheet, weighs = where_asked(error.path, work, stages)
        if sheet:
            gate = unread_gate(error, sheet, work.job)
            gates.setdefault(sheet, []).append(gate if weighs else informs(gate))
    return ahead(closed, gates)


def ahead(closed: tuple[Stage, ...], gates: Mapping[str, list[Gate]]) -> tuple[Stage, ...]:
    """The sheets with these gates, by their keys, ahead of their own."""
    return tuple(
        replace(stage, gates=(*gates[stage.key], *stage.gates)) if stage.key in gates else stage for stage in closed
    )


def where_asked(path: str, work: Work, stages: Iterable[Specification[Any]]) -> tuple[str, bool]:
    """The sheet of a fact, empty where the circuit has nothing to do with it; whether what stands there weighs."""
    if not _is_asked(path, work.job, work.circuit):
        return "", False
    part = path.partition(".")[0]
    owner = next((stage for stage in stages if part in stage.facts), None)
    if owner is None:
        return sheet_of(part), True
    found = work.found(owner)
    has_it = owner.station is None or owner.station(found) is not None
    return owner.key, has_it and not owner.informs and not owner.beside(found)


def unread_gate(error: FieldError, sheet: str, job: Job) -> Gate:
    """Not known: what was typed there, and why it cannot be read."""
    part, _, name = error.path.partition(".")
    label = label_at(error.path, job)
    return replace(
        unknown(
            f"{sheet}.unread.{part}.{name}",
            f"{label[:1].upper()}{label[1:]}{AS_TYPED}",
            (f"{label} as it can be read",),
        ),
        sentence=f"Cannot be read, and nothing is planned with it. {error.message}",
        remedy="",
    )


def spoken_label(fact: Fact, dialect: str) -> str:
    """A field's name within a sentence."""
    label = fact.label_for(dialect)
    return label[:1].lower() + label[1:] if label[1:2].islower() else label


def label_at(path: str, job: Job) -> str:
    """The same of the fact at a path, with its board or area where it has one; what is no field goes by its name."""
    part, _, name = path.partition(".")
    fact = fact_of(path)
    label = spoken_label(fact, rule_set(job.rules).words.dialect) if fact is not None else name or part
    kind = kind_of(part)
    if kind is None:
        return label
    return f"{label} of {board_name(job, part) if kind == 'board' else area_name(job, part)}"


def sheet_of(part: str) -> str:
    """The sheet of a part that the job or every circuit has.

    >>> sheet_of("plate"), sheet_of("area_2"), sheet_of("limits"), sheet_of("nothing")
    ('plate', 'place', 'supply', 'supply')
    """
    if kind_of(part) == "area" or part == "hazard":
        return "place"
    return part if part not in JOB_STAGES and kind_of(part) is None and model_of(part) is not None else "supply"


def fact_of(path: str) -> Fact | None:
    """The field at a path; None where there is none."""
    part, _, name = path.partition(".")
    model = model_of(part)
    return model.fields().get(name) if model is not None else None


def _is_asked(path: str, job: Job, circuit: Circuit) -> bool:
    """Whether the circuit's plan would look at it: not at another rule set's field or another family's, nor at boards,
    areas and sources that have nothing to do with it.
    """
    fact, part = fact_of(path), path.partition(".")[0]
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
