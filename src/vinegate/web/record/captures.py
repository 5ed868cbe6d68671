"""Captures: brought in, mapped, laid over the planned start; what they give is offered, and put in the record."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from functools import lru_cache
from hashlib import sha256
from typing import Any
from uuid import uuid4

from flask import Response, abort, redirect, render_template, request, url_for
from flask_login import login_required
from markupsafe import Markup

from vinegate import __version__
from vinegate.core.capture.doubts import doubts_of
from vinegate.core.capture.features import Features, features
from vinegate.core.capture.files import packed, read_files, unpacked
from vinegate.core.capture.mapping import Use, guess, mapped
from vinegate.core.capture.process import Course, course_of
from vinegate.core.capture.recording import CaptureError, Recording
from vinegate.core.capture.roles import ROLES
from vinegate.core.capture.sags import sags
from vinegate.core.capture.writing import write_csv, write_single
from vinegate.core.fed import volts_of
from vinegate.core.numbers import write
from vinegate.core.plan import NOTHING
from vinegate.core.record.causes import Cause, causes, signs_of
from vinegate.core.record.compared import Compared, compare, said
from vinegate.core.record.found import plan_side
from vinegate.core.record.planned import Envelope, envelope, readings, waves
from vinegate.core.record.solved import Offer, offers
from vinegate.core.rules.sets import rule_set
from vinegate.drawing.record_strip import record_strip
from vinegate.drawing.scene import svg
from vinegate.store import captures as store
from vinegate.store import entries, jobs
from vinegate.store.entries import Sent
from vinegate.store.jobs import Access
from vinegate.store.models import Capture, Circuit
from vinegate.web.circuit.views import draft
from vinegate.web.kept import kept_of
from vinegate.web.record.base import blueprint, reader, writer


@dataclass(frozen=True, slots=True, kw_only=True)
class Read:
    """A capture against the plan."""

    doubts: tuple[str, ...]
    course: Course
    features: Features
    compared: Compared
    causes: tuple[Cause, ...]
    offers: tuple[Offer, ...]
    sags: tuple[str, ...]


@blueprint.get("/captures")
@login_required
def captures(job_id: int, tag: str) -> str:
    """Where a capture is brought in."""
    access, circuit = writer(job_id, tag)
    return _bringing(access, circuit, "")


def _bringing(access: Access, circuit: Circuit, wrong: str) -> str:
    return render_template(
        "record/captures.html", access=access, tag=circuit.tag, wrong=wrong, listed=store.listed(circuit)
    )


@blueprint.post("/captures")
@login_required
def bring(job_id: int, tag: str) -> Any:
    """Keep a capture that can be read; say what is wrong with one that cannot."""
    access, circuit = writer(job_id, tag)
    files = {
        one.filename.rpartition("\\")[2].rpartition("/")[2]: one.read()
        for one in request.files.getlist("file")
        if one.filename
    }
    try:
        found = read_files(files)
        mapped(found, guess(found))
    except CaptureError as error:
        if not (files and "say which is which" in str(error)):
            return _bringing(access, circuit, str(error)), 422
        found = read_files(files)
    uses = {name: {"role": use.role, "times": use.times} for name, use in guess(found).items()}
    row = store.keep(
        access, circuit, uid=request.form.get("uid", "")[:40] or uuid4().hex, name=" + ".join(sorted(files)),
        body=packed(files), size=sum(map(len, files.values())), mapping=uses, simulated=found.simulated,
        program_version=__version__,
    )  # fmt: skip
    return redirect(url_for(".capture", job_id=job_id, tag=tag, number=row.id))


@lru_cache(maxsize=2)
def _recording(number: int, body: bytes) -> Recording:
    return read_files(unpacked(body))


def _own(circuit: Circuit, number: int) -> Capture:
    row = store.capture(circuit, number)
    if row is None:
        abort(404)
    return row


def _uses(row: Capture) -> dict[str, Use]:
    return {name: Use(role=one["role"], times=one["times"]) for name, one in jobs.loads(row.mapping).items()}


@blueprint.get("/capture/<int:number>")
@login_required
def capture(job_id: int, tag: str, number: int) -> str:
    """A capture over the planned start."""
    access, circuit = reader(job_id, tag)
    return _shown(access, circuit, _own(circuit, number))


def _shown(access: Access, circuit: Circuit, row: Capture, wrong: str = "") -> str:
    recording, uses = _recording(row.id, bytes(row.body)), _uses(row)
    found: Read | None = None
    try:
        found = _read(access, circuit, recording, uses)
    except CaptureError as error:
        wrong = wrong or str(error)
    drawing = Markup(svg(record_strip(found.compared), "circuit-drawing")) if found else None  # noqa: S704 - our own drawing
    return render_template(
        "record/capture.html",
        access=access,
        tag=circuit.tag,
        row=row,
        recording=recording,
        uses=uses,
        roles=ROLES,
        read=found,
        said=said(found.compared) if found else "",
        drawing=drawing,
        wrong=wrong,
        facts=jobs.loads(circuit.facts),
    )


def _read(access: Access, circuit: Circuit, recording: Recording, uses: dict[str, Use]) -> Read:
    planned = draft(access, circuit, beside=NOTHING)
    side = plan_side(planned.job, planned.circuit, rule_set(access.rules), kept_of(circuit.id, access.rules.value))
    channels = mapped(recording, uses)
    course = course_of(channels)
    found = features(course)
    compared, declared_v = compare(course, found, side), volts_of(planned.job, planned.circuit) or 0.0
    return Read(
        doubts=(*channels.doubts, *doubts_of(course)), course=course, features=found, compared=compared,
        causes=causes(signs_of(course, found, compared, side)), offers=offers(course, found, side),
        sags=tuple(one.text(declared_v) for one in sags(course, declared_v)),
    )  # fmt: skip


@blueprint.post("/capture/<int:number>/mapping")
@login_required
def remap(job_id: int, tag: str, number: int) -> Any:
    """Read its channels as said: role, ratio, turned round."""
    access, circuit = writer(job_id, tag)
    row = _own(circuit, number)
    names = [one.name for one in _recording(row.id, bytes(row.body)).channels]
    uses, taken = {}, set()
    for place, name in enumerate(names):
        role = request.form.get(f"role{place}", "")
        if role not in ROLES:
            abort(400)
        times = _times(request.form.get(f"times{place}", "1"))
        if times is None:
            return _shown(access, circuit, row, f"The ratio of “{name}” is no number above nought."), 422
        if role and role in taken:
            return _shown(access, circuit, row, f"Two channels are said to be {ROLES[role]}."), 422
        taken.add(role)
        uses[name] = {"role": role, "times": -times if request.form.get(f"turn{place}") else times}
    store.remap(access, circuit, number, uses)
    return redirect(url_for(".capture", job_id=job_id, tag=tag, number=number))


def _times(text: str) -> float | None:
    try:
        value = float(text.strip().replace(",", ".") or "1")
    except ValueError:
        return None
    return value if 0 < value < 1e6 else None


@blueprint.post("/capture/<int:number>/record")
@login_required
def put_in(job_id: int, tag: str, number: int) -> Any:
    """Its features as the entry of a start; simulated where the capture is."""
    access, circuit = writer(job_id, tag)
    row = _own(circuit, number)
    try:
        found = _read(access, circuit, _recording(row.id, bytes(row.body)), _uses(row))
    except CaptureError as error:
        return _shown(access, circuit, row, str(error)), 422
    seen = found.features
    values = {
        "before": (seen.before_v, "V"), "least": (seen.least_v, "V"), "peak": (seen.peak_a, "A"),
        "plateau": (seen.plateau_a, "A"), "time": (seen.time_s, "s"), "changeover": (seen.change_s, "s"),
    }  # fmt: skip
    readings = {name: f"{write(value, 4)} {unit}" for name, (value, unit) in values.items() if value is not None}
    readings["rate"] = "waveform" if found.course.wave else "fast" if found.course.rate_hz >= 50 else "slow"
    readings["note"] = f"From the capture {row.name}"[:300]
    entries.keep(
        access,
        circuit,
        Sent(
            uid=f"capture-{row.id}-{sha256(row.mapping.encode()).hexdigest()[:12]}",
            form="record_start",
            readings=readings,
            taken_at=datetime.now(UTC).replace(tzinfo=None, microsecond=0),
            simulated=row.simulated,
        ),
    )
    return redirect(url_for("circuit.sheet", job_id=job_id, tag=tag, station="record"))


@blueprint.get("/capture/<int:number>/<name>")
@login_required
def original(job_id: int, tag: str, number: int, name: str) -> Response:
    """One of its files, as it came."""
    _, circuit = reader(job_id, tag)
    files = unpacked(bytes(_own(circuit, number).body))
    if name not in files:
        abort(404)
    return Response(files[name], mimetype="application/octet-stream", headers={"Content-Disposition": "attachment"})


def _envelope(job_id: int, tag: str) -> Envelope:
    access, circuit = reader(job_id, tag)
    planned = draft(access, circuit, beside=NOTHING)
    side = plan_side(planned.job, planned.circuit, rule_set(access.rules), kept_of(circuit.id, access.rules.value))
    found = envelope(side)
    if found is None:
        abort(404)
    return found


@blueprint.get("/plan.csv")
@login_required
def plan_table(job_id: int, tag: str) -> Response:
    """The planned start as a meter would read it."""
    headers = {"Content-Disposition": f'attachment; filename="{tag}-plan.csv"'}
    return Response(write_csv(readings(_envelope(job_id, tag))), mimetype="text/csv", headers=headers)


@blueprint.get("/plan.cff")
@login_required
def plan_waves(job_id: int, tag: str) -> Response:
    """The planned start as a recorder would have it: COMTRADE 2013, waves of three phases."""
    headers = {"Content-Disposition": f'attachment; filename="{tag}-plan.cff"'}
    body = write_single(waves(_envelope(job_id, tag)), at=f"{datetime.now(UTC):%Y-%m-%d %H:%M:%S}")
    return Response(body, mimetype="application/octet-stream", headers=headers)
