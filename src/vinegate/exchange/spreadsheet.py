"""Tables as people have them: pasted, CSV, XLSX, ODS. Read within bounds; columns guessed from their heads."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final
from xml.etree import ElementTree

from vinegate.core.facts import LISTED, RuleSetName, circuit_parts, keyed
from vinegate.core.field import Fact, read_facts
from vinegate.core.measured import is_unit
from vinegate.core.roughly import exactly
from vinegate.core.rules.sets import rule_set
from vinegate.core.typeset import typed
from vinegate.core.wording import spoken
from vinegate.exchange.circuit_file import TAG_RULE
from vinegate.exchange.columns import TAG_PATH, names_in, path_in, paths, says, without_unit
from vinegate.exchange.together import together

MOST_ROWS: Final = 2000
MOST_COLUMNS: Final = 400
MOST_BYTES: Final = 4_000_000
_MOST_UNPACKED: Final = 60_000_000
_LONGEST: Final = 20_001
"""One more than any fact takes, so that what is too long is told and not cut."""

_BROKEN: Final = (
    zipfile.BadZipFile, LookupError, ValueError, ElementTree.ParseError, OSError, TypeError, AttributeError,
)  # fmt: skip


class UnreadableSheet(ValueError):
    """No table can be read from it; `str()` says why."""


def read_table(name: str, body: bytes) -> list[list[str]]:
    """Rows of texts; the first with two cells or more is the head. Raises UnreadableSheet."""
    if len(body) > MOST_BYTES:
        raise UnreadableSheet(f"{name}: larger than {MOST_BYTES // 1_000_000} MB.")
    kind = name.lower().rpartition(".")[2]
    try:
        if kind == "xlsx":
            rows = list(_xlsx(body))
        elif kind == "ods":
            rows = list(_ods(body))
        else:
            rows = list(_text(body))
    except UnreadableSheet as error:
        raise UnreadableSheet(f"{name}: {error}") from None
    except _BROKEN as error:
        raise UnreadableSheet(f"{name}: it is no {kind.upper() or 'table'} that can be read.") from error
    rows = [[typed(cell[:_LONGEST]).strip() for cell in row[: MOST_COLUMNS + 1]] for row in rows]
    if any(len(row) > MOST_COLUMNS and row[MOST_COLUMNS] for row in rows):
        raise UnreadableSheet(f"{name}: more than {MOST_COLUMNS} columns.")
    rows = [row[:MOST_COLUMNS] for row in rows]
    first = next((at for at, row in enumerate(rows) if sum(bool(cell) for cell in row) > 1), None)
    if first is None:
        raise UnreadableSheet(f"{name}: no row has two cells.")
    found = [row for row in rows[first:] if any(row)]
    if len(found) - 1 > MOST_ROWS:
        raise UnreadableSheet(f"{name}: more than {MOST_ROWS} rows.")
    width = max(at + 1 for row in found for at, cell in enumerate(row) if cell)
    return _with_units([(row + [""] * width)[:width] for row in found])


def _with_units(table: list[list[str]]) -> list[list[str]]:
    """A row below the heads that holds nothing but units belongs to them."""
    units = [cell.strip("[]() ") for cell in table[1]] if len(table) > 1 else []
    said = [unit for unit in units if says(unit)]
    if not said or not all(map(is_unit, said)) or (units[0] in said and table[0][0]):
        return table
    heads = [f"{head} [{unit}]" if unit in said else head for head, unit in zip(table[0], units, strict=True)]
    return [heads, *table[2:]]


def _bounded(body: bytes) -> zipfile.ZipFile:
    """A packed file whose contents are not beyond what is read."""
    box = zipfile.ZipFile(io.BytesIO(body))
    if sum(one.file_size for one in box.infolist()) > _MOST_UNPACKED:
        raise UnreadableSheet("it unpacks to more than is read.")
    return box


def _xlsx(body: bytes) -> Iterator[list[str]]:
    from openpyxl import load_workbook

    _bounded(body).close()
    book = load_workbook(io.BytesIO(body), read_only=True, data_only=True)
    try:
        sheet = book.worksheets[0]
        for row in sheet.iter_rows(max_row=MOST_ROWS + 60, max_col=MOST_COLUMNS + 1, values_only=True):
            yield [_written(value) for value in row]
    finally:
        book.close()


def _written(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, float) and value.is_integer():
        return str(int(value))
    return str(value)


_TABLE: Final = "{urn:oasis:names:tc:opendocument:xmlns:table:1.0}"
_OFFICE: Final = "{urn:oasis:names:tc:opendocument:xmlns:office:1.0}"
_WORDS: Final = "{urn:oasis:names:tc:opendocument:xmlns:text:1.0}"


def _ods(body: bytes) -> Iterator[list[str]]:
    """The first table; a cell that repeats counts so often, within the bounds."""
    with _bounded(body) as box, box.open("content.xml") as content:
        count = 0
        for _, element in ElementTree.iterparse(content):  # noqa: S314 - expat refuses entities that grow
            if element.tag == f"{_TABLE}table":
                return
            if element.tag != f"{_TABLE}table-row":
                continue
            row = _ods_row(element)
            times = min(int(element.get(f"{_TABLE}number-rows-repeated", "1")), MOST_ROWS + 60 if any(row) else 1)
            for _ in range(times):
                count += 1
                if count > MOST_ROWS + 60:
                    raise UnreadableSheet(f"more than {MOST_ROWS} rows.")
                yield row
            element.clear()


def _ods_row(element: ElementTree.Element) -> list[str]:
    row: list[str] = []
    for cell in element:
        if not cell.tag.endswith("table-cell"):
            continue
        text = "\n".join("".join(one.itertext()) for one in cell.iter(f"{_WORDS}p"))
        kind = cell.get(f"{_OFFICE}value-type")
        if kind in ("float", "percentage") and not re.search(r"[A-Za-z%°]", text):
            text = _written(float(cell.get(f"{_OFFICE}value", "nan")))
        times = min(int(cell.get(f"{_TABLE}number-columns-repeated", "1")), MOST_COLUMNS + 1 - len(row))
        row += [text] * max(times, 0)
    while row and not row[-1]:
        row.pop()
    return row


_GUARDED: Final = re.compile(r"^'(?=[=+\-@])")
"""Ahead of what a spreadsheet would run, as our own tables are written."""


def _text(body: bytes) -> Iterator[list[str]]:
    if b"\0" in body[:2000] and body[:2] not in (b"\xff\xfe", b"\xfe\xff"):
        raise UnreadableSheet("this is no text.")
    try:
        text = body.decode("utf-16" if body[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8-sig")
    except UnicodeDecodeError:
        text = body.decode("cp1252", errors="replace")
    head = text[:4000]
    mark = max("\t;,", key=lambda one: head.count(one) if one != "," else head.count(one) * 0.4)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=mark)
    try:
        for number, row in enumerate(reader):
            if number > MOST_ROWS + 60:
                raise UnreadableSheet(f"more than {MOST_ROWS} rows.")
            yield [_GUARDED.sub("", cell) for cell in row]
    except csv.Error as error:
        raise UnreadableSheet("its quotation marks do not match.") from error


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """One cell as it would be written, and what is wrong with it."""

    path: str
    text: str
    error: str = ""
    beside: str = ""
    """The fact whose cell said this one too."""

    def shown(self, dialect: str) -> str:
        """Its text, or the word of a choice as its field shows it."""
        fact = paths().get(self.path)
        words = dict(fact.offered) if fact is not None else {}
        return spoken(words[self.text], dialect) if self.text in words else self.text


@dataclass(frozen=True, slots=True, kw_only=True)
class RowRead:
    """One row: its tag, its cells, what is wrong with the row itself."""

    tag: str
    cells: tuple[Cell, ...]
    error: str = ""

    @property
    def bad(self) -> bool:
        return bool(self.error) or any(cell.error for cell in self.cells)


def read_rows(
    table: Sequence[Sequence[str]], mapping: Mapping[int, str], *, rules: RuleSetName, job: Mapping[str, Any],
    tag_rule: re.Pattern[str],
) -> list[RowRead]:  # fmt: skip
    """Each row read: units of heads behind bare numbers, a board or area by the name it has in the job, errors beside
    their cells.
    """
    heads, facts = table[0], paths()
    named = {kind: names_in(job, kind) for kind in LISTED}
    units = {at: without_unit(head)[1] for at, head in enumerate(heads)}
    tag_at = next(at for at, path in mapping.items() if path == TAG_PATH)
    seen: set[str] = set()
    found = []
    for row in table[1:]:
        tag = row[tag_at].strip()
        error = ""
        if not tag_rule.fullmatch(tag):
            error = "No tag." if not tag else f"“{tag[:40]}” is no tag: {TAG_RULE}"
        elif tag.casefold() in seen:
            error = f"The tag {tag} stands twice."
        seen.add(tag.casefold())
        said = [(at, path) for at, path in sorted(mapping.items()) if path in facts and says(row[at])]
        texts = [(path, _with_unit(row[at], units[at], facts[path]), heads[at]) for at, path in said]
        cells = [cell for path, text, head in texts for cell in _cells(path, text, rules, named, head)]
        own = {cell.path for cell in cells if not cell.beside}
        kept = tuple(cell for cell in cells if not (cell.beside and cell.path in own))  # a column of its own says it
        found.append(RowRead(tag=tag, cells=kept, error=error))
    return found


def _cells(
    path: str, text: str, rules: RuleSetName, named: Mapping[str, Mapping[str, str]], head: str
) -> Iterator[Cell]:
    """The cell's own fact, and those that its text says beside it, or its head: the kind of device. Under a head that
    carries its fact's path a text that the fact reads is its own alone.
    """
    known = named.get(paths()[path].listed, {})
    own = _cell(path, text, rules, known) if path_in(head) else None
    if own is not None and not own.error:
        yield own
        return
    said = together(path, text, us=rule_set(rules).practice.us_units, head=head)
    if said.get(path, "" if said else text):
        yield _cell(path, said.get(path, text), rules, known)
    for more, value in said.items():
        if more != path:
            yield replace(_cell(more, value, rules, {}), beside=path)


_BARE: Final = re.compile(r"[-+]?[\d., ]+(?:'\d[\d., ]*)*")
_FRACTION: Final = re.compile(r"(?:\d+[ -]?)?(?:\d+/\d+|[½¼¾⅓⅔⅛⅝])")
"""Of one value: 184/92 amperes are those of two connections."""


def _with_unit(text: str, unit: str, fact: Fact) -> str:
    """A bare number under a head that carries a unit."""
    plain = text.strip()
    bare = exactly(plain) or plain
    measured = fact.quantity is not None or fact.read_us is not None or fact.unit
    if unit and measured and (_BARE.fullmatch(bare) or (fact.quantity is not None and _FRACTION.fullmatch(bare))):
        return f"{bare} {unit}" if bare == plain else f"~{bare} {unit}"
    return plain


def _cell(path: str, text: str, rules: RuleSetName, named: Mapping[str, str]) -> Cell:
    part, _, name = path.partition(".")
    key = next((key for one, key in named.items() if one.casefold() == text.casefold()), text)
    found = rule_set(rules)
    _, errors = read_facts(circuit_parts()[part], {name: key}, part, us=found.practice.us_units)
    known = f" By name: {', '.join(named)}." if errors and named else ""
    return Cell(
        path=path,
        text=keyed(path, key),
        error=spoken(f"{errors[0].message}{known}", found.words.dialect) if errors else "",
    )
