"""Many circuits at once: their schedule as a table, changed together with what turns, renamed, taken away."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

from flask import Response, abort, redirect, render_template, request, url_for
from flask_login import login_required

from vinegate.core.plan import NOTHING, plan_raw
from vinegate.core.rules.sets import rule_set
from vinegate.core.summary import why
from vinegate.exchange.circuit_file import TAG, TAG_RULE
from vinegate.exchange.columns import TAG_PATH, paths
from vinegate.exchange.sheets import csv_text, xlsx
from vinegate.exchange.spreadsheet import read_rows
from vinegate.store import jobs, shelf
from vinegate.store.jobs import Access
from vinegate.store.models import Job, Role
from vinegate.web.form import Labels
from vinegate.web.jobs.schedule import COLUMNS, FURTHER, Asked, schedule
from vinegate.web.jobs.views import access_to, blueprint

XLSX: Final = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
_PAPER: Final = {"print": "jobs.sheets", "cards": "jobs.cards", "labels": "jobs.labels"}
SHOWN_ROWS: Final = 200


def editor(job_id: int) -> Access:
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    return access


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
    if not tags or len(tags) > SHOWN_ROWS:
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
