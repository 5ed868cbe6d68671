"""The commissioning report of one circuit: what was found, by whom, against which plan; to be signed."""

from __future__ import annotations

from typing import Any

from flask import Response, render_template
from flask_login import login_required
from markupsafe import Markup

from vinegate.core.grade import worst_judged
from vinegate.core.plan import NOTHING
from vinegate.core.record.duty import starts_gate
from vinegate.core.record.facts import ASKED, TITLES
from vinegate.core.record.stage import CAUTION, RECORD, record_said, record_verdict
from vinegate.core.rules.sets import rule_set
from vinegate.store import captures, entries, revisions
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.web.circuit.views import draft
from vinegate.web.record.base import blueprint, reader
from vinegate.web.stages.record import started


def report_of(access: Access, circuit: Circuit) -> Markup:
    """The report's sheet, to stand among others."""
    return Markup(render_template("record/_report.html", **_context(access, circuit)))  # noqa: S704 - our own template


def _context(access: Access, circuit: Circuit) -> dict[str, Any]:
    planned = draft(access, circuit, beside=NOTHING)
    found = planned.plan.of(RECORD)
    issued = revisions.revisions(circuit)
    return {
        "access": access,
        "tag": circuit.tag,
        "plan": planned.plan,
        "driven": planned.circuit.start.driven or "",
        "recorded": found,
        "verdict": record_verdict(found, planned.plan.stage("record")) if found else worst_judged(()),
        "said": record_said(found, planned.plan.stage("record")) if found else (),
        "stage": planned.plan.stage("record"),
        "readings": [(title, [one for one in found.readings if one.form == title]) for title in TITLES.values()]
        if found
        else [],
        "lacking": [TITLES[form] for form in ASKED if found is None or form not in found.forms],
        "starts": starts_gate(started(entries.entries(circuit)), planned.circuit.start.starts_per_hour),
        "people": sorted({entry.user.name for entry in entries.entries(circuit)}),
        "captures": captures.listed(circuit),
        "issued": issued[0] if issued else None,
        "rules": rule_set(access.rules),
        "words": rule_set(access.rules).words,
        "record_caution": CAUTION,
    }


@blueprint.get("/report")
@login_required
def report(job_id: int, tag: str) -> str:
    """As a page that prints."""
    return render_template("record/report.html", **_context(*reader(job_id, tag)))


@blueprint.get("/report.pdf")
@login_required
def report_pdf(job_id: int, tag: str) -> Response:
    """As PDF."""
    from vinegate.web.circuit.pdf import to_pdf

    body = to_pdf(render_template("record/report.html", **_context(*reader(job_id, tag))))
    headers = {"Content-Disposition": f'inline; filename="{tag}-record.pdf"'}
    return Response(body, mimetype="application/pdf", headers=headers)
