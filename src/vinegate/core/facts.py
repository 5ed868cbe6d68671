"""A job and a circuit as facts: what the open file, the draft and the pages share."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import field
from enum import StrEnum
from functools import lru_cache
from typing import Any, Final, TypeVar, cast

from vinegate.core.field import Facts, FieldError, read_facts
from vinegate.core.load.facts import Load
from vinegate.core.machine.facts import MachineFacts
from vinegate.core.notebook import Notebook, noted
from vinegate.core.numbers import QuantityError
from vinegate.core.place.facts import Area, Hazard, Place
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.kind import Family
from vinegate.core.protection.facts import Protection
from vinegate.core.records import dataclass, replace
from vinegate.core.roughly import exactly, may_be_rough
from vinegate.core.start.facts import Start
from vinegate.core.stop.facts import Stop
from vinegate.core.supply.facts import Board, Limits, MainBoard, Standby, Supply
from vinegate.core.typeset import typed
from vinegate.core.wiring.facts import Wiring
from vinegate.core.wording import spoken
from vinegate.core.working import Provenance

JOB_STAGES: Mapping[str, type[Facts]] = {
    "supply": Supply,
    "standby": Standby,
    "main_board": MainBoard,
    "limits": Limits,
    "hazard": Hazard,
}
"""Parts of which a job has one."""
LISTED: Mapping[str, type[Facts]] = {"board": Board, "area": Area}
"""Parts of which it has any number, numbered for ever: board_1, board_2, …"""
CIRCUIT_STAGES: Mapping[str, type[Facts]] = {
    "plate": Plate,
    "machine": MachineFacts,
    "wiring": Wiring,
    "load": Load,
    "start": Start,
    "protection": Protection,
    "stop": Stop,
    "place": Place,
}


F = TypeVar("F", bound=Facts)


class RuleSetName(StrEnum):
    NEC = "nec"
    IEC = "iec"


# What an entered fact may say of itself; the plate's are stamped unless they say otherwise.
ENTERED = (Provenance.MEASURED, Provenance.STAMPED, Provenance.CATALOGUE, Provenance.STATED, Provenance.ASSUMED)


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """What circuits share. `boards` and `areas` are the further ones, by their keys, in their order."""

    rules: RuleSetName
    supply: Supply = field(default_factory=Supply)
    standby: Standby = field(default_factory=Standby)
    main_board: MainBoard = field(default_factory=MainBoard)
    limits: Limits = field(default_factory=Limits)
    hazard: Hazard = field(default_factory=Hazard)
    boards: Mapping[str, Board] = field(default_factory=dict)
    areas: Mapping[str, Area] = field(default_factory=dict)
    sources: Mapping[str, Provenance] = field(default_factory=dict)
    notebook: Notebook | None = field(default=None, compare=False, repr=False)
    """Where what is read of it is noted, while a circuit is planned."""

    @property
    def on_standby(self) -> bool:
        """Whether it is the standby generator that is planned on."""
        return self.supply.in_use == "standby"

    def board(self, key: str | None) -> Board | None:
        """A further board by its key ("board_2"), empty where nothing is said of it; None for the main board."""
        if key is None or key == "main":
            return None
        return self.boards.get(key) or Board()

    def area(self, key: str) -> Area:
        """An area by its key ("area_2"), empty where nothing is said of it."""
        return self.areas.get(key) or Area()

    def part(self, key: str) -> Facts:
        """A part by its key. Raises KeyError."""
        kind = kind_of(key)
        if kind is not None:
            listed: Mapping[str, Facts] = self.boards if kind == "board" else self.areas
            return listed.get(key) or LISTED[kind]()
        if key not in JOB_STAGES:
            raise KeyError(key)
        found: Facts = getattr(self, key)
        return found

    def with_parts(self, parts: Mapping[str, Facts]) -> Job:
        """The same with other parts, boards and areas too."""
        own: dict[str, Any] = {key: part for key, part in parts.items() if kind_of(key) is None}
        for kind, name in (("board", "boards"), ("area", "areas")):
            if of_kind := {key: part for key, part in parts.items() if kind_of(key) == kind}:
                own[name] = {**getattr(self, name), **of_kind}
        return replace(self, **own)

    @noted
    def volts_at(self, key: str | None) -> float | None:
        """Line volts of a board: its own, or those of the board that feeds it."""
        seen: set[str] = set()
        while key is not None and key != "main" and key not in seen:
            board = self.board(key)
            assert board is not None
            if board.volts_v is not None:
                return board.volts_v
            seen.add(key)
            key = board.fed_from
        return self.supply.volts_v


@dataclass(frozen=True, slots=True, kw_only=True)
class Circuit:
    """One machine."""

    plate: Plate = field(default_factory=Plate)
    machine: MachineFacts = field(default_factory=MachineFacts)
    wiring: Wiring = field(default_factory=Wiring)
    load: Load = field(default_factory=Load)
    start: Start = field(default_factory=Start)
    protection: Protection = field(default_factory=Protection)
    stop: Stop = field(default_factory=Stop)
    place: Place = field(default_factory=Place)
    further: Mapping[str, Facts] = field(default_factory=dict)
    """Parts that later stages declare, by their keys."""
    sources: Mapping[str, Provenance] = field(default_factory=dict)
    notebook: Notebook | None = field(default=None, compare=False, repr=False)
    """Where what is read of it is noted, while it is planned."""

    @property
    @noted
    def from_drive(self) -> bool:
        """Whether a drive that turns a field feeds it, as far as is said: by its way to start, or as its speed is to be
        set. Direct current has a drive of its own.
        """
        by_speed = self.start.method is None and self.plate.family is Family.DC
        return self.start.from_drive and not by_speed

    def with_parts(self, **parts: Facts) -> Circuit:
        """The same with other parts, those of later stages too."""
        own = {key: part for key, part in parts.items() if key in CIRCUIT_STAGES}
        later = {key: part for key, part in parts.items() if key not in CIRCUIT_STAGES}
        further = {"further": {**self.further, **later}} if later else {}
        return replace(self, **own, **further)  # type: ignore[arg-type]

    def part(self, key: str) -> Facts:
        """A part by its key. Raises KeyError."""
        if key not in CIRCUIT_STAGES:
            return self.further.get(key) or circuit_parts()[key]()
        found: Facts = getattr(self, key)
        return found

    def of(self, key: str, kind: type[F]) -> F:
        """A later stage's part, as its own kind of facts."""
        return cast(F, self.part(key))

    def source_of(self, path: str) -> Provenance:
        """Where an entered fact came from."""
        default = Provenance.STAMPED if path.startswith("plate.") else Provenance.STATED
        return self.sources.get(path, default)


