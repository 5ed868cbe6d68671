"""Facts that note what is read of them, so that what has not changed is not planned again (docs/decisions/0016)."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from functools import cache
from types import FunctionType
from typing import Any, Final, TypeVar, cast

from vinegate.core.facts import CIRCUIT_STAGES, JOB_STAGES, Circuit, Job, kind_of
from vinegate.core.field import Facts
from vinegate.core.notebook import Notebook, Reads
from vinegate.core.records import dataclass, replace

M = TypeVar("M", bound=Facts)


class Watched:
    """One part of the facts in a notebook's sight. It answers as the part does, its properties and methods too.

    A field given anew by `model_copy` is no longer the circuit's own: reading it is not noted.
    """

    __slots__ = ("_book", "_model", "_own", "_part", "_values")

    def __init__(self, model: Facts, part: str, book: Notebook, own: frozenset[str] = frozenset()) -> None:
        self._model, self._part, self._book, self._own = model, part, book, own
        self._values = model.__dict__

    def __getattr__(self, name: str) -> Any:
        values = self._values
        if name in values:
            value = values[name]
            if name not in self._own:
                self._book.reads.add((self._part, name))
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


@cache
def _watched_kind(kind: type[Facts], part: str | None) -> type[Watched]:
    """Of a kind of part: its fields as properties and its own properties and methods, which are found at once. With
    `part`, of the one part that there is of it.
    """
    own = {name: found for one in reversed(kind.__mro__) if issubclass(one, Facts) for name, found in vars(one).items()}
    shared = {name: found for name, found in own.items() if isinstance(found, property | FunctionType)}
    fields = {name: property(_reader(name) if part is None else _reader_of(part, name)) for name in kind.model_fields}
    kept = {name: found for name, found in shared.items() if not name.startswith("__") and name not in vars(Watched)}
    return type(f"Watched{kind.__name__}", (Watched,), {"__slots__": (), **kept, **fields})


def _reader(name: str) -> Callable[[Watched], Any]:
    def read(watched: Watched) -> Any:
        watched._book.reads.add((watched._part, name))
        return watched._values[name]

    return read


def _reader_of(part: str, name: str) -> Callable[[Watched], Any]:
    fact = (part, name)

    def read(watched: Watched) -> Any:
        watched._book.reads.add(fact)
        return watched._values[name]

    return read


class _Sources(Mapping[str, Any]):
    """Where facts came from, noted as they are asked for."""

    def __init__(self, sources: Mapping[str, Any], book: Notebook) -> None:
        self._sources, self._book = sources, book

    def __getitem__(self, path: str) -> Any:
        self._book.reads.add((SOURCES, path))
        return self._sources[path]

    def get(self, path: str, default: Any = None) -> Any:
        self._book.reads.add((SOURCES, path))
        return self._sources.get(path, default)

    def __iter__(self) -> Iterator[str]:
        return iter(self._sources)

    def __len__(self) -> int:
        return len(self._sources)


SOURCES: Final = "sources"


def sources_together(job: Job, circuit: Circuit) -> Mapping[str, Any]:
    """Where the facts of a job and of one of its circuits came from: their paths differ."""
    return {**job.sources, **circuit.sources} if job.sources else circuit.sources


def watched_sources(job: Job, circuit: Circuit, book: Notebook) -> Mapping[str, Any]:
    """The same in the notebook's sight."""
    return _Sources(sources_together(job, circuit), book)


def watched(model: M, part: str, book: Notebook) -> M:
    """The part in the notebook's sight."""
    return cast(M, _watched_kind(type(model), None if kind_of(part) else part)(model, part, book))


class _Listed(Mapping[str, Any]):
    """Boards or areas: how many there are is noted as soon as one is asked for."""

    def __init__(self, parts: Mapping[str, Facts], name: str, book: Notebook) -> None:
        self._parts = {key: watched(part, key, book) for key, part in parts.items()}
        self._keys, self._name, self._book = tuple(parts), name, book

    def __getitem__(self, key: str) -> Any:
        self._book.reads.add((KEYS, self._name))
        return self._parts[key]

    def __iter__(self) -> Iterator[str]:
        self._book.reads.add((KEYS, self._name))
        return iter(self._parts)

    def __len__(self) -> int:
        return len(self._keys)


KEYS: Final = "keys"


def watched_job(job: Job, book: Notebook) -> Job:
    """The job in the notebook's sight."""
    parts: dict[str, Any] = {key: watched(job.part(key), key, book) for key in JOB_STAGES}
    boards, areas = _Listed(job.boards, "boards", book), _Listed(job.areas, "areas", book)
    return replace(job, boards=boards, areas=areas, notebook=book, **parts)


def watched_circuit(circuit: Circuit, book: Notebook) -> Circuit:
    """The circuit in the notebook's sight."""
    parts: dict[str, Any] = {key: watched(circuit.part(key), key, book) for key in CIRCUIT_STAGES}
    further = {key: watched(part, key, book) for key, part in circuit.further.items()}
    return replace(circuit, sources=_Sources(circuit.sources, book), further=further, notebook=book, **parts)


@dataclass(frozen=True, slots=True)
class Given:
    """The facts of one plan, to find out what has changed when the next is made."""

    job: Job
    circuit: Circuit

    def changed_since(self, before: Given) -> Reads:
        """Every fact that is not what it was."""
        found: Reads = set()
        for key in (*CIRCUIT_STAGES, *self.circuit.further):
            _compare(found, key, before.circuit.part(key), self.circuit.part(key))
        for key in (*JOB_STAGES, *{**before.job.boards, **before.job.areas, **self.job.boards, **self.job.areas}):
            _compare(found, key, before.job.part(key), self.job.part(key))
        for name in ("boards", "areas"):
            if tuple(getattr(before.job, name)) != tuple(getattr(self.job, name)):
                found.add((KEYS, name))
        was, now = sources_together(before.job, before.circuit), sources_together(self.job, self.circuit)
        found |= {(SOURCES, path) for path in was.keys() | now.keys() if was.get(path) != now.get(path)}
        return found


def _compare(found: Reads, part: str, before: Facts, now: Facts) -> None:
    if before is now or before.__dict__ == now.__dict__:
        return
    found |= {(part, name) for name, value in now.__dict__.items() if before.__dict__[name] != value}
