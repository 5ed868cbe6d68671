"""A wound rotor's start on its resistor: against the same circuit solved by hand and marched in time; and as judged."""

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from tests.conftest import planner, stops, whole
from tests.core.bands import load_bands
from vinegate.core.grade import Kind, Verdict
from vinegate.core.load.stage import Asked
from vinegate.core.machine.curves import run_at
from vinegate.core.machine.simple import RatedPoint, wound_rotor
from vinegate.core.start.connection import FULL, at_rings, behave
from vinegate.core.start.facts import Start
from vinegate.core.start.plant import build
from vinegate.core.start.simulate import simulate
from vinegate.core.supply.network import BASE_VA, Bus, Network

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"
RINGS = {"plate.kind": "wound", "plate.rotor_volts": "240 V", "plate.rotor_current": "48 A"}
ON_IT = RINGS | {"start.method": "rotor-resistor"}
RATED = RatedPoint(
    power_w=55e3, volts_v=460, current_a=95, speed_rpm=1165, frequency_hz=60, power_factor=0.82,
)  # fmt: skip
CIRCUIT = wound_rotor(RATED, poles=6, breakdown_pu=2.5)
TOP, STATOR = 1200 * math.pi / 30, CIRCUIT.r1_ohm
SOURCE, RUN, INERTIA, LOAD_NM, PEAK, STEPS = complex(0.01, 0.04), complex(0.02, 0.01), 9.0, 300.0, 1.7, 4
SLIP = 1 - 1165 / 1200


def plant():
    asked = Asked(
        kind="any", torque_nm=LOAD_NM, full_speed_rpm=1165, shape=0.0, full_pu=1.0, breakaway_pu=1.0, points=None,
        inertia_kgm2=INERTIA, load_inertia_kgm2=INERTIA, **load_bands(INERTIA),
    )  # fmt: skip
    bus = Bus(key="main", name="main", parent=-1, z_pu=SOURCE * BASE_VA / 480**2, volts_v=480.0)
    return build(
        network=Network(buses=(bus,), emf_pu=1.0), at=0, model=CIRCUIT, asked=asked, plate_v=460.0, frequency_hz=60,
        rated_current_a=95.0, rated_torque_nm=RATED.torque_nm, run_ohm=RUN, phase_factor=math.sqrt(3),
        first_torque_pu=PEAK,
    )  # fmt: skip


def by_hand(slip, times, volts=None):
    """Amperes, torque N·m, and watts in the rotor's own ohms, with so many times its ohms; on the supply or at volts."""
    (cage,) = CIRCUIT.cages
    rotor = complex(times * cage.r_ohm / slip, cage.x_ohm)
    motor = 1 / (1 / rotor + 1 / complex(0, CIRCUIT.xm_ohm))
    amps = (
        480 / math.sqrt(3) / (SOURCE + RUN + STATOR + motor)
        if volts is None
        else volts / math.sqrt(3) / (STATOR + motor)
    )
    inside = abs(amps * motor / rotor)
    return abs(amps), 3 * inside**2 * rotor.real / TOP, 3 * inside**2 * cage.r_ohm


OHMS = [(1 / (PEAK * SLIP)) ** (1 - step / STEPS) for step in range(STEPS)]


def changes():
    """Slips at which a section is cut out: the next begins at the same times its rated slip as the first."""
    return [PEAK * SLIP * after for after in (*OHMS[1:], 1.0)]


def marched(ends_pu):
    """Seconds, greatest amperes, and joules in the rotor, to a share of synchronous speed."""
    now, omega, heat, most = 0.0, 0.0, 0.0, 0.0
    for times, slip in zip([*OHMS, 1.0], [*changes(), 1 - ends_pu], strict=True):
        until = min(1 - slip, ends_pu) * TOP

        def gain(_, state, times=times):
            _, torque, watts = by_hand(max(1 - state[0] / TOP, 1e-6), times)
            return [(torque - LOAD_NM) / INERTIA, watts]

        def there(_, state, until=until):
            return state[0] - until

        there.terminal = True
        most = max(most, by_hand(max(1 - omega / TOP, 1e-6), times)[0])
        found = solve_ivp(gain, (now, now + 60), [omega, heat], events=there, rtol=1e-8, atol=1e-8)
        now, (omega, heat) = float(found.t[-1]), found.y[:, -1]
    return now, most, heat


