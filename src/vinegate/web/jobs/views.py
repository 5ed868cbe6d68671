"""Jobs, the schedule of one, its members and trail."""

from __future__ import annotations

import re
from dataclasses import asdict, fields

from flask import Blueprint, Response, abort, redirect, render_template, request, session, url_for
from flask_login import current_user, login_required
from werkzeug.wrappers import Response as Redirect

from vinegate.core.facts import RuleSetName, read_circuit, read_job
from vinegate.core.grade import Verdict
from vinegate.core.place.materials import library
from vinegate.core.protection.feeder import feeders
from vinegate.core.protection.members import Unsized
from vinegate.core.rules.sets import rule_set
from vinegate.core.summary import member_from
from vinegate.exchange.circuit_file import TAG, TAG_RULE, JobFile, UnreadableFile, read, write
from vinegate.exchange.comparing import compare_jobs
from vinegate.store import accounts, jobs, shelf
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit, Role
from vinegate.web.form import Labels
from vinegate.web.jobs.hazard import hazards
from vinegate.web.jobs.row_html import How, row_html
from vinegate.web.jobs.schedule import COLUMNS, FURTHER, Asked, guarded, schedule
from vinegate.web.jobs.summaries import rows_of
from vinegate.web.paging import asked_page, paged
from vinegate.web.whole import whole_in

blueprint = Blueprint("jobs", __name__, template_folder="templates")

_LONGEST_NAME = 120


def access_to(job_id: int) -> Access:
    """The job for whoever is signed in. Raises NotAMember."""
    return jobs.open_job(current_user.user, job_id)


@blueprint.get("/")
@login_required
def index() -> str:
    """The jobs one is a member of; with `find`, the circuits in any of them."""
    return _index()


@blueprint.post("/jobs")
@login_required
def create() -> Redirect | tuple[str, int]:
    """Make a job: empty, or from a file in the open format."""
    upload = request.files.get("file")
    if upload and upload.filename:
        try:
            found = read(upload.stream.read().decode("utf-8"))
        except (UnicodeDecodeError, UnreadableFile) as error:
            return _index_with_error("file", f"{upload.filename}: {error}")
        job = jobs.create_whole(
            current_user.user,
            name=found.name[:_LONGEST_NAME],
            rules=found.rules,
            facts=found.facts,
            circuits=found.circuits,
        )
        return redirect(url_for("jobs.show", job_id=job.id))
    name, rules = request.form.get("name", "").strip(), request.form.get("rules", "")
    if not name:
        return _index_with_error("name", "A job needs a name.")
    if len(name) > _LONGEST_NAME:
        return _index_with_error("name", f"{len(name)} characters are too many: {_LONGEST_NAME} at most.")
    if rules not in list(RuleSetName):
        return _index_with_error("rules", "Choose the rule set the job is planned to.")
    job = jobs.create_job(current_user.user, name=name, rules=RuleSetName(rules), facts={})
    return redirect(url_for("jobs.show", job_id=job.id))


def _index(errors: dict[str, str] | None = None) -> str:
    sought = request.args.get("find", "").strip()[:_LONGEST_NAME]
    return render_template(
        "jobs/index.html",
        rows=jobs.jobs_of(current_user.user),
        rule_sets=list(RuleSetName),
        sought=sought,
        found=shelf.find(current_user.user, sought) if sought else [],
        lately=[] if sought else shelf.lately(current_user.user),
        gone=shelf.gone(current_user.user),
        errors=errors,
        typed=request.form if errors else None,
    )


def _index_with_error(field: str, message: str) -> tuple[str, int]:
    return _index({field: message}), 422


@blueprint.get("/jobs/<int:job_id>")
@login_required
def show(job_id: int) -> str:
    """The schedule: all circuits of the job, one row each."""
    return _schedule_page(access_to(job_id))


def _schedule_page(access: Access, error: str = "", typed: str = "") -> str:
    sort = request.args.get("sort", "tag")
    asked = Asked(**{one.name: request.args.get(one.name, "")[:_LONGEST_NAME] for one in fields(Asked)})
    table = schedule(access, sort=sort, asked=asked)
    chosen = _columns()
    columns, further = ([one for one in some if one[0] in chosen] for some in (COLUMNS, FURTHER))
    how = How(
        columns=tuple(key for key, *_ in columns), further=tuple(key for key, *_ in further),
        here=url_for("jobs.show", job_id=access.job.id), may_edit=access.may_edit,
    )  # fmt: skip
    return render_template(
        "jobs/schedule.html",
        access=access,
        row_html=lambda row: row_html(row, how),
        table=table,
        paged=paged(table.rows, asked_page()),
        planning=table.planning,
        columns=columns,
        further=further,
        every=(*COLUMNS, *FURTHER),
        chosen=chosen,
        sort=sort,
        asked=asked,
        keeps={name: value for name, value in asdict(asked).items() if value},
        board_names=board_names(access),
        verdicts=list(Verdict),
        gone=jobs.taken_away(access),
        error=error,
        typed=typed,
    )


