"""The shelf: what stands on a whole plate, each code found by itself, whatever stands beside it."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.codes import KIND_NAMES, Meaning, code_letter, decode
from vinegate.core.numbers import QuantityError
from vinegate.core.quantity import POWER, VOLTAGE, WATT_PER_HP
from vinegate.core.records import dataclass

_LABELS: Final = (
    ("insulation", r"INS(UL(ATION)?)?( (CLASS|CL))?|CLASS|CL|TH(ERMAL)?\.? ?CL(ASS)?"),
    ("tcode", r"(TEMP(ERATURE)?|T) ?(CODE|CLASS)|TEMP"),
    ("design", r"(NEMA )?DES(IGN)?( LETTER)?"),
    ("letter", r"(KVA )?CODE( LETTER)?"),
    ("frame", r"FR(AME)?( SIZE)?"),
    ("ip", r"IP"),
    ("cooling", r"IC|COOLING"),
    ("mounting", r"IM|MOUNTING"),
    ("enclosure", r"ENCL(OSURE)?"),
    ("thermal", r"TP|THERMAL(LY)?( PROT(ECT(ION|ED|OR))?)?"),
    ("cabinet", r"NEMA|(NEMA )?TYPE"),
)
"""What stands before a code and says which kind it is of."""
_PHRASES: Final = ("duty", "capacitor", "rotation", "thermal", "enclosure")
_IDLE: Final = re.compile(
    r"what|does|mean|is|a|the|at|code|class|frame|insulation|of|on|and|hp|kw|v|no|not|none|nil|n/a|yes|without|blower"
    r"|standard|high",
    re.I,
)
_UNREAD: Final = "not understood"


def shelf(question: str) -> tuple[Meaning, ...]:
    """Find what a question asks about: codes anywhere in it, of any kind that reads them.

    >>> [m.part for m in shelf("what does IP55 IC411 mean")]
    ['IP5', 'IP_5', 'IC411']
    >>> [m.kind for m in shelf("TEFC 1/2 HR INS F CODE G")]
    ['letter', 'enclosure', 'duty', 'insulation']
    """
    mark = marked_in(question)
    if mark is None:
        return tuple(dict.fromkeys([*_letter_in_words(question), *_of(_codes(question))]))
    codes = _codes(" ".join([*mark.strange, question[mark.ends :]]))
    close = (codes[0][0] if codes else question[mark.ends :]).replace("?", " ").split()
    found = [
        *_letter_in_words(question),
        *(one for said in mark.says for one in decode("ip", said.part) or (said,)),
        *(one for one in mark.doubts if one.part in close and not _IDLE.fullmatch(one.part)),
        *_of(_codes(question[: mark.begins])),
        *_of(codes),
    ]
    return tuple(dict.fromkeys(found))


def _of(codes: list[tuple[str, tuple[Meaning, ...]]]) -> list[Meaning]:
    return [one for _, meanings in codes for one in meanings]


def _codes(text: str) -> list[tuple[str, tuple[Meaning, ...]]]:
    """Each code in turn, with what stands before it and is none."""
    words = [clean for word in re.split(r"[\s,;?=:]+", text) if (clean := word.rstrip("."))]
    found, index, idle = [], 0, ""
    while index < len(words):
        taken, meanings = _at(words, index)
        if meanings:
            found.append((idle, meanings))
        idle = "" if meanings else f"{idle} {words[index]}"
        index += taken
    return found


_OF_DUTY: Final = re.compile(
    r"S\s?\d+\S*|CONT\S*|INT\S*|DUTY\S*|ED|TIME|RATING|[\d.,/½]+\S?%?|%|MIN\S*|H|H(?:OU)?RS?\.?|CMR|[-–/]"
)
"""Words that a duty is made of: an efficiency behind it is another's share."""


def code_at(words: list[str], index: int) -> tuple[int, str, str]:
    """The code at this word: how many words it takes, its kind, and the code without what only says its kind; none
    where there is none.

    >>> code_at(["INS", "CL", "F", "IP", "55"], 0), code_at(["IP", "55"], 0), code_at(["serial"], 0)
    ((3, 'insulation', 'F'), (2, 'ip', 'IP 55'), (1, '', ''))
    """
    count, meanings = _at(words, index)
    if not meanings:
        return 1, "", ""
    phrase, kind = words[index : index + count], meanings[0].kind
    labelled = count > 1 and kind not in ("ip", "cooling", "mounting") and _labelled(phrase) == meanings
    return count, kind, phrase[-1] if labelled else " ".join(phrase)


def _at(words: list[str], index: int) -> tuple[int, tuple[Meaning, ...]]:
    """What stands at this word: a code of several words before one of a single word. Returns how many it took."""
    for count in (5, 4, 3, 2):
        phrase = words[index : index + count]
        if len(phrase) < count:
            continue
        for kind in _PHRASES:
            meanings = decode(kind, " ".join(phrase))
            if meanings and _needs_all(kind, phrase, _says(meanings)):
                return count, meanings
        if meanings := _labelled(phrase):
            return count, meanings
    return 1, () if _IDLE.fullmatch(words[index]) else _any_kind(words[index])


