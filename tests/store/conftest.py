"""Fixtures of this folder."""

from tests.fixtures import connected, database_url, instance  # noqa: F401
