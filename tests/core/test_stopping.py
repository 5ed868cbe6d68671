"""The stop: closed forms, the same by solve_ivp, and what no method may be offered for."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from tests.conftest import planner
from vinegate.core.gate import Verdict
from vinegate.core.machine.circuit import Cage, EquivalentCircuit, operate
from vinegate.core.stopping.courses import Turning, dc_torque, plugging, slow, speeds_down
from vinegate.core.stopping.methods import plug_window

CIRCUIT = EquivalentCircuit(
    r1_ohm=0.5, x1_ohm=0.9, xm_ohm=30.0, cages=(Cage(r_ohm=0.4, x_ohm=0.9),), poles=4, frequency_hz=60.0
)  # fmt: skip
SYNCHRONOUS = CIRCUIT.synchronous_rad_s()


def turning(load_nm=0.0, inertia=0.5, shape=0.0):
    omega = speeds_down(0.97 * SYNCHRONOUS)
    load = load_nm * (omega / omega[0]) ** shape if shape else np.full(omega.size, load_nm)
    return Turning(omega=omega, load_nm=load, inertia_kgm2=inertia, rated_nm=40.0)


def braked(body, torque_nm):
    size, nothing = body.omega.size, np.zeros(body.omega.size)
    torque = np.full(size, torque_nm)
    return slow(body, torque, line_a=nothing, rotor_w=nothing, outside_w=torque * body.omega)


def by_dc(body, amps):
    torque = dc_torque(CIRCUIT, body.omega, amps)
    nothing = np.zeros(torque.size)
    return slow(body, torque, line_a=nothing, rotor_w=torque * body.omega, outside_w=nothing)


def by_plugging(body):
    torque, amps, watts = plugging(CIRCUIT, body.omega, 460.0)
    return slow(body, torque, line_a=amps, rotor_w=watts, outside_w=np.zeros(torque.size))


def test_constant_torque_stops_in_inertia_times_speed_over_torque():
    body = turning(load_nm=15.0)
    found = braked(body, 60.0)
    assert found.stops_s == pytest.approx(0.5 * body.omega[0] / 75, rel=1e-6)
    assert found.brake_j == pytest.approx(body.energy_j * 60 / 75, rel=1e-3)  # the load eats its share


def test_dc_injection_puts_one_kinetic_energy_into_the_rotor():
    body = turning()
    assert by_dc(body, 60.0).rotor_j == pytest.approx(body.energy_j, rel=2e-3)


def test_plugging_puts_three_kinetic_energies_into_the_rotor():
    """From synchronous speed, unloaded: slip from 2 to 1 (Fitzgerald, 6th ed., chapter 6; the start's own is one)."""
    body = replace(turning(), omega=speeds_down(SYNCHRONOUS))
    assert by_plugging(body).rotor_j == pytest.approx(3 * body.energy_j, rel=2e-3)


def test_dc_torque_peaks_where_the_rotor_matches_the_magnetising_branch():
    """`s = R_2/(X_m + X_2)`, and `T = 3·I_e²·X_m²/(2·(X_m + X_2))/ω_s` there: a current-fed machine."""
    slip = 0.4 / 30.9
    torque = dc_torque(CIRCUIT, np.array([slip, slip / 2, slip * 2]) * SYNCHRONOUS, 50.0)
    amps2 = 50**2 * 2 / 3
    assert torque[0] == pytest.approx(3 * amps2 * 30**2 / (2 * 30.9) / SYNCHRONOUS, rel=1e-6)
    assert torque[0] > max(torque[1:])


def test_plugging_draws_a_little_more_than_locked_rotor():
    _, amps, _ = plugging(CIRCUIT, np.array([0.97 * SYNCHRONOUS, 0.0]), 460.0)
    locked = float(operate(CIRCUIT, 1.0, volts_v=460.0).line_current_a)
    assert amps[1] == pytest.approx(locked)
    assert 1.0 < amps[0] / locked < 1.15


@pytest.mark.parametrize("shape", [0.0, 1.0, 2.0])
@pytest.mark.parametrize("way", ["dc", "plugging"])
def test_against_solve_ivp(shape, way):
    body = turning(load_nm=12.0, inertia=0.8, shape=shape)
    found = by_dc(body, 70.0) if way == "dc" else by_plugging(body)

    def torque(omega):
        if way == "dc":
            return float(dc_torque(CIRCUIT, np.array([omega]), 70.0)[0])
        return float(plugging(CIRCUIT, np.array([omega]), 460.0)[0][0])

    def slope(_, state):
        load = 12.0 * (max(state[0], 0.0) / body.omega[0]) ** shape if shape else 12.0
        return [-(torque(max(state[0], 0.0)) + load) / 0.8]

    def there(_, state):
        return state[0] - 0.02 * body.omega[0]

    there.terminal = True
    again = solve_ivp(slope, (0, 200), [body.omega[0]], events=there, rtol=1e-9, atol=1e-9)
    reached = float(np.interp(-2.0, -found.speed_pct, found.time_s))
    assert reached == pytest.approx(again.t[-1], rel=5e-3)


@settings(max_examples=100)
@given(
    inertia=st.floats(0.1, 5), more=st.floats(1.01, 5), torque=st.floats(5, 200), load=st.floats(0, 40),
)  # fmt: skip
def test_more_inertia_never_stops_sooner(inertia, more, torque, load):
    small, large = turning(load, inertia), turning(load, inertia * more)
    assert braked(small, torque).stops_s < braked(large, torque).stops_s
    assert by_dc(small, 60.0).stops_s < by_dc(large, 60.0).stops_s


@settings(max_examples=100)
@given(light=st.floats(0.2, 1.0), inertia=st.floats(0.2, 3))
def test_the_timers_window_is_empty_exactly_when_the_bands_do_not_overlap(light, inertia):
    heavy = by_plugging(turning(10.0, inertia))
    lighter = by_plugging(turning(10.0, inertia).lighter(light, 0.05))
    first, last = plug_window(heavy, lighter)
    near = [float(np.interp(-5.0, -course.speed_pct, course.time_s)) for course in (heavy, lighter)]
    backwards = [2 * course.stops_s - at for course, at in zip((heavy, lighter), near, strict=True)]
    assert (first > last) == (max(near) > min(backwards))


def test_a_load_that_drives_is_not_stopped_by_what_gives_less():
    body = turning(load_nm=-30.0)
    assert braked(body, 20.0).stops_s is None
    assert braked(body, 60.0).stops_s == pytest.approx(0.5 * body.omega[0] / 30)


class TestOffered:
    """What is offered for the demo's machines."""

    def test_a_suspended_load_gets_nothing_but_a_brake(self):
        for file, tag in (("harrowmere-lock.json", "G-21"), ("skerry-sound.json", "W-2")):
            found = planner(file, tag)({"stop.hold": None}).stopping
            assert found.must_hold
            assert found.chosen == "brake"
            assert [row.method for row in found.rows if row.verdict is not Verdict.SHUT] == ["brake", "drive-brake"]
            assert all("hold" in row.why for row in found.rows if not row.holds)

    def test_the_rakes_loads_lie_too_far_apart_for_a_timer(self):
        rake = planner("harrowmere-lock.json", "R-31")
        wide = rake().stopping.row("plugging")
        assert "zero-speed switch is needed" in wide.why
        assert rake({"stop.plug_timer": "0.2 s"}).gate("brake.stop").verdict is Verdict.SHUT
        narrow = rake({"stop.light": "95 %"}).stopping.row("plugging")
        assert "A timer between" in narrow.why

    def test_the_centrifuge_coasts_for_minutes_and_dc_brings_it_in(self):
        plan = planner("harrowmere-lock.json", "X-51")()
        assert plan.stopping.row("coast").verdict is Verdict.SHUT
        assert plan.stopping.row("coast").time_s > 200
        assert plan.stopping.row("dc").time_s < 60
        assert plan.stopping.row("dc").rotor_kj < plan.figure("brake.energy").value

    def test_heat_of_plugging_against_what_the_machine_bears(self):
        hot = planner("harrowmere-lock.json", "X-51")({"machine.stall_hot": "6 s", "stop.method": "plugging"})
        assert hot.gate("brake.stop").verdict is Verdict.SHUT
        assert "from hot" in hot.gate("brake.stop").sentence

    def test_a_drives_ramp_takes_its_time_and_its_resistor_follows(self):
        plan = planner("skerry-sound.json", "F-3")({"stop.drive_ramp": "20 s"})
        assert plan.stopping.row("drive").time_s == pytest.approx(20, rel=1e-3)
        ohms, peak = plan.figure("brake.ohms").value, plan.figure("brake.peak").value
        assert ohms == pytest.approx((1.6 * 400) ** 2 / (1000 * peak), rel=1e-3)
        # J·ω/t·u − T·u² times u·ω, u the share of speed: largest by hand on a fine grid, 90 % of it
        j, omega = plan.figure("brake.inertia").value, 2955 * math.pi / 30
        u = np.linspace(0, 1, 20001)
        load = plan.figure("load.torque").value * np.maximum(u**2, 0.0)
        assert 1000 * peak == pytest.approx(0.9 * float(((j * omega / 20 - load) * u * omega).max()), rel=0.05)
        least = planner("skerry-sound.json", "F-3")(
            {"stop.drive_ramp": "20 s", "stop.drive_least": f"{2 * ohms:.1f} Ω"}
        )
        assert least.gate("brake.ohms").verdict is Verdict.SHUT

    def test_the_brakes_heat_an_hour(self):
        """40 stops of so many joules over 3600 s."""
        plan = planner("harrowmere-lock.json", "G-21")()
        gate = plan.gate("brake.heat")
        assert gate.value == pytest.approx(40 * 1000 * plan.stopping.row("brake").outside_kj / 3600)
        assert (
            planner("harrowmere-lock.json", "G-21")({"stop.brake_power": "10 W"}).gate("brake.heat").verdict
            is Verdict.SHUT
        )
        assert (
            planner("harrowmere-lock.json", "G-21")({"stop.brake_power": None}).gate("brake.heat").verdict
            is Verdict.UNKNOWN
        )

    def test_without_a_load_it_says_what_is_missing(self):
        plan = planner("harrowmere-lock.json", "P-11")({"load.kind": None})
        assert plan.stopping is None
        assert plan.gate("brake.stop").verdict is Verdict.UNKNOWN

    def test_the_energy_is_that_of_all_that_turns(self):
        plan = planner("harrowmere-lock.json", "X-51")()
        omega = 1780 * math.pi / 30
        assert plan.figure("brake.energy").value == pytest.approx(
            plan.figure("load.inertia_total").value * omega**2 / 2000
        )

    def test_behind_a_ramp_the_brake_takes_a_four_hundredth(self):
        """It closes at a twentieth of speed: 1/400 of the energy, and the load's part of it."""
        winch = planner("skerry-sound.json", "W-2")
        alone, behind = winch().gate("brake.heat"), winch({"stop.method": "drive-brake"}).gate("brake.heat")
        assert behind.value == pytest.approx(alone.value / 400, rel=0.02)

    def test_the_supply_of_direct_current_by_hand(self):
        plan = planner("harrowmere-lock.json", "X-51")({"stop.dc_current": "150 A"})
        r_1 = plan.figure("machine.r1").value
        assert plan.figure("brake.direct_volts").value == pytest.approx(300 * r_1, rel=1e-3)
        assert plan.figure("brake.transformer").value == pytest.approx(300 * r_1 / 0.9 * 0.150, rel=1e-3)

    def test_starts_and_stops_together_against_the_rated_loss(self):
        pump = planner("harrowmere-lock.json", "P-11")
        started = pump().gate("start.per_hour").value
        few, many = (
            pump({"stop.method": "plugging", "stop.per_hour": text}).gate("brake.per_hour").value for text in "48"
        )
        assert many - started == pytest.approx(2 * (few - started))
        assert few > started
