"""Clocks and dates as recorders write them: seconds, of which only the differences count."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache
from typing import Final

import numpy as np

DAY_S: Final = 86400.0
_CLOCK: Final = re.compile(
    r"(?:(?P<days>\d+)[ T]?(?:days?|d)[ ,]+)?"
    r"(?P<h>\d{1,2}):(?P<m>\d{2}):(?P<s>\d{2}(?:[.,:]\d+)?)\s*(?P<half>[ap]\.?m\.?)?(?:Z|UTC|\s*[+-]\d{2}:?\d{2})?",
    re.I,
)
_MINUTES: Final = re.compile(r"(?P<m>\d{1,3}):(?P<s>\d{2}[.,]\d+)")
_MONTHS: Final = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"]
_YEAR_FIRST: Final = re.compile(r"(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})")
_YEAR_LAST: Final = re.compile(r"(\d{1,2})([-/.])(\d{1,2})\2(\d{4}|\d{2})")
_NAMED: Final = re.compile(r"(\d{1,2})[-/. ]([a-z]{3})[a-z]*\.?[-/. ](\d{4}|\d{2})", re.I)

Reader = Callable[[str], float | None]


def clock_s(text: str) -> float | None:
    """Seconds since midnight, of 10:15:03.12, 3:15:03 pm, 2 days 10:15:03 or, with a fraction, of minutes: 15:03.1.

    >>> clock_s("10:15:03,5"), clock_s("12:00:01 AM"), clock_s("1:00:00 pm"), clock_s("01:02:03:250"), clock_s("10:15")
    (36903.5, 1.0, 46800.0, 3723.25, None)
    >>> clock_s("2 days 01:00:00"), clock_s("12:00:00 pm"), clock_s("15:03.5")
    (176400.0, 43200.0, 903.5)
    """
    plain = text.strip()
    found = _CLOCK.fullmatch(plain)
    if found is not None:
        hours, half = int(found["h"]), (found["half"] or "")[:1].lower()
        if half:
            hours = hours % 12 + (12 if half == "p" else 0)
        whole = int(found["days"] or 0) * 24 + hours
        return whole * 3600 + int(found["m"]) * 60 + float(re.sub("[,:]", ".", found["s"]))
    short = _MINUTES.fullmatch(plain)
    return None if short is None else int(short["m"]) * 60 + float(short["s"].replace(",", "."))


@lru_cache(maxsize=256)
def day_of(text: str, *, day_first: bool) -> int | None:
    """Days since 1970. Points mean day.month.year; slashes and hyphens ahead of a year are as `day_first` says.

    >>> [day_of(one, day_first=False) for one in ("1970-01-02", "2.1.1970", "01/02/1970", "2 Jan 1970", "31.2.1970")]
    [1, 1, 1, 1, None]
    >>> day_of("02/01/70", day_first=True) - day_of("02/01/70", day_first=False)
    -30
    """
    plain = text.strip()
    if found := _YEAR_FIRST.fullmatch(plain):
        year, month, day = map(int, found.groups())
    elif found := _YEAR_LAST.fullmatch(plain):
        one, mark, two, last = found.groups()
        first = day_first or mark == "."
        year, month, day = int(last), int(two if first else one), int(one if first else two)
    elif (found := _NAMED.fullmatch(plain)) and found[2].lower() in _MONTHS:
        year, month, day = int(found[3]), _MONTHS.index(found[2].lower()) + 1, int(found[1])
    else:
        return None
    try:
        return int(np.datetime64(f"{year + (2000 if year < 100 else 0):04}-{month:02}-{day:02}").astype(np.int64))
    except ValueError:
        return None


def moment_s(text: str, *, day_first: bool) -> float | None:
    """Seconds of a date with a clock behind it, of either alone."""
    plain = text.strip().strip('"')
    alone = clock_s(plain)
    if alone is not None:
        return alone
    day = day_of(plain, day_first=day_first)
    if day is not None:
        return day * DAY_S
    at = re.search(r"(?:T|,?\s+)(?=\d{1,3}:)", plain)
    if at is None:
        return None
    day, clock = day_of(plain[: at.start()], day_first=day_first), clock_s(plain[at.end() :])
    return None if day is None or clock is None else day * DAY_S + clock


def is_moment(text: str) -> bool:
    return moment_s(text, day_first=False) is not None or moment_s(text, day_first=True) is not None


def reader_of(first: str, last: str) -> Reader:
    """How to read a column from its first moment to its last: the order of day and month that makes it the shortest."""
    spans = {}
    for day_first in (False, True):
        ends = [moment_s(text, day_first=day_first) for text in (first, last)]
        if ends[0] is not None and ends[1] is not None:
            spans[day_first] = ends[1] - ends[0]
    rising = {one: span for one, span in spans.items() if span >= 0} or spans
    order = min(rising, key=lambda one: rising[one]) if rising else False
    return lambda text: moment_s(text, day_first=order)
