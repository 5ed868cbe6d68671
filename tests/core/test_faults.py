"""Fault currents by what they are for, and what earth faults ask: worked by hand beside the standards' formulas."""

import cmath
import math
from typing import ClassVar

import pytest

from tests.conftest import planner
from vinegate.core.facts import RuleSetName, read_job
from vinegate.core.grade import Kind, Verdict
from vinegate.core.protection.feeder import feeders
from vinegate.core.protection.members import Member, Unsized
from vinegate.demo import demo_job

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"


@pytest.fixture(scope="module")
def h1():
    return planner(SOUND, "H-1")


def _skerry(c, k_t):
    """315 kVA, 4 %, R/X 0.25 behind 150 MVA (X/R 10): ohms at 400 V with a factor on each."""
    z_t, z_q = 0.04 * 400**2 / 315e3, c * 400**2 / 150e6
    return k_t * z_t * cmath.exp(1j * math.atan(4)) + z_q * cmath.exp(1j * math.atan(10))


def test_three_figures_each_for_what_it_is_for(h1):
    """IEC 60909-0: c_max with K_T for ratings, c_min warm for disconnection, no factor for the dip."""
    plan = h1()
    k_t = 0.95 * 1.1 / (1 + 0.6 * 0.04 * 4 / math.sqrt(17))
    largest = 1.1 * 400 / math.sqrt(3) / abs(_skerry(1.1, k_t)) / 1000
    assert plan.figure("supply.transformer_factor").value == pytest.approx(k_t)
    assert plan.figure("supply.fault_largest").value == pytest.approx(largest, rel=1e-6)
    assert plan.figure("supply.fault_at_board").value == pytest.approx(
        400 / math.sqrt(3) / abs(_skerry(1, 1)) / 1000, rel=1e-6
    )
    run = complex(1.25 * 0.524 * 75, 0.08 * 75) / 1000
    least = 0.9 * 400 / math.sqrt(3) / abs(_skerry(1, 1) + run) / 1000
    assert plan.figure("protection.far_fault").value == pytest.approx(least, rel=1e-3)
    narrow = h1({"supply.tolerance": "6"})
    assert narrow.figure("supply.c_max").value == 1.05
    assert narrow.figure("protection.far_fault").value == pytest.approx(least * 0.95 / 0.9, rel=1e-3)


def test_the_rating_is_held_against_the_largest(h1):
    """12.6 kA with the motor's own: 15 kA passes, 12 kA fails though the dip's figure would let it."""
    plan = h1()
    most = plan.figure("supply.fault_largest").value + plan.figure("supply.motor_fault").value
    assert 1000 * plan.figure("supply.fault_at_board").value < 12000 < 1000 * most
    assert h1({"protection.short_circuit_rating": "12 kA"}).gate("protection.short_circuit_rating").verdict == "fails"


@pytest.mark.parametrize(("motors", "verdict"), [(None, "check"), ("0 kVA", "passes"), ("60 kVA", "fails")])
def test_motors_that_run_beside_it_count(h1, motors, verdict):
    """60 kVA of other load: as motors it feeds 4 · 60/(√3 · 0.4) = 346 A into the first cycle."""
    plan = h1({"main_board.motor_power": motors})
    own = 1000 * (plan.figure("supply.fault_largest").value + plan.figure("supply.motor_fault").value)
    rated = f"{(own + 170) / 1000:.3f} kA"
    gate = h1({"main_board.motor_power": motors, "protection.short_circuit_rating": rated}).gate(
        "protection.short_circuit_rating"
    )
    assert gate.verdict == verdict


GENERATOR = {"supply.in_use": "standby", "standby.generator_power": "400 kVA", "standby.transient_reactance": "25 %"}


