"""A drive's operating points, and what of it nobody said."""

import pytest

from tests.conftest import planner
from vinegate.core.drive.points import Speed, read_cycle, read_operating_points, read_speed, read_speeds
from vinegate.core.drive.stage import DRIVE
from vinegate.core.grade import Kind, Verdict
from vinegate.core.numbers import QuantityError

SKERRY, LOCK = "skerry-sound.json", "harrowmere-lock.json"

FAN, PUMPS, BLOWER, DRUM, WINCH = (planner(SKERRY, tag) for tag in ("F-3", "P-4", "F-5", "D-6", "W-2"))

PASSES, CHECK, FAILS, UNKNOWN = Verdict.PASSES, Verdict.CHECK, Verdict.FAILS, Verdict.UNKNOWN


class TestPoints:
    def test_each_unit_says_what_it_is(self):
        found = read_operating_points(
            "speed; load; hours\n100 %; ; 1900\n30 Hz; 4 kW\n1180 rpm; 90 N·m; 200 h\n70, 55"
        ).points
        assert [(one.speed, one.speed_in) for one in found] == [(100, "%"), (30, "Hz"), (1180, "rpm"), (70, "%")]
        assert [(one.load, one.load_in) for one in found] == [(None, ""), (4000, "w"), (90, "nm"), (55, "%")]
        assert [one.hours for one in found] == [1900, None, 200, None]

    @pytest.mark.parametrize(
        "text",
        [
            "1180 rpm; 300 ft-lbs; 2000 hrs",
            "1180 RPM 300 lb-ft 2000 h/yr",
            "rpm; torque (ft-lbs); hours\n1180; 300; 2000",
        ],
    )
    def test_as_people_spell_them(self, text):
        (point,) = read_operating_points(text).points
        assert (point.speed, point.speed_in, point.load_in, point.hours) == (1180, "rpm", "nm", 2000)
        assert point.load == pytest.approx(300 * 1.3558179, rel=1e-6)

    def test_hours_behind_a_speed_are_how_long_it_runs(self):
        points = read_operating_points("100 % 2000 h\n50 %; 3000 hours a year\n40 %; 40 hp").points
        assert [(one.load, one.hours) for one in points[:2]] == [(None, 2000), (None, 3000)]
        assert (points[2].load_in, points[2].hours) == ("w", None)

    @pytest.mark.parametrize("text", [
        "Hz; N·m; h/a\n30; 90; 200", "speed [Hz];torque [N·m];hours\n30;90;200", "speed; load; h\n30 Hz; 90 N·m; 200",
    ])  # fmt: skip
    def test_a_bare_figure_is_in_its_heads_unit(self, text):
        (point,) = read_operating_points(text).points
        assert (point.speed, point.speed_in, point.load, point.load_in, point.hours) == (30, "Hz", 90, "nm", 200)

    @pytest.mark.parametrize(("text", "seconds"), [
        ("100 %; 160 %; 20", 20), ("100 %; 160 %; 20 s", 20), ("100 %; 160 %; 2 min", 120), ("100 %; 160 %; 1 h", 3600),
        ("speed; load; seconds\n100; 160; 20", 20), ("speed %; load %; min\n100; 160; 2", 120), ("100 %; 160 %; -", None),
    ])  # fmt: skip
    def test_a_cycles_rows_last_seconds_or_what_they_say(self, text, seconds):
        (row,) = read_cycle(text).points
        assert (row.speed, row.load, row.hours) == (100, 160, seconds)

    def test_a_comma_is_decimal_between_semicolons(self):
        assert read_operating_points("87,5 %; 40; 1").points[0].speed == 87.5

    @pytest.mark.parametrize(
        ("text", "said"),
        [("150", "write its unit"), ("60;;;", "three"), ("60; x", "not"), ("100; ; 9000", "outside"),
         ("100; ; 5000\n50; ; 5000", "add up"), ("speed", "One row")],
    )  # fmt: skip
    def test_what_cannot_be_read_is_said_by_its_row(self, text, said):
        with pytest.raises(QuantityError, match=said):
            read_operating_points(text)

    def test_power_and_torque_at_a_speed_are_one_load(self):
        plan = FAN({"drive.points": "2000 rpm; 10 kW\n2000 rpm; 47.75 N·m"})
        one, other = plan.of(DRIVE).driven.rows
        assert one.point.nm == pytest.approx(other.point.nm, rel=1e-3)

    def test_speeds_to_avoid_are_listed(self):
        assert read_speeds("1180; 1720") == read_speeds("1180, 1720 rpm") == (Speed(1180, "rpm"), Speed(1720, "rpm"))
        assert read_speeds("22, 38.5 Hz") == read_speeds("22 Hz; 38.5 Hz") == (Speed(22, "Hz"), Speed(38.5, "Hz"))

    @pytest.mark.parametrize("text", ["22; 38", "1180 rpm; 38 Hz", "601 Hz"])
    def test_a_bare_number_may_be_hertz_or_turns(self, text):
        with pytest.raises(QuantityError):
            read_speeds(text)

    @pytest.mark.parametrize(
        ("text", "value", "unit"),
        [
            ("20 Hz", 20, "Hz"),
            ("33 %", 33, "%"),
            ("0", 0, "rpm"),
            ("200", 200, "rpm"),
            ("60 rpm", 60, "rpm"),
            ("20", 0, ""),
            ("199", 0, ""),
            ("20 V", 0, ""),
        ],
    )
    def test_the_ends_of_the_range_are_typed_as_a_drive_is_set(self, text, value, unit):
        if unit:
            assert read_speed(text) == Speed(value, unit)
        else:
            with pytest.raises(QuantityError):
                read_speed(text)


