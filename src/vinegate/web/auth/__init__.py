"""Signing in and out."""

from vinegate.web.auth.views import blueprint

__all__ = ["blueprint"]