def _needs_all(kind: str, phrase: list[str], says: tuple[str, ...]) -> bool:
    """Whether fewer words say something else; a rotation's "ODE", the V behind a
    capacitor's volts and a duty's minutes belong to it.
    """
    if kind == "duty" and not all(_OF_DUTY.fullmatch(word.upper()) for word in phrase):
        return False
    last = phrase[-1].upper()
    belongs = kind == "rotation" or (kind == "capacitor" and last in ("V", "VAC")) or (kind == "duty" and last == "MIN")
    return _said(kind, phrase[1:]) != says and (belongs or _said(kind, phrase[:-1]) != says)


def _says(meanings: tuple[Meaning, ...]) -> tuple[str, ...]:
    return tuple(meaning.text for meaning in meanings)


def _said(kind: str, words: list[str]) -> tuple[str, ...]:
    """What fewer words say: where that is the same, the word left out is none of the code's."""
    return _says(decode(kind, " ".join(words)))


def _labelled(phrase: list[str]) -> tuple[Meaning, ...]:
    """A code of one word after words that say its kind."""
    label, code = " ".join(phrase[:-1]).upper(), phrase[-1]
    for kind, words in _LABELS:
        if re.fullmatch(words, label):
            meanings = decode(kind, f"{label} {code}") or decode(kind, code)
            if meanings:
                return meanings
    return ()


def _any_kind(word: str) -> tuple[Meaning, ...]:
    """A single letter says nothing by itself: it needs the word before it."""
    if len(re.sub(r"\W", "", word)) < 2 or re.fullmatch(r"[\d.,/½¼¾-]+", word):
        return ()
    found: list[Meaning] = []
    for kind in KIND_NAMES:
        if kind not in ("letter", "marking"):
            found += decode(kind, word)
    return tuple(found)


def _letter_in_words(question: str) -> tuple[Meaning, ...]:
    """`code H at 15 hp 230 V`: the letter with power, volts and phases from the same words."""
    match = re.search(r"\bcode(?:\s+letter)?[\s:]+([A-Z])\b", question, re.I)
    if not match:
        return ()
    power = re.search(r"([\d.,/\s½¼¾]*\d)\s*(hp|kw)\b", question, re.I)
    volts = re.search(r"([\d.,]+)\s*k?v(?:olts?)?\b", question, re.I)
    single = bool(re.search(r"single|1\s*-?\s*(?:ph|phase|~)", question, re.I))
    try:
        hp = POWER.read(power.group(0).strip()) / WATT_PER_HP if power else None
        at = VOLTAGE.read(volts.group(0)) if volts else None
    except QuantityError:
        hp = at = None
    return code_letter(match.group(1), hp, at, 1 if single else 3)


_MARKING_STARTS: Final = re.compile(
    r"(?:\bCL(?:ASS|\.)?\s*(?:I{1,3}|[123])\b|\bII?\s*[123]\s*G?D?\s+Ex\b"
    r"|\b(?:AEx|EEx|Ex)(?=\s|[\[(]|(?-i:(?:[di][abc]?|[em][abc]?|n[ACLRac]*|p[xyzvbcD]*|o[abcp]|[qs]|t[abcD]?)+(?![a-z.]))"
    r"|[DEINMPQST]{1,4}[ABC]?\s*II))", re.I
)  # fmt: skip
"""Behind Ex its protections, glued or not: explosion proof and an external fan are words."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Marked:
    """A marking for hazardous areas within a text: where it stands, what it says, the words in it that are none of it,
    and what would be said of all that is not understood behind its begin.
    """

    begins: int
    ends: int
    says: tuple[Meaning, ...]
    strange: tuple[str, ...]
    doubts: tuple[Meaning, ...]


def marked_in(text: str) -> Marked | None:
    """The first; None where there is none.

    >>> found = marked_in("4 kW Ex eb IIC T3 Gb 5.5 kW")
    >>> "4 kW Ex eb IIC T3 Gb 5.5 kW"[found.begins : found.ends]
    'Ex eb IIC T3 Gb'
    """
    start = _MARKING_STARTS.search(text)
    whole = text[start.start() :].rstrip(" ?") if start else ""
    meanings = decode("marking", whole) if whole else ()
    if start is None or not meanings:
        return None
    doubts = tuple(meaning for meaning in meanings if meaning.text.startswith(_UNREAD))
    words = list(re.finditer(r"[^\s,;]+", whole))
    strange = [_strange(word[0], {doubt.part for doubt in doubts}) for word in words]
    count = _own(strange)
    ends = words[count - 1].end()
    says = tuple(one for one in decode("marking", whole[:ends]) if one not in doubts)
    within = tuple(word[0] for word, out in zip(words[:count], strange, strict=False) if out)
    return Marked(begins=start.start(), ends=start.start() + ends, says=says, strange=within, doubts=doubts)


def _strange(word: str, unread: set[str]) -> bool:
    parts = [part for part in re.split(r"[:/&.]+", word) if part]
    return word in unread or (bool(parts) and unread.issuperset(parts))


def _own(strange: list[bool]) -> int:
    """How many words a marking has: to the last that is its own, with no more than one between that is not."""
    run = 0
    for index, it_is in enumerate(strange):
        run = run + 1 if it_is else 0
        if run > 1:
            return max(index - 1, 1)
    return max(len(strange) - run, 1)
