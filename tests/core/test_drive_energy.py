"""A year's energy at the same flow: identities of pump and fan, and losses against the machine's circuit."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import planner
from tests.examples import examples
from vinegate.core.drive.energy import fan_share
from vinegate.core.drive.losses import reference_loss_w
from vinegate.core.drive.made import read_carrier_points, read_loss_points
from vinegate.core.drive.stage import DRIVE
from vinegate.core.grade import Verdict
from vinegate.core.load import pump
from vinegate.core.numbers import QuantityError

FAN = planner("skerry-sound.json", "F-3")
PUMPS = planner("skerry-sound.json", "P-4")


class TestPump:
    @given(flow=st.floats(0.1, 1.0), static=st.floats(0.0, 0.9))
    @examples(50)
    def test_speed_and_flow_are_each_others_inverse(self, flow, static):
        speed = pump.speed_for(flow, static)
        assert float(pump.flow_at(np.array(speed), static)) == pytest.approx(flow, rel=1e-9)

    @given(flow=st.floats(0.2, 1.0), static=st.floats(0.0, 0.9))
    @examples(50)
    def test_slower_never_takes_more_than_throttled(self, flow, static):
        speed = pump.speed_for(flow, static)
        throttled = pump.SHUT_OFF_POWER + (1 - pump.SHUT_OFF_POWER) * flow
        assert float(pump.power_at(np.array(speed), np.array(flow))) <= throttled + 1e-12

    def test_without_static_head_it_is_the_cube(self):
        assert float(pump.power_at(np.array(0.6), pump.flow_at(np.array(0.6), 0.0))) == pytest.approx(0.6**3)

    def test_with_static_head_far_from_it(self):
        """40 % static at 70 % flow: speed 0.81, power 0.49, not 0.70 and 0.34."""
        assert pump.speed_for(0.7, 0.4) == pytest.approx(0.81, abs=0.005)
        assert float(pump.power_at(np.array(pump.speed_for(0.7, 0.4)), np.array(0.7))) == pytest.approx(0.49, abs=0.005)

    def test_below_its_least_speed_nothing_flows(self):
        least = pump.least_speed(0.4)
        assert float(pump.flow_at(np.array(least), 0.4)) == pytest.approx(0.0, abs=1e-6)
        assert float(pump.flow_at(np.array(0.9 * least), 0.4)) == 0.0

    def test_torque_is_power_over_speed(self):
        speed = np.array([0.6, 0.8, 1.0])
        flow = pump.flow_at(speed, 0.3)
        assert pump.torque_at(speed, 0.3) == pytest.approx(pump.power_at(speed, flow) / speed)


def test_the_pumps_load_follows_the_static_head():
    plan = PUMPS({"load.kind": "pump-static", "load.static": "50 %"})
    rows = plan.of(DRIVE).driven.rows
    full = plan.load.torque_nm
    assert rows[0].point.nm == pytest.approx(full, rel=1e-3)
    assert rows[1].point.nm == pytest.approx(full * float(pump.torque_at(np.array(0.85), 0.5)), rel=0.01)


def test_a_pump_lifts_from_where_its_shut_off_head_is_the_static_one():
    """√(50/125) of full speed, 63.2 %."""
    plan = PUMPS({"load.kind": "pump-static", "load.static": "50 %", "load.shutoff": "125 %"})
    assert plan.figure("load.lifts_from").value == pytest.approx(63.246, rel=1e-4)


def test_constant_power_is_torque_over_speed():
    plan = FAN({"load.kind": "constant-power", "load.constant_from": "40 %"})
    torque = plan.load.torque_at(np.array([0.5, 1.0]) * plan.load.full_speed_rpm)
    assert torque[0] == pytest.approx(2 * torque[1])
    low = plan.load.torque_at(np.array([0.2, 0.4]) * plan.load.full_speed_rpm)
    assert low[0] == pytest.approx(low[1])


class TestYear:
    def test_the_year_is_watts_times_hours(self):
        driven = FAN().of(DRIVE).driven
        by_hand = sum(one.line_w / 1000 * row.point.hours for one, row in zip(driven.inputs, driven.rows, strict=True))
        assert driven.energy.ways[0].year_kwh == pytest.approx(by_hand)

    def test_no_point_takes_less_than_its_shaft(self):
        for plan in (FAN(), PUMPS(), FAN({"drive.points": "100 %; 2 %; 100\n10 %; 1 %; 200"})):
            driven = plan.of(DRIVE).driven
            for one in driven.inputs:
                assert one.motor_w > 0
                assert one.drive_w > 0
                assert one.line_w > one.shaft_w >= 0

    def test_at_rated_load_the_motors_loss_is_its_plates(self):
        """30 kW at 93.3 %: 2154 W, and the harmonics' 15 % on top, at the plate's own volts."""
        plan = FAN({"load.power": "30 kW", "drive.points": "100 %; ; 100", "drive.front_end": "active", "wiring.length": "0 m",
                    "drive.lead": "0 m"})  # fmt: skip
        one = plan.of(DRIVE).driven.inputs[0]
        assert one.motor_w == pytest.approx(1.15 * 30000 * (1 / 0.933 - 1), rel=0.05)

    def test_at_full_flow_the_drive_only_costs(self):
        plan = FAN({"drive.points": "100 %; ; 6000", "drive.now": "none"})
        assert plan.of(DRIVE).driven.energy.saved_kwh < 0

    def test_what_is_saved_is_against_what_stands_there(self):
        damper, vanes = (FAN({"drive.now": now}).of(DRIVE).driven.energy for now in ("damper", "vanes"))
        assert damper.saved_kwh > vanes.saved_kwh > 0

    def test_payback_is_cost_over_price_and_saving_with_its_band(self):
        energy = FAN().of(DRIVE).driven.energy
        low, usual, high = energy.payback_years
        assert usual == pytest.approx(4200 / (0.19 * energy.saved_kwh))
        assert low < usual < high
        assert high / usual == pytest.approx(1 / (0.85 * 0.8))
        assert usual / low == pytest.approx(1.15 * 1.2)

    def test_without_hours_there_is_no_year_and_they_are_asked_for(self):
        plan = FAN({"drive.points": "100 %\n60 %"})
        assert plan.of(DRIVE).driven.energy is None
        assert "drive.points" in {item.path for item in plan.missing}

    def test_a_pumps_static_head_is_a_must(self):
        plan = PUMPS({"load.static": None})
        assert "load.static" in {item.path for item in plan.missing}
        low, high = (PUMPS({"load.static": f"{share} %"}).of(DRIVE).driven.energy for share in (5, 45))
        assert low.saved_kwh != pytest.approx(high.saved_kwh, rel=0.05)

    @given(flow=st.floats(0.3, 1.0))
    @examples(30)
    def test_vanes_never_take_more_than_a_damper_nor_less_than_the_cube(self, flow):
        assert flow**3 - 1e-9 <= fan_share("vanes", flow) <= fan_share("damper", flow) <= 1.0

    def test_the_reference_drives_loss_rises_with_its_size(self):
        losses = [reference_loss_w(kva) for kva in np.geomspace(0.2, 400, 40)]
        assert losses == sorted(losses)

    def test_a_drive_merely_to_start_is_asked_about(self):
        merely = {"start.method": "drive", "start.speed_control": None, "drive.points": "100 %; ; 6000"}
        assert FAN(merely).gate("drive.only_to_start").verdict.value == "check"
        asked = FAN(merely | {"start.speed_control": "yes"})
        assert asked.gate("drive.only_to_start").verdict.value == "passes"
        assert "drive.only_to_start" not in {gate.key for gate in FAN().gates}


class TestTuning:
    def test_expected_values_are_the_circuits_at_the_windings_temperature(self):
        plan = FAN({"drive.tuned_at": "110 °C"})
        warm = plan.figure("drive.tuned_r").value
        cold = FAN({"drive.tuned_at": "20 °C"}).figure("drive.tuned_r").value
        lead = plan.figure("drive.lead_ohm").value
        assert (cold - lead) / (warm - lead) == pytest.approx(254.5 / 344.5)

    def test_fast_pulses_see_less_leakage_than_slip_does(self):
        plan = FAN()
        assert plan.figure("drive.tuned_leak").value < plan.figure("drive.tuned_leak_slip").value

    @pytest.mark.parametrize(
        ("key", "factor", "word"),
        [
            ("r", 3.0, "wye"),
            ("r", 4.0, "nine leads"),
            ("r", 1.6, "lead"),
            ("idle", 1.7, "Base volts"),
            ("rotor", 0.4, "hot"),
        ],
    )
    def test_a_difference_says_what_is_likely(self, key, factor, word):
        plan = FAN()
        leak, r = plan.figure("drive.tuned_leak").value, plan.figure("drive.tuned_r").value
        together = factor if factor >= 3 else 1.0
        typed = {
            "drive.tuned_leak": f"{together * leak:.5g} mH",
            "drive.tuned_r": f"{(factor if key == 'r' else 1) * r:.5g} Ω",
        }
        if key == "idle":
            typed["drive.tuned_idle"] = f"{factor * plan.figure('drive.tuned_idle').value:.5g} A"
        if key == "rotor":
            typed["drive.tuned_rotor"] = f"{factor * plan.figure('drive.tuned_rotor').value:.5g} s"
        tuned = FAN(typed)
        values = {one.key: one for one in tuned.of(DRIVE).driven.tuning.values}
        assert not values[key].agrees
        assert word in values[key].says
        gate = tuned.gate("drive.tuned")
        assert (gate.verdict, gate.turns.path) == (Verdict.CHECK, f"drive.tuned_{key}")
        assert FAN(typed | {gate.turns.path: gate.turns.passes_as}).gate("drive.tuned").turns != gate.turns

    def test_what_agrees_says_nothing(self):
        plan = FAN()
        tuned = FAN({"drive.tuned_r": f"{1.1 * plan.figure('drive.tuned_r').value:.5g} Ω"})
        assert tuned.gate("drive.tuned").verdict is Verdict.PASSES
        assert "drive.tuned" not in {gate.key for gate in plan.gates}
        found = tuned.of(DRIVE).driven.tuning
        one = next(value for value in found.values if value.key == "r")
        assert one.agrees
        assert one.says == ""

    def test_its_resistance_waits_for_the_run(self):
        reading = {"drive.tuned_r": f"{FAN().figure('drive.tuned_r').value:.5g} Ω"}
        no_run = {"wiring.size": "", "wiring.length": ""}
        alone = FAN(reading | no_run).gate("drive.tuned")
        assert (alone.verdict, alone.needs) == (Verdict.UNKNOWN, ("the run to the motor",))
        beside = FAN(reading | no_run | {"drive.tuned_idle": "1 A"}).gate("drive.tuned")
        assert beside.turns.path == "drive.tuned_idle"

    def test_several_motors_are_not_tuned(self):
        assert PUMPS().of(DRIVE).driven.tuning is None


def test_idle_power_is_below_that_at_load_and_hours_scale_the_year():
    twice = FAN({"drive.points": "100 %; ; 3800"}).of(DRIVE).driven.energy.ways[0].year_kwh
    once = FAN({"drive.points": "100 %; ; 1900"}).of(DRIVE).driven.energy.ways[0].year_kwh
    assert twice == pytest.approx(2 * once)
    assert math.isfinite(twice)


def test_its_makers_loss_points_rule_over_the_reference():
    """IEC 61800-9-2's corners: at a point stated the drive loses what is stated, between two the mean of them."""
    points = "0; 25; 300 | 0; 100; 700 | 50; 25; 320 | 50; 100; 800 | 90; 50; 600 | 90; 100; 1200"
    made = read_loss_points(points)
    assert made.watts(90, 100) == 1200
    assert made.watts(50, 62.5) == pytest.approx((320 + 800) / 2)
    assert made.watts(70, 100) == pytest.approx((800 + 1200) / 2)
    assert made.watts(100, 100) == 1200  # past 90 % as there
    assert made.watts(0, 0) == pytest.approx(300 - (700 - 300) / 3)
    half, whole = (planner("skerry-sound.json", "F-3")({"drive.loss_points": points.replace("1200", most)})
                   for most in ("1200", "2400"))  # fmt: skip
    spent = [plan.of(DRIVE).driven.inputs for plan in (half, whole)]
    assert spent[0][0].drive_w < spent[1][0].drive_w
    assert half.of(DRIVE).driven.losses.drive_w == 1200  # at 90 % of frequency and 100 % of current
    beyond = planner("skerry-sound.json", "F-3")({"drive.loss_points": f"{points} | 90; 120; 1900 | 100; 100; 1500"})
    assert beyond.of(DRIVE).driven.losses.drive_w == 1200
    assert spent[0][-1].motor_w == spent[1][-1].motor_w


