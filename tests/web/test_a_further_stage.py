"""A stage more is a folder in core, one on the pages, and its place in the two lists: nothing else is touched."""

import json
from pathlib import Path

import pytest
from jinja2 import ChoiceLoader, FileSystemLoader

from tests.sample.page import PAGE
from tests.sample.stage import SAMPLE
from tests.server import job_of, person, pump
from vinegate.core import stages
from vinegate.core.grade import Verdict
from vinegate.core.plan import plan_raw
from vinegate.core.stages import STAGES
from vinegate.core.work import Kept
from vinegate.demo import demo_job
from vinegate.exchange.circuit_file import circuit_schema, plan_document, plan_from_document, read, write
from vinegate.store.database import database
from vinegate.web.stages import PAGES

FOLDER = Path(__file__).parents[1] / "sample"


@pytest.fixture
def listed(monkeypatch):
    monkeypatch.setattr(stages, "STAGES", (*STAGES, SAMPLE))
    monkeypatch.setitem(PAGES, "sample", PAGE)


@pytest.fixture
def job(app, listed, monkeypatch):
    """Harrowmere Lock with the pump; the page's template is found in the sample's folder."""
    monkeypatch.setattr(app, "jinja_loader", ChoiceLoader([app.jinja_loader, _Sheet()]))
    with database.connection_context():
        access = job_of(person("ines"))
        pump(access)
    return access.job.id


class _Sheet(FileSystemLoader):
    """`stages/sample/sheet.html` from the sample's folder."""

    def __init__(self):
        super().__init__(FOLDER / "page")

    def get_source(self, environment, template):
        return super().get_source(environment, template.removeprefix("stages/sample/"))


def pump_facts(**sample):
    demo = demo_job("harrowmere-lock.json")
    return demo, dict(demo.circuits)["P-11"] | {"sample": sample}


def test_it_plans_judges_and_is_kept(listed):
    demo, facts = pump_facts(colour="black")
    kept = Kept()
    plan = plan_raw(demo.rules, demo.facts, facts, kept=kept)
    assert plan.gate("sample.dark").verdict is Verdict.FAILS
    assert plan.verdict is Verdict.FAILS
    assert next(one for one in plan.stations if one.key == "sample").number == "460 V"
    before = dict(kept.steps)
    again = plan_raw(demo.rules, demo.facts, facts | {"sample": {"colour": "grey"}}, kept=kept)
    assert again.gate("sample.dark").verdict is Verdict.PASSES
    assert {stage.key for stage in STAGES if kept.steps[stage.key] is not before[stage.key]} == set()
    bare = plan_raw(demo.rules, demo.facts, facts | {"sample": {}})
    assert [item.path for item in bare.missing if item.path.startswith("sample")] == ["sample.colour"]


def test_its_facts_are_in_the_file_and_its_sheet_in_the_stored_plan(listed):
    demo, facts = pump_facts(colour="grey")
    text = write(type(demo)(name=demo.name, rules=demo.rules, facts=demo.facts, circuits=(("P-11", facts),)))
    assert dict(read(text).circuits)["P-11"]["sample"] == {"colour": "grey"}
    circuit = circuit_schema()["properties"]["circuits"]["items"]
    assert "colour" in circuit["properties"]["sample"]["properties"]
    plan = plan_raw(demo.rules, demo.facts, facts)
    stored = plan_from_document(json.loads(json.dumps(plan_document(plan))))
    assert stored.stage("sample").gates == plan.stage("sample").gates
    assert stored.stations == plan.stations


def test_it_has_a_sheet_a_station_and_lines_on_the_print(sign_in, job):
    ines = sign_in("ines")
    form = {"was:sample.colour": "", "f:sample.colour": "black"}
    assert ines.post(f"/jobs/{job}/P-11/sample", form).status_code == 302
    page = ines.get(f"/jobs/{job}/P-11/sample").get_data(as_text=True)
    assert "Sampled as black." in page
    assert "Not too dark" in page
    start = ines.get(f"/jobs/{job}/P-11/start").get_data(as_text=True)
    assert f"/jobs/{job}/P-11/sample" in start
    printed = ines.get(f"/jobs/{job}/P-11/print").get_data(as_text=True)
    assert "Sample" in printed
    assert "Colour" in printed
    assert "not too dark" in ines.get(f"/jobs/{job}").get_data(as_text=True).lower()


def test_without_its_place_in_the_lists_there_is_none(sign_in, app):
    with database.connection_context():
        access = job_of(person("ines"))
        pump(access)
    assert sign_in("ines").get(f"/jobs/{access.job.id}/P-11/sample").status_code == 404
