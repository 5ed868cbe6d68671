"""Who may see and do what."""

import re

import pytest

from vinegate.store.database import database

READS = ["", "/P-11/start", "/P-11/plate", "/P-11/print", "/P-11/plan.json", "/members", "/file"]
WRITES = [
    ("/circuits", {"tag": "Q-1"}),
    ("/P-11/plate", {"f:plate.speed": "1"}),
    ("/P-11/issue", {"number": "1"}),
    ("/members", {"login": "odd", "role": "viewer"}),
]


@pytest.mark.parametrize("path", READS)
def test_reading_needs_membership(sign_in, world, path):
    address = f"/jobs/{world['id']}{path}"
    assert sign_in("tam").get(address).status_code == 200
    assert sign_in("odd").get(address).status_code == 404
    answer = sign_in(None).get(address)
    assert answer.status_code == 302
    assert "/sign-in" in answer.location


@pytest.mark.parametrize(("path", "form"), WRITES)
def test_writing_needs_the_designers_role(sign_in, world, path, form):
    address = f"/jobs/{world['id']}{path}"
    for login in ("tam", "ruth"):
        assert sign_in(login).post(address, form).status_code == 403
    assert sign_in("odd").post(address, form).status_code == 404


def test_a_form_without_its_token_is_refused(sign_in, world):
    answer = sign_in("ines").client.post(f"/jobs/{world['id']}/circuits", data={"tag": "Q-2"})
    assert answer.status_code == 400
    assert "open too long" in answer.get_data(as_text=True)


def test_wrong_password_keeps_the_login(sign_in):
    answer = sign_in(None).post("/sign-in", {"login": "ines", "password": "no"}, form_at="/sign-in")
    assert answer.status_code == 422
    page = answer.get_data(as_text=True)
    assert 'value="ines"' in page
    assert "do not belong together" in page


@pytest.mark.parametrize("target", ["//elsewhere", "https://elsewhere/", "/\\elsewhere"])
def test_sign_in_leads_nowhere_else(sign_in, target):
    from tests.server import PASSWORD

    someone = sign_in(None)
    answer = someone.post(f"/sign-in?next={target}", {"login": "ines", "password": PASSWORD}, form_at="/sign-in")
    assert answer.location == "/"


def test_security_headers(sign_in, world):
    answer = sign_in("ines").get(f"/jobs/{world['id']}/P-11/start")
    policy = answer.headers["Content-Security-Policy"]
    assert "default-src 'none'" in policy
    assert "unsafe" not in policy
    assert answer.headers["X-Content-Type-Options"] == "nosniff"
    cookie = sign_in("ines").get("/").headers.get("Set-Cookie", "")
    assert "HttpOnly" in cookie or not cookie
    page = answer.get_data(as_text=True)
    assert not re.search(r"<script(?![^>]*src=)", page)
    assert " style=" not in page
    assert not re.search(r'(?:src|href)="https?://', page)


def test_files_are_kept_for_good_under_a_name_of_their_content(sign_in):
    page = sign_in(None).get("/sign-in").get_data(as_text=True)
    address = re.search(r'href="(/s/[0-9a-f]+/css/base.css)"', page).group(1)
    answer = sign_in(None).get(address, headers={"Accept-Encoding": "gzip"})
    assert "immutable" in answer.headers["Cache-Control"]
    assert answer.headers["Content-Encoding"] == "gzip"


def test_demo_sign_in_is_only_for_the_demo(app, sign_in):
    from vinegate.web import Config, create_app

    config = app.config["VINEGATE"]
    plain = create_app(Config(secret_key="x", database_url=config.database_url))
    page = plain.test_client().get("/sign-in").get_data(as_text=True)
    assert "Demo" not in page
    assert "Ines Okafor" in sign_in(None).get("/sign-in").get_data(as_text=True)


def test_health(sign_in):
    assert sign_in(None).get("/health").status_code == 200


@pytest.mark.parametrize("path", ["/nowhere", "/jobs/999999", "/jobs/1/../../etc"])
def test_unknown_pages(sign_in, path):
    assert sign_in("ines").get(path).status_code == 404


def test_the_database_away_is_said_plainly(app, sign_in, monkeypatch):
    from peewee import OperationalError

    def away(*_, **__):
        raise OperationalError(2003, "gone")

    someone = sign_in("ines")
    monkeypatch.setattr(type(database.obj), "connect", away)
    answer = someone.get("/")
    assert answer.status_code == 503
    assert "What was kept is safe" in answer.get_data(as_text=True)
