"""Many circuits at once, over the pages: a table brought in whole or not, several changed, taken away and back."""

import io
import re
import subprocess

import pytest
from openpyxl import load_workbook

from tests.conftest import demo_job
from tests.exchange.test_spreadsheet import book, pans
from tests.server import job_of, person, pump
from tests.web.issuing import issue
from tests.web.test_starter import text_of
from vinegate.store import jobs as jobs_store
from vinegate.store.database import database
from vinegate.store.models import Role


@pytest.fixture
def job(world):
    with database.connection_context():
        access = job_of(person("ines"), tam=Role.VIEWER)
        pump(access)
        found = f"/jobs/{access.job.id}"
    database.close_all()
    return found


def preview(ines, job, text):
    return ines.post(f"{job}/import", {"text": text}, form_at=f"{job}/import")


def table_of(page):
    import html

    return html.unescape(re.search(r'name="table" value="([^"]*)"', page).group(1))


def test_forty_motors_are_looked_at_and_brought_in_whole(sign_in, job):
    ines = sign_in("ines")
    sent = {"file": (io.BytesIO(book(pans())), "pans.xlsx")}
    page = text_of(ines.post(f"{job}/import", sent, form_at=f"{job}/import", content_type="multipart/form-data"))
    assert "<strong>40</strong> of 40 rows can be brought in: 40 new" in page
    assert "S-40" not in text_of(ines.get(job))
    columns = {
        f"column{at}": path for at, path in re.findall(r'name="column(\d+)".*?<option value="([^"]+)" selected', page)
    }
    done = ines.post(f"{job}/import", {"table": table_of(page), **columns, "go": "all"}, form_at=f"{job}/import")
    assert done.status_code == 302
    assert "S-40" in text_of(ines.get(f"{job}/schedule.csv"))


def test_a_tag_that_is_there_is_changed_and_the_rest_of_it_stays(sign_in, job):
    ines = sign_in("ines")
    page = text_of(preview(ines, job, "Tag\tLength\nP-11\t70 m\nP-99\t10 m"))
    assert "1 new, 1 changed" in page
    ines.post(
        f"{job}/import",
        {"table": table_of(page), "column0": "tag", "column1": "wiring.length", "go": "all"},
        form_at=f"{job}/import",
    )
    sheet = text_of(ines.get(f"{job}/P-11/wiring"))
    assert 'value="70 m"' in sheet
    assert "75 hp" in text_of(ines.get(f"{job}/P-11/plate"))
    again = text_of(preview(ines, job, "Tag\tLength\nP-11\t80 m"))
    assert re.search(r'<option value="wiring.length" selected', again)


def changed_in(body, tag, head, text):
    """A spreadsheet in which somebody changed one cell of a circuit."""
    book = load_workbook(io.BytesIO(body))
    sheet = book.active
    at = next(cell.column for cell in sheet[1] if cell.value == head)
    row = next(row for row in sheet if row[0].value == tag)
    sheet.cell(row[0].row, at, text)
    found = io.BytesIO()
    book.save(found)
    return found.getvalue()


def test_what_is_entered_goes_out_is_changed_and_comes_back(sign_in, job):
    ines = sign_in("ines")
    ines.post(f"{job}/P-11/rename", {"new": "P-12", "copy": "yes"}, form_at=job)
    first = text_of(preview(ines, job, "Tag\tRun\nP-12\t70 m"))  # a head that the job is told
    told = {"table": table_of(first), "column0": "tag", "column1": "wiring.length", "go": "all"}
    ines.post(f"{job}/import", told, form_at=f"{job}/import")
    body = changed_in(ines.get(f"{job}/entered.xlsx").data, "P-12", "Length [wiring.length]", "88 m")
    sent = {"file": (io.BytesIO(body), "entered.xlsx")}
    page = text_of(ines.post(f"{job}/import", sent, form_at=f"{job}/import", content_type="multipart/form-data"))
    assert "<strong>2</strong> of 2 rows can be brought in: 0 new, 1 changed, 1 as it is" in page
    assert re.findall(r'<th scope="col">([^<]+)<', page) == ["Tag", "Then", "Length"]
    assert re.search(r'88 m</span><br><span class="soft">was 70 m<', page)
    assert "<select" not in page
    columns = dict(re.findall(r'name="(column\d+)" value="([^"]+)"', page))
    before = versions(job)
    ines.post(f"{job}/import", {"table": table_of(page), **columns, "go": "all"}, form_at=f"{job}/import")
    assert 'value="88 m"' in text_of(ines.get(f"{job}/P-12/wiring"))
    assert versions(job) == before | {"P-12": before["P-12"] + 1}
    again = {"file": (io.BytesIO(body), "entered.xlsx")}
    page = text_of(ines.post(f"{job}/import", again, form_at=f"{job}/import", content_type="multipart/form-data"))
    assert "0 new, 0 changed, 2 as they are" in page
    assert 'name="go"' not in page
    again = text_of(preview(ines, job, "Tag\tRun\nP-12\t90 m"))  # and has not forgotten
    assert re.search(r'<option value="wiring.length" selected', again)
    assert 'name="go"' not in page


