"""Many circuits at once: brought in from a table, changed together with what turns, duplicated, renamed, taken away."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

from flask import Response, abort, redirect, render_template, request, url_for
from flask_login import login_required

from vinegate import demo
from vinegate.core.plan import NOTHING, plan_raw
from vinegate.core.rules.sets import rule_set
from vinegate.core.summary import why
from vinegate.exchange.circuit_file import TAG, TAG_RULE
from vinegate.exchange.columns import TAG_PATH, columns, paths
from vinegate.exchange.sheets import csv_text, xlsx
from vinegate.exchange.spreadsheet import RowRead, UnreadableSheet, read_rows, read_table
from vinegate.store import jobs, shelf
from vinegate.store.jobs import Access
from vinegate.store.models import Job, Role
from vinegate.web.form import Labels
from vinegate.web.jobs.schedule import COLUMNS, FURTHER, Asked, schedule
from vinegate.web.jobs.views import access_to, blueprint

XLSX: Final = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
_TEMPLATE: Final = (
    "tag", "start.driven", "plate.power", "plate.volts", "plate.full_load_current", "plate.frequency", "plate.speed",
    "plate.design_letter", "plate.service_factor", "plate.code_letter", "wiring.length", "wiring.board",
)  # fmt: skip
_PAPER: Final = {"print": "jobs.sheets", "cards": "jobs.cards", "labels": "jobs.labels"}
_SHOWN_ROWS: Final = 200


def editor(job_id: int) -> Access:
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    return access


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
    kept = {table[0][at]: path for at, path in mapping.items()}
    jobs.bring_in(access, [(row.tag, {cell.path: cell.text for cell in row.cells}) for row in wanted], kept)
    return redirect(url_for("jobs.show", job_id=job_id))


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
    """As said on the page, else as this job's last table was read, else guessed."""
    heads = table[0]
    if request.form.get("table"):
        known = {TAG_PATH, *paths()}
        said = {at: request.form.get(f"column{at}", "") for at in range(len(heads))}
        return {at: path for at, path in said.items() if path in known}
    kept: Mapping[str, str] = jobs.loads(access.job.mapping) if access.job.mapping else {}
    found = columns(table, access.facts)
    mine = {at: kept[head] for at, head in enumerate(heads) if kept.get(head)}
    return {at: path for at, path in {**found, **mine}.items() if at in mine or path not in mine.values()}


def _preview(access: Access, table: list[list[str]], mapping: dict[int, str], rows: list[RowRead], wrong: str) -> str:
    known = {circuit.tag.casefold() for circuit in jobs.circuits(access)}
    labels = Labels(access.rules.value)
    offered = sorted(
        ((path, f"{labels[path]}") for path in paths() if not path.startswith("new_plate.")),
        key=lambda one: one[1].casefold(),
    )
    return render_template(
        "jobs/preview.html",
        access=access,
        heads=table[0],
        table=json.dumps(table, ensure_ascii=False),
        mapping=mapping,
        rows=rows[:_SHOWN_ROWS],
        total=len(rows),
        bad=sum(row.bad for row in rows),
        new=sum(not row.bad and row.tag.casefold() not in known for row in rows),
        known=known,
        offered=offered,
        labels=labels,
        dialect=rule_set(access.rules).words.dialect,
        wrong=wrong,
    )


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


def _schedule_rows(access: Access) -> tuple[list[str], list[list[object]]]:
    table = schedule(access, sort="tag", asked=Asked(), paper=True)
    iec = not rule_set(access.rules).practice.us_units
    named = [other if iec else one for _, one, other in (*COLUMNS, *FURTHER)]
    heads = ["Tag", "Drives", "Starts by", *named, "Verdict", "Fails", "What fails, or what would settle it"]
    rows: list[list[object]] = []
    for row in table.rows:
        cells = [row.cells[key]["value"] if key in row.cells else None for key, _, _ in COLUMNS]
        words = [row.words.get(key, "") for key, *_ in FURTHER]
        rows.append([row.tag, row.driven, row.method, *cells, *words, row.verdict, row.gates.get("fails", 0), row.why])
    return heads, rows


@blueprint.get("/jobs/<int:job_id>/schedule.xlsx")
@login_required
def schedule_xlsx(job_id: int) -> Response:
    """The schedule: numbers as numbers."""
    heads, rows = _schedule_rows(access_to(job_id))
    body = xlsx([("Schedule", heads, rows)])
    return Response(body, mimetype=XLSX, headers={"Content-Disposition": 'attachment; filename="schedule.xlsx"'})


@blueprint.get("/jobs/<int:job_id>/schedule.csv")
@login_required
def schedule_csv(job_id: int) -> Response:
    """The schedule as text; nothing in it runs in a spreadsheet."""
    heads, rows = _schedule_rows(access_to(job_id))
    body = "\ufeff" + csv_text([heads, *rows])
    return Response(body, mimetype="text/csv", headers={"Content-Disposition": 'attachment; filename="schedule.csv"'})


@dataclass(frozen=True, slots=True, kw_only=True)
class Turned:
    """A circuit before and after a change of several."""

    tag: str
    before: str
    after: str
    why: str

    @property
    def turns(self) -> bool:
        return self.before != self.after


