"""Long tables, a page at a time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from typing import Final, Generic, TypeVar
from urllib.parse import urlencode

from flask import request

Row = TypeVar("Row")
SIZE: Final = 300
ALL: Final = "all"


@dataclass(frozen=True, slots=True, kw_only=True)
class Paged(Generic[Row]):
    """The rows of one page of a table; `number` counts from 1, and is 0 where all are shown."""

    rows: Sequence[Row]
    number: int
    pages: int
    first: int
    total: int

    @property
    def last(self) -> int:
        return self.first + len(self.rows) - 1


def paged(rows: Sequence[Row], asked: str, size: int = SIZE) -> Paged[Row]:
    """The page that is asked for ("2"), the nearest there is, or all; the first for anything else.

    >>> paged("abcde", "2", size=2).rows, paged("abcde", "9", size=2).rows, paged("abcde", "x", size=2).rows
    ('cd', 'e', 'ab')
    """
    pages = max(ceil(len(rows) / size), 1)
    if asked == ALL:
        return Paged(rows=rows, number=0, pages=pages, first=1, total=len(rows))
    number = min(max(int(asked), 1), pages) if asked.isdecimal() and len(asked) < 9 else 1
    start = (number - 1) * size
    return Paged(rows=rows[start : start + size], number=number, pages=pages, first=start + 1, total=len(rows))


def other_page(table: str, page: int | str) -> str:
    """The address of another page of a table, with what is sought and how it is sorted. `table` is its own address:
    the page that is shown may be the answer to a form.
    """
    return f"{table}?{urlencode({**request.args.to_dict(), 'page': page})}"


def asked_page() -> str:
    """Which page of its table is asked for."""
    return request.args.get("page", "")
