"""A job and a circuit as facts: what the open file, the draft and the pages share."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Any

from vinegate.core.field import Facts, FieldError, read_facts
from vinegate.core.load.facts import Load
from vinegate.core.location.facts import Area, Hazard, Place
from vinegate.core.machine.facts import MachineFacts
from vinegate.core.plate.facts import Plate
from vinegate.core.protection.facts import Protection
from vinegate.core.starting.facts import Start
from vinegate.core.stopping.facts import Stop
from vinegate.core.supply.facts import Board, Limits, MainBoard, Standby, Supply
from vinegate.core.supply.wiring_facts import Wiring
from vinegate.core.working import Provenance

JOB_STAGES: Mapping[str, type[Facts]] = {
    "supply": Supply,
    "standby": Standby,
    "main_board": MainBoard,
    "board_1": Board,
    "board_2": Board,
    "board_3": Board,
    "board_4": Board,
    "limits": Limits,
    "hazard": Hazard,
    "area_1": Area,
    "area_2": Area,
    "area_3": Area,
    "area_4": Area,
}
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


class RuleSetName(StrEnum):
    NEC = "nec"
    IEC = "iec"


# What an entered fact may say of itself; the plate's are stamped unless they say otherwise.
ENTERED = (Provenance.MEASURED, Provenance.STAMPED, Provenance.CATALOGUE, Provenance.STATED, Provenance.ASSUMED)


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """What circuits share."""

    rules: RuleSetName
    supply: Supply = field(default_factory=Supply)
    standby: Standby = field(default_factory=Standby)
    main_board: MainBoard = field(default_factory=MainBoard)
    board_1: Board = field(default_factory=Board)
    board_2: Board = field(default_factory=Board)
    board_3: Board = field(default_factory=Board)
    board_4: Board = field(default_factory=Board)
    limits: Limits = field(default_factory=Limits)
    hazard: Hazard = field(default_factory=Hazard)
    area_1: Area = field(default_factory=Area)
    area_2: Area = field(default_factory=Area)
    area_3: Area = field(default_factory=Area)
    area_4: Area = field(default_factory=Area)
    sources: Mapping[str, Provenance] = field(default_factory=dict)

    def board(self, key: str | None) -> Board | None:
        """A further board by its key ("board_2"); None for the main board."""
        if key is None or key == "main":
            return None
        found: Board = getattr(self, key)
        return found

    def area(self, key: str) -> Area:
        """An area by its key ("area_2")."""
        found: Area = getattr(self, key)
        return found

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
    sources: Mapping[str, Provenance] = field(default_factory=dict)

    def with_parts(self, **parts: Facts) -> Circuit:
        """The same with other parts."""
        return replace(self, **parts)  # type: ignore[arg-type]

    def source_of(self, path: str) -> Provenance:
        """Where an entered fact came from."""
        default = Provenance.STAMPED if path.startswith("plate.") else Provenance.STATED
        return self.sources.get(path, default)


def read_job(raw: Mapping[str, Any], rules: RuleSetName) -> tuple[Job, tuple[FieldError, ...]]:
    """Read a job's facts as typed: `{"supply": {...}, "limits": {...}, "sources": {...}}`.

    Unreadable fields are left out and reported, so that everything that does not need them still computes.
    """
    stages, errors = _read_stages(JOB_STAGES, raw, rules)
    return Job(rules=rules, sources=_read_sources(raw), **stages), errors


def read_circuit(raw: Mapping[str, Any], rules: RuleSetName) -> tuple[Circuit, tuple[FieldError, ...]]:
    """Read a circuit's facts as typed: `{"plate": {...}, "wiring": {...}, "start": {...}, ..., "sources": {...}}`.

    A bare number has the unit of the rule set's dialect: hp, ft and lb·ft² under NEC, kW, m and kg·m² under IEC.
    """
    stages, errors = _read_stages(CIRCUIT_STAGES, raw, rules)
    return Circuit(sources=_read_sources(raw), **stages), errors


def _read_stages(
    models: Mapping[str, type[Facts]], raw: Mapping[str, Any], rules: RuleSetName
) -> tuple[dict[str, Any], tuple[FieldError, ...]]:
    stages: dict[str, Facts] = {}
    errors: list[FieldError] = []
    for key, model in models.items():
        stages[key], stage_errors = read_facts(model, raw.get(key) or {}, key, rules)
        errors.extend(stage_errors)
    for key in raw.keys() - models.keys() - {"sources"}:
        errors.append(FieldError(path=key, text="", message=f"There is no part “{key}” here: {', '.join(models)}."))
    return stages, tuple(errors)


def _read_sources(raw: Mapping[str, Any]) -> dict[str, Provenance]:
    known = {p.value: p for p in ENTERED}
    return {path: known[word] for path, word in (raw.get("sources") or {}).items() if word in known}
