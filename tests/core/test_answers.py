"""The sentences that stand first on the sheets of stop, place, protection and drive: what they say, and of what."""

import re
from typing import ClassVar

import pytest

from tests.conftest import text_of, whole
from tests.core.random_facts import sampled
from vinegate.core.answer import around, failing, to_settle
from vinegate.core.changed import Difference, answers_changed, facts_changed, verdicts_changed
from vinegate.core.drive.answer import drive_answer
from vinegate.core.drive.stage import DRIVE
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import at_most, rule, unknown
from vinegate.core.place.answer import place_answer
from vinegate.core.plan import plan_raw
from vinegate.core.protection.answer import protection_answer
from vinegate.core.record.duty import most_in_an_hour, starts_gate
from vinegate.core.stop.answer import stop_answer

P11 = whole("harrowmere-lock.json", "P-11")
G21 = whole("harrowmere-lock.json", "G-21")
X51 = whole("harrowmere-lock.json", "X-51")
F3 = whole("skerry-sound.json", "F-3")
P4 = whole("skerry-sound.json", "P-4")
K5 = whole("skerry-sound.json", "K-5")


def said(pieces):
    return "".join(piece.text for piece in pieces)


def test_a_band_that_no_fact_settles_is_to_check_with_what_helps():
    """An estimate's own band about its limit: there is nothing to type."""
    gate = at_most("k", "Harmonics", 7.8, 8.0, sentence="7.8 % of 8 %.", source="", remedy="A choke.", band=(7.0, 8.6))
    assert said(to_settle([gate])) == "To check: harmonics. 7.8 % of 8 %. A choke."
    assert said(to_settle([unknown("k", "Dip", ("a dip limit",))])) == "Not known yet: dip. Give a dip limit."


@pytest.mark.parametrize(("facts", "once"), [
    ({"start.method": "full"}, "Dip 4.8 % of 4 %"),
    ({"start.method": "full", "limits.terminal": "99 %"}, "Terminals keep"),
    ({"start.method": "soft-starter", "start.soft_limit": "2"}, "It hangs at"),
    ({"start.method": "wye-delta", "limits.dip": "2 %"}, "Dip"),
    ({"limits.terminal": "99 %", "limits.dip": "10 %"}, "erminals keep"),
])  # fmt: skip
def test_what_fails_is_said_once(facts, once):
    """At the head; why another way was not taken, or the one that was chosen fails, is not that again."""
    text = said(P11(facts).answer)
    assert text.count(once) == 1
    sentences = [one.lower() for one in re.split(r"[.:] ", text)]
    assert len(sentences) == len(set(sentences))


@pytest.mark.slow
def test_no_answer_says_a_sentence_twice():
    for plan in sampled():
        sentences = [one.lower().rstrip(".") for one in re.split(r"[.:;] ", said(plan.answer)) if len(one) > 24]
        assert len(sentences) == len(set(sentences)), said(plan.answer)


class TestStop:
    def of(self, plan):
        return said(stop_answer(plan.stopping, plan.gate("stop.stop").needs))

    def test_coasting_alone_is_held_against_nothing(self):
        assert self.of(P11()) == "Coasting has it at rest in 13.7 s."

    def test_another_way_says_what_coasting_would_take(self):
        plan = P11({"stop.method": "brake"})
        seconds = plan.stopping.used.time_s
        assert self.of(plan) == f"Spring-set brake has it at rest in {seconds:.3g} s; by itself it takes 13.7 s."

    def test_a_band_of_loads_gives_a_band_of_times(self):
        plan = P11({"stop.method": "brake", "stop.light": "50 %"})
        assert re.search(r"at rest in 0\.\d+ to 0\.\d+ s;", self.of(plan))
        assert plan.stopping.used.least_s < plan.stopping.used.time_s

    def test_a_load_that_runs_away_never_stops_by_itself_and_must_be_held(self):
        text = self.of(G21())
        assert "; by itself it never stops. It must hold at rest: only a spring-set brake does." in text

    def test_a_way_that_never_stops_it_gives_its_reason(self):
        assert self.of(G21({"stop.method": "coast"})).startswith("Coasting: It cannot hold at rest")

    def test_what_lacks_is_asked_for(self):
        assert self.of(P11({"load.kind": None})) == "To say how it stops, give the load."


