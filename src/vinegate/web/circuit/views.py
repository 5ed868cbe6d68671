"""A circuit's pages."""

from __future__ import annotations

import json
import time
from dataclasses import replace
from typing import Any

from flask import Blueprint, Response, abort, redirect, render_template, request, url_for
from flask_login import login_required
from markupsafe import Markup
from werkzeug.wrappers import Response as Redirect

from vinegate import __version__
from vinegate.core.answer import Piece, around
from vinegate.core.facts import read_circuit, read_job
from vinegate.core.grade import Verdict
from vinegate.core.paper import PaperPicture
from vinegate.core.plan import NOTHING, Beside, Plan, plan_circuit
from vinegate.core.rules.sets import rule_set
from vinegate.exchange.circuit_file import plan_document, plan_from_document
from vinegate.store import drafts, jobs, revisions
from vinegate.store.drafts import Saved
from vinegate.store.jobs import Access, Raw
from vinegate.store.models import Circuit, Revision, revision_letter
from vinegate.web.circuit.line import leading, line, tally
from vinegate.web.form import FormField, Labels, changes_in, entered_facts, family_of_raw, form_fields, writer_of
from vinegate.web.jobs.views import access_to
from vinegate.web.kept import kept_of
from vinegate.web.metrics import slow_plan
from vinegate.web.stages import PAGES, home_of
from vinegate.web.stages.machine.curves import asked, chart_of, curves_csv
from vinegate.web.stages.page import InHand, Page, Planned, Reading
from vinegate.web.stages.protection.devices import chart, rows
from vinegate.web.stages.start.methods import methods, strip_drawing, used
from vinegate.web.stages.stop.ways import stops_drawings
from vinegate.web.whole import whole_in

blueprint = Blueprint("circuit", __name__, template_folder="templates", url_prefix="/jobs/<int:job_id>/<tag>")

_LONGEST_NOTE = 400


def _answer(plan: Plan, page: Page) -> tuple[Piece, ...]:
    """The sheet's own answer first, then what decides besides: on it, and on the others."""
    own = page.answer(plan)
    if not own:
        return plan.answer
    here = [gate for stage in plan.stages if stage.key in page.here for gate in stage.gates]
    others = [gate for stage in plan.stages if stage.key not in page.here for gate in stage.gates]
    return (*own, *around(own, here, others))


def _page(station: str) -> Page:
    """The page half of a station; 404 where there is none."""
    page = PAGES.get(station)
    if page is None:
        abort(404)
    return page


def _planned(access: Access, row: Circuit, job_raw: Raw, circuit_raw: Raw, *, beside: Beside = Beside.ALL) -> Planned:
    job, job_errors = read_job(job_raw, access.rules)
    circuit, circuit_errors = read_circuit(circuit_raw, access.rules)
    begun = time.perf_counter()
    plan = plan_circuit(
        job,
        circuit,
        job_errors + circuit_errors,
        beside=beside,
        kept=kept_of(row.id, access.rules.value),
    )
    slow_plan(time.perf_counter() - begun, job_raw, circuit_raw)
    return Planned(job_raw=job_raw, circuit_raw=circuit_raw, job=job, circuit=circuit, plan=plan)


def draft(access: Access, circuit: Circuit, *, beside: Beside = Beside.ALL) -> Planned:
    return _planned(access, circuit, access.facts, jobs.loads(circuit.facts), beside=beside)


@blueprint.get("/")
@login_required
def show(job_id: int, tag: str) -> Redirect:
    """The circuit opens on its start, or on the plate while that is empty."""
    access = access_to(job_id)
    empty = not jobs.loads(jobs.circuit_by_tag(access, tag).facts).get("plate")
    return redirect(url_for(".sheet", job_id=job_id, tag=tag, station="plate" if empty else "start"))


@blueprint.get("/brake")
@login_required
def stop_as_it_was(job_id: int, tag: str) -> Redirect:
    """Links of before the stop's sheet had its own name."""
    return redirect(url_for(".sheet", job_id=job_id, tag=tag, station="stop"), 301)


