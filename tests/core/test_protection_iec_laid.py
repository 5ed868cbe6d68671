"""How a run is laid and a fault is cleared by the IEC's rules."""

import re
from typing import ClassVar

import pytest

from tests.conftest import planner
from vinegate.core.grade import Kind, Verdict
from vinegate.core.tables.trip_class import trip_class


@pytest.fixture(scope="session")
def h1():
    return planner("skerry-sound.json", "H-1")


def gate(plan, key):
    return plan.gate(f"protection.{key}")


@pytest.mark.parametrize(("method", "soil", "amps"), [("D2", "1.5 K·m/W", 110 * 1.28), ("D2", None, 110)])
def test_in_the_ground(h1, method, soil, amps):
    """35 mm² PVC copper direct in the ground: 110 A, and 1.28 times it in soil of 1.5 K·m/W."""
    facts = {"wiring.method": method, "wiring.soil": soil, "wiring.insulation_iec": "pvc", "wiring.ambient": "20 °C",
             "wiring.grouped": "1"}  # fmt: skip
    assert h1(facts).figure("wiring.ampacity").value == pytest.approx(amps)


def test_good_soil_lets_a_smaller_size_do(h1):
    """16 mm² PVC direct in the ground: 70 A, 90 A in soil of 1.5 K·m/W, for 81 A."""
    facts = {"wiring.method": "D2", "wiring.insulation_iec": "pvc", "wiring.ambient": "20 °C", "wiring.grouped": "1",
             "wiring.size": "16 mm²"}  # fmt: skip
    verdicts = {
        soil: h1(facts | {"wiring.soil": soil}).gate("protection.conductors").verdict for soil in ("1.5", "2.5")
    }
    assert verdicts == {"1.5": Verdict.PASSES, "2.5": Verdict.FAILS}


def test_a_stalled_motor_never_turns_a_speed_switch(h1):
    """In star a stall draws a third of the line current, 200 A of 81: the class's slowest relay takes its time, and the
    winding, at 1/√3 of its current, heats a third as fast. A timer leaves star after its seconds instead."""
    timer, switch = (h1({"start.changeover_by": by}).gate("protection.stall") for by in ("timer", "speed"))
    amps = h1().gate("protection.stall")
    star = 81 * 7.2 / 3
    trip = trip_class("10")
    opens = trip.latest_s(star / 81)
    assert switch.value == pytest.approx(opens / 3, rel=0.15)  # the sag of the volts, too
    assert timer.value == amps.value < switch.value
    assert switch.verdict is not Verdict.PASSES


def test_star_delta_says_where_the_relay_sees_most(h1):
    assert any("inside the delta" in note for note in h1().stage("overload").notes)
    inside = h1({"protection.overload_place": "delta", "protection.overload": None})
    assert not any("better inside" in note for note in inside.stage("overload").notes)


def test_behind_a_drive_the_drive_switches_off():
    """No device clears a fault behind a drive; its own trip and the motor's temperature are for the checklist."""
    plan = planner("skerry-sound.json", "F-3")()
    assert not any(gate.key == "protection.clears" for gate in plan.gates)
    assert not plan.gate("protection.loop").weighs
    assert not plan.gate("protection.overtemperature").weighs
    watched = planner("skerry-sound.json", "F-3")({"protection.thermistor": "yes"})
    assert watched.gate("protection.overtemperature").verdict is Verdict.PASSES


@pytest.mark.parametrize(
    ("left_out", "assumed"),
    [((), False), (("method",), True), (("insulation_iec",), True), (("method", "insulation_iec"), True)],
)
def test_an_ampacity_of_a_run_that_is_not_all_said_is_assumed(h1, left_out, assumed):
    figure = h1({f"wiring.{name}": None for name in left_out}).figure("wiring.tabulated")
    assert figure.soft is assumed
    assert bool(figure.note) is assumed