def test_start_and_stop_read_the_drives_envelope():
    """A weaker drive starts it slower and cannot follow a steep stop."""
    strong = FAN({"drive.overload": "150 %", "start.drive_ramp": "15 s"}).comparison.row("drive")
    weak = FAN({"drive.rated": "45 A", "start.drive_ramp": "15 s"}).comparison.row("drive")
    assert weak.time_s > 1.3 * strong.time_s
    assert weak.peak_a < strong.peak_a
    steep = {"stop.drive_ramp": "20 s", "stop.resistor": "40 Ω"}
    assert FAN(steep | {"drive.overload": "200 %"}).stopping.row("drive").verdict is not FAILS
    assert FAN(steep | {"drive.rated": "30 A"}).stopping.row("drive").verdict is FAILS


def test_the_motors_own_limit_binds_where_it_is_set_lower():
    free, set_low = FAN(), FAN({"start.drive_limit": "0.9"})
    assert set_low.of(DRIVE).driven.supplied.limit_a == pytest.approx(0.9 * 53)
    assert free.of(DRIVE).driven.supplied.limit_a == pytest.approx(1.1 * 61)


def test_what_holds_only_by_its_makers_word_is_for_the_site():
    assert FAN({"drive.emc": "c3"}).gate("drive.emc").kind is Kind.CONFIRM
    assert FAN({"area_1.altitude": "2400 m", "drive.rated": "80 A"}).gate("drive.altitude").kind is Kind.CONFIRM
    for floats in ({"supply.earthing": "it"}, {"supply.volts": "400 V delta"}):
        assert FAN(floats).gate("drive.earthed").kind is Kind.CONFIRM
    assert "drive.earthed" not in {gate.key for gate in FAN({"supply.volts": "400"}).gates}


def test_at_rest_it_bears_the_less_for_a_phase_at_its_crest():
    """1/√2 of the amperes: less than rated torque for ever, even with a blower."""
    rows = BLOWER({"load.kind": "constant", "load.power": "7 kW", "drive.points": "50 Hz\n0 rpm"}).of(DRIVE).driven.rows
    assert rows[1].point.rpm == 0
    assert rows[1].continuous_nm < 0.75 * rows[1].point.nm / (7 / 11)


@pytest.mark.parametrize(
    "points",
    [{"drive.points": "0 rpm; 50 %"}, {"drive.points": "0 rpm", "drive.most": "0 rpm"}, {"drive.most": "0"},
     {"drive.least": "0 rpm", "drive.points": "0 rpm"}, {"drive.points": "0.01 rpm"}],
)  # fmt: skip
def test_a_motor_that_is_only_held_turns_fully_too(points):
    """Held at rest and nothing else: its ramp goes to full speed, where nothing said is faster."""
    rows = FAN(points).of(DRIVE).driven.rows
    assert rows[0].point.rpm == (0.01 if "0.01 rpm" in points.values() else FAN().of(DRIVE).driven.rows[0].point.rpm)


