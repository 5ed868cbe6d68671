"""Queries of every page whose words are made once: later only their values are put in.

The query builder spends longer on the words of a query than the server on its answer. What comes back is the same.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Final, Generic, TypeVar

from peewee import Query, Value

Row = TypeVar("Row")
_MARK: Final = "\0value {}\0"
"""Stands for a value while the words are made: no text that is kept has a nought in it."""


class Prepared(Generic[Row]):
    """A query by its values, in the order in which `make` takes them, each as the database has it: keys, not rows.

    `make` gets nodes that stand for them and must put each into the query as it is.
    """

    def __init__(self, make: Callable[..., Any]) -> None:
        self._make = make
        self._made: tuple[Query, str, tuple[Any, ...], tuple[int | None, ...]] | None = None

    def rows(self, *values: object) -> list[Row]:
        return list(self._with(values))

    def first(self, *values: object) -> Row | None:
        return next(iter(self._with(values)), None)

    def one(self, *values: object) -> Row:
        """The row that is there. Raises LookupError where it is not."""
        found = self.first(*values)
        if found is None:
            raise LookupError(values)
        return found

    def execute(self, *values: object) -> Any:
        """Of a change: the rows that were touched, or the new row's id."""
        return self._with(values).execute()

    def _with(self, values: tuple[object, ...]) -> Any:
        query, words, fixed, places = self._made or self._first_time(len(values))
        here: Any = query.clone()
        here.words = words, [one if place is None else values[place] for one, place in zip(fixed, places, strict=True)]
        return here

    def _first_time(self, count: int) -> tuple[Query, str, tuple[Any, ...], tuple[int | None, ...]]:
        marks = [_MARK.format(number) for number in range(count)]
        query = self._make(*[Value(mark) for mark in marks])
        words, fixed = query.sql()
        places = tuple(marks.index(one) if one in marks else None for one in fixed)
        assert {*range(count)} <= {*places}, "a value has no place in the words"
        self._made = query, words, tuple(fixed), places
        return self._made
