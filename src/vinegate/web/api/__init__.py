"""The HTTP interface, version 1."""

from vinegate.web.api import routes  # noqa: F401 - its routes
from vinegate.web.api.problems import blueprint

__all__ = ["blueprint"]
