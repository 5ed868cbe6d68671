"""The stages' page halves, one folder each, in the order of the line. A further one has its place in this list."""

from __future__ import annotations

from vinegate.core.facts import kind_of
from vinegate.web.stages import (
    drive,
    load,
    machine,
    overload,
    place,
    plate,
    protection,
    record,
    replacement,
    start,
    starter,
    stop,
    supply,
    wiring,
)
from vinegate.web.stages.page import Page

PAGES: dict[str, Page] = {
    one.PAGE.key: one.PAGE
    for one in (
        supply,
        protection,
        start,
        starter,
        drive,
        overload,
        wiring,
        plate,
        machine,
        stop,
        place,
        load,
        replacement,
        record,
    )
}


def home_of(path: str) -> str:
    """The sheet that asks for a fact: the one of its part's name, else the first that asks for the whole part."""
    part = path.partition(".")[0]
    kind = kind_of(part)
    if part in PAGES:
        return part
    return next(page.key for page in PAGES.values() if (kind and page.lists == kind) or part in page.asks)
