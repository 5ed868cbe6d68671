"""The real interface: the application served in a thread, Debian's Chromium in front of it."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, StorageState, expect
from werkzeug.serving import make_server

from tests.fixtures import database_url, instance  # noqa: F401
from tests.server import PASSWORD, job_of, person, pump
from vinegate.store.database import database
from vinegate.store.models import Role
from vinegate.web import Config, create_app

CHROMIUM = "/usr/bin/chromium-headless-shell"
# A loaded machine is slow, not wrong: wait longer before a missing answer counts as one.
PATIENCE_MS = 60_000
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    quiet = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run"]
    quiet += ["--disable-background-networking", "--disable-component-update", "--disable-sync"]
    return {**browser_type_launch_args, "executable_path": CHROMIUM, "args": quiet}


@pytest.fixture(scope="module")
def address(database_url: str) -> Iterator[str]:  # noqa: F811
    """The application, served."""
    app = create_app(Config(secret_key="test", database_url=database_url, limit_sign_in=False, beside=False))
    server = make_server("127.0.0.1", 0, app, threaded=True)
    thread = threading.Thread(target=server.serve_forever)
    thread.start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()
    thread.join()
    server.server_close()


@pytest.fixture
def circuit(address: str) -> str:
    """A fresh pump circuit of Ines and Tam, by address."""
    with database.connection_context():
        access = job_of(person("ines"), tam=Role.DESIGNER)
        pump(access)
        return f"{address}/jobs/{access.job.id}/P-11"


# Nobody else is there: what one page knows of another is then up to the test alone.
ALONE = """
const asked = window.fetch;
window.fetch = (address, ...rest) => String(address).endsWith("/here")
  ? Promise.resolve(Response.json({ others: [], behind: false })) : asked(address, ...rest);
"""


@pytest.fixture(scope="module")
def signed_in(browser: Browser, address: str) -> Callable[[str], StorageState]:
    """What a browser keeps of a person who has signed in: by hand once, then taken up. (Test of sign-in: test_session.)"""
    kept: dict[str, StorageState] = {}

    def state(login: str) -> StorageState:
        if login not in kept:
            with browser.new_context() as context:
                page = context.new_page()
                page.goto(f"{address}/sign-in")
                page.fill("#login", login)
                page.fill("#password", PASSWORD)
                page.click("text=Sign in >> nth=-1")
                page.wait_for_url(f"{address}/")
                kept[login] = context.storage_state()
        return kept[login]

    return state


@pytest.fixture
def enter(browser: Browser, signed_in: Callable[[str], StorageState]) -> Iterator[Callable[..., Page]]:
    """Opens a page for a signed-in person, in a context of their own. A page error fails the test."""
    contexts: list[BrowserContext] = []
    problems: list[str] = []

    def open_page(login: str = "ines", *, company: bool = False, **options) -> Page:
        options.setdefault("viewport", {"width": 1280, "height": 800})
        with database.connection_context():
            person(login)
        context = browser.new_context(storage_state=signed_in(login), **options)
        contexts.append(context)
        context.set_default_timeout(PATIENCE_MS)
        page = context.new_page()
        if not company:
            page.add_init_script(ALONE)
        page.on("pageerror", lambda error: problems.append(str(error)))
        return page

    yield open_page
    for context in contexts:
        context.close()
    assert problems == []