@pytest.mark.parametrize(
    ("size", "metal", "done"),
    [
        ("6 mm²", "copper", False),
        ("10 mm²", "copper", True),
        ("10 mm²", "aluminium", False),
        ("16 mm²", "aluminium", True),
        ("10 mm²", None, False),  # it may be aluminium
        ("16 mm²", None, True),
    ],
)
def test_behind_a_drive_ten_square_millimetres_bear_its_leakage(size, metal, done):
    """IEC 60364-5-54 543.7: 10 mm² of copper, 16 of aluminium, or a second conductor; else it is confirmed on site."""
    plan = planner("skerry-sound.json", "F-5")({"wiring.ground_size": size, "wiring.metal": metal})
    gate = plan.gate("protection.leakage")
    assert gate.kind is Kind.CONFIRM
    assert (gate.verdict is Verdict.PASSES) is done


class TestInTheGround:
    """35 mm² copper in XLPE, D1: 115 A in ground of 20 °C (table B.52.5); 1.07 of it at 10 °C, 0.96 at 25 (B.52.15)."""

    BURIED: ClassVar = {
        "wiring.method": "D1", "wiring.ambient": None, "wiring.grouped": "1", "start.method": "full-voltage",
    }  # fmt: skip

    @pytest.mark.parametrize("warmest", ["5 °C", "45 °C"])
    def test_no_areas_air_is_the_grounds(self, h1, warmest):
        plan = h1(self.BURIED | {"area_1.ambient_high": warmest})
        assert plan.figure("wiring.ampacity").value == pytest.approx(115)
        assert plan.figure("wiring.ambient").provenance.soft

    def test_in_air_it_is_the_areas(self, h1):
        plan = h1({"wiring.method": "C", "wiring.ambient": None, "area_1.ambient_high": "45 °C"})
        assert plan.figure("wiring.ampacity").value == pytest.approx(147 * 0.87, abs=0.1)

    @pytest.mark.parametrize(
        ("amps", "verdict"), [("110 A", "passes"), ("111 A", "check"), ("123 A", "check"), ("123.5 A", "fails")]
    )
    def test_unsaid_it_may_be_between_ten_and_twenty_five_degrees(self, h1, amps, verdict):
        """110.4 A at 25 °C, 123.05 at 10."""
        assert gate(h1(self.BURIED | {"protection.overload": amps}), "conductors").verdict == verdict

    @pytest.mark.parametrize(("said", "verdict"), [("20 °C", "passes"), ("25 °C", "fails"), ("10 °C", "passes")])
    def test_said_it_is_that(self, h1, said, verdict):
        plan = h1(self.BURIED | {"wiring.ambient": said, "protection.overload": "114 A"})
        assert gate(plan, "conductors").verdict == verdict


@pytest.mark.parametrize(("grouped", "rests"), [(None, True), ("1", False)])
def test_what_is_said_of_how_it_is_laid_is_no_assumption(h1, grouped, rests):
    found = gate(h1({"wiring.ambient": "30 °C", "wiring.grouped": grouped}), "conductors")
    assert ("circuits together" in found.rests_on) is rests
    assert "ambient" not in found.rests_on


@pytest.mark.parametrize(("grouped", "carries", "apart"), [(None, 0.8, False), ("1", 1.0, True), ("2", 0.8, False)])
def test_its_own_sets_lie_together_unless_it_is_said_that_they_do_not(grouped, carries, apart):
    """Two of 6 mm², 41 A each by method C (table B.52.4); two circuits together 0.80 (table B.52.17)."""
    facts = {"wiring.size": "6 mm²", "wiring.sets": "2", "wiring.grouped": grouped}
    plan = planner("skerry-sound.json", "W-2")(facts)
    assert plan.figure("wiring.ampacity").value == pytest.approx(2 * 41 * carries)
    assert ("its sets apart" in gate(plan, "conductors").sentence) is apart


@pytest.mark.parametrize(
    ("sets", "through", "verdict"), [("1", "2", "passes"), ("2", "2", "passes"), ("2", "2.1", "fails")]
)
def test_near_its_origin_a_fault_finds_one_conductor_of_several(h1, sets, through, verdict):
    """434.4: (143·10)² A²s of XLPE copper, 2.045 kA²s, however many lie beside it; two share only what flows at the
    motor."""
    facts = {"wiring.size": "10 mm²", "wiring.sets": sets, "protection.let_through": f"{through} kA²s"}
    assert h1(facts).gate("protection.withstand").verdict == verdict


