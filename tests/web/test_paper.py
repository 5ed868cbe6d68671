"""Our own pages as PDF, whole: nothing is cut, and no word runs into another."""

import re

import pytest

from tests.server import person
from tests.typeset.words import collisions, text_of, words_of
from vinegate.demo import demo_job
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.typeset.press import pressed
from vinegate.web.circuit import pdf

MARGIN = 15 / 25.4 * 72


@pytest.fixture(scope="module")
def pages(app, sign_in, world):
    """Sheets of both rule sets as they go to be typeset, with a name that is long."""
    found, usual = [], pdf.pressed
    pdf.pressed = lambda page, left: found.append(page) or b"%PDF-"
    for name, tag in (("harrowmere-lock.json", "P-11"), ("skerry-sound.json", "H-1"), ("skerry-sound.json", "P-4")):
        demo = demo_job(name)
        with database.connection_context():
            job = jobs.create_job(person("ines"), name=demo.name, rules=demo.rules, facts=demo.facts)
            facts = dict(demo.circuits)[tag]
            facts["start"] = facts.get("start", {}) | {"driven": "second-of-three-wash-down-and-dewatering-screw " * 2}
            jobs.create_circuit(jobs.open_job(person("ines"), job.id), tag=tag, facts=facts)
        sign_in("ines").get(f"/jobs/{job.id}/{tag}/print.pdf")
    pdf.pressed = usual
    return found


def test_no_word_of_a_sheet_runs_into_another_or_into_the_margin(pages):
    """Without its drawings, in which lines and words do meet."""
    assert len(pages) == 3
    for page in pages:
        found = words_of(pressed(re.sub(r"<svg.*?</svg>", "", page, flags=re.DOTALL), lambda: False))
        assert len(found) > 8
        for width, words in found:
            assert collisions(words) == []
            assert min(word[0] for word in words) >= MARGIN - 1
            assert max(word[2] for word in words) <= width - MARGIN + 1


def test_every_word_of_the_page_is_on_paper(pages):
    """What the page says beside its forms and drawings is what the paper says, sign by sign."""
    page = re.sub(r"<(svg|head|code).*?</\1>", "", pages[0], flags=re.DOTALL)
    said = "".join(re.sub(r"<[^>]+>", "", page).replace("&#39;", "'").replace("&amp;", "&").split())
    paper = "".join(text_of(pressed(page, lambda: False)).split())
    lacking = [sign for sign in sorted(set(said)) if paper.count(sign) < said.count(sign)]
    assert lacking == []
