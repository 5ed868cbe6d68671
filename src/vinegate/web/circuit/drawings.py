"""A circuit's drawings as files: its line and its curves, and the lines of a whole job."""

from __future__ import annotations

from flask import Response, abort
from flask_login import login_required

from vinegate import __version__
from vinegate.core.grade import Verdict
from vinegate.core.plan import NOTHING, Beside
from vinegate.drawing.dxf import dxf
from vinegate.drawing.one_line import STYLE, Stop, beside_one_another, one_line
from vinegate.drawing.scene import Scene, svg_file
from vinegate.drawing.stops_strip import stops_strip
from vinegate.store import jobs
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.web.circuit.line import line
from vinegate.web.circuit.views import blueprint, draft
from vinegate.web.jobs.views import access_to
from vinegate.web.jobs.views import blueprint as of_jobs
from vinegate.web.stages.machine.curves import chart_of
from vinegate.web.stages.page import Planned
from vinegate.web.stages.protection.devices import chart_scene
from vinegate.web.stages.start.methods import strip_scene

DXF = "image/vnd.dxf"
_MOST_LINES = 60


@blueprint.get("/one-line.dxf")
@login_required
def one_line_dxf(job_id: int, tag: str) -> Response:
    """The line for a drawing program: symbols are blocks with tag, words and number as attributes."""
    access, circuit = _opened(job_id, tag)
    planned = draft(access, circuit, beside=NOTHING)
    return _file(dxf([one_line(tag, _stops(planned))], _heading(access, planned)), DXF, f"{tag}-one-line.dxf")


@blueprint.get("/one-line.svg")
@login_required
def one_line_svg(job_id: int, tag: str) -> Response:
    access, circuit = _opened(job_id, tag)
    planned = draft(access, circuit, beside=NOTHING)
    heading = f"{access.job.name} / {tag}: {planned.plan.verdict.value}, draft, not issued"
    return _file(svg_file(one_line(heading, _stops(planned)), STYLE), "image/svg+xml", f"{tag}-one-line.svg")


@blueprint.get("/curves.dxf")
@login_required
def curves_dxf(job_id: int, tag: str) -> Response:
    """Start, devices, stop and machine as curves, below one another."""
    access, circuit = _opened(job_id, tag)
    planned = draft(access, circuit, beside=Beside.DOCUMENT)
    scenes = _scenes(planned)
    if not scenes:
        abort(404)
    return _file(dxf(scenes, _heading(access, planned)), DXF, f"{tag}-curves.dxf")


@of_jobs.get("/jobs/<int:job_id>/one-lines.dxf")
@login_required
def one_lines_dxf(job_id: int) -> Response:
    """Every circuit's line beside the others, up to so many as a sheet holds."""
    access = access_to(job_id)
    rows = jobs.circuits(access)[:_MOST_LINES]
    lines = [(row.tag, _stops(draft(access, row, beside=NOTHING))) for row in rows]
    heading = (access.job.name, f"Draft, not issued. Vine Gate {__version__}")
    return _file(dxf([beside_one_another(lines)], heading), DXF, "one-lines.dxf")


def _opened(job_id: int, tag: str) -> tuple[Access, Circuit]:
    access = access_to(job_id)
    return access, jobs.circuit_by_tag(access, tag)


def _stops(planned: Planned) -> tuple[Stop, ...]:
    """The stations with what does not pass behind each."""
    found = line(planned.plan, planned.job, planned.circuit, planned.job_raw, planned.circuit_raw)
    return tuple(
        Stop(kind=one.kind, name=one.name, short=one.short, number=one.number,
             marks=tuple(f"{gate.verdict.value}: {gate.name}" for gate in one.gates
                         if gate.weighs and gate.verdict is not Verdict.PASSES))
        for one in found
    )  # fmt: skip


def _scenes(planned: Planned) -> list[Scene]:
    plan = planned.plan
    machine = chart_of(plan, None, None)
    made = (strip_scene(plan, on_paper=True), chart_scene(plan, planned.circuit, on_paper=True),
            stops_strip(plan.stopping) if plan.stopping else None, machine.scene if machine else None)  # fmt: skip
    return [one for one in made if one is not None]


def _heading(access: Access, planned: Planned) -> tuple[str, ...]:
    answer = "".join(piece.text for piece in planned.plan.answer)
    return (access.job.name, f"{planned.plan.verdict.value}: {answer}", f"Draft, not issued. Vine Gate {__version__}")


def _file(body: str, kind: str, name: str) -> Response:
    return Response(body, mimetype=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})
