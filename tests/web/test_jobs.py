"""Jobs and the schedule."""

import io
import re
import threading
from importlib import resources

import pytest

from tests.server import job_of, person, pump
from vinegate.core.facts import RuleSetName
from vinegate.core.plan import plan_raw
from vinegate.core.summary import summarise
from vinegate.demo import demo_job
from vinegate.store import jobs
from vinegate.store.database import database


@pytest.fixture
def job(app):
    with database.connection_context():
        access = job_of(person("ines"))
        pump(access)
        return access.job.id


def test_a_new_job_from_a_name(sign_in):
    answer = sign_in("ines").post("/jobs", {"name": "Drain yard", "rules": "iec"})
    assert sign_in("ines").get(answer.location).status_code == 200


@pytest.mark.parametrize(
    ("form", "words"),
    [
        ({"name": "", "rules": "iec"}, "A job needs a name."),
        ({"name": "x", "rules": "none"}, "Choose the rule set"),
        ({"name": "x" * 150, "rules": "iec"}, "150 characters are too many"),
    ],
)
def test_a_new_job_refused(sign_in, form, words):
    answer = sign_in("ines").post("/jobs", form)
    assert answer.status_code == 422
    assert words in answer.get_data(as_text=True)


def test_a_job_goes_out_as_a_file_and_comes_back(sign_in):
    text = (resources.files("vinegate.demo") / "harrowmere-lock.json").read_bytes()
    ines = sign_in("ines")
    answer = ines.post("/jobs", {"file": (io.BytesIO(text), "job.json")}, content_type="multipart/form-data")
    assert answer.status_code == 302
    out = ines.get(answer.location + "/file")
    from vinegate.exchange.circuit_file import read

    back, sent = read(out.get_data(as_text=True)), read(text.decode())
    assert (back.facts, dict(back.circuits)) == (sent.facts, dict(sent.circuits))


def test_an_unreadable_file_is_named(sign_in):
    answer = sign_in("ines").post("/jobs", {"file": (io.BytesIO(b"{"), "x.json")}, content_type="multipart/form-data")
    assert answer.status_code == 422
    assert "x.json: line 1, column 2" in answer.get_data(as_text=True)


def rows(page):
    return re.findall(r'<th scope="row">(?:<input[^>]*> )?<a href="[^"]+">([^<]+)</a>', page)


def test_schedule_sorts_and_finds(sign_in, job):
    ines = sign_in("ines")
    for tag in ("A-1", "Z-9"):
        ines.post(f"/jobs/{job}/circuits", {"tag": tag})
    assert rows(ines.get(f"/jobs/{job}").get_data(as_text=True)) == ["A-1", "P-11", "Z-9"]
    assert rows(ines.get(f"/jobs/{job}?sort=start").get_data(as_text=True)) == ["P-11", "A-1", "Z-9"]
    assert rows(ines.get(f"/jobs/{job}?find=drainage").get_data(as_text=True)) == ["P-11"]
    assert "No tag or load contains" in ines.get(f"/jobs/{job}?find=zzz").get_data(as_text=True)


@pytest.mark.parametrize(
    ("tag", "words"), [("", "A tag has"), ("../x", "A tag has"), ("P-11", "has a circuit P-11 already")]
)
def test_a_tag_refused(sign_in, job, tag, words):
    answer = sign_in("ines").post(f"/jobs/{job}/circuits", {"tag": tag})
    assert answer.status_code == 422
    assert words in answer.get_data(as_text=True)


def test_schedule_follows_a_change_and_plans_only_what_changed(app, sign_in, job, monkeypatch):
    from vinegate.web.jobs import summaries

    planned = []
    monkeypatch.setattr(
        summaries, "row_of", lambda *args, real=summaries.row_of: planned.append(args[2]) or real(*args)
    )
    ines = sign_in("ines")
    ines.post(f"/jobs/{job}/circuits", {"tag": "A-1"})
    ines.get(f"/jobs/{job}")
    planned.clear()
    ines.get(f"/jobs/{job}")
    assert planned == []
    ines.post(f"/jobs/{job}/P-11/plate", {"was:plate.code_letter": "G", "f:plate.code_letter": "H"})
    page = ines.get(f"/jobs/{job}").get_data(as_text=True)
    assert len(planned) == 1
    facts = dict(demo_job("harrowmere-lock.json").circuits)["P-11"]
    facts["plate"]["code_letter"] = "H"
    start = summarise(plan_raw(RuleSetName.NEC, demo_job("harrowmere-lock.json").facts, facts))["cells"]["start"]
    assert f"≈</span> {start['shown']}" in page
    ines.post(f"/jobs/{job}/P-11/supply", {"was:limits.dip": "4 %", "f:limits.dip": "0.1 %"})
    assert "fails" in ines.get(f"/jobs/{job}").get_data(as_text=True)  # the limit is the job's: all are planned again
    assert len(planned) == 3


@pytest.mark.parametrize(
    ("station", "path", "now", "again"),
    [
        ("place", "hazard.document", "HL-7", 0),
        ("supply", "standby.recovery", "15 s", 0),  # it runs on the utility
        ("supply", "limits.dip", "3 %", 1),
        ("supply", "board_1.load_power", "80 kVA", 1),  # what runs there already bears on every start
        ("supply", "board_9.name", "pier", 1),  # a further board: the tree is another
        ("place", "area_1.ambient_high", "44 °C", 1),  # where the motor stands
        ("place", "area_2.ambient_high", "44 °C", 0),
    ],
)
def test_a_row_is_planned_again_only_for_a_job_fact_that_it_rests_on(
    sign_in, job, monkeypatch, station, path, now, again
):
    from vinegate.web.jobs import summaries

    ines = sign_in("ines")
    ines.get(f"/jobs/{job}")
    planned = []
    monkeypatch.setattr(
        summaries, "row_of", lambda *args, real=summaries.row_of: planned.append(args[2]) or real(*args)
    )
    part, _, name = path.partition(".")
    was = demo_job("harrowmere-lock.json").facts.get(part, {}).get(name, "")
    assert ines.post(f"/jobs/{job}/P-11/{station}", {f"was:{path}": was, f"f:{path}": now}).status_code == 302
    ines.get(f"/jobs/{job}")
    assert len(planned) == again


