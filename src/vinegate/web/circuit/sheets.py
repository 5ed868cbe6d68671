"""Several circuits on paper: a summary of one page first, then each circuit's calculation sheet."""

from __future__ import annotations

from typing import Final

from flask import Response, abort, render_template, request
from flask_login import login_required
from markupsafe import Markup

from vinegate.core.rules.sets import rule_set
from vinegate.core.summary import summarise
from vinegate.store import jobs
from vinegate.store.accounts import now
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.store.revisions import states
from vinegate.web.circuit.pdf import to_pdf
from vinegate.web.circuit.views import draft, on_paper, print_context
from vinegate.web.jobs.schedule import Row, row_for
from vinegate.web.jobs.views import access_to, blueprint
from vinegate.web.stages.page import Planned

MOST: Final = 60
MOST_PDF: Final = 12
"""Each takes half a second and some 40 MB while it is typeset, and two are at once."""


@blueprint.get("/jobs/<int:job_id>/sheets")
@login_required
def sheets(job_id: int) -> str:
    """The drafts of the circuits that are named by `tag`, to be printed."""
    return _page(access_to(job_id), MOST)


@blueprint.get("/jobs/<int:job_id>/sheets.pdf")
@login_required
def sheets_pdf(job_id: int) -> Response:
    access = access_to(job_id)
    body = to_pdf(_page(access, MOST_PDF))
    return Response(
        body, mimetype="application/pdf", headers={"Content-Disposition": 'inline; filename="circuits.pdf"'}
    )


def _page(access: Access, most: int) -> str:
    tags = request.args.getlist("tag")
    rows = [row for row in jobs.circuits(access) if row.tag in tags]
    if not rows or len(rows) > most:
        abort(404 if not rows else 413)
    standing = states(rows, access.job.facts, {row.id: row.facts for row in rows})
    drafts = [(row, draft(access, row)) for row in rows]
    rules = rule_set(access.rules)
    return render_template(
        "jobs/sheets.html",
        access=access,
        rows=[_line(row, planned, standing[row.id].said) for row, planned in drafts],
        sheets=[_sheet(access, row, planned) for row, planned in drafts],
        tags=[row.tag for row in rows],
        rules=rules,
        words=rules.words,
        now=now(),
        most_pdf=MOST_PDF,
    )


def _line(row: Circuit, planned: Planned, state: str) -> Row:
    """The summary's, of the same plan as its sheet."""
    return row_for(row, summarise(planned.plan) | {"driven": planned.circuit.start.driven or ""}, state)


def _sheet(access: Access, row: Circuit, planned: Planned) -> Markup:
    context = print_context(access, row, on_paper(planned), planned.job_raw, planned.circuit_raw, None)
    return Markup(render_template("circuit/_calc.html", **context))  # noqa: S704 - our own template
