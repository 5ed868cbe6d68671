"""Circuits as tables: looked at before they are brought in, an empty one to fill in, and what is entered going out."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

from flask import Response, redirect, render_template, request, url_for
from flask_login import login_required

from vinegate import demo
from vinegate.core.facts import typed_at
from vinegate.core.rules.sets import rule_set
from vinegate.exchange.circuit_file import TAG
from vinegate.exchange.columns import TAG_PATH, columns, path_in, paths
from vinegate.exchange.entered import entered
from vinegate.exchange.sheets import xlsx
from vinegate.exchange.spreadsheet import Cell, RowRead, UnreadableSheet, read_rows, read_table
from vinegate.store import jobs
from vinegate.store.jobs import Access
from vinegate.web.form import Labels
from vinegate.web.jobs.many import SHOWN_ROWS, XLSX, editor
from vinegate.web.jobs.views import access_to, blueprint

_TEMPLATE: Final = (
    "tag", "start.driven", "plate.power", "plate.volts", "plate.full_load_current", "plate.frequency", "plate.speed",
    "plate.design_letter", "plate.service_factor", "plate.code_letter", "wiring.length", "wiring.board",
)  # fmt: skip


@blueprint.get("/jobs/<int:job_id>/import")
@login_required
def importing(job_id: int) -> str:
    """Where a table is pasted or chosen."""
    return _importing(editor(job_id), "", "")


def _importing(access: Access, wrong: str, typed: str) -> str:
    return render_template("jobs/import.html", access=access, wrong=wrong, typed=typed)


@blueprint.post("/jobs/<int:job_id>/import")
@login_required
def bring_in(job_id: int) -> Any:
    """Preview what was pasted or chosen; with `go`, all of it or nothing."""
    access = editor(job_id)
    try:
        table = _table()
    except UnreadableSheet as error:
        return _importing(access, str(error), request.form.get("text", "")), 422
    mapping = _mapping(access, table)
    if TAG_PATH not in mapping.values():
        return _preview(access, table, mapping, [], "No column is said to be the tag."), 422
    rows = read_rows(table, mapping, rules=access.rules, job=access.facts, tag_rule=TAG)
    if not request.form.get("go"):
        return _preview(access, table, mapping, rows, "")
    wanted = [row for row in rows if not row.bad]
    if request.form.get("go") == "all" and len(wanted) != len(rows):
        return _preview(access, table, mapping, rows, "Some rows cannot be read as they are."), 422
    fields = [(row.tag, {cell.path: cell.text for cell in row.cells}) for row in wanted]
    jobs.bring_in(access, fields, _remembered(access, table[0], mapping))
    return redirect(url_for("jobs.show", job_id=job_id))


def _kept(access: Access) -> Mapping[str, str]:
    """What the job's tables so far said with their heads."""
    return jobs.loads(access.job.mapping) if access.job.mapping else {}


def _remembered(access: Access, heads: Sequence[str], mapping: Mapping[int, str]) -> dict[str, str]:
    """The same with this one; a head that carries its path needs no remembering."""
    others = {head: path for head, path in _kept(access).items() if head not in heads}
    return others | {heads[at]: path for at, path in mapping.items() if not path_in(heads[at])}


def _table() -> list[list[str]]:
    """The file, the pasted text, or the table of the page before."""
    again = request.form.get("table")
    if again:
        try:
            found = json.loads(again)
        except ValueError:
            found = None
        if not isinstance(found, list) or not all(
            isinstance(row, list) and all(isinstance(cell, str) for cell in row) for row in found
        ):
            raise UnreadableSheet("the table did not come back whole: choose it again.")
        if not found or len({len(row) for row in found}) != 1:
            raise UnreadableSheet("the table did not come back whole: choose it again.")
        return found
    upload = request.files.get("file")
    if upload and upload.filename:
        return read_table(upload.filename, upload.read())
    return read_table("pasted.txt", request.form.get("text", "").encode())


def _mapping(access: Access, table: list[list[str]]) -> dict[int, str]:
    """As said on the page, else as this job's tables were read, else guessed."""
    heads = table[0]
    if request.form.get("table"):
        known = {TAG_PATH, *paths()}
        said = {at: request.form.get(f"column{at}", "") for at in range(len(heads))}
        return {at: path for at, path in said.items() if path in known}
    kept = _kept(access)
    found = columns(table, access.facts)
    mine = {at: kept[head] for at, head in enumerate(heads) if kept.get(head)}
    return {at: path for at, path in {**found, **mine}.items() if at in mine or path not in mine.values()}


