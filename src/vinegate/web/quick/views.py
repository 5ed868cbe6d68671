"""From plate and supply to the answer on one screen, and single questions, one screen each. A link has the facts."""

from __future__ import annotations

import secrets
from collections.abc import Mapping
from dataclasses import replace
from typing import Any, Final
from urllib.parse import urlencode

from flask import Blueprint, abort, redirect, render_template, request, url_for
from flask_login import current_user, login_required
from werkzeug.wrappers import Response as Redirect

from vinegate.core.answer import by_weight
from vinegate.core.doubt import NO_KIND
from vinegate.core.facts import RuleSetName
from vinegate.core.field import FieldError
from vinegate.core.grade import Verdict
from vinegate.core.plan import NOTHING, Plan, plan_raw
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.which_kind import KIND
from vinegate.core.quick.tool import ask
from vinegate.core.quick.tools import TOOLS
from vinegate.core.rules.sets import RULE_SETS, rule_set
from vinegate.core.start.usual_dips import usual_dips
from vinegate.core.supply.facts import Supply
from vinegate.core.work import Kept
from vinegate.exchange.circuit_file import TAG, TAG_RULE
from vinegate.exchange.plate_text import read_plate
from vinegate.store import jobs
from vinegate.web.form import FormField, form_fields, worded
from vinegate.web.stages.pasting import LONGEST, NOTHING_NAMED, read_but_for, told
from vinegate.web.whole import whole_in

blueprint = Blueprint("quick", __name__, template_folder="templates", url_prefix="/quick")

_PLATE: Final = ("power", "volts", "full_load_current", "frequency", "speed", "design_letter")
_OF_RULES: Final = {"nec": ("code_letter", "service_factor"), "iec": ("starting_current_ratio", "power_factor")}
_OTHERS: Final = ("supply.volts", "supply.fault_level", "wiring.length")
_AT_BOARD: Final = replace(
    Supply.fields()["fault_level"], help="14 kA or 300 MVA; from the transformer: see Fault at a board."
)
_SHOWN_GATES: Final = 6
_LONGEST_LEFT: Final = 400


def _rules() -> RuleSetName:
    asked = request.values.get("rules", RuleSetName.NEC.value)
    return RuleSetName(asked) if asked in RULE_SETS and asked in list(RuleSetName) else RuleSetName.NEC


def _asked(rules: RuleSetName) -> tuple[str, ...]:
    """What is asked of every plate, in its own order."""
    return tuple(f"plate.{name}" for name in (*_PLATE, *_OF_RULES[rules.value], "kind"))


def _further(rules: RuleSetName) -> tuple[str, ...]:
    """What else of a plate was given, pasted or in a link."""
    asked, given = _asked(rules), {path.removeprefix("f:") for path, text in request.values.items() if text.strip()}
    return tuple(path for name in Plate.fields() if (path := f"plate.{name}") in given and path not in asked)


def _paths(rules: RuleSetName) -> tuple[str, ...]:
    """The plate's fields, then the supply's."""
    return (*_asked(rules), *_further(rules), *_OTHERS)


def _typed(paths: tuple[str, ...]) -> dict[str, dict[str, str]]:
    """What was typed, by part: "f:plate.power" from the form, "plate.power" from a link."""
    found: dict[str, dict[str, str]] = {}
    for path in paths:
        text = (request.values.get(f"f:{path}") or request.values.get(path) or "").strip()[:200]
        if text:
            part, _, name = path.partition(".")
            found.setdefault(part, {})[name] = text
    return found


def _plan(rules: RuleSetName, typed: Mapping[str, dict[str, str]]) -> Plan:
    """With the conductors that are advised, so that the rest is judged with them."""
    job, circuit = _facts(typed)
    kept = Kept()
    plan = plan_raw(rules, job, circuit, beside=NOTHING, kept=kept)
    device = plan.protected.device("conductors") if plan.protected else None
    if device is None or not device.take or device.path.partition(".")[0] != "wiring":
        return plan
    wiring = {**circuit.get("wiring", {}), device.path.partition(".")[2]: device.take}
    return plan_raw(rules, job, {**circuit, "wiring": wiring}, beside=NOTHING, kept=kept)


def _facts(typed: Mapping[str, dict[str, str]]) -> tuple[dict[str, Any], dict[str, Any]]:
    """The supply has the plate's frequency."""
    supply = dict(typed.get("supply", {}))
    frequency = typed.get("plate", {}).get("frequency")
    if frequency:
        supply["frequency"] = frequency
    return {"supply": supply}, {part: dict(typed[part]) for part in ("plate", "wiring") if part in typed}


def _filled(rules: RuleSetName, text: str, typed: Mapping[str, dict[str, str]]) -> str | None:
    """The page with all that a pasted plate says; None where it names no field."""
    found = read_plate(text, rules)
    if not found.texts:
        return None
    kept = {f"{part}.{name}": text for part, fields in typed.items() for name, text in fields.items()}
    said = {"left": ", ".join(found.left), "told": told(found, "Asked on a circuit, not here")}
    left = {name: words[:_LONGEST_LEFT] for name, words in said.items() if words}
    return _link(rules, kept | {f"plate.{name}": text for name, text in found.texts.items()} | left)


