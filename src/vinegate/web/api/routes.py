"""What programs may ask: a plan without keeping, jobs, circuits, issued plans, records."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any, Final

from flask import Response, g, render_template, request, url_for

from vinegate.core.facts import JOB_STAGES, RuleSetName, keyed, kind_of, model_of
from vinegate.core.plan import Beside, plan_raw
from vinegate.exchange.circuit_file import TAG, TAG_RULE, JobFile, plan_document, write
from vinegate.store import entries, jobs, revisions
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.web.api.openapi import document
from vinegate.web.api.problems import Problem, answer, blueprint, body, once, token
from vinegate.web.jobs.schedule import Asked, schedule
from vinegate.web.whole import whole_in

_MOST: Final = 100
_LONGEST: Final = 5000
_LONGEST_NAME: Final = 120


def _facts(value: Any, path: str) -> dict[str, dict[str, str]]:
    """Parts of facts as typed: texts and numbers by field. Raises Problem with the path of what is wrong."""
    if value is None:
        return {}
    if not isinstance(value, Mapping):
        raise Problem(422, "Parts of facts are asked", errors=[{"path": path, "message": "an object is asked"}])
    found: dict[str, dict[str, str]] = {}
    for part, fields in value.items():
        if not isinstance(fields, Mapping):
            raise Problem(422, "Fields are asked", errors=[{"path": f"{path}.{part}", "message": "an object is asked"}])
        model = model_of(part)
        if model is None and part != "sources":
            raise Problem(422, "There is no such part", errors=[{"path": f"{path}.{part}", "message": "no such part"}])
        for name, text in fields.items():
            if text is None:
                continue
            if isinstance(text, bool) or not isinstance(text, str | int | float) or len(str(text)) > _LONGEST:
                wrong = {"path": f"{path}.{part}.{name}", "message": "a text or number is asked"}
                raise Problem(422, "A text or number is asked", errors=[wrong])
            found.setdefault(part, {})[name] = keyed(f"{part}.{name}", str(text))
    return found


def _rules(value: Any) -> RuleSetName:
    if value not in list(RuleSetName):
        raise Problem(
            422, "A rule set is asked", errors=[{"path": "rules", "message": f"one of {', '.join(RuleSetName)}"}]
        )
    return RuleSetName(value)


@blueprint.get("/openapi.json")
def openapi() -> Response:
    """This interface, described."""
    return answer(document())


@blueprint.get("/")
def docs() -> str:
    """The same for people."""
    return render_template("api/docs.html", document=document())


@blueprint.post("/plan")
@token()
def plan() -> Response:
    """Plan without keeping anything: facts in, the plan's document out."""
    asked = body()
    _known(asked, {"rules", "job", "circuit"})
    found = plan_raw(
        _rules(asked.get("rules")),
        _facts(asked.get("job"), "job"),
        _facts(asked.get("circuit"), "circuit"),
        beside=Beside.DOCUMENT,
    )
    return answer(plan_document(found))


@blueprint.get("/jobs")
@token()
def list_jobs() -> Response:
    """Jobs of whose the token is."""
    rows = [
        {
            "id": row.job.id,
            "name": row.job.name,
            "rules": row.job.rules,
            "role": row.role.value,
            "circuits": row.circuits,
        }
        for row in jobs.jobs_of(g.bearer.user)
    ]
    return answer({"jobs": rows})


@blueprint.post("/jobs")
@token(writes=True)
@once
def make_job() -> Response:
    """A new job, whose designer is the token's person; with a key it is made once."""
    asked = body()
    _known(asked, {"name", "rules", "facts"})
    name = asked.get("name")
    if not isinstance(name, str) or not name.strip() or len(name) > _LONGEST_NAME:
        raise Problem(422, "A name is asked", errors=[{"path": "name", "message": f"1 to {_LONGEST_NAME} characters"}])
    facts = _facts(asked.get("facts"), "facts")
    _of_job(facts)
    made = jobs.create_job(g.bearer.user, name=name.strip(), rules=_rules(asked.get("rules")), facts=facts)
    return answer({"id": made.id, "name": made.name, "rules": made.rules, "facts": facts, "version": made.version}, 201)


def _known(asked: Mapping[str, Any], names: set[str]) -> None:
    unknown = sorted(asked.keys() - names)
    if unknown:
        raise Problem(422, "There is no such field", errors=[{"path": unknown[0], "message": "no such field"}])


