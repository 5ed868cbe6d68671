"""A plate as it is pasted: labels and values in any order, one line or many, a table of two rows too."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cache
from typing import Final

from vinegate.core.facts import RuleSetName
from vinegate.core.plate.facts import Plate
from vinegate.core.shelf import code_at, marked_in
from vinegate.core.typeset import typed
from vinegate.exchange.columns import WORDS_OF, plain
from vinegate.exchange.plate_field import CODED, NUMBERED, read_from, with_unit
from vinegate.exchange.plate_machine import machine_of
from vinegate.exchange.plate_other import set_apart
from vinegate.exchange.plate_table import unfolded
from vinegate.exchange.plate_words import (
    AHEAD,
    APART,
    COUNTED,
    COUNTS,
    DELTA_WYE,
    FIELDS,
    KINDS,
    NUMBER,
    OTHERS,
    PLAIN,
    SIDES,
    TWO_WINDINGS,
    UNITS,
    WINDINGS,
    WORD,
)

_SHARE: Final = re.compile(r"\d+(?:[.,]\d+)?%?")
_SHORT: Final = 1
_SYMBOLS: Final = ("U", "I", "P", "n", "f", "u", "i", "p")
_LETTERS: Final = ("v", "a", "p", "n", "u", "i", "f")
_MOST: Final = 4000
_LONGEST_LABEL: Final = 4
_USABLE: Final = re.compile(
    r"\bus(?:able|e)\s+(?:at|on)\s+(\d{3})\s*V?(?:olts?)?\b(?:\s*(?:at|,|-|:)?\s*(\d[\d.]*\s*A(?:mp(?:ere)?s?)?)\b)?",
    re.I,
)
_PROTECTED: Final = re.compile(r"\bthermal(?:ly)?[\s-]?protected(?:\s+type\s+[A-Z]\b|\s+(?:auto\w*|manual\w*))?", re.I)


@dataclass(slots=True)
class PlateRead:
    """Texts by field as on the plate, and the words that belong to no field; labels are those of the rule set."""

    rules: RuleSetName = RuleSetName.NEC
    texts: dict[str, str] = field(default_factory=dict)
    machine: dict[str, str] = field(default_factory=dict)
    """What is said of the machine behind it, by its fields."""
    left: list[str] = field(default_factory=list)
    beside: list[str] = field(default_factory=list)
    """What is known to be no rating of the motor's: its weight, its number, its heater."""
    phases: str = ""
    usable_at: str = ""
    """Volts beside its own, that belong to them."""
    doubtful: dict[str, str] = field(default_factory=dict)
    """What stands behind a field's label and is not read as it: left for the field where nothing else is its own."""

    def finish(self) -> None:
        """What stands apart from its volts and belongs to them: how they are joined, and what they may be used at. What
        is doubtful is its field's where no other is, to be mended there, but for words where a number belongs.
        """
        for name, value in self.doubtful.items():
            if name in self.texts or ((name not in CODED or name == NUMBERED) and not any(map(str.isdigit, value))):
                self.left.append(f"{Plate.fields()[name].label_for(self.rules)} {value}")
            else:
                self.texts[name] = value
        volts, joined = self.texts.get("volts", ""), [word for word in self.left if WINDINGS.fullmatch(word)]
        alone = re.fullmatch(r"\d+(?:/\d+)?(?:\s*V)?", volts)
        if alone and len(joined) == 1 and joined[0].count("/") == volts.count("/"):
            self.texts["volts"] = f"{volts.removesuffix('V').strip()} V {joined[0]}"
            self.left.remove(joined[0])
        if self.phases == "1" and volts and "kind" not in self.texts:  # which of one phase it does not say
            self.texts["volts"] = f"1~ {self.texts['volts']}"
        if self.usable_at and volts:
            self.texts["volts"] += f" usable at {self.usable_at}"

    def put(self, name: str, value: str, unit: str = "") -> None:
        """The first of a field stays; a bare number takes the unit its label names."""
        if not value:
            return
        if not name or name in self.texts:
            if value not in _SYMBOLS:
                self.left.append(f"{Plate.fields()[name].label_for(self.rules)} {value}" if name else value)
            return
        if name == "kind":  # phases: a plate of three or one does not say which machine it is
            said, _, rest = value.partition(" ")
            counted = COUNTED.get(said.casefold(), said)
            self.phases, rest = (counted, rest) if counted in COUNTS else (self.phases, value)
            self.left += [rest] if rest else []
            return
        more = re.fullmatch(r"([\d.,/]+%?) ([A-Za-z].*)", value) if name in PLAIN else None
        if more is not None:  # what goes on behind a number of its own: SF 1.15 USABLE AT 208 V
            value = more[1]
            self.left.append(more[2])
        said, rest = read_from(name, value, unit)
        if said:
            self.texts[name] = said
            self.left += [rest] if rest else []
        elif name in self.doubtful:
            self.left.append(f"{Plate.fields()[name].label_for(self.rules)} {with_unit(value, unit)}")
        else:
            self.doubtful[name] = with_unit(value, unit)