def versions(job):
    with database.connection_context():
        access = jobs_store.open_job(person("ines"), int(job.rpartition("/")[2]))
        return {circuit.tag: circuit.version for circuit in jobs_store.circuits(access)}


def test_rows_in_error_are_named_and_nothing_half_is_kept(sign_in, job):
    ines = sign_in("ines")
    page = text_of(preview(ines, job, "Tag\tHP\nQ-1\tten\nQ-2\t10"))
    assert "does not begin with a number" in page
    sent = {"table": table_of(page), "column0": "tag", "column1": "plate.power"}
    assert ines.post(f"{job}/import", {**sent, "go": "all"}, form_at=f"{job}/import").status_code == 422
    assert "Q-2" not in text_of(ines.get(job))
    assert ines.post(f"{job}/import", {**sent, "go": "good"}, form_at=f"{job}/import").status_code == 302
    page = text_of(ines.get(job))
    assert "Q-2" in page
    assert "Q-1" not in page


@pytest.mark.parametrize("table", ["[]", "{}", "[[1]]", '[["a"],["b","c"]]', "nonsense"])
def test_a_table_that_was_tampered_with_is_refused(sign_in, job, table):
    assert (
        sign_in("ines")
        .post(f"{job}/import", {"table": table, "column0": "tag", "go": "all"}, form_at=f"{job}/import")
        .status_code
        == 422
    )


def test_viewers_bring_in_and_change_nothing(sign_in, job):
    tam = sign_in("tam")
    assert tam.get(f"{job}/import").status_code == 403
    for path, form in (
        ("import", {"text": "Tag,HP\nA,1"}),
        ("several", {"tag": "P-11", "what": "take away"}),
        ("back", {"tag": "P-11"}),
        ("P-11/rename", {"new": "P-12"}),
    ):
        assert tam.post(f"{job}/{path}", form, form_at=job).status_code == 403


def test_several_are_changed_after_a_look_at_what_turns(sign_in, job):
    ines = sign_in("ines")
    ines.post(f"{job}/P-11/rename", {"new": "P-12", "copy": "yes"}, form_at=job)
    form = {"tag": ["P-11", "P-12"], "path": "wiring.length", "text": "900 m", "what": "look"}
    page = text_of(ines.post(f"{job}/several", form, form_at=job))
    assert "verdicts would turn" in page
    assert 'value="900 m"' not in text_of(ines.get(f"{job}/P-12/wiring"))
    ines.post(f"{job}/several", {**form, "what": "change"}, form_at=job)
    assert 'value="900 m"' in text_of(ines.get(f"{job}/P-12/wiring"))
    bad = ines.post(f"{job}/several", {**form, "text": "far away"}, form_at=job)
    assert bad.status_code == 422
    assert "far away" in text_of(bad)


def test_what_is_read_is_shown_in_the_words_of_its_fields(sign_in, job):
    ines = sign_in("ines")
    page = text_of(preview(ines, job, "Tag\tBreaker\tConduit\nP-11\t50/3\t1-1/4 EMT"))
    for words in ("inverse-time breaker", "1 1/4 in", ">EMT<"):
        assert words in page