class TestPlace:
    def test_an_unclassified_place_is_named_and_nothing_is_said_to_pass(self):
        assert said(place_answer(P11().placed)) == "The motor stands in pump house, unclassified."

    def test_a_classified_place_says_that_all_may_stand_there(self):
        text = said(place_answer(K5().placed))
        assert text == "The motor stands in fuel store, Zone 1, IIB: every device may stand where it does."

    def test_what_may_not_stand_there_is_named_with_its_reason(self):
        plan = K5({"plate.ex_marking": "Ex ec IIB T4 Gc"})
        motor = plan.placed.device("motor")
        assert said(place_answer(plan.placed)).endswith(f": the motor may not stand where it does. {motor.why}")

    def test_what_is_not_known_of_a_device_is_said_of_it(self):
        plan = K5({"place.buttons_marking": None, "place.buttons_enclosure": None})
        assert ". Of the " in said(place_answer(plan.placed))
        assert " something is not known." in said(place_answer(plan.placed))

    def test_where_it_stands_not_being_said_is_no_unclassified_place(self):
        text = said(place_answer(P11({"place.motor": None}).placed))
        assert text == "Where the motor stands is not known: nothing is taken as unclassified."


class TestProtection:
    def test_sizes_settings_and_that_all_passes(self):
        text = said(protection_answer(P11().protected))
        assert text == (
            "175 A time-delay fuse, overload of class 10 at 92 A, conductors 1/0 AWG. 1 to confirm on site."
        )
        rated = said(protection_answer(P11({"protection.electronic": "105 A"}).protected))
        assert rated.endswith(". All of this passes.")

    def test_what_fails_stands_behind_it(self):
        assert ". Fails: disconnects on an earth fault." in said(protection_answer(K5().protected))

    def test_nothing_can_be_sized_without_a_plate(self):
        nothing = dict.fromkeys(("plate.power", "plate.full_load_current", "plate.volts"))
        text = said(protection_answer(P11(nothing).protected))
        assert text == "Nothing can be sized yet: give full-load amperes, power, plate volts."


class TestDrive:
    def of(self, plan):
        return said(drive_answer(plan.of(DRIVE), plan.stage("drive")))

    def test_none_is_thought_of(self):
        assert self.of(P11()).startswith("No drive is thought of here")

    def test_in_horsepower_and_of_what_the_plates_say(self):
        """60 hp and 71 A on the motor's plate, 77 A on the drive's, 35 hp asked: all as typed."""
        plan = X51({"start.drive_ramp": "30 s", "start.speed_control": "yes"})
        lead = plan.of(DRIVE).driven.lead
        assert self.of(plan).startswith("At 1780 rpm it takes 35 hp of 60 hp and 71 A of the drive's 77 A. Behind ")
        assert f" its winding sees up to {lead.peak_v / 1000:.3g} kV." in self.of(plan)

    def test_what_a_drive_beside_the_way_in_use_does_not_bear_comes_first(self):
        assert self.of(X51()).startswith("To check: drive's overload on the ramp. On the ramp up 168 A at most")

    def test_the_slow_end_and_what_a_year_saves(self):
        plan = F3()
        driven = plan.of(DRIVE).driven
        slow = driven.rows[-1]
        assert slow.hz == min(row.hz for row in driven.rows)
        text = self.of(plan)
        assert text.startswith("At 2955 r/min it takes 27 kW of 30 kW and 53 A of the drive's 61 A; at ")
        assert f"; at {slow.hz:.3g} Hz it bears {slow.continuous_nm / slow.point.nm:.2g} times what is asked." in text
        assert " Behind 85 m of lead its winding sees up to " in text
        assert f" It saves about {driven.energy.saved_kwh / 1000:.2g} MWh a year at the same flow." in text

    def test_one_speed_has_no_slow_end(self):
        assert "times what is asked" not in self.of(F3({"drive.points": "100 %; ; 1900"}))

    def test_several_motors_are_counted(self):
        assert re.search(r" each takes .* all 3 together [\d.]+ A of the drive's 38 A", self.of(P4()))

    def test_a_drive_without_a_rating_is_only_a_drive(self):
        assert " and 53 A of the drive; at " in self.of(F3({"drive.rated": None}))

    def test_nothing_saved_is_not_spoken_of(self):
        assert "saves" not in self.of(F3({"drive.now": None}))