@blueprint.get("/<station>")
@login_required
def sheet(job_id: int, tag: str, station: str) -> str:
    """The line with the sheet of one station."""
    access = access_to(job_id)
    page, circuit = _page(station), jobs.circuit_by_tag(access, tag)
    context = _context(access, circuit, page, draft(access, circuit, beside=page.works))
    return render_template("circuit/sheet.html", **context)


@blueprint.post("/<station>")
@login_required
def save(job_id: int, tag: str, station: str) -> str | Redirect | tuple[str, int]:
    """Keep what was typed and answer with the new numbers.

    With `X-Live` only the live part is sent: 200, or 409 when another was first on a field. As an ordinary form
    it redirects, or shows the contested field.
    """
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    page, circuit = _page(station), jobs.circuit_by_tag(access, tag)
    reading = page.reads(access, jobs.loads(circuit.facts), request.form)
    saved = drafts.save(access, circuit, changes_in(request.form) | dict(reading.changes), writer_of(request.form))
    live = "X-Live" in request.headers
    if not live and not saved.conflicts and not reading.says:
        anchor = "working" if request.form.get("working") else None
        return redirect(url_for(".sheet", job_id=job_id, tag=tag, station=station, _anchor=anchor))
    planned = _planned(access, circuit, saved.job_facts, saved.circuit_facts, beside=page.works)
    context = _context(access, circuit, page, planned, saved, reading)
    shown = render_template("circuit/_live.html" if live else "circuit/sheet.html", **context)
    return shown, 409 if saved.conflicts else 200


def _fields(access: Access, planned: Planned, asks: tuple[str, ...], saved: Saved | None) -> dict[str, FormField]:
    return form_fields(
        asks,
        job=planned.job_raw,
        circuit=planned.circuit_raw,
        rules=access.rules.value,
        errors=planned.plan.errors,
        conflicts=saved.conflicts if saved else (),
        readonly=not access.may_edit,
    )


def _context(
    access: Access,
    circuit: Circuit,
    page: Page,
    planned: Planned,
    saved: Saved | None = None,
    reading: Reading | None = None,
) -> dict[str, Any]:
    """Everything the sheet's templates show: what all of them have, and the page's own."""
    plan, shown, by_name = planned.plan, *page.parts(planned)
    fields = _fields(access, planned, (*page.asks, *shown), saved)
    hand = InHand(planned=planned, fields=fields, shown=shown, by_name=by_name, access=access,
                  kept=circuit, reading=reading or Reading())  # fmt: skip
    return {
        "access": access,
        "circuit": circuit,
        "tag": circuit.tag,
        "station": page.key,
        "plan": plan,
        "answer": _answer(plan, page),
        "headline": page.headline(plan),
        "stage": plan.stage(page.key),
        "stations": line(plan, planned.job, planned.circuit, planned.job_raw, planned.circuit_raw),
        "leading": leading,
        "tally": tally(plan),
        "used": used(plan),
        "home_of": home_of,
        "fields": fields,
        "family": family_of_raw(planned.circuit_raw),
        "labels": Labels(access.rules.value),
        "words": rule_set(access.rules).words,
        "rules": rule_set(access.rules),
        **_kept_context(access, circuit, saved),
        **page.context(hand),
    }


def _kept_context(access: Access, circuit: Circuit, saved: Saved | None) -> dict[str, Any]:
    """What the sheet says of saves and revisions."""
    writer, entry = writer_of(request.form), saved.entry if saved else None
    issued = revisions.revisions(circuit)
    following = (issued[0].number if issued else 0) + 1
    return {
        "conflicts": saved.conflicts if saved else (),
        "others": saved.others if saved else (),
        "issued": issued,
        "state": revisions.state_of(circuit, access.job.facts, circuit.facts) if saved is None else None,
        "seen_job": saved.job_version if saved else access.job.version,
        "seen_circuit": saved.circuit_version if saved else circuit.version,
        "next_letter": revision_letter(following),
        "next_number": following,
        "last_save": entry or drafts.last_save(circuit),
        "seen": entry.id if entry else drafts.newest_save(access, circuit),
        "page": writer.page,
        "sequence": writer.sequence + 1,
    }


