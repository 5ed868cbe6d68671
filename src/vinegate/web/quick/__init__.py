"""Answers without a job or an account."""

from vinegate.web.quick.views import blueprint

__all__ = ["blueprint"]
