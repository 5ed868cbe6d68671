"""A new motor in the old one's circuit: what its speed, frame, leads and way of turning change there."""

import math
from typing import ClassVar

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import demo_job
from tests.core.replaced import (
    COMPRESSOR,
    FAN,
    HOIST,
    HYDRAULIC,
    LOCK,
    NOT,
    PUMP,
    SAME,
    SOUND,
    UNKNOWN,
    WITH,
    facts_of,
    row,
)
from tests.examples import examples
from vinegate.core import stages
from vinegate.core.plan import Beside, plan_raw
from vinegate.core.replacement import there
from vinegate.core.replacement.anew import anew, with_new_plate
from vinegate.core.replacement.facts import NewPlate
from vinegate.core.replacement.fits import Fits
from vinegate.core.replacement.frames import differences, frame_of
from vinegate.core.replacement.stage import REPLACEMENT
from vinegate.core.tables import load


class TestSpeed:
    def test_where_its_line_meets_the_loads_curve(self):
        """A square load by hand: k·n² = T_N·(n_s − n)/(n_s − n_N), a quadratic."""
        plan, copied = PUMP
        found = plan(copied | {"new_plate.speed": "1191 rpm", "load.breakaway": None})
        turns, load_ = found.of(REPLACEMENT).turns, found.load
        for rated, settles in ((1185.0, turns.old_rpm), (1191.0, turns.new_rpm)):
            k = load_.torque_nm / load_.full_speed_rpm**2
            slope = (75 * 745.699872 / (rated * math.pi / 30)) / (1200 - rated)
            by_hand = (-slope + math.sqrt(slope**2 + 4 * k * slope * 1200)) / (2 * k)
            assert settles == pytest.approx(by_hand, abs=0.2)

    def test_the_cube_of_the_speeds_is_its_power(self):
        plan, copied = FAN
        turns = plan(copied | {"new_plate.speed": "2970 r/min"}).of(REPLACEMENT).turns
        assert turns.new_w / turns.old_w == pytest.approx((turns.new_rpm / turns.old_rpm) ** 3, rel=2e-3)

    def test_a_better_motor_that_turns_faster_may_save_nothing(self):
        """P-12: 95.4 for 94.1 % would save 2.2 MWh at the same speed; half a per cent more speed eats it."""
        plan, copied = PUMP
        better = {"new_plate.speed": "1191 rpm", "new_plate.efficiency": "95.4 %", "limits.energy_price": "0.14"}
        turns = plan(copied | better).of(REPLACEMENT).turns
        assert turns.saved_money == pytest.approx(0.14 * turns.saved_kwh)
        assert turns.same_speed_kwh > 2000
        assert turns.saved_kwh < 0.05 * turns.same_speed_kwh
        hours = 3000.0
        by_hand = hours * (turns.old_w / 0.941 - turns.new_w / 0.954) / 1000
        assert turns.saved_kwh == pytest.approx(by_hand, abs=1.0)


RINGS = {f"{plate}.{key}": text for plate in ("plate", "new_plate") for key, text in
         (("kind", "wound"), ("rotor_volts", "320 V"), ("rotor_current", "85 A"))}  # fmt: skip


@pytest.mark.parametrize(
    ("changes", "fits"),
    [({}, SAME), ({"new_plate.rotor_current": "90 A"}, NOT), ({"new_plate.rotor_volts": "380 V"}, WITH),
     ({"new_plate.rotor_volts": None}, UNKNOWN), ({"new_plate.rotor_current": "84 A"}, SAME)],
)  # fmt: skip
def test_a_wound_rotors_resistor_was_chosen_by_its_rings(changes, fits):
    plan, copied = PUMP
    assert row(plan(copied | RINGS | changes), "rings").fits is fits


def test_a_wound_rotor_has_no_row_of_a_cages_torque():
    plan, copied = PUMP
    assert "torque" not in {one.key for one in plan(copied | RINGS).of(REPLACEMENT).rows}


FAN_MOTOR = {f"{plate}.{key}": text for plate in ("plate", "new_plate") for key, text in
             (("kind", "permanent-split"), ("power", "1/2 hp"), ("speed", "1075 rpm"), ("full_load_current", "8/4"),
              ("start_capacitor", None))} | {
    "load.kind": "fan-open", "load.power": "0.5 hp", "load.breakaway": None, "replacement.measured_power": None,
    "replacement.old_taps": "1075/900/750", "replacement.new_taps": "1075/900/750",
}  # fmt: skip


