"""A rest after each stop and a purge ahead of each start: what holds however contactors travel, and what is asked."""

from __future__ import annotations

import pytest

from tests.conftest import planner
from tests.core.good import LOCK, SOUND
from tests.core.starters import SHIPPED, broken_by, drawn_to, with_logic
from vinegate.core.grade import Kind
from vinegate.core.starter.faults import Class, swept, tried
from vinegate.core.starter.logic import contacts_of, make, series
from vinegate.core.starter.run import acts_from, ran
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.wishes import PURGED, Wishes, left_out, permitted

RESTED = SHIPPED["full-voltage waits rests_s"]
BY_ITSELF = drawn_to("full-voltage", Wishes(two_wire=True, rests_s=60.0))
TWICE = "START+ w0.2 START- w5 STOP+ w0.2 STOP- w{} START+ w0.2 START- w1"


def _in(circuit, text):
    run = ran(circuit, acts_from(text), seed=1)
    return run.state.coils[[one.tag for one in circuit.devices].index("M")] > 0


@pytest.mark.parametrize(("waits_s", "runs"), [(55, False), (65, True)])
def test_a_second_start_waits_for_its_rest(waits_s, runs):
    """Sixty seconds within its band of a twentieth."""
    assert _in(RESTED, TWICE.format(waits_s)) is runs


@pytest.mark.parametrize(("waits_s", "runs"), [(50, False), (70, True)])
def test_a_held_contact_starts_it_by_itself_once_it_has_rested_power_or_not(waits_s, runs):
    assert _in(BY_ITSELF, f"AUTO+ w5 AUTO- w1 AUTO+ w{waits_s}") is runs
    assert _in(BY_ITSELF, f"AUTO+ w5 power- w{waits_s} power+ w1") is runs


@pytest.mark.parametrize("asked", [{"starter.rests": "5 min"}, {"starter.ride": "2 s", "start.method": "full-voltage"}])
def test_a_timer_that_must_last_without_power_is_said_to(asked):
    plan = planner(LOCK, "P-11")
    (said,) = [note for note in plan(asked).stage("starter").notes if "true off-delay" in note]
    assert said.split()[0] in [one.tag for one in plan(asked).of(STARTER).circuit.devices if one.lasts]
    assert not [note for note in plan({}).stage("starter").notes if "true off-delay" in note]


def test_the_first_start_waits_for_nothing():
    assert _in(RESTED, "START+ w0.2 START- w1")
    assert _in(BY_ITSELF, "AUTO+ w1")


@pytest.mark.parametrize("circuit", [RESTED, BY_ITSELF])
def test_a_start_past_its_timer_is_not_proved(circuit):
    begins = "START" if circuit is RESTED else "AUTO"
    seal = make("M") if circuit is RESTED else None
    wishes = Wishes(two_wire=seal is None, rests_s=60.0)
    past = series(permitted(wishes), make(begins)) if seal is None else None
    logic = past or drawn_to("full-voltage", Wishes()).device("M").logic
    assert set(broken_by(with_logic(circuit, "M", logic))) == {"rests"}


def test_a_contact_of_its_timer_that_stays_closed_is_seen_when_it_is_tried():
    found = {one.what: one for one in swept(RESTED)}
    stuck = found["contact TA (breaks) in M stays closed"]
    assert stuck.ends is Class.NOTICED
    assert "too soon" in stuck.seen


@pytest.mark.parametrize(
    "wishes", [{"reverses": True}, {"jog": True}, {"speeds": "constant"}, {"braking": "dc"}, {"ride_s": 2.0}]
)
def test_where_it_is_not_drawn_that_is_said(wishes):
    asked = Wishes(rests_s=60.0, **wishes)
    assert "A rest after a stop" in [one.name for one in left_out(asked, drawn_to("full-voltage", asked))]
    plain = Wishes(rests_s=60.0)
    assert left_out(plain, drawn_to("full-voltage", plain)) == ()


