"""What is issued is what was seen; who issued does not accept; questions are closed first; what changed is shown."""

from concurrent.futures import ThreadPoolExecutor

import pytest

from tests.server import job_of, person, pump
from tests.web.conftest import Person
from tests.web.issuing import issue, seen
from tests.web.test_starter import text_of
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.store.models import Revision, Role
from vinegate.web.circuit import pdf


@pytest.fixture
def circuit(world):
    """A pump with two designers and a reviewer."""
    with database.connection_context():
        access = job_of(person("ines"), tam=Role.DESIGNER, ruth=Role.REVIEWER)
        pump(access)
        found = f"/jobs/{access.job.id}/P-11"
    database.close_all()
    return found


def change(who, circuit, was, now):
    return who.post(f"{circuit}/plate", {"was:plate.code_letter": was, "f:plate.code_letter": now})


def test_a_change_in_between_is_a_question_and_nothing_is_issued(sign_in, circuit):
    ines, tam = sign_in("ines"), sign_in("tam")
    looked = seen(ines, circuit)
    change(tam, circuit, "G", "H")
    answer = ines.post(f"{circuit}/issue", {**looked, "note": "for tender"})
    assert answer.status_code == 409
    page = text_of(answer)
    assert "Tam has changed it since you looked" in page
    assert 'value="for tender"' in page
    assert ines.get(f"{circuit}/revisions/1").status_code == 404
    assert issue(ines, circuit, "for tender").status_code == 302


def test_without_what_was_seen_nothing_is_issued(sign_in, circuit):
    assert sign_in("ines").post(f"{circuit}/issue", {"number": "1", "note": "x"}).status_code == 409