class TestChanged:
    def test_facts_by_path_with_both_texts(self):
        was = {"job": {"limits": {"dip": "4 %"}}, "circuit": {"plate": {"power": "75 hp", "leads": ""}}}
        now = {"job": {"limits": {"dip": "4 %"}}, "circuit": {"plate": {"power": "60 hp"}, "stop": {"within": "5 s"}}}
        assert facts_changed(was, now) == [
            Difference(key="plate.power", name="plate.power", was="75 hp", now="60 hp"),
            Difference(key="stop.within", name="stop.within", was="", now="5 s"),
        ]
        assert facts_changed(was, was) == []

    def test_a_verdict_that_turned_and_no_other(self):
        soft, full = (P11({"start.method": method}) for method in ("soft-starter", "full-voltage"))
        found = verdicts_changed(soft, full)
        assert ("start.dip", "Dip at the board", "passes", "fails") in [
            (one.key, one.name, one.was, one.now) for one in found
        ]
        assert all(one.was != one.now for one in found)
        assert verdicts_changed(P11(), P11()) == []

    def test_what_is_to_be_fitted_and_set(self):
        was, now = P11(), P11({"protection.overload": "85 A", "start.method": "full-voltage"})
        found = {one.key: (one.was, one.now) for one in answers_changed(was, now)}
        assert found["overload"] == ("92 A", "85 A")
        assert found["verdict"] == ("passes", "fails")
        assert found["start.used.dip"][1].startswith("4.8")
        assert "conductors" not in found
        assert answers_changed(was, was) == []


class TestStartsRecorded:
    """Any sixty minutes: a window that slides, its far end not in it."""

    @pytest.mark.parametrize(
        ("minutes", "most"), [((), 0), ((0,), 1), ((0, 59.9), 2), ((0, 60), 1), ((30, 0, 89.9, 59), 3), ((0, 0, 0), 3)]
    )
    def test_the_most_within_an_hour(self, minutes, most):
        assert most_in_an_hour([60.0 * one for one in minutes]) == most

    @pytest.mark.parametrize(
        ("starts", "per_hour", "verdict"),
        [(3, 3.0, "passes"), (4, 3.0, "fails"), (1, 0.5, "passes"), (2, 0.5, "fails"), (1, None, "not known")],
    )
    def test_against_what_it_is_planned_for(self, starts, per_hour, verdict):
        gate = starts_gate([10.0 * one for one in range(starts)], per_hour)
        assert (gate.verdict.value, gate.weighs) == (verdict, False)

    def test_one_start_and_several_are_spoken_of_as_such(self):
        assert starts_gate([0.0], 2.0).sentence == "1 start recorded within an hour, planned for 2."
        assert starts_gate([0.0, 5.0], 2.0).sentence == "2 starts recorded within an hour, planned for 2."
        assert starts_gate([], 2.0) is None


