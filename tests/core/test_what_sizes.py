"""Which amperes size a circuit: the table's, the plate's of a slow or strong motor, those of the speed that draws most."""

import pytest

from tests.conftest import planner, whole
from tests.core.on_direct_current import NEC

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"


def asked(plan, *keys):
    return [plan.protected.device(key).asked for key in keys]


@pytest.mark.parametrize(
    ("facts", "amps", "rating"),
    [
        # 25 hp: 34 A in table 430.250; conductors 125 %, a breaker 250 %, a switch 115 %
        ({"plate.design_letter": "B", "plate.full_load_current": "36"}, 34, 90),
        ({"plate.design_letter": "C", "plate.full_load_current": "36"}, 36, 90),
        ({"plate.design_letter": "D", "plate.full_load_current": "33"}, 34, 90),
        ({"plate.design_letter": "B", "plate.full_load_current": "39", "plate.speed": "870 rpm"}, 39, 100),
        ({"plate.design_letter": "B", "plate.full_load_current": "39", "plate.speed": "1199 rpm"}, 39, 100),
        ({"plate.design_letter": "B", "plate.full_load_current": "39", "plate.speed": "1205 rpm"}, 34, 90),
    ],
)
def test_slow_and_strong_motors_are_sized_by_their_plate_where_it_has_more(facts, amps, rating):
    """NFPA 70:2023 430.6(A)(1)."""
    plan = planner(LOCK, "D-61")(facts)
    assert asked(plan, "conductors", "disconnect", "device") == [
        f"≥ {1.25 * amps:.4g} A", f"≥ {1.15 * amps:.4g} A", f"≤ {rating} A",
    ]  # fmt: skip
    assert plan.protected.sizing_a == amps


@pytest.mark.parametrize(("amps", "verdict"), [("54", "passes"), ("56", "check"), ("84", "check"), ("86", "fails")])
def test_a_slow_motor_may_draw_far_more_than_the_table(amps, verdict):
    """Up to 1.6 and 2.5 times of 34 A; any other to 1.25 and 1.6."""
    slow = {"plate.speed": "870 rpm", "plate.full_load_current": amps}
    assert planner(LOCK, "D-61")(slow).gate("plate.table").verdict == verdict
    usual = slow | {"plate.speed": "1765 rpm", "plate.design_letter": "B"}
    assert planner(LOCK, "D-61")(usual).gate("plate.table").verdict == ("check" if amps == "54" else "fails")


class TestTwoSpeeds:
    """430.22(B): the largest current of either speed; 433.1: I_b likewise."""

    @pytest.mark.parametrize(("low", "sized"), [("27 A", 34), ("35 A", 35)])
    def test_the_speed_that_draws_most_sizes_it(self, low, sized):
        plan = planner(LOCK, "D-61")({"starter.speeds": "power", "starter.low_current": low})
        assert asked(plan, "conductors") == [f"≥ {1.25 * sized:.4g} A"]
        assert plan.gate("protection.conductors").verdict == "passes"

    def test_its_plate_counts_where_it_has_more_than_the_table(self):
        facts = {"plate.design_letter": "B", "plate.full_load_current": "36"}
        plan = planner(LOCK, "D-61")(facts | {"starter.speeds": "separate", "starter.low_current": "12 A"})
        assert asked(plan, "conductors") == ["≥ 45 A"]

    @pytest.mark.parametrize(("low", "verdict"), [("30 A", "passes"), ("57 A", "passes"), ("58 A", "fails")])
    def test_by_the_iec_conductors_device_and_switch_carry_it(self, low, verdict):
        """10 mm² copper, PVC, method C: 57 A with three loaded (IEC 60364-5-52:2009 table B.52.4); 36 A on its plate."""
        facts = {"wiring.size": "10 mm²", "starter.speeds": "power", "starter.low_current": low}
        plan = planner(SOUND, "W-2")(facts)
        amps = max(36, float(low.split()[0]))
        assert plan.gate("protection.conductors").verdict == verdict
        assert asked(plan, "device", "disconnect") == [f"≥ {amps:g} A"] * 2
        alone = planner(SOUND, "W-2")({"wiring.size": "10 mm²", "starter.low_current": low})
        assert asked(alone, "device") == ["≥ 36 A"]

    @pytest.mark.parametrize(("low", "asks"), [("30 A", 36), ("50 A", 50)])
    def test_by_the_iec_its_contactor_makes_and_breaks_it(self, low, asks):
        plan = planner(SOUND, "W-2")({"starter.speeds": "power", "starter.low_current": low})
        assert plan.protected.device("starter").asked == f"≥ {asks:g} A"

    @pytest.mark.parametrize(("speeds", "possible"), [("constant", False), ("separate", False), (None, True)])
    def test_halves_of_its_winding_serve_its_speeds(self, speeds, possible):
        facts = {"starter.speeds": speeds, "start.part_winding": "yes", "plate.leads": "6", "plate.volts": "460"}
        row = whole(LOCK, "D-61")(facts).comparison.row("part-winding")
        assert (row.outcome is not None) is possible

    def test_of_a_duty_by_the_larger_of_its_plates(self):
        """430.22(E), varying and stamped continuous: 200 % of 50 A, not of the 32 A at high speed."""
        facts = {"starter.speeds": "power", "starter.low_current": "50 A", "wiring.duty": "varying"}
        assert asked(planner(LOCK, "D-61")(facts), "conductors") == ["≥ 100 A"]


