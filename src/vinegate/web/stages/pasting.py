"""A plate that is pasted on a sheet: the fields it names, as changes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from vinegate.core.facts import RuleSetName
from vinegate.core.machine.facts import MachineFacts
from vinegate.exchange.plate_text import PlateRead, read_plate
from vinegate.store.drafts import Change
from vinegate.web.stages.page import Reading

LONGEST: Final = 4000
_MACHINES: Final = {"plate": "machine", "new_plate": "new_machine"}
NOTHING_NAMED: Final = "No field of a plate is named there: write each label with its value, HP 75."


def told(found: PlateRead, machine: str) -> str:
    """What a plate says of the machine behind it, and what is no rating; `machine` is what becomes of the first."""
    facts = MachineFacts.fields()
    behind = [f"{facts[name].label_for(found.rules)} {value}" for name, value in found.machine.items()]
    said = {machine: behind, "No rating of the motor's": found.beside}
    return " ".join(f"{head}: {', '.join(words)}." for head, words in said.items() if words)


def read_but_for(left: str) -> str:
    """What is said of the words that belong to no field."""
    return f"Read, but for: {left}." if left else ""


def pasted(form: Mapping[str, str], kept: Mapping[str, Any], part: str, rules: RuleSetName) -> Reading:
    """Into this part ("plate", "new_plate") and the machine behind it, of the facts that are `kept`; what was typed
    stays to be mended where some of it cannot be read.
    """
    text = form.get("pasted", "")[:LONGEST]
    if not text.strip():
        return Reading()
    found = read_plate(text, rules)
    changes = {
        f"{place}.{name}": Change(was=str((kept.get(place) or {}).get(name) or ""), now=value)
        for place, texts in ((part, found.texts), (_MACHINES[part], found.machine))
        for name, value in texts.items()
    }
    if not changes:
        return Reading(wrong=NOTHING_NAMED, typed=text)
    wrong = read_but_for(", ".join(found.left))
    elsewhere = told(found, "To the machine behind it")
    return Reading(changes=changes, wrong=wrong, elsewhere=elsewhere, typed=text if wrong else "")
