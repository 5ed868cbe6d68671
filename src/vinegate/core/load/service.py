"""Driven machines that a code has rules of its own for: a plan by the ordinary rules does not approve them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, check, confirm, rule
from vinegate.core.load.facts import SERVICES
from vinegate.core.rules import RuleSet
from vinegate.core.tables import load
from vinegate.core.turning import Turns

_KEY, _NAME = "load.service", "Rules of its own"
_ORDINARY: Final = "none"
_NAMED: Final = {
    "fire-pump": re.compile(r"\bfire[ -](?:\w+[ -])?pumps?\b(?! *(?:room|house|hall|test))", re.I),
    "hermetic": re.compile(r"\b(?:semi-?)?hermetic\b", re.I),
    "lift": re.compile(r"\b(?:passenger|goods|freight)[ -](?:lift|elevator)s?\b", re.I),
    "pool": re.compile(r"\b(?:swimming|pool|fountain)[ -](?:\w+[ -])?pumps?\b", re.I),
}
_KEEPS_PRESSURE: Final = re.compile(r"\b(?:jockey|make-?up|pressure maintenance)\b", re.I)
"""Beside a fire pump, and ordinary: NFPA 70 695.1(B)."""


def service_gates(circuit: Circuit, rules: RuleSet) -> Iterator[Gate]:
    """None of an ordinary machine. A name that says another asks whether it is one.

    Source: NFPA 70:2023 table 430.5; the standards that `special_service.csv` names.
    """
    said, named = circuit.load.service, _named(circuit.start.driven or "")
    row = load("special_service").find(service=said if said not in (None, _ORDINARY) else named, rules=rules.name)
    if row is None:
        return
    text, source, remedy = row["text"], row["source"], row["remedy"]
    if said == _ORDINARY:
        yield rule(_KEY, _NAME, True, "An ordinary machine, whatever its name.", source)
    elif row["judged"] == "confirm":
        yield confirm(_KEY, _NAME, False, text, source)
    elif said is None:
        shown = dict(SERVICES)[named]
        turns = Turns(path=_KEY, label="its service", passes=dict(SERVICES)[_ORDINARY], fails=shown,
                      passes_as=_ORDINARY, fails_as=named)  # fmt: skip
        yield check(_KEY, _NAME, turns, f"Its name says {shown}. {text}", source, remedy=remedy)
    else:
        yield rule(_KEY, _NAME, False, text, source, remedy=remedy)


def _named(driven: str) -> str:
    """What the machine's name says that it is.

    >>> _named("diesel-backed fire pump"), _named("jockey pump of the fire pumps"), _named("fan of the fire pump room")
    ('fire-pump', '', '')
    """
    if _KEEPS_PRESSURE.search(driven):
        return ""
    return next((key for key, pattern in _NAMED.items() if pattern.search(driven)), "")