class TestGenerator:
    """X'd holds for parts of a second; later a device sees the sustained current."""

    def test_later_faults_are_not_known_without_the_sustained_current(self, h1):
        slow = GENERATOR | {"protection.device_iec": "gg"}
        assert h1(slow).gate("protection.loop").verdict is Verdict.UNKNOWN
        assert "sustained" in h1(slow).gate("protection.loop").sentence

    @pytest.mark.parametrize(("amps", "verdict"), [("500 A", "fails"), ("700 A", "passes")])
    def test_the_sustained_current_decides(self, h1, amps, verdict):
        """A 100 A gG opens within 5 s from 580 A."""
        assert h1(GENERATOR | {"standby.sustained": amps}).gate("protection.loop").verdict == verdict

    def test_what_opens_at_once_needs_none(self, h1):
        """A 4 kW pump's magnetic release trips from 156 A, and X'd drives far more than that."""
        near = GENERATOR | {"wiring.length": "30 m"}
        assert planner(SOUND, "K-5")(near).gate("protection.loop").verdict is Verdict.PASSES

    def test_its_first_cycle(self, h1):
        """Without X"d the rating is judged over what it may be."""
        plan = h1(GENERATOR)
        own = plan.figure("supply.motor_fault").value + 60 * 4 / (math.sqrt(3) * 400)
        at_transient = plan.figure("supply.fault_at_board").value
        rated = {"protection.short_circuit_rating": f"{at_transient * 1.2 + own:.3f} kA"}
        assert h1(GENERATOR | rated).gate("protection.short_circuit_rating").verdict is Verdict.CHECK
        for share, verdict in (("22 %", "passes"), ("16 %", "fails")):
            found = h1(GENERATOR | rated | {"standby.subtransient_reactance": share})
            assert found.gate("protection.short_circuit_rating").verdict == verdict


SUB_BOARD = {
    "board_1.name": "deck board", "board_1.fed_from": "main", "board_1.size": "95 mm²", "board_1.metal": "copper",
    "board_1.length": "40 m", "board_1.sets": "1", "wiring.board": "board_1", "wiring.length": "35 m",
}  # fmt: skip


class TestSubBoard:
    def test_the_loop_goes_back_through_the_feeder(self, h1):
        """95 mm² out and 50 mm² back, 0.193 Ω/km · 1.25 · 40 m = 9.65 mΩ times 1 + 95/50; reactance twice."""
        plan = h1(SUB_BOARD | {"board_1.ground_size": "50 mm²"})
        source = _skerry(1, 1) * 1000
        r = source.real + 9.65 * (1 + 95 / 50) + 1.25 * 0.524 * 35 * (1 + 35 / 16)
        x = source.imag + 2 * 3.2 + 2 * 2.8
        assert plan.figure("wiring.loop").value == pytest.approx(math.hypot(r, x), rel=1e-3)
        assert plan.gate("protection.loop").verdict is Verdict.PASSES

    def test_without_the_feeders_protective_conductor_it_is_not_known(self, h1):
        gate = h1(SUB_BOARD).gate("protection.loop")
        assert gate.verdict is Verdict.UNKNOWN
        assert any(item.path == "board_1.ground_size" for item in h1(SUB_BOARD).missing)

    def test_a_thin_pen_is_told(self, h1):
        plan = h1(SUB_BOARD | {"board_1.ground_size": "6 mm²", "supply.earthing": "tn-c-s"})
        assert plan.gate("protection.pen").kind is Kind.CONFIRM
        fine = h1(SUB_BOARD | {"board_1.ground_size": "50 mm²", "supply.earthing": "tn-c-s"})
        assert not any(gate.key == "protection.pen" for gate in fine.gates)


@pytest.mark.parametrize("earthing", ["tn", "tn-s", "tn-c-s"])
def test_every_tn_disconnects_alike(h1, earthing):
    assert h1({"supply.earthing": earthing}).gate("protection.loop").limit == 580


@pytest.mark.parametrize(("ohms", "amps", "verdict"), [("20 Ω", "2 A", "passes"), ("30 Ω", "2 A", "fails")])
def test_it_bounds_the_first_fault(h1, ohms, amps, verdict):
    """R_A · I_d of 40 and 60 V against 50; the monitor is asked beside it."""
    it = {"supply.earthing": "it", "supply.earth_resistance": ohms, "supply.first_fault": amps}
    assert h1(it).gate("protection.first_fault").verdict == verdict
    assert h1(it).gate("protection.monitor").verdict is Verdict.UNKNOWN
    assert h1(it | {"supply.monitor": "yes"}).gate("protection.monitor").verdict is Verdict.PASSES
    assert h1(it | {"supply.monitor": "no"}).gate("protection.monitor").verdict is Verdict.FAILS
    assert h1({"supply.earthing": "it"}).gate("protection.first_fault").verdict is Verdict.UNKNOWN


