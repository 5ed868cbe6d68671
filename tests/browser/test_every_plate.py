"""Each demo plate typed from scratch, by keyboard, in the order Tab goes."""

import pytest
from playwright.sync_api import expect

from tests.examples import some
from tests.server import person
from vinegate.core.plan import plan_raw
from vinegate.demo import demo_job
from vinegate.store import jobs
from vinegate.store.database import database

CIRCUITS = [(name, tag) for name in ("harrowmere-lock.json", "skerry-sound.json") for tag, _ in demo_job(name).circuits]


@pytest.mark.parametrize(("name", "tag"), some(CIRCUITS, 2))
def test_typed_from_scratch(enter, address, name, tag):
    job = demo_job(name)
    facts = dict(job.circuits)[tag]
    with database.connection_context():
        made = jobs.create_job(person("ines"), name=f"{job.name} {tag}", rules=job.rules, facts=job.facts)
        jobs.create_circuit(jobs.open_job(person("ines"), made.id), tag=tag, facts={})
    page = enter()
    page.goto(f"{address}/jobs/{made.id}/{tag}/plate")
    page.keyboard.press("f")
    left = dict(facts["plate"])
    for _ in range(40):
        field = page.evaluate("document.activeElement.id.replace('plate-', '').replaceAll('-', '_')")
        if field in left:
            type_or_choose(page, left.pop(field))
            if field == "kind":  # the plate takes this kind's layout, as its reader sees before going on
                expect(page.locator("[data-unsent]")).to_have_count(0)
        if not left:
            break
        page.keyboard.press("Tab")
    assert left == {}, "Tab does not reach these"
    expect(page.locator("#kept")).to_contain_text("Ines")
    alone = plan_raw(job.rules, job.facts, {"plate": facts["plate"]})
    said = "".join(piece.text for piece in alone.answer)
    for lead in ("Fails: ", "To check: ", "Not known yet: "):  # the verdict before it says so
        said = said.removeprefix(lead)
    expect(page.locator("#answer")).to_have_text(f"{alone.verdict} {said}")
    expect(page.locator("[data-unsent]")).to_have_count(0)
    page.reload()
    for key, text in facts["plate"].items():
        expect(page.locator(f"#plate-{key}")).to_have_value(text)


def type_or_choose(page, text):
    if page.evaluate("document.activeElement.tagName") == "SELECT":
        shown = page.evaluate("key => [...document.activeElement.options].find(o => o.value === key).text", text)
        page.keyboard.type(shown)
    else:
        page.keyboard.type(text)
