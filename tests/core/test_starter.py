"""The control circuits: proved as they ship, found out where they are wrong, run in time, and read back from the netlist."""

import random
from dataclasses import replace
from itertools import product
from typing import ClassVar

import numpy as np
import pytest

from tests.conftest import planner
from tests.examples import nightly
from vinegate.core.grade import Verdict
from vinegate.core.starter.circuits import BY_WAY, drawn_to, with_brake
from vinegate.core.starter.facts import read_cuts
from vinegate.core.starter.faults import Class, cases_of, swept, tried
from vinegate.core.starter.hung import Hangs, Hung, hung_of
from vinegate.core.starter.logic import Contact, Device, Kind, Series, broken, contacts_of, either, make, series
from vinegate.core.starter.machine import Moving, State, shorted
from vinegate.core.starter.meter import Meter, Reading, hidden
from vinegate.core.starter.motor import Relay
from vinegate.core.starter.netlist import netlist_of, parts_of
from vinegate.core.starter.proof import _walked, proved
from vinegate.core.starter.run import acts_from, ran
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.timing import races_of
from vinegate.core.starter.trunk import without
from vinegate.core.starter.turning_run import ran_turning
from vinegate.core.starter.wishes import Wishes

_ALL = {
    f"{way}{' ' if words else ''}{words}": drawn_to(way, Wishes(**wishes))
    for way in BY_WAY
    for words, wishes in (
        ("", {}), ("two-wire", {"two_wire": True}), ("emergency", {"emergency": True}), ("closed", {"closed": True}),
        ("reversing", {"reverses": True}), ("three stations", {"stations": 3}), ("jog", {"jog": True}),
        ("hand-off-auto", {"hands": True}), ("dc", {"braking": "dc"}), ("plugging", {"braking": "plugging"}),
        ("two-wire reversing", {"two_wire": True, "reverses": True}), ("single", {"single": True}),
        ("reversing plugging", {"reverses": True, "braking": "plugging"}),
        ("follows", {"follows": True}), ("lamps and heater", {"lamps": "green", "heater": True}),
        ("waits", {"two_wire": True, "restart_s": 5.0}), ("waits in auto", {"hands": True, "restart_s": 5.0}),
        ("behind", {"behind": True}), ("by operator", {"changes_by": "operator"}), ("by speed", {"changes_by": "speed"}),
        ("by speed dc", {"changes_by": "speed", "braking": "dc"}), ("by-pass", {"bypass": True}),
        ("ride", {"ride_s": 2.0, "emergency": True}),
        ("two windings", {"speeds": "separate", "emergency": True}), ("constant torque", {"speeds": "constant"}),
        ("variable torque", {"speeds": "variable", "five_poles": True}), ("constant power", {"speeds": "power"}),
        ("through low", {"speeds": "constant", "compelling": True, "low_after_s": 2.0}),
        ("two-wire speeds", {"speeds": "separate", "two_wire": True}), ("two poles", {"two_poles": True}), ("runs on", {"runs_on_s": 4.0, "emergency": True}),
        ("limits", {"reverses": True, "limits": True}), ("anti-plugging", {"reverses": True, "antiplug": True}),
        ("two-wire limits", {"reverses": True, "limits": True, "two_wire": True}),
    )
}  # fmt: skip
SHIPPED = {name: circuit for name, circuit in _ALL.items() if next(n for n, c in _ALL.items() if c == circuit) == name}
OPEN, CLOSED = SHIPPED["wye-delta"], SHIPPED["wye-delta closed"]
KORNDORFER, PLAIN, TURNED = SHIPPED["autotransformer"], SHIPPED["full-voltage"], SHIPPED["full-voltage reversing"]


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


def broken_by(circuit):
    return {one.key: one.breaks for one in proved(circuit).shown if not one.holds}


def early(logic):
    """The same with ordinary break contacts in place of late ones."""
    if isinstance(logic, Contact):
        return Contact(logic.of, logic.breaks)
    return type(logic)(tuple(early(part) for part in logic.parts))


def with_logic(circuit, tag, logic):
    devices = tuple(replace(one, logic=logic) if one.tag == tag else one for one in circuit.devices)
    return replace(circuit, devices=devices)


@pytest.mark.parametrize("name", SHIPPED)
def test_each_shipped_circuit_is_proved(name):
    proof = proved(SHIPPED[name])
    assert proof.whole
    assert broken_by(SHIPPED[name]) == {}
    assert proof.states > 10


def some_of(found):
    """Every fifth of them, or all in the nightly mode."""
    return list(found.items())[:: 1 if nightly() else 5]


@pytest.mark.slow
def test_every_mixture_of_wishes_is_proved_and_its_faults_are_looked_at():
    """Two-wire reversing once named a button that was not there: all mixtures, not the usual ones."""
    names = ("two_wire", "emergency", "reverses", "closed", "jog", "hands", "single")
    found = {}
    for way, make_it in BY_WAY.items():
        for said in product((False, True), repeat=len(names)):
            for braking in ("", "dc", "plugging"):
                wishes = Wishes(**dict(zip(names, said, strict=True)), braking=braking)
                found.setdefault(make_it(wishes), (way, wishes))
    assert len(found) > 50
    for circuit, (way, wishes) in some_of(found):
        assert broken_by(circuit) == {}, (way, wishes)
        assert broken_by(with_brake(circuit)) == {}, (way, wishes)
        assert swept(circuit), (way, wishes)


@pytest.mark.slow
def test_every_mixture_of_what_may_be_added_is_proved():
    names = ("two_wire", "reverses", "hands", "emergency", "limits", "antiplug", "follows", "heater", "bypass")
    found = {}
    for way in BY_WAY:
        for said in product((False, True), repeat=len(names)):
            for restart_s, changes_by, braking in ((0.0, "", ""), (5.0, "speed", ""), (0.0, "operator", "dc")):
                wishes = Wishes(**dict(zip(names, said, strict=True)), restart_s=restart_s, changes_by=changes_by,
                                braking=braking, lamps="red")  # fmt: skip
                found.setdefault(drawn_to(way, wishes), (way, wishes))
    assert len(found) > 200
    for circuit, (way, wishes) in some_of(found):
        assert broken_by(circuit) == {}, (way, wishes)
        assert swept(circuit), (way, wishes)


