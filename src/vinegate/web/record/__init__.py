"""What is filled in where the motor stands, and what recorders gave."""

from vinegate.web.record import captures, report, views  # noqa: F401 - their routes
from vinegate.web.record.base import blueprint
from vinegate.web.record.of_job import blueprint as of_job

__all__ = ["blueprint", "of_job"]
