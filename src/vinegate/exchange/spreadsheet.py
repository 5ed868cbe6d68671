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

from vinegate.core.facts import LISTED, RuleSetName, circuit_parts, keyed, kind_of, listed_keys
from vinegate.core.field import Fact, read_facts
from vinegate.core.measured import is_unit
from vinegate.core.plate.kind import KINDS, KINDS_ALSO
from vinegate.core.record.facts import FORMS
from vinegate.core.rules.sets import rule_set
from vinegate.core.wording import spoken
from vinegate.exchange.circuit_file import TAG_RULE
from vinegate.exchange.together import together

MOST_ROWS: Final = 2000
MOST_COLUMNS: Final = 400
MOST_BYTES: Final = 4_000_000
_MOST_UNPACKED: Final = 60_000_000
_LONGEST: Final = 300
TAG_PATH: Final = "tag"


_NOT_SAID: Final = re.compile(r"[-–—?.]+|#?n\W?/?\W?a\W?|tb[acd]|unknown|not known", re.I)
"""What stands in a cell of which nobody knows the contents: it is as if it were empty."""
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
    rows = [[cell[:_LONGEST].strip() for cell in row[: MOST_COLUMNS + 1]] for row in rows]
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
    said = [unit for unit in units if unit and not _NOT_SAID.fullmatch(unit)]
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
            yield row
    except csv.Error as error:
        raise UnreadableSheet("its quotation marks do not match.") from error


WORDS_OF: Final = {
    TAG_PATH: "tag tagno tagnumber motortag circuittag motor motorno motorid equipmentno equipmenttag equipno equipment"
    " item id position circuit",
    "plate.kind": "phase phases ph noofphases numberofphases",
    "start.driven": "drives driven drivenmachine drivenequipment service description equipmentdescription load"
    " application",
    "plate.power": "hp kw horsepower power rating motorhp motorkw motorpower ratedhp ratedkw ratedpower nameplatehp"
    " nameplatekw output motorrating motorsize motoroutput ratedoutput",
    "plate.volts": "v u un volt voltage volts ratedvoltage motorvoltage motorvolts",
    "plate.full_load_current": "fla flc amps amperes a in motorcurrent nominalcurrent i fullloadamps"
    " fullloadcurrent ratedcurrent ratedamps nameplateamps nameplatefla motorfla",
    "plate.speed": "rpm speed ratedspeed motorspeed",
    "plate.frequency": "hz frequency",
    "plate.service_factor": "sf",
    "plate.code_letter": "code letter kvacode nemacode",
    "plate.design_letter": "design nemadesign",
    "plate.frame": "frame framesize frameno",
    "plate.enclosure": "enclosure encl",
    "plate.insulation_class": "insclass insulationclass",
    "plate.protection": "ip iprating",
    "plate.efficiency": "eff efficiency",
    "plate.power_factor": "pf cosphi",
    "plate.starting_current_ratio": "iain istin lrcratio startingratio",
    "plate.locked_rotor_current": "lra lrc lockedrotoramps lramps startingamps inrush inrushamps inrushcurrent",
    "plate.service_factor_current": "sfa sfamps sfcurrent servicefactoramps",
    "machine.no_load_current": "nla noloadamps",
    "wiring.length": "length run cablelength runlength wirelength circuitlength distance",
    "wiring.size": "wire size conductor cable cablesize wiresize conductorsize",
    "wiring.board": "board panel mcc fedfrom feedfrom feederfrom switchboard panelboard",
    "start.method": "starter method start startingmethod methodofstarting typeofstarter startertype starttype"
    " typeofstart starting",
    "start.starts_per_hour": "startsperhour startshour startsh startshr",
    "plate.leads": "leads",
    "load.kind": "loadkind loadtype typeofload",
    "load.power": "bhp brakehp brakehorsepower shaftpower absorbedpower powerabsorbed loadkw loadhp loadpower bkw",
    "load.inertia": "loadinertia wk2",
    "place.motor": "motorarea",
    "place.starter": "starterarea",
    "protection.rating": "devicerating fuse breaker mccb",
    "protection.overload": "overload olsetting overloadsetting",
    "plate.duty": "duty",
}
_SAID: Final = {word: path for path, words in WORDS_OF.items() for word in words.split()} | {
    # as heads; on a plate a current may be that of anything, and IE a class
    **dict.fromkeys(("current", "ib", "ie"), "plate.full_load_current"),
}
_UNIT_HEAD: Final = {"hp": "hp", "kw": "kW", "rpm": "rpm", "hz": "Hz"}
_TAG_FIRST: Final = ("tag", "motortag", "tagno", "tagnumber", "equipmenttag", "circuittag")
"""Where a table numbers its rows as well, its items and circuits are not the tags."""


def paths() -> dict[str, Fact]:
    """Every fact of a circuit a column may hold, by path."""
    return {f"{part}.{name}": fact for part, model in circuit_parts().items() if part not in FORMS
            for name, fact in model.fields().items()}  # fmt: skip


def columns(table: Sequence[Sequence[str]], job: Mapping[str, Any]) -> dict[int, str]:
    """Columns to paths, as `guess`; one of boards or areas only where the job has some of those, one of phases only
    where they are counted: A, B and C are those of a board.
    """
    facts = paths()
    kinds = {plain(word) for word in (*KINDS_ALSO, *(word for one in KINDS for word in one))}

    def known(at: int, kind: str) -> bool:
        names = {name.casefold() for name in _names(job, kind)}
        return any(row[at].strip().casefold() in names or kind_of(_key(row[at])) == kind for row in table[1:])

    found = guess(table[0])
    return {
        at: path for at, path in found.items()
        if (path not in facts or not facts[path].listed or known(at, facts[path].listed))
        and (path != "plate.kind" or any(plain(row[at]) in kinds for row in table[1:]))
    }  # fmt: skip


