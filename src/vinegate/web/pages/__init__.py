"""Pages that belong to no job: preferences, the pattern page."""

from vinegate.web.pages.views import blueprint

__all__ = ["blueprint"]
