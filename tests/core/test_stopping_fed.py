"""Stops by what feeds the machine, and by their energy."""

import math
from typing import ClassVar

import pytest

from tests.conftest import planner, stops
from vinegate.core.grade import Kind, Verdict

LOCK, SKERRY = "harrowmere-lock.json", "skerry-sound.json"


class TestAsItIsFed:
    """A ramp takes a drive; on a drive's output no contactor brakes."""

    @pytest.mark.parametrize("method", ["drive", "regen"])
    def test_a_ramp_without_a_drive_fails_and_from_one_it_does_not(self, method):
        plan = stops(LOCK, "D-61")({"stop.method": method})  # of its start nothing is said: from that drive
        assert (plan.comparison.chosen, plan.gate("stop.stop").verdict) == ("drive", Verdict.PASSES)
        assert "only a drive gives that" in plan.comparison.row("full-voltage").why
        gate = stops(LOCK, "D-61")({"stop.method": method, "start.method": "full-voltage"}).gate("stop.stop")
        assert gate.verdict is Verdict.FAILS
        assert "no drive is there" in gate.sentence
        driven = {"start.method": "drive", "start.speed_control": "yes", "stop.method": method}
        assert stops(LOCK, "D-61")(driven).gate("stop.stop").verdict is Verdict.PASSES

    @pytest.mark.parametrize("method", ["dc", "plugging"])
    def test_what_brakes_by_contactors_fails_on_a_drive_and_passes_on_the_line(self, method):
        assert stops(SKERRY, "F-3")({"stop.method": method}).gate("stop.stop").verdict is Verdict.FAILS
        direct = {"start.method": "full-voltage", "start.speed_control": None, "stop.method": method}
        assert stops(SKERRY, "P-4")(direct).gate("stop.stop").verdict is Verdict.PASSES

    def test_beside_the_way_in_use_a_ramp_is_to_check_and_is_not_advised(self):
        found = stops(LOCK, "M-41")({"stop.within": "4 s", "stop.drive_ramp": "3 s"}).stopping
        assert found.row("drive").verdict is Verdict.CHECK
        assert found.row("drive").why.startswith("Once it is started from a drive.")
        assert found.row("drive").room < 0
        assert stops(SKERRY, "F-3")({"stop.method": None}).stopping.row("drive").verdict is Verdict.PASSES

    @pytest.mark.parametrize(
        ("within", "category", "method"),
        [
            (None, None, "coast"), ("60 s", None, "brake"), ("60 s", "0", "brake"), ("60 s", "1", "dc"),
            (None, "0", "coast"), (None, "1", "dc"),
        ],
    )  # fmt: skip
    def test_what_is_advised_serves_in_an_emergency_too(self, within, category, method):
        """It coasts for 362 s; category 1 slows it before power is cut, category 0 cuts power at once."""
        plan = stops(LOCK, "X-51")({"stop.method": None, "stop.within": within, "stop.emergency": category})
        assert plan.stopping.chosen == method
        assert not [gate for gate in plan.gates if gate.key.startswith("stop.") and gate.verdict is Verdict.FAILS]

    @pytest.mark.parametrize(
        ("start", "fed", "method", "verdict"),
        [
            # without its torques full voltage is to check, and a drive advised: what feeds the coil changes with it
            (None, "contactor", "drive", Verdict.CHECK), (None, "motor", "drive", Verdict.CHECK),
            ("drive", "contactor", "drive", Verdict.FAILS), ("full-voltage", "contactor", "full-voltage", Verdict.PASSES),
            # a drive's contact is of a drive
            (None, "running", "drive", Verdict.PASSES), ("full-voltage", "running", "full-voltage", Verdict.FAILS),
        ],
    )  # fmt: skip
    def test_what_feeds_the_coil_fails_by_no_mere_advice(self, start, fed, method, verdict):
        facts = {"machine.locked_rotor_torque": None, "start.method": start, "stop.release_from": fed}
        plan = stops(SKERRY, "W-2")(facts | {"stop.method": "brake"})
        assert (plan.comparison.chosen, plan.gate("stop.release").verdict) == (method, verdict)

    def test_while_its_start_is_not_known_nothing_is_said_of_a_drive(self):
        plan = stops(LOCK, "D-61")(
            {"stop.method": "drive", "start.method": None, "wiring.size": None, "supply.volts": None}
        )
        assert plan.comparison is None
        assert "no drive is there" not in plan.gate("stop.stop").sentence


