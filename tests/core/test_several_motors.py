"""Several motors on one drive: what is ahead of it carries them all, what is behind it is of each."""

import pytest

from tests.conftest import planner, whole
from vinegate.core.grade import Verdict
from vinegate.core.start.restart import profile_of
from vinegate.core.summary import guard_of

P4 = "skerry-sound.json", "P-4"
ONE, THREE = {"drive.motors": "1"}, {"drive.motors": "3"}


@pytest.fixture(scope="module")
def plans():
    p4 = planner(*P4)
    return p4(ONE), p4(THREE)


def test_the_line_sees_three_and_each_motor_itself(plans):
    one, three = (plan.comparison.row(plan.comparison.chosen) for plan in plans)
    assert one.method == three.method == "drive"
    assert three.peak_a == pytest.approx(3 * one.peak_a)
    assert three.motor_a == pytest.approx(one.motor_a)
    assert three.times_rated == pytest.approx(one.times_rated)
    assert three.dip_pct == pytest.approx(3 * one.dip_pct, rel=0.02)  # small dips add
    assert three.time_s == pytest.approx(one.time_s)


@pytest.mark.parametrize(
    ("facts", "asks"), [(ONE, 10.6), (THREE, 31.8), (THREE | {"protection.drive_input": "29 A"}, 29)]
)
def test_the_run_is_advised_for_all_of_them(facts, asks):
    """Where its drive's input is not given, what they draw."""
    plan = planner(*P4)({"protection.drive_input": None} | facts)
    assert plan.protected.device("conductors").asked.partition(",")[0] == f"≥ {asks:g} A"


def test_after_an_outage_all_of_them_run_on(plans):
    one, three = (profile_of(plan) for plan in plans)
    assert three.rated_a == pytest.approx(3 * one.rated_a, rel=0.01)
    assert max(three.line_a) == pytest.approx(3 * max(one.line_a), rel=0.01)


def test_volts_are_lost_in_the_run_by_all_of_them(plans):
    one, three = plans
    # 3 × 10.6 A through 45 m of 10 mm² warm: √3 · 31.8 · (102.9 · 0.85 + 3.6 · 0.527) mΩ of 400 V
    by_hand = 3**0.5 * 31.8 * (102.94 * 0.85 + 3.6 * 0.5268) / 400 / 10
    assert three.gate("protection.drop").value == pytest.approx(by_hand, rel=1e-3)
    assert three.gate("protection.drop").value == pytest.approx(3 * one.gate("protection.drop").value)
    lost = [100 - plan.gate("start.terminals").value for plan in plans]
    assert lost[1] > 1.5 * lost[0]


@pytest.mark.parametrize(("motors", "verdict"), [("1", Verdict.PASSES), ("3", Verdict.FAILS)])
def test_an_input_that_feeds_one_does_not_feed_three(motors, verdict):
    """5.5 kW take 7.9 A at 400 V at the very least, of three 23.8 A."""
    gate = planner(*P4)({"protection.drive_input": "12 A", "drive.motors": motors}).gate("protection.drive_feeds")
    assert gate.verdict is verdict


def test_boards_carry_the_drives_input_and_not_one_motors_amperes():
    p4 = planner(*P4)
    assert guard_of(p4(THREE))["sizing_a"] == 36
    assert guard_of(p4({**THREE, "protection.drive_input": "30 A"}))["sizing_a"] == pytest.approx(31.8)
    assert guard_of(p4({**THREE, "protection.drive_input": None}))["sizing_a"] is None
    assert guard_of(p4({**THREE, "start.method": "full-voltage", "start.speed_control": "no"}))["sizing_a"] == 10.6


@pytest.mark.parametrize(("file", "tag"), [P4, ("harrowmere-lock.json", "R-31")])
def test_across_the_line_one_motor_is_one(file, tag):
    """How many a drive would feed says nothing of a start without it."""
    plan = whole(file, tag)
    changes = {"start.method": "full-voltage", "start.speed_control": "no", "stop.method": "coast"}
    one, three = plan(changes | ONE), plan(changes | THREE)
    for part in ("protection", "wiring", "supply", "start"):
        assert [figure for figure in three.stage(part).figures if ".drive" not in figure.key] == [
            figure for figure in one.stage(part).figures if ".drive" not in figure.key
        ]