@dataclass(frozen=True, slots=True, kw_only=True)
class Looked:
    """A row as it was read, and what becomes of it."""

    row: RowRead
    then: str
    was: Mapping[str, Cell]
    """Facts of a circuit that is there already which it would change, as they are."""

    def tells(self, path: str) -> bool:
        """Whether its cell of this fact is news, or an error."""
        cells = [cell for cell in self.row.cells if path in (cell.path, cell.beside)]
        return any(cell.error or self.then == "new" or cell.path in self.was for cell in cells)


def _looked(row: RowRead, kept: Mapping[str, Any] | None) -> Looked:
    if kept is None:
        return Looked(row=row, then="cannot be read" if row.bad else "new", was={})
    was = {cell.path: Cell(path=cell.path, text=typed_at(kept, cell.path)) for cell in row.cells}
    changed = {cell.path: was[cell.path] for cell in row.cells if cell.text != was[cell.path].text}
    then = "cannot be read" if row.bad else "changed" if changed else "as it is"
    return Looked(row=row, then=then, was=changed)


def _preview(access: Access, table: list[list[str]], mapping: dict[int, str], rows: list[RowRead], wrong: str) -> str:
    known = {circuit.tag.casefold(): jobs.loads(circuit.facts) for circuit in jobs.circuits(access)}
    looked = [_looked(row, known.get(row.tag.casefold())) for row in rows]
    labels = Labels(access.rules.value)
    facts = {at: path for at, path in sorted(mapping.items()) if path != TAG_PATH}
    return render_template(
        "jobs/preview.html",
        access=access,
        table=json.dumps(table, ensure_ascii=False),
        heads=list(enumerate(table[0])),
        by_path=_by_path(table[0], mapping),
        mapping=mapping,
        facts={at: path for at, path in facts.items() if any(one.tells(path) for one in looked)},
        same=sum(not any(one.tells(path) for one in looked) for path in facts.values()),
        rows=[one for one in looked if one.then != "as it is"][:SHOWN_ROWS],
        total=len(rows),
        bad=sum(row.bad for row in rows),
        counts=Counter(one.then for one in looked),
        offered=_offered(labels),
        named=_named(labels, facts.values()),
        labels=labels,
        dialect=rule_set(access.rules).words.dialect,
        wrong=wrong,
    )


def _by_path(heads: Sequence[str], mapping: Mapping[int, str]) -> dict[int, str]:
    """Columns of a table that went out from here: nothing is to be said of them, nor of its tags."""
    found = {at: path for at, path in mapping.items() if path_in(heads[at]) == path}
    return found | {at: path for at, path in mapping.items() if found and path == TAG_PATH}


def _offered(labels: Labels) -> list[tuple[str, str]]:
    """What a column may be said to be, by the alphabet."""
    found = ((path, f"{labels[path]}") for path in paths() if not path.startswith("new_plate."))
    return sorted(found, key=lambda one: one[1].casefold())


def _named(labels: Labels, facts: Iterable[str]) -> dict[str, str]:
    """Heads of facts; of a label that two have, each with its sheet."""
    times = Counter(labels[path] for path in facts)
    return {
        path: f"{labels[path]} ({path.partition('.')[0].replace('_', ' ')})"
        if times[labels[path]] > 1
        else labels[path]
        for path in facts
    }


@blueprint.get("/sample/brackwater-pans.csv")
@login_required
def sample() -> Response:
    """Forty made-up motors to try it with."""
    return Response(
        demo.sheet(),
        mimetype="text/csv",
        headers={"Content-Disposition": "attachment; filename=brackwater-pans.csv"},
    )


@blueprint.get("/jobs/<int:job_id>/template.xlsx")
@login_required
def template(job_id: int) -> Response:
    """An empty table with the usual columns, and one row that shows how."""
    access = access_to(job_id)
    labels = Labels(access.rules.value)
    facts = paths()
    heads = [labels[path] if path != TAG_PATH else "Tag" for path in _TEMPLATE]
    example = ["P-13" if path == TAG_PATH else facts[path].example for path in _TEMPLATE]
    body = xlsx([("Circuits", heads, [example])])
    return Response(body, mimetype=XLSX, headers={"Content-Disposition": 'attachment; filename="circuits.xlsx"'})


@blueprint.get("/jobs/<int:job_id>/entered.xlsx")
@login_required
def entered_xlsx(job_id: int) -> Response:
    """What is entered of every circuit, to be changed in a spreadsheet and brought in again."""
    access = access_to(job_id)
    circuits = [(one.tag, jobs.loads(one.facts)) for one in jobs.circuits(access)]
    heads, rows = entered(circuits, access.facts, rule_set(access.rules))
    body = xlsx([("Circuits", heads, rows)])
    return Response(body, mimetype=XLSX, headers={"Content-Disposition": 'attachment; filename="entered.xlsx"'})