@pytest.mark.parametrize(("kind", "verdict"), [("b", "passes"), ("a", "fails"), (None, "not known")])
def test_a_drive_behind_a_residual_device_asks_type_b(kind, verdict):
    drive = planner(SOUND, "F-3")
    found = drive({"supply.residual": "300 mA", "supply.residual_type": kind})
    assert found.gate("protection.residual_type").verdict == verdict
    assert not any(gate.key == "protection.residual_type" for gate in drive().gates)


@pytest.mark.parametrize(("kind", "verdict"), [("a", "fails"), ("f", "passes"), ("b", "passes")])
def test_a_bridge_of_one_phase_makes_no_smooth_direct_current(kind, verdict):
    """Its residual current crosses nought: type F sees it (IEC 60364-5-53:2019 531.3.3)."""
    one = {"drive.phases": "1", "supply.residual": "300 mA", "supply.residual_type": kind}
    assert planner(SOUND, "F-3")(one).gate("protection.residual_type").verdict == verdict


def test_nec_ratings_take_the_source_as_stated():
    """500 kVA, 5 %, X/R 4.5 behind 14 kA at 12.47 kV, X/R 8: |Z| of the sum, no voltage factor."""
    plan = planner(LOCK, "P-11")()
    z_t, z_q = 0.05 * 480**2 / 500e3, 480**2 / (math.sqrt(3) * 12470 * 14000)
    z = z_t * cmath.exp(1j * math.atan(4.5)) + z_q * cmath.exp(1j * math.atan(8))
    fault = 480 / math.sqrt(3) / abs(z) / 1000
    assert plan.figure("supply.fault_at_board").value == pytest.approx(fault, rel=1e-6)
    assert plan.figure("supply.fault_largest") is None
    own = plan.figure("supply.motor_fault").value
    assert plan.gate("protection.short_circuit_rating").limit == pytest.approx(1000 * (fault + own), rel=1e-6)


@pytest.mark.parametrize(("changes", "times"), [
    ({"start.method": "full"}, 7.5), ({}, 0), ({"drive.front_end": "active"}, 3), ({"drive.front_end": "12"}, 0),
])  # fmt: skip
def test_a_motor_feeds_a_fault_through_a_converter_only_where_that_feeds_back(changes, times):
    """IEC 60909-0 6.10, 6.11: F-3's 53 A at its starting ratio on the line, three times of them from an active bridge."""
    plan = planner(SOUND, "F-3")(changes)
    gate, most = plan.gate("protection.short_circuit_rating"), plan.figure("supply.fault_largest").value
    assert gate.limit == pytest.approx(1000 * most + times * 53, rel=1e-3)
    assert ("its own motor counted" in gate.sentence) is bool(times)


def test_a_motor_past_its_drive_feeds_a_fault():
    """11.8 kA hold what the supply gives; on the by-pass the motor's 0.4 kA come to it."""
    rated = {"protection.short_circuit_rating": "11.8 kA", "main_board.motor_power": "0 kVA"}
    assert planner(SOUND, "F-3")(rated).gate("protection.short_circuit_rating").verdict == "passes"
    past = planner(SOUND, "F-3")(rated | {"starter.bypass": "yes"})
    assert past.gate("starter.bypass_protection_short_circuit_rating").verdict == "fails"


class TestUtilityNotGiven:
    """Left out, the utility counts as stiff: right for ratings, too good for disconnection."""

    UNKNOWN: ClassVar = {"supply.fault_level": None, "supply.fault_level_volts": None, "supply.fault_x_over_r": None}

    def test_ratings_stand_on_the_largest(self):
        plan = planner(LOCK, "P-11")(self.UNKNOWN)
        assert plan.gate("protection.short_circuit_rating").verdict is Verdict.PASSES
        stiff = planner(LOCK, "P-11")().figure("supply.fault_at_board").value
        assert plan.figure("supply.fault_at_board").value > stiff

    def test_clearing_near_its_limit_is_to_check_and_far_from_it_passes(self):
        """The device opens from just below what a stiff utility would drive; a weaker one drives less."""
        far = planner(LOCK, "P-11")(self.UNKNOWN).figure("protection.far_fault").value * 1000 * math.sqrt(3) / 2
        near = planner(LOCK, "P-11")(self.UNKNOWN | {"protection.clears": f"{0.97 * far:.0f} A"})
        assert near.gate("protection.clears").verdict is Verdict.CHECK
        easy = planner(LOCK, "P-11")(self.UNKNOWN | {"protection.clears": f"{0.3 * far:.0f} A"})
        assert easy.gate("protection.clears").verdict is Verdict.PASSES
        given = planner(LOCK, "P-11")({"protection.clears": f"{0.97 * far * 0.96:.0f} A"})
        assert given.gate("protection.clears").verdict is Verdict.PASSES


