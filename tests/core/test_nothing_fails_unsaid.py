"""What nobody said fails nothing that a usual value of it would pass; what is said at that value does."""

import math

import pytest

from tests.conftest import planner
from tests.core.good import GOOD
from vinegate.core.drive.fitted import amperes
from vinegate.core.drive.stage import DRIVE
from vinegate.core.facts import read_job
from vinegate.core.grade import Verdict
from vinegate.core.protection.feeder import feeders
from vinegate.core.protection.members import Member
from vinegate.core.start.stage import START
from vinegate.demo import demo_job

SOUND, LOCK = "skerry-sound.json", "harrowmere-lock.json"
FAN, RAKE, PUMP = planner(SOUND, "F-3"), planner(LOCK, "R-31"), planner(LOCK, "P-11")
PASSES, CHECK, FAILS, UNKNOWN = Verdict.PASSES, Verdict.CHECK, Verdict.FAILS, Verdict.UNKNOWN
PLUGS = {"stop.method": "plugging", "stop.per_hour": "5", "start.starts_per_hour": "5"}


@pytest.mark.parametrize(
    ("plan", "facts", "path", "bad", "key"),
    [
        (FAN, {}, "stop.drive_ramp", "5 s", "stop.ohms"),
        (FAN, {}, "stop.drive_ramp", "5 s", "stop.stop"),
        (FAN, {"stop.resistor": None, "stop.method": None, "drive.stop_mode": "ramp"}, "stop.drive_ramp", "5 s",
         "drive.ramp_down"),
        (FAN, {"drive.stop_mode": "ramp", "stop.method": None}, "stop.drive_ramp", "5 s", "drive.ramp_down"),
        (RAKE, {"stop.method": "plugging"}, "protection.jogging", "no", "stop.duty"),
        (PUMP, PLUGS, "load.power", "86 hp", "stop.per_hour"),
        (PUMP, {"protection.overload": "92 A"}, "plate.service_factor", "1.0", "protection.setting"),
        (FAN, {}, "stop.resistor", "250 Ω", "drive.ramp_down"),
    ],
)  # fmt: skip
def test_it_is_to_check_with_what_settles_it(plan, facts, path, bad, key):
    """The ramp down taken is 5 s, as short as the one that fails; a machine's load its whole power."""
    gate = plan(facts | {path: None}).gate(key)
    assert (gate.verdict, gate.turns.path) == (CHECK, path)
    assert plan(facts | {path: gate.turns.passes_as}).gate(key).verdict is PASSES
    if gate.turns.fails_as:
        assert plan(facts | {path: gate.turns.fails_as}).gate(key).verdict is not PASSES
    assert plan(facts | {path: bad}).gate(key).verdict is FAILS


@pytest.mark.parametrize(
    ("facts", "found"),
    [
        ({"stop.drive_least": "300 Ω"}, FAILS),  # none that its drive bears takes it
        ({"stop.drive_ramp": "900 s"}, PASSES),  # load and losses take it by themselves
    ],
)
def test_a_resistor_that_is_not_said_is_one_that_could_be(facts, found):
    assert FAN({"stop.resistor": None} | facts).gate("drive.ramp_down").verdict is found


@pytest.mark.parametrize(
    ("said", "amps", "found"),
    [
        ({}, "84 A", PASSES),  # 105 of 105.8 A, as of a motor of any service factor
        ({}, "92.5 A", FAILS),  # more than either allows
        ({"plate.temperature_rise": "40 °C"}, "92 A", PASSES),
        ({"plate.temperature_rise": "60 °C"}, "92 A", FAILS),
    ],
)
def test_a_relay_by_a_plate_without_its_service_factor(said, amps, found):
    """NFPA 70:2023 430.32(A)(1): 125 % of 92 A by service factor or rise, else 115 %; it trips at 1.25 times its dial."""
    plan = PUMP({"plate.service_factor": None, "protection.overload": amps} | said)
    assert plan.gate("protection.setting").verdict is found


def test_a_time_that_is_asked_is_a_ramp_that_is_set():
    facts = {"stop.drive_ramp": None, "stop.within": "20 s"}
    assert FAN(facts).gate("stop.ohms").verdict is FAILS


