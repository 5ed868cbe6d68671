"""Long tables come a page at a time, and what is said of the whole job is of the whole job."""

import re

import pytest

from tests.server import person
from vinegate.core.facts import RuleSetName
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.web import paging


@pytest.fixture
def long_job(monkeypatch):
    monkeypatch.setattr(paging.paged, "__defaults__", (3,))
    with database.connection_context():
        job = jobs.create_job(person("ines"), name="Long", rules=RuleSetName.NEC, facts={})
        access = jobs.open_job(person("ines"), job.id)
        for number in range(7):
            jobs.create_circuit(access, tag=f"T-{number}", facts={"start": {"driven": f"machine {number}"}})
    return f"/jobs/{job.id}"


def tags(page):
    return re.findall(r">(T-\d)</a></th>", page)


@pytest.mark.parametrize("table", ["", "/protection"])
@pytest.mark.parametrize(
    ("asked", "shown", "says"),
    [
        ("", "012", "Rows 1 to 3 of 7"),
        ("?page=2", "345", "Rows 4 to 6 of 7"),
        ("?page=3", "6", "Rows 7 to 7 of 7"),
        ("?page=99", "6", "Rows 7 to 7 of 7"),
        ("?page=0", "012", "Rows 1 to 3 of 7"),
        ("?page=-1", "012", "Rows 1 to 3 of 7"),
        ("?page=%C2%B2", "012", "Rows 1 to 3 of 7"),
        ("?page=all", "0123456", "Rows 1 to 7 of 7"),
    ],
)
def test_a_page_has_its_rows_and_says_of_how_many(sign_in, long_job, table, asked, shown, says):
    page = sign_in("ines").get(f"{long_job}{table}{asked}").get_data(as_text=True)
    assert tags(page) == [f"T-{number}" for number in shown]
    assert says in page


def test_the_headline_counts_every_page_and_a_page_keeps_what_was_sought(sign_in, long_job):
    page = sign_in("ines").get(f"{long_job}?find=machine&sort=driven&page=2").get_data(as_text=True)
    assert "Of 7 circuits" in page
    assert "<strong>7</strong> lacking a fact" in page
    (third,) = re.findall(r'href="([^"]+)">3</a>', page)
    assert {"find=machine", "sort=driven", "page=3"} == set(third.partition("?")[2].replace("&amp;", "&").split("&"))


def test_a_table_that_fits_has_no_pages(sign_in, long_job):
    assert "Rows " not in sign_in("ines").get(f"{long_job}?find=machine+3").get_data(as_text=True)


def test_a_form_that_is_refused_shows_the_table_and_its_pages(sign_in, long_job):
    answer = sign_in("ines").post(f"{long_job}/circuits", {"tag": "T-1"})
    assert answer.status_code == 422
    assert f'href="{long_job}?page=2"' in answer.get_data(as_text=True)


def test_arguments_that_mean_something_to_the_program_stay_arguments(sign_in, long_job):
    page = sign_in("ines").get(f"{long_job}?endpoint=x&job_id=99&_external=1")
    assert page.status_code == 200
    assert f'href="{long_job}?endpoint=x&amp;job_id=99&amp;_external=1&amp;page=2"' in page.get_data(as_text=True)
