"""A job's record: each circuit's forms, verdict and what is due; as a table, and as a report to sign."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any, Final

from flask import Blueprint, Response, abort, render_template
from flask_login import login_required

from vinegate.core.record.facts import ASKED, RETEST_DAYS, TITLES
from vinegate.core.rules.sets import rule_set
from vinegate.exchange.sheets import xlsx
from vinegate.store import jobs
from vinegate.store.accounts import now
from vinegate.store.jobs import Access
from vinegate.web.circuit.pdf import to_pdf
from vinegate.web.jobs.summaries import rows_of, rows_on_paper
from vinegate.web.jobs.views import access_to
from vinegate.web.record.report import report_of

blueprint = Blueprint("job_record", __name__, template_folder="templates", url_prefix="/jobs/<int:job_id>/record")

_MOST: Final = 200
MOST_PDF: Final = 40
XLSX: Final = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """One circuit: which forms are filled in, when each is due again, what is said of it."""

    tag: str
    driven: str
    verdict: str
    said: str
    forms: tuple[str, ...]
    taken: dict[str, str]
    simulated: tuple[str, ...]
    due: tuple[tuple[str, str, bool], ...]
    """Form, day, and whether that is past."""

    @property
    def asked(self) -> int:
        """How many of the forms that every circuit is asked for are filled in."""
        return sum(form in ASKED for form in self.forms)


def rows(access: Access, *, paper: bool = False) -> tuple[list[Row], int]:
    """Of every circuit, recorded or not; and how many are being planned. On `paper` all of them are waited for."""
    kept = rows_on_paper(access) if paper else rows_of(access)
    return [_row(circuit.tag, summary) for circuit, summary in kept.rows], kept.planning


def _row(tag: str, summary: dict[str, Any]) -> Row:
    found = summary.get("record") or {}
    taken = found.get("taken") or {}
    return Row(
        tag=tag, driven=summary["driven"], verdict=found.get("verdict", ""), said=found.get("said", ""),
        forms=tuple(taken), taken=taken, simulated=tuple(found.get("simulated") or ()), due=tuple(_due(taken)),
    )  # fmt: skip


def _due(taken: dict[str, str]) -> list[tuple[str, str, bool]]:
    now, found = datetime.now(UTC).replace(tzinfo=None), []
    for form, days in RETEST_DAYS.items():
        try:
            at = datetime.fromisoformat(taken.get(form, "").partition(" UTC")[0])
        except ValueError:
            continue
        day = at + timedelta(days=days)
        found.append((TITLES[form], f"{day:%Y-%m-%d}", day < now))
    return sorted(found, key=lambda one: one[1])


@blueprint.get("/")
@login_required
def show(job_id: int) -> str:
    """The job's record."""
    access = access_to(job_id)
    found, planning = rows(access)
    return render_template("record/job.html", access=access, rows=found, planning=planning, count=len(ASKED))


@blueprint.get("/report")
@login_required
def report(job_id: int) -> str:
    """A summary, then each recorded circuit's report; to be signed."""
    return _report(access_to(job_id), _MOST)


@blueprint.get("/report.pdf")
@login_required
def report_pdf(job_id: int) -> Response:
    """The same as PDF, of so many circuits at most."""
    body = to_pdf(_report(access_to(job_id), MOST_PDF))
    return Response(body, mimetype="application/pdf", headers={"Content-Disposition": 'inline; filename="record.pdf"'})


def _report(access: Access, most: int) -> str:
    found, _ = rows(access, paper=True)
    begun = {row.tag for row in found if row.forms}
    if len(begun) > most:
        abort(413)
    rules = rule_set(access.rules)
    return render_template(
        "record/job_report.html",
        access=access,
        rows=found,
        reports=[report_of(access, one) for one in jobs.circuits(access) if one.tag in begun],
        count=len(ASKED),
        rules=rules,
        words=rules.words,
        now=now(),
        most_pdf=MOST_PDF,
    )


@blueprint.get("/report.xlsx")
@login_required
def table(job_id: int) -> Response:
    """Circuits, and every form with when and by whom."""
    access = access_to(job_id)
    found, _ = rows(access, paper=True)
    circuits = [(one.tag, one.driven, one.verdict or "nothing recorded", one.asked, one.said) for one in found]
    forms = [
        (one.tag, TITLES[form], one.taken.get(form, ""), "simulated bench" if form in one.simulated else "measured")
        for one in found
        for form in one.forms
    ]
    due = [(one.tag, form, day, "overdue" if past else "") for one in found for form, day, past in one.due]
    body = xlsx([
        ("Circuits", ("Tag", "Drives", "Record", f"Forms of {len(ASKED)}", "In words"), circuits),
        ("Forms", ("Tag", "Form", "Taken", "Kind"), forms),
        ("Due", ("Tag", "Form", "Due", ""), due),
    ])  # fmt: skip
    return Response(body, mimetype=XLSX, headers={"Content-Disposition": 'attachment; filename="record.xlsx"'})
