"""Starters proved by walking their states: what holds in all of them, what is found in a wrong one, single faults."""

from dataclasses import replace

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from tests.conftest import planner
from tests.core.starters import CLOSED, KORNDORFER, OPEN, PLAIN, SHIPPED, TURNED, broken_by, early, with_logic
from tests.examples import examples
from vinegate.core.grade import Verdict
from vinegate.core.starter.circuits import BY_WAY, drawn_to, with_brake
from vinegate.core.starter.faults import Class, swept, tried
from vinegate.core.starter.logic import Kind, broken, contacts_of, either, make, series
from vinegate.core.starter.machine import Moving, State, shorted
from vinegate.core.starter.netlist import netlist_of
from vinegate.core.starter.proof import _walked, proved
from vinegate.core.starter.run import acts_from, ran
from vinegate.core.starter.timing import races_of
from vinegate.core.starter.trunk import without
from vinegate.core.starter.wishes import Wishes, left_out

# Of line amperes while it runs, by Kirchhoff: windings in delta carry 1/√3 of the line, the star point in wye a third
# of what the delta would draw, each half winding half.
SHARES = {
    "wye-delta": {"S": 1 / 3, "1M": 3**-0.5, "2M": 3**-0.5},
    "wye-delta closed": {"S": 1 / 3, "1M": 3**-0.5, "A": 3**-0.5, "2M": 3**-0.5},
    "part-winding": {"1M": 0.5, "2M": 0.5},
    "full-voltage": {"M": 1.0},
}


@pytest.mark.parametrize("name", SHARES)
def test_each_contactor_carries_its_share_of_the_line(name):
    drawn = {one.tag: one.share for one in SHIPPED[name].devices if one.tag in SHARES[name]}
    assert drawn == pytest.approx(SHARES[name])


@pytest.mark.parametrize("name", SHIPPED)
def test_each_shipped_circuit_is_proved(name):
    proof = proved(SHIPPED[name])
    assert proof.whole
    assert broken_by(SHIPPED[name]) == {}
    assert proof.states > 10


MAYBE = st.booleans()
MIXTURES = st.builds(
    Wishes, two_wire=MAYBE, reverses=MAYBE, hands=MAYBE, emergency=MAYBE, limits=MAYBE, antiplug=MAYBE, follows=MAYBE,
    stands_by=MAYBE, heater=MAYBE, bypass=MAYBE, closed=MAYBE, jog=MAYBE, two_poles=MAYBE, sensors=MAYBE, watches_phases=MAYBE,
    single=MAYBE, compelling=MAYBE, lamps=st.sampled_from(["", "red"]), stations=st.sampled_from([1, 3]),
    restart_s=st.sampled_from([0.0, 5.0]), changes_by=st.sampled_from(["", "operator", "speed"]),
    braking=st.sampled_from(["", "dc", "plugging", "brake", "armature"]), softly_s=st.sampled_from([0.0, 6.0]),
    runs_on_s=st.sampled_from([0.0, 4.0]), rests_s=st.sampled_from([0.0, 60.0]), purges_s=st.sampled_from([0.0, 0.0, 30.0]), ride_s=st.sampled_from([0.0, 2.0]), steps_s=st.sampled_from([(3.0,), (1.0, 0.5)]),
    speeds=st.sampled_from(["", "", "constant", "power", "separate"]),
)  # fmt: skip


@pytest.mark.slow
@examples(40)
@given(way=st.sampled_from(list(BY_WAY)), wishes=MIXTURES)
@example(way="wye-delta", wishes=Wishes(hands=True, changes_by="operator"))  # its button stood there and did nothing
@example(way="autotransformer", wishes=Wishes(two_wire=True))
@example(way="full-voltage", wishes=Wishes(two_wire=True, speeds="constant", compelling=True))
def test_any_mixture_of_wishes_is_proved_and_its_faults_are_looked_at(way, wishes):
    """Two-wire reversing once named a button that was not there; a held contact once did not stop a Korndörfer."""
    circuit = drawn_to(way, wishes)
    known = {one.tag for one in (*circuit.inputs, *circuit.devices)}
    used = {contact.of for device in circuit.devices for contact in contacts_of(device.logic)}
    assert used <= known
    assert {one.tag for one in circuit.inputs} <= used
    assert broken_by(circuit) == {}
    assert broken_by(with_brake(circuit)) == {}
    assert proved(circuit).whole
    assert swept(circuit)


