"""A circuit's pages."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from flask import Blueprint, Response, abort, redirect, render_template, request, url_for
from flask_login import login_required
from werkzeug.wrappers import Response as Redirect

from vinegate import __version__
from vinegate.core.answer import Piece, elsewhere
from vinegate.core.facts import ENTERED, kind_of, read_circuit, read_job
from vinegate.core.facts import Circuit as CircuitFacts
from vinegate.core.facts import Job as JobFacts
from vinegate.core.fed import volts_of
from vinegate.core.place.answer import place_answer
from vinegate.core.plan import Plan, plan_circuit
from vinegate.core.plate.terminals import Links, links_for
from vinegate.core.protection.answer import protection_answer
from vinegate.core.rules.sets import rule_set
from vinegate.core.stop.answer import stop_answer
from vinegate.core.supply.tree import path_to
from vinegate.exchange.circuit_file import plan_document, plan_from_document
from vinegate.store import drafts, jobs, revisions
from vinegate.store.drafts import Conflict, OtherSave, Saved
from vinegate.store.jobs import Access, Raw
from vinegate.store.models import Circuit, Revision, revision_letter
from vinegate.web.circuit import place, stop
from vinegate.web.circuit.form import (
    FormField,
    Labels,
    changes_in,
    entered_facts,
    family_of_raw,
    form_fields,
    origins,
    plate_title,
    shown_parts,
    writer_of,
)
from vinegate.web.circuit.line import leading, line, tally
from vinegate.web.circuit.machine import asked, chart_of, curves_csv, load_chart_of
from vinegate.web.circuit.methods import (
    ASKED,
    HEAD,
    SETTINGS,
    lanes_drawing,
    methods,
    stop_drawing,
    strip_drawing,
    used,
)
from vinegate.web.circuit.protection import DIAL, OVERLOAD, SHORT_CIRCUIT, SWITCHES, chart, rows
from vinegate.web.jobs.views import access_to
from vinegate.web.kept import kept_of

blueprint = Blueprint("circuit", __name__, template_folder="templates", url_prefix="/jobs/<int:job_id>/<tag>")

# The facts each sheet asks for.
SHEETS: dict[str, tuple[str, ...]] = {
    "supply": ("supply", "standby", "main_board", "limits"),
    "start": ("start", "load", "limits.dip", "supply.in_use"),
    "stop": ("stop",),
    "place": place.SHEET,
    "protection": ("protection", "start.instantaneous_trip"),
    "overload": OVERLOAD,
    "wiring": ("wiring",),
    "plate": ("plate",),
    "machine": ("machine",),
    "load": ("load", "start.driven"),
}
# The sheet that asks for a stage's facts.
HOMES = {entry: station for station, entries in SHEETS.items() for entry in entries if "." not in entry}
HOMES |= {"start": "start", "load": "load", "protection": "protection"}


def home_of(path: str) -> str:
    """The sheet that asks for a fact."""
    part = path.partition(".")[0]
    return {"board": "supply", "area": "place"}.get(kind_of(part) or "") or HOMES[part]


_LONGEST_NOTE = 400


@dataclass(frozen=True, slots=True, kw_only=True)
class _Planned:
    """A circuit's draft, read and planned."""

    job_raw: Raw
    circuit_raw: Raw
    job: JobFacts
    circuit: CircuitFacts
    plan: Plan

    def drafted(self, path: str) -> str:
        """What stands in the draft at a circuit's path."""
        stage, _, name = path.partition(".")
        return str((self.circuit_raw.get(stage) or {}).get(name) or "")


# The sheets whose answer is the protection's.
_GUARDED = ("protection", "overload", "wiring")


def _answer(plan: Plan, station: str) -> tuple[Piece, ...]:
    """The sheet's own answer first, then what decides on the others."""
    own: tuple[Piece, ...] = ()
    if station in _GUARDED and plan.protected is not None:
        own = protection_answer(plan.protected)
    elif station == "stop":
        own = stop_answer(plan.stopping, plan.gate("stop.stop").needs)
    elif station == "place" and plan.placed is not None:
        own = place_answer(plan.placed)
    if not own:
        return plan.answer
    here = _GUARDED if station in _GUARDED else (station,)
    return (*own, *elsewhere(gate for stage in plan.stages if stage.key not in here for gate in stage.gates))


