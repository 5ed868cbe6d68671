"""The documentation, as pages that can be searched."""

from vinegate.web.docs.views import blueprint

__all__ = ["blueprint"]