@pytest.mark.slow
@pytest.mark.parametrize("name", SHIPPED)
def test_three_hundred_runs_with_random_travel_reach_the_end_and_no_short(name):
    circuit = SHIPPED[name]
    begins = next(one.tag for one in circuit.inputs if one.starts)
    held = circuit.restarts
    setup = "".join(f"{tag}+ " for tag in circuit.setup) + ("w33 " if "purges" in name else "")
    started = f"{setup}{begins}+ {'' if held else f'{begins}- '}{'w11' if 'waits' in name else 'w5'}"
    kinds = {one.tag: one.kind for one in circuit.inputs}
    for tag in circuit.then:
        started += f" {tag}+ {f'{tag}- ' if kinds[tag] is Kind.BUTTON else ''}w1"
    for seed in range(300):
        run = ran(circuit, acts_from(started), seed)
        assert set(circuit.wanted) <= Moving(circuit).poles_in(run.state), seed
        assert not run.shorted
        if not held and not circuit.rides and seed < 60:
            gap = ran(circuit, acts_from(f"{started} power- power+ w1"), seed)
            assert not Moving(circuit).poles_in(gap.state) & set(circuit.feeds), seed


# What is wrong, the circuit, the requirement that tells it.
WRONG = [
    ("stop in parallel with another", with_logic(PLAIN, "M", series(broken("OL"), either(broken("STOP"), make("M")),
     either(make("START"), make("M")))), "stops"),
    ("stop that closes when pressed", with_logic(PLAIN, "M", series(broken("OL"), make("STOP"),
     either(make("START"), make("M")))), "reaches"),
    ("start around the overload", with_logic(PLAIN, "M", either(series(broken("OL"), broken("STOP"), make("M")),
     make("START"))), "stops"),
    ("no stop", without(PLAIN, ("STOP in M",)), "stops"),
    ("overload in the wrong contactor", without(OPEN, ("OL in 1M",)), "stops"),
    ("button interlock alone", without(TURNED, ("R in F", "F in R")), "short"),
    ("one interlock missing", without(TURNED, ("R in F",)), "short"),
    ("seal of another contactor", with_logic(PLAIN, "M", series(broken("OL"), broken("STOP"), make("START"))), "reaches"),
    ("early break in a closed transition", replace(CLOSED, devices=tuple(
        replace(one, logic=early(one.logic)) for one in CLOSED.devices)), "reaches"),
    ("early break at the transfer", replace(KORNDORFER, devices=tuple(
        replace(one, logic=early(one.logic)) for one in KORNDORFER.devices)), "reaches"),
    ("reverse behind its own break contact", with_logic(TURNED, "R", series(broken("OL"), broken("STOP"), broken("F"),
     broken("R"), either(make("REV"), make("R")))), "reaches"),
    ("reverse that is never let in", with_logic(TURNED, "R", series(broken("OL"), broken("STOP"), make("F"),
     either(make("REV"), make("R")))), "reaches"),
    ("a jog by its own break contact", with_logic(SHIPPED["full-voltage jog"], "M", series(broken("OL"), broken("STOP"),
     either(make("CR"), make("JOG"), series(make("M"), broken("JOG"))))), "jog"),
    ("hand around the overload", with_logic(SHIPPED["full-voltage hand-off-auto"], "M", either(
        series(broken("STOP"), make("HAND"), either(make("START"), make("M"))),
        series(broken("OL"), broken("STOP"), broken("HAND"), make("AUTO"), make("PERMIT")))), "stops"),
    ("seal around the stop", with_logic(PLAIN, "M", series(broken("OL"), either(
        series(broken("STOP"), make("START")), make("M")))), "stops"),
    ("high speed's star beside low", without(SHIPPED["full-voltage constant torque"], ("LO in HS", "HS in LO")), "apart"),
    ("both windings at once", without(SHIPPED["full-voltage two windings"], ("LO in HI", "HI in LO")), "apart"),
    ("star of the winding closed as it runs", without(KORNDORFER, ("1S in R", "R in 1S")), "turns"),
    ("running on around the overload", with_logic(SHIPPED["full-voltage runs on"], "M", either(
        series(broken("OL"), broken("E-STOP"), make("CR")), series(make("TS"), make("M")))), "stops"),
    ("running on past its timer", with_logic(SHIPPED["full-voltage runs on"], "M", series(broken("OL"), broken("E-STOP"),
     either(make("CR"), make("M")))), "stops"),
    ("no limit in its direction", without(SHIPPED["full-voltage limits"], ("LSf in F",)), "limits"),
    ("by-pass beside the drive", without(SHIPPED["drive by-pass"], ("K3 in K2", "K2 in K3", "K2 in TF")), "apart"),
    ("a seal around its held contact", with_logic(SHIPPED["autotransformer two-wire"], "R", series(broken("OL"), either(
        series(make("TR"), make("2S")), make("R")), broken("1S"))), "held"),
    ("off that does not open it", with_logic(SHIPPED["full-voltage hand-off-auto"], "M", series(broken("OL"),
     broken("STOP"), either(series(make("HAND"), make("START")), make("M"),
                            series(broken("HAND"), make("AUTO"), make("PERMIT"))))), "held"),
    ("plugged, and deaf to what it follows", without(drawn_to("full-voltage", Wishes(braking="plugging", follows=True)),
     ("SEQ in F",)), "held"),
    ("stands by, and runs beside the duty", without(SHIPPED["full-voltage stands by"], ("DTY in M",)), "stops"),
    ("a soft stop that an overload does not end", with_logic(SHIPPED["soft-starter soft stop"], "K", either(
        series(broken("OL"), broken("E-STOP"), make("CR")), series(make("TS"), make("K")))), "stops"),
    ("a jog both ways that seals", with_logic(SHIPPED["full-voltage reversing jog"], "F", series(broken("OL"),
     broken("STOP"), broken("R"), either(make("CRf"), make("JOGf"), make("F")))), "jog"),
    ("timer fed from the delta", with_logic(OPEN, "TR", make("2M")), "reaches"),
]  # fmt: skip


