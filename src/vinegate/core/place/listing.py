"""Listings by class, division and group: read into parts, and written again; and any marking of a plate."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.place.ex_mark import ExMark, compose_ex, parse_ex
from vinegate.core.records import dataclass, replace


@dataclass(frozen=True, slots=True, kw_only=True)
class Listed:
    """One class of a listing; `division` empty where the plate names none, which stands for both."""

    hazard_class: str
    division: str = ""
    groups: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Marking:
    """All a plate says of hazardous places. `temperature` is the listing's; `unread` what was not understood."""

    listed: tuple[Listed, ...] = ()
    temperature: str = ""
    ex: tuple[ExMark, ...] = ()
    unread: tuple[str, ...] = ()

    @property
    def empty(self) -> bool:
        return not (self.listed or self.ex)


def compose_listing(listed: tuple[Listed, ...], temperature: str = "") -> str:
    """The listing as it stands on a plate.

    >>> compose_listing((Listed(hazard_class="I", division="1", groups=("C", "D")),), "T3C")
    'Class I, Division 1, Groups C, D; T3C'
    """
    return "; ".join([*(_written(one) for one in listed), *([temperature] if temperature else [])])


def _written(one: Listed) -> str:
    parts = [f"Class {one.hazard_class}"]
    if one.division:
        parts.append(f"Division {one.division}")
    if one.groups:
        parts.append(f"Group{'s' if len(one.groups) > 1 else ''} {', '.join(one.groups)}")
    return ", ".join(parts)


def compose(marking: Marking) -> str:
    """Everything, listing first."""
    texts = [compose_listing(marking.listed, marking.temperature)] if marking.listed else []
    return " / ".join([*texts, *(compose_ex(mark) for mark in marking.ex)])


_CLASS: Final = re.compile(r"\bCL(?:ASS|\.)?\s*(III|II|I|[123])\b", re.I)
_ROMAN: Final = {"1": "I", "2": "II", "3": "III"}
_DIVISION: Final = re.compile(r"\bDIV(?:ISIONS?|S)?\.?\s*([12])(?:\s*(?:&|,|/|AND)\s*([12]))?", re.I)
_GROUPS: Final = re.compile(
    r"\b(?:GROUPS?|GRPS?|GPS?|GR)\.?\s*([A-G](?:\s*(?:,|&|/|AND)?\s*[A-G]\b)*|[A-G]{1,7}\b)", re.I
)
_HEAT: Final = re.compile(r"\b(?:TEMP(?:ERATURE)?\.?\s*)?(?:CODE\s*)?(T[1-6][A-D]?)\b", re.I)


def read_marking(text: str) -> Marking:
    """Read whatever stands on a plate: a listing, Ex markings, or both.

    >>> read_marking("CL I GP C & D, T3C").listed[0].groups, read_marking("C1D2, groups A-D").listed[0].groups
    (('C', 'D'), ('A', 'B', 'C', 'D'))
    >>> read_marking("ExdIIBT4").ex[0].group, read_marking("IECEx ABC 12.0001X Ex db IIB T4 Gb").ex[0].condition
    ('IIB', 'X')
    """
    plain = _spelled(text)
    listing, ex_text = _parted(plain)
    marks, unread = parse_ex(ex_text)
    listed, temperature, more = _listed(listing)
    if numbered := _NUMBER.search(plain):
        marks = tuple(mark if mark.condition else replace(mark, condition=numbered[1].upper()) for mark in marks)
    return Marking(listed=listed, temperature=temperature, ex=marks, unread=(*more, *unread))


_NUMBER: Final = re.compile(r"\b\d{3,5}\s?([XU])\b", re.I)
"""A certificate's number: X for conditions of use, U for a component (IEC 60079-0:2017 29)."""
_SHORT: Final = re.compile(r"\bC(I{1,3}|[123])[\s,]*D([12])\b", re.I)
_RANGE: Final = re.compile(r"\b([A-G])\s*[-–]\s*([A-G])\b", re.I)


def _spelled(text: str) -> str:
    """Short forms written out, and what is stamped without blanks parted."""
    plain = _SHORT.sub(r"CLASS \1 DIV \2", text)
    plain = _RANGE.sub(lambda ends: " ".join(_letters(*ends.groups())), plain)
    plain = re.sub(r"\b(AEx|EEx|Ex)(?=(?:[deopqmnti][a-cADR]?){1,3}(?:II|\s|\[))", r"\1 ", _lower(plain))
    return re.sub(r"(?<=[a-zA])(?=II[ABC]?\s*T\d)|(?<=II[ABC])(?=T\d)", " ", plain)


