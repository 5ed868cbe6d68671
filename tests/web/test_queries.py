"""How often each page asks the database: no more with thirty circuits, and forty saves than with one."""

import pytest
from playhouse.test_utils import count_queries

from tests.server import person, pump
from vinegate.store import drafts, jobs
from vinegate.store.database import database
from vinegate.store.drafts import Change, Writer

# Page under the job, and how many questions it may ask: who, job, circuit, and what the page is about.
PAGES = {
    "": 5,
    "/restart": 6,
    "/members": 5,
    "/areas": 5,
    "/protection": 5,
    "/record/": 6,
    "/import": 5,
    "/P-11/supply": 7,
    "/P-11/plate": 7,
    "/P-11/start": 7,
    "/P-11/protection": 7,
    "/P-11/stop": 7,
    "/P-11/place": 7,
    "/P-11/starter": 7,
    "/P-11/replacement": 8,
    "/P-11/record": 10,
    "/P-11/print": 7,
    "/P-11/history": 7,
    "/P-11/card": 7,
    "/P-11/how-far": 7,
}


def asked(ines, path):
    with count_queries(only_select=True) as counter:
        answer = ines.get(path)
    return answer.status_code, counter.count


@pytest.fixture(scope="module")
def busy(app, world, sign_in):
    """The job as it was, asked of each page; then many circuits and saves more."""
    ines, job = sign_in("ines"), world["id"]
    for page in PAGES:
        ines.get(f"/jobs/{job}{page}")
    few = {page: asked(ines, f"/jobs/{job}{page}") for page in PAGES}
    with database.connection_context():
        access = jobs.open_job(person("ines"), job)
        for index in range(30):
            pump(access, f"X-{index}")
        circuit = jobs.circuit_by_tag(access, "P-11")
        for number in range(40):
            was, now = ("H", "G") if number % 2 else ("G", "H")
            writer = Writer(page="b", sequence=number, seen_save=0)
            drafts.save(access, circuit, {"plate.code_letter": Change(was=was, now=now)}, writer)
    for page in PAGES:
        ines.get(f"/jobs/{job}{page}")
    return few, {page: asked(ines, f"/jobs/{job}{page}") for page in PAGES}


@pytest.mark.parametrize("page", PAGES)
def test_a_page_asks_no_more_with_many(busy, page):
    few, many = busy
    assert (few[page][0], many[page][0]) == (200, 200)
    assert many[page][1] <= max(few[page][1], 1)
    assert many[page][1] <= PAGES[page]


def test_a_script_asks_nothing_of_whoever_is_signed_in(app, sign_in):
    ines = sign_in("ines")
    with app.test_request_context():
        address = app.jinja_env.globals["asset"]("js/live.js")
    with count_queries() as counter:
        found = ines.get(address)
    assert (found.status_code, counter.count) == (200, 0)
    assert "public" in found.headers["Cache-Control"]