class TestTaps:
    def settled(self, power):
        plan, copied = COMPRESSOR
        text = row(plan(copied | FAN_MOTOR | {"load.power": power}), "taps").text
        return [float(one) for one in text.removeprefix("With this load ").partition(" rpm")[0].split(", ")]

    def test_with_the_fan_they_are_stamped_with_the_stamped_speeds_come_back(self):
        assert self.settled("0.5 hp") == [1075, 900, 750]

    def test_a_lighter_fan_turns_faster_and_a_heavier_one_slower(self):
        """Kloss through 1075 with 1.8 at breakdown, worked in docs/worked/replacement.md."""
        assert self.settled("0.375 hp") == pytest.approx([1104.5, 976.0, 859.8], abs=0.6)
        assert self.settled("0.6 hp") == pytest.approx([1051.5, 838.6, 676.3], abs=0.6)

    @pytest.mark.parametrize(
        ("changes", "fits"),
        [({}, SAME), ({"replacement.new_taps": "1075/890/740"}, SAME), ({"replacement.new_taps": "1075/880/735"}, WITH),
         ({"replacement.new_taps": "1075/850/700"}, NOT), ({"replacement.new_taps": "1075/750"}, NOT),
         ({"replacement.new_taps": "1075/900/750/600"}, WITH), ({"replacement.new_taps": None}, UNKNOWN),
         ({"replacement.new_taps": "1000/900"}, UNKNOWN), ({"replacement.new_taps": "1075/1100"}, UNKNOWN),
         ({"load.kind": None}, UNKNOWN)],
    )  # fmt: skip
    def test_each_on_its_side(self, changes, fits):
        plan, copied = COMPRESSOR
        found = row(plan(copied | FAN_MOTOR | changes), "taps")
        assert found.fits is fits, (found.text, found.needs)

    def test_a_load_that_a_tap_does_not_carry(self):
        plan, copied = COMPRESSOR
        heavy = {"load.kind": "constant", "load.power": "0.5 hp"}
        found = row(plan(copied | FAN_MOTOR | heavy), "taps")
        assert found.fits is NOT
        assert "does not carry it" in found.text


class TestFrames:
    def test_every_row_is_read_by_its_name(self):
        for one in load("frame_dimension").rows:
            found = frame_of(one["frame"])
            assert found.name == one["frame"]
            assert found.shaft < found.height

    @given(st.sampled_from([one["frame"] for one in load("frame_dimension").rows]))
    @examples(30)
    def test_a_frame_fits_itself(self, name):
        assert differences(frame_of(name), frame_of(name)) == []

    def test_inches_against_millimetres(self):
        """184T stands 114.3 mm high, 112M 112 mm: 2.3 mm of shims, other holes, a thinner shaft."""
        words = " ".join(differences(frame_of("184T"), frame_of("112M")))
        assert "shim it up 2.3 mm" in words
        assert "bushing from 28.57 mm to 28 mm" in words
        assert "190 × 140 mm for 190 × 140 mm" not in words

    def test_twins_stand_on_each_others_holes(self):
        """The IEC series was cut from the inch one: 15 pairs of feet agree within bolt clearance, with other shafts."""
        inch, metric = ([frame_of(one["frame"]) for one in load("frame_dimension").rows if one["unit"] == unit]
                        for unit in ("in", "mm"))  # fmt: skip
        twins = {
            (one.name, other.name) for one in inch for other in metric
            if one.name.endswith("T") and not any("drilled" in words for words in differences(one, other))
        }  # fmt: skip
        assert len(twins) == 15
        assert {("184T", "112M"), ("215T", "132M"), ("256T", "160L"), ("365T", "225M"), ("445T", "280M")} <= twins
        assert all(frame_of(one).shaft != frame_of(other).shaft for one, other in twins)

    def test_a_longer_number_is_not_taken_for_a_shorter_one(self):
        assert frame_of("1843T") is None
        assert frame_of("FR 184TC").name == "184T"
        assert frame_of("254U").shaft < frame_of("254T").shaft


