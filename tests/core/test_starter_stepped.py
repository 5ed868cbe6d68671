"""Resistors and reactors cut out in steps: drawn, run, held against the start's study, and run again for a record."""

from typing import ClassVar

import numpy as np
import pytest

from tests.conftest import planner
from tests.core import test_rotor_resistor as rings
from tests.core.on_direct_current import NEC
from tests.core.recordings import side
from tests.core.starters import SHIPPED, broken_by, with_logic
from vinegate.core.grade import Verdict
from vinegate.core.record.rerun import Volts, again
from vinegate.core.record.solved import offers
from vinegate.core.start.connection import at_rings
from vinegate.core.starter.faults import Class, cases_of, swept
from vinegate.core.starter.hung import Hangs, Hung, hung_of
from vinegate.core.starter.logic import series
from vinegate.core.starter.merge import merged
from vinegate.core.starter.motor import Shaft
from vinegate.core.starter.netlist import Amps, parts_of
from vinegate.core.starter.proof import proved
from vinegate.core.starter.run import acts_from, ran
from vinegate.core.starter.stage import STARTER

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"
STEPPED = ["resistor three steps", "rotor-resistor three steps"]


class TestDrawn:
    @pytest.mark.parametrize("name", STEPPED)
    def test_each_step_waits_for_the_one_before(self, name):
        """One second, then 0.6, then 0.4, each to 5 %; the last leaves nothing of it."""
        run = ran(SHIPPED[name], acts_from("START+ START- w4"), 3)
        times = [at for at, hung in run.hangs if hung.how in (Hangs.FIRST, Hangs.WHOLE)]
        assert [hung.step for _, hung in run.hangs if hung.how is Hangs.FIRST] == [0, 1, 2]
        assert run.hangs[-1][1].how is Hangs.WHOLE
        assert np.diff(times) == pytest.approx([1.0, 0.6, 0.4], rel=0.05, abs=0.03)

    @pytest.mark.parametrize("name", [*STEPPED, "rotor-resistor two-wire steps", "rotor-resistor seven both ways"])
    def test_it_does_not_start_while_a_steps_contactor_hangs_in(self, name):
        circuit = SHIPPED[name]
        begins = next(one.tag for one in circuit.inputs if one.starts)
        welded = [case for case in cases_of(circuit) if case.what.startswith("poles of") and "A" in case.what]
        assert len(welded) == len(circuit.steps)
        for case in welded:
            assert all(hung.how is Hangs.OFF for _, hung in ran(circuit, acts_from(f"{begins}+ w9"), 1, case).hangs)

    def test_a_held_contact_that_opens_ends_it(self):
        run = ran(SHIPPED["rotor-resistor two-wire steps"], acts_from("AUTO+ w3 AUTO- w1"), 1)
        assert run.hangs[-2][1].how in (Hangs.FIRST, Hangs.WHOLE)
        assert run.connection == "off"

    def test_backwards_it_begins_again_with_all_of_its_resistor(self):
        circuit = SHIPPED["rotor-resistor seven both ways"]
        run = ran(circuit, acts_from("FWD+ FWD- w9 STOP+ STOP- REV+ REV- w9"), 2)
        back = [hung for _, hung in run.hangs if hung.backwards]
        assert [hung.step for hung in back if hung.how is Hangs.FIRST] == list(range(7))
        assert back[-1].how is Hangs.WHOLE

    def test_rings_that_need_no_resistor_are_linked(self):
        circuit = SHIPPED["rotor-resistor shorted"]
        assert circuit.between == (("links", (("M1", "M2"), ("M2", "M3"))),)
        assert ran(circuit, acts_from("START+ START- w1"), 1).hangs[-1][1].how is Hangs.WHOLE

    def test_contactors_of_a_rotor_carry_its_amperes(self):
        """Started at 1.8 of rated torque, that is of its amperes; AC-2 makes four times its own; the last runs on."""
        parts = {one.tag: one for one in parts_of(SHIPPED["rotor-resistor three steps"], Amps(line=60.0, rings=80.0))}
        assert (parts["M"].amps, parts["M"].duty) == (60.0, "AC-2")
        assert [parts[tag].amps for tag in ("1A", "2A", "3A")] == pytest.approx([1.8 * 80 / 4, 1.8 * 80 / 4, 80.0])


