"""Every sheet and paper opens for every kind of machine, with nothing but its kind or no more than a plate."""

import pytest

from tests.server import person
from vinegate.core.facts import RuleSetName
from vinegate.core.plate.kind import KINDS
from vinegate.store import jobs as store
from vinegate.store.database import database
from vinegate.web.stages import PAGES

PLATE = {"power": "10 hp", "volts": "240", "full_load_current": "30", "speed": "1750", "frequency": "60"}
PAPERS = ("print", "card", "plan.json")
SUPPLY = {"supply": {"volts": "240", "fault_level": "10 kA"}}


@pytest.mark.parametrize(("rules", "plate"), [(RuleSetName.NEC, PLATE), (RuleSetName.IEC, {})], ids=["plate", "kind"])
def test_every_sheet_opens_for_every_kind(sign_in, rules, plate):
    with database.connection_context():
        made = store.create_job(person("ines"), name=f"Kinds, {rules}", rules=rules, facts=SUPPLY)
        access = store.open_job(person("ines"), made.id)
        for kind, _ in KINDS:
            store.create_circuit(access, tag=kind, facts={"plate": {**plate, "kind": kind}})
    ines, wrong = sign_in("ines"), []
    for kind, _ in KINDS:
        for page in (*PAGES, *PAPERS):
            answer = ines.get(f"/jobs/{made.id}/{kind}/{page}")
            if answer.status_code != 200:
                wrong.append((kind, page, answer.status_code))
    assert wrong == []


@pytest.mark.parametrize(
    ("kind", "way"), [("wound", "full voltage"), ("dc-shunt", "DC drive"), ("cage", "full voltage")]
)
def test_before_anything_is_known_its_usual_way_stands_there(sign_in, kind, way):
    with database.connection_context():
        made = store.create_job(person("ines"), name=f"One {kind}", rules=RuleSetName.NEC, facts={})
        store.create_circuit(store.open_job(person("ines"), made.id), tag="X-1", facts={"plate": {"kind": kind}})
    page = sign_in("ines").get(f"/jobs/{made.id}/X-1/start").text
    body = page[page.index('<table class="set methods">') :]
    assert way in body[: body.index("</table>")]
    assert "Not known yet" in body[: body.index("</table>")]