def test_it_is_the_circuit_with_more_ohms_marched_in_time():
    runs = simulate(
        plant(), Start(rotor_steps=STEPS), dip_limit_pu=None, margin_pu=0.1, most_i2t_s=20, loss_share=0.06,
        three_phase=True, possible=["rotor-resistor"],
    )  # fmt: skip
    course = runs["rotor-resistor"].course
    assert [piece.key for piece in course.pieces] == ["rotor 1", "rotor 2", "rotor 3", "rotor 4", "full"]
    seconds, amps, heat = marched(float(course.pieces[-1].speed_pu[-1]))
    assert course.duration_s == pytest.approx(seconds, rel=5e-3)
    assert float(course.all("line_a").max()) == pytest.approx(amps, rel=5e-3)
    assert float(course.running("rotor_j")[-1]) == pytest.approx(heat, rel=1e-2)


@pytest.mark.parametrize("times", [1.0, 4.0, 23.5])
def test_more_ohms_move_the_same_torque_to_a_lower_speed(times):
    """Every tenth of speed, against the circuit solved by hand."""
    found = behave(plant(), [at_rings("more", times), FULL])
    for place in range(0, 320, 29):
        slip = float(plant().slip[place])
        amps, torque, watts = by_hand(slip, times)
        assert abs(found.line[0, place]) * plant().amps_per_pu == pytest.approx(amps, rel=3e-3)
        assert found.torque[0, place] == pytest.approx(torque, rel=3e-3, abs=0.5)
        assert found.rotor_w[0, place] == pytest.approx(watts, rel=6e-3, abs=0.5)


def test_what_the_resistor_takes_heats_no_motor():
    """Of all that slips away in the first step one part in so many is the motor's."""
    found = behave(plant(), [at_rings("more", 20.0), FULL])
    slipping = plant().slip * found.torque[0] * TOP
    assert np.allclose(found.rotor_w[0], slipping / 20, rtol=1e-9)
    assert np.all(found.heat_w[0] >= found.rotor_w[0] - 1e-6)