@blueprint.post("/jobs/<int:job_id>/several")
@login_required
def several(job_id: int) -> Any:
    """What is asked of the circuits that were ticked."""
    access = editor(job_id)
    tags = request.form.getlist("tag")
    if not tags or len(tags) > _SHOWN_ROWS:
        return redirect(url_for("jobs.show", job_id=job_id))
    what = request.form.get("what", "")
    if what == "take away":
        jobs.take_away(access, tags)
        return redirect(url_for("jobs.show", job_id=job_id))
    if what in _PAPER:
        return redirect(url_for(_PAPER[what], job_id=job_id, tag=tags))
    path, text = request.form.get("path", ""), request.form.get("text", "").strip()[:300]
    if what in ("copy", "move"):
        return _copy(access, tags, move=what == "move")
    if not what:
        return _changing(access, tags, "", "", "")
    if path not in paths():
        return _changing(access, tags, path, text, "Choose which field is to be changed."), 422
    rows = read_rows(
        [["tag", "value"], ["X-1", text or "x"]],
        {0: TAG_PATH, 1: path},
        rules=access.rules,
        job=access.facts,
        tag_rule=TAG,
    )
    cells = rows[0].cells if text else ()
    error = next((cell.error for cell in cells if cell.error), "")
    if error:
        return _changing(access, tags, path, text, error), 422
    changes = {path: text} | {cell.path: cell.text for cell in cells}  # a board or an area by its key; a cable in parts
    if what == "change":
        jobs.change(access, tags, changes)
        return redirect(url_for("jobs.show", job_id=job_id))
    return _changing(access, tags, path, text, "", turned=_turned(access, tags, changes))


def _elsewhere(access: Access) -> list[Job]:
    """This designer's other jobs under the same rules."""
    rows = [row.job for row in jobs.jobs_of(access.user) if row.role is Role.DESIGNER]
    return [job for job in rows if job.id != access.job.id and job.rules == access.job.rules]


def _copy(access: Access, tags: list[str], *, move: bool) -> Any:
    done = "moved" if move else "copied"
    into = next((job for job in _elsewhere(access) if str(job.id) == request.form.get("into")), None)
    if into is None:
        return _changing(access, tags, "", "", f"Choose the job they are {done} into."), 422
    try:
        (shelf.move_into if move else shelf.copy_into)(access, tags, jobs.open_job(access.user, into.id))
    except jobs.TagTaken as taken:
        return _changing(access, tags, "", "", f"{into.name} has a circuit {taken} already. Nothing was {done}."), 409
    except shelf.Bound as bound:
        said = f"Plans of {bound} were issued or measurements taken: they stay here. Copy instead. Nothing was moved."
        return _changing(access, tags, "", "", said), 409
    return redirect(url_for("jobs.show", job_id=into.id))


def _turned(access: Access, tags: list[str], changes: Mapping[str, str]) -> list[Turned]:
    """Each circuit planned as it is and as it would be."""
    found = []
    for tag in tags:
        facts = jobs.loads(jobs.circuit_by_tag(access, tag).facts)
        after = facts
        for path, text in changes.items():
            part, _, name = path.partition(".")
            kept = {key: value for key, value in (after.get(part) or {}).items() if key != name}
            after = {**after, part: {**kept, **({name: text} if text else {})}}
        plans = [plan_raw(access.rules, access.facts, one, beside=NOTHING) for one in (facts, after)]
        found.append(Turned(tag=tag, before=plans[0].verdict.value, after=plans[1].verdict.value, why=why(plans[1])))
    return found


def _changing(
    access: Access, tags: list[str], path: str, text: str, wrong: str, turned: list[Turned] | None = None
) -> str:
    labels = Labels(access.rules.value)
    offered = sorted(
        ((one, labels[one]) for one in paths() if not one.startswith("new_plate.")), key=lambda one: one[1].casefold()
    )
    return render_template(
        "jobs/several.html",
        access=access,
        tags=tags,
        path=path,
        text=text,
        wrong=wrong,
        turned=turned,
        offered=offered,
        labels=labels,
        elsewhere=_elsewhere(access),
    )


@blueprint.post("/jobs/<int:job_id>/<tag>/rename")
@login_required
def rename(job_id: int, tag: str) -> Any:
    """Another tag for a circuit; or a copy under another tag."""
    access = editor(job_id)
    new, copy = request.form.get("new", "").strip(), bool(request.form.get("copy"))
    if not TAG.fullmatch(new):
        return TAG_RULE, 422
    try:
        if copy:
            jobs.duplicate(access, tag, new)
        else:
            jobs.rename(access, tag, new)
    except jobs.TagTaken:
        return f"This job has a circuit {new} already, or had one that can be brought back.", 422
    return redirect(url_for("circuit.show", job_id=job_id, tag=new))


@blueprint.post("/jobs/<int:job_id>/back")
@login_required
def back(job_id: int) -> Any:
    """Bring back a circuit that was taken away."""
    jobs.bring_back(editor(job_id), request.form.get("tag", ""))
    return redirect(url_for("jobs.show", job_id=job_id))