@cache
def _labels() -> dict[str, str]:
    found: dict[str, str] = {}
    for name, fact in reversed([*Plate.fields().items()]):
        for word in (name, fact.symbol, fact.label_iec, fact.label):
            if word:
                found[plain(word)] = name
    for path, words in WORDS_OF.items():
        part, _, name = path.partition(".")
        if part == "plate":
            found |= dict.fromkeys(words.split(), name)
    names = {attribute: key for key, attribute in zip(Plate.fields(), Plate.model_fields, strict=True)}
    for attribute, words in OTHERS.items():
        found |= dict.fromkeys(words.split(), names[attribute])
    return {label: name for label, name in found.items() if len(label) > _SHORT or label in _LETTERS}


def read_plate(text: str, rules: RuleSetName = RuleSetName.NEC) -> PlateRead:
    """Fields by their labels in either dialect, by units behind numbers, and by codes that say what they are.

    >>> read_plate("HP 75  RPM: 1185\\nVolts\\t230/460\\nFLA=184/92").texts
    {'power': '75 hp', 'speed': '1185 rpm', 'volts': '230/460', 'full_load_current': '184/92'}
    >>> found = read_plate("22 kW, 1470 rpm, cooled by oil, serial 7")
    >>> found.left, found.beside
    (['cooled by oil'], ['serial 7'])
    >>> read_plate("75HP 460V SF1.15 DES B INS CL F").texts
    {'power': '75 hp', 'volts': '460', 'service_factor': '1.15', 'design_letter': 'B', 'insulation_class': 'F'}
    """
    found = PlateRead(rules)
    lines = [line for line in typed(text[:_MOST]).splitlines() if line.strip()]
    if len(lines) == 2 and all(line.count("\t") >= 2 for line in lines):
        heads, values = (line.split("\t") for line in lines)
        lines = [f"{head}: {value}" for head, value in zip(heads, values, strict=False) if value.strip()]
    for at, whole in enumerate(unfolded(lines, lambda word: _label_at([word, "1"], 0)[1])):
        line, again = machine_of(_usable(_protected(whole, found), found), found.machine)
        line, beside = set_apart(line, first=at == 0)
        found.left += again
        found.beside += beside
        mark = marked_in(line)
        if mark is not None:
            marking = line[mark.begins : mark.ends]
            found.put("ex_marking" if re.search(r"\b(?:A|E)?Ex", marking) else "listing", marking)
        for part in (line,) if mark is None else (line[: mark.begins], line[mark.ends :]):
            for one in _parts(part):
                _Line(one, found).read()
    found.finish()
    _base_speed(found)
    return found


def _usable(line: str, found: PlateRead) -> str:
    """A line without the volts that it may be used at beside its own; the amperes there have no field.

    >>> read_plate("VOLTS 230/460 AMPS 68/34\\nUSABLE AT 208V 75 AMPS").texts["volts"]
    '230/460 usable at 208'
    """
    said = _USABLE.search(line)
    if said is None:
        return line
    found.usable_at, rest = said[1], (said[2] or "").strip()
    if rest:
        found.left.append(f"{rest} at {said[1]} V")
    return line[: said.start()] + line[said.end() :]


def _protected(line: str, found: PlateRead) -> str:
    """A line without its words of thermal protection: they may end in a letter that is no amperes."""
    said = _PROTECTED.search(line)
    if said is None:
        return line
    found.put("thermal_protection", said[0].strip())
    return line[: said.start()] + line[said.end() :]