class TestAnew:
    def test_a_hungrier_motor_sets_the_overload_and_the_start_anew(self):
        facts = facts_of(LOCK, "C-71")
        demo = demo_job(LOCK)
        old, new = (plan_raw(demo.rules, demo.facts, raw) for raw in (facts, with_new_plate(facts)))
        found = {one.name: one for one in anew(old, new)}
        assert found["Overload, class 10"].new == "27 A"
        assert found["Start, amperes at most"].changes
        assert not found["Conductors"].changes

    def test_a_drive_learns_the_new_plate(self):
        facts, demo = facts_of(SOUND, "F-3"), demo_job(SOUND)
        raw = facts | {"new_plate": facts["plate"] | {"full_load_current": "55", "speed": "2960 r/min"}}
        old, new = (plan_raw(demo.rules, demo.facts, one) for one in (facts, with_new_plate(raw)))
        found = [one for one in anew(old, new) if one.name.startswith("Drive: ")]
        assert any(one.new == "55 A" for one in found)
        assert all(one.changes for one in found)

    def test_what_is_known_of_the_rest_stays_known(self):
        """Only the old motor's own facts and their sources go."""
        facts = facts_of(LOCK, "C-71") | {"sources": {"load.power": "measured", "plate.speed": "measured"}}
        facts["protection"] = facts["protection"] | {"overload": "28 A"}
        after = with_new_plate(facts)
        assert after["sources"] == {"load.power": "measured"}
        assert "overload" not in after["protection"]
        assert "new_plate" not in after

    def test_what_is_known_of_the_new_machine_goes_with_its_plate(self):
        facts = facts_of(LOCK, "P-11") | {"machine": {"inertia": "0.9 kg·m²"}, "new_plate": {"power": "75 hp"}}
        assert with_new_plate(facts | {"new_machine": {"stall_hot": "12 s"}})["machine"] == {"stall_hot": "12 s"}
        assert "machine" not in with_new_plate(facts)

    OTHER: ClassVar = {"volts": "400", "frequency": "50 Hz", "speed": "985 rpm", "full_load_current": "87",
                       "power": "46.6 kW", "code_letter": "G", "efficiency": "94 %", "power_factor": "0.82"}  # fmt: skip

    def test_a_plate_of_another_frequency_is_taken_over_as_it_is_used(self):
        """400 V at 50 Hz are 480 V at 60: six fifths of its power, slip of 15 rpm and its amperes and letter kept."""
        demo, facts = demo_job(LOCK), facts_of(LOCK, "P-11") | {"new_plate": self.OTHER}
        used = plan_raw(demo.rules, demo.facts, facts).of(REPLACEMENT).used
        after = with_new_plate(facts, used)
        asked = {"volts": "480", "frequency": "60 Hz", "speed": "1185 rpm", "power": "55.92 kW"}
        assert after["plate"] == self.OTHER | asked
        assert after["sources"]["plate.volts"] == "stated"
        plan = plan_raw(demo.rules, demo.facts, after)
        assert {plan.gate(key).verdict for key in ("plate.volts", "plate.frequency", "start.terminals")} == {"passes"}

    @pytest.mark.parametrize(("volts", "used"), [("460", ()), ("360", ())])
    def test_one_whose_volts_are_not_in_that_measure_is_as_stamped(self, volts, used):
        demo, facts = demo_job(LOCK), facts_of(LOCK, "P-11") | {"new_plate": self.OTHER | {"volts": volts}}
        assert plan_raw(demo.rules, demo.facts, facts).of(REPLACEMENT).used == used

    @pytest.mark.parametrize(("at_rest", "fits"), [("620 A", SAME), ("760 A", NOT)])
    def test_the_circuit_is_judged_with_what_it_gets_here(self, at_rest, fits):
        """Of 480 V and not of 400, on terminals and dip: the amperes at rest alone decide."""
        plan, _ = PUMP
        fields = self.OTHER | {"code_letter": None, "locked_rotor_current": at_rest, "design_letter": "B"}
        new = {
            f"new_plate.{name}": text
            for name, text in (fields | {"enclosure": "TEFC", "insulation_class": "F"}).items()
        }
        new |= {"new_machine.stall_hot": "20 s", "new_machine.stall_cold": "28 s"}
        found = plan(new | {"start.method": "full", "limits.dip": "5.5 %", "load.power": "60 hp"})
        assert row(found, "circuit").fits is fits

    def test_nothing_changes_with_the_same_plate(self):
        facts = facts_of(LOCK, "P-11")
        same = facts | {"new_plate": facts["plate"]}
        demo = demo_job(LOCK)
        after = with_new_plate(same)
        assert after["plate"] == facts["plate"]
        assert "machine" not in after  # measured of the old one
        found = anew(plan_raw(demo.rules, demo.facts, after), plan_raw(demo.rules, demo.facts, after))
        assert not any(one.changes for one in found)


def test_every_field_of_a_plate_may_stand_on_the_new_one():
    assert set(NewPlate.fields()) >= {"power", "volts", "frame", "start_capacitor"}