_NUMBERED: Final = re.compile(r"(board|area)_([1-9]\d{0,3})")
MOST_LISTED: Final = 999
"""Boards or areas a job may have: a bound against slips, far beyond any plant's."""


def kind_of(key: str) -> str | None:
    """What a numbered part is of.

    >>> kind_of("board_12"), kind_of("area_3"), kind_of("main_board"), kind_of("board_0")
    ('board', 'area', None, None)
    """
    match = _NUMBERED.fullmatch(key)
    return match.group(1) if match and int(match.group(2)) <= MOST_LISTED else None


def number_of(key: str) -> int:
    """The number of a numbered part's key."""
    return int(key.rpartition("_")[2])


def circuit_parts() -> Mapping[str, type[Facts]]:
    """Every part of a circuit: those of the first stages, and what further ones declare."""
    from vinegate.core import stages

    return {**CIRCUIT_STAGES, **stages.further_parts()}


def model_of(key: str) -> type[Facts] | None:
    """The facts' model of a job's or a circuit's part; None where there is no such part.

    >>> model_of("board_7").__name__, model_of("plate").__name__, model_of("nothing")
    ('Board', 'Plate', None)
    """
    kind = kind_of(key)
    if kind is not None:
        return LISTED[kind]
    return JOB_STAGES.get(key) or CIRCUIT_STAGES.get(key) or circuit_parts().get(key)


def keyed(path: str, text: str) -> str:
    """A choice by its key, whichever of its names was written; all else, and what cannot be read, as it is.

    >>> keyed("start.method", "DOL"), keyed("plate.kind", "three-phase wound rotor"), keyed("plate.power", "5 hp")
    ('full-voltage', 'wound', '5 hp')
    """
    part, _, name = path.partition(".")
    model = model_of(part)
    fact = model.fields().get(name) if model is not None else None
    if fact is None or not (fact.offered or fact.listed):
        return text
    try:
        return str(fact.read(text))
    except QuantityError:
        return text


def said_roughly(path: str, text: str) -> bool:
    """Whether a text at a path says that it is only about so, under any rule set.

    >>> said_roughly("wiring.length", "~60 m"), said_roughly("wiring.length", "60 m")
    (True, False)
    """
    part, _, name = path.partition(".")
    return any(_rough_in(part, ((name, text),), us=us) for us in (False, True))