@pytest.mark.parametrize(
    ("said", "rpm"),
    [("drive.least", {"20 Hz": 1182, "40 %": 1182, "1182 rpm": 1182}), ("drive.most", {"45 Hz": 2660, "90 %": 2660})],
)
def test_hertz_and_per_cent_are_turned_into_turns(said, rpm):
    """F-3 turns at 2955 r/min from 50 Hz."""
    for text, turns in rpm.items():
        gate = FAN({said: text, "drive.points": "50 Hz", "drive.skip": f"{turns} rpm"}).gate("drive.skip")
        assert gate.verdict is FAILS
        assert gate.sentence.startswith(f"{turns} r/min")


@pytest.mark.parametrize(("about", "asks"), [("about 9 Hz", True), ("~20 Hz", False), ("20 Hz", False)])
def test_a_speed_that_is_only_about_so_is_tried_at_both_ends(about, asks):
    """A drum motor's oil asks 8 Hz by its maker: a fifth less than 9 is no longer that."""
    oil = {"drive.cooling": "oil", "plate.cooling": None, "drive.full_torque": "8 Hz", "drive.points": None}
    found = {gate.key for gate in FAN(oil | {"drive.least": about}).gates}
    assert ("drive.assumed.drive.least" in found) is asks


def test_a_resonance_said_in_hertz_is_at_those():
    """At turns a minute it has the slip's own three eighths of a hertz on top: 2364 r/min of 2955 at 50 Hz.

    A point of 2364 r/min is run at 39.8 Hz: within a hertz and a half of the one, not of the other."""
    at = {"drive.points": "2364 rpm"}
    assert FAN(at | {"drive.skip": "2364 rpm"}).gate("drive.skip").sentence.endswith("within 38.3 to 41.3 Hz.")
    assert FAN(at | {"drive.skip": "38.5 Hz"}).gate("drive.skip").verdict is FAILS
    assert FAN(at | {"drive.skip": "38.2 Hz"}).gate("drive.skip").verdict is PASSES


def test_what_some_ask_more_of_several_motors_is_a_tenth():
    plan = PUMPS()
    asked = plan.figure("drive.asked_a").value
    assert f"some ask of several motors: {1.1 * asked:.3g} A" in plan.gate("drive.current").sentence
    assert "several motors" not in FAN().gate("drive.current").sentence