def test_a_cable_in_parts_is_looked_at_and_changed_whole(sign_in, job):
    ines = sign_in("ines")
    page = text_of(preview(ines, job, "Tag\tCable size\nP-11\t2x(3x2/0) Al"))
    assert "Sets in parallel" in page.partition("<tbody>")[2]
    assert "1 of 1 rows can be brought in" in page.replace("<strong>", "").replace("</strong>", "")
    form = {"tag": ["P-11"], "path": "wiring.size", "text": "2x(3x2/0) Al"}
    assert "would turn" in text_of(ines.post(f"{job}/several", {**form, "what": "look"}, form_at=job))
    ines.post(f"{job}/several", {**form, "what": "change"}, form_at=job)
    sheet = text_of(ines.get(f"{job}/P-11/wiring"))
    assert 'value="2/0 AWG"' in sheet
    assert re.search(r'name="f:wiring.sets"[^>]*value="2"', sheet)
    assert re.search(r'<option value="aluminium" selected', sheet)


def test_taken_away_and_brought_back_as_it_was(sign_in, job):
    ines = sign_in("ines")
    ines.post(f"{job}/several", {"tag": "P-11", "what": "take away"}, form_at=job)
    assert ines.get(f"{job}/P-11/plate").status_code == 404
    assert "Bring back P-11" in text_of(ines.get(job))
    assert ines.post(f"{job}/circuits", {"tag": "P-11"}, form_at=job).status_code == 422
    ines.post(f"{job}/back", {"tag": "P-11"}, form_at=job)
    assert "75 hp" in text_of(ines.get(f"{job}/P-11/plate"))
    assert ines.post(f"{job}/several", {"tag": ["P-11", "X-9"], "what": "take away"}, form_at=job).status_code == 404
    assert ines.get(f"{job}/P-11/plate").status_code == 200


def test_renamed_and_duplicated_without_what_was_measured(sign_in, job):
    ines = sign_in("ines")
    ines.post(f"{job}/P-11/rename", {"new": "P-21"}, form_at=job)
    ines.post(f"{job}/P-21/rename", {"new": "P-22", "copy": "yes"}, form_at=job)
    assert "75 hp" in text_of(ines.get(f"{job}/P-22/plate"))
    assert "Nothing was recorded yet" in text_of(ines.get(f"{job}/P-22/record"))
    assert "Ran" in text_of(ines.get(f"{job}/P-21/record"))
    assert ines.post(f"{job}/P-22/rename", {"new": "P-21"}, form_at=job).status_code == 422


def test_a_circuit_is_found_in_any_of_ones_jobs_and_in_nobody_elses(sign_in, job):
    ines = sign_in("ines")
    assert f'href="{job}/P-11/"' in text_of(ines.get("/?find=p-1"))
    assert ">P-11</a>" in text_of(ines.get("/?find=DRAINAGE"))
    assert "No circuit of your jobs" in text_of(ines.get("/?find=%25"))  # a sign of the database's own language
    assert "No circuit of your jobs" in text_of(sign_in("odd").get("/?find=P-11"))
    ines.post(f"{job}/several", {"tag": "P-11", "what": "take away"}, form_at=job)
    assert f'href="{job}/P-11/"' not in text_of(ines.get("/?find=P-11"))


def test_a_job_is_taken_away_by_its_name_and_brought_back_by_its_designers(sign_in, job):
    ines, tam, number = sign_in("ines"), sign_in("tam"), job.strip("/").split("/")[-1]
    name = re.search(rf'href="{job}">([^<]+)<', text_of(ines.get("/"))).group(1)
    assert ines.post(f"{job}/away", {"name": "another"}, form_at=f"{job}/members").status_code == 422
    assert tam.post(f"{job}/away", {"name": name}, form_at=f"{job}/members").status_code == 403
    ines.post(f"{job}/away", {"name": name}, form_at=f"{job}/members")
    assert {who.get(job).status_code for who in (ines, tam)} == {404}
    assert f'href="/jobs/{number}' not in text_of(ines.get("/"))
    assert tam.post("/jobs/back", {"job": number}, form_at="/").status_code == 404
    ines.post("/jobs/back", {"job": number}, form_at="/")
    assert "75 hp" in text_of(tam.get(f"{job}/P-11/plate"))