@pytest.mark.parametrize(
    ("asked", "found", "seconds"),
    [
        ({}, PASSES, 5.0),
        ({"stop.within_turns": "20 turns"}, PASSES, 1.68),
        ({"stop.within_turns": "20 turns", "stop.within": "1 s"}, PASSES, 1.0),
        ({"stop.within_turns": "0.1 turns"}, FAILS, 0.0084),  # steeper than its drive brakes
        ({"stop.within_turns": "20 turns", "stop.drive_ramp": "2 s"}, FAILS, 2.0),  # as it is set
    ],
)
def test_a_ramp_is_as_short_as_the_angle_that_is_asked(asked, found, seconds):
    """D-6's drum turns 23.8 times a second: 2·φ/n from there to rest, evenly."""
    plan = planner(SOUND, "D-6")({"stop.method": "drive", "stop.drive_ramp": None, "stop.within": None} | asked)
    assert plan.gate("stop.stop").verdict is found
    if "stop.drive_ramp" not in asked and found is PASSES:
        assert float(plan.stopping.used.setting.removesuffix(" s")) == pytest.approx(seconds, rel=0.01)


@pytest.mark.parametrize(
    ("va", "amps", "found"),
    [(None, "10 A", UNKNOWN), (None, "2 A", UNKNOWN), ("750 VA", "10 A", PASSES), ("750 VA", "12 A", FAILS)],
)
def test_a_control_device_hangs_on_its_transformer(va, amps, found):
    """NFPA 70:2023 450.3(B): 167 % of 750 VA at 120 V are 10.4 A; X-51."""
    plan = planner(LOCK, "X-51")({"starter.transformer": va, "starter.secondary_fuse": amps})
    assert plan.gate("starter.secondary_fuse").verdict is found


class TestBreakdownTorqueUnsaid:
    """F-3's ramp asks 65.7 A of the 67.1 A that are borne: 69.8 A of a machine of 160 %, 65.6 A of one of 300 %."""

    @pytest.mark.parametrize("key", ["drive.overload", "drive.ramp_up"])
    def test_amperes_on_a_ramp_are_to_check(self, key):
        assert FAN({"machine.breakdown_torque": None}).gate(key).verdict is CHECK
        assert FAN({"machine.breakdown_torque": "160 %"}).gate(key).verdict is FAILS
        assert FAN({"machine.breakdown_torque": "300 %"}).gate(key).verdict is PASSES

    @pytest.mark.parametrize("key", ["drive.overload", "drive.ramp_up"])
    def test_far_from_what_is_borne_it_passes(self, key):
        longer = {"start.drive_ramp": "200 s", "machine.breakdown_torque": None}
        assert FAN(longer).gate(key).verdict is PASSES

    @pytest.mark.parametrize("breakdown", [1.6, 2.4, 3.0])
    def test_its_law_is_what_the_fits_do(self, breakdown):
        """Amperes of the ramp's heaviest moment, each machine fitted through its own breakdown torque."""
        there, taken = (
            FAN({"machine.breakdown_torque": f"{100 * one:g} %"}).of(DRIVE).driven.ramps.peak_a
            for one in (breakdown, 2.0)
        )
        assert there / taken == pytest.approx((amperes(1.3, breakdown) / amperes(1.3, 2.0)) ** 1.5, rel=0.02)
        assert math.isclose(amperes(1.0, breakdown), 1.0)


NO_TRANSFORMER = {f"supply.transformer_{name}": None for name in ("power", "impedance", "x_over_r")}


@pytest.mark.parametrize(
    ("file", "tag", "facts", "found"),
    [
        (LOCK, "P-11", {}, False),  # 14 kA at 12.47 kV, 480 V at the board
        (LOCK, "P-11", {"supply.fault_level_volts": "460 V"}, True),  # another name of the board's own volts
        (LOCK, "P-11", {"supply.fault_level_volts": None}, True),
        (SOUND, "H-1", {}, False),  # 150 MVA would be 217 kA at 400 V
        (SOUND, "H-1", {"supply.fault_level": "69 MVA"}, True),  # 99.6 kA
        (SOUND, "H-1", {"supply.fault_level": "70 MVA"}, False),
        (SOUND, "H-1", {"supply.fault_level": "30 kA"}, True),  # at the board
        (SOUND, "H-1", {"supply.fault_level": "30 kA", "supply.fault_level_volts": "11 kV"}, False),
    ],
)
def test_a_transformer_that_is_left_out_is_asked_for_and_not_taken_as_none(file, tag, facts, found):
    """Once a dip passed with 0.2 % of 4 %: the utility stood at the board itself."""
    plan = planner(file, tag)(NO_TRANSFORMER | facts)
    assert (
        any(gate.key == "protection.short_circuit_rating" and gate.verdict is not UNKNOWN for gate in plan.gates)
        is found
    )
    assert (plan.gate("start.dip").verdict is UNKNOWN) is not found
    asked = {missing.path for missing in plan.missing}
    assert asked.issuperset({"supply.transformer_power", "supply.transformer_impedance"}) is not found
    assert any("transformer stands between" in note for note in plan.stage("supply").notes) is not found