@pytest.mark.parametrize("text", ["90; 100", "", "90; 100; x", "200; 10; 5", "90; 100; 5 | 90; 100; 6"])
def test_loss_points_that_cannot_be_read_say_so(text):
    with pytest.raises(QuantityError):
        read_loss_points(text)


@pytest.mark.parametrize("text", ["8 kHz; 52 A | 4 kHz; 61 A", "4 kHz; 52 A | 8 kHz; 61 A", "4 kHz", "; 61 A"])
def test_carriers_rise_and_amperes_fall(text):
    with pytest.raises(QuantityError):
        read_carrier_points(text)


@pytest.mark.parametrize("percent", [90, 93])
def test_without_a_drive_the_line_gives_the_shaft_and_what_the_motor_loses(percent):
    """27 of 30 kW: of the rated losses four tenths stay, six go with the square of the load."""
    full = next(
        way for way in FAN({"plate.efficiency": f"{percent} %"}).of(DRIVE).driven.energy.ways if way.key == "none"
    )
    rated_loss = 30 * (100 / percent - 1)
    assert full.kw[0] == pytest.approx(27 + rated_loss * (0.4 + 0.6 * 0.9**2), rel=2e-3)


def test_by_turns_it_takes_full_power_for_a_part_of_the_time():
    """Losses too: at half the flow half the energy of full flow, not the losses of half a load."""
    ways = {way.key: way for way in FAN({"drive.points": "100 %; ; 2000\n50 %; ; 2000"}).of(DRIVE).driven.energy.ways}
    assert ways["on-off"].kw[1] == pytest.approx(0.5 * ways["none"].kw[0])
    assert ways["on-off"].kw[0] == ways["none"].kw[0] == ways["none"].kw[1]
