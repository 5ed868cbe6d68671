"""A meter at the terminals, the netlist, sizes, and the starter as a stage of the plan."""

import random

import pytest

from tests.conftest import planner
from tests.core.starters import CLOSED, KORNDORFER, OPEN, PLAIN, SHIPPED, TURNED
from vinegate.core.grade import Kind, Verdict
from vinegate.core.starter.circuits import BY_WAY
from vinegate.core.starter.facts import read_cuts
from vinegate.core.starter.faults import Class, cases_of, swept
from vinegate.core.starter.logic import Contact, Device, Series, broken, contacts_of
from vinegate.core.starter.machine import Moving, State
from vinegate.core.starter.meter import Meter, Reading, hidden
from vinegate.core.starter.netlist import Amps, netlist_of, parts_of
from vinegate.core.starter.run import acts_from, ran
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.timing import races_of
from vinegate.core.starter.trunk import without
from vinegate.core.starter.wishes import Wishes


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
                beside = shut and sound.reads(*pins) is Reading.THROUGH  # a break contact in parallel hides it at rest
                assert beside or meter_at(circuit, "power-", case).reads(*pins) is not sound.reads(*pins), case.what

    def test_what_is_hidden_is_one_that_shows_and_the_same_by_its_seed(self):
        assert hidden(OPEN, 7) == hidden(OPEN, 7)
        assert len({hidden(OPEN, seed).what for seed in range(200)}) > 20
        silent = {one.what for one in swept(OPEN) if one.ends is Class.UNNOTICED}
        assert silent.isdisjoint(hidden(OPEN, seed).what for seed in range(200))


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
        parts = {one.tag: one for one in parts_of(OPEN, Amps(line=100.0))}
        assert parts["1M"].amps == pytest.approx(57.7, abs=0.1)
        assert parts["S"].amps == pytest.approx(33.3, abs=0.1)
        assert parts["2M"].mirror
        assert not parts["1M"].mirror
        assert sum(one.makes + one.breaks + one.late for one in parts.values()) == sum(
            contact.of in parts for device in OPEN.devices for contact in contacts_of(device.logic)
        )
        assert {one.tag: one.late for one in parts_of(CLOSED, Amps(line=None))} == {
            "S": 0,
            "1M": 0,
            "TR": 0,
            "A": 1,
            "2M": 1,
        }


