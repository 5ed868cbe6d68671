"""A starter that is run until it stands still."""

from tests.conftest import planner
from tests.core.starters import PLAIN, SHIPPED, broken_by, with_logic
from vinegate.core.starter.circuits import BY_WAY
from vinegate.core.starter.faults import cases_of
from vinegate.core.starter.logic import broken, contacts_of, make, series
from vinegate.core.starter.machine import Moving
from vinegate.core.starter.run import acts_from, ran
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.trunk import without
from vinegate.core.starter.wishes import Wishes


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