def _beside(tag, new_plate, facts, height="", **parts):
    """Rows of a circuit whose new plate is its old one with changes."""
    for name in ("harrowmere-lock.json", "skerry-sound.json"):
        found = demo_job(name)
        if tag in dict(found.circuits):
            own = dict(dict(found.circuits)[tag])
            own["new_plate"] = {**own["plate"], **new_plate}
            own["replacement"] = facts
            for key, fields in parts.items():
                own[key] = {**(own.get(key) or {}), **fields}
            job = dict(found.facts)
            if height:
                area = own["place"]["motor"]
                job[area] = {**job[area], "altitude": height}
            plan = plan_raw(found.rules, job, own, beside=Beside.DOCUMENT)
            return {row.key: row for row in plan.found["replacement"].rows}
    raise KeyError(tag)


def test_height_is_asked_above_a_thousand_metres_only():
    assert "altitude" not in _beside("D-61", {}, {}, "1000 m")
    high = "1800 m"
    assert _beside("D-61", {}, {}, high)["altitude"].fits is Fits.UNKNOWN
    assert _beside("D-61", {}, {"altitude": "1800 m"}, high)["altitude"].fits is Fits.SAME
    low = _beside("D-61", {}, {"altitude": "1000 m"}, high)["altitude"]
    assert low.fits is Fits.NOT
    assert "8 % more" in low.text


def test_a_drive_that_closes_its_loop_asks_for_an_encoder():
    loop = {"drive": {"control": "encoder"}}
    assert "encoder" not in _beside("F-3", {}, {"has_encoder": "no"})
    assert _beside("F-3", {}, {}, **loop)["encoder"].fits is Fits.UNKNOWN
    assert _beside("F-3", {}, {"has_encoder": "no"}, **loop)["encoder"].fits is Fits.NOT
    assert _beside("F-3", {}, {"has_encoder": "yes"}, **loop)["encoder"].fits is Fits.WITH


@pytest.mark.parametrize(("idle", "share", "fits"), [("8 A", 0.94, SAME), ("8 A", 1.06, NOT), ("8 A", 1.0, UNKNOWN)])
def test_capacitors_are_held_against_what_the_new_one_idles_with(idle, share, fits):
    """Nine tenths of √3·U·I_0; amperes that were read may be a twentieth off."""
    plan, copied = HYDRAULIC
    kvar = share * 0.9 * math.sqrt(3) * 0.4 * 8
    asked = {"replacement.capacitor_power": f"{kvar:.4f} kvar", "start.method": "full-voltage"}
    assert row(plan(copied | asked | {"new_machine.no_load_current": idle}), "capacitor").fits is fits
    assert "capacitor" not in {one.key for one in plan(copied).of(REPLACEMENT).rows}
    assert _beside("F-3", {}, {"capacitor_power": "6 kvar"})["capacitor"].fits is Fits.NOT  # behind a drive


class TestTheCircuitWithIt:
    def test_every_stage_ahead_of_it_is_asked(self):
        """One that is put ahead later must be judged with the new motor too."""
        assert stages.STAGES[: stages.STAGES.index(REPLACEMENT)] == there._AHEAD

    def test_a_copy_turns_nothing(self):
        for plan, copied in (PUMP, COMPRESSOR, HYDRAULIC, FAN, HOIST):
            assert row(plan(copied | {"replacement.drive_ready": "yes"}), "circuit").fits is SAME

    @pytest.mark.parametrize(
        ("circuit", "changes", "fits", "said"),
        [
            (PUMP, {"limits.start_current": "500 A"}, SAME, "Nothing"),  # the old one's fails there too
            (PUMP, {"new_plate.code_letter": "M"}, NOT, "Dip"),
            (HYDRAULIC, {"new_machine.stall_hot": "2 s", "new_machine.stall_cold": "3 s"}, NOT, "heats"),
            (PUMP, {"new_machine.stall_hot": None, "new_machine.stall_cold": None}, UNKNOWN, "stall"),
        ],
    )
    def test_what_passes_now_must_pass_with_it(self, circuit, changes, fits, said):
        plan, copied = circuit
        found = row(plan(copied | changes), "circuit")
        assert found.fits is fits, found
        assert said.casefold() in (found.text + " ".join(found.needs)).casefold()

    def test_of_a_plate_that_does_not_add_up_nothing_follows(self):
        plan, copied = PUMP
        found = plan(copied | {"new_plate.full_load_current": "60/30"}).of(REPLACEMENT)
        assert "circuit" not in {one.key for one in found.rows}