def _parts(line: str) -> list[str]:
    """What stands between commas, each by itself: "92 FLA, 3 PH". A number alone goes with what is ahead of it."""
    parts: list[str] = []
    joined = TWO_WINDINGS.sub(r"\1\2/\3\4", line)
    if not re.search(r"[^\d\s]\s+/\s|\s/\s+[^\d\s]", joined):  # else it parts what is stamped
        joined = re.sub(r"(?<=\d)\s+/\s+(?=\d)", "/", joined)
    for part in re.split(r"[;|]|,(?!\d)|\s/\s|(?<!\d)\s[–-]\s", joined):
        if parts and NUMBER.fullmatch(part.strip()):
            parts[-1] += f" {part}"
        elif part.strip():
            parts.append(part)
    return parts


def _base_speed(found: PlateRead) -> None:
    """Of a DC machine's base and top speed the first goes with its power and volts; the other has no field.

    >>> read_plate("DC SHUNT 20 HP 1750/2300 RPM").texts["speed"], read_plate("4 HP 1750/1160 RPM").texts["speed"]
    ('1750 rpm', '1750/1160 rpm')
    """
    both = re.fullmatch(r"(\d+)/(\d+) rpm", found.texts.get("speed", ""))
    if both is not None and found.texts.get("kind", "").startswith("dc-"):
        found.texts["speed"] = f"{both[1]} rpm"
        found.left.append(f"{both[2]} rpm")