def test_a_feeder_carries_continuous_load_at_125_percent():
    """NFPA 70 430.24: 1.25 · 27 + 21 + 1.25 · 45 kVA/(√3 · 480); of it 20 kVA continuous: less."""
    motors = (Member(tag="a", board="board_1", volts_v=480, sizing_a=27, device_a=50),
              Member(tag="b", board="board_1", volts_v=480, sizing_a=21, device_a=40))  # fmt: skip
    facts = demo_job(LOCK).facts
    amps = 45e3 / math.sqrt(3) / 480
    for continuous, share in ((None, 1.0), ("20 kVA", 20 / 45), ("0 kVA", 0.0)):
        raw = facts | {"board_1": facts["board_1"] | {"continuous_power": continuous}}
        job, _ = read_job(raw, RuleSetName.NEC)
        found = next(one for one in feeders(job, motors) if one.key == "board_1")
        assert found.need.value == pytest.approx(1.25 * 27 + 21 + amps * (1 + 0.25 * share))


@pytest.mark.parametrize(("share", "amps"), [(None, 90), ("80 %", 72), ("10 %", 60)])
def test_an_iec_feeder_never_carries_less_than_its_largest_motor(share, amps):
    motors = (Member(tag="a", board="board_1", volts_v=400, sizing_a=60, device_a=100),
              Member(tag="b", board="board_1", volts_v=400, sizing_a=30, device_a=63))  # fmt: skip
    raw = demo_job(SOUND).facts | {"board_1": {"name": "deck", "size": "95 mm²", "simultaneity": share}}
    job, _ = read_job(raw, RuleSetName.IEC)
    found = next(one for one in feeders(job, motors) if one.key == "board_1")
    assert found.need.value == pytest.approx(amps)


def test_a_short_circuit_rating_is_said_in_the_amperes_it_is_judged_by(h1):
    gate = h1({"protection.short_circuit_rating": "12 kA"}).gate("protection.short_circuit_rating")
    assert float(gate.sentence.partition(" kA")[0]) == pytest.approx(gate.limit / 1000, rel=0.01)


class TestAFeederWithoutACircuit:
    """What is not sized only adds: a sum that holds without it may not hold with it."""

    @staticmethod
    def gates(rules, size, device, board="board_1"):
        volts = {RuleSetName.NEC: 480, RuleSetName.IEC: 400}[rules]
        demo = demo_job(LOCK if rules is RuleSetName.NEC else SOUND)
        raw = demo.facts | {"board_1": {"name": "deck", "size": size, "device": device}}
        motor = Member(tag="a", board="board_1", volts_v=volts, sizing_a=60, device_a=100)
        job, _ = read_job(raw, rules)
        other = () if board is None else (Unsized(tag="b", board=board),)
        found = next(one for one in feeders(job, [motor], other) if one.key == "board_1")
        return {gate.key.removeprefix("protection."): gate for gate in found.stage.gates}

    @pytest.mark.parametrize(
        ("rules", "size", "device", "alone", "open_"),
        [
            (RuleSetName.NEC, "1/0 AWG", "100 A", ("passes", "passes"), ("not known", "passes")),
            (RuleSetName.NEC, "8 AWG", "600 A", ("fails", "fails"), ("fails", "not known")),
            (RuleSetName.IEC, "95 mm²", "200 A", ("passes", "passes"), ("not known", "not known")),
            (RuleSetName.IEC, "4 mm²", "20 A", ("fails", "fails"), ("fails", "fails")),
        ],
    )
    def test_what_it_could_change_is_not_known(self, rules, size, device, alone, open_):
        for board, expected in ((None, alone), ("board_1", open_), ("main", alone)):
            found = self.gates(rules, size, device, board)
            assert (found["feeder"].verdict, found["feeder_device"].verdict) == expected, board

    def test_it_is_named(self):
        gate = self.gates(RuleSetName.IEC, "95 mm²", "200 A")["feeder"]
        assert "current and device of b" in gate.sentence