class TestOfADuty:
    """430.22(E) by the plates, never less than 430.122(A) asks ahead of a drive: 30-minute motors of 92 A."""

    @pytest.mark.parametrize(
        ("duty", "motors", "takes", "asks"),
        [
            ("intermittent", "1", None, 0.9 * 92),
            ("intermittent", "1", "60 A", 0.9 * 92),
            ("intermittent", "1", "80 A", 1.25 * 80),  # more than the 82.8 A of the duty, less than the 115 A without
            ("intermittent", "2", "120 A", 0.9 * 184),  # both of them
            ("intermittent", "2", "180 A", 1.25 * 180),
            ("varying", "1", "80 A", 1.5 * 92),
            (None, "1", "80 A", 1.25 * 96),
        ],
    )
    def test_ahead_of_a_drive(self, duty, motors, takes, asks):
        facts = {
            "start.method": "drive", "start.speed_control": "yes", "plate.duty": "30 MIN", "wiring.duty": duty,
            "drive.motors": motors, "protection.drive_input": takes,
        }  # fmt: skip
        assert planner(LOCK, "P-11")(facts).figure("wiring.need").value == pytest.approx(asks)

    @pytest.mark.parametrize(("duty", "asks"), [("intermittent", 1.5 * 20), ("varying", 2.0 * 18.5)])
    def test_behind_a_rectifier_of_one_phase_no_less_than_its_form_asks(self, duty, asks):
        facts = {
            **NEC, "plate.power": "5 hp", "plate.volts": "240 V", "plate.full_load_current": "18.5 A",
            "plate.efficiency": None, "load.power": "4 hp", "load.inertia": "0.1 kg·m²", "wiring.duty": duty,
            "machine.inertia": "0.02 kg·m²", "start.converter_lines": "two", "protection.drive_input": "19 A",
            "plate.duty": "CONT",
        }  # fmt: skip
        assert planner(LOCK, "P-11")(facts).figure("wiring.need").value == pytest.approx(asks)


@pytest.mark.parametrize(("rating", "verdict"), [("18 A", "passes"), ("17 A", "fails")])
def test_each_contactor_of_a_part_winding_carries_half(rating, verdict):
    plan = planner(SOUND, "W-2")({
        "start.method": "part-winding", "plate.part_winding": "yes", "protection.contactor": rating,
    })  # fmt: skip
    assert plan.protected.device("starter").asked == "≥ each half 18 A"
    assert plan.gate("protection.starter").verdict == verdict