@pytest.mark.parametrize("name", SHIPPED)
def test_three_hundred_runs_with_random_travel_reach_the_end_and_no_short(name):
    circuit = SHIPPED[name]
    begins = next(one.tag for one in circuit.inputs if one.starts)
    held = circuit.restarts
    setup = "".join(f"{tag}+ " for tag in circuit.setup)
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


def test_what_is_to_be_tried_says_what_is_then_in():
    steps = dict(tried(OPEN))
    assert steps["START pressed"] == {"S", "1M"}
    assert {"1M", "2M"} <= steps["timers run out"]
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


class TestRun:
    def test_what_runs_on_ends_by_its_timer_and_at_once_by_a_guard(self):
        runs = SHIPPED["full-voltage runs on"]
        started = "START+ START- w1 "
        assert ran(runs, acts_from(started + "STOP+ STOP- w3")).connection == "on the line"
        assert ran(runs, acts_from(started + "STOP+ STOP- w5")).connection == "off"
        for guard in ("OL", "E-STOP"):
            assert ran(runs, acts_from(started + f"STOP+ STOP- w1 {guard}+ {guard}- w0.5")).connection == "off"
        assert ran(runs, acts_from(started + "STOP+ STOP- w1 power- power+ w0.5")).connection == "off"

    @pytest.mark.parametrize("name", [n for n in SHIPPED if n.endswith(("windings", "torque", "power", "low"))])
    def test_low_then_high_then_low_by_the_poles_that_close(self, name):
        there = "LOW+ LOW- w1 HIGH+ HIGH- w1"
        words = [hung.words for _, hung in ran(SHIPPED[name], acts_from(f"{there} LOW+ LOW- w4")).hangs]
        assert words == ["off", "at low speed", "off", "at high speed", "off", "at low speed"]
        assert ran(SHIPPED[name], acts_from(f"{there} STOP+")).connection == "off"

    def test_a_soft_starter_of_two_phases_leaves_one_lead_live(self):
        """Fed by it, not on some of its phases; isolated only with K out."""
        circuit = SHIPPED["soft-starter two poles"]
        assert len(dict(circuit.poles)["BP"]) == 2
        run = ran(circuit, acts_from("START+ START- w1"))
        assert run.connection == "fed by its soft starter"
        assert ran(circuit, acts_from("START+ START- w9")).connection == "on the line"
        assert ran(circuit, acts_from("START+ START- w9 STOP+ w1")).connection == "off"

    def test_high_answers_only_once_it_has_run_low(self):
        through = SHIPPED["full-voltage through low"]
        assert ran(through, acts_from("HIGH+ HIGH- w3")).connection == "off"
        again = "LOW+ LOW- w1 HIGH+ HIGH- w1 STOP+ STOP- HIGH+ HIGH- w3"
        assert ran(through, acts_from(again)).connection == "off"

    def test_it_slows_before_low_as_long_as_asked(self):
        hangs = ran(SHIPPED["full-voltage through low"], acts_from("LOW+ LOW- w1 HIGH+ HIGH- w1 LOW+ LOW- w4"), 3).hangs
        off, low = (at for at, hung in hangs[-2:])
        assert 1.8 < low - off < 2.4

    def test_a_high_speed_whose_star_is_open_is_no_speed(self):
        circuit = SHIPPED["full-voltage constant torque"]
        assert hung_of(circuit, frozenset({"HI"})).how is Hangs.OFF
        assert hung_of(circuit, frozenset({"HI", "HS"})).how is Hangs.WHOLE
        assert hung_of(circuit, frozenset({"LO", "HS"})).how is Hangs.SHORT

    def test_it_rides_a_short_outage_and_no_stop(self):
        riding = SHIPPED["full-voltage ride"]
        started = "START+ START- w1 "
        assert ran(riding, acts_from(started + "power- w1 power+ w1")).connection == "on the line"
        assert ran(riding, acts_from(started + "power- w3 power+ w1")).connection == "off"
        assert ran(riding, acts_from(started + "STOP+ STOP- w1")).connection == "off"
        assert ran(riding, acts_from(started + "E-STOP+ E-STOP- w1")).connection == "off"
        assert ran(riding, acts_from(started + "power- w1 STOP+ power+ STOP- w1")).connection == "off"
        timer_alone = with_logic(riding, "M", series(broken("OL"), broken("E-STOP"), broken("STOP"),
                                                     either(make("START"), make("M"), make("TRu"))))  # fmt: skip
        assert broken_by(timer_alone)

    def test_at_low_volts_nothing_pulls_in_and_what_is_in_holds(self):
        fault = next(one for one in cases_of(PLAIN) if one.weak)
        assert ran(PLAIN, acts_from("START+ START- w1"), fault=fault).connection == "off"
        moving = fault.moving(PLAIN)
        held = moving.settle(State((3,), (False,) * len(moving.inputs)))
        assert held.coils == (3,)

    def test_the_delta_turns_the_same_way_whichever_way_it_closes(self):
        for name in ("wye-delta", "wye-delta behind"):
            assert ran(SHIPPED[name], acts_from("START+ START- w5")).connection == "in delta"

    def test_a_timer_begins_anew_after_a_stop(self):
        """Started again before the first star time would have ended: the new one is whole."""
        again = ran(OPEN, acts_from("START+ START- w1 STOP+ STOP- START+ START- w1.5"), 3)
        assert again.connection == "in wye"
        assert ran(OPEN, acts_from("START+ START- w1 STOP+ STOP- START+ START- w4"), 3).connection == "in delta"

    def test_a_drive_feeds_it_only_while_it_is_told_to(self):
        for name in ("drive", "drive by-pass"):
            assert ran(SHIPPED[name], acts_from("w1")).connection == "off"  # its contactor is in already
            assert ran(SHIPPED[name], acts_from("START+ START- w2")).connection == "fed by its drive"
            assert ran(SHIPPED[name], acts_from("START+ START- w2 STOP+ w2")).connection == "off"

    def test_the_drives_contactor_opens_after_it_is_blocked(self):
        passed = SHIPPED["drive by-pass"]
        run = ran(passed, acts_from("START+ START- w2 STOP+ w2"), 5)
        first = {(one.tag, one.position): one.at_ms for one in reversed(run.events)}
        last = {(one.tag, one.position): one.at_ms for one in run.events}
        assert first["RUN", 2] > first["K2", 2]
        assert last["K2", 1] - last["RUN", 1] > 400
        over = ran(passed, acts_from("START+ START- w2 BYP+ w4"), 5)
        last = {(one.tag, one.position): one.at_ms for one in over.events}
        assert last["K3", 2] - last["K2", 1] > 1000 * 0.9 * 2.0
        assert over.connection == "on the line"

    def test_wye_then_delta_by_the_poles_that_close(self):
        assert ran(OPEN, acts_from("START+")).connection == "in wye"
        assert ran(OPEN, acts_from("START+ START- w5")).connection == "in delta"
        assert ran(OPEN, acts_from("START+ START- w5 STOP+")).connection == "off"

    def test_the_star_lets_go_before_the_delta_closes_by_the_pause(self):
        events = ran(OPEN, acts_from("START+ START- w5"), seed=7).events
        out = next(one.at_ms for one in events if (one.tag, one.position) == ("S", 1) and one.at_ms > 1000)
        into = next(one.at_ms for one in events if (one.tag, one.position) == ("2M", 2))
        assert into - out > 50

    def test_backwards_by_a_swapped_pair(self):
        assert ran(TURNED, acts_from("FWD+ FWD-")).connection == "on the line"
        assert ran(TURNED, acts_from("REV+ REV-")).connection == "on the line, backwards"
        assert hung_of(TURNED, frozenset({"F", "R"})).how is Hangs.SHORT

    def test_two_wires_start_by_themselves_and_three_do_not(self):
        two = ran(SHIPPED["full-voltage two-wire"], acts_from("AUTO+ power- power+"))
        assert two.connection == "on the line"
        assert ran(PLAIN, acts_from("START+ START- power- power+")).connection == "off"

    def test_the_same_seed_is_the_same_run(self):
        one, other = (ran(CLOSED, acts_from("START+ START- w5"), seed=3) for _ in range(2))
        assert one.events == other.events
        assert one.events != ran(CLOSED, acts_from("START+ START- w5"), seed=4).events

    def test_what_says_nothing_is_passed_over(self):
        assert acts_from("; <b> w w-1 wx") == acts_from("w-")[:0] or all(one.tag for one in acts_from("w-"))
        assert ran(PLAIN, acts_from("NOTHING+ power+")).connection == "off"

    @pytest.mark.parametrize(
        ("circuit", "closed", "how"),
        [
            (OPEN, {"1M", "S"}, Hangs.FIRST), (OPEN, {"1M"}, Hangs.OFF), (OPEN, {"1M", "2M"}, Hangs.WHOLE),
            (OPEN, {"S", "2M"}, Hangs.OFF), (OPEN, {"1M", "S", "2M"}, Hangs.SHORT), (KORNDORFER, {"2S"}, Hangs.FIRST),
            (KORNDORFER, {"R"}, Hangs.WHOLE), (SHIPPED["part-winding"], {"1M"}, Hangs.FIRST),
            (SHIPPED["part-winding"], {"1M", "2M"}, Hangs.WHOLE), (SHIPPED["full-voltage single"], {"M"}, Hangs.WHOLE),
            (CLOSED, {"1M", "A"}, Hangs.FIRST),
        ],
    )  # fmt: skip
    def test_what_the_motor_hangs_in_is_read_from_the_poles(self, circuit, closed, how):
        assert hung_of(circuit, frozenset(closed)).how is how


