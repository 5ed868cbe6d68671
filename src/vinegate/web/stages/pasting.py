"""A plate that is pasted on a sheet: the fields it names, as changes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from vinegate.core.facts import RuleSetName
from vinegate.exchange.plate_text import read_plate
from vinegate.store.drafts import Change
from vinegate.web.stages.page import Reading

LONGEST: Final = 4000
NOTHING_NAMED: Final = "No field of a plate is named there: write each label with its value, HP 75."


def read_but_for(left: str) -> str:
    """What is said of the words that belong to no field."""
    return f"Read, but for: {left}." if left else ""


def pasted(form: Mapping[str, str], kept: Mapping[str, object], part: str, rules: RuleSetName) -> Reading:
    """Into this part ("plate", "new_plate"); what was typed stays to be mended where some of it cannot be read."""
    text = form.get("pasted", "")[:LONGEST]
    if not text.strip():
        return Reading()
    found = read_plate(text, rules)
    changes = {
        f"{part}.{name}": Change(was=str(kept.get(name) or ""), now=value) for name, value in found.texts.items()
    }
    if not changes:
        return Reading(wrong=NOTHING_NAMED, typed=text)
    wrong = read_but_for(", ".join(found.left))
    return Reading(changes=changes, wrong=wrong, typed=text if wrong else "")
