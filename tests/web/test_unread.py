"""What cannot be read of a job is told on each of its pages that would have used it."""

import pytest

from tests.server import person
from vinegate.core.facts import RuleSetName
from vinegate.demo import demo_job
from vinegate.store import jobs as store
from vinegate.store.database import database

FACTS = {
    "supply": {"volts": "480"},
    "limits": {"dip": "4 %"},
    "area_1": {"name": "pump house", "ambient_high": "40 °C"},
}


def page(sign_in, name, **facts):
    with database.connection_context():
        job = {part: {**fields, **facts.get(part, {})} for part, fields in FACTS.items()}
        made = store.create_job(person("ines"), name=f"Unread, {name}", rules=RuleSetName.NEC, facts=job)
        store.create_circuit(store.open_job(person("ines"), made.id), tag="X-1", facts={"place": {"motor": "area_1"}})
    return sign_in("ines").get(f"/jobs/{made.id}/{name}").text


@pytest.mark.parametrize(("text", "told"), [("hot", True), ("45 °C", False)])
def test_on_the_schedule_of_areas(sign_in, text, told):
    assert ("judged with it: pump house: " in page(sign_in, "areas", area_1={"ambient_high": text})) is told


@pytest.mark.parametrize(("text", "words"), [("four", "The dip limit cannot be read"), ("", "No dip limit is set")])
def test_on_the_restart(sign_in, text, words):
    """A limit that is written badly is not one that nobody has set."""
    demo = demo_job("harrowmere-lock.json")
    facts = {**demo.facts, "limits": {**demo.facts["limits"], "dip": text}}
    with database.connection_context():
        made = store.create_job(person("ines"), name=f"Restart, {text}", rules=demo.rules, facts=facts)
        access = store.open_job(person("ines"), made.id)
        store.create_circuit(access, tag="D-61", facts=dict(demo.circuits)["D-61"])
    assert words in sign_in("ines").get(f"/jobs/{made.id}/restart").text