class TestMotor:
    def test_plugged_to_rest_by_its_own_speed_and_not_backwards(self):
        """R-31: stopped at speed, the other contactor brakes it; its switch opens at 5 % and it stands."""
        plan = planner("harrowmere-lock.json", "R-31")()
        drawn = plan.of(STARTER)
        run = ran_turning(drawn.circuit, acts_from("FWD+ FWD- w3 STOP+ STOP- w3"), drawn.shaft, 1)
        turned = drawn.shaft.turned(run.hangs, run.until_ms / 1000)
        assert turned.speed_rpm.max() > 1700
        assert abs(turned.speed_rpm[-1]) < 20
        assert turned.speed_rpm.min() > -0.06 * 1800
        assert run.connection == "off"
        assert "on the line, backwards" in [hung.words for _, hung in run.hangs]

    def test_the_star_ends_when_its_switch_says_so(self):
        """H-1: the delta closes once nine tenths of synchronous speed are there, whatever the timer."""
        plan = planner("skerry-sound.json", "H-1")({"limits.tags": "ics19", "starter.changes_by": "speed"})
        drawn = plan.of(STARTER)
        run = ran_turning(drawn.circuit, acts_from("START+ START- w8"), drawn.shaft, 1)
        turned = drawn.shaft.turned(run.hangs, run.until_ms / 1000)
        opened = next(one.at_ms / 1000 for one in run.events if one.tag == "CRd" and one.position == 1)
        # Its relay takes up to 20 ms from there.
        assert 0.9 * 1500 <= float(np.interp(opened, turned.time_s, turned.speed_rpm)) < 0.93 * 1500
        assert run.connection == "in delta"

    def test_the_relays_heat_is_the_integral_of_its_current(self):
        """Locked at full volts for a hundredth of its class: in proportion to i², and no more than at a trip by then."""
        plan, shaft = self.shaft("B-42")
        overload = plan.protected.overload
        relay = Relay(line_a=overload.line_a.value, trip=overload.trip)
        turned = shaft.turned([(0.0, Hung(Hangs.WHOLE, ""))], 12.0)
        heat = relay.heat_pct(turned)
        assert heat[0] == 0
        assert 0 < heat.max() < 300
        twice = replace(relay, line_a=2 * relay.line_a).heat_pct(turned)
        assert twice == pytest.approx(heat / 4)

    """The motor on the running circuit against the start's own study: two ways of integrating one machine."""

    @staticmethod
    def shaft(tag, job="harrowmere-lock.json"):
        plan = planner(job, tag)({"limits.tags": "ics19"})
        return plan, plan.of(STARTER).shaft

    @staticmethod
    def reached_s(turned):
        return float(np.interp(0.98 * turned.speed_rpm[-1], turned.speed_rpm, turned.time_s))

    @pytest.mark.parametrize(("tag", "job"), [("B-42", "harrowmere-lock.json"), ("R-31", "harrowmere-lock.json"),
                             ("P-11", "harrowmere-lock.json")])  # fmt: skip
    def test_it_reaches_speed_when_the_study_says(self, tag, job):
        plan, shaft = self.shaft(tag, job)
        row = plan.comparison.row(plan.comparison.chosen)
        how = Hangs.FIRST if row.held_by_limit else Hangs.WHOLE
        turned = shaft.turned([(0.0, Hung(how, ""))], 3 * row.time_s)
        assert self.reached_s(turned) == pytest.approx(row.time_s, rel=0.01)
        assert turned.line_a.max() == pytest.approx(row.peak_a, rel=1e-3)
        assert 100 * (1 - turned.board_pu.min()) > row.dip_pct

    def test_wye_then_delta_by_its_own_timer_is_the_studys_course(self):
        plan, shaft = self.shaft("H-1", "skerry-sound.json")
        row = plan.comparison.row(plan.comparison.chosen)
        run = ran(plan.of(STARTER).circuit, acts_from("START+ START- w4"), 1)
        turned = shaft.turned(run.hangs, run.until_ms / 1000)
        delta = next(at for at, hung in run.hangs if hung.how is Hangs.WHOLE)
        at_change = float(np.interp(delta, turned.time_s, turned.speed_rpm))
        assert at_change > 0.93 * turned.speed_rpm[-1]
        assert self.reached_s(turned) == pytest.approx(row.time_s, abs=0.3)
        assert turned.line_a[0] == 0.0

    def test_a_third_of_the_torque_and_of_the_amperes_in_wye(self):
        _, shaft = self.shaft("H-1", "skerry-sound.json")
        wye, delta = (shaft.turned([(0.0, Hung(how, ""))], 0.02) for how in (Hangs.FIRST, Hangs.WHOLE))
        assert delta.line_a[0] / wye.line_a[0] == pytest.approx(3, rel=0.08)  # less the line's own impedance
        assert delta.line_a[0] / wye.line_a[0] < 3

    def test_backwards_mirrors_forwards_and_plugging_draws_more_than_at_rest(self):
        _, shaft = self.shaft("R-31")
        there = shaft.turned([(0.0, Hung(Hangs.WHOLE, ""))], 2.0)
        back = shaft.turned([(0.0, Hung(Hangs.WHOLE, "", backwards=True))], 2.0)
        assert back.speed_rpm[-1] == pytest.approx(-there.speed_rpm[-1])
        turns = shaft.turned([(0.0, Hung(Hangs.WHOLE, "")), (2.0, Hung(Hangs.WHOLE, "", backwards=True))], 6.0)
        assert turns.speed_rpm[-1] == pytest.approx(back.speed_rpm[-1], rel=1e-3)
        assert there.line_a.max() < turns.line_a.max() < 1.3 * there.line_a.max()

    @pytest.mark.parametrize("how", [Hangs.OFF, Hangs.UNEVEN])
    def test_unfed_it_never_starts_and_slows_to_rest(self, how):
        _, shaft = self.shaft("R-31")
        assert shaft.turned([(0.0, Hung(how, ""))], 9.0).speed_rpm.max() == 0
        slowed = shaft.turned([(0.0, Hung(Hangs.WHOLE, "")), (2.0, Hung(how, ""))], 30.0)
        assert slowed.speed_rpm.max() > 1700
        assert slowed.speed_rpm[-1] == 0
        assert slowed.line_a[-1] == 0

    def test_a_short_trips_it(self):
        _, shaft = self.shaft("R-31")
        met = [(0.0, Hung(Hangs.WHOLE, "")), (1.0, Hung(Hangs.SHORT, "")), (1.1, Hung(Hangs.WHOLE, ""))]
        assert shaft.turned(met, 30.0).line_a[-1] == 0

    def test_a_drive_is_left_to_its_sheet(self):
        assert self.shaft("F-3", "skerry-sound.json")[1].turned([(0.0, Hung(Hangs.FIRST, ""))], 1.0) is None

    LOW: ClassVar = {"start.method": "full-voltage", "starter.speeds": "constant", "starter.low_current": "48 A"}

    def test_low_speed_settles_just_below_half_of_synchronous(self):
        """Twice the poles: 1200 for 2400; with the fan's eighth of the power its slip is small."""
        drawn = planner("harrowmere-lock.json", "P-11")(self.LOW).of(STARTER)
        plate = planner("harrowmere-lock.json", "P-11")()
        synchronous = plate.figure("plate.synchronous").value
        turned = drawn.shaft.turned([(0.0, Hung(Hangs.SLOW, ""))], 20.0)
        assert 0.97 * synchronous / 2 < turned.speed_rpm[-1] < synchronous / 2

    def test_from_high_low_brakes_harder_than_the_load_alone(self):
        """Above its own synchronous speed the low winding drives back: it is at half speed long before it coasts there."""
        shaft = planner("harrowmere-lock.json", "P-11")(self.LOW).of(STARTER).shaft
        there = [(0.0, Hung(Hangs.WHOLE, "")), (12.0, Hung(Hangs.SLOW, ""))]
        braked = shaft.turned(there, 40.0)
        alone = shaft.turned([(0.0, Hung(Hangs.WHOLE, "")), (12.0, Hung(Hangs.OFF, ""))], 40.0)
        half = braked.speed_rpm.max() / 2

        def reaches(turned):
            after = turned.time_s > 12.0
            return float(turned.time_s[after][np.argmax(turned.speed_rpm[after] <= half * 1.02)])

        assert reaches(braked) - 12 < 0.5 * (reaches(alone) - 12)
        assert braked.speed_rpm[-1] == pytest.approx(half, rel=0.04)

    @pytest.mark.parametrize(("kind", "torque"), [("constant", 1.0), ("variable", 0.5), ("power", 2.0)])
    def test_torque_of_low_speed_is_the_windings(self, kind, torque):
        """Constant power: twice the torque at half the speed; variable: a quarter of the power is half the torque."""
        slow = planner("harrowmere-lock.json", "P-11")(self.LOW | {"starter.speeds": kind}).of(STARTER).shaft.slow
        assert (slow.speed, slow.torque) == (0.5, torque)
        line = planner("harrowmere-lock.json", "P-11")().figure("plate.current")
        assert slow.amps == pytest.approx(48 / line.value, rel=0.02)

    def test_direct_current_stops_it_in_the_time_of_the_stops_sheet(self):
        plan = planner("harrowmere-lock.json", "P-11")({"start.method": "full-voltage", "stop.method": "dc"})
        drawn, row = plan.of(STARTER), plan.stopping.row("dc")
        run = ran_turning(drawn.circuit, acts_from("START+ START- w20 STOP+ STOP- w40"), drawn.shaft, 1)
        turned = drawn.shaft.turned(run.hangs, run.until_ms / 1000)
        stopped = next(at for at, hung in run.hangs[::-1] if hung.how is Hangs.DIRECT)
        rests = float(
            turned.time_s[turned.time_s > stopped][np.argmax(turned.speed_rpm[turned.time_s > stopped] <= 1.0)]
        )
        assert rests - stopped == pytest.approx(row.time_s - row.acting[0].from_s, rel=0.15)

    def test_a_spring_set_brake_grips_as_soon_as_it_is_let_go_by_its_coil(self):
        plan = planner("harrowmere-lock.json", "P-11")({"start.method": "full-voltage", "stop.method": "brake"})
        drawn, row = plan.of(STARTER), plan.stopping.row("brake")
        run = ran(drawn.circuit, acts_from("START+ START- w20 STOP+ STOP- w20"), 1)
        assert [hung.gripped for _, hung in run.hangs][-1]
        assert not any(hung.gripped for _, hung in run.hangs if hung.how is Hangs.WHOLE and "brake" not in hung.words)
        turned = drawn.shaft.turned(run.hangs, run.until_ms / 1000)
        stop = run.hangs[-1][0]
        rests = float(turned.time_s[turned.time_s > stop][np.argmax(turned.speed_rpm[turned.time_s > stop] <= 1.0)])
        assert rests - stop == pytest.approx(row.time_s, rel=0.25)


