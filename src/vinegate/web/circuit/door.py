"""Pages beside the sheets: the same facts under both rule sets, and the card for the door."""

from __future__ import annotations

from typing import Any

from flask import render_template
from flask_login import login_required

from vinegate.core.facts import RuleSetName, read_job
from vinegate.core.plan import NOTHING, plan_circuit
from vinegate.core.protection.need import Device
from vinegate.core.rules.sets import rule_set
from vinegate.store import jobs, revisions
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.web.circuit.views import blueprint, draft, on_paper, print_context, revision_context
from vinegate.web.jobs.views import access_to
from vinegate.web.stages.start.methods import used


@blueprint.get("/rules")
@login_required
def other_rules(job_id: int, tag: str) -> str:
    """The same facts under both rule sets."""
    access = access_to(job_id)
    planned = draft(access, jobs.circuit_by_tag(access, tag), beside=NOTHING)
    other = next(name for name in RuleSetName if name is not access.rules)
    job, errors = read_job(planned.job_raw, other)
    there = plan_circuit(job, planned.circuit, errors, beside=NOTHING)
    assert planned.plan.protected
    assert there.protected
    return render_template(
        "circuit/rules.html",
        access=access,
        tag=tag,
        plan=planned.plan,
        rules=rule_set(access.rules),
        titles=(rule_set(access.rules).title, rule_set(other).title),
        other=other.value,
        pairs=_pairs(planned.plan.protected.devices, there.protected.devices),
    )


def _pairs(here: tuple[Device, ...], there: tuple[Device, ...]) -> list[tuple[Device | None, Device | None]]:
    """Row by row, None where one set has no such row."""
    one, other = ({row.key: row for row in rows} for rows in (here, there))
    return [(one.get(key), other.get(key)) for key in {**one, **other}]


@blueprint.get("/card")
@login_required
def card(job_id: int, tag: str) -> str:
    """The settings card to stick inside the door."""
    access = access_to(job_id)
    return render_template("circuit/card.html", **card_context(access, jobs.circuit_by_tag(access, tag)))


def card_context(access: Access, circuit: Circuit) -> dict[str, Any]:
    """Of the newest revision, else of the draft, and said so."""
    issued = revisions.revisions(circuit)
    context = revision_context(access, circuit, issued[0].number) if issued else None
    if context is None:
        planned = draft(access, circuit, beside=NOTHING)
        context = print_context(access, circuit, on_paper(planned), planned.job_raw, planned.circuit_raw, None)
    plan, facts = context["plan"], context["facts"]
    row = used(plan)
    motor = next(stop.short for stop in context["stations"] if stop.kind == "plate")
    return context | {
        "motor": motor,
        "starts_by": f"{row.name} {row.setting}".strip() if row else "",
        "reset": facts.protection.reset or "manual",
        "fault": plan.fault_at(facts.wiring.board),
    }
