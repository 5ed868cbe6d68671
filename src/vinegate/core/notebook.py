"""Where the facts that are read are noted, and what follows from facts alone, worked once in a plan."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import field
from functools import wraps
from typing import Any, TypeVar, cast

from vinegate.core.records import dataclass

F = TypeVar("F", bound=Callable[..., Any])
Reads = set[tuple[str, str]]
"""Part and field of each fact that was read: ("plate", "power_w")."""


@dataclass(slots=True, eq=False)
class Notebook:
    """Where reads are noted now: `reads` is exchanged as one step calls another. `known` is what was worked of facts
    alone, with what that read and what it was worked from.
    """

    reads: Reads = field(default_factory=set)
    known: dict[tuple[object, ...], tuple[Any, Reads, object]] = field(default_factory=dict)

    def once(self, key: tuple[object, ...], make: Callable[[], Any], of: object) -> Any:
        """What is made, or was: what it read is noted either way. `key` holds as long as `of` is."""
        known = self.known.get(key)
        if known is None:
            outer, self.reads = self.reads, set()
            try:
                made = make()
            finally:
                outer |= self.reads
                own, self.reads = self.reads, outer
            self.known[key] = made, own, of
            return made
        self.reads |= known[1]
        return known[0]


def noted(function: F) -> F:
    """A function of a job or a circuit and what else follows: worked once in a plan for the same ones."""

    @wraps(function)
    def again(facts: Any, *rest: Any) -> Any:
        book = facts.notebook
        if book is None:
            return function(facts, *rest)
        key = (function, id(facts), *map(id, rest))
        return book.once(key, lambda: function(facts, *rest), (facts, rest))

    return cast(F, again)