def meter_at(circuit, words, fault=None):
    moving = Moving(circuit, stuck=dict(fault.stuck), held=dict(fault.held)) if fault else Moving(circuit)
    state = ran(circuit, acts_from(words), fault=fault).state
    return Meter(circuit=circuit, netlist=netlist_of(circuit), moving=moving, state=state, fault=fault)


def pins_of(circuit, rung, of, what):
    return next(one.pins for one in netlist_of(circuit).elements if (one.rung, one.of, one.what) == (rung, of, what))


class TestMeter:
    """PLAIN is X1 –/OL–/STOP–(START + M)– coil M –X2."""

    def test_across_an_open_contact_the_volts_and_across_a_closed_one_none(self):
        start, stop = pins_of(PLAIN, 1, "START", "make contact"), pins_of(PLAIN, 1, "STOP", "break contact")
        rest, runs = meter_at(PLAIN, ""), meter_at(PLAIN, "START+ START-")
        assert rest.reads(*start) is Reading.FULL
        assert rest.reads(*stop) is Reading.NONE
        assert runs.reads(*start) is Reading.NONE  # its seal bridges it
        assert rest.reads("X1", "X2") is Reading.FULL

    def test_at_the_coil_volts_only_while_it_is_in(self):
        coil = pins_of(PLAIN, 1, "M", "contactor")
        assert meter_at(PLAIN, "").reads(*coil) is Reading.NONE
        assert meter_at(PLAIN, "START+").reads(*coil) is Reading.FULL

    def test_volts_at_a_coil_that_does_not_pull_tell_a_dead_coil(self):
        dead = next(one for one in cases_of(PLAIN) if one.what == "coil M dead")
        coil = pins_of(PLAIN, 1, "M", "contactor")
        assert meter_at(PLAIN, "START+", dead).reads(*coil) is Reading.FULL
        assert meter_at(PLAIN, "", dead).reads("X1", coil[0]) is Reading.FLOATS  # nothing behind it leads to X2
        assert meter_at(PLAIN, "").reads("X1", coil[0]) is Reading.FULL
        assert meter_at(PLAIN, "power-", dead).reads(*coil) is Reading.OPEN
        assert meter_at(PLAIN, "power-").reads(*coil) is Reading.COIL

    def test_dead_it_measures_ohms(self):
        start, stop = pins_of(PLAIN, 1, "START", "make contact"), pins_of(PLAIN, 1, "STOP", "break contact")
        assert meter_at(PLAIN, "power-").reads(*stop) is Reading.THROUGH
        assert meter_at(PLAIN, "power- STOP+").reads(*stop) is Reading.OPEN
        assert meter_at(PLAIN, "power-").reads(*start) is Reading.OPEN

    def test_between_two_open_contacts_it_floats(self):
        one = pins_of(OPEN, 2, "START", "make contact")[1]  # behind START, before S
        assert meter_at(OPEN, "").reads("X2", one) is Reading.FLOATS

    @pytest.mark.parametrize("name", SHIPPED)
    def test_each_stuck_contact_is_found_by_measuring_across_it(self, name):
        """Ohms on the dead circuit at rest: a contact that differs from its symbol is the fault, or lies beside it."""
        circuit = SHIPPED[name]
        sound = meter_at(circuit, "power-")
        for case in cases_of(circuit):
            if not case.stuck:
                continue
            ((of, contact), shut), *_ = case.stuck
            if shut != contact.breaks:  # stuck otherwise than it rests
                rung = 1 + [device.tag for device in circuit.devices].index(of)
                what = "late break contact" if contact.late else "break contact" if contact.breaks else "make contact"
                pins = pins_of(circuit, rung, contact.of, what)
                assert meter_at(circuit, "power-", case).reads(*pins) is not sound.reads(*pins), case.what

    def test_what_is_hidden_is_one_that_shows_and_the_same_by_its_seed(self):
        assert hidden(OPEN, 7) == hidden(OPEN, 7)
        assert len({hidden(OPEN, seed).what for seed in range(200)}) > 20
        silent = {one.what for one in swept(OPEN) if one.ends is Class.UNNOTICED}
        assert silent.isdisjoint(hidden(OPEN, seed).what for seed in range(200))