def _of_job(facts: Mapping[str, Any]) -> None:
    for part in facts:
        if part not in JOB_STAGES and kind_of(part) is None:
            wrong = {"path": f"facts.{part}", "message": "not a job's part"}
            raise Problem(422, "There is no such part of a job", errors=[wrong])


def _access(job_id: int) -> Access:
    return jobs.open_job(g.bearer.user, job_id)


@blueprint.get("/jobs/<int:job_id>")
@token()
def job(job_id: int) -> Response:
    """A job's own facts."""
    access = _access(job_id)
    found = {
        "id": access.job.id,
        "name": access.job.name,
        "rules": access.rules.value,
        "facts": access.facts,
        "version": access.job.version,
    }
    return answer(found, ETag=f'"{access.job.version}"')


@blueprint.get("/jobs/<int:job_id>/file")
@token()
def job_file(job_id: int) -> Response:
    """The whole job in the open format."""
    access = _access(job_id)
    rows = tuple((row.tag, jobs.loads(row.facts)) for row in jobs.circuits(access))
    whole = JobFile(name=access.job.name, rules=access.rules, facts=access.facts, circuits=rows)
    return answer(json.loads(write(whole)))


@blueprint.get("/jobs/<int:job_id>/schedule")
@token()
def job_schedule(job_id: int) -> Response:
    """A row a circuit: verdict, why, figures with units; what is being planned says so."""
    table = schedule(_access(job_id), sort="tag", asked=Asked())
    rows = [
        {"tag": row.tag, "drives": row.driven, "starts_by": row.method, "verdict": row.verdict, "why": row.why,
         "figures": {key: {"value": cell["value"], "shown": cell["shown"]} for key, cell in row.cells.items()},
         "words": row.words, "missing": row.missing, "review": row.state, "being_planned": row.waits}
        for row in table.rows
    ]  # fmt: skip
    return answer({"rows": rows})


@blueprint.get("/jobs/<int:job_id>/circuits")
@token()
def circuits(job_id: int) -> Response:
    """Tags and versions, by pages: `after` is the last tag of the page before."""
    rows, after = jobs.circuits(_access(job_id)), request.args.get("after", "")
    most = whole_in(request.args.get("limit", str(_MOST)))
    if most is None or not 1 <= most <= _MOST:
        raise Problem(422, "A limit is from 1 to 100", errors=[{"path": "limit", "message": "1 to 100"}])
    left = [row for row in rows if row.tag > after]
    page = [{"tag": row.tag, "version": row.version} for row in left[:most]]
    found: dict[str, Any] = {"circuits": page}
    if len(left) > most:
        found["next"] = url_for(".circuits", job_id=job_id, after=page[-1]["tag"], limit=most)
    return answer(found)


@blueprint.post("/jobs/<int:job_id>/circuits")
@token(writes=True)
@once
def make_circuit(job_id: int) -> Response:
    """A new circuit. Sent again with the same facts it is the same one."""
    access, asked = _access(job_id), body()
    tag = asked.get("tag")
    if not access.may_edit:
        raise Problem(403, "Your role in this job reads")
    if not isinstance(tag, str) or not TAG.fullmatch(tag):
        raise Problem(422, "A tag is asked", errors=[{"path": "tag", "message": TAG_RULE}])
    facts = _facts(asked.get("facts"), "facts")
    _of_circuit(facts)
    try:
        circuit, status = jobs.create_circuit(access, tag=tag, facts=facts), 201
    except jobs.TagTaken:
        circuit, status = jobs.circuit_by_tag(access, tag), 200
        if jobs.loads(circuit.facts) != facts:
            raise Problem(409, "This tag is taken", f"The job has a circuit {tag} with other facts.") from None
    return _circuit(circuit, status)


def _of_circuit(facts: Mapping[str, Any]) -> None:
    from vinegate.core.facts import circuit_parts
    from vinegate.core.record.facts import FORMS

    for part in facts:
        if part != "sources" and (part not in circuit_parts() or part in FORMS):
            wrong = {"path": f"facts.{part}", "message": "not a circuit's part that may be written"}
            raise Problem(422, "There is no such part of a circuit", errors=[wrong])