def typed_at(raw: Mapping[str, Any], path: str) -> str:
    """What is typed of a fact, by its path; empty where nothing is.

    >>> typed_at({"plate": {"power": "5 hp"}}, "plate.power"), typed_at({"plate": None}, "plate.power")
    ('5 hp', '')
    """
    part, _, name = path.partition(".")
    return str((raw.get(part) or {}).get(name) or "")


def listed_keys(raw: Mapping[str, Any], kind: str) -> list[str]:
    """Keys of a job's boards or areas in their order, as typed facts have them."""
    return sorted((key for key in raw if kind_of(key) == kind and raw[key]), key=number_of)


def read_job(raw: Mapping[str, Any], rules: RuleSetName) -> tuple[Job, tuple[FieldError, ...]]:
    """Read a job's facts as typed: `{"supply": {...}, "limits": {...}, "board_1": {...}, "sources": {...}}`.

    Unreadable fields are left out and reported, so that everything that does not need them still computes.
    """
    listed = {kind: listed_keys(raw, kind) for kind in LISTED}
    models = {**JOB_STAGES} | {key: LISTED[kind] for kind, keys in listed.items() for key in keys}
    parts, errors = _read_stages(models, raw, rules)
    of = {kind: {key: parts.pop(key) for key in keys} for kind, keys in listed.items()}
    return Job(rules=rules, sources=sources_of(raw, rules), boards=of["board"], areas=of["area"], **parts), errors


def read_circuit(raw: Mapping[str, Any], rules: RuleSetName) -> tuple[Circuit, tuple[FieldError, ...]]:
    """Read a circuit's facts as typed: `{"plate": {...}, "wiring": {...}, "start": {...}, ..., "sources": {...}}`.

    A bare number has the unit of the rule set's dialect: hp, ft and lb·ft² under NEC, kW, m and kg·m² under IEC.
    """
    parts, errors = _read_stages(circuit_parts(), raw, rules)
    further = {key: parts.pop(key) for key in [*parts] if key not in CIRCUIT_STAGES}
    return Circuit(sources=sources_of(raw, rules), further=further, **parts), errors


def _read_stages(
    models: Mapping[str, type[Facts]], raw: Mapping[str, Any], rules: RuleSetName
) -> tuple[dict[str, Any], tuple[FieldError, ...]]:
    from vinegate.core.rules.sets import rule_set

    found = rule_set(rules)
    us, dialect = found.practice.us_units, found.words.dialect
    stages: dict[str, Facts] = {}
    errors: list[FieldError] = []
    for key, model in models.items():
        stages[key], stage_errors = read_facts(model, raw.get(key) or {}, key, us=us)
        errors.extend(replace(error, message=_spoken(error, dialect)) for error in stage_errors)
    for key in raw.keys() - models.keys() - {"sources"}:
        if kind_of(key) is None or "plate" in models:
            known = ", ".join(models)
            errors.append(FieldError(path=key, text="", message=f"There is no part “{key}” here: {known}."))
    return stages, tuple(errors)


def _spoken(error: FieldError, dialect: str) -> str:
    """In the rule set's words, but for what was typed."""
    typed = f"“{error.text}”"
    return typed.join(spoken(part, dialect) for part in error.message.split(typed))


def sources_of(raw: Mapping[str, Any], rules: RuleSetName) -> dict[str, Provenance]:
    """Where facts came from, by their paths: as it is said; what is written as only about so is assumed."""
    known = {p.value: p for p in ENTERED}
    said = {path: known[word] for path, word in (raw.get("sources") or {}).items() if word in known}
    return dict.fromkeys(_roughly(raw, rules), Provenance.ASSUMED) | said


def _roughly(raw: Mapping[str, Any], rules: RuleSetName) -> Iterator[str]:
    from vinegate.core.rules.sets import rule_set

    us = rule_set(rules).practice.us_units
    for part, texts in raw.items():
        if part != "sources" and isinstance(texts, Mapping):
            said = tuple((name, text) for name, text in texts.items() if isinstance(text, str))
            yield from _rough_in(part, said, us=us)


@lru_cache(maxsize=4096)
def _rough_in(part: str, said: tuple[tuple[str, str], ...], *, us: bool) -> tuple[str, ...]:
    """The same texts are looked through once."""
    model = model_of(part) if may_be_rough(part) else None
    if model is None:
        return ()
    fields, rough = model.fields(), (name for name, text in said if exactly(typed(text)))
    texts = dict(said)
    return tuple(f"{part}.{name}" for name in rough if name in fields and fields[name].roughly(texts[name], us=us))
