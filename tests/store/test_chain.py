"""One chain a job, whoever binds at once."""

import threading

import pytest

from tests.server import job_of, person, pump
from vinegate.store import chain, revisions
from vinegate.store.database import database
from vinegate.store.jobs import open_job
from vinegate.store.models import Link, Role

pytestmark = pytest.mark.usefixtures("connected")
WORDS = 12


def issued(access, tag):
    circuit = pump(access, tag)
    seen = (access.job.version, circuit.version)
    more = {"facts": {}, "plan": {}, "program_version": "1", "note": "first"}
    return circuit, revisions.issue(access, circuit, number=1, seen=seen, **more)


def test_two_reviewers_at_once_bind_one_after_the_other():
    """What was read before the job was held was of before the other's links: the chain forked, and looked changed."""
    ines = job_of(person("ines"), ruth=Role.REVIEWER, odd=Role.REVIEWER)
    rows = [issued(ines, tag) for tag in ("P-11", "P-12")]
    begin, wrong = threading.Barrier(2), []

    def reviews(login, circuit, row):
        with database.connection_context():
            access = open_job(person(login), ines.job.id)
            for _ in range(WORDS):
                begin.wait()
                try:
                    revisions.review(access, circuit, row, accepted=True, note="again")
                except Exception as error:
                    wrong.append(repr(error))

    both = [
        threading.Thread(target=reviews, args=(login, *row)) for login, row in zip(("ruth", "odd"), rows, strict=True)
    ]
    for one in both:
        one.start()
    for one in both:
        one.join()
    assert wrong == []
    assert chain.verify(ines.job.id) == []
    assert Link.select().where((Link.job == ines.job) & (Link.kind == "review")).count() == 2 * WORDS
