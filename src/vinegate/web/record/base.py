"""The blueprint of the record's own pages, and who may come to them."""

from __future__ import annotations

from flask import Blueprint, abort

from vinegate.store import jobs
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit
from vinegate.web.jobs.views import access_to

blueprint = Blueprint("record", __name__, template_folder="templates", url_prefix="/jobs/<int:job_id>/<tag>/record")


def writer(job_id: int, tag: str) -> tuple[Access, Circuit]:
    """The job and circuit, for one who may record; 403 for others."""
    access = access_to(job_id)
    if not access.may_record:
        abort(403)
    return access, jobs.circuit_by_tag(access, tag)


def reader(job_id: int, tag: str) -> tuple[Access, Circuit]:
    access = access_to(job_id)
    return access, jobs.circuit_by_tag(access, tag)