@pytest.mark.parametrize(
    ("rating", "verdicts"),
    [("12.1 kA", ("fails", "fails", "fails")), ("12.3 kA", ("passes", "check", "fails")),
     ("12.5 kA", ("passes", "check", "fails")), ("12.55 kA", ("passes", "passes", "passes"))],
)  # fmt: skip
def test_motors_not_said_are_none_to_all_of_the_other_load(h1, rating, verdicts):
    """Of 60 kVA of other load none, nobody knows, and all is motors: 12.18 to 12.52 kA at the board."""
    said = ({"main_board.motor_power": text, "protection.short_circuit_rating": rating}
            for text in ("0 kVA", None, "60 kVA"))  # fmt: skip
    assert tuple(h1(facts).gate("protection.short_circuit_rating").verdict for facts in said) == verdicts


@pytest.mark.parametrize(("share", "verdict"), [(0.99, "passes"), (1.01, "check")])
def test_a_fault_behind_a_utility_of_unknown_strength_is_at_least_that_of_one_as_weak_as_the_transformer(
    share, verdict
):
    """The loop of the three-phase fault and 23.04 mΩ of transformer once more: what is left of √3/2 of it."""
    plan = planner(LOCK, "P-11")
    kiloamps = plan({"supply.fault_level": None}).figure("protection.far_fault").value
    loop = 480 / math.sqrt(3) / kiloamps
    least = 1000 * kiloamps * math.sqrt(3) / 2 * loop / (loop + 23.04)
    facts = {"supply.fault_level": None, "protection.clears": f"{share * least:.2f} A"}
    assert plan(facts).gate("protection.clears").verdict == verdict


class TestFromOneLine:
    """Ratings are held against the largest fault of any kind."""

    SPLIT: ClassVar = {
        "board_2.volts": "120/240 V", "board_2.transformer_power": "50 kVA", "board_2.transformer_impedance": "2 %",
        "board_2.transformer_x_over_r": "4.5", "board_2.size": None, "board_2.length": None,
    }  # fmt: skip

    def ground(self, percent):
        """By symmetrical components, c = 1: utility and transformer in both sequences, the transformer's own in zero."""
        utility = cmath.rect(480**2 / (3**0.5 * 12.47e3 * 14e3), math.atan(8))
        unit = cmath.rect(480**2 / 500e3, math.atan(4.5))
        first, zero = utility + 0.05 * unit, percent / 100 * unit
        return 3**0.5 * 480 / abs(2 * first + zero)

    @pytest.mark.parametrize(("percent", "more"), [(4, True), (5, True), (5.6, False)])
    def test_to_ground_at_a_transformer_it_is_more_than_between_three_lines(self, percent, more):
        plan = planner(LOCK, "P-11")({"supply.transformer_zero": f"{percent} %", "main_board.load_power": None})
        gate, three = plan.gate("protection.short_circuit_rating"), plan.figure("supply.fault_at_board").value
        own = plan.figure("supply.motor_fault").value
        assert ("from a line to ground" in gate.sentence) is more
        assert gate.limit == pytest.approx(max(self.ground(percent), 1000 * three) + 1000 * own, rel=1e-3)

    def test_what_is_stated_of_two_lines_flows_between_them_and_is_the_most(self):
        """10 kA at 120/240 V are 24 mΩ between the lines, half in each; at 12.47 kV ahead of a transformer, three-phase."""
        here = {"board_2.transformer_power": None, "board_2.transformer_impedance": None, "supply.volts": "120/240 V",
                "supply.transformer_power": None, "supply.transformer_impedance": None, "supply.fault_level": "10 kA",
                "supply.fault_level_volts": None, "main_board.load_power": None, "wiring.board": None}  # fmt: skip
        plan = planner(LOCK, "C-71")(here)
        assert plan.figure("supply.utility_z").value == pytest.approx(12)
        assert plan.figure("supply.fault_at_board").value == pytest.approx(10)
        own = plan.figure("supply.motor_fault").value
        gate = planner(LOCK, "C-71")(here | {"board_1.load_power": None, "board_2.load_power": None}).gate(
            "protection.short_circuit_rating"
        )
        assert gate.limit == pytest.approx(1000 * (10 + own), rel=1e-3)
        ahead = {"supply.fault_level_volts": "12.47 kV", "supply.transformer_power": "50 kVA"}
        behind = planner(LOCK, "C-71")(here | ahead | {"supply.transformer_impedance": "2 %"})
        assert behind.figure("supply.fault_power").value == pytest.approx(3**0.5 * 12.47 * 10)

    def test_a_transformer_of_two_lines_has_one_winding(self):
        """50 kVA at 2 %: its own ohms U·z·U/S between the lines, those ahead of it twice, at a quarter."""
        plan = planner(LOCK, "C-71")(self.SPLIT)
        source = complex(plan.figure("supply.source_r").value, plan.figure("supply.source_x").value) / 1000
        own = cmath.rect(0.02 * 240**2 / 50e3, math.atan(4.5))
        between = 240 / abs(2 * source / 4 + own)
        assert plan.figure("supply.fault_at_board_2").value == pytest.approx(between / 1000, rel=1e-6)
        gate = plan.gate("protection.short_circuit_rating")
        own_share = plan.figure("supply.motor_fault").value * 1000
        assert (gate.verdict, gate.limit) == ("fails", pytest.approx(1.5 * between + own_share, rel=1e-6))
        enough = planner(LOCK, "C-71")(self.SPLIT | {"protection.short_circuit_rating": "11 kA"})
        assert enough.gate("protection.short_circuit_rating").verdict == "passes"

    def test_a_neutral_that_comes_back_a_long_way_is_no_more(self):
        """Down a feeder on the two lines' side one to neutral draws at last half of what two lines do."""
        far = {"supply.volts": "120/240 V", "board_2.volts": None, "board_2.transformer_power": None,
               "board_2.transformer_impedance": None, "protection.short_circuit_rating": "5 kA"}  # fmt: skip
        gate = planner(LOCK, "C-71")(far).gate("protection.short_circuit_rating")
        assert "from a line" not in gate.sentence
        near = planner(LOCK, "C-71")(far | {"board_2.length": "1 m"}).gate("protection.short_circuit_rating")
        assert "from a line to neutral" in near.sentence