def test_circuits_are_copied_into_another_job_of_the_same_rules_all_or_none(sign_in, job):
    ines = sign_in("ines")
    made = [
        ines.post("/jobs", {"name": name, "rules": rules}, form_at="/").headers["Location"].rstrip("/").split("/")[-1]
        for name, rules in (("Saltmarsh Works", "nec"), ("Skerry Annex", "iec"))
    ]
    form = {"tag": ["P-11"], "what": "copy", "into": made[0]}
    assert ines.post(f"{job}/several", {**form, "into": made[1]}, form_at=job).status_code == 422
    assert ines.post(f"{job}/several", form, form_at=job).status_code == 302
    assert "75 hp" in text_of(ines.get(f"/jobs/{made[0]}/P-11/plate"))
    ines.post(f"{job}/P-11/rename", {"new": "P-10", "copy": "yes"}, form_at=job)
    assert ines.post(f"{job}/several", {**form, "tag": ["P-10", "P-11"]}, form_at=job).status_code == 409
    assert ines.get(f"/jobs/{made[0]}/P-10/plate").status_code == 404


def test_circuits_are_moved_into_another_job_unless_something_of_them_must_stay(sign_in, job):
    ines = sign_in("ines")
    into = ines.post("/jobs", {"name": "Saltmarsh Works", "rules": "nec"}, form_at="/").headers["Location"]
    number = into.rstrip("/").split("/")[-1]
    ines.post(f"{job}/P-11/rename", {"new": "P-14", "copy": "yes"}, form_at=job)
    ines.post(f"{job}/P-11/rename", {"new": "P-15", "copy": "yes"}, form_at=job)
    form = {"tag": ["P-14"], "what": "move", "into": number}
    assert ines.post(f"{job}/several", form, form_at=job).status_code == 302
    assert "75 hp" in text_of(ines.get(f"/jobs/{number}/P-14/plate"))
    assert ines.get(f"{job}/P-14/plate").status_code == 404
    issue(ines, f"{job}/P-15")
    answer = ines.post(f"{job}/several", {**form, "tag": ["P-11", "P-15"]}, form_at=job)
    assert answer.status_code == 409
    assert "Plans of P-15 were issued" in text_of(answer)
    assert ines.get(f"/jobs/{number}/P-11/plate").status_code == 404  # all or none
    assert "75 hp" in text_of(ines.get(f"{job}/P-11/plate"))


class TestForTheDoors:
    def test_a_card_and_a_label_each_and_what_is_not_accepted_says_so(self, sign_in, job):
        ines = sign_in("ines")
        ines.post(f"{job}/P-11/rename", {"new": "P-12", "copy": "yes"}, form_at=job)
        issue(ines, f"{job}/P-11")
        ines.post(f"{job}/members", {"login": "ruth", "role": "reviewer"}, form_at=f"{job}/members")
        sign_in("ruth").post(f"{job}/P-11/revisions/1/review", {"verdict": "accepted"})
        both = "?tag=P-11&tag=P-12"
        cards = ines.get(f"{job}/cards{both}").get_data(as_text=True)
        assert cards.count('<article class="card') == 2
        assert cards.count("do not set by this card") >= 1
        labels = ines.get(f"{job}/labels{both}").get_data(as_text=True)
        assert labels.count('<article class="label') == 2
        assert labels.count("not for the door") == 1
        assert ines.get(f"{job}/cards?tag=Q-1").status_code == 404
        answer = ines.post(f"{job}/several", {"tag": ["P-11", "P-12"], "what": "labels"}, form_at=job)
        assert answer.location.endswith(f"/labels{both}")

    def test_as_pdf(self, sign_in, job):
        ines = sign_in("ines")
        for path, words in (
            ("cards.pdf?tag=P-11", "Overload"),
            ("labels.pdf?tag=P-11", "not for the door"),
            ("schedule.pdf?find=P-11", "P-11"),
        ):
            body = ines.get(f"{job}/{path}").data
            text = subprocess.run(["pdftotext", "-", "-"], input=body, capture_output=True, check=True).stdout.decode()
            assert words in text