class TestLongChains:
    def test_links_wired_alike_are_walked_once(self):
        seven, two = SHIPPED["rotor-resistor seven steps"], SHIPPED["rotor-resistor two-wire steps"]
        assert len(merged(seven.timeless().deciding()).chain) == len(two.chain) == 2
        assert proved(seven).whole

    @pytest.mark.parametrize("tag", ["3A", "4A", "M"])
    def test_one_that_is_wired_otherwise_is_not_left_out(self, tag):
        """Its timer's contact bridged, or its break contact left out of the start: that link stays in what is walked."""
        seven = SHIPPED["rotor-resistor seven steps"]
        logic = seven.device(tag).logic
        if tag == "M":
            *ahead, begins = logic.parts
            starts, seal = begins.parts
            otherwise = series(*ahead, type(begins)((series(*(one for one in starts.parts if one.of != "4A")), seal)))
        else:
            otherwise = series(*logic.parts[:-1])
        odd = merged(with_logic(seven, tag, otherwise).deciding())
        kept = {name for pair in odd.chain for name in pair}
        assert {"4A" if tag == "M" else tag} <= kept
        assert len(odd.chain) > 2

    def test_every_contactor_that_sticks_is_noticed(self):
        found = swept(SHIPPED["rotor-resistor three steps"])
        stuck = [one for one in found if one.what in ("poles of 1A welded", "poles of 2A welded", "poles of 3A welded")]
        assert [one.ends for one in stuck] == [Class.NOTICED] * 3

    def test_it_is_said_that_not_all_were_walked(self):
        plan = planner(LOCK, "D-61")(rings.RINGS)
        assert plan.gate("starter.proof").verdict is Verdict.PASSES
        assert "Of its 7 steps, that are wired alike, 2 are walked." in plan.gate("starter.proof").sentence


RESISTOR = {"start.method": "resistor", "start.resistor_steps": "3", "limits.dip": "20 %"}


class TestAgainstTheStudy:
    @pytest.mark.parametrize(
        ("file", "tag", "facts"),
        [
            (LOCK, "P-11", RESISTOR), (LOCK, "P-11", RESISTOR | {"start.resistor_steps": None}),
            (LOCK, "B-42", RESISTOR | {"start.method": "reactor"}), (LOCK, "D-61", rings.RINGS), (SOUND, "W-2", rings.RINGS),
        ],
    )  # fmt: skip
    def test_its_own_timers_bring_it_through_the_studys_course(self, file, tag, facts):
        plan = planner(file, tag)(facts | {"limits.tags": "ics19"})
        row, drawn = plan.comparison.row(plan.comparison.chosen), plan.of(STARTER)
        begins = next(one.tag for one in drawn.circuit.inputs if one.starts)
        run = ran(drawn.circuit, acts_from(f"{begins}+ {begins}- w{2 * row.time_s + 2:.1f}"), 1)
        turned = drawn.shaft.turned(run.hangs, run.until_ms / 1000)
        closes = next(at for at, hung in run.hangs if hung.how is not Hangs.OFF)
        there = np.interp(0.98 * turned.speed_rpm[-1], turned.speed_rpm, turned.time_s) - closes
        travel = 0.06 * (1 + len(drawn.circuit.steps))
        assert there == pytest.approx(row.time_s, rel=0.06, abs=travel)
        first = next(amps for amps in turned.line_a if amps > 0)
        assert first == pytest.approx(plan.comparison.detail.line_a[0], rel=0.01)

    def test_the_drawn_timers_are_the_studys_and_one_that_is_typed_ends_the_last(self):
        plan = planner(LOCK, "P-11")(RESISTOR)
        row, timed = (
            plan.comparison.row("resistor"),
            [one for one in plan.of(STARTER).circuit.devices if one.transition],
        )
        ends = [until_s for _, until_s in row.stages]
        assert np.cumsum([one.delay_s for one in timed]) == pytest.approx(ends, abs=0.002)
        twice = planner(LOCK, "P-11")(RESISTOR | {"starter.timer": f"{2 * ends[-1]:.3f} s"}).of(STARTER).circuit
        assert sum(one.delay_s for one in twice.devices if one.transition) == pytest.approx(2 * ends[-1], abs=0.01)

    @pytest.mark.parametrize("seconds", [2.0, 6.0])
    def test_a_moment_that_is_given_is_the_last_steps(self, seconds):
        row = planner(LOCK, "P-11")(RESISTOR | {"start.changeover": f"{seconds} s"}).comparison.row("resistor")
        assert row.last_change_s == pytest.approx(seconds)
        assert [until_s for _, until_s in row.stages] == sorted(until_s for _, until_s in row.stages)

    @pytest.mark.parametrize(("share", "verdict"), [(0.5, "fails"), (1.0, "passes"), (1.4, "passes"), (9.0, "fails")])
    def test_a_timer_that_does_not_suit_the_run_up_fails(self, share, verdict):
        ends = planner(LOCK, "P-11")(RESISTOR).comparison.row("resistor").stages[-1][1]
        plan = planner(LOCK, "P-11")(RESISTOR | {"starter.timer": f"{share * ends:.3f} s"})
        assert plan.gate("starter.timer").verdict.value == verdict

    def test_against_its_field_a_step_is_solved_at_its_own_slip(self):
        """Turned backwards at full speed: amperes of the circuit by hand at nearly twice synchronous speed of slip."""
        plant = rings.plant()
        shaft = Shaft(plant=plant, firsts=tuple(at_rings(f"{times}", times) for times in rings.OHMS))
        turned = shaft.turned(
            [(0.0, Hung(Hangs.WHOLE, "")), (9.0, Hung(Hangs.FIRST, "", backwards=True, step=1))], 9.01
        )
        at = int(np.searchsorted(turned.time_s, 9.0, side="right")) - 1
        amps, _, _ = rings.by_hand(1 + turned.speed_rpm[at] / 1200, rings.OHMS[1])
        assert turned.line_a[at] == pytest.approx(amps, rel=0.01)

    def test_a_stall_heats_until_its_timer_leaves_the_resistor(self):
        """Behind the reactor by the square of what it lets through, for as long as it stays in."""
        facts = {"start.method": "reactor", "start.series_volts": "65 %", "limits.dip": "20 %"}
        one, other = (planner(LOCK, "B-42")(facts | {"start.method": way}) for way in ("reactor", "full-voltage"))
        row = one.comparison.row("reactor")
        more = row.stages[0][1] * row.motor_share**2
        assert 0.58 < row.motor_share < 0.65  # less what board and run take
        stalls = [plan.gate("protection.stall").value for plan in (one, other)]
        assert stalls[0] - stalls[1] == pytest.approx(more, rel=0.01)


