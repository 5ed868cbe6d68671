"""A plate as it is pasted: labels and values in any order, one line or many, a table of two rows too."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Final

from vinegate.core.plate.facts import Plate
from vinegate.core.tables import load
from vinegate.exchange.spreadsheet import WORDS_OF, plain

_SHORT: Final = 1
_LETTERS: Final = ("v", "a", "p", "n")
_MOST: Final = 4000
_LONGEST_LABEL: Final = 4
_UNITS: Final = {"hp": "hp", "kw": "kW", "rpm": "rpm", "hz": "Hz", "v": "V", "volts": "V", "a": "A", "amps": "A"}
_OTHERS: Final = {
    "frame": "fr", "insulation_class": "ins insclass insulation", "ambient_c": "amb maxamb", "protection": "ip",
    "efficiency_pu": "nomeff nomefficiency", "kind": "ph phase", "code_letter": "kvacode", "enclosure": "encl enc",
}  # fmt: skip


@dataclass(slots=True)
class PlateRead:
    """Texts by field as on the plate, and the words that belong to no field."""

    texts: dict[str, str] = field(default_factory=dict)
    left: list[str] = field(default_factory=list)


def _labels() -> dict[str, str]:
    found: dict[str, str] = {}
    for name, fact in reversed(Plate.fields().items()):
        for word in (name, fact.symbol, fact.label_iec, fact.label):
            if word:
                found[plain(word)] = name
    for path, words in WORDS_OF.items():
        part, _, name = path.partition(".")
        if part == "plate":
            found |= dict.fromkeys(words.split(), name)
    names = {attribute: key for key, attribute in zip(Plate.fields(), Plate.model_fields, strict=True)}
    for attribute, words in _OTHERS.items():
        found |= dict.fromkeys(words.split(), names[attribute])
    return {label: name for label, name in found.items() if len(label) > _SHORT or label in _LETTERS}


def read_plate(text: str) -> PlateRead:
    """Fields by their labels in either dialect.

    >>> read_plate("HP 75  RPM: 1185\\nVolts\\t230/460\\nFLA=184/92").texts
    {'power': '75 hp', 'speed': '1185 rpm', 'volts': '230/460', 'full_load_current': '184/92'}
    >>> read_plate("22 kW, 1470 rpm, serial 7").left
    ['serial 7']
    """
    found, labels = PlateRead(), _labels()
    lines = [line for line in text[:_MOST].splitlines() if line.strip()]
    if len(lines) == 2 and all(line.count("\t") >= 2 for line in lines):
        heads, values = (line.split("\t") for line in lines)
        lines = [f"{head}: {value}" for head, value in zip(heads, values, strict=False) if value.strip()]
    for line in lines:
        _line(line, labels, found)
    return found


def _line(line: str, labels: dict[str, str], found: PlateRead) -> None:
    words = [word for word in re.split(r"[\s:=;|]+|,(?!\d)", line) if word]
    enclosures = {row["code"] for row in load("motor_enclosure").rows}
    name, unit, value, place = "", "", list[str](), 0
    while place < len(words):
        count, label = _label_at(words, place, labels)
        answers = bool(name) and not value and count == 1 and len(words[place]) <= _SHORT  # design N, class F
        if words[place].upper() in enclosures and not answers and not (name == "enclosure" and value):
            found.texts.setdefault("enclosure", words[place].upper())
            name, place = "" if name == "enclosure" else name, place + 1
            continue
        if not label or answers:
            value.append(words[place])
            place += 1
            continue
        trailing = count == 1 and plain(words[place]) in _UNITS and value and (not name or label == name)
        if trailing:  # a number ahead of its unit: 75 hp
            _put(found, label, " ".join(value), _UNITS[plain(words[place])])
            name, unit, value = "", "", []
        else:
            _put(found, name, " ".join(value), unit)
            name, value = label, []
            unit = _UNITS.get(plain(words[place]), "") if count == 1 else ""
        place += count
    _put(found, name, " ".join(value), unit)


def _label_at(words: list[str], place: int, labels: dict[str, str]) -> tuple[int, str]:
    """How many words from here are a label, and the field it names; the longest label first."""
    for count in range(min(_LONGEST_LABEL, len(words) - place), 0, -1):
        name = labels.get(plain("".join(words[place : place + count])))
        if name:
            return count, name
    return 0, ""


def _put(found: PlateRead, name: str, value: str, unit: str) -> None:
    """The first of a field stays; a bare number takes the unit its label names."""
    if not value:
        return
    if not name or name == "kind" or name in found.texts:
        found.left.append(value if not name else f"{name} {value}")
        return
    bare = re.fullmatch(r"[\d.,/ ½¼¾-]+", value) is not None
    if name == "protection" and re.fullmatch(r"\d\d", value):
        value = f"IP{value}"
    found.texts[name] = f"{value} {unit}" if unit in ("hp", "kW", "rpm", "Hz") and bare else value