@pytest.mark.parametrize(("what", "circuit", "key"), WRONG, ids=[what for what, _, _ in WRONG])
def test_each_wrong_circuit_is_found_for_its_reason(what, circuit, key):
    found = broken_by(circuit)
    assert key in found, found
    assert found[key]


def test_a_missing_interlock_that_only_a_fault_needs_is_found_by_the_faults():
    """Without S in 2M and 2M in S the logic still holds; one welded pole then shorts the line."""
    bare = without(OPEN, ("S in 2M", "2M in S"))
    assert broken_by(bare) == {}
    welded = {fault.what: fault for fault in swept(bare) if "welded" in fault.what}
    assert welded["poles of S welded"].ends is Class.DANGEROUS
    assert "short" in welded["poles of S welded"].seen
    kept = {fault.what: fault for fault in swept(OPEN) if "welded" in fault.what}
    assert kept["poles of S welded"].ends is Class.NOTICED
    assert "2M stays out" in kept["poles of S welded"].seen


@pytest.mark.parametrize(("way", "hangs"), [("wye-delta", "1M"), ("part-winding", "2M"), ("soft-starter", "BP")])
def test_neither_direction_comes_in_onto_what_hangs_in_behind_it(way, hangs):
    """One pole welded behind the two directions: the next start is refused, and seen."""
    welded = {fault.what: fault for fault in swept(SHIPPED[f"{way} reversing"])}[f"poles of {hangs} welded"]
    assert welded.ends is Class.NOTICED
    assert "F" in welded.seen.split(" stays out")[0]


def test_a_soft_stop_is_not_said_to_be_drawn_where_a_direction_cuts_its_line():
    wishes = Wishes(softly_s=6.0, reverses=True)
    assert any(one.name == "A soft stop" for one in left_out(wishes, drawn_to("soft-starter", wishes)))
    assert not left_out(Wishes(softly_s=6.0), drawn_to("soft-starter", Wishes(softly_s=6.0)))


@pytest.mark.parametrize("two_wire", [True, False])
def test_high_only_through_low_is_for_buttons(two_wire):
    """A selector that stands on high from rest was never let through: with held contacts it is left out, and said so."""
    wishes = Wishes(speeds="separate", compelling=True, two_wire=two_wire)
    circuit = drawn_to("full-voltage", wishes)
    assert any(one.name == "Only through low" for one in left_out(wishes, circuit)) is two_wire
    assert any(one.tag == "CRc" for one in circuit.devices) is not two_wire
    assert circuit.then == (() if two_wire else ("HIGH",))


def test_an_outage_is_not_ridden_by_what_follows_another():
    """An outage and a stop of the other look alike to it."""
    for follows in (False, True):
        wishes = Wishes(ride_s=2.0, follows=follows)
        named = [one for one in left_out(wishes, drawn_to("full-voltage", wishes)) if "ride" in one.name]
        assert bool(named) is follows