def _columns() -> tuple[str, ...]:
    """Columns as this person has last chosen them."""
    known = [key for key, *_ in (*COLUMNS, *FURTHER)]
    kept = session.get("columns")
    found = tuple(key for key in known if key in kept) if isinstance(kept, list) else ()
    return found or tuple(key for key, *_ in COLUMNS)


def board_names(access: Access) -> dict[str, str]:
    """Boards by their keys, as the job calls them."""
    main = str((access.facts.get("main_board") or {}).get("name") or "main board")
    usual = {"main": main, "main_board": main}
    named = {key: str((part or {}).get("name") or "") for key, part in access.facts.items() if isinstance(part, dict)}
    return usual | {key: name for key, name in named.items() if name}


@blueprint.post("/jobs/<int:job_id>/columns")
@login_required
def columns(job_id: int) -> Redirect:
    """Which columns the schedule shows, for this person."""
    access_to(job_id)
    session["columns"] = request.form.getlist("column")
    return redirect(url_for("jobs.show", job_id=job_id))


@blueprint.post("/jobs/<int:job_id>/circuits")
@login_required
def add_circuit(job_id: int) -> Redirect | tuple[str, int]:
    """Make a circuit with this tag."""
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    tag = request.form.get("tag", "").strip()
    if not TAG.fullmatch(tag):
        return _schedule_page(access, TAG_RULE, tag), 422
    try:
        jobs.create_circuit(access, tag=tag, facts={})
    except jobs.TagTaken:
        return _schedule_page(access, f"This job has a circuit {tag} already.", tag), 422
    return redirect(url_for("circuit.sheet", job_id=job_id, tag=tag, station="plate"))


@blueprint.get("/jobs/<int:job_id>/protection")
@login_required
def protection(job_id: int) -> str:
    """The protection schedule: one row a circuit, and the feeders of its boards."""
    access = access_to(job_id)
    kept = rows_of(access)
    members = {circuit.tag: member_from(circuit.tag, summary["guard"]) for circuit, summary in kept.rows}
    unsized = [Unsized(tag=one.tag, board=_board_of(access, one)) for one, _ in kept.rows if members[one.tag] is None]
    rows = [guarded(circuit, summary) for circuit, summary in kept.rows]
    job, errors = read_job(access.facts, access.rules)
    return render_template(
        "jobs/protection.html",
        access=access,
        rows=rows,
        paged=paged(rows, asked_page()),
        planning=kept.planning,
        feeders=feeders(job, [member for member in members.values() if member is not None], unsized, errors),
        words=rule_set(access.rules).words,
    )


def _board_of(access: Access, circuit: Circuit) -> str:
    """The board that is typed, whether or not the circuit could be planned."""
    facts, _ = read_circuit({"wiring": jobs.loads(circuit.facts).get("wiring")}, access.rules)
    return facts.wiring.board or "main"


@blueprint.get("/jobs/<int:job_id>/areas")
@login_required
def areas(job_id: int) -> str:
    """The hazardous-area schedule, and what if an area gained a material."""
    access = access_to(job_id)
    asked = request.args.get("gained", "").strip()[:60]
    found = hazards(access, gained=asked, where=request.args.get("where", ""))
    return render_template(
        "jobs/areas.html",
        access=access,
        found=found,
        paged=paged(found.rows, asked_page()),
        planning=found.planning,
        hazard=access.facts.get("hazard") or {},
        library=library(),
        asked=asked,
    )


@blueprint.post("/jobs/<int:job_id>/rules")
@login_required
def set_rules(job_id: int) -> Redirect:
    """Plan the job to another rule set."""
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    rules = request.form.get("rules", "")
    if rules not in list(RuleSetName):
        abort(400)
    jobs.set_rules(access, RuleSetName(rules))
    back = request.form.get("back", "")
    if back:
        return redirect(url_for("circuit.other_rules", job_id=job_id, tag=jobs.circuit_by_tag(access, back).tag))
    return redirect(url_for("jobs.show", job_id=job_id))


@blueprint.get("/jobs/<int:job_id>/members")
@login_required
def members(job_id: int) -> str:
    """Who may do what, and who did what."""
    return _members_page(access_to(job_id))


