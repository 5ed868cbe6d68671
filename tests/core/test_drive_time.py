"""Ramps, coasting and catching against an independent march in time."""

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from tests.conftest import planner
from vinegate.core.drive.ramps import seconds
from vinegate.core.drive.stage import DRIVE
from vinegate.core.grade import Verdict
from vinegate.core.start.trace import Outcome

FAN = planner("skerry-sound.json", "F-3")
CENTRIFUGE = planner("harrowmere-lock.json", "X-51")
CAUGHT = {"start.method": "drive", "start.speed_control": "yes", "start.drive_ramp": "40 s", "load.inertia": "18 kg·m²",
          "stop.method": None, "stop.emergency": None}  # fmt: skip


def test_the_shortest_ramp_is_that_of_a_march():
    driven = FAN().of(DRIVE).driven
    rpm = np.linspace(0, driven.rows[0].point.rpm, 2001)
    load, most = driven.plain.load.torque_at(rpm), driven.supplied.short_at(rpm)
    omega, inertia = rpm * math.pi / 30, driven.plain.load.inertia_kgm2

    def gain(_, state):
        return [(np.interp(state[0], omega, most) - np.interp(state[0], omega, load)) / inertia]

    def there(_, state):
        return state[0] - omega[-1] * (1 - 1e-9)

    there.terminal = True
    found = solve_ivp(gain, (0, 500), [0.0], events=there, rtol=1e-9, max_step=0.05)
    assert driven.ramps.shortest_up_s == pytest.approx(float(found.t[-1]), rel=0.02)
    fine = seconds(omega, most - load, inertia)
    assert fine == pytest.approx(float(found.t[-1]), rel=0.005)


def test_coasting_is_that_of_a_march_and_of_the_closed_form():
    """Torque with the square of speed: ω = ω_0/(1 + t/t_c), t_c = J·ω_0/T_0, below the breakaway's end apart."""
    driven = CENTRIFUGE(CAUGHT).of(DRIVE).driven
    time, rpm = driven.coast.time_s, driven.coast.rpm
    load = driven.plain.load
    constant = load.inertia_kgm2 * rpm[0] * math.pi / 30 / float(load.torque_at(rpm[:1])[0])
    fast = rpm > 0.15 * rpm[0]
    assert rpm[fast] == pytest.approx(rpm[0] / (1 + time[fast] / constant), rel=0.005)
    omega = rpm[0] * math.pi / 30

    def slows(_, state):
        return [-float(load.torque_at(np.array([state[0] * 30 / math.pi]))[0]) / load.inertia_kgm2]

    march = solve_ivp(slows, (0, 60), [omega], rtol=1e-9, dense_output=True)
    for second in (1.0, 5.0, 20.0):
        assert np.interp(second, time, rpm) == pytest.approx(float(march.sol(second)[0]) * 30 / math.pi, rel=0.005)


def test_steady_torque_stops_it_in_a_straight_line():
    winch = planner("skerry-sound.json", "D-6")().of(DRIVE).driven
    time, rpm = winch.coast.time_s, winch.coast.rpm
    rate = float(winch.plain.load.torque_at(np.array([1000.0]))[0]) / winch.plain.load.inertia_kgm2 * 30 / math.pi
    half = rpm > 0.5 * rpm[0]
    assert rpm[half] == pytest.approx(rpm[0] - rate * time[half], rel=0.005)


class TestCatching:
    """The sludge centrifuge: after three seconds without power it has hardly slowed."""

    def test_it_is_caught_where_the_drive_looks_for_it(self):
        plan = CENTRIFUGE(CAUGHT)
        assert plan.of(DRIVE).driven.coast.share > 0.8
        assert plan.gate("drive.restart").verdict is Verdict.PASSES

    def test_without_looking_it_fails_and_says_what_it_would_draw(self):
        gate = CENTRIFUGE(CAUGHT | {"drive.catches": "no"}).gate("drive.restart")
        assert gate.verdict is Verdict.FAILS
        assert "draw" in gate.sentence

    def test_not_said_is_not_known(self):
        assert CENTRIFUGE(CAUGHT | {"drive.catches": None}).gate("drive.restart").verdict is Verdict.UNKNOWN

    def test_a_load_that_stands_by_then_needs_no_catching(self):
        still = CAUGHT | {
            "drive.catches": "no",
            "load.kind": "constant",
            "load.inertia": "0.05 kg·m²",
            "drive.outage": "30 s",
        }
        assert CENTRIFUGE(still).gate("drive.restart").verdict is Verdict.PASSES

    def test_what_turns_by_its_medium_is_looked_for_both_ways(self):
        fan = {"drive.windmills": "yes", "drive.outage": None}
        assert FAN(fan | {"drive.catches": "no"}).gate("drive.restart").verdict is Verdict.FAILS
        assert FAN(fan).gate("drive.restart").verdict is Verdict.PASSES
        for outage in (None, "1000 s"):  # however long it is off
            open_ = FAN(fan | {"drive.catches": None, "drive.outage": outage}).gate("drive.restart")
            assert (open_.verdict, open_.needs) == (Verdict.UNKNOWN, ("whether the drive catches a turning load",))

    @pytest.mark.parametrize(
        ("harmless", "verdict"), [("yes", Verdict.PASSES), ("no", Verdict.FAILS), (None, Verdict.UNKNOWN)]
    )
    def test_a_start_by_itself_only_where_nobody_is_hurt(self, harmless, verdict):
        plan = FAN({"drive.power_back": "auto", "protection.restart_harmless": harmless})
        assert plan.gate("drive.restart_hazard").verdict is verdict

    def test_the_bus_carries_what_its_capacitors_hold(self):
        """C·U²·(1 − 0.7²)/(2·P): 1500 µF at 566 V and the kilowatts drawn."""
        plan = FAN({"drive.capacity": "1500 µF"})
        watts = 1000 * plan.figure("drive.line_kw").value
        by_hand = 1500e-6 * (math.sqrt(2) * 400) ** 2 * 0.51 / (2 * watts)
        assert plan.figure("drive.carries").value == pytest.approx(by_hand)