WOUND = {"kind": "wound", "rotor_volts": "240 V", "rotor_current": "48 A"}


class TestRunAgain:
    CASES: ClassVar = {
        "reactor of its own volts": ("P-11", {"method": "reactor", "series_volts": "65 %"}, None),
        "reactor at the tap that was found": ("P-11", {"method": "reactor"}, None),
        "resistor in steps": ("P-11", {"method": "resistor", "resistor_steps": "3"}, None),
        "autotransformer": ("P-11", {"method": "autotransformer"}, None),
        "rotor's resistor": ("D-61", {"method": "rotor-resistor"}, WOUND),
    }

    @pytest.mark.parametrize("name", CASES)
    def test_on_the_planned_volts_it_is_the_plan(self, name):
        tag, start, plate = self.CASES[name]
        plan = side(tag, plate=plate, **start)
        detail = plan.comparison.detail
        run = again(plan.plant, plan.turns, Volts(time_s=np.array(detail.time_s), line_v=plan.own_v()))
        assert run.duration_s == pytest.approx(plan.row.time_s, rel=0.02, abs=0.06)
        assert run.plateau_a == pytest.approx(detail.line_a[0], rel=0.01)

    @pytest.mark.parametrize(("start", "offered"), [({"method": "reactor", "series_volts": "65 %"}, False),
                             ({"method": "full-voltage"}, True)])  # fmt: skip
    def test_what_it_draws_behind_ohms_is_not_offered_as_its_own(self, start, offered):
        from tests.core.test_record_causes import read, record

        plan = side("P-11", **start)
        course, seen, _ = read(plan, record(plan, "none", seed=1, rate_hz=1200.0))
        paths = [one.path for one in offers(course, seen, plan)]
        assert ("plate.locked_rotor_current" in paths) is offered