def _members_page(access: Access, error: str = "", typed: str = "", away_wrong: str = "") -> str:
    return render_template(
        "jobs/members.html",
        access=access,
        members=jobs.members(access),
        trail=jobs.trail(access),
        roles=list(Role),
        error=error,
        typed=typed,
        away_wrong=away_wrong,
    )


@blueprint.post("/jobs/<int:job_id>/members")
@login_required
def set_member(job_id: int) -> Redirect | tuple[str, int]:
    """Add a member by login, or change a role. A job keeps at least one designer."""
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    login, role = request.form.get("login", "").strip(), request.form.get("role", "")
    user = accounts.user_by_login(login)
    if user is None:
        return _members_page(access, f"No account has the login {login}.", login), 422
    if role not in list(Role):
        abort(400)
    if user.id == access.user.id and Role(role) is not Role.DESIGNER:
        return _members_page(access, "Ask another designer to change your own role.", login), 422
    try:
        jobs.set_member(access, user, Role(role))
    except jobs.NotAllowed as error:
        return _members_page(access, str(error), login), 409
    return redirect(url_for("jobs.members", job_id=job_id))


@blueprint.post("/jobs/<int:job_id>/members/remove")
@login_required
def remove_member(job_id: int) -> Redirect | tuple[str, int]:
    """A member leaves the job."""
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    user = accounts.user_by_login(request.form.get("login", "").strip())
    if user is None:
        return _members_page(access, "There is no such account."), 422
    try:
        jobs.remove_member(access, user)
    except jobs.NotAllowed as error:
        return _members_page(access, str(error)), 409
    return redirect(url_for("jobs.members", job_id=job_id))


@blueprint.post("/jobs/<int:job_id>/away")
@login_required
def away(job_id: int) -> Redirect | tuple[str, int]:
    """Take the whole job away; its name is typed, so that it is meant."""
    access = access_to(job_id)
    if not access.may_edit:
        abort(403)
    if request.form.get("name", "").strip() != access.job.name:
        return _members_page(access, away_wrong=f"Type the job's name, {access.job.name}, to take it away."), 422
    shelf.take_away(access)
    return redirect(url_for("jobs.index"))


@blueprint.post("/jobs/back")
@login_required
def job_back() -> Redirect:
    """Bring back a job that was taken away."""
    shelf.bring_back(current_user.user, whole_in(request.form.get("job", "")) or 0)
    return redirect(url_for("jobs.index"))


def _as_file(access: Access) -> JobFile:
    circuits = tuple((circuit.tag, jobs.loads(circuit.facts)) for circuit in jobs.circuits(access))
    return JobFile(name=access.job.name, rules=access.rules, facts=access.facts, circuits=circuits)


@blueprint.get("/jobs/<int:job_id>/file")
@login_required
def file(job_id: int) -> Response:
    """The job with its circuits in the open format."""
    access = access_to(job_id)
    text = write(_as_file(access))
    name = re.sub(r"[^a-z0-9]+", "-", access.job.name.lower()).strip("-") or "job"
    headers = {"Content-Disposition": f'attachment; filename="{name}.json"'}
    return Response(text, mimetype="application/json", headers=headers)


@blueprint.get("/jobs/<int:job_id>/compare")
@login_required
def comparing(job_id: int) -> str:
    """Where a file is chosen that this job is held against."""
    return render_template("jobs/compare.html", access=access_to(job_id), found=None, wrong="", names=("", ""))


@blueprint.post("/jobs/<int:job_id>/compare")
@login_required
def compare(job_id: int) -> str | tuple[str, int]:
    """A file against this job as it is, or two files: changed facts, answers and verdicts."""
    access = access_to(job_id)
    try:
        old = _uploaded("old")
        new = _uploaded("new")
    except UnreadableFile as error:
        return render_template("jobs/compare.html", access=access, found=None, wrong=str(error), names=("", "")), 422
    if old is None:
        wrong = "Choose the file that is the older one."
        return render_template("jobs/compare.html", access=access, found=None, wrong=wrong, names=("", "")), 422
    later, name = (new[0], new[1]) if new is not None else (_as_file(access), "this job as it is now")
    return render_template(
        "jobs/compare.html", access=access, wrong="", names=(old[1], name), labels=Labels(access.rules.value),
        found=compare_jobs(old[0], later),
    )  # fmt: skip


def _uploaded(field: str) -> tuple[JobFile, str] | None:
    """A job file and its name; None where none was chosen. Raises UnreadableFile."""
    upload = request.files.get(field)
    if upload is None or not upload.filename:
        return None
    name = upload.filename[:_LONGEST_NAME]
    try:
        return read(upload.stream.read().decode("utf-8")), name
    except (UnicodeDecodeError, UnreadableFile) as error:
        raise UnreadableFile(f"{name}: {error}") from None
