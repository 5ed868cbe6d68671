"""Fixtures for tests that need the database."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from tests.server import fresh_database, private_instance
from vinegate.store.database import database
from vinegate.store.instance import Instance


@pytest.fixture(scope="session")
def instance() -> Iterator[Instance]:
    with private_instance() as found:
        yield found


@pytest.fixture(scope="module")
def database_url(instance: Instance, request: pytest.FixtureRequest) -> Iterator[str]:
    name = request.module.__name__.rsplit(".", 1)[-1]
    with fresh_database(instance, name) as url:
        yield url


@pytest.fixture
def connected(database_url: str) -> Iterator[None]:
    """A connection for tests that call the store themselves."""
    with database.connection_context():
        yield