def _lower(text: str) -> str:
    """A plate in capitals alone: types of protection stand before the group, a level behind it.

    >>> _lower("EEX DE IIC T4 GB"), _lower("EXD IIB T3"), _lower("EX NA II T3"), _lower("II 2G EX DB IIB+H2 T4 GB")
    ('EEx de IIC T4 Gb', 'Exd IIB T3', 'Ex nA II T3', 'II 2G Ex db IIB+H2 T4 Gb')
    """

    def marked(found: re.Match[str]) -> str:
        kind, types, rest = found.groups()
        small = re.sub(r"\bn([acr])\b", lambda one: f"n{one[1].upper()}", types.lower())
        return kind[:-1] + "x" + small + re.sub(r"\b([GD])([ABC])\b", lambda one: one[1] + one[2].lower(), rest)

    return _CAPITALS.sub(marked, text)


_CAPITALS: Final = re.compile(
    r"\b(A?E?EX)((?:\s?(?:[DEMT][ABCD]?|N[ACR]?|I[ABC]|P[XYZ]?[BC]?|O[BC]?|Q|H))+)(?=\s*II)(.*)$"
)


def _letters(first: str, last: str) -> list[str]:
    return [chr(code) for code in range(ord(first.upper()), ord(last.upper()) + 1)]


def group_letters(text: str) -> tuple[str, ...]:
    """The NEC groups in a text, in order: letters alone or written together, not those of other words.

    >>> group_letters("groups C and D"), group_letters("A-D"), group_letters("EFG"), group_letters("none said")
    (('C', 'D'), ('A', 'B', 'C', 'D'), ('E', 'F', 'G'), ())
    """
    plain = _RANGE.sub(lambda ends: " ".join(_letters(*ends.groups())), text).upper()
    return tuple(sorted(set("".join(re.findall(r"\b[A-G]+\b", plain)))))


def _parted(text: str) -> tuple[str, str]:
    """What stands before the first Ex marking, with its class and zone, and the rest."""
    start = re.search(
        r"(?:CLASS\s+I\s*,?\s*ZONE\s*[012]\s*,?\s*)?(?:\bII?\s*[123]\s*G?D?\s+)?\b(?:AEx|EEx|Ex)\b", text, re.I
    )
    if start is None:
        return text, ""
    return text[: start.start()], text[start.start() :]


def _listed(text: str) -> tuple[tuple[Listed, ...], str, tuple[str, ...]]:
    starts = list(_CLASS.finditer(text))
    if not starts:
        heat = _HEAT.fullmatch(text.strip(" ,;/"))
        rest = "" if heat else text.strip(" ,;/")
        return (), heat.group(1).upper() if heat else "", (rest,) if rest else ()
    unread = [text[: starts[0].start()]]
    found, temperature = [], ""
    for number, start in enumerate(starts):
        ends = starts[number + 1].start() if number + 1 < len(starts) else len(text)
        body = text[start.end() : ends]
        division, groups, heat = _DIVISION.search(body), _GROUPS.search(body), _HEAT.search(body)
        numeral = start.group(1).upper()
        found.append(
            Listed(
                hazard_class=_ROMAN.get(numeral, numeral),
                division=_division(division),
                groups=tuple(sorted(set(re.findall(r"[A-G]", re.sub("AND", "", groups.group(1).upper())))))
                if groups
                else (),
            )
        )
        temperature = heat.group(1).upper() if heat else temperature
        for pattern in (_DIVISION, _GROUPS, _HEAT):
            body = pattern.sub(" ", body, count=1)
        unread.append(body)
    left = [word for part in unread for word in re.split(r"[\s,;:/&.]+", part) if word and word.upper() not in _FILLERS]
    return tuple(found), temperature, tuple(left)


_FILLERS: Final = ("AND", "LOC", "LOCATIONS", "HAZ", "HAZARDOUS", "FOR", "OP", "TEMP", "CODE")


def _division(match: re.Match[str] | None) -> str:
    """Both named is as none named: suitable for either."""
    if match is None or match.group(2):
        return ""
    return match.group(1)