@pytest.mark.parametrize(
    ("file", "tag", "changes", "parts"),
    [
        (LOCK, "P-11", {}, ["I_sc", "I_M"]),
        (SOUND, "H-1", {}, ["I_kmax", "I_M"]),
        (LOCK, "P-11", {"main_board.motor_power": "40 kVA"}, ["I_sc", "I_m", "I_M"]),
        (LOCK, "P-11", {"supply.in_use": "standby", "standby.subtransient_reactance": "0.14"}, ["k_s·I_sc"]),
    ],
)
def test_what_a_rating_is_held_against_has_a_line_of_its_own(file, tag, changes, parts):
    plan = planner(file, tag)({"protection.short_circuit_rating": "65 kA"} | changes)
    total = plan.figure("protection.fault_total")
    assert 1000 * total.value == pytest.approx(plan.gate("protection.short_circuit_rating").limit)
    assert all(part in total.formula for part in parts)


def test_behind_a_drive_nothing_is_added_and_no_line_repeats_the_boards():
    assert planner(SOUND, "F-3")({"main_board.motor_power": "0 kVA"}).figure("protection.fault_total") is None


@pytest.mark.parametrize(
    ("given", "lacks"),
    [
        ({}, None), ({"power": "75 kVA", "impedance": "4 %"}, None), ({"power": "75 kVA"}, "transformer impedance"),
        ({"impedance": "4 %"}, "transformer power"),
    ],
)  # fmt: skip
def test_half_of_what_says_a_boards_transformer_is_no_board_without_one(given, lacks):
    facts = {f"board_1.transformer_{name}": text for name, text in given.items()}
    plan = planner(LOCK, "M-41")(facts | {"wiring.board": "board_1"})
    found = plan.gate("start.dip")
    assert found.verdict is (Verdict.PASSES if lacks is None else Verdict.UNKNOWN)
    assert found.needs == (() if lacks is None else (f"{lacks} of Digester MCC",))


@pytest.mark.parametrize(
    ("facts", "lacks"),
    [
        ({}, None), ({"size": None}, "conductor size of Workshop's feeder"), ({"length": None}, "length of Workshop's feeder"),
        ({"size": None, "length": None}, None),  # the transformer stands at the board ahead
    ],
)  # fmt: skip
def test_half_of_what_says_a_feeder_is_no_feeder_left_out(facts, lacks):
    plan = planner(LOCK, "C-71")({f"board_2.{name}": text for name, text in facts.items()})
    found = plan.gate("start.dip")
    assert found.verdict is (Verdict.PASSES if lacks is None else Verdict.UNKNOWN)
    assert found.needs == (() if lacks is None else (lacks,))