def test_less_power_coasts_longer_and_what_settles_a_direct_stop_says_so():
    """No "passes under 653 hp" because a load of that power stands before the delay."""
    gate = stops(LOCK, "P-11")({"stop.method": "dc", "stop.within": "5 s", "load.power": None}).gate("stop.stop")
    assert gate.verdict is Verdict.CHECK
    assert gate.turns.passes.startswith("from")


def test_a_starter_that_plugs_is_sized_for_it():
    rake = stops(LOCK, "R-31")
    assert rake().gate("stop.duty").verdict is Verdict.PASSES
    assert rake({"protection.jogging": "no"}).gate("stop.duty").verdict is Verdict.FAILS


def test_starts_and_stops_together_against_the_rated_loss():
    pump = stops(LOCK, "P-11")
    started = pump().gate("start.per_hour").value
    few, many = (pump({"stop.method": "plugging", "stop.per_hour": text}).gate("stop.per_hour").value for text in "48")
    assert many - started == pytest.approx(2 * (few - started))
    assert few > started


@pytest.mark.parametrize("method", ["dc", "plugging"])
def test_a_maker_s_curve_leaves_braking_to_a_circuit_behind_it(method):
    """A table of torque and amperes says nothing of a standing field or of reversed phases: its plate and it do."""
    points = "0,150,6\n600,140,5.8\n1200,160,5.2\n1500,210,4.6\n1620,240,3.9\n1700,170,2\n1750,100,1\n1790,20,0.5"
    rake = {"machine.inertia": "0.01 kg·m²", "stop.method": method}
    plate = stops(LOCK, "R-31")(rake)
    curve = stops(LOCK, "R-31")(rake | {"machine.curve": f"speed_rpm,torque_%,current_x\n{points}"})
    assert curve.gate("stop.stop").verdict is plate.gate("stop.stop").verdict


def test_a_direct_current_machine_has_its_own_ways():
    dc = {"plate.kind": "dc-shunt", "plate.volts": "240", "plate.full_load_current": "53", "plate.speed": "1750 rpm"}
    dc |= {"plate.power": "15 hp", "stop.method": None, "stop.within": "8 s", "stop.light": None, "stop.friction": None}
    bare = stops(LOCK, "R-31")(dc)
    assert bare.gate("stop.stop").needs == ("rotor inertia",)
    dc |= {"machine.inertia": "0.12 kg·m²"}
    found = stops(LOCK, "R-31")(dc).stopping
    assert [row.method for row in found.rows] == ["coast", "brake", "armature"]
    odd = stops(LOCK, "R-31")(dc | {"stop.method": "plugging"})
    assert odd.gate("stop.stop").verdict is Verdict.FAILS
    assert "no way to stop" in odd.gate("stop.stop").sentence
    series = stops(LOCK, "R-31")(dc | {"plate.kind": "dc-series"}).stopping.row("armature")
    assert "must be fed by itself" in series.caution