class TestStops:
    def test_plugging_slows_it_only_while_it_turns_after_a_run(self):
        plugged = SHIPPED["full-voltage plugging"]
        running = "START+ START- SPf+ "
        assert ran(plugged, acts_from(running + "STOP+")).connection == "on the line, backwards"
        assert ran(plugged, acts_from(running + "STOP+ SPf-")).connection == "off"
        assert ran(plugged, acts_from("SPf+ w1")).connection == "off"  # turned by hand
        assert ran(plugged, acts_from(running + "power- power+")).connection == "off"
        assert ran(plugged, acts_from(running + "OL+")).connection == "off"

    def test_turned_both_ways_each_is_plugged_by_the_other(self):
        plugged = SHIPPED["full-voltage reversing plugging"]
        back = "REV+ REV- SPr+ "
        assert ran(plugged, acts_from(back)).connection == "on the line, backwards"
        assert ran(plugged, acts_from(back + "STOP+")).connection == "on the line"
        assert ran(plugged, acts_from(back + "STOP+ STOP- SPr-")).connection == "off"
        assert ran(plugged, acts_from(back + "OL+")).connection == "off"
        assert ran(plugged, acts_from("SPf+ SPr+ w1")).connection == "off"
        assert ran(plugged, acts_from("FWD+ FWD- SPf+ REV+ REV-")).connection == "on the line"

    def test_a_plug_that_stays_in_at_rest_is_found(self):
        """Without its speed switch the reverse would run it backwards after every stop."""
        plugged = SHIPPED["full-voltage plugging"]
        assert broken_by(without(plugged, ("SPf in R", "SPf in CRp")))

    def test_a_brake_that_wakes_with_the_power_is_found(self):
        """R by the speed switch alone: the shaft still turns as the power comes back, and nobody has stopped it."""
        plugged = SHIPPED["full-voltage plugging"]
        woken = with_logic(plugged, "R", series(broken("OL"), broken("F"), make("SPf")))
        assert "restart" in broken_by(woken)
        assert "power comes back" in broken_by(woken)["restart"]

    def test_direct_current_flows_through_the_star_only_while_the_line_is_off(self):
        braked = BY_WAY["wye-delta"](Wishes(braking="dc"))
        run = ran(braked, acts_from("START+ START- w5 STOP+ STOP- w1"))
        assert Moving(braked).poles_in(run.state) >= {"S", "DB"}
        assert not Moving(braked).poles_in(run.state) & {"1M", "2M"}
        assert ran(braked, acts_from("START+ START- w5 STOP+ STOP- w9")).connection == "off"
        held_in = ran(braked, acts_from("START+ START- w5 STOP+ STOP- w1 START+ w1"))
        assert "1M" not in Moving(braked).poles_in(held_in.state)
        assert "apart" in broken_by(without(braked, ("DB in 1M",)))

    def test_direct_current_comes_after_a_pause_and_goes_by_its_timer(self):
        braked = full = SHIPPED["full-voltage dc"]
        events = ran(braked, acts_from("START+ START- w1 STOP+ STOP- w9")).events
        out = next(one.at_ms for one in events if (one.tag, one.position) == ("M", 1) and one.at_ms > 1000)
        into = next(one.at_ms for one in events if (one.tag, one.position) == ("DB", 2))
        away = next(one.at_ms for one in events if (one.tag, one.position) == ("DB", 1) and one.at_ms > into)
        assert 450 < into - out < 700
        assert 2800 < away - into < 3300
        assert not Moving(full).poles_in(ran(full, acts_from("START+ START- w1 STOP+ STOP- w9")).state) & {"M", "DB"}

    def test_a_jog_never_seals(self):
        jogged = SHIPPED["full-voltage jog"]
        assert ran(jogged, acts_from("JOG+")).connection == "on the line"
        assert ran(jogged, acts_from("JOG+ JOG-")).connection == "off"
        assert ran(jogged, acts_from("START+ START-")).connection == "on the line"

    def test_hand_does_not_go_around_the_overload_and_off_breaks_both(self):
        handed = SHIPPED["full-voltage hand-off-auto"]
        assert ran(handed, acts_from("HAND+ START+ START-")).connection == "on the line"
        assert ran(handed, acts_from("HAND+ START+ START- OL+")).connection == "off"
        assert ran(handed, acts_from("HAND+ START+ START- HAND-")).connection == "off"
        assert ran(handed, acts_from("AUTO+ PERMIT+")).connection == "on the line"
        assert ran(handed, acts_from("AUTO+ PERMIT+ OL+")).connection == "off"

    def test_a_selector_held_forward_seals_nothing(self):
        turned = SHIPPED["full-voltage two-wire reversing"]
        assert ran(turned, acts_from("FWD+")).connection == "on the line"
        assert ran(turned, acts_from("FWD+ FWD-")).connection == "off"
        assert ran(turned, acts_from("FWD+ REV+")).connection == "off"  # both at once: neither way

    def test_a_spring_set_brake_is_let_go_with_the_motor(self):
        drawn = planner("harrowmere-lock.json", "G-21")().of(STARTER)
        assert set(contacts_of(drawn.circuit.device("BR").logic)) == {make("F"), make("R")}

    def test_a_fault_put_in_shows_in_the_run(self):
        fault = next(one for one in cases_of(PLAIN) if one.what == "poles of M welded")
        assert ran(PLAIN, acts_from("STOP+"), fault=fault).connection == "on the line"