class TestRamps:
    def test_a_ramp_shorter_than_the_shortest_fails_and_one_longer_passes(self):
        least = FAN().of(DRIVE).driven.ramps.even_up_s
        assert FAN({"start.drive_ramp": f"{0.9 * least:.1f} s"}).gate("drive.ramp_up").verdict is Verdict.FAILS
        assert FAN({"start.drive_ramp": f"{1.1 * least:.1f} s"}).gate("drive.ramp_up").verdict is Verdict.PASSES

    def test_an_even_ramp_is_bound_where_the_least_torque_is_left_over(self):
        """`T = J·dω/dt + T_L` point by point: never shorter than with the limit in use all the way, and for a fan the
        top decides. What its overload bears says the same (F-3 with 61 A, 110 %).
        """
        plan = FAN()
        driven = plan.of(DRIVE).driven
        ramps, rpm = driven.ramps, driven.rows[0].point.rpm
        spare = float(driven.supplied.short_at(np.array([rpm]))[0] - driven.plain.load.torque_at(rpm))
        by_hand = driven.plain.load.inertia_kgm2 * rpm * math.pi / 30 / spare
        assert ramps.even_up_s == pytest.approx(by_hand, rel=1e-6)
        assert ramps.even_up_s > 1.5 * ramps.shortest_up_s
        longer, shorter = (FAN({"start.drive_ramp": f"{k * by_hand:.2f} s"}) for k in (1.02, 0.98))
        assert [one.gate("drive.overload").verdict for one in (longer, shorter)] == [Verdict.PASSES, Verdict.FAILS]

    def test_rounding_leaves_less_of_it(self):
        least = FAN().of(DRIVE).driven.ramps.even_up_s
        ramp = {"start.drive_ramp": f"{1.1 * least:.1f} s"}
        assert FAN(ramp | {"drive.rounding": f"{0.2 * least:.1f} s"}).gate("drive.ramp_up").verdict is Verdict.FAILS

    def test_an_inertia_that_is_not_given_leaves_it_to_check(self):
        gate = FAN({"load.inertia": None, "start.drive_ramp": "12 s"}).gate("drive.ramp_up")
        assert gate.verdict is Verdict.CHECK
        assert gate.turns.path == "load.inertia"

    @pytest.mark.parametrize(
        ("ramp", "resistor", "verdict"),
        [("60 s", None, Verdict.CHECK), ("60 s", "150 Ω", Verdict.PASSES), ("600 s", None, Verdict.PASSES)],
    )
    def test_down_by_losses_alone_or_by_a_resistor(self, ramp, resistor, verdict):
        plan = FAN({"stop.drive_ramp": ramp, "stop.resistor": resistor})
        assert plan.gate("drive.ramp_down").verdict is verdict

    def test_where_it_coasts_nothing_is_asked_of_the_bus(self):
        plan = FAN({"stop.drive_ramp": None, "stop.method": "coast"})
        assert "drive.ramp_down" not in {gate.key for gate in plan.gates}

    def test_the_drives_overload_bounds_the_ramps_current(self):
        near = FAN({"drive.rated": "70 A"}).gate("drive.overload")
        assert near.verdict is Verdict.PASSES
        assert FAN({"start.drive_ramp": "40 s"}).gate("drive.overload").verdict is Verdict.FAILS

    @pytest.mark.parametrize("seconds", [20, 40])
    def test_it_lies_above_the_drives_rating_for_a_part_of_its_ramp(self, seconds):
        """A fan grows with the square: over its rating near full speed alone, for some seconds and not all of them."""
        ramps = FAN({"start.drive_ramp": f"{seconds} s", "drive.overload": "200 %"}).of(DRIVE).driven.ramps
        assert ramps.up_s == seconds
        assert 0.1 * seconds < ramps.peak_for_s <= seconds


def test_a_drive_that_stalls_gives_no_more_than_it_can():
    """Its line draws what that is, and a source that it would overdraw falls: once the volts came out a hundredfold."""
    changes = {"start.method": "drive", "load.power": None, "load.torque": "30000 N·m", "load.kind": "constant torque"}
    plan = planner("skerry-sound.json", "H-1")(changes | {"supply.transformer_impedance": "25 %"})
    row = plan.comparison.row("drive")
    assert row.outcome is not Outcome.REACHES
    assert 0 < row.dip_pct < 20


def test_a_rise_of_volts_is_a_change_as_a_fall_is():
    """Capacitors far beyond what is sane lift a board as a motor starts: no dip, and a change all the same."""
    plan = planner("harrowmere-lock.json", "P-11")({"main_board.capacitor_power": "100000 kvar"})
    assert plan.gate("start.dip").value == 0.0
    assert plan.gate("start.d_c").value > 0.1