@pytest.mark.parametrize("name", [name for name in SHIPPED if "purges_s" in name])
def test_a_purge_stands_wherever_the_overload_does(name):
    for device in SHIPPED[name].devices:
        read = [contact.of for contact in contacts_of(device.logic)]
        assert read.count(PURGED) == read.count("OL"), device.tag


@pytest.mark.parametrize(("waits_s", "runs"), [(25, False), (35, True)])
def test_it_starts_once_it_is_purged_and_stops_when_that_fails(waits_s, runs):
    purged = drawn_to("full-voltage", Wishes(purges_s=30.0))
    text = f"PRG+ w{waits_s} START+ w0.2 START- w1"
    assert _in(purged, text) is runs
    assert not _in(purged, f"{text} PRG- w0.2")
    assert not _in(purged, f"{text} PRG- w0.2 PRG+ w60")


def test_a_rest_leaves_the_starts_that_are_asked_and_the_time_at_work():
    plan = planner(LOCK, "P-11")
    asked = {"start.starts_per_hour": "6"}

    def verdict(**facts):
        return plan({**asked, **{key.replace("__", "."): value for key, value in facts.items()}}).gate("starter.rests")

    assert verdict(starter__rests="590 s").verdict == "passes"
    assert verdict(starter__rests="600 s").verdict == "fails"
    assert verdict(starter__rests="290 s", load__stretch="5 min").verdict == "passes"
    tight = verdict(starter__rests="310 s", load__stretch="5 min")
    assert tight.verdict == "fails"
    assert "At most 300 s" in tight.remedy
    assert not [gate for gate in plan(asked).gates if gate.key == "starter.rests"]
    assert plan({**asked, "starter.rests": "5 min"}).gate("starter.proof").verdict == "passes"
    assert "rests after a stop" in [one.name for one in plan({"starter.rests": "5 min"}).of(STARTER).circuit.devices]


PRESSURIZED = "Ex pxb IIB T4 Gb"


@pytest.mark.parametrize(("facts", "kind"), [
    ({}, Kind.ENGINEERING), ({"starter.purges": "120 s"}, Kind.CONFIRM), ({"starter.follows": "yes"}, Kind.CONFIRM),
    ({"plate.ex_marking": "Ex db IIB T4 Gb"}, None), ({"plate.ex_marking": "Ex pxb IIIB T120 °C Db"}, None),
    ({"place.motor": "area_1"}, None),
])  # fmt: skip
def test_what_is_kept_under_pressure_in_a_gas_is_purged_before_it_starts(facts, kind):
    """Of dust it is cleaned by hand and not purged; where nothing may ignite nothing is asked."""
    plan = planner(SOUND, "K-5")({"plate.ex_marking": PRESSURIZED, **facts})
    assert next((gate.kind for gate in plan.gates if gate.key == "starter.purge"), None) is kind


@pytest.mark.parametrize("said", [None, "120 s"])
def test_it_is_asked_under_the_other_rules_by_what_is_listed(said):
    zone = {"area_2.status": "zone", "area_2.zone": "1", "area_2.group": "IIB"}
    plate = {"plate.listing": "CL I ZONE 1 AEx pxb IIB T4", "starter.purges": said}
    gate = planner(LOCK, "M-41")(zone | plate).gate("starter.purge")
    assert gate.kind is (Kind.CONFIRM if said else Kind.ENGINEERING)
    assert not gate.verdict.usable


def test_what_only_follows_waits_for_no_timer_of_its_own():
    """A step that nothing runs in is none to try; a purge and a rest have theirs."""
    steps = [words for words, _ in tried(drawn_to("full-voltage", Wishes(follows=True)))]
    assert steps[:2] == ["SEQ closed", "START pressed"]
    assert steps[-1] == "SEQ back"
    purged = [words for words, _ in tried(drawn_to("full-voltage", Wishes(purges_s=30.0)))]
    assert purged[:3] == ["PRG closed", "timers run out: TPg 30 s", "START pressed"]
