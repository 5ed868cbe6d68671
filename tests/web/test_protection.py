"""The protection pages: a size taken with one click, both rule sets, the schedule, the card for the door."""

import pytest

from tests.conftest import planner
from tests.server import job_of, person, pump
from tests.web.issuing import issue
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Verdict
from vinegate.demo import demo_job
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.store.models import Role
from vinegate.web.stages.protection.devices import rows


@pytest.fixture
def access(app):
    with database.connection_context():
        access = job_of(person("ines"), tam=Role.DESIGNER, ruth=Role.REVIEWER)
        pump(access)
        return access


@pytest.fixture
def circuit(access):
    return f"/jobs/{access.job.id}/P-11"


def text_of(answer):
    return " ".join(answer.get_data(as_text=True).split())


def test_the_five_devices_stand_with_their_currents(sign_in, circuit):
    page = text_of(sign_in("ines").get(f"{circuit}/protection"))
    for words in ("96 A, table", "92 A, plate", "time-delay fuse", "Overload, class 10", "1/0 AWG", "4 AWG"):
        assert words in page
    assert page.count('class="handle"') == 3


def test_an_advised_size_is_taken_whether_or_not_its_field_is_on_the_sheet(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/wiring", {"was:wiring.size": "1/0 AWG", "f:wiring.size": "4 AWG"})
    page = text_of(ines.get(f"{circuit}/protection"))
    assert "4 AWG carries 85 A as laid, 120 A asked." in page
    assert 'value="wiring.size|4 AWG|1 AWG"' in page
    ines.post(f"{circuit}/protection", {"take": "wiring.size|4 AWG|1 AWG"})
    assert "1 AWG carries 130 A as laid" in text_of(ines.get(f"{circuit}/wiring"))


def test_a_size_taken_from_a_stale_page_does_not_overwrite(sign_in, circuit):
    ines, tam = sign_in("ines"), sign_in("tam")
    tam.post(f"{circuit}/wiring", {"was:wiring.size": "1/0 AWG", "f:wiring.size": "2/0 AWG", "page": "tam"})
    answer = ines.post(f"{circuit}/wiring", {"take": "wiring.size|1/0 AWG|1 AWG", "page": "ines"})
    assert answer.status_code == 409
    assert "2/0 AWG" in text_of(answer)


def test_take_knows_only_facts(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(f"{circuit}/protection", {"take": "nothing.here|a|b"})
    assert ines.get(f"{circuit}/protection").status_code == 200


def test_both_rule_sets_side_by_side_and_the_job_moved_over(sign_in, access, circuit):
    ines = sign_in("ines")
    page = text_of(ines.get(f"{circuit}/rules"))
    assert page.count("no rule sizes it") == 1  # the conduit, by IEC
    for words in ("NFPA 70:2023 430.22: 125 %", "IEC 60364-4-43:2008 433.1", "Plan the whole job to IEC", "70 mm²"):
        assert words in page
    ines.post(f"/jobs/{access.job.id}/rules", {"rules": "iec", "back": "P-11"})
    moved = text_of(ines.get(f"{circuit}/protection"))
    assert "gG fuse" in moved
    assert "time-delay fuse" in text_of(ines.get(f"{circuit}/rules"))


@pytest.mark.parametrize(("login", "rules", "status"), [("ruth", "iec", 403), ("ines", "none", 400)])
def test_only_a_designer_changes_the_rule_set(sign_in, access, login, rules, status):
    assert sign_in(login).post(f"/jobs/{access.job.id}/rules", {"rules": rules}).status_code == status
    with database.connection_context():
        assert jobs.open_job(person("ines"), access.job.id).rules is RuleSetName.NEC


def test_the_protection_schedule_has_a_row_a_circuit_and_its_feeders(sign_in, access):
    with database.connection_context():
        for tag, facts in demo_job("harrowmere-lock.json").circuits:
            if tag != "P-11":
                jobs.create_circuit(access, tag=tag, facts=facts)
    page = text_of(sign_in("ines").get(f"/jobs/{access.job.id}/protection"))
    for words in ("X-51", "class CC fuse", "class 20", "Digester MCC", "122.4 A", "430.62(A)"):
        assert words in page


def test_a_conduit_has_its_column_where_one_is_sized(sign_in, access):
    ines = sign_in("ines")
    assert "1 1/2 in" in text_of(ines.get(f"/jobs/{access.job.id}/protection"))
    ines.post(f"/jobs/{access.job.id}/rules", {"rules": "iec", "back": "P-11"})
    assert ">Conduit<" not in text_of(ines.get(f"/jobs/{access.job.id}/protection"))


def test_a_circuit_that_is_not_sized_leaves_its_boards_open_and_is_named(sign_in, access):
    ines, path = sign_in("ines"), f"/jobs/{access.job.id}/protection"
    assert "carries <strong>" in text_of(ines.get(path))
    with database.connection_context():
        jobs.create_circuit(access, tag="N-1", facts={})
    page = text_of(ines.get(path))
    assert "carries at least <strong>" in page
    assert "1 circuit adds to it" in page
    assert "without N-1" in page
    assert "current and device of N-1" in page


def test_a_circuit_on_another_board_leaves_this_one_as_it_is(sign_in, access):
    with database.connection_context():
        for tag, facts in demo_job("harrowmere-lock.json").circuits:
            if tag in ("B-42", "C-71"):  # on boards of their own
                jobs.create_circuit(access, tag=tag, facts=facts)
        jobs.create_circuit(access, tag="N-1", facts={"wiring": {"board": "board_1"}})
    page = text_of(sign_in("ines").get(f"/jobs/{access.job.id}/protection"))
    assert page.count("without N-1") == 2  # the main board and board 1, not the workshop's


def test_a_restart_says_how_many_starts_are_not_in_it(sign_in, access):
    ines, path = sign_in("ines"), f"/jobs/{access.job.id}/restart"
    assert "When power comes back to all 1 at once" in text_of(ines.get(path))
    with database.connection_context():
        jobs.create_circuit(access, tag="N-1", facts={})
        jobs.create_circuit(access, tag="N-2", facts={"start": {"restart": "no"}})
    page = text_of(ines.get(path))
    assert "back to the 1 that are known at once" in page
    assert "<strong>1</strong> more restarts and is not in it" in page  # N-2 stays off, as entered


def test_a_given_moment_that_meets_another_start_behind_the_same_board_is_told(sign_in, access):
    """Two behind the digester's board: searched they are kept apart; put together by hand, that board is not judged."""
    circuits = dict(demo_job("harrowmere-lock.json").circuits)
    ines, path = sign_in("ines"), f"/jobs/{access.job.id}/restart"
    told = "B-42 starts while M-41 does behind the same further board"
    with database.connection_context():
        for tag in ("M-41", "B-42"):
            jobs.create_circuit(access, tag=tag, facts=circuits[tag])
    assert told not in text_of(ines.get(path))
    for tag, says in (("M-41", False), ("B-42", True)):
        page = text_of(ines.post(path, {f"f:{tag}:start.restart_at": "2.5 s"}, path, follow_redirects=True))
        assert (told in page) is says


def test_a_standby_does_not_restart_beside_its_duty_unless_it_is_said_to(sign_in, access):
    ines, path = sign_in("ines"), f"/jobs/{access.job.id}"
    facts = dict(demo_job("harrowmere-lock.json").circuits)["P-12"]
    plain = facts | {"start": {"starts_per_hour": "3"}}
    with database.connection_context():
        jobs.create_circuit(access, tag="P-12", facts=plain)
    page = text_of(ines.get(f"{path}/restart"))
    assert "When power comes back to all 1 at once" in page
    assert "stands by for P-11" in page
    assert "P-12 never runs beside P-11" in text_of(ines.get(f"{path}/protection"))
    with database.connection_context():
        jobs.create_circuit(access, tag="P-13", facts=plain | {"start": {"restart": "yes"}})
    assert "When power comes back to all 2 at once" in text_of(ines.get(f"{path}/restart"))


def test_an_empty_jobs_protection_schedule_says_so(sign_in):
    with database.connection_context():
        job = jobs.create_job(person("ines"), name="Empty", rules=RuleSetName.IEC, facts={})
    assert "No circuits yet" in text_of(sign_in("ines").get(f"/jobs/{job.id}/protection"))


def test_the_card_is_of_the_newest_revision_and_a_draft_says_so(sign_in, circuit):
    ines = sign_in("ines")
    assert "Draft, not issued: do not set by this card." in text_of(ines.get(f"{circuit}/card"))
    issue(ines, circuit, "first")
    ines.post(f"{circuit}/overload", {"was:protection.overload": "", "f:protection.overload": "90 A"})
    card = text_of(ines.get(f"{circuit}/card"))
    assert "Revision A, issued" in card
    assert "<strong>92 A</strong>" in card  # the revision's, not the draft's 90 A
    assert "175 A" in card


def test_a_curve_upstream_that_cannot_be_read_is_explained_and_kept(sign_in, circuit):
    ines = sign_in("ines")
    ines.post(
        f"{circuit}/protection", {"was:protection.upstream": "", "f:protection.upstream": "400, 10\n300, 5\n1, 1"}
    )
    page = text_of(ines.get(f"{circuit}/protection"))
    assert "amperes rise and its seconds fall" in page
    assert "400, 10" in page


def test_an_empty_circuit_shows_the_protection_sheets(sign_in, access):
    with database.connection_context():
        jobs.create_circuit(access, tag="N-1", facts={})
    ines = sign_in("ines")
    for station in ("protection", "overload", "wiring", "rules", "card", "print"):
        assert ines.get(f"/jobs/{access.job.id}/N-1/{station}").status_code == 200, station


def test_the_run_is_taken_at_the_size_that_holds_what_fails():
    """The ampacity passes and the drop does not: the button offers the size that keeps both."""
    plan = planner("harrowmere-lock.json", "P-11")({"wiring.length": "250 m"})
    row = next(one for one in rows(plan) if one.device.key == "conductors")
    assert plan.gate("protection.conductors").verdict is Verdict.PASSES
    assert row.take == row.device.advised == "3/0 AWG"
    whole = planner("harrowmere-lock.json", "P-11")()
    assert next(one for one in rows(whole) if one.device.key == "conductors").take == ""


def test_a_conduit_is_offered_where_it_is_too_small_or_may_be():
    p11 = planner("harrowmere-lock.json", "P-11")

    def offered(**said):
        found = rows(p11({f"wiring.{name}": text for name, text in said.items()}))
        return {row.device.key: row.take for row in found}["conduit"]

    assert offered(conduit="1", conduit_kind="emt") == "1 1/2 in"
    assert offered(conduit="1-1/4") == "1 1/2 in"  # of IMC it may do
    assert offered(conduit="2") == ""
    assert offered() == ""


def test_a_device_says_whose_current_sizes_it():
    """Three motors on one drive: its input sizes what is ahead of it, the plate the overload; a table only the NEC's."""
    found = {row.device.key: row.rests_on for row in rows(planner("skerry-sound.json", "P-4")())}
    assert (found["device"], found["disconnect"], found["overload"]) == ("36 A, drive", "36 A, drive", "10.6 A, plate")
    assert {row.device.key: row.rests_on for row in rows(planner("harrowmere-lock.json", "P-11")())}[
        "device"
    ] == "96 A, table"


@pytest.mark.parametrize(
    ("facts", "stands"),
    [
        ({"start.method": "soft", "start.soft_limit": "4"}, "to confirm"),
        ({"start.method": "soft", "start.soft_limit": "4", "protection.electronic": "105 A"}, "passes"),
        ({"start.method": "soft", "start.soft_limit": "4", "protection.electronic": "60 A"}, "fails"),
        ({"start.method": "full-voltage"}, "passes"),
    ],
)
def test_what_its_maker_has_not_rated_is_to_confirm_and_passes_nothing(facts, stands):
    found = rows(planner("harrowmere-lock.json", "P-11")(facts))
    assert next(row.stands for row in found if row.device.key == "starter") == stands