def guess(heads: Sequence[str]) -> dict[int, str]:
    """Columns to paths, by heads in either dialect; each path once; the first column is the tag where none says so."""
    labels: dict[str, str] = {}
    for path, fact in reversed(paths().items()):
        for word in (path.partition(".")[2], fact.symbol, fact.label_iec, fact.label):
            if word:
                labels[plain(word)] = path
    labels |= _SAID | {plain(path): path for path in paths()}
    tag = next((at for at, head in enumerate(heads) if plain(head) in _TAG_FIRST), None)
    found = {} if tag is None else {tag: TAG_PATH}
    for at, head in enumerate(heads):
        name, unit = _without_unit(head)
        symbol = _SAID.get(plain(name)) if len(name) == 1 and unit else None  # I [A] is not I_a
        named = symbol or labels.get(plain(name + unit)) or labels.get(plain(name)) or labels.get(plain(head))
        if named and named not in found.values() and at not in found and not _measures(named, head, unit):
            found[at] = named
    if TAG_PATH not in found.values():
        found[0] = TAG_PATH
    return found


def _measures(path: str, head: str, unit: str) -> bool:
    """Whether a head that would name words has a unit: Load (A), % Load."""
    fact = paths().get(path)
    return (path == "start.driven" or (fact is not None and bool(fact.offered or fact.listed))) and bool(
        "%" in head or _MEASURE.fullmatch(unit)
    )


_MEASURE: Final = re.compile(r"[kM]?(?:VA|A|W|V)|amps?|hp|h(?:/d(?:ay)?)?|hours?|rpm|kg.*|N\W?m|lb\W?ft|°[CF]", re.I)


def _key(text: str) -> str:
    """A part's key as people write it: `Board 1`."""
    return text.strip().casefold().replace(" ", "_")


def plain(text: str) -> str:
    return re.sub(r"[^a-z0-9]", "", text.lower().replace("φ", "phi"))


def _without_unit(head: str) -> tuple[str, str]:
    """A head's name and its unit: `Power [kW]`, `Length (ft)`, `Speed, rpm`, `HP`.

    >>> _without_unit("Power [kW]"), _without_unit("Length (ft)"), _without_unit("HP"), _without_unit("Motor kW")
    (('Power', 'kW'), ('Length', 'ft'), ('HP', 'hp'), ('Motor', 'kW'))
    """
    match = re.match(r"^\s*(.*?)\s*(?:\[([^\]]+)\]|\(([^)]+)\)|,\s*([A-Za-z%°²·/]+))\s*$", head)
    if match and match.group(1):
        return match.group(1), next(one for one in match.groups()[1:] if one)
    behind = re.match(r"^\s*(\S.*?)\s+(hp|kw|rpm|hz|awg|mm²|ft)\.?\s*$", head, re.I)
    if behind:
        return behind.group(1), _UNIT_HEAD.get(behind.group(2).lower(), behind.group(2))
    return head.strip(), _UNIT_HEAD.get(plain(head), "")


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """One cell as it would be written, and what is wrong with it."""

    path: str
    text: str
    error: str = ""
    beside: str = ""
    """The fact whose cell said this one too."""


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
    named = {kind: _names(job, kind) for kind in LISTED}
    units = {at: _without_unit(head)[1] for at, head in enumerate(heads)}
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
        cells = [cell for at, path in sorted(mapping.items()) if path in facts and _says(row[at])
                 for cell in _cells(path, _with_unit(row[at], units[at], facts[path]), rules, named)]  # fmt: skip
        own = {cell.path for cell in cells if not cell.beside}
        kept = tuple(cell for cell in cells if not (cell.beside and cell.path in own))  # a column of its own says it
        found.append(RowRead(tag=tag, cells=kept, error=error))
    return found


def _cells(path: str, text: str, rules: RuleSetName, named: Mapping[str, Mapping[str, str]]) -> Iterator[Cell]:
    """The cell's own fact, and those that its text says beside it."""
    said = together(path, text, us=rule_set(rules).practice.us_units)
    yield _cell(path, said.get(path, text), rules, named.get(paths()[path].listed, {}))
    for more, value in said.items():
        if more != path:
            yield replace(_cell(more, value, rules, {}), beside=path)


def _says(cell: str) -> bool:
    return bool(cell.strip()) and _NOT_SAID.fullmatch(cell.strip()) is None


_BARE: Final = re.compile(r"[-+]?[\d., ]+(?:'\d[\d., ]*)*")
_FRACTION: Final = re.compile(r"(?:\d+[ -]?)?(?:\d+/\d+|[½¼¾⅓⅔⅛⅝])")
"""Of one value: 184/92 amperes are those of two connections."""


def _with_unit(text: str, unit: str, fact: Fact) -> str:
    """A bare number under a head that carries a unit."""
    plain = text.strip()
    measured = fact.quantity is not None or fact.read_us is not None or fact.unit
    if unit and measured and (_BARE.fullmatch(plain) or (fact.quantity is not None and _FRACTION.fullmatch(plain))):
        return f"{plain} {unit}"
    return plain


def _names(job: Mapping[str, Any], kind: str) -> dict[str, str]:
    """The job's boards or areas by their names, with their keys; the main board too."""
    keys = [*(["main_board"] if kind == "board" else []), *listed_keys(job, kind)]
    found = {str((job.get(key) or {}).get("name") or "").strip(): key for key in keys}
    return {name: "main" if key == "main_board" else key for name, key in found.items() if name}


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