def test_a_failing_gate_needs_its_reason(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/wiring", {"was:wiring.size": "1/0 AWG", "f:wiring.size": "14 AWG"})
    refused = ines.post(f"{circuit}/issue", {**seen(ines, circuit), "note": " "})
    assert refused.status_code == 409
    assert "say why" in text_of(refused)
    assert issue(ines, circuit, "wire comes with the next delivery").status_code == 302


def test_a_race_of_two_issues_makes_one(app, circuit):
    """Twelve times: both have seen the same draft; one revision is made, both are shown it."""
    people = [Person(app, "ines"), Person(app, "tam")]
    for number in range(1, 13):
        looked = [{**seen(one, circuit), "note": "race"} for one in people]
        with ThreadPoolExecutor(2) as both:
            answers = list(
                both.map(lambda pair: pair[0].post(f"{circuit}/issue", pair[1]), zip(people, looked, strict=True))
            )
        assert [one.status_code for one in answers] == [302, 302]
        assert {one.location.rsplit("/", 1)[1] for one in answers} == {str(number)}
    with database.connection_context():
        assert (
            Revision.select()
            .where(
                Revision.circuit
                == jobs.circuit_by_tag(jobs.open_job(person("ines"), int(circuit.split("/")[2])), "P-11")
            )
            .count()
            == 12
        )


def test_who_issued_does_not_accept(sign_in, circuit):
    ines, ruth = sign_in("ines"), sign_in("ruth")
    issue(ines, circuit)
    with database.connection_context():
        access = jobs.open_job(person("ines"), int(circuit.split("/")[2]))
        jobs.set_member(access, person("ines"), Role.REVIEWER)
    refused = ines.post(f"{circuit}/revisions/1/review", {"verdict": "accepted"})
    assert refused.status_code == 409
    assert "another reviewer" in text_of(refused)
    assert ruth.post(f"{circuit}/revisions/1/review", {"verdict": "accepted"}).status_code == 302


def test_its_pdf_is_written_once_until_something_is_said_of_it(sign_in, circuit, monkeypatch):
    """Whoever asks: what only they may do there is not on paper. A draft's is written each time."""
    pages = []
    monkeypatch.setattr(pdf, "pressed", lambda page, left: pages.append(page) or f"%PDF {len(pages)}".encode())
    ines, ruth = sign_in("ines"), sign_in("ruth")
    issue(ines, circuit)
    found = [who.get(f"{circuit}/revisions/1.pdf").data for who in (ines, ruth, ines)]
    assert found == [b"%PDF 1"] * 3
    assert "csrf" not in pages[0]
    ruth.post(f"{circuit}/revisions/1/comments", {"what": "ask", "subject": "Dip", "text": "At night too?"})
    assert [who.get(f"{circuit}/revisions/1.pdf").data for who in (ruth, ines)] == [b"%PDF 2"] * 2
    assert "At night too?" in pages[1]
    assert [ines.get(f"{circuit}/print.pdf").data for _ in range(2)] == [b"%PDF 3", b"%PDF 4"]
    assert "Draft, not issued" in pages[3]


def test_an_open_question_stands_before_acceptance(sign_in, circuit):
    ines, ruth = sign_in("ines"), sign_in("ruth")
    issue(ines, circuit)
    here = f"{circuit}/revisions/1"
    assert ines.post(f"{here}/comments", {"what": "ask", "text": "why?"}).status_code == 403
    ruth.post(f"{here}/comments", {"what": "ask", "subject": "Dip at the board", "text": "On the generator too?"})
    assert ruth.post(f"{here}/review", {"verdict": "accepted"}).status_code == 409
    page = text_of(ines.get(here))
    assert "On the generator too?" in page
    number = page.partition('name="comment" value="')[2].partition('"')[0]
    ines.post(f"{here}/comments", {"what": "answer", "comment": number, "text": "Yes, 6.1 %."})
    assert ines.post(f"{here}/comments", {"what": "close", "comment": number}).status_code == 422
    ruth.post(f"{here}/comments", {"what": "close", "comment": number})
    assert ruth.post(f"{here}/review", {"verdict": "accepted"}).status_code == 302
    assert "Answer: Yes, 6.1 %." in text_of(ruth.get(here))


def test_the_card_says_across_it_what_it_is(sign_in, circuit):
    ines, ruth = sign_in("ines"), sign_in("ruth")
    across = "do not set by this card"
    assert f"Draft: {across}" in text_of(ines.get(f"{circuit}/card"))
    issue(ines, circuit)
    assert f"Issued, not accepted: {across}" in text_of(ines.get(f"{circuit}/card"))
    ruth.post(f"{circuit}/revisions/1/review", {"verdict": "sent back", "note": "no"})
    assert f"Sent back: {across}" in text_of(ines.get(f"{circuit}/card"))
    ruth.post(f"{circuit}/revisions/1/review", {"verdict": "accepted"})
    assert across not in text_of(ines.get(f"{circuit}/card"))


def test_the_state_is_named_wherever_a_revision_is(sign_in, circuit):
    ines, ruth, job = sign_in("ines"), sign_in("ruth"), circuit.rsplit("/", 1)[0]
    assert "Draft, not issued" in text_of(ines.get(job))
    issue(ines, circuit)
    assert "Revision A issued" in text_of(ines.get(job))
    ruth.post(f"{circuit}/revisions/1/review", {"verdict": "accepted"})
    assert "Revision A accepted by Ruth" in text_of(ines.get(job))
    change(ines, circuit, "G", "H")
    for page in (job, f"{circuit}/start"):
        assert "Revision A accepted by Ruth; the draft differs" in text_of(ines.get(page))
    issue(ines, circuit, number="2")
    assert "A, superseded" in text_of(ines.get(f"{circuit}/revisions/1"))


def test_two_plans_are_compared_by_what_changed_and_nothing_else(sign_in, circuit):
    ines = sign_in("ines")
    issue(ines, circuit)
    assert "Nothing differs" in text_of(ines.get(f"{circuit}/compare"))
    change(ines, circuit, "G", "K")
    page = text_of(ines.get(f"{circuit}/compare"))
    assert "<td>G</td><td><strong>K</strong></td>" in page
    assert "Speed" not in page.partition("<h1>")[2].partition("</section>")[0]
    issue(ines, circuit, number="2")
    assert "<td>K</td><td><strong>G</strong></td>" in text_of(ines.get(f"{circuit}/compare?from=2&to=1"))
    assert ines.get(f"{circuit}/compare?from=9").status_code == 404


def test_every_change_of_a_fact_is_told(sign_in, circuit):
    ines, tam = sign_in("ines"), sign_in("tam")
    change(ines, circuit, "G", "H")
    change(tam, circuit, "H", "J")
    page = text_of(ines.get(f"{circuit}/history?field=plate.code_letter"))
    assert "<td>H</td><td><strong>J</strong></td>" in page
    assert page.index("Tam</td>") < page.index("Ines</td>")
    assert ines.get(f"{circuit}/history").status_code == 200