class TestOnTheSheet:
    @pytest.mark.parametrize(("file", "tag"), [(LOCK, "D-61"), (SOUND, "W-2")])
    def test_a_good_one_passes_and_its_answer_says_how_it_starts(self, file, tag):
        plan = planner(file, tag)(RINGS)
        assert plan.verdict is Verdict.PASSES
        assert plan.comparison.chosen == "rotor-resistor"
        said = "".join(piece.text for piece in plan.answer)
        row = plan.comparison.row("rotor-resistor")
        assert said.startswith(f"On a rotor resistor in {row.setting} it pulls {row.peak_a:.1f} A and the board sags")
        assert row.peak_a == pytest.approx(plan.figure("start.rings_current").value, rel=0.05)

    def test_what_mends_too_little_torque_is_its_resistor_and_does(self):
        short = planner(LOCK, "D-61")(ON_IT | {"start.rotor_steps": "4"}).gate("start.torque")
        assert short.verdict is Verdict.FAILS
        assert short.remedy.startswith("More steps of its resistor, or a higher first torque")
        assert "design" not in short.remedy
        assert planner(LOCK, "D-61")(ON_IT | {"start.rotor_steps": "7"}).gate("start.torque").verdict is Verdict.PASSES

    def test_each_step_begins_with_the_first_torque(self):
        """At 1.8 times rated slip: by Kloss, the stator's ohms as many as the rotor's, on what the terminals keep."""
        row = planner(LOCK, "D-61")(RINGS).comparison.row("rotor-resistor")
        rated = 1 - 1765 / 1800

        def of_rated(slip, top):
            return 2 * (1 + top) / (slip / top + top / slip + 2 * top)

        top = brentq(lambda top: 2.5 * of_rated(rated, top) - 1, 2 * rated, 20 * rated)
        kloss = 100 * 2.5 * of_rated(1.8 * rated, top)
        assert row.start_torque_pct == pytest.approx(kloss * (row.terminal_least_pct / 100) ** 2, rel=0.01)

    @pytest.mark.parametrize(
        ("facts", "key"),
        [
            ({"load.breakaway": "185 %"}, "start.torque"),
            ({"start.rotor_steps": "2"}, "start.torque"),
            ({"limits.dip": "0.2 %"}, "start.dip"),
            ({"wiring.length": "1500 m"}, "start.terminals"),
            ({"start.method": "autotransformer"}, "start.possible"),
        ],
    )
    def test_one_bad_fact_fails_by_its_own_gate(self, facts, key):
        gate = planner(LOCK, "D-61")(ON_IT | facts).gate(key)
        assert gate.verdict is Verdict.FAILS

    def test_a_cage_has_no_rings_and_is_not_offered_it(self):
        assert "rotor-resistor" not in {row.method for row in whole(LOCK, "P-11")().comparison.rows}
        plan = planner(LOCK, "P-11")({"start.method": "rotor-resistor"})
        assert plan.gate("start.possible").verdict is Verdict.FAILS
        assert "slip rings" in plan.gate("start.possible").sentence

    def test_only_rings_and_a_drive_start_it(self):
        rows = whole(SOUND, "W-2")(RINGS).comparison.rows
        assert {row.method for row in rows if row.outcome is not None} == {"rotor-resistor", "drive"}

    def test_a_stall_on_its_resistor_is_for_the_place_and_no_approval(self):
        gate = planner(LOCK, "D-61")(RINGS).gate("protection.stall")
        assert (gate.kind, gate.verdict) == (Kind.CONFIRM, Verdict.UNKNOWN)
        assert planner(LOCK, "D-61")().gate("protection.stall").kind is Kind.ENGINEERING

    def test_without_its_load_the_start_is_not_known(self):
        plan = planner(LOCK, "D-61")(RINGS | {"load.kind": None, "load.power": None, "load.breakaway": None})
        assert plan.gate("start.dip").verdict is Verdict.UNKNOWN
        assert plan.verdict is Verdict.UNKNOWN


