"""The standards' figures, as CSV files that say where they come from, and the one loader."""

from __future__ import annotations

import csv
from functools import cache
from importlib import resources

from vinegate.core.records import dataclass

_HEAD = ("standard", "edition", "table", "source")


@dataclass(frozen=True, slots=True)
class Table:
    """Rows of a table file with its head. `cite` is how working refers to it."""

    name: str
    standard: str
    edition: str
    table: str
    source: str
    columns: tuple[str, ...]
    rows: tuple[dict[str, str], ...]

    @property
    def cite(self) -> str:
        """Each standard with its own edition, and what of it where that is said of each."""
        papers = [
            f"{one}:{year}" for one, year in zip(self.standard.split("; "), self.edition.split("; "), strict=True)
        ]
        parts = self.table.split("; ")
        if len(parts) != len(papers):
            return f"{'; '.join(papers)}{';' if papers[1:] else ''} {self.table}"
        return "; ".join(f"{paper} {part}" for paper, part in zip(papers, parts, strict=True))

    def number(self, row: dict[str, str], column: str) -> float | None:
        """The cell as a float; None for an empty cell."""
        return float(row[column]) if row[column] else None

    def find(self, **cells: str) -> dict[str, str] | None:
        """The one row whose cells equal these; None when there is none."""
        return _by(self.name, tuple(cells)).get(tuple(cells.values()))

    def step(self, upto: str, column: str, value: float) -> float | None:
        """The cell of the first row whose upper end reaches the value; None where the table does not go."""
        ends = _ends(self.name, upto)
        place = next((place for place, end in enumerate(ends) if value <= end), None)
        return self.number(self.rows[place], column) if place is not None else None


@cache
def load(name: str) -> Table:
    """Read `tables/NAME.csv`: `# key: value` head lines, then a header and rows.

    Raises ValueError when a head line is missing: a table without its source is not used.
    """
    lines = resources.files(__package__).joinpath(f"{name}.csv").read_text(encoding="utf-8").splitlines()
    head = dict(_head_line(line) for line in lines if line.startswith("#"))
    missing = [key for key in _HEAD if not head.get(key)]
    if missing:
        raise ValueError(f"table {name} does not state its {', '.join(missing)}")
    reader = csv.DictReader(line for line in lines if line and not line.startswith("#"))
    rows = tuple(dict(row) for row in reader)
    return Table(
        name=name,
        standard=head["standard"],
        edition=head["edition"],
        table=head["table"],
        source=head["source"],
        columns=tuple(reader.fieldnames or ()),
        rows=rows,
    )


@cache
def _by(name: str, columns: tuple[str, ...]) -> dict[tuple[str, ...], dict[str, str]]:
    """A table's rows by some columns, the first of equals."""
    found: dict[tuple[str, ...], dict[str, str]] = {}
    for row in load(name).rows:
        found.setdefault(tuple(row[column] for column in columns), row)
    return found


@cache
def _ends(name: str, column: str) -> tuple[float, ...]:
    return tuple(float(row[column]) for row in load(name).rows)


def _head_line(line: str) -> tuple[str, str]:
    key, _, value = line.lstrip("# ").partition(":")
    return key.strip(), value.strip()
