"""A starter as schedules write it: the way to start with its size, reversing, transition and by-pass in one text."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.start.facts import Start

_REVERSES: Final = re.compile(
    r"^(?:FVR|RDOL)\b|[\s,(/-]+(?:revers(?:ing|es)|rev|F/R|FWD/REV|R)\b\)?|^reversing\b[\s-]*", re.I
)
_SIZE: Final = re.compile(r"[\s,(/-]*\b(?:NEMA(?:\s*(?:size|sz\.?))?|size|sz\.?)\s*(0{1,2}|[1-9])\b\)?", re.I)
_TRANSITION: Final = re.compile(r"[\s,(/-]*\b(open|closed)(?:[\s-]*(?:transition|trans\.?|circuit))?\b\)?", re.I)
_BYPASS: Final = re.compile(r"[\s,(/+&-]*(?:\b(?:with|and|incl\.?)\s+|w/\s*)?\bby-?pass(?:\s+contactor)?\b\)?", re.I)
_COMBINED: Final = re.compile(r"^comb(?:ination|o|\.)?\b[\s,/-]*|[\s,/-]*\bcomb(?:ination|o|\.)?$", re.I)
_STARTER: Final = re.compile(r"\s*\b(?:starter|start|controller)s?$", re.I)
_ACROSS: Final = "full-voltage"


def starter_of(text: str) -> dict[str, str]:
    """Facts by path that a text says, the way to start first; empty where it says no more than that, or is not read.

    >>> starter_of("FVR"), starter_of("Combination FVNR, size 2")["protection.starter_size"]
    ({'start.method': 'full-voltage', 'start.reversing': 'yes'}, '2')
    >>> starter_of("Y-D closed transition"), starter_of("VFD w/ bypass")["starter.bypass"], starter_of("DOL")
    ({'start.method': 'Y-D', 'start.transition': 'closed'}, 'yes', {})
    """
    if _reads(text):
        return {}
    body, beside = _COMBINED.sub("", text.strip()), {}
    for form, path in ((_SIZE, "protection.starter_size"), (_TRANSITION, "start.transition")):
        if said := form.search(body):
            beside[path] = said[1].casefold()
            body = form.sub("", body, count=1)
    for form, path in ((_BYPASS, "starter.bypass"), (_REVERSES, "start.reversing")):
        if form.search(body):
            beside[path] = "yes"
            body = form.sub("", body, count=1)
    body = body.strip(" ,/-") or (_ACROSS if "start.reversing" in beside else body)
    way = next((one for one in (body, _STARTER.sub("", body)) if one and _reads(one)), "")
    return {"start.method": way, **beside} if way else {}


def _reads(text: str) -> bool:
    return Start.fields()["method"].reads(text)
