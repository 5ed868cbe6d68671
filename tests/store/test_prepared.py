"""Queries whose words are made once ask what they asked before."""

import pytest

from tests.server import job_of, person
from vinegate.store import drafts, jobs
from vinegate.store.drafts import Change, Writer
from vinegate.store.models import Circuit, Save
from vinegate.store.prepared import Prepared

pytestmark = pytest.mark.usefixtures("connected")


@pytest.fixture
def access():
    return job_of(person("ines"))


def test_words_are_made_once_and_each_asking_has_its_own_values(access):
    made = []

    def circuit(job, tag):
        made.append(1)
        return Circuit.select().where((Circuit.job == job) & (Circuit.tag == tag))

    query = Prepared(circuit)
    jobs.create_circuit(access, tag="A-1", facts={})
    jobs.create_circuit(access, tag="A-2", facts={})
    found = [query.first(access.job.id, tag) for tag in ("A-2", "A-1", "A-9")]
    assert [row.tag if row else None for row in found] == ["A-2", "A-1", None]
    assert query.one(access.job.id, "A-1") == found[1]
    with pytest.raises(LookupError):
        query.one(access.job.id, "A-9")
    assert made == [1]


def test_a_value_that_is_not_in_the_words_is_an_error():
    query = Prepared(lambda tag, other: Circuit.select().where(Circuit.tag == tag))
    with pytest.raises(AssertionError):
        query.rows("A-1", "forgotten")


def test_the_journal_keeps_every_column_of_a_save(access):
    circuit = jobs.create_circuit(access, tag="A-1", facts={"plate": {"power": "5 kW"}})
    change = {"plate.power": Change(was="5 kW", now="7.5 kW")}
    saved = drafts.save(access, circuit, change, Writer(page="a", sequence=3, seen_save=0))
    row = Save.get_by_id(saved.entry.id)
    assert row.__data__ == saved.entry.__data__ | {"saved_at": row.saved_at}
    assert abs((row.saved_at - saved.entry.saved_at).total_seconds()) < 1
    assert (row.page, row.sequence, row.of_job, row.circuit_version) == ("a", 3, False, 2)
    assert Circuit.get_by_id(circuit.id).version == 2