def reached(circuit, netlist, moving, state):
    """Nets that have X1's potential."""
    live, grows = {"X1"}, True
    while grows:
        grows = False
        for one in netlist.elements:
            if not one.rung or not one.what.endswith("contact") or len(set(one.pins) & live) != 1:
                continue
            contact = Contact(one.of, one.what != "make contact", one.what.startswith("late"))
            if moving.closed(state, circuit.devices[one.rung - 1].tag, contact):
                live |= set(one.pins)
                grows = True
    return live


class TestNetlist:
    @pytest.mark.parametrize("name", SHIPPED)
    def test_a_coil_has_volts_where_its_logic_says_so_and_by_no_way_round(self, name):
        """In random states: from X1 through whatever is closed, either way through each contact, to each coil."""
        circuit, chance = SHIPPED[name], random.Random(name)
        netlist, moving = netlist_of(circuit), Moving(circuit)
        for _ in range(60):
            coils = tuple(chance.randint(0, 3) for _ in moving.tags)
            state = State(coils, tuple(chance.random() < 0.5 for _ in moving.inputs))
            live = reached(circuit, netlist, moving, state)
            for place, device in enumerate(circuit.devices):
                end = next(one.pins[0] for one in netlist.elements if one.of == device.tag and one.pins[1] == "X2")
                assert (end in live) == moving.energised(state, place), (device.tag, state)

    def test_what_begins_alike_is_one_piece(self):
        """X1 to the stop once for all: one overload contact, one stop, however many coils stand behind them."""
        for circuit in (OPEN, SHIPPED["full-voltage reversing"]):
            for tag in ("OL", "STOP"):
                assert len([one for one in netlist_of(circuit).elements if one.of == tag]) == 1

    def test_a_shared_contact_is_bridged_and_fails_for_all(self):
        bridged = without(OPEN, ("STOP in 2M",))
        assert all("STOP" not in [one.of for one in contacts_of(device.logic)] for device in bridged.devices)
        case = next(
            one for one in cases_of(OPEN) if one.what.startswith("contact STOP") and one.what.endswith("closed")
        )
        assert {tag for (tag, _), _ in case.stuck} == {"S", "1M", "2M"}

    def test_numbers_are_nets(self):
        nets = netlist_of(PLAIN).nets()
        assert len(nets) == len(set(nets))
        start, seal = (next(one for one in netlist_of(PLAIN).elements if one.of == of and one.what == "make contact")
                       for of in ("START", "M"))  # fmt: skip
        assert start.pins == seal.pins  # in parallel: the same two nets

    def test_what_leaves_the_panel_has_terminals(self):
        assert {place for _, places in netlist_of(PLAIN).terminals() for place in places} == {"door", "panel"}

    def test_parts_carry_what_their_place_asks(self):
        parts = {one.tag: one for one in parts_of(OPEN, 100.0)}
        assert parts["1M"].amps == pytest.approx(57.7, abs=0.1)
        assert parts["S"].amps == pytest.approx(33.3, abs=0.1)
        assert parts["2M"].mirror
        assert not parts["1M"].mirror
        assert sum(one.makes + one.breaks + one.late for one in parts.values()) == sum(
            contact.of in parts for device in OPEN.devices for contact in contacts_of(device.logic)
        )
        assert {one.tag: one.late for one in parts_of(CLOSED, None)} == {"S": 0, "1M": 0, "TR": 0, "A": 1, "2M": 1}


