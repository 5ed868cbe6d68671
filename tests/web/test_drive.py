"""The drive's pages: its sheet, its pictures, the parameters as files, and what an issued plan keeps of it."""

import csv
import io
import json

import pytest

from tests.server import job_of, person, pump
from tests.web.issuing import issue
from vinegate.core.plan import plan_raw
from vinegate.demo import demo_job
from vinegate.exchange.circuit_file import plan_document, plan_from_document
from vinegate.store.database import database
from vinegate.store.models import Role
from vinegate.web.stages.drive.charts import VIEWS

FACTS = {"f:drive.points": "100 %; ; 1900\n70 %; ; 3400", "f:start.method": "drive", "f:start.speed_control": "yes",
         "f:drive.rated": "110 A", "f:drive.winding": "mg1-31"}  # fmt: skip


@pytest.fixture
def circuit(app, sign_in):
    """The pump on a drive."""
    with database.connection_context():
        access = job_of(person("ines"), ruth=Role.REVIEWER)
        pump(access)
    address = f"/jobs/{access.job.id}/P-11"
    ines = sign_in("ines")
    for station, names in (("drive", ("points", "rated", "winding")), ("start", ("method", "speed_control"))):
        form = {f"f:{station}.{name}": FACTS[f"f:{station}.{name}"] for name in names}
        ines.post(f"{address}/{station}", form | {f"was:{station}.{name}": "" for name in names})
    return address


def text_of(answer):
    return " ".join(answer.get_data(as_text=True).split())


def test_the_sheet_opens_with_its_answer_points_and_gates(sign_in, circuit):
    page = text_of(sign_in("ines").get(f"{circuit}/drive"))
    for words in ("of the drive&#39;s 110 A", "Operating points", "Gates of the drive", "Winding bears the pulses",
                  "What to set, and what is wired", "Safe torque off is no isolation"):  # fmt: skip
        assert words in page or words.replace("&#39;", "'") in page, words
    assert page.count('role="slider"') == 2


def test_its_caution_stands_on_the_sheet_and_on_paper(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/drive", {"f:drive.discharge": "5 min", "was:drive.discharge": ""})
    for page in ("drive", "print"):
        shown = text_of(ines.get(f"{circuit}/{page}"))
        assert "stays charged when its supply is off: 5 min by its plate, then test. Safe torque off is no" in shown, (
            page
        )


@pytest.mark.parametrize(
    ("kind", "says"),
    [
        ("cage", "<span>not known</span></span> No drive is thought of here"),
        ("cage", "bus of a drive stays charged"),
        ("dc-shunt", "an armature that turns gives volts"),
    ],
)
def test_a_sheet_without_a_drive_has_its_caution_too(sign_in, kind, says):
    """Of thyristors where the machine is of direct current: they have no bus. Of no drive nothing passes."""
    ines = sign_in("ines")
    with database.connection_context():
        access = job_of(person("ines"))
        pump(access)
    address = f"/jobs/{access.job.id}/P-11"
    ines.post(f"{address}/plate", {"f:plate.kind": kind, "was:plate.kind": ""})
    page = text_of(ines.get(f"{address}/drive"))
    assert says in page


@pytest.mark.parametrize(("phases", "asked"), [("three-phase", False), ("n", True), ("1", True), ("1~", False)])
def test_a_single_phase_input_is_asked_which_lines_it_hangs_on(sign_in, circuit, phases, asked):
    """What cannot be read is asked at its own field first."""
    ines = sign_in("ines")
    ines.post(f"{circuit}/drive", {"f:drive.phases": phases, "was:drive.phases": ""})
    assert ('name="f:wiring.lines"' in text_of(ines.get(f"{circuit}/wiring"))) is asked


@pytest.mark.parametrize("view", [key for key, _ in VIEWS])
def test_each_picture_is_drawn(sign_in, circuit, view):
    page = text_of(sign_in("ines").get(f"{circuit}/drive?view={view}"))
    assert page.count("chart-drawing drive") == 2
    assert f'value="{view}"' in page


def test_a_picture_that_is_not_there_is_the_first(sign_in, circuit):
    assert 'value="volts"' in text_of(sign_in("ines").get(f"{circuit}/drive?view=<b>"))


def test_parameters_are_files(sign_in, circuit):
    ines = sign_in("ines")
    rows = list(csv.DictReader(io.StringIO(ines.get(f"{circuit}/drive/parameters.csv").get_data(as_text=True))))
    named = {row["parameter"]: row for row in rows}
    assert named["Motor amperes"]["value"] == "92"
    assert named["Motor amperes"]["safety"] == "yes"
    assert all(row["as set"] == "" for row in rows)
    found = json.loads(ines.get(f"{circuit}/drive/parameters.json").get_data(as_text=True))
    assert {one["kind"] for one in found["signals"]} == {"in", "out", "network"}
    assert len(found["parameters"]) == len(rows)


def test_only_members_get_them_and_nothing_else_is_there(sign_in, circuit):
    with database.connection_context():
        person("tam")
    assert sign_in("tam").get(f"{circuit}/drive/parameters.csv").status_code in (403, 404)
    ines = sign_in("ines")
    assert ines.get(f"{circuit}/drive/nothing.csv").status_code == 404
    assert ines.get(f"{circuit}/start/parameters.csv").status_code == 404


def test_it_stands_on_the_line_behind_the_starter(sign_in, circuit):
    page = sign_in("ines").get(f"{circuit}/plate").get_data(as_text=True)
    assert page.index(f"{circuit}/start") < page.index(f'{circuit}/drive"') < page.index(f"{circuit}/wiring")


def test_an_issued_plan_keeps_its_tables(sign_in, circuit):
    ines = sign_in("ines")
    issue(ines, circuit, "first")
    page = text_of(ines.get(f"{circuit}/revisions/1"))
    assert "Drive: operating points" in page
    assert "As set" in page


def test_tables_survive_the_document_and_findings_are_no_part_of_it():
    demo = demo_job("skerry-sound.json")
    plan = plan_raw(demo.rules, demo.facts, dict(demo.circuits)["F-3"])
    document = json.loads(json.dumps(plan_document(plan)))
    again = plan_from_document(document)
    assert again.papers == plan.papers
    assert sum(paper.stage == "drive" for paper in plan.papers) == 4
    assert "found" not in document
    assert again.found == {}
