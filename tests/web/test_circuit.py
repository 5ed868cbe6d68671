"""A circuit's pages as ordinary forms, and the live part."""

import json
import re
import socket
from html import unescape
from xml.etree import ElementTree

import pytest

from tests.server import job_of, person, pump
from tests.web.issuing import issue
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.typeset.tree import tree_of
from vinegate.web.circuit.pdf import asker_left


@pytest.fixture
def circuit(app):
    """A fresh job with one pump, by address."""
    with database.connection_context():
        access = job_of(person("ines"))
        pump(access)
        return f"/jobs/{access.job.id}/P-11"


def field(path, was, now):
    return {f"was:{path}": was, f"f:{path}": now}


def test_saving_as_a_form_redirects_and_shows_what_follows(sign_in, circuit):
    ines = sign_in("ines")
    answer = ines.post(f"{circuit}/plate", field("plate.code_letter", "G", "H"))
    assert answer.status_code == 302
    page = ines.get(answer.location).get_data(as_text=True)
    assert 'value="H"' in page
    assert "668.3 A" in page  # 7.1 · 75 000 / (√3 · 460)


def test_live_answer_is_the_live_part_alone(sign_in, circuit):
    answer = sign_in("ines").post(f"{circuit}/plate", field("plate.code_letter", "G", "H"), headers={"X-Live": "1"})
    page = answer.get_data(as_text=True)
    assert answer.status_code == 200
    assert "<html" not in page
    assert 'id="answer"' in page