class TestResidual:
    """A circuit's own residual-current device beside its short-circuit device (IEC 60364-4-41, 411.4.4, 411.4.5)."""

    # K-5's loop lets 138 A flow, its device opens within 0.4 s from 156 A; five times the rated residual current counts
    @pytest.mark.parametrize(
        ("facts", "verdict"),
        [
            ({}, "fails"),
            ({"protection.residual": "300 mA"}, "passes"),
            ({"protection.residual": "27 A"}, "passes"),
            ({"protection.residual": "30 A"}, "fails"),
            ({"supply.residual": "300 mA"}, "passes"),
            ({"supply.residual": "300 mA", "protection.residual": "30 A"}, "fails"),
        ],
    )
    def test_it_disconnects_where_the_loop_lets_too_little_flow(self, facts, verdict):
        assert planner("skerry-sound.json", "K-5")(facts).gate("protection.loop").verdict == verdict

    def test_on_it_a_first_fault_is_signalled_all_the_same(self):
        facts = {"supply.earthing": "it", "protection.residual": "300 mA"}
        gate = planner("skerry-sound.json", "K-5")(facts).gate("protection.loop")
        assert gate.sentence.startswith("A second earth fault draws 120 A; its residual-current device")
        assert gate.sentence.endswith("A first fault is to be signalled and found.")

    def test_its_type_is_the_circuits_where_it_is_said(self):
        planned = planner("skerry-sound.json", "F-3")
        facts = {"supply.residual": "300 mA", "supply.residual_type": "a", "start.method": "drive"}
        assert planned(facts).gate("protection.residual_type").verdict == "fails"
        assert planned(facts | {"protection.residual_type": "b"}).gate("protection.residual_type").verdict == "passes"

    def test_it_ends_the_fault_for_the_protective_conductor(self):
        """√(I²t)/k with 0.15 s and 115 A·√s/mm² of copper in PVC; the breaker alone may never open."""
        planned = planner("skerry-sound.json", "K-5")
        thin = {"wiring.ground_size": "1.5 mm²"}
        assert planned(thin).gate("protection.protective_withstand").verdict == "fails"
        gate = planned(thin | {"protection.residual": "300 mA"}).gate("protection.protective_withstand")
        amps = float(re.search(r"at (\d+) A", gate.sentence).group(1))
        assert gate.limit == pytest.approx(amps * 0.15**0.5 / 115, rel=0.01)
        assert gate.verdict == "passes"


def test_from_line_to_neutral_a_fault_is_between_those_two():
    """230 V through 30 m there and back: 228 A, which a 10 A breaker of type D surely opens at once from 200 A; of two
    lines it would be 197 A.
    """
    plan = planner("skerry-sound.json", "K-5")({
        "plate.kind": "capacitor-start-run", "plate.power": "1.1 kW", "plate.volts": "230", "plate.leads": None,
        "plate.full_load_current": "7.2 A", "plate.starting_current_ratio": "4.5", "protection.device_iec": "mcb-d",
        "protection.let_through": None, "wiring.size": "1.5 mm²", "wiring.length": "30 m", "wiring.method": "C",
        "wiring.insulation_iec": "xlpe", "load.power": "0.9 kW",
    })  # fmt: skip
    amps = float(re.search(r"draw (\d+) A", plan.gate("protection.clears").sentence).group(1))
    assert 200 < amps < 200 * 2 / 3**0.5
    gate = plan.gate("protection.withstand")
    assert (gate.verdict, gate.turns.path) == ("check", "protection.let_through")
    assert gate.sentence.startswith("It bears a fault at the motor; at its board")


@pytest.mark.parametrize(("marked", "verdict", "advised"), [("100 A", "passes", "100 A"), ("80 A", "fails", "100 A")])
def test_no_device_above_what_its_starter_is_marked_for(h1, marked, verdict, advised):
    """81 A rated: 100 A is the least that carries it; a starter marked for 80 A asks another."""
    plan = h1({"protection.drive_device": marked})
    assert plan.protected.device("device").advised == advised
    assert plan.gate("protection.drive_device").verdict == verdict
    assert not any(gate.key == "protection.drive_device" for gate in h1().gates)
