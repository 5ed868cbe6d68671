"""Facts that note what is read of them, so that what has not changed is not planned again (docs/decisions/0016)."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Final, TypeVar, cast

from vinegate.core.facts import CIRCUIT_STAGES, JOB_STAGES, Circuit, Job
from vinegate.core.field import Facts

M = TypeVar("M", bound=Facts)
Reads = dict[tuple[str, str], object]
"""Part and field ("plate", "power_w") to the value that was read."""


@dataclass(slots=True)
class Notebook:
    """Where reads are noted now: `reads` is exchanged as one step calls another."""

    reads: Reads = field(default_factory=dict)


class Watched:
    """One part of the facts in a notebook's sight. It answers as the part does, its properties and methods too.

    A field given anew by `model_copy` is no longer the circuit's own: reading it is not noted.
    """

    __slots__ = ("_book", "_model", "_own", "_part")

    def __init__(self, model: Facts, part: str, book: Notebook, own: frozenset[str] = frozenset()) -> None:
        self._model, self._part, self._book, self._own = model, part, book, own

    def __getattr__(self, name: str) -> Any:
        values = self._model.__dict__
        if name in values:
            value = values[name]
            if name not in self._own:
                self._book.reads[(self._part, name)] = value
            return value
        found = getattr(type(self._model), name)
        if isinstance(found, property):
            assert found.fget is not None
            return found.fget(self)
        return found.__get__(self, type(self._model)) if hasattr(found, "__get__") else found

    def model_copy(self, *, update: Mapping[str, Any]) -> Watched:
        """The same with other values, which are nobody's facts."""
        copied = self._model.model_copy(update=update)
        return Watched(copied, self._part, self._book, self._own | update.keys())


class _Sources(Mapping[str, Any]):
    """Where facts came from, noted as they are asked for."""

    def __init__(self, sources: Mapping[str, Any], book: Notebook) -> None:
        self._sources, self._book = sources, book

    def __getitem__(self, path: str) -> Any:
        self._book.reads[(SOURCES, path)] = self._sources.get(path)
        return self._sources[path]

    def __iter__(self) -> Iterator[str]:
        return iter(self._sources)

    def __len__(self) -> int:
        return len(self._sources)


SOURCES: Final = "sources"


def watched(model: M, part: str, book: Notebook) -> M:
    """The part in the notebook's sight."""
    return cast(M, Watched(model, part, book))


class _Listed(Mapping[str, Any]):
    """Boards or areas: how many there are is noted as soon as one is asked for."""

    def __init__(self, parts: Mapping[str, Facts], name: str, book: Notebook) -> None:
        self._parts = {key: Watched(part, key, book) for key, part in parts.items()}
        self._keys, self._name, self._book = tuple(parts), name, book

    def __getitem__(self, key: str) -> Any:
        self._book.reads[(KEYS, self._name)] = self._keys
        return self._parts[key]

    def __iter__(self) -> Iterator[str]:
        self._book.reads[(KEYS, self._name)] = self._keys
        return iter(self._parts)

    def __len__(self) -> int:
        return len(self._keys)


KEYS: Final = "keys"


def watched_job(job: Job, book: Notebook) -> Job:
    """The job in the notebook's sight."""
    parts: dict[str, Any] = {key: watched(job.part(key), key, book) for key in JOB_STAGES}
    boards, areas = _Listed(job.boards, "boards", book), _Listed(job.areas, "areas", book)
    return replace(job, boards=boards, areas=areas, **parts)


def watched_circuit(circuit: Circuit, book: Notebook) -> Circuit:
    """The circuit in the notebook's sight."""
    parts: dict[str, Any] = {key: watched(circuit.part(key), key, book) for key in CIRCUIT_STAGES}
    return replace(circuit, sources=_Sources(circuit.sources, book), **parts)


@dataclass(frozen=True, slots=True)
class Given:
    """The facts as they stand, to compare with what was read of them before."""

    job: Job
    circuit: Circuit

    def unchanged(self, reads: Reads) -> bool:
        """Whether each fact that was read has the value it had then."""
        return all(_same(self._value(part, name), value) for (part, name), value in reads.items())

    def _value(self, part: str, name: str) -> object:
        if part == SOURCES:
            return self.circuit.sources.get(name)
        if part == KEYS:
            return tuple(getattr(self.job, name))
        model = self.circuit.part(part) if part in CIRCUIT_STAGES else self.job.part(part)
        return model.__dict__[name]


def _same(now: object, then: object) -> bool:
    if now is then:
        return True
    if type(now) is not type(then) or now != then:
        return False
    return not isinstance(now, float) or vars_of(now) == vars_of(then)


def vars_of(value: object) -> dict[str, Any]:
    """What a number carries besides itself, as system volts carry those to neutral."""
    return getattr(value, "__dict__", {})