def test_what_a_ramp_gives_back_comes_from_all():
    p4 = planner(*P4)
    ramp = {"stop.method": "drive", "stop.drive_ramp": "0.3 s", "stop.drive_least": "20 Ω", "stop.per_hour": "6",
            "stop.resistor": "40 Ω"}  # fmt: skip
    one, three = p4(ramp | ONE), p4(ramp | THREE)
    for key, times in (("peak", 3), ("joules", 3), ("mean", 3), ("ohms", 1 / 3)):
        now, then = one.figure(f"stop.{key}"), three.figure(f"stop.{key}")
        assert now is not None
        assert then is not None
        assert then.value == pytest.approx(times * now.value), key
    assert three.figure("stop.shortest").value > one.figure("stop.shortest").value
    assert three.stopping.used.time_s == pytest.approx(one.stopping.used.time_s)


DRIVEN = {"start.method": "drive", "protection.drive_device": "60 A", "protection.device_nec": "inverse-time"}


class TestNorthAmerican:
    """R-31, 3 hp on a drive: 4.8 A by table 430.250."""

    @pytest.mark.parametrize(("motors", "most"), [("1", 4.8 * 2.5), ("4", 4 * 4.8 * 2.5)])
    def test_the_device_goes_by_the_motor_load(self, motors, most):
        """430.130(A)(1): by 430.52, of the full-load current of the motor load."""
        found = planner("harrowmere-lock.json", "R-31")({**DRIVEN, "drive.motors": motors,
                                                         "protection.drive_input": "30 A"})  # fmt: skip
        assert found.figure("protection.device_usual").value == pytest.approx(most)

    @pytest.mark.parametrize(
        ("facts", "asked", "said"),
        [({"drive.motors": "1"}, 1.25 * 4.8, "430.22"), ({"drive.motors": "2"}, 2.25 * 4.8, "430.24"),
         ({"drive.motors": "4"}, 1.25 * 4.8 + 3 * 4.8, "430.24"),
         ({"drive.motors": "4", "protection.drive_input": "17 A"}, 1.25 * 17, "430.122(A)"),
         ({"drive.motors": "4", "wiring.duty": "varying"}, 4 * 2 * 4.2, "430.22(E)")],
    )  # fmt: skip
    def test_the_run_carries_a_quarter_more_than_them_by_one(self, facts, asked, said):
        found = planner("harrowmere-lock.json", "R-31")({**DRIVEN, "protection.drive_input": None, **facts})
        assert found.figure("wiring.need").value == pytest.approx(asked)
        assert found.figure("wiring.need_pct").source.endswith(said)

    @pytest.mark.parametrize(("motors", "asks"), [("1", False), ("2", True)])
    def test_where_the_lead_parts_each_is_looked_at(self, motors, asks):
        keys = {gate.key for gate in planner("harrowmere-lock.json", "R-31")({**DRIVEN, "drive.motors": motors}).gates}
        assert ("drive.leads" in keys) is asks

    def test_a_protector_in_the_motor_is_of_one(self):
        facts = {**DRIVEN, "drive.motors": "4", "plate.thermal_protection": "auto"}
        assert planner("harrowmere-lock.json", "R-31")(facts).figure("overload.protector").value == pytest.approx(
            1.7 * 4.8
        )


@pytest.fixture(scope="module")
def by_phases():
    p4 = planner(*P4)
    return [p4(ONE | {"drive.phases": phases}) for phases in ("three-phase", "single-phase")]