def _circuit(circuit: Circuit, status: int = 200) -> Response:
    found = {"tag": circuit.tag, "facts": jobs.loads(circuit.facts), "version": circuit.version}
    return answer(found, status, ETag=f'"{circuit.version}"')


@blueprint.get("/jobs/<int:job_id>/circuits/<tag>")
@token()
def circuit(job_id: int, tag: str) -> Response:
    """A circuit's facts as typed; its version is the entity tag."""
    return _circuit(jobs.circuit_by_tag(_access(job_id), tag))


@blueprint.patch("/jobs/<int:job_id>/circuits/<tag>")
@token(writes=True)
def change_circuit(job_id: int, tag: str) -> Response:
    """Change facts by path; null takes one away. With If-Match only where nobody has changed it since."""
    access, asked = _access(job_id), body()
    if not access.may_edit:
        raise Problem(403, "Your role in this job reads")
    row = jobs.circuit_by_tag(access, tag)
    wanted = request.headers.get("If-Match")
    if wanted is not None and wanted.strip() not in ("*", f'"{row.version}"'):
        raise Problem(412, "It has changed since", f"It is at version {row.version} now.")
    fields: dict[str, str] = {}
    for path, text in asked.items():
        part, _, name = path.partition(".")
        model = model_of(part)
        if model is None or name not in model.fields():
            raise Problem(422, "There is no such field", errors=[{"path": path, "message": "no such field"}])
        _of_circuit({part: {}})
        if text is not None:
            _facts({part: {name: text}}, "facts")
        fields[path] = "" if text is None else keyed(path, str(text).strip())
    if fields:
        jobs.change(access, [row.tag], fields)
    return _circuit(jobs.circuit_by_tag(access, tag))


@blueprint.delete("/jobs/<int:job_id>/circuits/<tag>")
@token(writes=True)
def take_away(job_id: int, tag: str) -> Response:
    """Taken away; a designer may bring it back on the schedule."""
    access = _access(job_id)
    if not access.may_edit:
        raise Problem(403, "Your role in this job reads")
    jobs.take_away(access, [jobs.circuit_by_tag(access, tag).tag])
    return answer({}, 200)


@blueprint.get("/jobs/<int:job_id>/circuits/<tag>/plan")
@token()
def circuit_plan(job_id: int, tag: str) -> Response:
    """The draft, planned."""
    access = _access(job_id)
    row = jobs.circuit_by_tag(access, tag)
    found = plan_raw(access.rules, access.facts, jobs.loads(row.facts), beside=Beside.DOCUMENT)
    return answer(plan_document(found), ETag=f'"{access.job.version}.{row.version}"')


@blueprint.get("/jobs/<int:job_id>/circuits/<tag>/revisions")
@token()
def list_revisions(job_id: int, tag: str) -> Response:
    """Issued plans, the newest first."""
    circuit_ = jobs.circuit_by_tag(_access(job_id), tag)
    rows = [
        {
            "number": row.number,
            "letter": row.letter,
            "note": row.note,
            "by": row.issued_by.name,
            "at": f"{row.issued_at:%Y-%m-%dT%H:%M:%SZ}",
            "state": revisions.standing(row),
        }
        for row in revisions.revisions(circuit_)
    ]
    return answer({"revisions": rows})


@blueprint.get("/jobs/<int:job_id>/circuits/<tag>/revisions/<int:number>")
@token()
def revision(job_id: int, tag: str, number: int) -> Response:
    """One issued plan with its facts; it never changes."""
    row = revisions.revision(jobs.circuit_by_tag(_access(job_id), tag), number)
    return answer(
        {"number": row.number, "letter": row.letter, "facts": json.loads(row.facts), "plan": json.loads(row.plan)}
    )


@blueprint.get("/jobs/<int:job_id>/circuits/<tag>/records")
@token()
def records(job_id: int, tag: str) -> Response:
    """What was measured, the newest first."""
    circuit_ = jobs.circuit_by_tag(_access(job_id), tag)
    rows = [
        {
            "uid": row.uid,
            "form": row.form,
            "readings": jobs.loads(row.readings),
            "by": row.user.name,
            "taken_at": f"{row.taken_at:%Y-%m-%dT%H:%M:%SZ}",
            "simulated": bool(row.simulated),
        }
        for row in entries.entries(circuit_)
    ]
    return answer({"records": rows})