def test_the_sheet_to_try_it_with_is_read_whole(sign_in, job):
    ines = sign_in("ines")
    sheet = ines.get("/sample/brackwater-pans.csv").data.decode()
    answer = text_of(ines.post(f"{job}/import", {"text": sheet}, form_at=f"{job}/import"))
    assert "S-40" in answer
    assert "cannot be read" not in answer


def test_the_schedule_is_found_by_reason_and_verdict(sign_in, job):
    ines = sign_in("ines")
    assert "No tag or load" in text_of(ines.get(f"{job}?find=zeppelin"))
    verdict = (
        re.search(r'<tr class="([a-z-]+)"> <th scope="row"><input', text_of(ines.get(job))).group(1).replace("-", " ")
    )
    assert ">P-11</a>" in text_of(ines.get(f"{job}?stands={verdict}"))
    other = "fails" if verdict != "fails" else "passes"
    assert ">P-11</a>" not in text_of(ines.get(f"{job}?stands={other}"))


def tags(page):
    return re.findall(r">([A-Z]-\d+)</a>", page)


def test_the_schedule_is_narrowed_by_sheet_way_board_and_missing_fact(sign_in, app):
    ines = sign_in("ines")
    with database.connection_context():
        access = job_of(person("ines"))
        demo = demo_job("harrowmere-lock.json")
        jobs_store.create_circuit(access, tag="X-51", facts=dict(demo.circuits)["X-51"])
        jobs_store.create_circuit(access, tag="Z-9", facts={"plate": {"power": "5 hp"}})
    job = f"/jobs/{access.job.id}"
    whole = text_of(ines.get(job))
    assert tags(whole) == ["X-51", "Z-9"]
    offered = dict(re.findall(r'<select id="(\w+)".*?>any</option>(.*?)</select>', whole))
    assert {"stands", "stage", "starts", "lacks"} <= offered.keys()
    assert "board" not in offered  # one board: nothing to choose
    assert tags(text_of(ines.get(f"{job}?starts=wye-delta"))) == ["X-51"]
    assert tags(text_of(ines.get(f"{job}?lacks=plate volts"))) == ["Z-9"]
    on_start = tags(text_of(ines.get(f"{job}?stage=Start")))
    assert "X-51" in on_start  # to check there
    assert tags(text_of(ines.get(f"{job}?stage=Start&stands=passes"))) == []


def test_columns_are_chosen_and_stay_chosen(sign_in, job):
    ines = sign_in("ines")
    before = text_of(ines.get(job))
    assert ">Wire</th>" not in before
    ines.post(f"{job}/columns", {"column": ["power", "wire", "rubbish"]}, form_at=job)
    after = text_of(ines.get(job))
    assert ">Wire</th>" in after
    assert "Dip</a>" not in after
    ines.post(f"{job}/columns", {}, form_at=job)
    assert "Dip</a>" in text_of(ines.get(job))


def test_a_job_is_held_against_an_older_file(sign_in, job):
    ines = sign_in("ines")
    old = ines.get(f"{job}/file").data
    same = text_of(ines.post(f"{job}/compare", {"old": (io.BytesIO(old), "old.json")}, form_at=job))
    assert "the same" in same
    ines.post(f"{job}/P-11/plate", {"was:plate.power": "75 hp", "f:plate.power": "60 hp"}, form_at=job)
    found = text_of(ines.post(f"{job}/compare", {"old": (io.BytesIO(old), "old.json")}, form_at=job))
    assert "P-11, facts" in found
    assert "<td>75 hp</td><td>60 hp</td>" in found
    new = ines.get(f"{job}/file").data
    two = {"old": (io.BytesIO(new), "new.json"), "new": (io.BytesIO(old), "old.json")}
    assert "<td>60 hp</td><td>75 hp</td>" in text_of(ines.post(f"{job}/compare", two, form_at=job))
    wrong = ines.post(f"{job}/compare", {"old": (io.BytesIO(b"{"), "bad.json")}, form_at=job)
    assert wrong.status_code == 422
    assert "bad.json: line 1" in text_of(wrong)
    assert ines.post(f"{job}/compare", {}, form_at=job).status_code == 422