@blueprint.get("/")
def show() -> str | Redirect:
    """Twelve fields and, as they are typed, the answer; a pasted plate fills what it says."""
    rules = _rules()
    paths = _paths(rules)
    typed = _typed(paths)
    pasted = request.args.get("pasted", "").strip()[:LONGEST]
    if pasted and (filled := _filled(rules, pasted, typed)):
        return redirect(filled)
    plan = _plan(rules, typed) if typed.get("plate") else None
    job, circuit = _facts(typed)
    fields = form_fields(
        paths, job=job, circuit=circuit, rules=rules.value, errors=plan.errors if plan else (), readonly=False
    )
    fields["supply.fault_level"] = replace(
        fields["supply.fault_level"], label="Fault level at the board", fact=_AT_BOARD
    )
    return render_template(
        "quick/show.html",
        rules=rules.value,
        further=next(iter(_further(rules)), ""),
        pasted=pasted,
        nothing_named=NOTHING_NAMED,
        told=request.args.get("told", "")[:_LONGEST_LEFT],
        left=read_but_for(request.args.get("left", "")[:_LONGEST_LEFT]),
        words=rule_set(rules).words,
        fields=list(fields.values()),
        plan=plan,
        dips=usual_dips(plan) if plan else (),
        of_no_kind=plan is not None and plan.doubt is NO_KIND,
        devices=plan.protected.devices if plan and plan.protected else (),
        change=_change(plan) if plan else [],
        open=_open(plan) if plan else [],
        link=_link(rules, {path: field.text for path, field in fields.items() if field.text}),
        tools=TOOLS.values(),
        jobs=jobs.jobs_of(current_user.user) if current_user.is_authenticated else None,
    )


def _link(rules: RuleSetName, typed: Mapping[str, str]) -> str:
    """The page with these facts in its address."""
    return f"{url_for('.show')}?{urlencode({'rules': rules.value, **typed})}"


def _change(plan: Plan) -> list[Any]:
    """What does not pass, what hurts first."""
    wrong = [gate for gate in plan.weighing if gate.verdict in (Verdict.FAILS, Verdict.CHECK)]
    return sorted(wrong, key=lambda gate: (-gate.verdict.rank, by_weight(gate)))[:_SHOWN_GATES]


def _open(plan: Plan) -> list[str]:
    """Facts that the rest waits for: they are asked on a circuit. The machine's kind is asked here."""
    lacking = [need for gate in plan.weighing if gate.verdict is Verdict.UNKNOWN and gate.key != KIND
               for need in gate.needs]  # fmt: skip
    return list(dict.fromkeys(lacking))[:_SHOWN_GATES]


@blueprint.post("/keep")
@login_required
def keep() -> Redirect | tuple[str, int]:
    """The same facts as a circuit: of a job there is, or of a new one with this supply."""
    rules = _rules()
    typed = _typed(_paths(rules))
    job_facts, circuit_facts = _facts(typed)
    tag = request.form.get("tag", "").strip()
    if not TAG.fullmatch(tag):
        return TAG_RULE, 422
    chosen = whole_in(request.form.get("job", ""))
    if chosen is not None:
        access = jobs.open_job(current_user.user, chosen)
        if not access.may_edit:
            abort(403)
    else:
        job = jobs.create_job(current_user.user, name=f"Quick, {tag}", rules=rules, facts=job_facts)
        access = jobs.open_job(current_user.user, job.id)
    try:
        jobs.create_circuit(access, tag=tag, facts=circuit_facts)
    except jobs.TagTaken:
        tag = f"{tag[:30]}-{secrets.token_hex(2)}"
        jobs.create_circuit(access, tag=tag, facts=circuit_facts)
    return redirect(url_for("circuit.show", job_id=access.job.id, tag=tag))


@blueprint.get("/<key>")
def tool(key: str) -> str:
    """One question with its working."""
    found = TOOLS.get(key)
    if found is None:
        abort(404)
    rules = _rules()
    raw = {name: request.args.get(name, "").strip()[:200] for name in found.facts.fields()}
    typed = {name: text for name, text in raw.items() if text}
    answer = ask(found, typed, rule_set(rules))
    return render_template(
        "quick/tool.html",
        tool=found,
        tools=TOOLS.values(),
        rules=rules.value,
        fields=_fields(found.facts.fields(), typed, answer.errors, rules),
        answer=answer,
        started=bool(typed),
    )


def _fields(
    facts: Mapping[str, Any], typed: Mapping[str, str], errors: tuple[FieldError, ...], rules: RuleSetName
) -> list[FormField]:
    wrong = {error.path.partition(".")[2]: error.message for error in errors}
    us = rule_set(rules).practice.us_units
    return [
        FormField(
            path=name, fact=said, label=said.label, text=typed.get(name, ""), was="",
            error=wrong.get(name, ""), echo="" if name in wrong else fact.echo(typed.get(name, ""), us=us),
        )
        for name, fact in facts.items()
        if not fact.rules or fact.rules == rules.value
        for said in (worded(fact, rules.value),)
    ]  # fmt: skip