class TestWhatDecidesBesides:
    """Behind a sheet's own sentence: its own deciding gate by name unless it is told already, then the other sheets'."""

    def of(self, own, plan, *sheets):
        here = [gate for stage in plan.stages if stage.key in sheets for gate in stage.gates]
        return said(around(own, here, [gate for gate in plan.gates if gate not in here]))

    def test_what_fails_here_and_is_not_in_the_sentence_is_named_with_its_reason(self):
        plan = P11({"stop.within": "5 s", "stop.method": "coast"})
        assert self.of(stop_answer(plan.stopping), plan, "stop").startswith(
            " Fails: stops as asked. Coasting: At rest after 13.7 s, 5 s asked."
        )

    def test_what_the_sentence_says_itself_is_not_said_twice(self):
        plan = G21({"stop.method": "coast"})
        own = stop_answer(plan.stopping)
        assert plan.gate("stop.stop").sentence in said(own)
        assert "Fails: " not in self.of(own, plan, "stop")

    def test_what_fails_beside_a_told_check_is_named(self):
        plan = P11({"stop.method": "plugging", "protection.jogging": "no"})
        failing = [gate for gate in plan.gates if gate.fails and gate.key.startswith("stop.")]
        assert [gate.name for gate in failing] == ["Starter's duty"]
        assert self.of(stop_answer(plan.stopping), plan, "stop").startswith(" Fails: starter's duty. ")

    def test_other_sheets_by_their_worst_and_how_many_with_it(self):
        plan = X51()
        bad = [gate for gate in plan.gates if gate.weighs and gate.verdict.value != "passes"]
        assert self.of((), plan).startswith(" On another sheet ")
        assert self.of((), plan).endswith(f", {len(bad) - 1} more with it.") is (len(bad) > 1)

    def test_where_all_passes_nothing_is_added(self):
        assert self.of((), P11(), "stop") == ""


class TestFromAPlateAlone:
    """What a plate says already is not asked for again because something else is missing."""

    PLATE: ClassVar = {"power": "10 hp", "volts": "230/460", "full_load_current": "28/14", "speed": "1750 rpm",
                       "code_letter": "H"}  # fmt: skip

    def asked(self, supply=None, **plate):
        facts = {name: text for name, text in {**self.PLATE, **plate}.items() if text}
        plan = plan_raw(RuleSetName.NEC, {"supply": supply or {}}, {"plate": facts})
        return text_of(plan), {item.path for stage in plan.stages for item in stage.missing}

    @pytest.mark.parametrize(
        "at_rest", [{}, {"code_letter": "", "locked_rotor_current": "162/81"}, {"code_letter": ""}]
    )
    def test_amperes_at_rest_wait_for_the_volts(self, at_rest):
        said, missing = self.asked(**at_rest)
        assert said == (
            "To say how far the volts fall, give system volts, utility fault level or transformer, plate frequency."
        )
        assert "plate.locked_rotor_current" not in missing

    @pytest.mark.parametrize(("plate", "asked"), [({"frequency": "60"}, set()), ({}, {"plate.frequency"}),
                                                  ({"speed": "", "frequency": "60"}, {"plate.speed"})])  # fmt: skip
    def test_of_speed_and_frequency_the_one_that_lacks_is_asked(self, plate, asked):
        _, missing = self.asked({"volts": "480"}, **plate)
        assert missing & {"plate.speed", "plate.frequency", "supply.frequency"} == asked

    def test_what_is_there_of_the_supply_is_not_asked(self):
        supply = {"volts": "480", "transformer_power": "500 kVA", "transformer_impedance": "5 %"}
        said, _ = self.asked(supply, frequency="60")
        assert "To say" not in said


@pytest.mark.parametrize(
    ("name", "within"),
    [("Sensitive load at Digester MCC", "sensitive load at Digester MCC"), ("SF amperes", "SF amperes")],
)
def test_a_headline_leaves_names_as_they_are_written(name, within):
    bad, other = (rule(key, name, False, "It does not.", "a standard") for key in ("a.b", "a.c"))
    for pieces in (failing([bad]), failing([other, bad]), to_settle([unknown("a.b", name, ("it",))])):
        assert within in said(pieces)
    assert said(failing([other, bad])).count(within) == 2