def test_contactors_of_an_autotransformer_follow_its_tap():
    """600 A at rest: the line takes t², the star point t(1 − t), and AC-3 bears seven times its amperes to start."""
    for tap, feeds, star in ((0.5, 21.43, 21.43), (0.8, 54.86, 13.71)):
        parts = {one.tag: one.amps for one in parts_of(BY_WAY["autotransformer"](Wishes(tap=tap)), 100.0, 600.0)}
        assert parts["2S"] == pytest.approx(feeds, abs=0.01)
        assert parts["1S"] == pytest.approx(star, abs=0.01)
        assert parts["R"] == 100.0
    assert {one.tag: one.amps for one in parts_of(KORNDORFER, 100.0)}["2S"] is None


def test_direct_current_sizes_its_contactor_and_the_star_it_flows_through():
    """X-51 is braked by 178 A for 36 s: both from the stop's sheet, not from the motor's 71 A."""
    plan = planner("harrowmere-lock.json", "X-51")()
    parts = {one.tag: one.amps for one in plan.of(STARTER).parts}
    used = plan.stopping.used
    assert parts["DB"] == parts["S"] == pytest.approx(used.peak_a)
    assert parts["DB"] > 2 * 71
    assert parts["1M"] == pytest.approx(71 / 3**0.5, rel=1e-3)
    assert plan.of(STARTER).circuit.device("TB").delay_s == pytest.approx(
        used.acting[0].to_s - used.acting[0].from_s, abs=0.1
    )
    assert {one.tag: one.amps for one in parts_of(SHIPPED["full-voltage dc"], 100.0)}["DB"] is None


def test_the_tap_of_the_plan_is_the_one_that_is_drawn():
    plan = planner("harrowmere-lock.json", "P-11")
    high = {one.tag: one.amps for one in plan({"start.method": "autotransformer", "start.tap": "80"}).of(STARTER).parts}
    low = {one.tag: one.amps for one in plan({"start.method": "autotransformer", "start.tap": "50"}).of(STARTER).parts}
    assert high["2S"] / low["2S"] == pytest.approx((0.8 / 0.5) ** 2)


def test_races_by_travel_and_arc():
    """3 + 0.95·50 + 10 − 15 ms; without a pause −2."""
    assert [one.margin_ms for one in races_of(OPEN)] == [pytest.approx(45.5)]
    assert {one.margin_ms for one in races_of(TURNED)} == {-2.0}


def test_bridging_reads_and_cuts():
    assert read_cuts("2M in S; OL in M") == ("2M in S", "OL in M")
    assert isinstance(without(PLAIN, ("STOP in M",)).devices[0], Device)
    assert Contact("STOP", True) not in set(contacts_of(without(PLAIN, ("STOP in M",)).devices[0].logic))
    assert without(PLAIN, ("START in M",)).devices[0].logic == Series((broken("OL"), broken("STOP")))


