"""A rating that is entered without its kind of device: judged over the kinds that it may be of."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Final

from vinegate.core.grade import Gate, over, rule
from vinegate.core.protection.bands import Band
from vinegate.core.protection.need import Device, Need
from vinegate.core.records import dataclass, replace
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet

DEVICE: Final = "short-circuit device"


@dataclass(frozen=True, slots=True, kw_only=True)
class Otherwise:
    """The same circuit with a device of another kind: what is sized from it there, its row and its band."""

    need: Need
    row: Device
    band: Band | None


def otherwise(need: Need, rules: RuleSet) -> Mapping[str, Otherwise]:
    """With each other kind of device, by its name; none where the kind is said, or no rating is entered."""
    found = {}
    for name, other in rules.other_kinds(need).items():
        row, band = rules.short_circuit(Sheet("protection", ""), other)
        found[name] = Otherwise(need=other, row=row, band=band)
    return found


def over_kinds(
    row: Device, rules: RuleSet, taken: str, others: Mapping[str, Otherwise], row_of: Callable[[Otherwise], Device]
) -> Device:
    """A row with its gates over what `row_of` finds with the other kinds; `taken` is the kind taken for it."""
    if not others:
        return row
    there = {name: row_of(other).gates for name, other in others.items()}
    return replace(row, gates=gates_over(row.gates, rules.device_fact, DEVICE, taken, there))


def gates_over(
    gates: Sequence[Gate], path: str, label: str, taken: str, there: Mapping[str, Sequence[Gate]]
) -> tuple[Gate, ...]:
    """Each gate that weighs, over those of its key for the other words of the fact at `path`; where a word has no such
    gate, nothing is asked with it.
    """
    words = {taken: gates, **there}
    by_key = {word: {gate.key: gate for gate in found if gate.weighs} for word, found in words.items()}
    keys = dict.fromkeys(key for found in by_key.values() for key in found)

    def over_words(key: str) -> Gate:
        some = next(found[key] for found in by_key.values() if key in found)
        unasked = rule(key, some.name, True, some.sentence, some.source)
        return over(path, label, taken, {word: found.get(key, unasked) for word, found in by_key.items()})

    beside = (gate for gate in gates if not gate.weighs)
    return (*map(over_words, keys), *beside)
