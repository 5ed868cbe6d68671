"""A job's restart after an outage."""

from vinegate.web.restart.views import blueprint

__all__ = ["blueprint"]
