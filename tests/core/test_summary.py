"""A circuit's row in the schedule: what it shows, what it rests on, and when it still holds."""

import json

import pytest

from vinegate.core.plan import plan_raw
from vinegate.core.summary import (
    holds_for,
    member_from,
    placed_from,
    profile_from,
    row_of,
    summarise,
    unplanned,
    waiting,
)
from vinegate.demo import demo_job

DEMO = demo_job("harrowmere-lock.json")
P11 = dict(DEMO.circuits)["P-11"]


def row(job=DEMO.facts, facts=P11):
    return row_of(DEMO.rules, job, facts)


def marked(reads, job):
    return holds_for(reads, job, DEMO.rules)


def with_fact(job, path, text):
    part, _, name = path.partition(".")
    return {**job, part: {**job.get(part, {}), name: text}}


def test_it_is_the_whole_plan_in_short():
    """Planned for a row alone, it says what the whole plan says."""
    plan = plan_raw(DEMO.rules, DEMO.facts, P11)
    assert row()[0] == summarise(plan) | {"driven": P11["start"]["driven"]}
    cells = row()[0]["cells"]
    assert (cells["power"]["shown"], cells["current"]["shown"]) == ("75 hp", "92 A")
    assert cells["overload"]["provenance"] == "table"
    assert row()[0]["why"] == ""
    assert row()[0]["words"]["device"] == "175 A"


@pytest.mark.parametrize("path", ["limits.dip", "supply.volts", "board_1.length", "supply.transformer_power"])
def test_it_rests_on_the_jobs_facts_that_it_read(path):
    reads = row()[1]
    assert path in reads
    assert marked(reads, DEMO.facts) != marked(reads, with_fact(DEMO.facts, path, "7"))


def test_a_fact_it_never_read_leaves_it_alone():
    reads = row()[1]
    assert "limits.demand_price" not in reads
    assert marked(reads, DEMO.facts) == marked(reads, with_fact(DEMO.facts, "limits.demand_price", "9"))
    assert reads == sorted(reads)


@pytest.mark.parametrize(
    ("path", "text"), [("sources.supply.fault_level", "assumed"), ("limits.demand_price", "?!"), ("limits.tags", "?!")]
)
def test_nor_does_it_stand_where_a_fact_is_called_assumed_or_cannot_be_read(path, text):
    assert marked(row()[1], DEMO.facts) != marked(row()[1], with_fact(DEMO.facts, path, text))


def test_a_further_board_is_seen_where_boards_were_counted():
    reads = [*row()[1], "boards"]
    assert marked(reads, DEMO.facts) != marked(reads, with_fact(DEMO.facts, "board_99", "x"))


def test_while_the_start_is_not_known_the_first_moment_stands_there():
    """Without a load: full voltage's first moment, and said why."""
    found, _ = row(facts=P11 | {"load": {}})
    plan = plan_raw(DEMO.rules, DEMO.facts, P11 | {"load": {}})
    assert found["cells"]["start"]["value"] == plan.figure("start.full.current").value
    assert found["cells"]["dip"]["value"] == plan.figure("start.full.dip_board").value
    assert "time" not in found["cells"]
    assert json.loads(found["restart"]).keys() == {"reason"}
    assert found["why"]


def test_what_fails_first_is_the_reason_with_its_sheet():
    found, _ = row(facts=P11 | {"start": P11["start"] | {"method": "full-voltage"}})
    assert found["verdict"] == "fails"
    assert found["why"].startswith("Dip")
    assert "Supply" in found["stages"]["fails"]
    assert found["starts"] == "full voltage"
    assert found["gates"]["fails"] >= 1


def test_what_it_keeps_is_read_back():
    found, _ = row()
    profile, source = profile_from(found["restart"])
    assert profile.rated_a == pytest.approx(92)
    assert len(profile.time_s) == len(profile.line_a) > 10
    assert abs(source.per_ampere) > 0
    assert [one.key for one in placed_from(found["placed"])][:1] == ["motor"]
    member = member_from("P-11", found["guard"])
    assert (member.device_a, member.sizing_a, member.board) == (175, 96, "main")  # NFPA 70 table 430.250
    assert member_from("P-11", {**found["guard"], "device_a": None}) is None


def test_a_row_that_is_not_planned_passes_nothing():
    """Neither one that waits nor one that could not be planned looks like an approval."""
    for found in (waiting(), unplanned()):
        assert found["verdict"] == found["dip_verdict"] == "not known"
        assert sum(found["gates"].values()) == 1
        assert "reason" in json.loads(found["restart"])
    assert waiting()["waits"] is True
    assert "waits" not in unplanned()