def test_the_schedule_and_an_empty_table_go_out(sign_in, job):
    ines = sign_in("ines")
    assert ines.get(f"{job}/schedule.xlsx").data[:2] == b"PK"
    assert ines.get(f"{job}/template.xlsx").data[:2] == b"PK"
    assert ines.get(f"{job}/record/report.xlsx").data[:2] == b"PK"


class TestOnPaper:
    def test_several_sheets_have_a_summary_first(self, sign_in, job):
        ines = sign_in("ines")
        ines.post(f"{job}/P-11/rename", {"new": "P-12", "copy": "yes"}, form_at=job)
        asked = ines.post(f"{job}/several", {"tag": ["P-11", "P-12"], "what": "print"}, form_at=job)
        assert asked.status_code == 302
        page = text_of(ines.get(asked.headers["Location"]))
        articles = page.split('<article class="calc">')[1:]
        assert len(articles) == 3
        assert "Summary: motor supply circuits" in articles[0]
        assert all(tag in articles[0] for tag in ("P-11", "P-12"))
        assert "Being planned" not in articles[0]
        assert articles[0].count(">not known<") == 0
        assert [re.search(r"<h1>([^<]+)</h1>", one).group(1) for one in articles[1:]] == ["P-11", "P-12"]
        assert all("Draft, not issued" in one for one in articles[1:])
        assert ines.get(f"{job}/sheets?tag=Z-9").status_code == 404

    def test_as_pdf_with_its_job_on_every_page(self, sign_in, job):
        ines = sign_in("ines")
        body = ines.get(f"{job}/sheets.pdf?tag=P-11").data
        assert body[:5] == b"%PDF-"
        text = subprocess.run(["pdftotext", "-", "-"], input=body, capture_output=True, check=True).stdout.decode()
        pages = text.split("\f")[:-1]
        assert len(pages) > 3
        assert "Summary" in pages[0]
        assert "P-11" in pages[1]
        assert all(f"{place} of {len(pages)}" in one or f"{place} / {len(pages)}" in one
                   for place, one in enumerate(pages, start=1))  # fmt: skip

    def test_who_is_no_member_gets_none(self, sign_in, job):
        assert sign_in("odd").get(f"{job}/sheets?tag=P-11").status_code == 404


class TestDrawings:
    def read(self, body):
        import ezdxf

        document = ezdxf.read(io.StringIO(body.decode()))
        assert not document.audit().errors
        return document

    def test_the_line_is_symbols_with_their_words(self, sign_in, job):
        ines = sign_in("ines")
        document = self.read(ines.get(f"{job}/P-11/one-line.dxf").data)
        blocks = list(document.modelspace().query("INSERT"))
        said = [{one.dxf.tag: one.dxf.text for one in block.attribs} for block in blocks]
        assert any(one["TAG"] == "Motor" and "75 hp" in one["IS"] for one in said)
        page = text_of(ines.get(f"{job}/P-11/start"))
        assert len(said) == page.count('class="stop ')
        svg = ines.get(f"{job}/P-11/one-line.svg").data.decode()
        assert svg.startswith("<svg xmlns")
        assert "draft, not issued" in svg

    def test_curves_lie_in_layers(self, sign_in, job):
        document = self.read(sign_in("ines").get(f"{job}/P-11/curves.dxf").data)
        layers = {one.dxf.layer for one in document.modelspace()}
        assert {"LINES", "TEXT"} <= layers
        bare = sign_in("ines")
        bare.post(f"{job}/circuits", {"tag": "E-1"}, form_at=job)
        assert bare.get(f"{job}/E-1/curves.dxf").status_code == 404

    def test_every_line_of_the_job_on_one_sheet(self, sign_in, job):
        ines = sign_in("ines")
        ines.post(f"{job}/P-11/rename", {"new": "P-12", "copy": "yes"}, form_at=job)
        document = self.read(ines.get(f"{job}/one-lines.dxf").data)
        words = [one.dxf.text for one in document.modelspace().query("TEXT")]
        assert {"P-11", "P-12"} <= set(words)
        where = {
            one.dxf.text: one.dxf.insert.x
            for one in document.modelspace().query("TEXT")
            if one.dxf.text in ("P-11", "P-12")
        }
        assert where["P-11"] != where["P-12"]