HOIST = planner(LOCK, "G-21")


@pytest.mark.parametrize(
    ("facts", "found"),
    [
        ({"plate.enclosure": None}, CHECK),  # its own fan is the worst it may have
        ({"plate.enclosure": None, "drive.cooling": "IC416"}, PASSES),
        ({"plate.enclosure": "TEFC"}, FAILS),
        ({"plate.enclosure": None, "drive.points": "100 %\n10 %; 120 %"}, FAILS),  # more than rated, for ever
    ],
)
def test_a_motor_of_which_nobody_says_how_it_is_cooled(facts, found):
    gate = HOIST({"start.method": "drive"} | facts).gate("drive.heat_slow")
    assert gate.verdict is found
    if found is CHECK:
        assert (
            HOIST({"start.method": "drive"} | facts | {gate.turns.path: gate.turns.passes_as})
            .gate("drive.heat_slow")
            .verdict
            is PASSES
        )


@pytest.mark.parametrize(("leads", "found"), [(None, UNKNOWN), ("3", FAILS), ("12", PASSES)])
def test_a_dip_of_a_way_that_may_be_possible_is_not_that_of_another(leads, found):
    """P-11 in wye dips 4.0 %, across the line 4.8."""
    plan = planner(LOCK, "P-11")({"plate.leads": leads, "start.method": "wye-delta"})
    assert plan.gate("start.dip").verdict is found


def test_nor_that_of_half_a_winding_whose_leads_are_not_said():
    part = planner(LOCK, "P-11")({"plate.leads": None, "start.method": "part-winding"})
    assert part.gate("start.dip").needs == part.gate("start.possible").needs == ("leads",)


@pytest.mark.parametrize(
    ("name", "facts", "verdict"),
    [
        ("NEC, wye-delta", {}, Verdict.CHECK),  # 2 AWG carries 115 A of copper, 90 of aluminium; 96.25 asked
        ("NEC, wye-delta", {"wiring.metal": "copper"}, Verdict.PASSES),
        ("NEC, wye-delta", {"wiring.metal": "aluminium"}, Verdict.FAILS),
        ("NEC, wye-delta", {"wiring.size": "1/0 AWG"}, Verdict.PASSES),  # of either
        ("NEC, wye-delta", {"wiring.size": "6 AWG"}, Verdict.FAILS),
        ("IEC, star-delta", {}, Verdict.PASSES),  # 35 mm² carry 112 A of aluminium; 81 asked
        ("IEC, star-delta", {"wiring.size": "10 mm²", "wiring.grouped": "1"}, Verdict.FAILS),
        ("IEC, star-delta", {"wiring.size": "25 mm²", "wiring.grouped": "2"}, Verdict.CHECK),
        ("IEC, zone 1 d", {"wiring.size": "2.5 mm²"}, Verdict.PASSES),  # so small, it is copper
    ],
)
def test_a_run_is_of_either_metal_until_it_is_said(name, facts, verdict):
    gate = GOOD[name]({"wiring.metal": None} | facts).gate("protection.conductors")
    assert gate.verdict is verdict, gate.sentence
    assert (gate.turns is not None and gate.turns.path == "wiring.metal") is (verdict is Verdict.CHECK)


@pytest.mark.parametrize(
    ("size", "metal", "verdict"),
    [
        ("6 AWG", "copper", Verdict.PASSES),
        ("6 AWG", None, Verdict.CHECK),
        ("6 AWG", "aluminium", Verdict.FAILS),
        ("4 AWG", None, Verdict.PASSES),
    ],
)
def test_so_is_what_grounds(size, metal, verdict):
    """Behind 150 A 6 AWG of copper or 4 of aluminium (table 250.122); 3 AWG is no more than the current asks."""
    facts = {"wiring.metal": metal, "wiring.ground_size": size, "wiring.size": "3 AWG"}
    assert GOOD["NEC, wye-delta"](facts).gate("protection.grounding").verdict is verdict


STIRRER, GROUND, AHEAD = planner(LOCK, "M-41"), "protection.feeder_ground", "protection.feeder_ahead"


