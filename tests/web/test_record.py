"""Entries from the phone and captures: kept once each, by those who may; what they give is offered."""

import io
import random
import re

import pytest
from PIL import Image

from tests.server import PASSWORD
from tests.web.test_starter import circuit, text_of  # noqa: F401 - a fixture
from vinegate.core.capture.writing import write_pair, write_single
from vinegate.store.database import database
from vinegate.store.models import Entry, Photo

from tests.core.recordings import start  # isort: skip


def entry(uid, form="record_start", at="2026-11-26T08:00:00.000Z", **readings):
    return {"uid": uid, "form": form, "taken_at": at, **{f"f:{form}.{name}": text for name, text in readings.items()}}


def count():
    with database.connection_context():
        return Entry.select().count()


def test_an_entry_is_kept_once_however_often_it_is_sent(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    before = count()
    sent = entry("a" * 32, time="4.9 s", plateau="309 A")
    for _ in range(3):
        answer = ines.post(f"{circuit}/record/entries", sent, headers={"X-Queue": "1"})
        assert answer.status_code == 200
        assert answer.json["kept"] == "a" * 32
    assert count() == before + 1
    page = text_of(ines.get(f"{circuit}/record"))
    assert "4.9 s" in page
    assert "2026-11-26 08:00 UTC, Ines" in page


def test_starts_are_counted_against_the_duty(sign_in, circuit):  # noqa: F811
    """P-11 is planned for three an hour: the fourth within one is too many, an hour later it is not."""
    ines = sign_in("ines")
    for number, at in enumerate(("08:00", "08:20", "08:40", "09:30")):
        sent = entry(f"duty-{number:027d}", time="4.9 s", at=f"2026-11-24T{at}:00Z")
        ines.post(f"{circuit}/record/entries", sent, headers={"X-Queue": "1"})
    assert "3 starts recorded within an hour, planned for 3." in text_of(ines.get(f"{circuit}/record"))
    ines.post(
        f"{circuit}/record/entries", entry("d" * 32, time="4.9 s", at="2026-11-24T08:59:00Z"), headers={"X-Queue": "1"}
    )
    page = text_of(ines.get(f"{circuit}/record"))
    assert "4 starts recorded within an hour, planned for 3." in page
    assert "4 starts recorded within an hour" in text_of(ines.get(f"{circuit}/record/report"))


def test_a_jobs_report_has_a_summary_and_each_recorded_circuit(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    job = circuit.rpartition("/")[0]
    ines.post(f"{job}/P-11/rename", {"new": "P-12", "copy": "yes"})
    ines.post(f"{circuit}/record/entries", entry("r" * 32, time="4.9 s"), headers={"X-Queue": "1"})
    for _ in range(60):  # rows are planned beside the page
        page = text_of(ines.get(f"{job}/record/report"))
        if page.count('<article class="calc">') == 2:
            break
    summary, report = page.split('<article class="calc">')[1:]
    assert "1 of 2 circuits recorded" in summary
    assert re.search(r"[1-7] of 7", summary)
    assert "Commissioning report: motor supply circuit<" in report
    assert "4.9 s" in report
    assert ines.get(f"{job}/record/report.pdf").data[:5] == b"%PDF-"


def test_a_hundred_replays_in_any_order_lose_and_double_nothing(sign_in, circuit):  # noqa: F811
    """A queue whose answers are lost sends again what the server has already."""
    ines, chance = sign_in("ines"), random.Random(5)
    token = re.search(r'name="csrf_token" value="([^"]+)"', text_of(ines.get(f"{circuit}/record"))).group(1)
    waiting = [
        entry(
            f"replay-{k:03d}-xxxxxxxx",
            "record_running",
            at=f"2026-11-20T08:{k % 60:02d}:00Z",
            i1=f"{70 + k} A",
            i2="70 A",
            i3="70 A",
        )
        for k in range(25)
    ]
    before, sends = count(), [one for one in waiting for _ in range(4)]
    chance.shuffle(sends)
    for one in sends:
        assert (
            ines.client.post(
                f"{circuit}/record/entries", data={**one, "csrf_token": token}, headers={"X-Queue": "1"}
            ).status_code
            == 200
        )
    assert count() == before + 25
    # the newest taken stands in the facts, whatever came last
    newest = max(waiting, key=lambda one: one["taken_at"])["f:record_running.i1"]
    assert f"{newest.split()[0]} A of 92 A rated" in text_of(ines.get(f"{circuit}/record"))


def test_what_cannot_be_read_is_kept_and_said_at_its_field(sign_in, circuit):  # noqa: F811
    answer = sign_in("ines").post(f"{circuit}/record/entries", entry("b" * 32, time="soon"), headers={"X-Queue": "1"})
    assert answer.status_code == 200
    assert "record_start.time" in answer.json["errors"]


def test_an_entry_without_a_reading_is_refused_and_what_was_typed_stays(sign_in, circuit):  # noqa: F811
    answer = sign_in("ines").post(f"{circuit}/record/entries", entry("c" * 32, note="rain, came back later"))
    assert answer.status_code == 422
    assert "rain, came back later" in text_of(answer)


@pytest.mark.parametrize("bad", [{"form": "record_nothing"}, {"uid": "x"}, {"uid": "../../etc"}])
def test_a_form_or_name_there_is_not_is_refused(sign_in, circuit, bad):  # noqa: F811
    assert sign_in("ines").post(f"{circuit}/record/entries", {**entry("d" * 32, time="1 s"), **bad}).status_code == 400


@pytest.mark.parametrize("login", ["tam", "ruth"])
def test_viewers_and_reviewers_read_and_do_not_record(sign_in, world, login):
    person, circuit = sign_in(login), f"/jobs/{world['id']}/P-11"  # noqa: F811
    assert person.get(f"{circuit}/record").status_code == 200
    assert person.post(f"{circuit}/record/entries", entry("e" * 32, time="1 s")).status_code == 403
    assert person.get(f"{circuit}/record/measure/record_start").status_code == 403


def test_a_sheet_cannot_write_what_was_measured(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    ines.post(f"{circuit}/record", {"f:record_insulation.r1": "999 GΩ", "was:record_insulation.r1": ""})
    page = text_of(ines.get(f"{circuit}/record"))
    assert not re.search(r'999\s*GΩ|"999"', page)  # a page's random tokens may hold the digits


def picture(size=(3000, 2000), **more):
    found = io.BytesIO()
    exif = Image.Exif()
    exif[0x8825] = {1: "N", 2: (54.0, 0.0, 0.0)}
    exif[0x0110] = "camera"
    Image.new("RGB", size, "red").save(found, "JPEG", exif=exif, **more)
    found.seek(0)
    return found


def test_photos_are_made_smaller_and_say_nothing_of_where(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    sent = {**entry("f" * 32, time="5 s"), "photo": (picture(), "links.jpg")}
    assert ines.post(f"{circuit}/record/entries", sent, content_type="multipart/form-data").status_code == 302
    link = re.search(r'src="([^"]+/photos/\d+\.jpg)"', text_of(ines.get(f"{circuit}/record"))).group(1)
    back = Image.open(io.BytesIO(ines.get(link).data))
    assert max(back.size) == 1600
    assert not back.getexif()


def test_what_is_no_photo_is_said_and_the_entry_kept(sign_in, circuit):  # noqa: F811
    sent = {**entry("9" * 32, time="5 s"), "photo": (io.BytesIO(b"GIF89a not one"), "x.jpg")}
    answer = sign_in("ines").post(
        f"{circuit}/record/entries", sent, headers={"X-Queue": "1"}, content_type="multipart/form-data"
    )
    assert answer.json["kept"]
    assert "no photo" in answer.json["refused"][0]


def test_the_database_keeps_entries_and_photos_from_change(sign_in, circuit):  # noqa: F811
    sign_in("ines").post(f"{circuit}/record/entries", entry("8" * 32, time="5 s"))
    with database.connection_context(), pytest.raises(Exception, match="never changes"):
        Entry.update(readings="{}").execute()
    with database.connection_context(), pytest.raises(Exception, match="never changes"):
        Photo.delete().execute() if Photo.select().exists() else Entry.delete().execute()


def bring(person, circuit, **files):  # noqa: F811
    data = {"file": [(io.BytesIO(body), name.replace("_", ".")) for name, body in files.items()]}
    return person.post(f"{circuit}/record/captures", data, content_type="multipart/form-data", follow_redirects=True)


def test_a_capture_is_laid_over_the_plan_and_put_in_the_record(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    cfg, dat = write_pair(start(amps=310.0, seconds=8.0, up=4.6))
    page = text_of(bring(ines, circuit, x_cfg=cfg, x_dat=dat))
    assert "Held while starting 310 A" in page
    assert "Sag, " not in page
    number = re.search(r"/capture/(\d+)/record", page).group(1)
    ines.post(f"{circuit}/record/capture/{number}/record", {})
    ines.post(f"{circuit}/record/capture/{number}/record", {})
    record = text_of(ines.get(f"{circuit}/record"))
    assert record.count("From the capture x.cfg + x.dat") == 1
    assert ines.get(f"{circuit}/record/capture/{number}/x.dat").data == dat


def test_a_mapping_is_confirmed_and_read_anew(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    page = text_of(bring(ines, circuit, y_cff=write_single(start(amps=310.0, seconds=8.0, up=4.6, volts=420.0))))
    assert "Sag, temporary: 420 V left, 87.5 % of 480 V" in page
    number = re.search(r"/capture/(\d+)/mapping", page).group(1)
    roles = {f"role{k}": role for k, role in enumerate(("u12", "u23", "u31", "i1", "i2", "i3"))}
    times = {f"times{k}": "10" if k > 2 else "1" for k in range(6)}
    again = text_of(ines.post(f"{circuit}/record/capture/{number}/mapping", {**roles, **times}, follow_redirects=True))
    assert "Held while starting 3100 A" in again
    twice = ines.post(f"{circuit}/record/capture/{number}/mapping", {**roles, **times, "role4": "i1"})
    assert twice.status_code == 422
    assert "Two channels" in text_of(twice)


def test_a_capture_of_the_bench_stays_simulated(sign_in, circuit):  # noqa: F811
    from dataclasses import replace

    ines = sign_in("ines")
    found = replace(start(amps=310.0, seconds=8.0, up=4.6), station="SIMULATED BENCH")
    page = text_of(bring(ines, circuit, z_cff=write_single(found)))
    assert "no measurement" in page
    assert "Plan with it" not in page
    number = re.search(r"/capture/(\d+)/record", page).group(1)
    ines.post(f"{circuit}/record/capture/{number}/record", {})
    assert "From the simulated bench, and no measurement" in text_of(ines.get(f"{circuit}/record"))


def test_a_file_that_cannot_be_read_is_not_kept_and_says_why(sign_in, circuit):  # noqa: F811
    answer = bring(sign_in("ines"), circuit, bad_csv=b"t,I1\n0,1\n1,2\n2,oops\n")
    assert answer.status_code == 422
    assert "Line 4, column 3" in text_of(answer)


def test_the_plan_is_given_as_a_capture(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    assert ines.get(f"{circuit}/record/plan.csv").data.startswith(b"t [s],I [A]")
    page = text_of(bring(ines, circuit, plan_cff=ines.get(f"{circuit}/record/plan.cff").data))
    assert "matches" in page
    assert PASSWORD not in page


def test_a_run_of_the_control_circuit_is_kept_with_the_checks_that_stand(sign_in, circuit):  # noqa: F811
    ines = sign_in("ines")
    form, run = "record_before", " ".join(["START+ START- w60 STOP+ STOP-"] * 12 + ["START+ START- w60"])
    ines.post(f"{circuit}/record/entries", entry("e" * 32, form, interlocks="done"), headers={"X-Queue": "1"})
    page = ines.get(f"{circuit}/starter", query_string={"run": run}).get_data(as_text=True)
    keep = re.search(r'href="([^"]+)">keep this run', page)[1].replace("&amp;", "&")
    opened = ines.get(keep).get_data(as_text=True)
    assert f'value="{run}"' in opened
    assert re.search(r'name="f:record_before.interlocks" value="done" checked', opened)
    sent = entry("f" * 32, form, "2026-11-26T09:00:00Z", interlocks="done", run=run)
    ines.post(f"{circuit}/record/entries", sent, headers={"X-Queue": "1"})
    sheet = ines.get(f"{circuit}/record").get_data(as_text=True)
    replay = re.search(r"""href="([^"]+)#alive">the control circuit's run""", sheet)[1].replace("&amp;", "&")
    assert "<strong>in delta</strong>" in text_of(ines.get(replay))
    assert "Found not right" not in sheet


def test_a_run_with_a_fault_or_nothing_pressed_is_no_evidence(sign_in, circuit):  # noqa: F811
    for query in ({}, {"run": "START+", "fault": "1"}, {"run": "START+", "hunt": "3"}):
        assert "keep this run" not in text_of(sign_in("ines").get(f"{circuit}/starter", query_string=query)), query
