"""Commands over tables: a spreadsheet into a job file, a job file into a spreadsheet."""

from __future__ import annotations

import argparse
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any, Final

from vinegate.cli.reading import EXIT_UNREADABLE, Commands, Unread, job_from, reason, say, written
from vinegate.core.facts import RuleSetName, circuit_parts
from vinegate.core.summary import row_of
from vinegate.exchange.circuit_file import TAG, JobFile, write
from vinegate.exchange.columns import TAG_PATH, columns
from vinegate.exchange.sheets import csv_text, xlsx
from vinegate.exchange.spreadsheet import RowRead, UnreadableSheet, read_rows, read_table

_COLUMNS: Final = ("power", "current", "start", "dip", "time", "overload")


def add(commands: Commands) -> None:
    """`import`, `export`."""
    into = commands.add_parser("import", help="circuits from a table (CSV, XLSX, ODS), as a job file")
    into.add_argument("table", type=Path, metavar="TABLE", help="columns by their headings, in either dialect")
    into.add_argument("--into", type=Path, metavar="FILE", help="a job file: circuits of its tags are updated")
    into.add_argument("--name", default="", help="of a new job")
    into.add_argument("--rules", choices=[one.value for one in RuleSetName], default="nec", help="of a new job (nec)")
    into.add_argument("-o", "--output", type=Path, metavar="FILE", help="where the job is written; else stdout")
    into.set_defaults(run=_import)
    out = commands.add_parser("export", help="a job file as a table")
    out.add_argument("file", type=Path, metavar="FILE", help="a job with its circuits; - is stdin")
    out.add_argument("--what", choices=("schedule", "facts"), default="schedule",
                     help="what is found of each circuit, or what is typed (which import reads back)")  # fmt: skip
    out.add_argument("--as", dest="kind", choices=("csv", "xlsx"), default="csv")
    out.add_argument("-o", "--output", type=Path, metavar="FILE", help="else stdout")
    out.set_defaults(run=_export)


def _import(options: argparse.Namespace) -> int:
    """All of it or nothing: what cannot be read is said with its row and column."""
    rules = RuleSetName(options.rules)
    new = JobFile(name=options.name or options.table.stem, rules=rules, facts={}, circuits=())
    try:
        job = job_from(options.into) if options.into else new
        table = read_table(options.table.name, options.table.read_bytes())
    except Unread:
        return EXIT_UNREADABLE
    except (OSError, UnreadableSheet) as error:
        say(f"{options.table}: {reason(error)}")
        return EXIT_UNREADABLE
    mapping = columns(table, job.facts)
    rows = read_rows(table, mapping, rules=job.rules, job=job.facts, tag_rule=TAG)
    wrong = [one for at, row in enumerate(rows, start=2) for one in _wrong(at, row, mapping, table[0])]
    for sentence in wrong:
        say(f"{options.table}: {sentence}")
    if wrong:
        return EXIT_UNREADABLE
    passed = [head for at, head in enumerate(table[0]) if at not in mapping and head.strip()]
    if passed:
        say(f"{options.table}: passed over: {', '.join(passed)}")
    return written(write(_with(job, rows)), options.output)


def _wrong(at: int, row: RowRead, mapping: Mapping[int, str], heads: Sequence[str]) -> list[str]:
    named = {path: heads[column] for column, path in mapping.items()}
    found = [f"row {at}: {row.error}"] if row.error else []
    return found + [f"row {at}, {named.get(cell.path, cell.path)}: {cell.error}" for cell in row.cells if cell.error]


def _with(job: JobFile, rows: Sequence[RowRead]) -> JobFile:
    """Circuits updated by tag, new ones after them."""
    circuits: dict[str, dict[str, Any]] = {tag: dict(facts) for tag, facts in job.circuits}
    known = {tag.casefold(): tag for tag in circuits}
    for row in rows:
        facts = circuits.setdefault(known.get(row.tag.casefold(), row.tag), {})
        for cell in row.cells:
            part, _, name = cell.path.partition(".")
            facts[part] = {**(facts.get(part) or {}), name: cell.text}
    return JobFile(name=job.name, rules=job.rules, facts=job.facts, circuits=tuple(circuits.items()))


def _export(options: argparse.Namespace) -> int:
    if options.kind == "xlsx" and options.output is None:
        say("an XLSX goes to a file: give one with -o")
        return EXIT_UNREADABLE
    try:
        job = job_from(options.file)
    except Unread:
        return EXIT_UNREADABLE
    heads, rows = (_schedule if options.what == "schedule" else _facts)(job)
    body = xlsx([(options.what.capitalize(), heads, rows)]) if options.kind == "xlsx" else csv_text([heads, *rows])
    return written(body, options.output)


def _schedule(job: JobFile) -> tuple[list[str], list[list[object]]]:
    rows: list[list[object]] = []
    for tag, facts in job.circuits:
        summary, _ = row_of(job.rules, job.facts, dict(facts))
        cells = [summary["cells"].get(key, {}).get("value") for key in _COLUMNS]
        rows.append([tag, summary["driven"], summary["method"], *cells, summary["verdict"], summary["why"]])
    return ["Tag", "Drives", "Starts by", *(key.capitalize() for key in _COLUMNS), "Verdict", "Why"], rows


def _facts(job: JobFile) -> tuple[list[str], list[list[object]]]:
    """A column for each fact that any circuit has, headed by its path."""
    order = [f"{part}.{name}" for part, model in circuit_parts().items() for name in model.fields()]
    used = {f"{part}.{name}" for _, facts in job.circuits for part, fields in facts.items() if part in circuit_parts()
            for name in fields}  # fmt: skip
    paths = [path for path in order if path in used]
    rows: list[list[object]] = [
        [tag, *(str((facts.get(path.partition(".")[0]) or {}).get(path.partition(".")[2]) or "") for path in paths)]
        for tag, facts in job.circuits
    ]
    return [TAG_PATH, *paths], rows
