"""What is filled in where the motor stands, and what recorders gave."""

from vinegate.web.record import captures, views  # noqa: F401 - their routes
from vinegate.web.record.base import blueprint

__all__ = ["blueprint"]
