"""The stop: closed forms, the same by solve_ivp, and what no method may be offered for."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from tests.conftest import planner
from tests.examples import examples
from vinegate.core.grade import Verdict
from vinegate.core.machine.circuit import Cage, EquivalentCircuit, operate
from vinegate.core.start.run_up import stop_after
from vinegate.core.stop.armature import time_constant_s, total_ohms
from vinegate.core.stop.asked import Armature, Asked
from vinegate.core.stop.courses import (
    TWO_LEADS,
    Turning,
    after,
    dc_torque,
    joined,
    plugging,
    slow,
    speeds_down,
)
from vinegate.core.stop.direct import needed_a, path, rotor_constant_s
from vinegate.core.stop.drive import EFFICIENCY, resistor, shortest_ramp_s
from vinegate.core.stop.facts import Stop
from vinegate.core.stop.friction import braked
from vinegate.core.stop.ways import way_of
from vinegate.core.stop.ways.plugging import plug_window

armature, drive = way_of("armature").make, way_of("drive").make
CIRCUIT = EquivalentCircuit(
    r1_ohm=0.5, x1_ohm=0.9, xm_ohm=30.0, cages=(Cage(r_ohm=0.4, x_ohm=0.9),), poles=4, frequency_hz=60.0
)  # fmt: skip
SYNCHRONOUS = CIRCUIT.synchronous_rad_s()
SHUNT = Armature(k_vs=1.2, resistance_ohm=0.4, field="fed")


def turning(load_nm=0.0, inertia=0.5, shape=0.0):
    omega = speeds_down(0.97 * SYNCHRONOUS)
    load = load_nm * (omega / omega[0]) ** shape if shape else np.full(omega.size, load_nm)
    return Turning(omega=omega, load_nm=load, inertia_kgm2=inertia, rated_nm=40.0)


def asking(*corners, **more):
    """The need by hand: nothing asked but what a test says."""
    facts = {"stop": Stop(), "machine": None, "armature": None, "phases": 3, "volts_v": 460.0, "line_v": 460.0}
    facts |= {"rated_a": 15.0, "stall": None, "locked_a": None, "hold": "no", "hoist": False, "overhauls": False}
    facts |= {
        "gear_ratio": 1.0,
        "metres_a_turn": None,
        "coasts_s": None,
        "rated_loss_w": None,
        "per_hour": None,
        "hours": None,
        "energy_price": None,
        "load": None,
    }
    return Asked(corners=corners, **(facts | more))


def stop(**facts):
    return Stop.model_validate(facts)


def by_dc(body, amps):
    torque = dc_torque(CIRCUIT, body.omega, TWO_LEADS * amps)
    nothing = np.zeros(torque.size)
    return slow(body, torque, line_a=nothing, rotor_w=torque * body.omega, outside_w=nothing)


def by_plugging(body):
    torque, amps, watts = plugging(CIRCUIT, body.omega, 460.0)
    return slow(body, torque, line_a=amps, rotor_w=watts, outside_w=np.zeros(torque.size))


def test_constant_torque_stops_in_inertia_times_speed_over_torque():
    body = turning(load_nm=15.0)
    found = braked(body, 60.0)
    assert found.stops_s == pytest.approx(0.5 * body.omega[0] / 75, rel=1e-6)
    assert found.outside_j[-1] == pytest.approx(body.energy_j * 60 / 75, rel=1e-3)  # the load eats its share
    # half the speed for the time it takes, in turns
    assert found.turns == pytest.approx(body.omega[0] * found.stops_s / 2 / (2 * math.pi), rel=1e-4)


def test_dc_injection_puts_one_kinetic_energy_into_the_rotor():
    body = turning()
    assert by_dc(body, 60.0).rotor_j[-1] == pytest.approx(body.energy_j, rel=2e-3)


def test_plugging_puts_three_kinetic_energies_into_the_rotor():
    """From synchronous speed, unloaded: slip from 2 to 1 (Fitzgerald, 6th ed., chapter 6; the start's own is one)."""
    body = replace(turning(), omega=speeds_down(SYNCHRONOUS))
    assert by_plugging(body).rotor_j[-1] == pytest.approx(3 * body.energy_j, rel=2e-3)


def test_dc_torque_peaks_where_the_rotor_matches_the_magnetising_branch():
    """`s = R_2/(X_m + X_2)`, and `T = 3·I_e²·X_m²/(2·(X_m + X_2))/ω_s` there: a current-fed machine."""
    slip = 0.4 / 30.9
    torque = dc_torque(CIRCUIT, np.array([slip, slip / 2, slip * 2]) * SYNCHRONOUS, TWO_LEADS * 50.0)
    amps2 = 50**2 * 2 / 3
    assert torque[0] == pytest.approx(3 * amps2 * 30**2 / (2 * 30.9) / SYNCHRONOUS, rel=1e-6)
    assert torque[0] > max(torque[1:])


def test_saturated_iron_bounds_the_torque_near_rest_only():
    speeds = np.array([0.5, 0.02]) * SYNCHRONOUS
    free, bound = (dc_torque(CIRCUIT, speeds, 40.0, volts) for volts in (None, 1.25 * 460 / math.sqrt(3)))
    assert bound[0] == free[0]
    assert bound[1] < free[1]


def test_the_field_of_direct_current_is_that_of_the_alternating_current_it_replaces():
    """Sum of three windings' fields at 0, 120 and 240 degrees; alternating current of I rms makes 1.5·√2·I."""
    along = np.exp(2j * np.pi / 3 * np.arange(3))
    for leads, amps in (("two", [1, -1, 0]), ("three", [1, -0.5, -0.5])):
        same = abs(np.array(amps) @ along) / (1.5 * math.sqrt(2))
        share, ohms = path(asking(turning(), stop=stop(dc_leads=leads)))
        assert share == pytest.approx(same)
        assert ohms == pytest.approx(3 * same**2)  # the same copper loss: 3·R·I_e² of one direct ampere


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
            return float(dc_torque(CIRCUIT, np.array([omega]), TWO_LEADS * 70.0)[0])
        return float(plugging(CIRCUIT, np.array([omega]), 460.0)[0][0])

    def slope(_, state):
        load = 12.0 * (max(state[0], 0.0) / body.omega[0]) ** shape if shape else 12.0
        return [-(torque(max(state[0], 0.0)) + load) / 0.8]

    assert found.at_speed_s(2.0) == pytest.approx(reached(slope, body, 0.02), rel=5e-3)


def reached(slope, body, share):
    """Seconds until a share of running speed, by stepping in time."""

    def there(_, state):
        return state[0] - share * body.omega[0]

    there.terminal = True
    return solve_ivp(slope, (0, 200), [body.omega[0]], events=there, rtol=1e-9, atol=1e-9).t[-1]


class TestArmature:
    """A direct-current machine on a resistor."""

    def asked(self, body, **more):
        return asking(body, armature=SHUNT, phases=0, stop=stop(**more))

    def test_speed_falls_exponentially(self):
        """Without load `ω = ω_0·exp(−t/τ)`, `τ = J·R/k²`, R from twice rated current."""
        body = turning()
        asked = self.asked(body)
        assert total_ohms(asked, SHUNT) == pytest.approx(1.2 * body.omega[0] / 30)
        tau = 0.5 * total_ohms(asked, SHUNT) / 1.2**2
        assert time_constant_s(asked, SHUNT) == pytest.approx(tau)
        row = armature(asked)
        for t, percent in zip(row.strip_s, row.strip_pct, strict=True):
            assert percent == pytest.approx(100 * math.exp(-t / tau), rel=5e-3, abs=0.02)

    def test_with_a_steady_load_it_stops_in_closed_form(self):
        """`t = τ·ln(1 + ω_0·k²/(T·R))`."""
        body = turning(load_nm=6.0)
        asked = self.asked(body)
        ohms, tau = total_ohms(asked, SHUNT), time_constant_s(asked, SHUNT)
        assert armature(asked).time_s == pytest.approx(tau * math.log(1 + body.omega[0] * 1.44 / (6 * ohms)), rel=2e-3)

    def test_each_stage_brings_the_current_back_to_the_first(self):
        row = armature(self.asked(turning(load_nm=6.0), armature_stages="3"))
        single = armature(self.asked(turning(load_nm=6.0)))
        assert row.time_s < single.time_s
        assert row.peak_a == pytest.approx(single.peak_a)
        assert len(row.steps) == len(single.steps) + 2

    def test_against_solve_ivp_with_stages(self):
        body = turning(load_nm=6.0)
        asked = self.asked(body, armature_stages="2")
        first = total_ohms(asked, SHUNT)

        def slope(_, state):
            ohms = max(first * (0.5 if state[0] < body.omega[0] / 2 else 1.0), 0.4)
            return [-(1.44 * max(state[0], 0.0) / ohms + 6.0) / 0.5]

        row = armature(asked)
        at = float(np.interp(-2.0, [-pct for pct in row.strip_pct], row.strip_s))
        assert at == pytest.approx(reached(slope, body, 0.02), rel=5e-3)

    def test_its_energy_is_all_that_turned(self):
        """Armature and resistor share it as their ohms do."""
        body = turning()
        asked = self.asked(body)
        row, ohms = armature(asked), total_ohms(asked, SHUNT)
        assert 1000 * (row.rotor_kj + row.outside_kj) == pytest.approx(body.energy_j, rel=5e-3)
        assert row.rotor_kj / row.outside_kj == pytest.approx(0.4 / (ohms - 0.4), rel=1e-6)


class TestDrive:
    def test_the_resistors_energy_is_kinetic_energy_less_friction_by_efficiency(self):
        """With a steady friction T over a ramp t: `η·(J·ω²/2 − T·ω·t/2)`."""
        body = turning(load_nm=5.0)
        asked = asking(body, stop=stop(drive_ramp="4 s"))
        by_hand = EFFICIENCY * (body.energy_j - 5.0 * body.omega[0] * 4 / 2)
        assert resistor(asked).joules == pytest.approx(by_hand, rel=1e-3)
        peak = EFFICIENCY * (0.5 * body.omega[0] / 4 - 5.0) * body.omega[0]
        assert resistor(asked).peak_w == pytest.approx(peak)
        assert resistor(asked).most_ohm == pytest.approx(720.0**2 / peak)  # a bus for 380 to 500 V, its low end

    def test_a_resistor_just_takes_its_shortest_ramp(self):
        body = turning(load_nm=3.0, shape=2.0)
        ramp = shortest_ramp_s(asking(body), 40.0)
        again = resistor(asking(body, stop=stop(drive_ramp=f"{ramp:.9f} s")))
        assert again.most_ohm == pytest.approx(40.0, rel=1e-3)

    def test_a_load_that_eats_it_all_needs_no_resistor(self):
        body = turning(load_nm=30.0)
        assert resistor(asking(body, stop=stop(drive_ramp="20 s"))).peak_w == 0
        assert drive(asking(body, stop=stop(drive_ramp="20 s"))).time_s == pytest.approx(20)


class TestDelay:
    def test_a_load_that_drives_speeds_up_before_the_brake_closes(self):
        """`ω_1 = ω_0 + T/J·t`, then `J·ω_1/(T_B − T)`."""
        body = turning(load_nm=-30.0)
        lead, rest = after(body, 0.2)
        faster = body.omega[0] + 30 / 0.5 * 0.2
        assert rest.omega[0] == pytest.approx(faster)
        whole = joined(lead, braked(rest, 90.0))
        assert whole.stops_s == pytest.approx(0.2 + 0.5 * faster / 60, rel=1e-6)
        assert whole.speed_pct.max() == pytest.approx(100 * faster / body.omega[0])

    def test_friction_slows_it_meanwhile(self):
        body = turning(load_nm=20.0)
        _, rest = after(body, 1.0)
        assert rest.omega[0] == pytest.approx(body.omega[0] - 20 / 0.5, rel=1e-6)

    def test_it_may_stand_before(self):
        body = turning(load_nm=20.0)
        assert after(body, 0.5 * body.omega[0] / 20 + 0.01) is None

    def test_the_rotors_time_constant(self):
        assert rotor_constant_s(CIRCUIT) == pytest.approx(30.9 / (2 * math.pi * 60 * 0.4))


def test_the_current_for_the_time_asked_meets_it():
    asked = asking(turning(load_nm=5.0), machine=CIRCUIT, stop=stop(within="4 s", dc_delay="0.3 s"))
    amps = needed_a(asked)
    torque = dc_torque(CIRCUIT, asked.heavy.omega, TWO_LEADS * amps, 1.25 * 460 / math.sqrt(3))
    nothing = np.zeros(torque.size)
    _, rest = after(asked.heavy, 0.3)
    # with four fifths of the torque that its circuit gives: an estimate
    torque = 0.8 * dc_torque(CIRCUIT, rest.omega, TWO_LEADS * amps, 1.25 * 460 / math.sqrt(3))
    alone = slow(rest, torque, line_a=nothing, rotor_w=nothing, outside_w=nothing)
    assert alone.stops_s + 0.3 == pytest.approx(4, rel=1e-2)
    assert needed_a(replace(asked, stop=stop(within="0.1 s"))) is None
    # With time enough half of the rated 15 A is the least that is advised.
    assert needed_a(replace(asked, stop=stop(within="10 min"))) == pytest.approx(7.5, rel=1e-3)


@pytest.mark.slow
@examples(100)
@given(
    inertia=st.floats(0.1, 5), more=st.floats(1.01, 5), torque=st.floats(5, 200), load=st.floats(0, 40),
)  # fmt: skip
def test_more_inertia_never_stops_sooner(inertia, more, torque, load):
    small, large = turning(load, inertia), turning(load, inertia * more)
    assert braked(small, torque).stops_s < braked(large, torque).stops_s
    assert by_dc(small, 60.0).stops_s < by_dc(large, 60.0).stops_s
    first, second = (armature(asking(body, armature=SHUNT, phases=0)).time_s for body in (small, large))
    assert first < second


@examples(100)
@given(light=st.floats(0.2, 1.0), inertia=st.floats(0.2, 3), rubs=st.floats(0.5, 1.5))
def test_the_timers_window_is_empty_exactly_when_the_bands_do_not_overlap(light, inertia, rubs):
    heavy = by_plugging(turning(10.0, inertia))
    lighter = by_plugging(turning(10.0, inertia).lighter(light, 0.05).rubbing(rubs))
    first, last = plug_window((heavy, lighter))
    near = [course.at_speed_s(5.0) for course in (heavy, lighter)]
    backwards = [2 * course.stops_s - at for course, at in zip((heavy, lighter), near, strict=True)]
    assert (first > last) == (max(near) > min(backwards))


def test_a_load_that_drives_is_not_stopped_by_what_gives_less():
    body = turning(load_nm=-30.0)
    assert braked(body, 20.0).stops_s is None
    assert braked(body, 60.0).stops_s == pytest.approx(0.5 * body.omega[0] / 30)


def test_the_strip_of_each_way_is_its_row(demo_plans):
    """Heat only gathers and ends at what the row says, it comes to rest, peaks are within the strip's."""
    looked = 0
    for plan in demo_plans.values():
        for row in plan.stopping.rows if plan.stopping else ():
            if not row.strip_s or row.time_s is None:
                continue
            heat, speed = np.array(row.strip_kj), np.array(row.strip_pct)
            assert (np.diff(heat) >= -1e-9).all(), row.method
            assert heat[0] == pytest.approx(0.0, abs=1e-3)
            assert heat[-1] <= row.rotor_kj + row.outside_kj + 1e-3
            assert speed[-1] < 2.0
            assert speed[0] == pytest.approx(100.0, abs=0.01)
            assert row.strip_s[-1] >= row.time_s - 1e-3
            assert max(row.strip_a, default=0.0) <= row.peak_a * 1.001 + 0.01
            assert max(map(abs, row.strip_nm), default=0.0) <= row.peak_nm * 1.001 + 0.01
            looked += 1
    assert looked > 30


def test_starts_and_stops_an_hour_are_both_in_the_mean_loss():
    """R-31 plugged: the starts' share, and each stop's heat in rotor and stator over the hour, by hand."""
    plan = planner("harrowmere-lock.json", "R-31")({"start.starts_per_hour": "6", "stop.per_hour": "6"})
    start, both = plan.gate("start.per_hour"), plan.gate("stop.per_hour")
    row = next(one for one in plan.stopping.rows if one.chosen)
    more = next(one for one in planner("harrowmere-lock.json", "R-31")(
        {"start.starts_per_hour": "6", "stop.per_hour": "12"}
    ).gates if one.key == "stop.per_hour")  # fmt: skip
    each = (more.value - both.value) / 6
    assert both.value == pytest.approx(start.value + 6 * each)
    assert row.rotor_kj + row.stator_kj > 0


def test_a_makers_count_of_starts_is_no_heat():
    """The starts heat the machine as much whether their number is held against the estimate or against its maker's."""
    plan = planner("harrowmere-lock.json", "X-51")
    facts = {"stop.method": "dc", "stop.per_hour": "2", "start.starts_per_hour": "2", "start.method": "full-voltage"}
    estimate, made = (plan(facts | more) for more in ({}, {"machine.starts_per_hour": "12"}))
    assert made.gate("start.per_hour").limit < 13 < estimate.gate("start.per_hour").limit
    assert made.gate("stop.per_hour").value == pytest.approx(estimate.gate("stop.per_hour").value)
    assert made.gate("stop.per_hour").value > estimate.gate("start.per_hour").value


def test_heat_of_a_stop_goes_with_all_that_turns():
    """Twice the inertia on the shaft takes twice as long, and heats twice as much."""
    plan = planner("harrowmere-lock.json", "X-51")
    facts = {"stop.method": "plugging", "load.inertia": "9 kg·m²", "machine.inertia": "1 kg·m²", "stop.within": None}
    one, two = (next(row for row in plan(facts | more).stopping.rows if row.chosen)
                for more in ({}, {"load.inertia": "18 kg·m²", "machine.inertia": "2 kg·m²"}))  # fmt: skip
    assert two.rotor_kj + two.stator_kj == pytest.approx(2 * (one.rotor_kj + one.stator_kj), rel=0.03)


@pytest.mark.parametrize(("stops", "verdict"), [("1", Verdict.PASSES), ("4", Verdict.CHECK)])
def test_heat_of_stops_counts_over_what_the_inertia_may_be(stops, verdict):
    """Neither load's nor rotor's is given: five times as much takes five times as long, and heats as much more."""
    plan = planner("harrowmere-lock.json", "X-51")
    gate = plan(
        {"load.inertia": None, "machine.inertia": None, "start.starts_per_hour": stops, "stop.per_hour": stops}
    ).gate("stop.per_hour")
    assert gate.verdict is verdict
    assert {"load inertia", "rotor inertia"} <= set(gate.rests_on)


def test_a_connection_stops_gaining_where_its_torque_is_gone():
    """Torque to spare of 10, 6, 2, −2 N·m at four speeds: gone half way between the third and the fourth."""
    runs = SimpleNamespace(
        spare_nm=np.array([[10.0, 6.0, 2.0, -2.0, -4.0], [10.0, 8.0, 6.0, 5.0, 4.0]]),
        plant=SimpleNamespace(points=5, rated_torque_nm=100.0),
    )
    assert stop_after(runs, 0, 0.0) == pytest.approx(2.5)
    assert stop_after(runs, 0, 1.4) == pytest.approx(2.5)
    assert stop_after(runs, 0, 3.0) == pytest.approx(3.0)  # it does not gain there at all
    assert stop_after(runs, 1, 0.0) == 4.0


def test_without_stops_an_hour_nothing_is_said_of_the_hour():
    plan = planner("harrowmere-lock.json", "R-31")({"start.starts_per_hour": None, "stop.per_hour": None})
    assert next(one for one in plan.stopping.rows if one.chosen).rotor_kj > 0
    assert "stop.per_hour" not in {gate.key for gate in plan.gates}


@pytest.mark.parametrize(("kind", "said"), [("fan-closed", True), ("unloaded", True), ("fan-open", False)])
def test_a_load_that_is_not_all_there_while_it_stops_is_said(kind, said):
    plan = planner("skerry-sound.json", "H-1")({"load.kind": kind})
    notes = next(stage.notes for stage in plan.stages if stage.key == "stop")
    assert any("while it starts" in note for note in notes) is said
