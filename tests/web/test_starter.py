"""The control circuit's page: drawn, worked by links, altered and never passed so, given as a file."""

import csv
import io
import json
import re

import pytest

from tests.server import job_of, person, pump
from tests.web.issuing import issue
from vinegate.store.database import database


@pytest.fixture
def circuit(app, sign_in):
    with database.connection_context():
        access = job_of(person("ines"))
        pump(access)
    address = f"/jobs/{access.job.id}/P-11"
    sign_in("ines").post(f"{address}/start", {"was:start.method": "", "f:start.method": "wye-delta"})
    return address


def text_of(answer):
    return " ".join(answer.get_data(as_text=True).split())


def test_it_is_drawn_proved_and_listed(sign_in, circuit):
    page = text_of(sign_in("ines").get(f"{circuit}/starter"))
    for words in ("Control circuit: wye-delta, open transition", "Power circuit", "Stop wins over start", "mirror contacts",
                  "poles of 1M welded", "the motor is <strong>off</strong>"):  # fmt: skip
        assert words in page, words


@pytest.mark.parametrize(
    ("run", "connection"),
    [
        ("START+", "in wye"),
        ("START+ START- w60", "in delta"),
        ("START+ START- w60 OL+", "off"),
        ("START+ power-", "off"),
    ],
)
def test_pressing_moves_it(sign_in, circuit, run, connection):
    page = text_of(sign_in("ines").get(f"{circuit}/starter", query_string={"run": run}))
    assert f"<strong>{connection}</strong>" in page
    assert ("wire live" in page) == ("power-" not in run)


def asked(ines, circuit):
    return set(re.findall(r'name="f:starter\.(\w+)"', ines.get(f"{circuit}/starter").get_data(as_text=True)))


def test_it_asks_what_its_way_to_start_can_use_and_keeps_what_is_typed(sign_in, circuit):
    ines = sign_in("ines")
    star = asked(ines, circuit)
    assert {"changes_by", "links", "lock", "timer"} < star
    assert star.isdisjoint({"bypass", "bypass_poles", "runs_on", "restart", "limits", "low_speed"})
    ines.post(f"{circuit}/starter", {"was:starter.links": "", "f:starter.links": "behind"})
    ines.post(f"{circuit}/start", {"was:start.method": "wye-delta", "f:start.method": "soft-starter"})
    soft = asked(ines, circuit)
    assert {"bypass", "bypass_poles", "links"} < soft
    assert soft.isdisjoint({"changes_by", "lock"})
    ines.post(f"{circuit}/starter", {"was:starter.command": "", "f:starter.command": "two-wire"})
    assert "restart" in asked(ines, circuit)


def test_each_button_adds_to_the_run(sign_in, circuit):
    page = text_of(sign_in("ines").get(f"{circuit}/starter", query_string={"run": "START+"}))
    assert "run=START%2B+START-" in page
    assert "let go START" in page


def test_rubbish_in_the_address_is_no_error(sign_in, circuit):
    answer = sign_in("ines").get(f"{circuit}/starter", query_string={"run": "<script> w999999 " + "x+ " * 900})
    assert answer.status_code == 200
    assert "<script> w" not in answer.get_data(as_text=True)


def test_an_altered_drawing_is_issued_with_its_failure_on_it(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/starter", {"was:starter.bridged": "", "f:starter.bridged": "STOP in 1M"})
    assert "put the motor out" in text_of(ines.get(f"{circuit}/starter"))
    issue(ines, circuit, "altered")
    page = text_of(ines.get(f"{circuit}/revisions/1"))
    assert "control circuit proved" in page.lower()
    assert "fails" in page


def test_the_netlist_is_a_file(sign_in, circuit):
    found = json.loads(sign_in("ines").get(f"{circuit}/starter/netlist.json").get_data(as_text=True))
    assert {"what", "of", "pins", "rung", "location"} == set(found["elements"][0])
    assert {one["tag"] for one in found["parts"]} == {"S", "1M", "TR", "TRp", "2M"}


def test_a_run_is_drawn_over_time_and_given_as_csv(sign_in, circuit):
    ines, run = sign_in("ines"), {"run": "START+ START- w2"}
    page = text_of(ines.get(f"{circuit}/starter", query_string=run))
    for words in ("What was in when", "Speed over time", "Amperes of the line over time", "rpm</strong>"):
        assert words in page, words
    assert "What was in when" not in text_of(ines.get(f"{circuit}/starter"))
    rows = list(
        csv.DictReader(io.StringIO(ines.get(f"{circuit}/starter/run.csv", query_string=run).get_data(as_text=True)))
    )
    motor = [row for row in rows if row["what"] == "motor"]
    assert float(motor[0]["speed_rpm"]) == 0
    assert float(motor[-1]["speed_rpm"]) > 100
    assert {row["what"] for row in rows} >= {"S", "1M", "motor"}


def test_a_hidden_fault_is_not_told_measured_and_named(sign_in, circuit):
    ines, hunt = sign_in("ines"), {"hunt": "7", "run": "START+"}
    with_meter = ines.get(f"{circuit}/starter", query_string={**hunt, "one": "X1", "other": "X2"})
    page = text_of(with_meter)
    assert "X1 to X2: <strong>full control volts</strong>" in page
    assert "1 worked, 1 measured so far" in page
    assert "wire live" not in page  # the drawing does not give it away
    shown = re.search(
        r"It was: <strong>(.+?)</strong>", text_of(ines.get(f"{circuit}/starter", query_string={**hunt, "show": "1"}))
    )
    number = re.search(rf'<option value="(\d+)">{re.escape(shown[1])}</option>', page)[1]
    assert "Found</strong> after 1 worked" in text_of(
        ines.get(f"{circuit}/starter", query_string={**hunt, "named": number})
    )
    other = str(int(number) + 1)
    assert "Not that one" in text_of(ines.get(f"{circuit}/starter", query_string={**hunt, "named": other}))
    assert ines.get(f"{circuit}/starter", query_string={"hunt": "x", "m": "a~b c", "named": "-1"}).status_code == 200


def test_no_fault_is_said_to_be_hidden_in_a_circuit_that_hurts_without_any(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/starter", {"was:starter.bridged": "", "f:starter.bridged": "STOP in 1M"})
    page = text_of(ines.get(f"{circuit}/starter", query_string={"hunt": "7"}))
    assert "a fault is hidden" not in page
    assert "hide a fault" not in page


def test_an_issued_revision_keeps_its_drawing(sign_in, circuit):
    """As it was issued, with what was found wrong in it: a bridge put in later does not reach it, one before does."""
    ines = sign_in("ines")
    issue(ines, circuit, "first")
    ines.post(f"{circuit}/starter", {"was:starter.bridged": "", "f:starter.bridged": "STOP in 1M"})
    first, draft = (text_of(ines.get(f"{circuit}/{page}")) for page in ("revisions/1", "print"))
    for page in (first, draft):
        assert 'class="circuit-drawing"' in page
    assert ">STOP</text>" in first
    assert ">STOP</text>" not in draft
    assert "Stop, overload and emergency stop put the motor out: not so" in draft
    assert "not so" not in first


def test_the_drawing_is_a_dxf_file(sign_in, circuit):
    answer = sign_in("ines").get(f"{circuit}/starter/drawing.dxf")
    assert answer.mimetype == "image/vnd.dxf"
    assert "AC1027" in answer.get_data(as_text=True)[:400]