@blueprint.post("/issue")
@login_required
def issue(job_id: int, tag: str) -> Redirect | tuple[str, int]:
    """Issue the draft that was seen as the next revision. A repeated request shows the one it made."""
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    circuit = jobs.circuit_by_tag(access, tag)
    planned = draft(access, circuit)
    number, seen = _number("number"), (_number("seen_job"), _number("seen_circuit"))
    note = request.form.get("note", "").strip()[:_LONGEST_NOTE]
    wrong = ""
    if planned.plan.verdict is Verdict.FAILS and not note:
        wrong = "A gate fails: to issue it all the same, say why."
    if wrong:
        return _not_issued(access, circuit, planned, wrong)
    try:
        revisions.issue(
            access,
            circuit,
            number=number,
            seen=seen,
            facts={"job": planned.job_raw, "circuit": planned.circuit_raw},
            plan=plan_document(on_paper(planned)),
            program_version=__version__,
            note=note,
        )
    except revisions.ChangedMeanwhile as who:
        return _not_issued(access, circuit, planned, f"{who} has changed it since you looked: this is how it is now.")
    except revisions.AlreadyIssued:
        newest = revisions.revisions(circuit)
        number = newest[0].number if newest else 0
    return redirect(url_for(".revision", job_id=job_id, tag=tag, number=number))


def _number(name: str) -> int:
    text = request.form.get(name, "")
    return whole_in(text) or 0


def _not_issued(access: Access, circuit: Circuit, planned: Planned, why: str) -> tuple[str, int]:
    """The sheet again, with why nothing was issued; what was typed stays."""
    context = _context(access, jobs.circuit_by_tag(access, circuit.tag), _page("start"), planned)
    return render_template(
        "circuit/sheet.html", **context, issue_wrong=why, issue_note=request.form.get("note", "")
    ), 409


@blueprint.get("/revisions/<int:number>")
@login_required
def revision(job_id: int, tag: str, number: int) -> str:
    """An issued revision: the calculation sheet as it was."""
    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    return render_template("circuit/print.html", **revision_context(access, circuit, number))


def revision_context(access: Access, circuit: Circuit, number: int) -> dict[str, Any]:
    row = revisions.revision(circuit, number)
    facts = jobs.loads(row.facts)
    return print_context(access, circuit, plan_from_document(jobs.loads(row.plan)), facts["job"], facts["circuit"], row)


def print_context(
    access: Access, circuit: Circuit, plan: Plan, job_raw: Raw, circuit_raw: Raw, row: Revision | None
) -> dict[str, Any]:
    rules = rule_set(plan.rules)
    job, _ = read_job(job_raw, plan.rules)
    facts, _ = read_circuit(circuit_raw, plan.rules)
    return {
        "access": access,
        "circuit": circuit,
        "facts": facts,
        "tag": circuit.tag,
        "plan": plan,
        "rules": rules,
        "words": rules.words,
        "stations": line(plan, job, facts, job_raw, circuit_raw),
        "leading": leading,
        "entered": entered_facts(job_raw, circuit_raw, plan.rules.value),
        "revision": row,
        "reviews": revisions.reviews(row) if row else [],
        "comments": revisions.comments(row) if row else [],
        "standing": revisions.standing(row) if row else "draft",
        "tally": tally(plan),
        "methods": methods(plan, facts),
        "strip": strip_drawing(plan, on_paper=True),
        "device_rows": rows(plan),
        "curve_chart": chart(plan, facts, on_paper=True),
        "stops_drawings": stops_drawings(plan, on_paper=True),
        "pictures": [
            (one.title, Markup(one.svg))  # noqa: S704 - written by this program, kept where only it writes
            for one in plan.pictures or _pictures(plan)
        ],
    }