def test_a_bare_number_is_read_in_the_jobs_dialect_and_echoed(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", field("plate.power", "75 hp", "75"))
    page = ines.get(f"{circuit}/plate").get_data(as_text=True)
    assert "= 75 hp, 55.9 kW" in page
    ines.post(f"{circuit}/wiring", field("wiring.length", "62 m", "200"))
    assert "= 200 ft, 61 m" in ines.get(f"{circuit}/wiring").get_data(as_text=True)


def test_bad_text_is_kept_and_explained_at_its_field(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", field("plate.power", "75 hp", "75 <Q>"))
    page = ines.get(f"{circuit}/plate").get_data(as_text=True)
    assert 'value="75 &lt;Q&gt;"' in page
    assert "is not a unit of power: write it like 30 hp" in page
    assert "Cannot be read on another sheet" in ines.get(f"{circuit}/start").get_data(as_text=True)


def test_a_contested_field_is_shown_and_can_be_settled(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", field("plate.speed", "1185 rpm", "1190") | {"page": "one"})
    mine = field("plate.speed", "1185 rpm", "1170") | {"page": "two"}
    answer = ines.post(f"{circuit}/plate", mine)
    page = answer.get_data(as_text=True)
    assert answer.status_code == 409
    assert 'value="1170"' in page  # nothing typed is lost
    assert "Ines has written “1190” here" in page
    settle = mine | {"theirs:plate.speed": "1190", "settle": "mine plate.speed"}
    assert ines.post(f"{circuit}/plate", settle).status_code == 302
    assert 'value="1170"' in ines.get(f"{circuit}/plate").get_data(as_text=True)


def test_taking_theirs_leaves_the_draft_alone(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", field("plate.speed", "1185 rpm", "1190") | {"page": "one"})
    form = field("plate.speed", "1185 rpm", "1170") | {"settle": "theirs plate.speed", "page": "two"}
    assert ines.post(f"{circuit}/plate", form).status_code == 302
    assert 'value="1190"' in ines.get(f"{circuit}/plate").get_data(as_text=True)


def test_fields_that_do_not_exist_are_not_kept(sign_in, circuit):
    answer = sign_in("ines").post(f"{circuit}/plate", {"f:plate.horses": "9", "f:evil.path": "1", "f:": "x"})
    assert answer.status_code == 302
    with database.connection_context():
        access = jobs.open_job(person("ines"), int(circuit.split("/")[2]))
        assert "horses" not in jobs.circuit_by_tag(access, "P-11").facts


def test_an_issued_revision_stays_as_it_was(sign_in, circuit):
    ines = sign_in("ines")
    answer = issue(ines, circuit, "for tender")
    assert answer.location.endswith("/revisions/1")
    ines.post(f"{circuit}/plate", field("plate.code_letter", "G", "H"))
    page = ines.get(f"{circuit}/revisions/1").get_data(as_text=True)
    assert "for tender" in page
    assert "593 A" in page
    assert "668.3 A" not in page
    again = issue(ines, circuit)  # sent twice
    assert again.location.endswith("/revisions/1")
    assert ines.get(f"{circuit}/revisions/2").status_code == 404


def test_a_reviewer_accepts(app, sign_in, world):
    address = f"/jobs/{world['id']}/P-11"
    issue(sign_in("ines"), address)
    ruth = sign_in("ruth")
    assert ruth.post(f"{address}/revisions/1/review", {"verdict": "accepted", "note": "ok"}).status_code == 302
    assert "accepted" in ruth.get(f"{address}/revisions/1").get_data(as_text=True)
    assert sign_in("ines").post(f"{address}/revisions/1/review", {"verdict": "accepted"}).status_code == 403


def test_an_asker_has_left_when_the_connection_is_closed_at_their_end():
    here, there = socket.socketpair()
    with here, there:
        left = asker_left({"gunicorn.socket": here})
        assert not left()
        there.send(b"GET")  # a further request behind this one is no farewell
        assert not left()
        here.recv(3)
        there.close()
        assert left()
    assert not asker_left({})()


def test_pdf_is_a_pdf_with_the_answer(sign_in, circuit, tmp_path):
    import subprocess

    answer = sign_in("ines").get(f"{circuit}/print.pdf")
    assert answer.mimetype == "application/pdf"
    file = tmp_path / "sheet.pdf"
    file.write_bytes(answer.data)
    text = subprocess.run(["pdftotext", "-layout", file, "-"], capture_output=True, text=True, check=True).stdout
    assert "Across the line it pulls 566 A" in " ".join(text.split())
    assert "Draft, not issued" in text
    assert "Planning aid, not an approval" in text
    fonts = subprocess.run(["pdffonts", file], capture_output=True, text=True, check=True).stdout
    assert "Plex" in fonts


def test_plan_as_json_is_the_documented_plan(sign_in, circuit):
    import jsonschema

    from vinegate.exchange.circuit_file import plan_schema

    jsonschema.validate(json.loads(sign_in("ines").get(f"{circuit}/plan.json").data), plan_schema())


@pytest.mark.parametrize("station", ["supply", "start", "overload", "wiring", "plate", "machine"])
def test_an_empty_circuit_shows_every_sheet(sign_in, circuit, station):
    ines = sign_in("ines")
    job = circuit.rsplit("/", 1)[0]
    ines.post(f"{job}/circuits", {"tag": "N-1"})
    answer = ines.get(f"{job}/N-1/{station}")
    assert answer.status_code == 200
    assert "give" in answer.get_data(as_text=True)


def test_machine_curves_as_table_and_drawing(sign_in, circuit):
    ines = sign_in("ines")
    lines = ines.get(f"{circuit}/machine.csv?volts=230&hertz=30").get_data(as_text=True).splitlines()
    assert lines[0] == "speed_rpm,torque_nm,line_current_a,power_factor,loss_w"
    assert float(lines[1].split(",")[0]) == 0  # from standstill
    assert float(lines[-1].split(",")[0]) == pytest.approx(600, abs=0.1)  # to half the speed at half the frequency
    drawing = ines.get(f"{circuit}/machine.svg")
    assert drawing.mimetype == "image/svg+xml"
    assert ElementTree.fromstring(drawing.data).tag.endswith("svg")
    assert ines.get(f"{circuit}/machine?volts=abc").status_code == 200


def test_no_machine_no_curves(sign_in, circuit):
    job = circuit.rsplit("/", 1)[0]
    ines = sign_in("ines")
    ines.post(f"{job}/circuits", {"tag": "N-2"})
    assert ines.get(f"{job}/N-2/machine.csv").status_code == 404


def test_where_a_figure_came_from_is_kept_and_travels(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", field("sources.plate.speed", "", "measured"))
    page = ines.get(f"{circuit}/plate").get_data(as_text=True)
    assert '<option value="measured" selected>' in page
    plan = json.loads(ines.get(f"{circuit}/plan.json").data)
    figures = {figure["key"]: figure for stage in plan["stages"] for figure in stage["figures"]}
    assert figures["plate.speed"]["provenance"] == "measured"
    ines.post(f"{circuit}/plate", field("sources.plate.horses", "", "measured"))
    assert "horses" not in ines.get(f"{circuit.rsplit('/', 1)[0]}/file").get_data(as_text=True)


def test_a_plate_is_pasted_on_its_sheet_and_what_it_does_not_name_stands(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", {"f:plate.frame": "405T"})
    page = ines.post(
        f"{circuit}/plate", {"pasted": "3~ 45 kW 400/690 V Δ/Y 1480 r/min IP55 S1 SERIAL X7 Mk/Mn 2.9 OIL"}
    ).text
    assert "Read, but for: OIL." in page
    assert "To the machine behind it: Breakdown torque 2.9. No rating of the motor's: SERIAL X7." in unescape(page)
    assert re.search(r'name="f:machine.breakdown_torque"[^>]*value="2.9"', ines.get(f"{circuit}/machine").text)
    assert "changed" not in page.partition("</nav>")[2].partition("What follows")[0]  # nobody else has
    kept = ines.get(f"{circuit}/plate").text
    for name, text in (("power", "45 kW"), ("volts", "400/690 V Δ/Y"), ("speed", "1480 rpm"), ("frame", "405T")):
        assert re.search(rf'name="f:plate.{name}"[^>]*value="{re.escape(text)}"', kept), name
    ruth = sign_in("ruth")
    assert "Paste a plate" not in ruth.get(f"{circuit}/plate").text


def test_codes_are_read_on_the_plate_and_on_the_shelf(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", field("plate.frame", "405T", "256TCZ"))
    assert "shaft height 6.25 in" in ines.get(f"{circuit}/plate").get_data(as_text=True)
    shelf = ines.get("/codes?q=IP55+IC411").get_data(as_text=True)
    assert "jets from any side" in shelf
    assert "No code known here" in ines.get("/codes?q=zzz").get_data(as_text=True)


@pytest.mark.parametrize(
    ("kind", "title", "said"),
    [
        ("dc-shunt", "DC, shunt motor", "holds the current"),
        ("wound", "Three-phase wound rotor motor", "slip rings"),
        ("capacitor-start", "Single-phase, capacitor start motor", "its starting winding needs full volts"),
    ],
)
def test_the_plate_and_the_start_follow_the_kind_of_machine(sign_in, circuit, kind, title, said):
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", {"f:plate.kind": kind, "was:plate.kind": ""})
    page = ines.get(f"{circuit}/plate").get_data(as_text=True)
    assert title in page
    assert ("plate-field_volts" in page) is (kind == "dc-shunt")
    assert ("plate-start_capacitor" in page) is (kind == "capacitor-start")
    assert said in ines.get(f"{circuit}/start").get_data(as_text=True)
    assert ines.get(f"{circuit}/machine").status_code == 200


def test_a_printed_sheet_has_the_comparison_and_says_which_board(sign_in, circuit):
    page = sign_in("ines").get(f"{circuit}/print").get_data(as_text=True)
    assert "Ways to start compared" in page
    assert "strip-drawing" in page
    assert 'role="slider"' not in page
    assert "Name, board 1" in page


def test_a_printed_sheet_has_stop_and_place_and_every_chart_brings_its_ink(sign_in, circuit):
    """On the way to PDF a page's own styles do not reach into its drawings: one without would be black."""
    page = sign_in("ines").get(f"{circuit}/print").get_data(as_text=True)
    for heading in ("Ways to stop", "In what order.", "each device where it stands", "pump house"):
        assert heading in page
    charts = re.findall(
        r'<svg class=\\"(?:strip-drawing|time-current|circuit-drawing)[^>]*>(?:<style>)?', json.dumps(tree_of(page))
    )
    assert len(charts) == 7  # the start, its devices, two of the stop; control circuit, power circuit, symbols
    assert all(chart.endswith("<style>") for chart in charts)


def test_a_wound_rotor_is_planned_and_drawn_on_its_resistor(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", {"f:plate.kind": "wound", "was:plate.kind": ""})
    start, starter, line = (
        ines.get(f"{circuit}/{sheet}").get_data(as_text=True) for sheet in ("start", "starter", "plate")
    )
    assert re.search(r"On a rotor resistor in \d steps it pulls", start)
    assert "Rotor resistor steps" in start
    assert "Thumb rules call full voltage fine" not in start
    assert re.search(r"Rotor resistor, \d steps: <strong>proved</strong>", starter)
    assert "shorts the rings" in starter
    wiring = re.search(r'id="stop-wiring".*?</a>', line, re.DOTALL).group()
    assert re.search(r'class="number">≈ \d+ %', wiring)
    ines.post(f"{circuit}/wiring", field("wiring.size", "1/0 AWG", ""))
    bare = re.search(r'id="stop-wiring".*?</a>', ines.get(f"{circuit}/plate").get_data(as_text=True), re.DOTALL).group()
    assert 'class="number">–<' in bare


def test_a_sheet_without_a_drawing_is_not_said_to_pass(sign_in, circuit):
    """Three leads have no star: what is chosen all the same is not drawn."""
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", field("plate.leads", "12", "3"))
    ines.post(f"{circuit}/start", field("start.method", "", "wye-delta"))
    starter = ines.get(f"{circuit}/starter").get_data(as_text=True)
    assert re.search(r'title="What this sheet judges">.*?<span>not known</span>', starter, re.DOTALL)
    assert "No control circuit is drawn" in starter


def test_without_a_run_no_volts_at_the_terminals_stand_on_the_line(sign_in, circuit):
    """A soft starter lowers them on purpose: what is left of them says nothing of a wire that nobody gave."""
    ines = sign_in("ines")
    ines.post(f"{circuit}/wiring", field("wiring.size", "1/0 AWG", ""))
    page = ines.get(f"{circuit}/plate").get_data(as_text=True)
    assert 'class="number">–<' in re.search(r'id="stop-wiring".*?</a>', page, re.DOTALL).group()


def test_a_transformer_that_is_left_out_is_not_said_to_be_none(sign_in, circuit):
    ines = sign_in("ines")
    gone = field("supply.transformer_power", "500 kVA", "") | field("supply.transformer_impedance", "5.0 %", "")
    page = ines.get(ines.post(f"{circuit}/supply", gone).location).get_data(as_text=True)
    assert "transformer not known yet" in page
    assert "utility, at the board" not in page
    assert "a transformer stands between" in page


def test_a_rough_value_says_at_its_origin_that_it_is_assumed(sign_in, circuit):
    ines = sign_in("ines")
    for was, text, usual in (("1185 rpm", "~1185 rpm", "assumed (~)"), ("~1185 rpm", "1185 rpm", "plate")):
        ines.post(f"{circuit}/plate", field("plate.speed", was, text))
        page = ines.get(f"{circuit}/plate").text
        select = page.partition('name="f:sources.plate.speed"')[2].partition("</select>")[0]
        assert f'<option value="">{usual}</option>' in select


@pytest.mark.parametrize(
    ("text", "with_it", "left"),
    [
        ("~1180 rpm", {}, ""),
        ("about 1180 rpm", {}, ""),
        ("1180 rpm", {}, "measured"),
        ("~1180 rpm", {"f:sources.plate.speed": "catalogue", "was:sources.plate.speed": "measured"}, "catalogue"),
    ],
)
def test_an_origin_goes_with_the_value_that_a_rough_one_replaces(sign_in, circuit, text, with_it, left):
    """It was said of what stood there; one that is chosen with the new value is meant."""
    ines = sign_in("ines")
    ines.post(f"{circuit}/plate", field("sources.plate.speed", "", "measured"))
    ines.post(f"{circuit}/plate", field("plate.speed", "1185 rpm", text) | with_it)
    page = ines.get(f"{circuit}/plate").text
    assert f'name="was:plate.speed" value="{text}"' in page
    assert f'name="was:sources.plate.speed" value="{left}"' in page


@pytest.mark.parametrize(("current", "stands"), [("", "not known"), ("50 A", "passes")])
def test_no_way_passes_of_which_nothing_is_known(sign_in, circuit, current, stands):
    """Six ends at hand allow wye-delta; whether it passes its dip tells, which waits for the amperes."""
    ines = sign_in("ines")
    ines.post(f"{circuit}/load", field("load.kind", "pump-open", ""))
    plate = (
        ("volts", "230/460", "460Δ/797Y"),
        ("power", "75 hp", "40 hp"),
        ("full_load_current", "184/92", current),
        ("code_letter", "G", "G" if current else ""),
    )
    for name, was, text in plate:
        ines.post(f"{circuit}/plate", field(f"plate.{name}", was, text))
    row = ines.get(f"{circuit}/start").text.partition('<th scope="row">wye-delta')[2].partition("</tr>")[0]
    assert re.search(r"<span>(not known|passes|check|fails)</span>", row)[1] == stands
