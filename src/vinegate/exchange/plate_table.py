"""A plate's block of ratings: a line of heads, and under it a row for each connection or frequency."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from typing import Final

_TURNS: Final = re.compile(r"(?:[rU1]|tr|rev)\s?/\s?min(?:-1|⁻¹)?|min\s?(?:-1|⁻¹)", re.I)
_FACTOR: Final = re.compile(r"cos\s?(?:φ|phi)?|P\.?F\.?", re.I)
_CELL: Final = re.compile(
    r"\b(?:S(?:10|[1-9])|IE[1-5]|IP\d{2}|CONT)\b|[\d.,/½¼¾+-]*\d[\d.,/½¼¾]*(?:\s?(?:V\s?)?(?:[ΔDYλ∆](?:/[ΔDYλ∆])*)(?![A-Za-z]))?|-{1,2}|–"
)
_WINDING: Final = re.compile(r"\s?(?:V\s?)?([ΔDYλ∆](?:/[ΔDYλ∆])*)$")

Named = Callable[[str], str]
"""The field that a head names, empty for none."""


def unfolded(lines: Sequence[str], named: Named) -> list[str]:
    """The lines, a block of ratings among them as heads with their values: "V: 400/690 Δ/Y" for two rows of one power.

    Rows of another frequency or power than the first stay as they are: they are of another supply.
    """
    found: list[str] = []
    place = 0
    while place < len(lines):
        heads = _heads(lines[place], named)
        rows: list[list[str]] = []
        while heads and place + 1 + len(rows) < len(lines):
            cells = _CELL.findall(lines[place + 1 + len(rows)])
            if len(cells) != len(heads) or not _only_cells(lines[place + 1 + len(rows)]):
                break
            rows.append([cell.strip() for cell in cells])
        if not rows:
            found.append(lines[place])
            place += 1
            continue
        found += _together(heads, rows)
        place += 1 + len(rows)
    return found


def _heads(line: str, named: Named) -> list[str]:
    """The words of a line that names a column by each, three at least; none where it is not such a line."""
    plain = _FACTOR.sub(" PF ", _TURNS.sub(" rpm ", line))
    words = [word.strip("[]():") for word in re.split(r"[\s;|,]+", plain) if word.strip("[]():")]
    return words if len(words) > 2 and all(named(word) for word in words) else []


def _only_cells(line: str) -> bool:
    return not re.sub(r"[\s;|]|%", "", _CELL.sub("", line))


def _together(heads: Sequence[str], rows: list[list[str]]) -> list[str]:
    """The first row and those that differ from it in volts, amperes and winding alone; the others as they were."""
    volts = next((at for at, head in enumerate(heads) if head.upper() in ("V", "VOLT", "VOLTS", "U")), None)
    amps = next((at for at, head in enumerate(heads) if head.upper() in ("A", "AMP", "AMPS", "I", "FLA")), None)
    own = {at for at in (volts, amps) if at is not None}
    same = [row for row in rows if all(one == rows[0][at] for at, one in enumerate(row) if at not in own)]
    lines = []
    for at, head in enumerate(heads):
        cells = [row[at] for row in same] if at in own else [rows[0][at]]
        windings = [match[1] if (match := _WINDING.search(cell)) else "" for cell in cells]
        value = "/".join(dict.fromkeys(_WINDING.sub("", cell) for cell in cells) if at == volts else
                         (_WINDING.sub("", cell) for cell in cells))  # fmt: skip
        joined = "/".join(windings) if all(windings) else ""
        lines.append(f"{head}: {value} {joined}".rstrip())
    return lines + [" ".join(f"{cell}" for cell in row) for row in rows if row not in same]