def on_paper(planned: Planned) -> Plan:
    """The plan with every sheet's own tables and pictures."""
    plan, raw = planned.plan, (planned.job_raw, planned.circuit_raw)
    further = tuple(table for page in PAGES.values() for table in page.papers(plan, *raw))
    return replace(plan, papers=(*plan.papers, *further), pictures=_pictures(plan))


def _pictures(plan: Plan) -> tuple[PaperPicture, ...]:
    """What the sheets draw on paper beside what every print has."""
    return tuple(picture for page in PAGES.values() for picture in page.pictures(plan))


@blueprint.get("/print")
@login_required
def print_view(job_id: int, tag: str) -> str:
    """The draft as a calculation sheet."""
    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    planned = draft(access, circuit)
    context = print_context(access, circuit, on_paper(planned), planned.job_raw, planned.circuit_raw, None)
    return render_template("circuit/print.html", **context)


@blueprint.post("/revisions/<int:number>/review")
@login_required
def review(job_id: int, tag: str, number: int) -> Redirect | tuple[str, int]:
    """A reviewer accepts a revision or sends it back."""
    access = access_to(job_id)
    if not access.may_review:
        abort(403)
    circuit = jobs.circuit_by_tag(access, tag)
    row = revisions.revision(circuit, number)
    verdict = request.form.get("verdict")
    if verdict not in {"accepted", "sent back"}:
        abort(400)
    note = request.form.get("note", "").strip()[:_LONGEST_NOTE]
    try:
        revisions.review(access, circuit, row, accepted=verdict == "accepted", note=note)
    except revisions.NotYours as error:
        context = revision_context(access, circuit, number)
        return render_template("circuit/print.html", **context, review_wrong=str(error)), 409
    return redirect(url_for(".revision", job_id=job_id, tag=tag, number=number))


@blueprint.get("/print.pdf", defaults={"number": None})
@blueprint.get("/revisions/<int:number>.pdf")
@login_required
def pdf(job_id: int, tag: str, number: int | None) -> Response:
    """The calculation sheet as PDF: of an issued plan it is written once, until something is said of it."""
    from vinegate.web.circuit.pdf import pdf_of

    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    if number is None:
        planned = draft(access, circuit)
        context = print_context(access, circuit, on_paper(planned), planned.job_raw, planned.circuit_raw, None)
    else:
        context = revision_context(access, circuit, number)
    row: Revision | None = context["revision"]
    name = f"{tag}-{row.letter if row else 'draft'}.pdf"
    body = pdf_of(render_template("circuit/paper.html", **context), row)
    return Response(body, mimetype="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}"'})


@blueprint.get("/plan.json")
@login_required
def plan_json(job_id: int, tag: str) -> Response:
    """The draft's plan in the documented shape."""
    access = access_to(job_id)
    planned = draft(access, jobs.circuit_by_tag(access, tag))
    return Response(json.dumps(plan_document(planned.plan), ensure_ascii=False), mimetype="application/json")


@blueprint.get("/<station>/<name>")
@login_required
def file(job_id: int, tag: str, station: str, name: str) -> Response:
    """What a sheet gives as a file."""
    access = access_to(job_id)
    make = _page(station).files.get(name)
    found = make(draft(access, jobs.circuit_by_tag(access, tag), beside=NOTHING).plan) if make else None
    if found is None:
        abort(404)
    headers = {"Content-Disposition": f'attachment; filename="{tag}-{station}-{name}"'}
    return Response(found[0], mimetype=found[1], headers=headers)


@blueprint.get("/machine.csv")
@blueprint.get("/machine.svg", endpoint="machine_svg")
@login_required
def machine_csv(job_id: int, tag: str) -> Response:
    """The machine's curves as a table or a drawing, at the volts and frequency asked for."""
    access = access_to(job_id)
    chart = chart_of(draft(access, jobs.circuit_by_tag(access, tag)).plan, *asked())
    if chart is None:
        abort(404)
    if request.path.endswith(".svg"):
        return Response(chart.standalone, mimetype="image/svg+xml")
    headers = {"Content-Disposition": f'attachment; filename="{tag}-machine.csv"'}
    return Response(curves_csv(chart.curves), mimetype="text/csv", headers=headers)
