"""The list of jobs, a job's schedule, its members and its trail."""

from vinegate.web.jobs import many  # noqa: F401 - its routes
from vinegate.web.jobs.views import blueprint

__all__ = ["blueprint"]