def test_contactors_of_an_autotransformer_follow_its_tap():
    """600 A at rest: the line takes t², the star point t(1 − t), and AC-3 bears seven times its amperes to start."""
    for tap, feeds, star in ((0.5, 21.43, 21.43), (0.8, 54.86, 13.71)):
        parts = {
            one.tag: one.amps
            for one in parts_of(BY_WAY["autotransformer"](Wishes(tap=tap)), Amps(line=100.0, locked=600.0))
        }
        assert parts["2S"] == pytest.approx(feeds, abs=0.01)
        assert parts["1S"] == pytest.approx(star, abs=0.01)
        assert parts["R"] == 100.0
    assert {one.tag: one.amps for one in parts_of(KORNDORFER, Amps(line=100.0))}["2S"] is None


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
    assert {one.tag: one.amps for one in parts_of(SHIPPED["full-voltage dc"], Amps(line=100.0))}["DB"] is None


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
        assert {found.gate(f"starter.{key}").kind for key in ("one_device", "low_start")} == {Kind.CONFIRM}
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

    @pytest.mark.parametrize(
        ("changes", "kind"),
        [({}, None), ({"start.restart": "yes"}, Kind.CONFIRM), ({"start.restart_at": "20 s"}, Kind.CONFIRM),
         ({"start.restart": "yes", "starter.hands": "yes", "protection.restart_harmless": "yes"}, Kind.ENGINEERING)],
    )  # fmt: skip
    def test_buttons_restart_nothing_by_themselves(self, changes, kind):
        gates = {gate.key: gate.kind for gate in planner("harrowmere-lock.json", "B-42")(changes).gates}
        assert gates.get("starter.restart") is kind

    def test_of_one_phase_two_poles_and_of_direct_current_none(self):
        plan = planner("harrowmere-lock.json", "C-71")
        assert dict(plan().of(STARTER).circuit.poles) == {"M": (("L1", "T1"), ("L2", "T4"))}
        assert plan().gate("starter.proof").verdict is Verdict.PASSES
        assert plan({"plate.kind": "dc-shunt"}).of(STARTER) is None

    @pytest.mark.parametrize(
        ("tag", "wish", "word"),
        [("F-3", "start.reversing", "reversing"), ("X-51", "starter.jog", "jog"), ("B-42", "starter.hands", "hand")],
    )
    def test_a_wish_that_is_not_drawn_is_not_known_and_has_its_reason(self, tag, wish, word):
        plan = planner("skerry-sound.json" if tag == "F-3" else "harrowmere-lock.json", tag)(
            {wish: "yes", "starter.command": "two-wire"}
        )
        assert plan.gate("starter.wished").verdict is Verdict.UNKNOWN
        assert word in plan.gate("starter.wished").sentence
        assert any(note.lower().startswith(word) for note in plan.stage("starter").notes)

    @pytest.mark.parametrize(("said", "verdict"), [(None, "not known"), ("no", "fails"), ("yes", "passes")])
    def test_what_is_not_drawn_here_may_have_a_drawing_of_its_own(self, said, verdict):
        """Stated, it is left for the checklist; else nothing could settle it, and no soft starter that jogs could pass."""
        facts = {"starter.jog": "yes", "starter.elsewhere": said}
        plan = planner("harrowmere-lock.json", "P-11")(facts)
        assert plan.gate("starter.wished").weighs is (said != "yes")
        assert Verdict(verdict) is plan.stage("starter").verdict

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

    @pytest.mark.parametrize(("said", "duty"), [("yes", "AC-4"), ("no", "AC-3"), (None, "AC-3")])
    def test_both_sheets_name_one_category_for_its_contactors(self, said, duty):
        """Now and then AC-3 plugs too (IEC 60947-4-1 table 1): what is said of it decides, here and on the drawing."""
        plan = planner("skerry-sound.json", "W-2")({"protection.jogging": said})
        assert {one.duty for one in plan.of(STARTER).parts if one.amps} == {duty}
        assert plan.protected.device("starter").name == f"Contactor, {duty}"

    @pytest.mark.parametrize(
        ("tag", "changes", "words"),
        [
            ("H-1", {}, "81 A: at least 100 A in AC-3"),
            ("H-1", {"start.method": "full-voltage"}, None),  # they are its contactors
            ("H-1", {"start.method": "drive"}, None),  # it turns it by itself
            ("H-1", {"start.reversing": "no"}, None),
            ("P-11", {"start.method": "wye-delta"}, "96 A: size 4"),
            ("P-11", {"start.method": "soft-starter"}, "96 A."),
        ],
    )
    def test_contactors_of_both_directions_carry_all_of_a_reduced_start(self, tag, changes, words):
        job = "skerry-sound.json" if tag == "H-1" else "harrowmere-lock.json"
        plan = planner(job, tag)({"start.reversing": "yes"} | changes)
        found = [gate.sentence for gate in plan.gates if gate.key == "protection.directions"]
        assert [words in one for one in found] == ([True] if words else [])

    def test_what_is_drawn_as_wished_asks_nothing(self):
        assert "starter.wished" not in {
            gate.key for gate in planner("harrowmere-lock.json", "R-31")().stage("starter").gates
        }

    def test_a_selector_in_auto_asks_whether_a_restart_is_harmless(self):
        plan = planner("harrowmere-lock.json", "B-42")({"starter.hands": "yes", "protection.restart_harmless": "no"})
        assert plan.gate("starter.restart").verdict is Verdict.FAILS


class TestWhatEndsTheStar:
    """One thing on the start's sheet and on the starter's; an operator's judgement is none to rely on."""

    @pytest.mark.parametrize(
        ("here", "there", "verdict"),
        [
            (None, None, None), ("timer", None, None), ("timer", "timer", None), (None, "speed", None),
            ("speed", "speed", None), ("speed", None, "check"), ("timer", "speed", "check"), ("operator", None, "check"),
            ("operator", "speed", "check"),
        ],
    )  # fmt: skip
    def test_it_is_said_once_or_alike(self, here, there, verdict):
        plan = planner("skerry-sound.json", "H-1")({"starter.changes_by": here, "start.changeover_by": there})
        gate = next((one for one in plan.gates if one.key == "starter.ends"), None)
        assert (gate.verdict.value if gate else None) == verdict

    def test_empty_it_is_drawn_as_the_start_is_judged(self):
        plan = planner("skerry-sound.json", "H-1")({"start.changeover_by": "speed"})
        assert "by speed" in plan.of(STARTER).circuit.name
        assert "by speed" not in planner("skerry-sound.json", "H-1")().of(STARTER).circuit.name

    def test_without_a_star_nobody_is_asked(self):
        plan = planner("harrowmere-lock.json", "D-61")({"starter.changes_by": "operator"})
        assert not any(one.key == "starter.ends" for one in plan.gates)
