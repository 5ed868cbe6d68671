"""What is entered of a job's circuits as one table: changed in a spreadsheet, it is read back as it stands."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from vinegate.core.facts import typed_at
from vinegate.core.field import Fact
from vinegate.core.rules import RuleSet
from vinegate.core.wording import spoken
from vinegate.exchange.columns import names_in, paths


def entered(
    circuits: Sequence[tuple[str, Mapping[str, Any]]], job: Mapping[str, Any], rules: RuleSet
) -> tuple[list[str], list[list[str]]]:
    """Heads and rows of circuits (tag and facts as typed): a column for each fact that one of them has, in the order
    of the sheets, with its path in its head; a choice by its word, a board or area by its name.

    What was recorded on site is not among them, as in `columns.paths`.
    """
    facts = paths()
    used = [path for path in facts if any(typed_at(circuit, path) for _, circuit in circuits)]
    dialect = rules.words.dialect
    named = {fact.listed: _by_key(job, fact.listed) for path in used if (fact := facts[path]).listed}
    heads = ["Tag", *(f"{spoken(facts[path].label_for(rules.name), dialect)} [{path}]" for path in used)]
    rows = [
        [tag, *(_shown(typed_at(circuit, path), facts[path], named, dialect) for path in used)]
        for tag, circuit in circuits
    ]
    return heads, rows


def _by_key(job: Mapping[str, Any], kind: str) -> dict[str, str]:
    """Names of boards or areas by their keys; of two of one name the last has it, as it is read."""
    return {key: name for name, key in names_in(job, kind).items()}


def _shown(text: str, fact: Fact, named: Mapping[str, Mapping[str, str]], dialect: str) -> str:
    if fact.listed:
        return named[fact.listed].get(text, text)
    word = dict(fact.offered).get(text)
    return text if word is None else spoken(word, dialect)
