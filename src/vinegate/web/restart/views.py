"""The restart sequence of a job: searched, moved by hand, printed."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

from flask import Blueprint, abort, redirect, render_template, request, url_for
from flask_login import login_required
from markupsafe import Markup
from werkzeug.wrappers import Response as Redirect

from vinegate.core.rules.sets import rule_set
from vinegate.core.start.restart import Restart, Slot, restart_sequence
from vinegate.drawing.restart_chart import restart_chart
from vinegate.drawing.scene import svg
from vinegate.store import drafts, jobs
from vinegate.store.drafts import Change, Conflict
from vinegate.store.jobs import Access
from vinegate.web.form import writer_of
from vinegate.web.jobs.views import access_to
from vinegate.web.restart.gather import Entry, gathered

blueprint = Blueprint("restart", __name__, template_folder="templates", url_prefix="/jobs/<int:job_id>/restart")

_PATHS = ("start.restart_at", "start.restart")
_LONGEST = 40


@dataclass(frozen=True, kw_only=True)
class Page:
    """What the page shows. `open` counts circuits that restart and of which too little is known."""

    found: Restart
    entries: tuple[Entry, ...]
    drawing: Markup
    planning: int = 0
    open: int = 0
    limit_unread: str = ""

    @cached_property
    def slots(self) -> dict[str, Slot]:
        return {slot.tag: slot for slot in self.found.slots}

    @cached_property
    def reasons(self) -> dict[str, str]:
        return dict(self.found.left_out)


@blueprint.get("")
@login_required
def show(job_id: int) -> str:
    """The sequence as it stands."""
    access = access_to(job_id)
    return render_template("restart/page.html", **_context(access))


@blueprint.post("")
@login_required
def save(job_id: int) -> str | Redirect | tuple[str, int]:
    """Keep moved moments, each with its circuit; answer with the new sequence. 409 when another was first."""
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    conflicts: list[tuple[str, Conflict]] = []
    for circuit in jobs.circuits(access):
        changes = _changes(circuit.tag)
        if changes:
            saved = drafts.save(access, circuit, changes, writer_of(request.form))
            conflicts += [(circuit.tag, conflict) for conflict in saved.conflicts]
    if "X-Live" not in request.headers and not conflicts:
        return redirect(url_for(".show", job_id=job_id))
    live = "X-Live" in request.headers
    page = render_template("restart/_live.html" if live else "restart/page.html", **_context(access, conflicts))
    return page, 409 if conflicts else 200


def _changes(tag: str) -> dict[str, Change]:
    """What the form changes of one circuit, each field against what it showed."""
    found = {}
    for path in _PATHS:
        now, was = request.form.get(f"f:{tag}:{path}"), request.form.get(f"was:{tag}:{path}", "")
        if now is not None and now.strip() != was:
            found[path] = Change(was=was, now=now.strip()[:_LONGEST])
    return found


def _context(access: Access, conflicts: list[tuple[str, Conflict]] | None = None) -> dict[str, Any]:
    writer = writer_of(request.form)
    shown = _page(access)
    return {
        "access": access,
        "page_data": shown,
        "planning": shown.planning,
        "conflicts": conflicts or [],
        "rules": rule_set(access.rules),
        "words": rule_set(access.rules).words,
        "seen": drafts.newest_save(access),
        "page": writer.page,
        "sequence": writer.sequence + 1,
    }


def _page(access: Access) -> Page:
    """The sequence from what is kept with each circuit: nothing is planned that has not changed."""
    here = gathered(access)
    found = restart_sequence(here.starters, dip_limit_pu=here.dip_pu, left_out=here.left_out)
    drawing = Markup(svg(restart_chart(found, editable=access.may_edit), "strip-drawing restart"))  # noqa: S704
    return Page(found=found, entries=here.entries, drawing=drawing, planning=here.planning, open=here.lacking,
                limit_unread=here.limit_unread)  # fmt: skip
