"""The application with a client for each role, on a real database."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from flask import Flask
from flask.testing import FlaskClient

from tests.fixtures import database_url, instance  # noqa: F401
from tests.server import PASSWORD, job_of, person, pump
from vinegate.store.database import database
from vinegate.store.models import Role
from vinegate.web import Config, create_app


@pytest.fixture(scope="module")
def app(database_url: str) -> Flask:  # noqa: F811
    return create_app(
        Config(secret_key="test", database_url=database_url, demo=True, limit_sign_in=False, beside=False)
    )


class Person:
    """A signed-in client that fills in forms as a browser does."""

    def __init__(self, app: Flask, login: str | None) -> None:
        self.client: FlaskClient = app.test_client()
        if login:
            self.post("/sign-in", {"login": login, "password": PASSWORD}, form_at="/sign-in")

    def get(self, path: str, **more):
        return self.client.get(path, **more)

    def post(self, path: str, form: dict[str, str], form_at: str = "/", **more):
        page = self.client.get(form_at, follow_redirects=True).get_data(as_text=True)
        token = re.search(r'name="csrf_token" value="([^"]+)"', page).group(1)
        return self.client.post(path, data={"csrf_token": token, **form}, **more)


@pytest.fixture(scope="module")
def world(app: Flask) -> dict[str, object]:
    """A job of Ines with Tam as viewer and Ruth as reviewer; Odd is no member."""
    with database.connection_context():
        person("odd")
        access = job_of(person("ines"), tam=Role.VIEWER, ruth=Role.REVIEWER)
        pump(access)
        found = {"id": access.job.id}
    database.close_all()
    return found


@pytest.fixture(scope="module")
def sign_in(app: Flask, world) -> Callable[[str | None], Person]:
    return lambda login: Person(app, login)
