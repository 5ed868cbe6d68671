"""The forms for the phone, and their entries: kept once each, however often they are sent."""

from __future__ import annotations

import re
from collections.abc import Mapping
from datetime import UTC, datetime, timedelta
from typing import Any, Final

from flask import Response, abort, jsonify, redirect, render_template, request, url_for
from flask_login import current_user, login_required
from flask_wtf.csrf import generate_csrf

from vinegate.core.facts import read_circuit
from vinegate.core.field import Fact
from vinegate.core.numbers import write
from vinegate.core.plan import NOTHING
from vinegate.core.record.facts import DONE, FORMS, INSTALL, OF_FORM, TITLES, steps_in
from vinegate.core.record.stage import CAUTION
from vinegate.core.replacement.stage import REPLACEMENT
from vinegate.core.rules.sets import rule_set
from vinegate.core.summary import record_of
from vinegate.instruments.meter import NoReading, allowed, read_meter
from vinegate.store import entries, jobs
from vinegate.store.entries import Sent
from vinegate.store.jobs import loads
from vinegate.store.models import Circuit, Entry
from vinegate.web.circuit.views import draft
from vinegate.web.form import FormField, form_fields
from vinegate.web.record.base import blueprint, reader, writer
from vinegate.web.record.expected import expected
from vinegate.web.record.photos import NotAPicture, smaller
from vinegate.web.stages.page import Planned
from vinegate.web.stages.record import offered

_UID: Final = re.compile(r"[0-9A-Za-z-]{8,40}")
SIMULATED_WORD: Final = "simulated bench"
_MOST_STEPS: Final = 40
_AHEAD: Final = timedelta(minutes=5)


@blueprint.get("/measure/<form>")
@login_required
def measure(job_id: int, tag: str, form: str) -> str:
    """One form, empty, with what the plan expects beside each field.

    Opened with a run of the control circuit, its checks stand as they were kept last: the run comes to them.
    """
    access, circuit = writer(job_id, tag)
    if form not in FORMS:
        abort(404)
    run = request.args.get("run", "") if "run" in FORMS[form].fields() else ""
    stood = {name: text for name, text in (loads(circuit.facts).get(form) or {}).items() if name not in OF_FORM}
    return _page(access, circuit, form, {**stood, "run": run} if run else {}, {})


_FROM_METER: Final = {
    "U12": ("u12", "V"), "U23": ("u23", "V"), "U31": ("u31", "V"), "I1": ("i1", "A"), "I2": ("i2", "A"),
    "I3": ("i3", "A"), "P": ("power", "W"), "Hz": ("hertz", "Hz"),
}  # fmt: skip


@blueprint.post("/meter")
@login_required
def from_meter(job_id: int, tag: str) -> Any:
    """The running form filled from a meter that may be read; what it is read from stays with the entry."""
    access, circuit = writer(job_id, tag)
    address, order = request.form.get("address", ""), request.form.get("order", "big")
    try:
        found = read_meter(address, word_order=order)
    except NoReading as error:
        return _page(access, circuit, "record_running", {}, {"": str(error)}), 422
    typed = {field: f"{write(found.values[name], 4)} {unit}" for name, (field, unit) in _FROM_METER.items()}
    typed["factor"] = write(found.values["pf"], 3)
    typed["instrument"] = f"meter at {address}" + (f", {SIMULATED_WORD}" if found.simulated else "")
    return _page(access, circuit, "record_running", typed, {}, simulated=found.simulated)


def _page(
    access: Any, circuit: Circuit, form: str, typed: dict[str, str], errors: dict[str, str], *, simulated: bool = False
) -> str:
    planned = draft(access, circuit, beside=NOTHING)
    before = (planned.circuit_raw.get(form) or {}).get("instrument", "")
    typed = {"instrument": before, **typed}
    fields = form_fields((form,), job={}, circuit={form: typed}, rules=access.rules.value, errors=(), readonly=False)
    keys = offered(planned.plan)
    if form not in keys:
        abort(404)
    following = keys[keys.index(form) + 1] if form != keys[-1] else ""
    us = rule_set(access.rules).practice.us_units
    return render_template(
        "record/measure.html",
        access=access,
        tag=circuit.tag,
        form=form,
        title=TITLES[form],
        titles={key: TITLES[key] for key in keys},
        done=DONE,
        steps=_steps(planned, typed) if form == INSTALL else [],
        following=following,
        fields=_in_order(list(fields.values())),
        units={path: _unit(one.fact, us=us) for path, one in fields.items()},
        errors=errors,
        expected=expected(planned.plan, form),
        caution=CAUTION,
        person=current_user,
        meters=allowed() if form == "record_running" else (),
        simulated=simulated,
    )


def _steps(planned: Planned, typed: Mapping[str, str]) -> list[tuple[str, str]]:
    """The replacement's steps with how each was found: as typed, else as kept; steps kept of another day after them."""
    found = planned.plan.of(REPLACEMENT)
    kept = (planned.circuit_raw.get(INSTALL) or {}).get("steps", "")
    said = {step: how for how, step in steps_in(typed.get("steps") or kept)}
    asked = found.steps if found is not None else ()
    return [(step, said.get(step, "")) for step in (*asked, *(step for step in said if step not in asked))]