@pytest.mark.parametrize(
    ("facts", "key", "verdict"),
    [
        ({"board_1.ground_size": "6 AWG"}, GROUND, Verdict.CHECK),  # behind 125 A, 4 AWG of aluminium (250.122)
        ({"board_1.ground_size": "4 AWG"}, GROUND, Verdict.PASSES),
        ({"board_1.ground_size": "6 AWG", "board_1.metal": "aluminium"}, GROUND, Verdict.FAILS),
        ({"board_1.size": "1 AWG"}, AHEAD, Verdict.CHECK),  # 110 A of copper, 85 of aluminium; a fifth less as it lies
        ({"board_1.size": "1 AWG", "board_1.metal": "copper"}, AHEAD, Verdict.PASSES),
        ({"board_1.size": "3/0 AWG"}, AHEAD, Verdict.PASSES),
    ],
)
def test_so_is_a_feeder(facts, key, verdict):
    gate = STIRRER({"board_1.metal": None} | facts).gate(key)
    assert gate.verdict is verdict, gate.sentence
    assert (gate.turns is not None and gate.turns.path == "board_1.metal") is (verdict is Verdict.CHECK)


def test_what_fails_of_one_metal_and_passes_of_neither_says_so():
    """122 A are asked of 1 AWG: 130 A of copper, down to 104 as it lies, or 100 of aluminium."""
    demo = demo_job(LOCK)
    facts = demo.facts | {"board_1": demo.facts["board_1"] | {"size": "1 AWG", "metal": ""}}
    motors = [
        Member(tag=tag, board="board_1", volts_v=480, sizing_a=amps, device_a=60)
        for tag, amps in (("a", 43), ("b", 0.1))
    ]
    found = next(one for one in feeders(read_job(facts, demo.rules)[0], motors) if one.key == "board_1")
    gate = next(one for one in found.stage.gates if one.key == "protection.feeder")
    assert gate.verdict is Verdict.CHECK
    assert "Fails with conductors of aluminium; copper assumed." in gate.sentence


LAID = planner("skerry-sound.json", "H-1")


@pytest.mark.parametrize(
    ("plan", "path", "facts", "word"),
    [
        (
            LAID,
            "wiring.insulation_iec",
            {"wiring.ambient": "68 °C", "wiring.size": "70 mm²"},
            "xlpe",
        ),  # PVC bears 60 °C
        (PUMP, "wiring.insulation", {"wiring.ambient": "72 °C", "wiring.size": "4/0 AWG"}, "90"),  # 75 °C wire bears 70
    ],
)
def test_an_ambient_that_some_insulation_bears_is_to_check(plan, path, facts, word):
    """IEC 60364-5-52 table B.52.14, NFPA 70 table 310.15(B)(1)(1): an empty cell is no insulation's that is not said."""
    gate = plan(facts | {path: None}).gate("protection.conductors")
    assert (gate.verdict, gate.turns.path, gate.turns.passes_as) == (Verdict.CHECK, path, word)
    assert plan(facts | {path: word}).gate("protection.conductors").verdict is PASSES
    assert plan(facts | {path: gate.turns.fails_as}).gate("protection.conductors").verdict is FAILS


def test_method_and_insulation_both_unsaid_fail_only_where_no_pair_of_them_passes():
    """81 A: 25 mm² of XLPE carry 105 A by method B1, of PVC 80 by B2; 16 mm² carry 81 by none but XLPE on a wall."""
    neither = {"wiring.method": None, "wiring.insulation_iec": None}
    assert LAID(neither | {"wiring.size": "16 mm²"}).gate("protection.conductors").verdict is Verdict.CHECK
    assert LAID(neither | {"wiring.size": "6 mm²"}).gate("protection.conductors").verdict is FAILS
    assert LAID(neither | {"wiring.size": "95 mm²"}).gate("protection.conductors").verdict is PASSES


