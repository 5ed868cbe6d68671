"""Whatever was typed, every sheet of every circuit opens."""

import pytest

from tests.core.random_facts import circuit, jobs
from tests.server import person
from vinegate.store import jobs as store
from vinegate.store.database import database

PAGES = ("plate", "machine", "supply", "protection", "start", "overload", "wiring", "stop", "place", "load")


@pytest.mark.parametrize("first", [0, 20])
def test_every_sheet_opens_on_random_and_extreme_facts(sign_in, first):
    bases = jobs()
    ines, wrong = sign_in("ines"), []
    for seed in range(first, first + 10):
        rules, on_job, facts = circuit(seed, bases)
        with database.connection_context():
            made = store.create_job(person("ines"), name=f"Facts of {seed}", rules=rules, facts=on_job)
            store.create_circuit(store.open_job(person("ines"), made.id), tag="X-1", facts=facts)
        for page in (*(f"X-1/{name}" for name in PAGES), "X-1/print", "X-1/card", "", "protection", "areas", "restart"):
            if ines.get(f"/jobs/{made.id}/{page}".rstrip("/")).status_code != 200:
                wrong.append((seed, page))
    assert wrong == []
