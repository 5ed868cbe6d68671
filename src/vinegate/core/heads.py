"""The units that a table's head names, for columns that are typed or pasted."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Final

from vinegate.core.numbers import QuantityError

Known = Sequence[tuple[str, str]]
"""Units with the words that stand for them, as regular expressions; a column's own name is that of its usual unit."""

PERCENT: Final = ("%", r"%|pct|percent|per cent")
_BRACKETS: Final = re.compile(r"[\[(]\s*([^\])]*?)\s*[\])]")
_BEHIND: Final = re.compile(r"(?:[\s_,/]+|in )([^\s_,/]+)\s*$")


def columns(line: str) -> list[str]:
    """The heads in a line: parted by semicolons, tabs or commas, else by blanks that stand before no unit.

    >>> columns("speed (%) torque (%)"), columns("n; T [N·m]")
    (['speed (%)', 'torque (%)'], ['n', 'T [N·m]'])
    """
    marks = r"\s*[;\t,]\s*" if re.search(r"[;\t,]", line) else r"\s+(?![\[(%])"
    return re.split(marks, line.strip())


def unit_of(head: str, known: Known, of: str) -> str:
    """The unit in brackets or behind the name, else the name itself. Raises QuantityError for one that is not known.

    >>> known = (("N·m", "nm|t"), ("lb-ft", "lb-ft"))
    >>> unit_of("T [lb-ft]", known, "torque"), unit_of("T", known, "torque")
    ('lb-ft', 'N·m')
    """
    said = _BRACKETS.search(head) or _BEHIND.search(head.strip())
    text = (said.group(1) if said else "%" if "%" in head else head).strip()
    found = next((unit for unit, words in known if re.fullmatch(words, text, re.IGNORECASE)), None)
    if found is None:
        names = ", ".join(unit for unit, _ in known if unit)
        raise QuantityError(f"“{head.strip()}”: the unit “{text}” of {of} is not known; {names} are.")
    return found