def _in_order(fields: list[FormField]) -> list[FormField]:
    """Readings first; with what, and what was seen, after them."""
    own = [one for one in fields if one.path.partition(".")[2] not in (*OF_FORM, "steps")]
    return own + [one for one in fields if one.path.partition(".")[2] in ("instrument", "note")]


def _unit(fact: Fact, *, us: bool) -> str:
    """What a bare number in that field means."""
    if fact.quantity is None:
        return ""
    return fact.quantity.show(0.0, us=us).partition(" ")[2]


@blueprint.get("/token")
@login_required
def token(job_id: int, tag: str) -> Response:
    """What a queued entry is sent with, however old its page is; and for whom."""
    reader(job_id, tag)
    found = jsonify(token=generate_csrf(), person=str(current_user.id))
    found.headers["Cache-Control"] = "no-store"
    return found


@blueprint.post("/entries")
@login_required
def enter(job_id: int, tag: str) -> Any:
    """Keep one entry. As JSON where the page asks for it: what was kept, what cannot be read, what is said now."""
    access, circuit = writer(job_id, tag)
    form = request.form.get("form", "")
    uid = request.form.get("uid", "")
    if form not in FORMS or not _UID.fullmatch(uid):
        abort(400)
    readings = _readings(form)
    if not any(text for name, text in readings.items() if name not in OF_FORM):
        return _refused(access, circuit, form, readings)
    entry = entries.keep(
        access,
        circuit,
        Sent(
            uid=uid,
            form=form,
            readings=readings,
            taken_at=_taken(request.form.get("taken_at", "")),
            simulated=bool(request.form.get("simulated")) or SIMULATED_WORD in readings.get("instrument", ""),
        ),
    )
    refused = [
        _photo(entry, uid, number, one.read()) for number, one in enumerate(request.files.getlist("photo")) if one
    ]
    if "X-Queue" not in request.headers:
        return redirect(url_for("circuit.sheet", job_id=job_id, tag=tag, station="record"))
    return jsonify(
        _said(access, circuit, form, readings) | {"kept": entry.uid, "refused": [one for one in refused if one]}
    )


def _readings(form: str) -> dict[str, str]:
    names = FORMS[form].fields().keys() - {"taken", "simulated"}
    found = {name: request.form.get(f"f:{form}.{name}", "").strip() for name in names}
    if form == INSTALL:
        found["steps"] = _ticked()
    return {name: text[: FORMS[form].fields()[name].longest] for name, text in sorted(found.items()) if text}


def _ticked() -> str:
    """Steps answered on the form, a line each, with their own words: the list may be another one tomorrow."""
    numbers = range(1, _MOST_STEPS + 1)
    lines = ((request.form.get(f"said:{n}", ""), " ".join(request.form.get(f"step:{n}", "").split())) for n in numbers)
    return "\n".join(f"{said}: {step}" for said, step in lines if said in dict(DONE) and step)


def _refused(access: Any, circuit: Circuit, form: str, readings: dict[str, str]) -> Any:
    """An entry without a reading is none: it says so, and keeps what was typed on the page."""
    message = "Nothing was read yet: give at least one reading."
    if "X-Queue" in request.headers:
        return jsonify(kept="", errors={"": message}), 422
    return _page(access, circuit, form, readings, {"": message}), 422


def _said(access: Any, circuit: Circuit, form: str, readings: dict[str, str]) -> dict[str, Any]:
    """Unreadable texts by field, and the record's own answer with the entry in it."""
    _, wrong = read_circuit({form: readings}, access.rules)
    planned = draft(access, jobs.circuit_by_tag(access, circuit.tag), beside=NOTHING)
    return {
        "errors": {error.path: error.message for error in wrong},
        "said": record_of(planned.plan).get("said", ""),
        "verdict": record_of(planned.plan).get("verdict", ""),
    }


def _taken(text: str) -> datetime:
    """The page's clock, UTC, where it can be read and is not ahead of ours; else now."""
    now = datetime.now(UTC).replace(tzinfo=None, microsecond=0)
    try:
        found = datetime.fromisoformat(text.replace("Z", "+00:00"))
    except ValueError:
        return now
    if found.tzinfo is not None:
        found = found.astimezone(UTC).replace(tzinfo=None)
    return min(found.replace(microsecond=0), now) if found < now + _AHEAD else now


def _photo(entry: Entry, uid: str, number: int, body: bytes) -> str:
    try:
        entries.add_photo(entry, f"{uid[:36]}.{number}"[:40], smaller(body))
    except NotAPicture as error:
        return str(error)
    return ""


@blueprint.get("/photos/<int:number>.jpg")
@login_required
def photo(job_id: int, tag: str, number: int) -> Response:
    """A photo beside an entry."""
    _, circuit = reader(job_id, tag)
    body = entries.photo(circuit, number)
    if body is None:
        abort(404)
    return Response(body, mimetype="image/jpeg", headers={"Cache-Control": "private, max-age=86400"})