class TestStage:
    def test_the_low_speed_asks_for_amperes_of_its_own(self):
        plan = planner("harrowmere-lock.json", "P-11")
        speeds = {"start.method": "full-voltage", "starter.speeds": "separate"}
        assert plan(speeds).gate("starter.low_overload").verdict is Verdict.UNKNOWN
        found = plan(speeds | {"starter.low_current": "40 A"})
        assert found.gate("starter.low_overload").verdict is Verdict.PASSES
        carries = {one.tag: one.amps for one in found.of(STARTER).parts}
        assert carries["LO"] == pytest.approx(40)
        assert "starter.low_overload" not in {gate.key for gate in plan({"start.method": "full-voltage"}).gates}

    def test_two_speeds_are_drawn_across_the_line_only(self):
        plan = planner("harrowmere-lock.json", "P-11")
        for other in ({"start.method": "soft-starter"}, {"start.method": "full-voltage", "start.reversing": "yes"}):
            found = plan(other | {"starter.speeds": "constant", "starter.low_current": "40 A"})
            assert found.gate("starter.wished").verdict is Verdict.UNKNOWN

    def test_wires_are_marked_by_their_net_or_by_where_they_go(self):
        plan = planner("harrowmere-lock.json", "P-11")
        by_net, by_target = (plan({"limits.wire_marks": how}).of(STARTER) for how in ("net", "target"))
        assert {wire.marks(by_net.marked) for wire in by_net.wiring.wires} == {
            (wire.net, wire.net) for wire in by_net.wiring.wires
        }
        for wire in by_target.wiring.wires:
            assert wire.marks(by_target.marked) == (str(wire.ends), str(wire.begins))

    def test_the_circuit_follows_the_way_to_start(self):
        x51, p11 = planner("harrowmere-lock.json", "X-51"), planner("harrowmere-lock.json", "P-11")
        braked = ", braked by direct current"
        assert x51().of(STARTER).circuit.name == f"wye-delta, open transition{braked}"
        assert x51({"start.transition": "closed"}).of(STARTER).circuit.name == f"wye-delta, closed transition{braked}"
        assert p11({"start.method": "autotransformer"}).of(STARTER).circuit.key == "autotransformer"

    def test_its_timer_is_the_starts_change_over(self):
        plan = planner("harrowmere-lock.json", "X-51")()
        row = plan.comparison.row("wye-delta")
        assert plan.of(STARTER).circuit.device("TR").delay_s == pytest.approx(row.changes_at_s, abs=0.001)
        assert (
            planner("harrowmere-lock.json", "X-51")({"starter.timer": "9 s"}).of(STARTER).circuit.device("TR").delay_s
            == 9
        )

    @pytest.mark.parametrize("bridged", ["STOP in 1M", "2M in S", "S in 2M; 2M in S"])
    def test_a_drawing_with_bridges_never_passes(self, bridged):
        plan = planner("harrowmere-lock.json", "X-51")({"starter.bridged": bridged})
        assert plan.gate("starter.proof").verdict is Verdict.FAILS
        assert planner("harrowmere-lock.json", "X-51")().gate("starter.proof").verdict is Verdict.PASSES

    @pytest.mark.parametrize(
        ("lock", "verdict"), [("yes", Verdict.PASSES), ("no", Verdict.FAILS), (None, Verdict.UNKNOWN)]
    )
    def test_turning_it_both_ways_asks_a_lock(self, lock, verdict):
        assert planner("harrowmere-lock.json", "R-31")({"starter.lock": lock}).gate("starter.race").verdict is verdict

    @pytest.mark.parametrize(
        ("timer", "verdict"), [("39 s", Verdict.PASSES), ("20 s", Verdict.FAILS), ("90 s", Verdict.FAILS)]
    )
    def test_a_timer_that_is_set_must_suit_the_run_up(self, timer, verdict):
        """X-51 is up to its change-over after 39.2 s."""
        plan = planner("harrowmere-lock.json", "X-51")({"starter.timer": timer})
        assert plan.gate("starter.timer").verdict is verdict

    @pytest.mark.parametrize(
        ("said", "verdict"), [("yes", Verdict.PASSES), ("no", Verdict.FAILS), (None, Verdict.UNKNOWN)]
    )
    def test_two_wires_only_where_a_restart_is_harmless(self, said, verdict):
        plan = planner("harrowmere-lock.json", "B-42")(
            {"starter.command": "two-wire", "protection.restart_harmless": said}
        )
        assert plan.gate("starter.restart").verdict is verdict

    def test_of_one_phase_two_poles_and_of_direct_current_none(self):
        plan = planner("harrowmere-lock.json", "C-71")
        assert dict(plan().of(STARTER).circuit.poles) == {"M": (("L1", "T1"), ("L2", "T4"))}
        assert plan().gate("starter.proof").verdict is Verdict.PASSES
        assert plan({"plate.kind": "dc-shunt"}).of(STARTER) is None

    @pytest.mark.parametrize(
        ("tag", "wish", "word"),
        [("X-51", "start.reversing", "reversing"), ("X-51", "starter.jog", "jog"), ("B-42", "starter.hands", "hand")],
    )
    def test_a_wish_that_is_not_drawn_is_not_known_and_has_its_reason(self, tag, wish, word):
        plan = planner("harrowmere-lock.json", tag)({wish: "yes", "starter.command": "two-wire"})
        assert plan.gate("starter.wished").verdict is Verdict.UNKNOWN
        assert word in plan.gate("starter.wished").sentence
        assert any(note.lower().startswith(word) for note in plan.stage("starter").notes)

    def test_an_impossible_way_to_start_has_no_circuit_that_looks_proved(self):
        plan = planner("harrowmere-lock.json", "R-31")({"start.method": "wye-delta"})
        assert plan.of(STARTER) is None
        assert plan.stage("starter").gates == ()

    @pytest.mark.parametrize(
        ("changes", "verdict"),
        [
            ({"start.method": "autotransformer", "start.transition": "open"}, Verdict.UNKNOWN),
            ({"start.method": "autotransformer", "start.transition": "closed"}, None),
            ({"start.method": "full-voltage", "starter.command": "two-wire", "starter.stations": "3"}, Verdict.UNKNOWN),
            ({"start.method": "full-voltage", "starter.stations": "3"}, None),
        ],
    )
    def test_a_wish_that_another_one_rules_out_is_not_passed_over(self, changes, verdict):
        gates = {
            one.key: one.verdict for one in planner("harrowmere-lock.json", "P-11")(changes).stage("starter").gates
        }
        assert gates.get("starter.wished") is verdict

    def test_a_timer_is_not_judged_where_the_circuit_has_none(self):
        plan = planner("skerry-sound.json", "F-3")({"starter.timer": "1 s"})
        assert "starter.timer" not in {gate.key for gate in plan.stage("starter").gates}

    def test_what_is_drawn_as_wished_asks_nothing(self):
        assert "starter.wished" not in {
            gate.key for gate in planner("harrowmere-lock.json", "R-31")().stage("starter").gates
        }

    def test_a_selector_in_auto_asks_whether_a_restart_is_harmless(self):
        plan = planner("harrowmere-lock.json", "B-42")({"starter.hands": "yes", "protection.restart_harmless": "no"})
        assert plan.gate("starter.restart").verdict is Verdict.FAILS