def test_a_brake_of_direct_current_and_what_it_brakes_are_a_race_both_ways():
    """Into the brake a timer waits; out of it a start that is held in follows at once."""
    margins = {(one.first, one.second): one.margin_ms for one in races_of(SHIPPED["full-voltage dc"])}
    assert margins["M", "DB"] > 400
    assert margins["DB", "M"] < 20
    assert ("2M", "S") not in {(one.first, one.second) for one in races_of(OPEN)}


def test_what_is_to_be_tried_says_what_is_then_in():
    steps = dict(tried(OPEN))
    assert steps["START pressed"] == {"S", "1M"}
    assert {"1M", "2M"} <= steps["timers run out: TR 3 s, TRp 0.05 s"]
    assert steps["OL worked"] == frozenset()


def test_steps_of_a_failure_can_be_followed():
    """The way that is named really leads there."""
    circuit = without(TURNED, ("R in F", "F in R"))
    moving = Moving(circuit)
    state = moving.settle(moving.rest())
    for step in broken_by(circuit)["short"]:
        word, _, tag = step.rpartition(" ")
        if word in ("press", "let go"):
            place = moving.inputs.index(tag)
            pressed = (*state.pressed[:place], word == "press", *state.pressed[place + 1 :])
            state = moving.settle(State(state.coils, pressed))
    assert shorted(circuit, moving.poles_in(state))


class TestStations:
    def test_six_stations_are_proved_as_one_whichever_the_circuit(self):
        for wishes in ({}, {"reverses": True, "braking": "plugging"}, {"braking": "dc", "emergency": True}):
            one, six = (BY_WAY["full-voltage"](Wishes(**wishes, stations=number)) for number in (1, 6))
            assert proved(six).states == proved(one).states
            assert len(swept(six)) > len(swept(one))

    def test_a_third_station_whose_stop_is_bridged_is_not_taken_for_the_first(self):
        three = BY_WAY["full-voltage"](Wishes(stations=3))
        assert "stops" in broken_by(without(three, ("STOP3 in M",)))
        assert "press STOP3" in broken_by(without(three, ("STOP3 in M",)))["stops"]

    def test_one_that_is_too_large_to_walk_is_not_passed(self, monkeypatch):
        monkeypatch.setattr("vinegate.core.starter.proof._MOST", 20)
        _walked.cache_clear()
        try:
            plan = planner("harrowmere-lock.json", "G-21")({"starter.stations": "2"})  # not kept from another test
            assert plan.gate("starter.proof").verdict is Verdict.UNKNOWN
        finally:
            _walked.cache_clear()


class TestFaults:
    def test_a_welded_main_pole_leaves_only_the_disconnect(self):
        fault = next(one for one in swept(PLAIN) if one.what == "poles of M welded")
        assert fault.ends is Class.DANGEROUS
        assert "disconnect" in fault.seen

    def test_a_dead_coil_is_seen(self):
        assert all(one.ends is Class.NOTICED for one in swept(OPEN) if "dead" in one.what)

    def test_a_seal_that_fails_drops_out_when_start_is_let_go(self):
        fault = next(one for one in swept(PLAIN) if one.what == "contact M in M stays open")
        assert fault.ends is Class.NOTICED
        assert "let go" in fault.seen

    def test_the_other_way_round_is_tried_as_well(self):
        """One stop and one overload for both directions; a command of the hand that only auto needs."""
        faults = {one.what: one for one in swept(TURNED)}
        assert "STOP does not stop it" in faults["contact STOP (breaks) in F, R stays closed"].seen
        assert "OL does not stop it" in faults["contact OL (breaks) in F, R stays closed"].seen
        assert faults["coil R dead"].ends is Class.NOTICED
        handed = {one.what: one for one in swept(SHIPPED["full-voltage hand-off-auto"])}
        assert handed["contact PERMIT in M stays open"].ends is Class.NOTICED
        assert handed["contact PERMIT in M stays closed"].ends is Class.DANGEROUS

    @pytest.mark.parametrize("name", SHIPPED)
    def test_every_contact_coil_and_pole_is_failed_once(self, name):
        circuit = SHIPPED[name]
        drawn = [one for one in netlist_of(circuit).elements if one.rung and one.what.endswith("contact")]
        contacts = len({(one.rung, one.of, one.what) for one in drawn})
        contactors = sum(one.coil.value == "contactor" for one in circuit.devices)
        assert len(swept(circuit)) == 2 * contacts + len(circuit.devices) + contactors + 1  # and low volts