def test_a_sheave_for_the_new_speed_keeps_the_old_load():
    """It turns faster and would be asked more than its rating: not where that is made good."""
    plan, copied = PUMP
    faster = copied | {"new_plate.speed": "1197 rpm", "load.power": "75 hp"}
    assert row(plan(faster), "speed").fits is NOT
    assert row(plan(faster | {"replacement.adjusted": "yes"}), "speed").fits is WITH


ONE_WAY = {"replacement.one_way": "yes"}

CW, CCW, BACK = "CW DE", "CCW DE", "CCW seen from the lead end"


@pytest.mark.parametrize(
    ("by", "old", "new", "turned", "way"),
    [
        ("leads", None, None, SAME, WITH), ("stator", None, None, WITH, WITH), ("never", None, None, UNKNOWN, WITH),
        ("never", CW, CW, SAME, WITH), ("never", CW, CCW, NOT, NOT), ("never", CW, BACK, SAME, WITH),
        ("never", CW, "CW", UNKNOWN, WITH), ("leads", CW, CCW, SAME, WITH),
    ],
)  # fmt: skip
def test_which_way_it_turns_is_told_from_one_end(by, old, new, turned, way):
    plan, copied = COMPRESSOR
    found = plan(copied | ONE_WAY | {"replacement.reversed_by": by, "plate.rotation": old, "new_plate.rotation": new})
    assert (row(found, "reversing").fits, row(found, "rotation").fits) == (turned, way)
    either = plan(copied | {"replacement.reversed_by": "never", "plate.rotation": old, "new_plate.rotation": new})
    assert row(either, "reversing").fits is SAME


def test_three_phases_are_turned_by_two_leads():
    plan, copied = PUMP
    turned = ONE_WAY | {"plate.rotation": CW, "new_plate.rotation": CCW}
    assert row(plan(copied | turned), "rotation").fits is UNKNOWN  # its fan may be for one way
    assert row(plan(copied | turned | {"replacement.reversed_by": "never"}), "rotation").fits is NOT
    found = plan(copied | turned | {"replacement.reversed_by": "leads"})
    assert row(found, "rotation").fits is WITH
    assert "two leads" in row(found, "rotation").task
    assert "reversing" not in {one.key for one in found.of(REPLACEMENT).rows}


def test_what_a_heavier_motor_asks_of_stop_and_place_is_listed():
    """A rotor of more inertia stops with more energy; a listing that is not there turns the place."""
    raw, demo = facts_of(LOCK, "G-21"), demo_job(LOCK)
    heavy = raw | {"new_plate": raw["plate"], "new_machine": (raw.get("machine") or {}) | {"inertia": "2 kg·m²"}}
    old, new = (plan_raw(demo.rules, demo.facts, one) for one in (raw, with_new_plate(heavy)))
    found = {one.name: one for one in anew(old, new)}
    assert found["Stop, energy"].changes
    assert found["Brake, heat a stop"].changes
    stirrer = facts_of(LOCK, "M-41")
    old, new = (plan_raw(demo.rules, demo.facts, one) for one in (stirrer, with_new_plate(stirrer)))
    found = {one.name: one for one in anew(old, new)}
    assert found["Motor in its area"].new == "fails"


def test_kinds_of_one_phase_break_away_in_their_order():
    """NEMA MG 1 12.32 and usual: 40 to 80, 30 to 100, 100 to 175, 200 to 400 per cent, each in place of the one before."""
    kinds = ["shaded-pole", "permanent-split", "split-phase", "capacitor-start"]
    plan, copied = COMPRESSOR
    for place, old in enumerate(kinds):
        for other, new in enumerate(kinds):
            found = row(plan(copied | {"plate.kind": old, "new_plate.kind": new}), "single").fits
            assert found is (SAME if place == other else WITH if other > place else NOT), (old, new)


def test_another_frequency_is_not_called_another_number_of_poles():
    plan, base = PUMP

    def said(**facts):
        return row(plan(base | {f"new_plate.{name}": text for name, text in facts.items()}), "speed").text

    assert said(frequency="50 Hz", speed="985 rpm") == (
        "As many poles: at 60 Hz it turns about as fast, though made for 50 Hz."
    )
    assert said(speed="1785 rpm") == "Another number of poles: 1.5 × as fast."
    assert said(frequency="50 Hz", speed="1485 rpm").startswith("Another number of poles: 1.25")