class TestSinglePhaseInput:
    """The same power between two lines: `P/U` is √3 times `P/(√3·U)`, and it flows there and back."""

    def test_the_line_carries_more_and_falls_twice_as_far(self, by_phases):
        three, one = (plan.comparison.row(plan.comparison.chosen) for plan in by_phases)
        assert one.peak_a == pytest.approx(3**0.5 * three.peak_a)
        assert one.dip_pct == pytest.approx(2 * three.dip_pct, rel=0.02)
        assert one.motor_a == three.motor_a

    def test_the_run_loses_twice_as_much(self, by_phases):
        """2 · √3·I in place of √3 · I."""
        three, one = (plan.gate("protection.drop").value for plan in by_phases)
        assert one == pytest.approx(2 * three)

    def test_its_board_sees_two_lines(self, by_phases):
        assert [guard_of(plan)["ways"] for plan in by_phases] == [3, 2]

    @pytest.mark.parametrize(("phases", "verdict"), [("three-phase", Verdict.PASSES), ("single-phase", Verdict.FAILS)])
    def test_its_input_is_held_against_one_phase(self, phases, verdict):
        """4.86 kW take 7.0 A on three phases and 12.2 A on one."""
        facts = ONE | {"drive.phases": phases, "protection.drive_input": "10 A"}
        assert planner(*P4)(facts).gate("protection.drive_feeds").verdict is verdict

    def test_it_says_nothing_of_a_start_without_a_drive(self):
        full = {"start.method": "full-voltage", "start.speed_control": "no"}
        found = [planner(*P4)(full | {"drive.phases": phases}) for phases in ("three-phase", "single-phase")]
        assert found[0].gate("protection.drop") == found[1].gate("protection.drop")
        assert [guard_of(plan)["ways"] for plan in found] == [3, 3]


TWO_LINES = {"supply.volts": "120/240", "plate.volts": "230/460", "plate.full_load_current": "8.4/4.2"}


@pytest.mark.parametrize(
    ("drive", "plate", "fed"),
    [
        ({}, Verdict.FAILS, None),
        ({"start.method": "drive"}, Verdict.PASSES, Verdict.UNKNOWN),
        ({"start.method": "drive", "drive.phases": "three-phase"}, Verdict.PASSES, Verdict.FAILS),
        ({"start.method": "drive", "drive.phases": "single-phase"}, Verdict.PASSES, Verdict.FAILS),
        (
            {"start.method": "drive", "drive.phases": "single-phase", "drive.single_phase": "12 A"},
            Verdict.PASSES,
            Verdict.PASSES,
        ),
    ],
)
def test_on_two_lines_and_a_neutral_only_a_drive_turns_a_three_phase_motor(drive, plate, fed):
    """R-31 on 120/240 V: what the plate's gate names as the remedy is one."""
    plan = whole("harrowmere-lock.json", "R-31")(TWO_LINES | drive)
    assert plan.gate("plate.volts").verdict is plate
    found = {gate.key: gate.verdict for gate in plan.gates}
    assert found.get("drive.single_phase_input") is fed
    assert [row.method for row in plan.comparison.rows if row.outcome is not None] == ["drive"]
    assert plan.comparison.chosen == "drive"
    assert plan.figure("start.full.current") is None
    assert "Across the line" not in "".join(piece.text for piece in plan.answer)


def test_across_the_line_is_told_where_its_board_turns_a_field():
    """On 208Y/120 V the same drive's motor may stand on the line too: what it draws there is said."""
    on = {**TWO_LINES, "supply.volts": "208Y/120", "plate.volts": "208-230/460", "start.method": "drive"}
    plan = whole("harrowmere-lock.json", "R-31")(on)
    assert plan.figure("start.full.current") is not None
    assert "Across the line it pulls" in "".join(piece.text for piece in plan.answer)