class TestDirectCurrent:
    def test_the_armature_closes_before_it_runs_and_opens_after_it_is_blocked(self):
        run = ran(SHIPPED["dc-drive"], acts_from("START+ START- w2 STOP+ w2"), 5)
        first = {(one.tag, one.position): one.at_ms for one in reversed(run.events)}
        last = {(one.tag, one.position): one.at_ms for one in run.events}
        assert first["RUN", 2] > first["MA", 2]
        assert last["MA", 1] - last["RUN", 1] > 400
        assert run.connection == "off"

    @pytest.mark.parametrize("guard", ["FL", "OL", "E-STOP"])
    def test_a_guard_opens_line_and_armature_at_once_and_its_reset_starts_nothing(self, guard):
        run = ran(SHIPPED["dc-drive field"], acts_from(f"START+ START- w2 {guard}+ w1 {guard}- w2"), 5)
        last = {(one.tag, one.position): one.at_ms for one in run.events}
        assert last["MA", 1] - last["RUN", 1] < 100
        assert run.connection == "off"

    def test_magnets_have_no_field_to_lose_and_two_lines_two_poles(self):
        assert not any(one.tag == "FL" for one in SHIPPED["dc-drive"].inputs)
        assert dict(SHIPPED["dc-drive two lines"].poles)["K1"] == (("L1", "d1"), ("L2", "d2"))
        assert broken_by(SHIPPED["dc-drive two lines"]) == {}

    def test_its_contactors_carry_what_flows_through_them(self):
        amps = Amps(line=43.0, armature=43.0, input=35.1)
        parts = {one.tag: (one.amps, one.duty) for one in parts_of(SHIPPED["dc-drive"], amps)}
        assert (parts["K1"], parts["MA"]) == ((35.1, "AC-1"), (43.0, "DC-1"))

    def test_stages_of_its_resistor_come_in_turn_after_a_run_and_go_by_their_timer(self):
        """0.8 s after the armature is off, 0.5 s after that; both out 2 s after, and neither as power comes on."""
        circuit = SHIPPED["dc-drive in stages"]
        assert not {one.tag for one in ran(circuit, acts_from("w4"), 4).events} & {"1B", "2B", "CB"}
        run = ran(circuit, acts_from("START+ START- w2 STOP+ STOP- w5"), 4)
        made = {one.tag: one.at_ms for one in reversed(run.events) if one.position == 2}
        off = {one.tag: one.at_ms for one in run.events if one.position == 0}
        assert made["1B"] - off["MA"] == pytest.approx(800, rel=0.06, abs=40)
        assert made["2B"] - made["1B"] == pytest.approx(500, rel=0.06, abs=40)
        assert off["1B"] - off["MA"] == pytest.approx(2000, rel=0.06, abs=60)
        assert run.connection == "off, its armature on its resistor"

    def test_its_resistor_hangs_on_a_rest_pole_that_no_power_is_needed_for(self):
        circuit = SHIPPED["dc-drive on its resistor"]
        assert circuit.rests == (("MA", (("A1", "r1"),)),)
        assert hung_of(circuit, frozenset()).words == "off, its armature on its resistor"
        assert len(circuit.devices) == len(SHIPPED["dc-drive"].devices)

    def test_a_stated_one_that_brakes_on_its_resistor_passes_with_its_stages_timed_by_its_stop(self):
        """Cut out at a half and a quarter of speed, by the slowest stop: exponential, each half of the ohms in half the
        time but for what the load takes.
        """
        plan = planner(LOCK, "P-11")(NEC | {"stop.method": "armature", "stop.armature_stages": "3"})
        assert plan.gate("starter.proof").verdict is Verdict.PASSES
        assert plan.verdict is Verdict.PASSES
        drawn, used = plan.of(STARTER), plan.stopping.used
        times = np.cumsum([drawn.circuit.device(tag).delay_s for tag in ("T1", "T2")])
        assert np.interp(times, used.strip_s, used.strip_pct) == pytest.approx([50, 25], abs=1)
        assert {one.tag: one.amps for one in drawn.parts}["2B"] == pytest.approx(2 * 43)


@pytest.mark.parametrize(
    ("file", "tag", "facts", "amps"),
    [
        (SOUND, "F-3", {"protection.drive_input": None}, 53.0), (SOUND, "F-3", {"protection.drive_input": "61 A"}, 61.0),
        (SOUND, "P-4", {"protection.drive_input": None}, 3 * 10.6),
        (LOCK, "P-11", {"start.method": "drive", "drive.phases": "1"}, 3**0.5 * 92),
    ],
)  # fmt: skip
def test_a_drives_contactor_carries_what_that_takes_in(file, tag, facts, amps):
    """By its plate where it is given; else the motors' amperes, on two lines √3 times them."""
    plan = planner(file, tag)(facts | {"limits.tags": "ics19"})
    assert {one.tag: one.amps for one in plan.of(STARTER).parts}["K1"] == pytest.approx(amps, rel=0.01)


def test_what_never_breaks_away_has_no_moment_to_change_over_at():
    plan = planner(SOUND, "H-1")({"load.kind": "constant", "load.breakaway": "250 %", "start.method": "wye-delta"})
    row = plan.comparison.row("wye-delta")
    assert row.time_s is None
    assert row.last_change_s is None
    assert planner(SOUND, "H-1")().comparison.row("wye-delta").last_change_s > 1