def _planned(access: Access, row: Circuit, job_raw: Raw, circuit_raw: Raw, *, both_sources: bool = True) -> _Planned:
    job, job_errors = read_job(job_raw, access.rules)
    circuit, circuit_errors = read_circuit(circuit_raw, access.rules)
    plan = plan_circuit(
        job,
        circuit,
        job_errors + circuit_errors,
        both_sources=both_sources,
        kept=kept_of(row.id, access.rules.value),
    )
    return _Planned(job_raw=job_raw, circuit_raw=circuit_raw, job=job, circuit=circuit, plan=plan)


def draft(access: Access, circuit: Circuit, *, both_sources: bool = True) -> _Planned:
    return _planned(access, circuit, access.facts, jobs.loads(circuit.facts), both_sources=both_sources)


@blueprint.get("/")
@login_required
def show(job_id: int, tag: str) -> Redirect:
    """The circuit opens on its start, or on the plate while that is empty."""
    access = access_to(job_id)
    empty = not jobs.loads(jobs.circuit_by_tag(access, tag).facts).get("plate")
    return redirect(url_for(".sheet", job_id=job_id, tag=tag, station="plate" if empty else "start"))


@blueprint.get("/brake")
@login_required
def stop_as_it_was(job_id: int, tag: str) -> Redirect:
    """Links of before the stop's sheet had its own name."""
    return redirect(url_for(".sheet", job_id=job_id, tag=tag, station="stop"), 301)


@blueprint.get("/<any(supply, protection, start, overload, wiring, plate, stop, place, machine, load):station>")
@login_required
def sheet(job_id: int, tag: str, station: str) -> str:
    """The line with the sheet of one station."""
    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    context = _context(access, circuit, station, draft(access, circuit, both_sources=station == "start"))
    return render_template("circuit/sheet.html", **context)


@blueprint.post("/<any(supply, protection, start, overload, wiring, plate, stop, place, machine, load):station>")
@login_required
def save(job_id: int, tag: str, station: str) -> str | Redirect | tuple[str, int]:
    """Keep what was typed and answer with the new numbers.

    With `X-Live` only the live part is sent: 200, or 409 when another was first on a field. As an ordinary form
    it redirects, or shows the contested field.
    """
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    circuit = jobs.circuit_by_tag(access, tag)
    saved = drafts.save(access, circuit, changes_in(request.form), writer_of(request.form))
    live = "X-Live" in request.headers
    if not live and not saved.conflicts:
        anchor = "working" if request.form.get("working") else None
        return redirect(url_for(".sheet", job_id=job_id, tag=tag, station=station, _anchor=anchor))
    planned = _planned(access, circuit, saved.job_facts, saved.circuit_facts, both_sources=station == "start")
    context = _context(access, circuit, station, planned, saved)
    page = render_template("circuit/_live.html" if live else "circuit/sheet.html", **context)
    return page, 409 if saved.conflicts else 200


def _context(
    access: Access, circuit: Circuit, station: str, planned: _Planned, saved: Saved | None = None
) -> dict[str, Any]:
    """Everything the sheet's templates show."""
    plan, writer = planned.plan, writer_of(request.form)
    conflicts: tuple[Conflict, ...] = saved.conflicts if saved else ()
    others: tuple[OtherSave, ...] = saved.others if saved else ()
    entry = saved.entry if saved else None
    boards, boards_by_name = _boards(planned) if station == "supply" else ([], [])
    areas, areas_by_name = _areas(planned) if station == "place" else ([], [])
    fields = form_fields(
        (*SHEETS[station], *boards, *areas),
        job=planned.job_raw,
        circuit=planned.circuit_raw,
        rules=access.rules.value,
        errors=plan.errors,
        conflicts=conflicts,
        readonly=not access.may_edit,
    )
    issued = revisions.revisions(circuit)
    following_number = (issued[0].number if issued else 0) + 1
    return {
        "access": access,
        "circuit": circuit,
        "tag": circuit.tag,
        "station": station,
        "plan": plan,
        "answer": _answer(plan, station),
        "stage": plan.stage(station),
        "stations": line(plan, planned.job, planned.circuit, planned.job_raw, planned.circuit_raw),
        "leading": leading,
        "tally": tally(plan),
        "methods": methods(plan) if station == "start" else (),
        "strip": strip_drawing(plan) if station == "start" else None,
        "lanes": lanes_drawing(plan) if station == "start" else None,
        "stop_strip": stop_drawing(plan) if station == "start" else None,
        "used": used(plan),
        "device_rows": rows(plan) if station in _GUARDED else (),
        "curve_chart": chart(plan, planned.circuit) if station == "protection" else None,
        **(_stop_context(plan) if station == "stop" else {}),
        "short_fields": SHORT_CIRCUIT,
        "dial_fields": DIAL,
        "switch_fields": SWITCHES,
        "drafted": planned.drafted,
        "home_of": home_of,
        "here_board": planned.circuit.wiring.board or "main",
        "head_fields": HEAD,
        "asked_fields": ASKED,
        "settings": SETTINGS,
        "load_chart": load_chart_of(plan) if station == "load" else None,
        "chart": chart_of(planned.plan, *asked()) if station == "machine" else None,
        "fields": fields,
        "boards": boards,
        "boards_by_name": [(key, planned.job_raw[key]) for key in boards_by_name],
        "areas_by_name": areas_by_name,
        "opened": request.values.get("open", ""),
        **(_place_context(planned, fields) if station == "place" else {}),
        "origins": origins(fields, planned.circuit_raw) if station in ("plate", "machine") else [],
        "family": family_of_raw(planned.circuit_raw),
        "plate_title": plate_title(planned.circuit.plate.kind, access.rules.value),
        "origin_words": ENTERED,
        "links": _links(planned) if station == "plate" else (),
        "labels": Labels(access.rules.value),
        "conflicts": conflicts,
        "others": others,
        "words": rule_set(access.rules).words,
        "rules": rule_set(access.rules),
        "issued": issued,
        "next_letter": revision_letter(following_number),
        "next_number": following_number,
        "last_save": entry or drafts.last_save(circuit),
        "seen": entry.id if entry else drafts.newest_save(access),
        "page": writer.page,
        "sequence": writer.sequence + 1,
    }


