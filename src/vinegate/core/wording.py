"""One thing in two dialects: the phrases that are said otherwise where another rule set is used."""

from __future__ import annotations

import re
from functools import cache, lru_cache

from vinegate.core.tables import load


@cache
def dialects() -> tuple[str, ...]:
    """The columns of the table of phrases, one a dialect."""
    return tuple(column for column in load("wording").columns if column != "phrase")


@cache
def _phrases(dialect: str) -> tuple[re.Pattern[str], dict[str, str]]:
    """The dialect's phrases as one pattern, the longest first, and what each becomes."""
    said = {row["phrase"]: row[dialect] for row in load("wording").rows if row.get(dialect)}
    if not said:
        return re.compile(r"(?!)"), {}
    longest = sorted(said, key=len, reverse=True)
    parts = (re.escape(one) if not one.isalpha() else rf"\b{one}\b" for one in longest)
    return re.compile("|".join(parts)), said


@lru_cache(maxsize=8192)
def spoken(text: str, dialect: str) -> str:
    """A text in a dialect's words; as it is in one that the table does not have.

    >>> spoken("In wye it has a third of its locked-rotor torque.", "iec")
    'In star it has a third of its starting torque.'
    >>> spoken("Locked-rotor test: volts", "iec"), spoken("grounded", "iec"), spoken("ungrounded line", "iec")
    ('Locked-rotor test: volts', 'earthed', 'unearthed line')
    """
    pattern, said = _phrases(dialect)
    return pattern.sub(lambda match: said[match.group(0)], text)


def inside(name: str) -> str:
    """A name within a sentence: its first letter small, but that of a word in capitals; what it names keeps its own.

    >>> inside("Dip at the board"), inside("SF amperes"), inside("X/R"), inside("Sensitive load at Digester MCC")
    ('dip at the board', 'SF amperes', 'X/R', 'sensitive load at Digester MCC')
    """
    first = name.partition(" ")[0]
    capitals = first == "Ex" or any(letter.isupper() for letter in first[1:])
    return name if capitals else f"{name[:1].lower()}{name[1:]}"
