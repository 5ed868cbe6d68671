"""The units that a table's head names, for columns that are typed or pasted."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from typing import Final

from vinegate.core.numbers import QuantityError
from vinegate.core.typeset import typed

Known = Sequence[tuple[str, str]]
"""Units with the words that stand for them, as regular expressions; a column's own name is that of its usual unit."""

PERCENT: Final = ("%", r"%|pct|percent|per cent")
RPM: Final = ("rpm", r"rpm|r\.?p\.?m|r/min|revs?/min|u/min|min-1|min\^-1|min⁻¹|1/min")
TORQUES: Final = (
    ("N·m", r"n[·.* -]?m|newton[ -]?met(?:re|er)s?"),
    ("kN·m", r"kn[·.* -]?m"),
    ("lb-ft", r"(?:lb|ft|lbf|lbs|foot|pound)[·.* -]{0,2}(?:lb|ft|lbf|lbs|f|foot|feet|pounds?)"),
)
TIMES: Final = {"lb-ft": 1.3558179483314004, "kN·m": 1000.0, "kA": 1000.0}
"""N·m, A of what is written in another unit; NIST SP 811, B.8 for the pound-foot."""
_BRACKETS: Final = re.compile(r"[\[(]\s*([^\])]*?)\s*[\])]")
_WORD: Final = (
    r"(?:full|load|rated|nominal|slip|schlupf|syn(?:c(?:hronous)?)?|base|speed|torque|current|amps?|amperes?|line|motor|shaft|rpm|"
    r"fl[tca]?|[ntmi]?_?[snr])"
)
_OF: Final = re.compile(rf"(?:%|pct\.?|per ?cent)\s*(?:of\s+)?(?:{_WORD}[\s_.-]*)*", re.I)
"""Per cent of what is usual for the column: of speed, of rated or full-load torque, current. Of anything else: not."""
_OF_RATED: Final = re.compile(r"([ntmi])\s*/\s*\1_?[snr]", re.I)


def columns(line: str) -> list[str]:
    """The heads in a line: parted by semicolons, tabs or commas, else by two blanks, else by those before no unit.

    >>> columns("speed (%) torque (%)"), columns("n; T [N·m]"), columns("Speed rpm   Torque N·m")
    (['speed (%)', 'torque (%)'], ['n', 'T [N·m]'], ['Speed rpm', 'Torque N·m'])
    """
    if re.search(r"[;\t,]", line):
        return re.split(r"\s*[;\t,]\s*", line.strip())
    return re.split(r"\s{2,}" if re.search(r"\S\s{2,}\S", line) else r"\s+(?![\[(%])", line.strip())


def cells_of(line: str) -> list[str]:
    """The values of a row: parted by semicolons or tabs, else by blanks, else by commas.

    >>> cells_of("0,5; 10"), cells_of("0,5 10"), cells_of("50, 10"), cells_of("50,10")
    (['0,5', '10'], ['0,5', '10'], ['50', '10'], ['50', '10'])
    """
    cells: list[str] = []
    for pattern in (r"[;\t]", r",?\s+", r","):
        cells = [cell.strip() for cell in re.split(pattern, line.strip()) if cell.strip()]
        if len(cells) > 1:
            break
    return cells


def lines_of(text: str) -> list[str]:
    """The rows of a table: by lines or bars; one line alone by semicolons, where two values stand between them.

    >>> lines_of("0,10; 50,30"), lines_of("0; 10"), lines_of("0 10|50 30")
    (['0,10', '50,30'], ['0; 10'], ['0 10', '50 30'])
    """
    lines = re.split(r"[\r\n|]+", typed(text).strip())
    parts = [part for part in re.split(r"\s*;\s*", lines[0]) if part] if len(lines) == 1 else []
    return parts if len(parts) > 1 and all(re.search(r"\d%?\s*[,\s]\s*\d", part) for part in parts) else lines


def unit_of(head: str, known: Known, of: str) -> str:
    """The unit in brackets, behind the name or before it, else the name itself. Raises QuantityError for another.

    >>> known = (("N·m", "nm|t"), ("lb-ft", "lb.ft"), PERCENT)
    >>> unit_of("T [lb-ft]", known, "torque"), unit_of("T", known, "torque"), unit_of("% Torque", known, "torque")
    ('lb-ft', 'N·m', '%')
    """
    said = list(_said(head.strip()))
    for text in said:
        for unit, words in known:
            if re.fullmatch(words, text, re.IGNORECASE):
                return unit
    names = ", ".join(unit for unit, _ in known if unit)
    raise QuantityError(f"“{head.strip()}”: the unit “{said[0]}” of {of} is not known; {names} are.")


def _said(head: str) -> Iterator[str]:
    """What may be the unit, the likeliest first."""
    brackets = _BRACKETS.search(head)
    text = brackets.group(1) if brackets else head
    if "%" in text or re.search(r"\b(?:pct|per ?cent)\b", text, re.I):
        around = re.sub(r"(%|\bpct\b\.?|\bper ?cent\b)", " ", text, flags=re.I).strip(" _-,/")
        sure = _OF.fullmatch(f"% {around}") or re.fullmatch(r"[ntmi]", around, re.I)
        yield "%" if sure else text
    elif _OF_RATED.fullmatch(text):
        yield "×"
    elif brackets:
        yield text.rstrip(".")
    else:
        words = [one for one in re.split(r"[\s_,/]+|(?<=\d)in (?=\w)", text) if one]
        yield from ([words[-1].rstrip("."), " ".join(words[-2:]).rstrip(".")] if words else [])
        yield text
        yield text.rpartition(" in ")[2] or text