class TestPastTheDrive:
    """F-3 has a by-pass: what a drive makes good the line does not."""

    @pytest.mark.parametrize(
        ("changes", "verdict"),
        [
            ({"supply.frequency": "60 Hz"}, Verdict.FAILS),
            ({"supply.frequency": "60 Hz", "starter.bypass": "no"}, None),
            ({"supply.frequency": "51 Hz"}, None),
            ({"supply.volts": "480"}, Verdict.FAILS),
            ({"supply.volts": "415"}, None),
            ({"drive.motors": "2", "start.method": "drive"}, Verdict.UNKNOWN),
        ],
    )
    def test_the_line_is_what_it_is(self, changes, verdict):
        plan = planner("skerry-sound.json", "F-3")(changes)
        found = {gate.key: gate.verdict for gate in plan.gates}
        assert found.get("starter.bypass") is verdict
        if verdict is None and "starter.bypass" not in changes:
            assert any(key.startswith("starter.bypass_") for key in found)

    @pytest.mark.parametrize(
        ("changes", "key", "verdict"),
        [
            ({"protection.rating": "63 A"}, "protection_holds", Verdict.FAILS),  # enough for the drive, not for 37 s
            ({}, "protection_holds", Verdict.PASSES),
            ({"protection.trip_class": "10"}, "protection_class", Verdict.FAILS),  # the drive's ramp asks for no more
            ({"protection.thermistor": None}, "protection_stall", Verdict.CHECK),
            ({"stop.within": "70 s"}, "stop_stop", Verdict.FAILS),  # the ramp takes 60 s, coasting 269 s
            ({"stop.within": "400 s"}, "stop_stop", Verdict.PASSES),
            ({}, "protection_loop", Verdict.PASSES),  # a fault there is no drive's to clear
            ({}, "wishes", None),  # that it turns at one speed is what a by-pass is
        ],
    )
    def test_what_protects_and_stops_it_there_is_judged_there(self, changes, key, verdict):
        plan = planner("skerry-sound.json", "F-3")(changes)
        found = {gate.key: gate.verdict for gate in plan.gates}
        assert found.get(f"starter.bypass_{key}") is verdict
        if verdict is Verdict.FAILS:
            without = planner("skerry-sound.json", "F-3")(changes | {"starter.bypass": "no"})
            assert without.verdict is Verdict.PASSES
            assert plan.verdict is Verdict.FAILS

    def test_its_brake_stops_it_there_where_one_closes_after_the_ramp(self):
        changes = {
            "stop.method": "drive-brake",
            "stop.brake_torque": "150 N·m",
            "stop.within": "70 s",
            "stop.drive_ramp": "30 s",
        }
        plan = planner("skerry-sound.json", "F-3")(changes)
        assert plan.gate("starter.bypass_stop_stop").sentence.startswith("Spring-set brake")

    @pytest.mark.parametrize(("volts", "plate", "drive"), [("480", "passes", "passes"), ("330", "passes", "fails")])
    def test_a_drive_gives_the_plates_volts_or_what_the_line_has(self, volts, plate, drive):
        """400 V on the plate: of 480 V it gives no more, of 330 V its own sheet says what is left."""
        off = {"supply.volts": volts, "starter.bypass": "no"}
        plan = planner("skerry-sound.json", "F-3")(off)
        assert plan.gate("plate.volts").verdict == plate
        assert plan.gate("drive.volts").verdict == drive
        full = {"start.method": "full-voltage", "start.speed_control": "no"}
        assert planner("skerry-sound.json", "F-3")(off | full).gate("plate.volts").verdict is Verdict.FAILS

    def test_volts_and_amperes_that_look_swapped_are_no_matter_for_a_drive(self):
        """53 V and 400 A on the plate have the same power: what was read wrongly is not made good by a drive."""
        swapped = {"plate.volts": "53", "plate.full_load_current": "400", "starter.bypass": "no"}
        gate = planner("skerry-sound.json", "F-3")(swapped).gate("plate.volts")
        assert gate.verdict is Verdict.FAILS
        assert "swapped" in gate.remedy

    def test_a_drive_makes_the_plates_hertz(self):
        """60 Hz on the line, 50 on the plate: across the line that fails, from a drive it does not."""
        f3 = planner("skerry-sound.json", "F-3")
        off = {"supply.frequency": "60 Hz", "starter.bypass": "no"}
        assert f3(off).gate("plate.frequency").verdict is Verdict.PASSES
        full = {"start.method": "full-voltage", "start.speed_control": "no"}
        assert f3(off | full).gate("plate.frequency").verdict is Verdict.FAILS