class _Line:
    """One line, word by word: what is being named, and the words of its value so far."""

    def __init__(self, line: str, found: PlateRead) -> None:
        for pattern, apart in APART:
            line = pattern.sub(apart, line)
        said = [(clean, bool(match[2])) for match in WORD.finditer(line) if (clean := match[1].rstrip(",."))]
        self.words, self.labels = [word for word, _ in said], {at for at, (_, label) in enumerate(said) if label}
        self.found, self.name, self.unit, self.value, self.last = found, "", "", list[str](), ""
        self.side = dict[str, str]()

    def read(self) -> None:
        place = 0
        while place < len(self.words):
            place += self._step(place)
        self._flush()

    def _step(self, place: int) -> int:
        word = self.words[place]
        for count in range(4, 0, -1):
            named = KINDS.get(plain("".join(self.words[place : place + count])))
            if named and place + count <= len(self.words) and (self.value or not self.name):
                self._flush()
                self.found.texts.setdefault("kind", named)
                return count
        if self._designated(place):
            return 1
        if self.name in PLAIN and not self.value and _SHARE.fullmatch(word):
            self.value.append(word)  # a label's own number is no part of a code: EFF 78 % S3-40 %
            return 1
        count, kind, code = code_at(self.words, place)
        labelled, label = (0, "") if self._article(word, place) else _label_at(self.words, place)
        if label == "code_letter" and not self._letter_follows(place + labelled):
            labelled, label = 0, ""
        if self._answers(word, count, label):
            self.value.append(word)
            return 1
        if kind and count >= labelled and not (label and count == 1) and not self._goes_on(kind):
            return self._coded(place, count, kind, code)
        if not label:
            return self._plain(word)
        unit = UNITS.get(plain(word), "") if labelled == 1 else ""
        if place + labelled - 1 in self.labels:
            self._flush()
            self.name, self.unit = label, unit
            return labelled
        if (unit or label in AHEAD) and self._trailing(label, unit):
            return labelled
        if label == "kind" and self._phases_ahead(place + labelled):
            self.found.phases = self.value.pop()
            return labelled
        if self._ends_it(place + labelled):
            self._flush(label)
            return labelled
        self._flush()
        self.name, self.unit = label, unit
        return labelled

    def _letter_follows(self, after: int) -> bool:
        """A code or a kVA is that of a rotor at rest beside a letter alone: not a maker's code, nor a number's unit."""
        return after < len(self.words) and len(self.words[after]) == 1

    def _phases_ahead(self, after: int) -> bool:
        """3 PHASE, also behind another label's value: VOLTS 460 3 PH; not PH 3, whatever stands ahead of that, unless
        what follows has a unit of its own: 3 PH 1 HP.
        """
        behind, unit = (*self.words[after : after + 2], "", "")[:2]
        own = len(self.value) > 1 or not self.name
        return bool(self.value) and own and self.value[-1] in COUNTS and (behind not in COUNTS or plain(unit) in UNITS)

    def _designated(self, place: int) -> bool:
        """Volts of a delta and its wye say what they are without a unit behind them: 400Δ/690Y 40/23 A."""
        waits = self.name and not self.value  # a label for its value
        unit = plain((*self.words[place + 1 : place + 2], "")[0])
        if waits or unit in ("v", "volt", "volts") or not DELTA_WYE.fullmatch(self.words[place]):
            return False
        self._flush()
        self.found.put("volts", self.words[place])
        return True

    def _article(self, word: str, place: int) -> bool:
        """Ahead of a number "a" stands for amperes only where labels stand ahead: a 10 HP motor."""
        return word == "a" and place > 0 and not self.name and not (self.value and NUMBER.fullmatch(self.value[-1]))

    def _answers(self, word: str, count: int, label: str) -> bool:
        """A single letter behind a label is its value: design N, class F."""
        return bool(self.name and label) and not self.value and count == 1 and len(word) <= _SHORT

    def _goes_on(self, kind: str) -> bool:
        """Whether a code is the value of the label before it, which may go on: enclosure TEFC, duty S3 40 %."""
        return FIELDS.get(kind) == self.name and not self.value and kind not in ("enclosure", "duty")

    def _coded(self, place: int, count: int, kind: str, code: str) -> int:
        name = FIELDS.get(kind) or {"capacitor": "start_capacitor" if "-" in code else "run_capacitor"}.get(kind, "")
        pending = self.name if self.name != name or self.value else ""
        self._flush(pending)
        self.found.put(name, code)
        after = self.words[place + count] if place + count < len(self.words) else ""
        if kind == "efficiency" and re.fullmatch(r"\d{2}(?:[.,]\d+)?%", after):
            self.found.put("efficiency", after)
            return count + 1
        return count

    def _plain(self, word: str) -> int:
        if WINDINGS.fullmatch(word) and not self.name and not self.value and self.last == "volts":
            self.found.texts["volts"] += f" V {word}"
        else:
            self.value.append(word)
        return 1

    def _trailing(self, label: str, unit: str) -> bool:
        """A number ahead of its unit: 75 hp. Of a label's two numbers the second is the unit's: SF 1.15 460 V."""
        numbers = 0
        fits: Callable[[str], object] = NUMBER.fullmatch if unit else AHEAD[label]
        while numbers < len(self.value) and fits(self.value[-1 - numbers]):
            numbers += 1
        ours = self.name in ("", label)
        if not numbers or not (ours or len(self.value) > 1):
            return False
        taken = self.value[-numbers:] if ours else self.value[-1:]
        self.value = self.value[: len(self.value) - len(taken)]
        name = self.name if not ours else ""
        if self.value and self.value[-1].casefold() in SIDES:
            self.side = dict(SIDES[self.value.pop().casefold()])
        self._flush(name)
        label = self._of_side(label)
        self.last = label if label not in self.found.texts else ""
        self.found.put(label, " ".join(taken), unit)
        return True

    def _ends_it(self, end: int) -> bool:
        """Whether a label is the last of its part, and its value stands ahead of it: 92 FLA, 1.15 SF."""
        return end == len(self.words) and not self.name and len(self.value) == 1 and self.value[0][:1].isdigit()

    def _of_side(self, label: str) -> str:
        """Behind its word, volts and amperes are those of a rotor, a field or an armature: one of each."""
        if label not in self.side:
            self.side = {}
        return self.side.pop(label, label)

    def _flush(self, name: str | None = None) -> None:
        self.found.put(self.name if name is None else name, " ".join(self.value), self.unit)
        self.name, self.unit, self.value = "", "", []


def _label_at(words: list[str], place: int) -> tuple[int, str]:
    """How many words from here are a label, and the field it names; the longest label first."""
    for count in range(min(_LONGEST_LABEL, len(words) - place), 0, -1):
        phrase = words[place : place + count]
        name = _labels().get(plain("".join(phrase)))
        if name and all(map(plain, phrase)) and (len(phrase[0]) > _SHORT or count > 1 or _by_a_number(words, place)):
            return count, name
    return 0, ""


def _by_a_number(words: list[str], place: int) -> bool:
    """A letter alone is a label beside its figure: "a" is a word elsewhere."""
    beside = (*words[place - 1 : place], *words[place + 1 : place + 2])
    return any(NUMBER.fullmatch(word) or WINDINGS.fullmatch(word) for word in beside)
