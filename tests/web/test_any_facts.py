"""Whatever was typed, every sheet of every circuit opens."""

from random import Random

import pytest

from tests.core.random_facts import circuit, jobs
from tests.examples import nightly
from tests.server import person
from vinegate.core.plate.kind import KINDS
from vinegate.core.start.ways import WAYS
from vinegate.store import jobs as store
from vinegate.store.database import database
from vinegate.web.stages import PAGES


def thinned(random, facts, share):
    """Of each part's fields so many."""
    return {part: {name: text for name, text in fields.items() if random.random() < share}
            if isinstance(fields, dict) else fields for part, fields in facts.items()}  # fmt: skip


def some_of(seed, rules, on_job, facts):
    """As a circuit is while it is being typed: a part of its facts, of any kind of machine, started in any way."""
    random = Random(seed)
    share = random.choice([0.05, 0.15, 0.3, 0.5, 0.7, 0.85])
    facts = thinned(random, facts, share)
    facts["plate"] = {**facts.get("plate", {}), "kind": random.choice(KINDS)[0]}
    if random.random() < 0.7:
        facts["start"] = {**facts.get("start", {}), "method": random.choice(WAYS).key}
    return rules, thinned(random, on_job, share + 0.2), facts


@pytest.mark.parametrize("made_of", [lambda _, *all_: all_, some_of], ids=["all", "some"])
@pytest.mark.parametrize("first", [0, 20])
def test_every_sheet_opens_on_random_and_extreme_facts(sign_in, first, made_of):
    bases = jobs()
    ines, wrong = sign_in("ines"), []
    for seed in range(first, first + (10 if nightly() else 6)):
        rules, on_job, facts = made_of(seed, *circuit(seed, bases))
        with database.connection_context():
            made = store.create_job(person("ines"), name=f"Facts of {seed}", rules=rules, facts=on_job)
            store.create_circuit(store.open_job(person("ines"), made.id), tag="X-1", facts=facts)
        for page in (*(f"X-1/{name}" for name in PAGES), "X-1/print", "X-1/card", "", "protection", "areas", "restart"):
            if ines.get(f"/jobs/{made.id}/{page}".rstrip("/")).status_code != 200:
                wrong.append((seed, page))
    assert wrong == []
