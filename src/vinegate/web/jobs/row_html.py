"""A schedule's rows as the page has them: written once while what they say stays the same, most of a long table."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass
from threading import Lock
from typing import Final

from flask import current_app
from markupsafe import Markup

from vinegate.web.jobs.schedule import Row

_REMEMBERED: Final = 1200


@dataclass(frozen=True, slots=True, kw_only=True)
class How:
    """What a row's form rests on beside the row: the columns, the job's address, whether one may tick it."""

    columns: tuple[str, ...]
    further: tuple[str, ...]
    here: str
    may_edit: bool


_Key = tuple[str, str, str, How]
_known: OrderedDict[_Key, Markup] = OrderedDict()
_lock = Lock()


def row_html(row: Row, how: How) -> Markup:
    """The row. One that is being planned says so, and is not remembered."""
    key = (row.kept, row.tag, row.state, how)
    with _lock:
        known = _known.get(key) if row.kept else None
    if known is not None:
        return known
    macro = current_app.jinja_env.get_template("jobs/_row.html").module.schedule_row  # type: ignore[attr-defined]
    written = Markup(macro(row, how))  # noqa: S704 - the template has escaped it
    if row.kept:
        with _lock:
            _known[key] = written
            while len(_known) > _REMEMBERED:
                _known.popitem(last=False)
    return written