class TestDirectCurrent:
    """Its volts, its timer, and what it asks of winding and shaft."""

    X51: ClassVar = {"stop.method": "dc", "stop.dc_current": "178 A"}

    def test_a_measured_winding_gives_its_volts(self):
        """0.24 Ω between two leads: 42.7 V for 178 A; the fitted circuit is no part of it."""
        plan = stops(LOCK, "X-51")(self.X51 | {"machine.dc_resistance": "0.24 Ω"})
        assert plan.figure("stop.direct_volts").value == pytest.approx(0.24 * 178)
        assert plan.figure("stop.r1").provenance == "stated"
        short = stops(LOCK, "X-51")(self.X51 | {"machine.dc_resistance": "0.24 Ω", "stop.dc_supply": "42 V"})
        assert short.gate("stop.direct").verdict is Verdict.FAILS
        ample = stops(LOCK, "X-51")(self.X51 | {"machine.dc_resistance": "0.24 Ω", "stop.dc_supply": "60 V"})
        assert ample.gate("stop.direct").verdict is Verdict.PASSES

    def test_an_estimated_winding_does_not_settle_it(self):
        plan = stops(LOCK, "X-51")(self.X51 | {"stop.dc_supply": "45 V"})
        assert plan.gate("stop.direct").verdict is Verdict.CHECK

    def test_the_timer_cuts_the_course(self):
        """Opened half way, the bowl coasts on: later at rest than with the current left on, and the row fails."""
        full = stops(LOCK, "X-51")(self.X51).stopping.row("dc")
        cut = stops(LOCK, "X-51")(self.X51 | {"stop.dc_time": "15 s"})
        row = cut.stopping.row("dc")
        assert cut.figure("stop.timer").value == 15
        assert row.time_s is None or row.time_s > 1.2 * full.time_s
        assert row.verdict is Verdict.FAILS
        after = [amps for seconds, amps in zip(row.strip_s, row.strip_a, strict=True) if seconds > 16]
        assert max(after) == 0

    def test_above_two_and_a_half_times_its_maker_is_asked(self):
        asks = stops(LOCK, "X-51")({"stop.method": "dc", "stop.dc_current": "250 A"})
        assert (asks.gate("stop.direct_times").kind, asks.gate("stop.direct_times").verdict) == (
            Kind.CONFIRM,
            Verdict.UNKNOWN,
        )
        borne = stops(LOCK, "X-51")({"stop.method": "dc", "stop.dc_current": "170 A"})
        assert borne.gate("stop.direct_times").verdict is Verdict.PASSES


def test_hoists_and_emergency_stops_by_the_rule_sets_own_papers():
    nec, iec = stops(LOCK, "G-21")({"stop.emergency": "0"}), stops(SKERRY, "W-2")()
    assert "article 610" in nec.gate("stop.hoist").source
    assert iec.gate("stop.hoist").source == "IEC 60204-32:2008"
    assert "610" not in iec.gate("stop.hoist").sentence
    assert "NFPA 79" in nec.gate("stop.emergency").source
    assert "IEC 60204-1" in iec.gate("stop.emergency").source


@pytest.mark.parametrize(("stall", "verdict"), [("34 s", "passes"), (None, "not known")])
def test_a_slow_class_is_on_its_makers_word(stall, verdict):
    slow = {"protection.trip_class": "30", "machine.stall_hot": stall, "machine.stall_cold": stall}
    assert stops(LOCK, "P-11")(slow).gate("protection.slow_class").verdict == verdict
    assert not any(gate.key == "protection.slow_class" for gate in stops(LOCK, "P-11")().gates)


def test_the_usual_direct_current_is_two_and_a_half_times_rated():
    """92 A on the plate; a time that is asked finds its own."""
    pump = stops(LOCK, "P-11")
    assert pump({"stop.method": "dc"}).stopping.used.setting == "230 A"
    assert pump({"stop.method": "dc", "stop.dc_current": "150 A"}).stopping.used.setting == "150 A"


def test_the_largest_braking_torque_is_told_of_the_rated_one():
    """60 hp at 1780 r/min are 240 N·m: the row's peak over that, in per cent."""
    plan = stops(LOCK, "X-51")()
    rated_nm = 60 * 745.7 / (1780 * math.pi / 30)
    times = plan.stopping.row("dc").peak_nm / rated_nm
    assert plan.figure("stop.direct_peak").value == pytest.approx(100 * times, rel=0.02)


def test_heat_of_stops_is_counted_with_that_of_their_starts():
    """No number of either, or nothing that heats the machine: no mean. Stops alone: their starts heat it too."""
    plan = stops(LOCK, "X-51")

    def judged(**facts):
        found = plan({key.replace("__", "."): text for key, text in facts.items()})
        return {gate.key: gate.verdict for stage in found.stages for gate in stage.gates}.get("stop.per_hour")

    assert judged() is Verdict.PASSES
    assert judged(start__starts_per_hour="4", stop__per_hour="4") is Verdict.FAILS
    assert judged(stop__per_hour="2", start__starts_per_hour=None) is Verdict.UNKNOWN
    assert judged(start__starts_per_hour=None, stop__per_hour=None) is None
    assert judged(stop__method="coast") is None