class TestWhatNobodySet:
    """A ramp and a limit that are only usual decide nothing alone: what is set does."""

    @pytest.mark.parametrize(
        ("ramp", "verdicts"),
        [(None, ("check", "check")), ("10 s", ("fails", "fails")), ("80 s", ("passes", "passes"))],
    )
    def test_a_ramp(self, ramp, verdicts):
        """F-3's fan takes 80 s: in the usual ten its amperes are far above the drive's."""
        plan = FAN({"start.drive_ramp": ramp})
        gates = [plan.gate(key) for key in ("drive.overload", "drive.ramp_up")]
        assert tuple(gate.verdict for gate in gates) == verdicts
        for gate in gates:
            assert (gate.turns.path if gate.turns else "start.drive_ramp") == "start.drive_ramp"

    def test_the_ramp_named_passes_when_it_is_set(self):
        turns = FAN({"start.drive_ramp": None}).gate("drive.overload").turns
        set_so = FAN({"start.drive_ramp": turns.passes_as})
        assert set_so.gate("drive.overload").verdict == "passes"
        assert FAN({"start.drive_ramp": turns.fails_as}).gate("drive.overload").verdict == "fails"

    @pytest.mark.parametrize(
        ("facts", "verdict"),
        [
            ({}, "passes"),
            ({"load.breakaway": "185 %"}, "check"),  # 1.63 of rated torque and a tenth: more than 1.5 times gives
            ({"load.breakaway": "240 %"}, "fails"),  # more than any drive's twice
            ({"load.breakaway": "185 %", "start.drive_limit": "1.5"}, "fails"),
            ({"load.breakaway": "185 %", "start.drive_limit": "2.2"}, "passes"),
            ({"load.breakaway": "185 %", "drive.heavy": "34 A"}, "fails"),
            ({"load.breakaway": "185 %", "drive.heavy": "45 A"}, "passes"),
        ],
    )
    def test_a_limit(self, facts, verdict):
        gate = planner(LOCK, "D-61")({"start.method": "drive"} | facts).gate("start.torque")
        assert gate.verdict == verdict
        assert (gate.turns is not None) is (verdict == "check")

    @pytest.mark.parametrize(
        ("limit", "breakaway", "breakdown", "verdict"),
        [
            ("2", "180 %", None, "passes"),
            ("2", "180 %", "160 %", "passes"),
            ("2", "230 %", None, "check"),
            ("2", "230 %", "160 %", "fails"),
            ("2", "230 %", "250 %", "passes"),
            ("3", "290 %", None, "check"),  # at rest, where the most that it gives stands apart from the curve
            ("3", "290 %", "160 %", "fails"),
            ("3", "290 %", "300 %", "passes"),
        ],
    )
    def test_what_breaks_down_sooner_has_less_to_spare(self, limit, breakaway, breakdown, verdict):
        """Of a breakdown torque that nobody gave the least usual one counts too: 160 %."""
        facts = {"start.method": "drive", "start.drive_limit": limit, "drive.points": None, "load.breakaway": breakaway,
                 "machine.breakdown_torque": breakdown, "machine.locked_rotor_torque": None}  # fmt: skip
        gate = planner(SKERRY, "W-2")(facts).gate("start.torque")
        assert gate.verdict == verdict
        assert ("breakdown torque" in gate.rests_on) is (breakdown is None)
        if verdict == "check":
            assert gate.turns.path == "machine.breakdown_torque"
            typed = planner(SKERRY, "W-2")(facts | {"machine.breakdown_torque": gate.turns.passes_as})
            assert typed.gate("start.torque").verdict == "passes"


@pytest.mark.parametrize(("breakdown", "verdict"), [(None, "check"), ("160 %", "fails"), ("200 %", "passes")])
def test_from_rest_no_more_than_is_kept_from_breakdown(breakdown, verdict):
    """Three times rated amperes at rest: what breaks down at a fifth less torque gives about so much less of it."""
    facts = {"start.method": "drive", "start.drive_limit": "3", "drive.points": None, "load.breakaway": "285 %",
             "machine.breakdown_torque": breakdown, "machine.locked_rotor_torque": None}  # fmt: skip
    gate = planner(SKERRY, "W-2")(facts).gate("drive.breakaway")
    assert gate.verdict == verdict, gate.sentence


def test_current_grows_by_as_much_as_the_volts_lack():
    """377.3 V of 400 are left: 5.7 % less, and about so much more current at full torque."""
    gate = FAN().gate("drive.volts")
    lacks = 100 - gate.value
    assert 5 < lacks < 7
    assert f"about {lacks:.0f} % more current" in gate.sentence


@pytest.mark.parametrize(("breakdown", "verdict"), [(None, "check"), ("200 %", "fails"), ("280 %", "passes")])
def test_the_standards_least_fails_nothing_that_the_machines_own_may_bear(breakdown, verdict):
    """NEMA MG 1 12.39.1: 75 hp of six poles, design B, have 200 % at least, and may well have more; a load of 1.3 times
    rated torque asks 1.43 of 1/1.5 of it.
    """
    facts = {"start.method": "drive", "start.drive_limit": "3", "drive.points": None, "load.kind": "constant",
             "load.power": "75 hp", "drive.heaviest": "130 %", "machine.breakdown_torque": breakdown,
             "machine.locked_rotor_torque": None, "machine.pull_up_torque": None}  # fmt: skip
    gate = planner(LOCK, "P-11")(facts).gate("drive.torque")
    assert gate.verdict == verdict, gate.sentence
    assert (gate.turns.path if gate.turns else None) == ("machine.breakdown_torque" if verdict == "check" else None)