def _wanted(planned: _Planned, kind: str) -> set[str]:
    """Keys that something is wrong with, or that were opened."""
    wrong = {error.path.partition(".")[0] for error in planned.plan.errors}
    return {key for key in (*wrong, request.values.get("open", "")) if kind_of(key) == kind}


def _boards(planned: _Planned) -> tuple[list[str], list[str]]:
    way = path_to(planned.job, planned.circuit.wiring.board)
    return shown_parts("board", planned.job_raw, {*way, *_wanted(planned, "board")})


def _areas(planned: _Planned) -> tuple[list[str], list[str]]:
    placed = planned.plan.placed
    used = {row.area for row in placed.devices} if placed else set()
    return shown_parts("area", planned.job_raw, {*used, *_wanted(planned, "area")})


def _stop_context(plan: Plan) -> dict[str, Any]:
    own, others = stop.own_settings(plan)
    return {
        "stops_drawings": stop.stops_drawings(plan),
        "stop_need": stop.NEED,
        "stop_own": own,
        "stop_others": others,
        "stop_sizes": stop.sizes(plan),
    }


def _place_context(planned: _Planned, fields: dict[str, FormField]) -> dict[str, Any]:
    plan, job = planned.plan, planned.job
    return {
        "stands": place.STANDS,
        "own_place": place.own_fields(plan, fields),
        "areas": place.cards(plan, job),
        "area_fields": place.area_fields(fields, job),
        "areas_sketch": place.sketch(plan, job),
        "said": place.said(planned.circuit),
    }


def _links(planned: _Planned) -> tuple[Links, ...]:
    """Terminal links for the connection that the supply's volts pick."""
    plate, supply_v = planned.circuit.plate, volts_of(planned.job, planned.circuit)
    if plate.volts is None or (supply_v is None and len(plate.volts.connections) > 1):
        return ()
    connection = plate.volts.nearest(supply_v)[1] if supply_v else plate.volts.connections[0]
    return links_for(plate.volts, connection, plate.leads, dialect=planned.plan.rules.value)


@blueprint.post("/issue")
@login_required
def issue(job_id: int, tag: str) -> Redirect:
    """Issue the draft as the next revision. A repeated request shows the one it made."""
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    circuit = jobs.circuit_by_tag(access, tag)
    planned = draft(access, circuit)
    text = request.form.get("number", "")
    number = int(text) if text.isdigit() and len(text) < 6 else 0
    try:
        revisions.issue(
            access,
            circuit,
            number=number,
            facts={"job": planned.job_raw, "circuit": planned.circuit_raw},
            plan=plan_document(planned.plan),
            program_version=__version__,
            note=request.form.get("note", "").strip()[:_LONGEST_NOTE],
        )
    except revisions.AlreadyIssued:
        newest = revisions.revisions(circuit)
        number = newest[0].number if newest else 0
    return redirect(url_for(".revision", job_id=job_id, tag=tag, number=number))