class TestBraked:
    """By its stator, with all of the resistor in: as its contactors fall out with the stator's."""

    FACTS = ON_IT | {"stop.method": "plugging", "start.rotor_steps": "4", "start.rotor_peak": "180 %"}

    def test_plugged_it_is_at_its_slip_over_the_ohms_in_the_rotor(self):
        """1.8 of rated torque at rest: at twice the slip the same machine as without ohms at twice that share of it."""
        plan = planner(LOCK, "D-61")(self.FACTS)
        bare = planner(LOCK, "D-61")(self.FACTS | {"start.method": "drive"}).machine.circuit
        times = 1 / (1.8 * (1 - 1765 / 1800))
        slip = 1 + plan.load.full_speed_rpm / 1800
        run = run_at(bare, np.array([slip / times]), volts_v=460)
        used = plan.stopping.used
        assert used.peak_a == pytest.approx(float(run.line_current_a[0]), rel=0.02)
        assert used.outside_kj / (used.outside_kj + used.rotor_kj) == pytest.approx(1 - 1 / times, rel=1e-3)
        assert used.steps[0].startswith("The resistor at its rings is all in")

    def test_it_draws_far_less_than_with_its_rings_shorted(self):
        amps = [
            planner(LOCK, "D-61")(facts).stopping.used.peak_a for facts in (self.FACTS, {"stop.method": "plugging"})
        ]
        assert amps[0] < 0.5 * amps[1]

    def test_direct_current_brakes_it_at_so_many_times_the_speed(self):
        """The torque's peak lies at `R_2/(X_m + X_2)` of synchronous speed: with the ohms it moves up with them."""
        facts = self.FACTS | {
            "stop.method": "dc",
            "stop.dc_current": "60 A",
            "stop.dc_time": "3 s",
            "stop.dc_delay": "0 s",
        }
        with_ohms, bare = (
            planner(LOCK, "D-61")(facts | more).stopping.used
            for more in ({}, {"start.rotor_steps": "1", "start.rotor_peak": "400 %"})
        )
        peaks = [used.strip_pct[int(np.argmax(used.strip_nm))] for used in (with_ohms, bare)]
        assert peaks[0] > 1.5 * peaks[1]

    @pytest.mark.parametrize(
        ("leads", "secondary", "verdict"),
        [
            # 40 A through 0.6 Ω: 24 V cold, 28.8 V hot; a bridge gives nine tenths of its transformer's
            ("0.6 Ω", "26 V", "fails"),
            ("0.6 Ω", "29 V", "check"),
            ("0.6 Ω", "33 V", "passes"),
            # as its rotor, 0.2066 Ω a phase: 16.5 V as taken, from four tenths of it to two and a half times
            (None, "7 V", "fails"),
            (None, "29 V", "check"),
            (None, "48 V", "passes"),
        ],
    )
    def test_its_stators_ohms_are_measured_or_a_guess_and_never_nought(self, leads, secondary, verdict):
        facts = {"stop.method": "dc", "stop.dc_current": "40 A", "stop.dc_supply": secondary}
        plan = stops(LOCK, "D-61")(self.FACTS | facts | {"machine.dc_resistance": leads})
        gate = plan.gate("stop.direct")
        assert gate.verdict == verdict
        assert gate.turns is None or gate.turns.path == "machine.dc_resistance"
        half = 0.3 if leads else plan.machine.circuit.cages[0].r_ohm
        assert plan.figure("stop.r1").value == pytest.approx(half, rel=1e-3)
        assert plan.figure("stop.direct_volts").value == pytest.approx(2 * half * 40, rel=1e-3)
        used = plan.stopping.used
        acts = next(one for one in used.acting if one.name == "direct current")
        # the wye that direct current flows through heats as 2·I² does, and as 3·I² of its equivalent
        assert 1000 * used.stator_kj == pytest.approx(2 * half * 40**2 * (acts.to_s - acts.from_s), rel=0.05)


@pytest.mark.parametrize(("leads", "ohms"), [("0.6 Ω", 0.3), (None, None)])
def test_a_drive_tunes_to_its_stators_ohms_and_calls_a_guess_one(leads, ohms):
    plan = planner(LOCK, "D-61")(RINGS | {"start.method": "drive", "machine.dc_resistance": leads})
    found = plan.figure("drive.stator_hot")
    assert found.value == pytest.approx(ohms or plan.machine.circuit.cages[0].r_ohm, rel=1e-3)
    assert found.provenance == "estimated"


def test_ohms_that_leave_no_such_torque_are_refused_on_its_sheet():
    """At 240 % `T_b = 3·U²/(4·ω_s·R)` with no leakage left: 460²/(4·188.5·242.1) is 1.16 Ω."""
    planned = planner(LOCK, "D-61")
    assert planned(RINGS | {"machine.dc_resistance": "2.2 Ω"}).machine.circuit.r1_ohm == pytest.approx(1.1)
    refused = planned(RINGS | {"machine.dc_resistance": "2.4 Ω"})
    assert (refused.machine, refused.gate("machine.fit").verdict) == (None, Verdict.FAILS)
    assert "1.2 Ω a phase" in refused.gate("machine.fit").sentence