def test_a_circuit_that_cannot_be_planned_is_one_row_that_says_so(sign_in, job, monkeypatch, caplog):
    from vinegate.web.jobs import summaries

    def broken(rules, on_job, facts, *, real=summaries.row_of):
        if not facts:
            raise ZeroDivisionError
        return real(rules, on_job, facts)

    monkeypatch.setattr(summaries, "row_of", broken)
    ines = sign_in("ines")
    ines.post(f"/jobs/{job}/circuits", {"tag": "A-1"})
    page = ines.get(f"/jobs/{job}").get_data(as_text=True)
    assert rows(page) == ["A-1", "P-11"]
    assert page.count("It could not be planned") == 1
    assert "A-1" in caplog.text
    for other in ("protection", "areas", "restart"):
        assert ines.get(f"/jobs/{job}/{other}").status_code == 200


def test_many_rows_are_planned_beside_the_server(app, job, sign_in, monkeypatch):
    """The page does not wait for them: it says how many are being planned, and has them when they are there."""
    from dataclasses import replace

    from vinegate.web.jobs import summaries

    with database.connection_context():
        access = jobs.open_job(person("ines"), job)
        for index in range(6):
            pump(access, f"P-{index}")
    monkeypatch.setitem(app.config, "VINEGATE", replace(app.config["VINEGATE"], beside=True))
    monkeypatch.setattr(summaries, "_ON_THE_WAY_S", 0.0)
    ines = sign_in("ines")
    first = ines.get(f"/jobs/{job}").get_data(as_text=True)
    assert "6 circuits are being planned" in first
    assert ", 6 being planned" in first
    assert "lacking a fact" not in first
    assert first.count('<td class="gates soft">being planned</td>') == 6
    assert first.count("not known</span>") == 0
    guarded = ines.get(f"/jobs/{job}/protection").get_data(as_text=True)
    said = re.search(r"(\d+) circuits? (?:is|are) being planned", guarded)
    assert guarded.count('<td class="gates soft">being planned</td>') == (int(said[1]) if said else 0)
    for thread in [thread for thread in threading.enumerate() if thread.name == summaries.BESIDE]:
        thread.join()
    then = ines.get(f"/jobs/{job}").get_data(as_text=True)
    assert "being planned" not in then.lower()
    assert then.count('<tr class="fails">') + then.count('<tr class="check">') + then.count('<tr class="passes">') == 7


def test_schedule_asks_once_for_each_table(app, sign_in, job):
    from playhouse.test_utils import count_queries

    with database.connection_context():
        access = jobs.open_job(person("ines"), job)
        for index in range(30):
            pump(access, f"X-{index}")
    ines = sign_in("ines")
    ines.get(f"/jobs/{job}")
    with count_queries() as counter:
        ines.get(f"/jobs/{job}")
    assert counter.count <= 5  # the person, the job, its circuits, what is issued of them, what was taken away


def test_members_page(sign_in, job):
    ines = sign_in("ines")
    assert ines.post(f"/jobs/{job}/members", {"login": "tam", "role": "viewer"}).status_code == 302
    page = ines.get(f"/jobs/{job}/members").get_data(as_text=True)
    assert "Tam: viewer" in page
    assert ines.post(f"/jobs/{job}/members", {"login": "ghost", "role": "viewer"}).status_code == 422
    assert ines.post(f"/jobs/{job}/members", {"login": "ines", "role": "viewer"}).status_code == 422


def test_what_goes_on_paper_waits_until_every_row_is_planned(app, job, sign_in, monkeypatch):
    """On the screen six are being planned; in the same moment the paper has them all."""
    from dataclasses import replace

    from vinegate.web.circuit import pdf
    from vinegate.web.jobs import summaries

    with database.connection_context():
        access = jobs.open_job(person("ines"), job)
        for index in range(6):
            pump(access, f"W-{index}")
    monkeypatch.setitem(app.config, "VINEGATE", replace(app.config["VINEGATE"], beside=True))
    monkeypatch.setattr(summaries, "_ON_THE_WAY_S", 0.0)
    pages = []
    monkeypatch.setattr(pdf, "pressed", lambda page, left: pages.append(page) or b"%PDF")
    ines = sign_in("ines")
    assert "being planned" in ines.get(f"/jobs/{job}").get_data(as_text=True)
    assert ines.get(f"/jobs/{job}/schedule.pdf").data == b"%PDF"
    assert "being planned" not in pages[0].lower()
    assert pages[0].count('<th scope="row">W-') == 6


def test_a_row_that_was_written_for_one_is_not_another_persons_nor_of_other_columns(sign_in, world):
    """Rows are remembered: the designer's can be ticked, the viewer's cannot, and each has the columns they chose."""
    at = f"/jobs/{world['id']}"
    ines, tam = sign_in("ines"), sign_in("tam")

    def row(who):
        page = who.get(at).get_data(as_text=True)
        return re.search(r"<tr class=\"(?:passes|check|fails|not-known)\">.*?</tr>", page, re.S)[0]

    hers = row(ines)
    assert "checkbox" in hers
    assert "checkbox" not in row(tam)
    tam.post(f"{at}/columns", {"column": ["power"]}, form_at=at)
    assert row(tam).count("<td") < hers.count("<td")
    assert row(ines) == hers