@pytest.mark.parametrize(("people", "said"), [(None, True), ("yes", False), ("no", False)])
def test_whether_people_can_reach_it_is_missed_where_it_is_not_said(people, said):
    plan = stops("harrowmere-lock.json", "P-11")({"stop.people": people})
    notes = [note for stage in plan.stages for note in stage.notes if "Whether people can reach it" in note]
    assert bool(notes) is said


def test_a_distance_asked_of_a_load_whose_line_speed_nobody_gave_is_not_known():
    """Neither passed nor failed by its time; what fails by its time fails."""
    plan = stops("harrowmere-lock.json", "P-11")
    facts = {"stop.method": "brake", "stop.within": "30 s", "stop.brake_torque": "700 N·m"}
    alone, far = plan(facts).gate("stop.stop"), plan(facts | {"stop.distance": "2 m"}).gate("stop.stop")
    assert (alone.verdict, alone.margin) == (Verdict.PASSES, pytest.approx(30 - alone.value))
    assert (far.verdict, far.needs) == (Verdict.UNKNOWN, ("the load's line speed",))
    assert plan(facts | {"stop.distance": "2 m", "stop.within": "0.1 s"}).gate("stop.stop").verdict is Verdict.FAILS


def test_what_fails_by_something_else_than_its_time_has_no_margin_of_time():
    """It coasts to rest within the minute that is asked, and holds nothing then."""
    facts = {"stop.method": "coast", "stop.within": "60 s", "stop.emergency": None}
    plan = stops("harrowmere-lock.json", "P-11")
    free, held = (plan(facts | {"stop.hold": hold}).gate("stop.stop") for hold in ("no", "yes"))
    assert (free.verdict, free.margin) == (Verdict.PASSES, pytest.approx(60 - free.value))
    assert (held.verdict, held.margin) == (Verdict.FAILS, None)


@pytest.mark.parametrize(
    ("ohms", "verdict", "limit"),
    [("159 Ω", Verdict.FAILS, 160), ("160 Ω", Verdict.PASSES, None), ("300 Ω", Verdict.FAILS, None)],
)
def test_a_braking_resistor_lies_between_what_the_drive_bears_and_the_stop_needs(ohms, verdict, limit):
    gate = stops("skerry-sound.json", "F-3")({"stop.drive_least": "160 Ω", "stop.resistor": ohms}).gate("stop.ohms")
    assert gate.verdict is verdict
    assert (gate.margin < 0) is (verdict is Verdict.FAILS)
    if limit:
        assert gate.limit == limit


def test_friction_that_may_be_more_or_less_widens_the_time_it_coasts():
    """In proportion: with a fifth less a steady load takes a quarter longer to rest, with a fifth more a sixth less."""
    base = {"stop.method": "coast", "load.kind": "constant", "stop.light": None}
    sure, rough = (stops(LOCK, "M-41")(base | {"stop.friction": said}).stopping.row("coast") for said in (None, "20 %"))
    assert rough.time_s / sure.time_s == pytest.approx(1 / 0.8, rel=0.02)
    assert rough.least_s / sure.time_s == pytest.approx(1 / 1.2, rel=0.02)


@pytest.mark.parametrize(
    ("breakdown", "verdict"), [(None, "check"), ("160 %", "fails"), ("235 %", "passes"), ("300 %", "passes")]
)
def test_a_drive_brakes_with_no_more_than_its_machine_bears(breakdown, verdict):
    """A ramp of 8 s asks nearly what 1/1.3 of twice rated torque gives: nobody said that it has that."""
    ramp = {"start.method": "drive", "start.drive_limit": "2", "drive.points": None, "stop.method": "regen",
            "stop.within": "8 s", "stop.drive_ramp": None, "stop.resistor": None, "load.inertia": "2.5 kg·m²",
            "machine.inertia": "0.3 kg·m²", "machine.locked_rotor_torque": None}  # fmt: skip
    gate = planner("skerry-sound.json", "F-3")({**ramp, "machine.breakdown_torque": breakdown}).gate("stop.stop")
    assert gate.verdict == verdict, gate.sentence
    if verdict == "check":
        assert gate.turns.path == "machine.breakdown_torque"
        assert "may or may not" in gate.sentence  # it is the ramp that asks too much, not the time
