"""Starters run step by step, with the motor that hangs on them, and stopped."""

from dataclasses import replace
from typing import ClassVar

import numpy as np
import pytest

from tests.conftest import planner
from tests.core.starters import CLOSED, KORNDORFER, OPEN, PLAIN, SHIPPED, TURNED, broken_by, with_logic
from vinegate.core.starter.faults import cases_of
from vinegate.core.starter.hung import Hangs, Hung, hung_of
from vinegate.core.starter.logic import broken, either, make, series
from vinegate.core.starter.machine import Moving, State
from vinegate.core.starter.motor import Relay
from vinegate.core.starter.run import acts_from, ran
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.turning_run import ran_turning


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

    @pytest.mark.parametrize("way", ["wye-delta", "autotransformer", "part-winding", "soft-starter"])
    def test_turned_round_it_begins_its_start_anew(self, way):
        """However fast it is reversed, the other direction comes in when all behind it is out: never onto the delta."""
        circuit = SHIPPED[f"{way} reversing"]
        behind = {tag for tag, _ in circuit.poles} - {"F", "R"}
        for seed in range(40):
            run = ran(circuit, acts_from("FWD+ FWD- w6 STOP+ STOP- REV+ w1 REV- w6"), seed)
            made = {}
            for one in run.events:
                made[one.tag] = one.position >= 2
                if one.tag == "R" and one.position >= 2:
                    assert not any(made.get(tag) for tag in behind), seed
            words = [hung.words for _, hung in run.hangs]
            assert run.connection.endswith("backwards") or way == "soft-starter", run.connection
            assert words[-1] == run.connection
            assert not run.shorted

    def test_a_direction_alone_feeds_nothing_behind_it(self):
        circuit = SHIPPED["soft-starter reversing"]
        assert hung_of(circuit, frozenset({"F"})).how is Hangs.OFF
        assert hung_of(circuit, frozenset({"F", "K"})).how is Hangs.FIRST

    def test_a_soft_stop_keeps_its_line_while_it_ramps_and_an_emergency_stop_does_not(self):
        soft = SHIPPED["soft-starter soft stop"]
        stopped = ran(soft, acts_from("START+ START- w6 STOP+ STOP- w2"), 3)
        assert Moving(soft).poles_in(stopped.state) & {"K", "BP", "RUN"} == {"K"}
        assert stopped.connection.startswith("ramped down softly")
        for acts in ("STOP+ STOP- w8", "E-STOP+ w1", "OL+ w1", "STOP+ STOP- w1 power- power+ w1"):
            over = ran(soft, acts_from(f"START+ START- w6 {acts}"), 3)
            assert not Moving(soft).poles_in(over.state) & {"K", "BP", "RUN"}, acts

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

    @pytest.mark.parametrize(("way", "breakaway", "steps"), [("wye-delta", 120, 1), ("wye-delta", 300, 1), ("resistor", 200, 3),
                             ("autotransformer", 200, 1)])  # fmt: skip
    def test_a_load_that_holds_it_in_its_first_connection_holds_the_drawn_one(self, way, breakaway, steps):
        """The start's study ends there; the circuit's timers go on, and full voltage turns it where that can."""
        facts = {"start.method": way, "start.resistor_steps": "3", "load.kind": "constant", "limits.tags": "ics19"}
        plan = planner("skerry-sound.json", "H-1")({**facts, "load.breakaway": f"{breakaway} %"})
        row, drawn = plan.comparison.row(plan.comparison.chosen), plan.of(STARTER)
        assert (row.method, row.stages) == (way, ())
        assert len(drawn.shaft.firsts) == steps
        held = drawn.shaft.turned([(0.0, Hung(Hangs.FIRST, "", step=steps - 1))], 2.0)
        assert (held.speed_rpm.max(), held.line_a.min() > 0) == (0, True)
        run = ran(drawn.circuit, acts_from("START+ START- w9"), 1)
        went = drawn.shaft.turned(run.hangs, run.until_ms / 1000)
        assert (went.speed_rpm[-1] > 0) == (breakaway < 240)

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
