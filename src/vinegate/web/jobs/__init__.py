"""The list of jobs, a job's schedule, its members and its trail."""

from vinegate.web.jobs import many, tables  # noqa: F401 - their routes
from vinegate.web.jobs.views import blueprint

__all__ = ["blueprint"]