@blueprint.get("/revisions/<int:number>")
@login_required
def revision(job_id: int, tag: str, number: int) -> str:
    """An issued revision: the calculation sheet as it was."""
    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    return render_template("circuit/print.html", **revision_context(access, circuit, number))


def revision_context(access: Access, circuit: Circuit, number: int) -> dict[str, Any]:
    row = revisions.revision(circuit, number)
    facts = jobs.loads(row.facts)
    return print_context(access, circuit, plan_from_document(jobs.loads(row.plan)), facts["job"], facts["circuit"], row)


def print_context(
    access: Access, circuit: Circuit, plan: Plan, job_raw: Raw, circuit_raw: Raw, row: Revision | None
) -> dict[str, Any]:
    rules = rule_set(plan.rules)
    job, _ = read_job(job_raw, plan.rules)
    facts, _ = read_circuit(circuit_raw, plan.rules)
    return {
        "access": access,
        "circuit": circuit,
        "facts": facts,
        "tag": circuit.tag,
        "plan": plan,
        "rules": rules,
        "words": rules.words,
        "stations": line(plan, job, facts, job_raw, circuit_raw),
        "leading": leading,
        "entered": entered_facts(job_raw, circuit_raw, plan.rules.value),
        "revision": row,
        "reviews": revisions.reviews(row) if row else [],
        "tally": tally(plan),
        "methods": methods(plan),
        "strip": strip_drawing(plan, on_paper=True),
        "device_rows": rows(plan),
        "curve_chart": chart(plan, facts, on_paper=True),
        "stops_drawings": stop.stops_drawings(plan, on_paper=True),
    }


@blueprint.get("/print")
@login_required
def print_view(job_id: int, tag: str) -> str:
    """The draft as a calculation sheet."""
    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    planned = draft(access, circuit)
    context = print_context(access, circuit, planned.plan, planned.job_raw, planned.circuit_raw, None)
    return render_template("circuit/print.html", **context)


@blueprint.post("/revisions/<int:number>/review")
@login_required
def review(job_id: int, tag: str, number: int) -> Redirect:
    """A reviewer accepts a revision or sends it back."""
    access = access_to(job_id)
    if not access.may_review:
        abort(403)
    circuit = jobs.circuit_by_tag(access, tag)
    row = revisions.revision(circuit, number)
    verdict = request.form.get("verdict")
    if verdict not in {"accepted", "sent back"}:
        abort(400)
    note = request.form.get("note", "").strip()[:_LONGEST_NOTE]
    revisions.review(access, circuit, row, accepted=verdict == "accepted", note=note)
    return redirect(url_for(".revision", job_id=job_id, tag=tag, number=number))


@blueprint.get("/print.pdf", defaults={"number": None})
@blueprint.get("/revisions/<int:number>.pdf")
@login_required
def pdf(job_id: int, tag: str, number: int | None) -> Response:
    """The calculation sheet as PDF."""
    from vinegate.web.circuit.pdf import to_pdf

    access = access_to(job_id)
    circuit = jobs.circuit_by_tag(access, tag)
    if number is None:
        planned = draft(access, circuit)
        context = print_context(access, circuit, planned.plan, planned.job_raw, planned.circuit_raw, None)
    else:
        context = revision_context(access, circuit, number)
    name = f"{tag}-{context['revision'].letter if number else 'draft'}.pdf"
    body = to_pdf(render_template("circuit/print.html", **context))
    return Response(body, mimetype="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}"'})


@blueprint.get("/plan.json")
@login_required
def plan_json(job_id: int, tag: str) -> Response:
    """The draft's plan in the documented shape."""
    access = access_to(job_id)
    planned = draft(access, jobs.circuit_by_tag(access, tag))
    return Response(json.dumps(plan_document(planned.plan), ensure_ascii=False), mimetype="application/json")


@blueprint.get("/machine.csv")
@blueprint.get("/machine.svg", endpoint="machine_svg")
@login_required
def machine_csv(job_id: int, tag: str) -> Response:
    """The machine's curves as a table or a drawing, at the volts and frequency asked for."""
    access = access_to(job_id)
    chart = chart_of(draft(access, jobs.circuit_by_tag(access, tag)).plan, *asked())
    if chart is None:
        abort(404)
    if request.path.endswith(".svg"):
        return Response(chart.standalone, mimetype="image/svg+xml")
    headers = {"Content-Disposition": f'attachment; filename="{tag}-machine.csv"'}
    return Response(curves_csv(chart.curves), mimetype="text/csv", headers=headers)