class TestBeforeTheLoadIsGiven:
    """The first moment at full voltage is the most that a start draws, that in wye the least of one that ends in delta."""

    H1 = staticmethod(planner(SOUND, "H-1"))

    # At 200 m full voltage keeps 80.7 % of plate volts and wye 93 %, at 60 m 90.8 %, at 600 m wye 83 %; 85 asked.
    @pytest.mark.parametrize(
        ("method", "length", "found"),
        [
            (None, "200 m", UNKNOWN),  # another way may well do
            (None, "60 m", PASSES),
            ("soft-starter", "200 m", UNKNOWN),  # it draws less, and nobody knows how much
            ("full-voltage", "200 m", FAILS),
            ("wye-delta", "200 m", UNKNOWN),  # by when it is in delta
            ("wye-delta", "60 m", PASSES),
            ("wye-delta", "600 m", FAILS),
        ],
    )
    def test_terminals_pass_and_fail_only_where_any_course_does(self, method, length, found):
        gate = self.H1({"load.kind": None, "start.method": method, "wiring.length": length}).gate("start.terminals")
        assert gate.verdict is found
        assert gate.needs == (("the load",) if found is UNKNOWN else ())

    # 583 A dip 4.7 %, a third of it 1.6
    @pytest.mark.parametrize(("limit", "found"), [("1 %", FAILS), ("3 %", UNKNOWN), ("6 %", PASSES)])
    def test_so_does_the_dip_in_wye(self, limit, found):
        plan = self.H1({"load.kind": None, "start.method": "wye-delta", "limits.dip": limit})
        assert plan.gate("start.dip").verdict is found
        assert plan.gate("start.dip").needs == (("the load",) if found is UNKNOWN else ())

    def test_what_the_load_then_tells_agrees(self):
        """P-11 with 600 m: in wye it keeps 90.6 % at first, and 72.5 once it is in delta."""
        facts = {"start.method": "wye-delta", "wiring.length": "600 m"}
        plan = planner(LOCK, "P-11")
        assert plan(facts).gate("start.terminals").verdict is FAILS
        assert all(
            one.key != "start.terminals" for one in plan(facts | {"load.kind": None}).gates if one.verdict is PASSES
        )

    @pytest.mark.parametrize(("asked", "used"), [("yes", "drive"), (None, "full-voltage"), ("no", "full-voltage")])
    def test_what_is_to_turn_at_any_speed_is_on_its_drive_before_it_is_simulated(self, asked, used):
        """P-4: three motors on one drive draw three times 10.6 A, and its device holds the drive's 36 A."""
        plan = planner(SOUND, "P-4")({"load.kind": None, "start.speed_control": asked})
        assert plan.of(START).chosen == used
        assert ("36 A" in plan.gate("protection.device").sentence) is (asked == "yes")


@pytest.mark.parametrize(("power", "found"), [(None, CHECK), ("60 hp", FAILS), ("40 hp", PASSES)])
def test_a_stall_in_wye_hangs_on_when_the_load_lets_it_change_over(power, found):
    """X-51 behind 150 kVA changes over after 134 s with all of its 60 hp, after 51 with 40: half to 115 % may be asked."""
    facts = {"wiring.length": "80 m", "supply.transformer_power": "150 kVA", "limits.terminal": "90 %"}
    gate = planner(LOCK, "X-51")(facts | {"load.power": power}).gate("protection.stall")
    assert gate.verdict is found
    assert (gate.turns.path if gate.turns else "") == ("load.power" if found is CHECK else "")


def test_a_timer_that_is_set_lasts_as_long_whatever_the_load():
    facts = {"wiring.length": "80 m", "supply.transformer_power": "150 kVA", "start.changeover": "120 s"}
    gate = planner(LOCK, "X-51")(facts | {"load.power": None, "machine.stall_hot": "15 s"}).gate("protection.stall")
    assert gate.verdict is FAILS


HOIST = planner(LOCK, "G-21")
SLOW = {"start.method": "full-voltage", "load.inertia": "0.5 kg·m²"}
REDUCED = {"start.method": "autotransformer"}


@pytest.mark.parametrize(
    ("facts", "key", "verdict"),
    [
        (REDUCED, "start.torque", PASSES),  # of design D, as its plate says
        (REDUCED | {"plate.design_letter": None}, "start.torque", CHECK),  # slips 7.5 %: it may be
        (REDUCED | {"plate.design_letter": None, "plate.speed": "1150 rpm"}, "start.torque", FAILS),
        (REDUCED | {"plate.design_letter": None, "machine.locked_rotor_torque": "150 %"}, "start.torque", FAILS),
        (SLOW | {"plate.design_letter": None}, "protection.stall", CHECK),
        (SLOW | {"plate.design_letter": None, "protection.trip_class": "40"}, "protection.stall", FAILS),
        (SLOW | {"plate.design_letter": None, "protection.trip_class": "10"}, "protection.stall", PASSES),
        (SLOW | {"plate.design_letter": None, "load.inertia": "8 kg·m²"}, "protection.stall", FAILS),
    ],
)
def test_a_letter_that_slip_tells_and_a_class_that_only_is_advised(facts, key, verdict):
    assert HOIST(facts).gate(key).verdict is verdict


def test_what_settles_a_class_that_is_advised_lets_a_quicker_one_hold():
    facts = {"start.method": "full-voltage", "limits.dip": "10 %", "load.inertia": "80 kg·m²"}
    asked = PUMP(facts).gate("protection.stall")
    assert asked.verdict is CHECK
    assert "class 30, which may open in time" in asked.sentence
    assert asked.turns is None
