"""For the doors of several circuits: their settings cards, and small labels; and the schedule as PDF."""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import Any, Final

from flask import Response, abort, render_template, request
from flask_login import login_required
from markupsafe import Markup

from vinegate.core.plan import NOTHING
from vinegate.core.rules.sets import rule_set
from vinegate.store import jobs
from vinegate.store.accounts import now
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.store.revisions import State, states
from vinegate.web.circuit.door import card_context
from vinegate.web.circuit.pdf import to_pdf
from vinegate.web.circuit.views import draft
from vinegate.web.jobs.schedule import Asked, schedule
from vinegate.web.jobs.views import access_to, blueprint, board_names

MOST_CARDS: Final = 60
MOST_ROWS: Final = 400
"""A page holds some thirty rows."""
_LONGEST: Final = 120


@blueprint.get("/jobs/<int:job_id>/cards")
@login_required
def cards(job_id: int) -> str:
    """The cards of the circuits that are named by `tag`, each on a sheet of its own."""
    return _cards(access_to(job_id))


@blueprint.get("/jobs/<int:job_id>/cards.pdf")
@login_required
def cards_pdf(job_id: int) -> Response:
    """The same as PDF."""
    return _pdf(_cards(access_to(job_id)), "cards.pdf")


def _cards(access: Access) -> str:
    tags = _tags()
    rows = [row for row in jobs.circuits(access) if row.tag in tags]
    if not rows:
        abort(404)
    found = [Markup(render_template("circuit/_card.html", **card_context(access, row))) for row in rows]  # noqa: S704
    return render_template("jobs/cards.html", access=access, cards=found, tags=[row.tag for row in rows])


@blueprint.get("/jobs/<int:job_id>/labels")
@login_required
def labels(job_id: int) -> str:
    """Small labels of the circuits that are named by `tag`, three across a sheet."""
    return _labels(access_to(job_id))


@blueprint.get("/jobs/<int:job_id>/labels.pdf")
@login_required
def labels_pdf(job_id: int) -> Response:
    """The same as PDF."""
    return _pdf(_labels(access_to(job_id)), "labels.pdf")


@dataclass(frozen=True, slots=True, kw_only=True)
class Label:
    """What stands on one, of the draft; `stands` where it is what was accepted."""

    tag: str
    driven: str
    board: str
    motor: str
    devices: dict[str, str]
    state: str
    stands: bool


def _labels(access: Access) -> str:
    tags = _tags()
    rows = [row for row in jobs.circuits(access) if row.tag in tags]
    if not rows:
        abort(404)
    standing = states(rows, access.job.facts, {row.id: row.facts for row in rows})
    found = [_label(access, row, standing[row.id]) for row in rows]
    return render_template("jobs/labels.html", **_common(access), labels=found, tags=[row.tag for row in rows])


def _label(access: Access, row: Circuit, state: State) -> Label:
    planned = draft(access, row, beside=NOTHING)
    plan, facts = planned.plan, planned.circuit
    shown = [figure.shown for key in ("plate.power", "plate.current") if (figure := plan.figure(key)) is not None]
    return Label(
        tag=row.tag,
        driven=facts.start.driven or "",
        board=board_names(access).get(facts.wiring.board or "main", ""),
        motor=", ".join(shown),
        devices={one.key: one.chosen for one in plan.protected.devices} if plan.protected else {},
        state=state.said,
        stands=state.stands,
    )


@blueprint.get("/jobs/<int:job_id>/schedule.pdf")
@login_required
def schedule_pdf(job_id: int) -> Response:
    """The schedule as it is narrowed and sorted."""
    access = access_to(job_id)
    asked = Asked(**{one.name: request.args.get(one.name, "")[:_LONGEST] for one in fields(Asked)})
    rows = schedule(access, sort=request.args.get("sort", "tag"), asked=asked, paper=True).rows
    if len(rows) > MOST_ROWS:
        abort(413)
    page = render_template("jobs/sheets.html", **_common(access), rows=rows, sheets=[], tags=[], most_pdf=0)
    return _pdf(page, "schedule.pdf")


def _common(access: Access) -> dict[str, Any]:
    rules = rule_set(access.rules)
    return {"access": access, "rules": rules, "words": rules.words, "now": now()}


def _tags() -> list[str]:
    tags = request.args.getlist("tag")
    if len(tags) > MOST_CARDS:
        abort(413)
    return tags


def _pdf(page: str, name: str) -> Response:
    head = {"Content-Disposition": f'inline; filename="{name}"'}
    return Response(to_pdf(page), mimetype="application/pdf", headers=head)
