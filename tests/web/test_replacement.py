"""The replacement's sheet: copied from the old plate, compared, taken over with its history."""

import re
from html import unescape

import pytest

from tests.conftest import demo_job
from tests.server import job_of, person, pump
from tests.web.test_starter import circuit, text_of  # noqa: F401 - a fixture
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.store.models import Role


def test_it_begins_with_a_copy_and_is_taken_over(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    empty = text_of(ines.get(f"{circuit}/replacement"))
    assert "Begin with the old plate" in empty
    changes = {
        "was:new_plate.power": "",
        "f:new_plate.power": "75 hp",
        "f:new_plate.speed": "1191 rpm",
        "was:new_plate.speed": "",
    }
    assert ines.post(f"{circuit}/replacement", changes).status_code == 302
    page = text_of(ines.get(f"{circuit}/replacement"))
    assert "1191 rpm" in page
    assert "Take the new plate over" in page
    was = {
        "was:plate.speed": "1185 rpm",
        "f:plate.speed": "1191 rpm",
        "was:new_plate.speed": "1191 rpm",
        "f:new_plate.speed": "",
    }
    ines.post(f"{circuit}/replacement", was)
    assert "1191 rpm" in text_of(ines.get(f"{circuit}/plate"))


def test_taken_over_it_leaves_what_was_the_old_motors(sign_in, app):
    """Its record and what its drive's sheet said of it are history: the form that the page offers is sent as it is."""
    with database.connection_context():
        demo = dict(demo_job("harrowmere-lock.json").circuits)["P-11"]
        facts = demo | {"new_plate": demo["plate"] | {"speed": "1190 rpm"}, "place": demo["place"] | {"te": "9 s"}}
        access = job_of(person("ines"))
        jobs.create_circuit(access, tag="P-11", facts=facts)
        at = f"/jobs/{access.job.id}/P-11"
    ines = sign_in("ines")
    page = text_of(ines.get(f"{at}/replacement"))
    form = re.search(r'<form id="taking".*?</form>', page, re.S)[0]
    fields = dict(re.findall(r'name="([^"]+)" value="([^"]*)"', form))
    assert not any(":record_" in name for name in fields)
    fields = {name: unescape(value) for name, value in fields.items() if name != "csrf_token"}
    assert ines.post(f"{at}/replacement", fields).status_code == 302
    with database.connection_context():
        kept = jobs.loads(jobs.circuit_by_tag(access, "P-11").facts)
    assert kept["plate"]["speed"] == "1190 rpm"
    assert not any(part for key, part in kept.items() if key.startswith("record_"))
    assert "te" not in kept["place"]
    assert not kept.get("new_plate")


def test_what_would_only_be_to_check_is_not_said_to_pass(sign_in, circuit):  # noqa: F811
    """A copy without the old machine's own data: what rested on them is named, a check as well as a failure."""
    ines = sign_in("ines")
    plate = {"power": "75 hp", "volts": "230/460", "full_load_current": "184/92", "frequency": "60 Hz", "speed": "1185 rpm",
             "code_letter": "G", "code_letter_for": "run", "leads": "12", "service_factor": "1.15"}  # fmt: skip
    ines.post(f"{circuit}/replacement", {f"f:new_plate.{key}": text for key, text in plate.items()})
    page = text_of(ines.get(f"{circuit}/replacement"))
    then = page.partition("Then not passing")[2]
    assert "Every check of the circuit would pass" not in page
    assert "<strong>check</strong>" in then.partition("The new plate")[0]


def test_of_a_plate_that_cannot_be_only_what_fails_is_listed(sign_in, circuit):  # noqa: F811
    """What would pass as it is written is one line, not a gate each; a plate that can be has no such line."""
    ines = sign_in("ines")
    plate = {"power": "75 hp", "volts": "230/460", "full_load_current": "184/92", "frequency": "60 Hz", "speed": "1185 rpm",
             "code_letter": "G", "service_factor": "1.15"}  # fmt: skip

    def then(was="", **other):
        form = {f"f:new_plate.{key}": text for key, text in (plate | other).items()}
        ines.post(f"{circuit}/replacement", {"was:new_plate.full_load_current": was} | form)
        return (
            text_of(ines.get(f"{circuit}/replacement"))
            .partition("Then not passing")[2]
            .partition("Beside the machine")[0]
        )

    assert "wait until it is read again" not in then()
    odd = then(was="184/92", full_load_current="20/10")
    assert "wait until it is read again" in odd
    assert "does not add up" not in odd
    assert "<strong>fails</strong> Power, volts and amperes agree" in odd


@pytest.mark.parametrize(("hertz", "volts", "said"), [("50 Hz", "400", True), ("60 Hz", "460", False)])
def test_it_says_as_what_a_plate_of_another_frequency_is_taken_over(sign_in, circuit, hertz, volts, said):  # noqa: F811
    """400 V at 50 Hz, 46.6 kW at 985 rpm: on 480 V at 60 Hz six fifths of it, with the same slip."""
    ines = sign_in("ines")
    speed = "985 rpm" if said else "1185 rpm"
    plate = {"power": "46.6 kW", "volts": volts, "full_load_current": "87", "frequency": hertz, "speed": speed}
    ines.post(f"{circuit}/replacement", {f"f:new_plate.{key}": text for key, text in plate.items()})
    page = unescape(text_of(ines.get(f"{circuit}/replacement")))
    assert ("by its maker's word: 55.92 kW, 60 Hz, 1185 rpm, 480 V." in page) is said
    assert ('name="f:plate.volts" value="480"' in page) is said


@pytest.fixture
def two(app):
    """P-11 in a job with B-42 beside it, which Tam may read."""
    with database.connection_context():
        access = job_of(person("ines"), tam=Role.VIEWER)
        pump(access)
        jobs.create_circuit(access, tag="B-42", facts=dict(demo_job("harrowmere-lock.json").circuits)["B-42"])
    return f"/jobs/{access.job.id}/P-11"


def texts(page):
    """What stands in each field of the new plate."""
    return dict(re.findall(r'id="new_plate-\w+" name="f:new_plate\.(\w+)" value="([^"]*)"', page))


def test_another_circuits_plate_is_read_whole(sign_in, two):
    ines = sign_in("ines")
    ines.post(f"{two}/replacement", {"f:new_plate.power": "75 hp", "f:new_plate.bearings": "6313"})
    assert ines.post(f"{two}/replacement", {"from_circuit": "B-42"}).status_code == 302
    found = texts(text_of(ines.get(f"{two}/replacement")))
    assert (found["power"], found["speed"], found["bearings"]) == ("20 hp", "3535 rpm", "")
    gone = ines.post(f"{two}/replacement", {"from_circuit": "Z-9"})
    assert "no circuit Z-9" in text_of(gone)


def test_a_pasted_plate_fills_what_it_names_and_says_what_it_could_not_read(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    ines.post(f"{circuit}/replacement", {"f:new_plate.frame": "405T"})
    page = text_of(ines.post(f"{circuit}/replacement", {"pasted": "HP 60 RPM 1185 LRT 160% OIL\nSerial: 7"}))
    assert "To the machine behind it: Locked-rotor torque 160%." in page
    assert re.search(r'name="f:new_machine.locked_rotor_torque"[^>]*value="160%"', page)
    assert "Read, but for: OIL" in page
    assert "HP 60 RPM 1185 LRT" in page.partition('id="pasted"')[2]  # still there to be mended
    found = texts(page)
    assert (found["power"], found["speed"], found["frame"]) == ("60 hp", "1185 rpm", "405T")
    nothing = text_of(ines.post(f"{circuit}/replacement", {"pasted": "hello"}))
    assert "No field of a plate is named there" in nothing
    assert texts(nothing)["power"] == "60 hp"


def test_a_stronger_start_moves_its_place_in_the_restart(sign_in, two):
    ines = sign_in("ines")
    ines.post(f"{two}/start", {"f:start.method": "full-voltage"})
    plate = dict(demo_job("harrowmere-lock.json").circuits)["P-11"]["plate"] | {
        "code_letter": "K",
        "design_letter": "A",
    }
    ines.post(f"{two}/replacement", {f"f:new_plate.{key}": text for key, text in plate.items()})
    page = text_of(ines.get(f"{two}/replacement"))
    rows = {name: (old, new) for name, old, new in re.findall(
        r'scope="row">(Restart[^<]*)</th><td class="num">([^<]*)</td><td class="num">(?:<strong>)?([^<]*)', page)}  # fmt: skip
    assert rows.keys() == {"Restart, its place", "Restart, closes at", "Restart, dip then", "Restart, all up by"}
    assert rows["Restart, its place"][0] == "2 of 2"
    before, after = (float(text.split()[0]) for text in rows["Restart, dip then"])
    assert after > 1.2 * before


def test_what_is_to_be_set_anew_is_printed_and_issued(sign_in, two):
    ines = sign_in("ines")
    assert "to be set anew" not in text_of(ines.get(f"{two}/print"))
    plate = dict(demo_job("harrowmere-lock.json").circuits)["P-11"]["plate"] | {"frame": "404T", "code_letter": "K"}
    ines.post(f"{two}/replacement", {f"f:new_plate.{key}": text for key, text in plate.items()})
    page = text_of(ines.get(f"{two}/print"))
    assert "Replacement: to be set anew" in page
    assert "Overload, class" in page.partition("to be set anew")[2]


def test_the_steps_are_ticked_in_the_record(sign_in, two):
    """As they stood that day: another list tomorrow leaves what was ticked."""
    ines = sign_in("ines")
    assert ines.get(f"{two}/record/measure/record_install").status_code == 404
    assert "Installing the new motor" not in text_of(ines.get(f"{two}/record"))
    ines.post(f"{two}/replacement", {"from_circuit": "B-42"})
    page = text_of(ines.get(f"{two}/record/measure/record_install"))
    steps = {n: unescape(text) for n, text in re.findall(r'name="step:(\d+)" value="([^"]+)"', page)}
    assert steps["1"].startswith("Lock out")
    sent = {"uid": "i" * 32, "form": "record_install", "taken_at": "", "said:1": "done", "said:3": "wrong"}
    ines.post(f"{two}/record/entries", sent | {f"step:{n}": step for n, step in steps.items()})
    found = text_of(ines.get(f"{two}/record"))
    assert f"Not right: {steps['3']}" in found
    again = text_of(ines.get(f"{two}/record/measure/record_install"))
    assert 'name="said:1" value="done" checked' in again
    assert 'name="said:2" value="done" checked' not in again
    ines.post(f"{two}/replacement", {"f:new_plate.speed": "1180 rpm"})
    assert f"Not right: {steps['3']}" in text_of(ines.get(f"{two}/record"))


def test_one_who_only_reads_is_offered_no_plate_to_read(sign_in, two):
    assert 'name="from_circuit"' not in text_of(sign_in("tam").get(f"{two}/replacement"))
    assert 'name="from_circuit"' in text_of(sign_in("ines").get(f"{two}/replacement"))
