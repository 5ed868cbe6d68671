"""A circuit's past and its company: every change of a fact, two plans held against each other, questions on what was
issued, who else has it open.
"""

from __future__ import annotations

from typing import Any

from flask import abort, redirect, render_template, request, url_for
from flask_login import login_required
from werkzeug.wrappers import Response as Redirect

from vinegate.core.changed import answers_changed, facts_changed, verdicts_changed
from vinegate.core.inverse import QUESTIONS, ask_inverse
from vinegate.core.plan import Beside, Plan
from vinegate.exchange.circuit_file import plan_from_document
from vinegate.store import drafts, jobs, presence, revisions
from vinegate.store.jobs import Access, Raw
from vinegate.store.models import Circuit, revision_letter
from vinegate.web.circuit.views import blueprint, draft, revision_context
from vinegate.web.form import Labels, writer_of
from vinegate.web.jobs.views import access_to
from vinegate.web.whole import whole_in


@blueprint.post("/here")
@login_required
def here(job_id: int, tag: str) -> dict[str, Any]:
    """A page says that it is looked at (or, with `left`, no longer): who else is here, and whether it is behind."""
    access = access_to(job_id)
    circuit, writer = jobs.circuit_by_tag(access, tag), writer_of(request.form)
    if request.form.get("left"):
        presence.left(access, circuit, writer.page)
        return {}
    behind = bool(drafts.others_since(access, circuit, writer))
    return {"others": presence.here(access, circuit, writer.page), "behind": behind}


@blueprint.get("/history")
@login_required
def history(job_id: int, tag: str) -> str:
    """Who changed what, when, from what to what; of one field where it is asked for."""
    access = access_to(job_id)
    circuit, path = jobs.circuit_by_tag(access, tag), request.args.get("field", "")[:80]
    steps = drafts.history(access, circuit, path)
    return render_template(
        "circuit/history.html", access=access, tag=tag, steps=steps, path=path, labels=Labels(access.rules.value)
    )


@blueprint.get("/compare")
@login_required
def compare(job_id: int, tag: str) -> str:
    """Two revisions, or the draft against one: what changed and nothing else."""
    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    issued = revisions.revisions(circuit)
    first = _asked("from", issued[0].number if issued else 0)
    second = _asked("to", 0)
    (was, plan_was), (now, plan_now) = (_side(access, circuit, number) for number in (first, second))
    return render_template(
        "circuit/compare.html",
        access=access,
        tag=tag,
        issued=issued,
        first=first,
        second=second,
        names=[f"revision {revision_letter(number)}" if number else "the draft" for number in (first, second)],
        facts=facts_changed(was, now),
        answers=answers_changed(plan_was, plan_now),
        verdicts=verdicts_changed(plan_was, plan_now),
        labels=Labels(access.rules.value),
    )


def _asked(name: str, usual: int) -> int:
    text = request.args.get(name, "")
    found = whole_in(text)
    return usual if found is None else found


def _side(access: Access, circuit: Circuit, number: int) -> tuple[Raw, Plan]:
    """Facts and plan of a revision; of the draft for 0."""
    if number:
        row = revisions.revision(circuit, number)
        return jobs.loads(row.facts), plan_from_document(jobs.loads(row.plan))
    planned = draft(access, circuit, beside=Beside.DOCUMENT)
    return {"job": planned.job_raw, "circuit": planned.circuit_raw}, planned.plan


@blueprint.post("/revisions/<int:number>/comments")
@login_required
def comment(job_id: int, tag: str, number: int) -> Redirect | tuple[str, int]:
    """Ask, answer or close."""
    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    row, what = revisions.revision(circuit, number), request.form.get("what", "")
    text = request.form.get("text", "").strip()
    if not (access.may_review or access.may_edit):
        abort(403)
    if what == "ask":
        if not access.may_review:
            abort(403)
        if not text:
            return _again(access, circuit, number, "A question needs words.")
        revisions.ask(access, circuit, row, request.form.get("subject", "").strip() or "the whole", text)
    elif what in ("answer", "close"):
        which = whole_in(request.form.get("comment", ""))
        if which is None or (what == "answer" and not text):
            return _again(access, circuit, number, "An answer needs words.")
        try:
            revisions.settle(access, circuit, row, which, answer=text, close=what == "close")
        except revisions.NotYours as error:
            return _again(access, circuit, number, str(error))
    else:
        abort(400)
    return redirect(url_for("circuit.revision", job_id=job_id, tag=tag, number=number, _anchor="review"))


def _again(access: Access, circuit: Circuit, number: int, wrong: str) -> tuple[str, int]:
    context: dict[str, Any] = revision_context(access, circuit, number)
    return render_template("circuit/print.html", **context, review_wrong=wrong), 422


@blueprint.get("/how-far")
@login_required
def how_far(job_id: int, tag: str) -> str:
    """The questions turned round: one of them is answered when it is asked, for each is many plans."""
    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    key = request.args.get("ask", "")
    found = ask_inverse(key, access.rules, access.facts, jobs.loads(circuit.facts)) if key in QUESTIONS else None
    asked = {name: question for name, (question, _) in QUESTIONS.items()}
    return render_template("circuit/how_far.html", access=access, tag=tag, asked=asked, key=key, found=found)
