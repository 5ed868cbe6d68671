"""A motor at any frequency: what a drive's stage takes it for, against the circuit itself and by the laws of flux."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.examples import examples
from vinegate.core.drive.cooling import Cooling, kind_of_cooling
from vinegate.core.drive.envelope import Law, Supplied
from vinegate.core.drive.facts import Drive
from vinegate.core.drive.flux import turning_of
from vinegate.core.drive.rating import carrier_share
from vinegate.core.machine.circuit import Cage, EquivalentCircuit, breakdown, operate, rotor_constant_s
from vinegate.core.machine.curves import curves
from vinegate.core.machine.tabulated import tabulate

# 25 hp, 460 V, 60 Hz, four poles, ohms per phase of the wye: Chapman, Electric Machinery Fundamentals, example 6-3.
TEXTBOOK = EquivalentCircuit(
    r1_ohm=0.641, x1_ohm=1.106, xm_ohm=26.3, cages=(Cage(r_ohm=0.332, x_ohm=0.464),), poles=4, frequency_hz=60,
    drag_w=1100,
)  # fmt: skip
TWO_CAGES = EquivalentCircuit(
    r1_ohm=0.4, x1_ohm=1.0, xm_ohm=30.0, rfe_ohm=600.0, cages=(Cage(r_ohm=0.25, x_ohm=1.4), Cage(r_ohm=1.6, x_ohm=0.5)),
    poles=4, frequency_hz=60,
)  # fmt: skip
BOTH = pytest.mark.parametrize("circuit", [TEXTBOOK, TWO_CAGES], ids=["one cage", "two cages"])


def machine(circuit, **more):
    return turning_of(circuit, volts_v=460.0, rated_slip=0.022, **more)


@BOTH
@pytest.mark.parametrize("hertz", [3.0, 30.0, 60.0, 90.0, 120.0])
def test_the_circuit_solved_there_agrees(circuit, hertz):
    """Torque, amperes at the volts found: what `operate` gives at that slip, to 1 % and mostly much less."""
    k = hertz / 60
    found = machine(circuit).at(np.array([k])).kept(460.0).at_torque(np.array([30.0]))
    slip = float(found.rotor_pu[0]) / k
    run = operate(circuit, slip, volts_v=float(found.volts[0]), frequency_hz=hertz)
    assert float(run.torque_nm) == pytest.approx(30.0, rel=0.01)
    assert float(run.line_current_a) == pytest.approx(float(found.amps[0]), rel=0.01)


@BOTH
@given(low=st.floats(0.05, 0.9), high=st.floats(0.05, 0.9))
@examples(30)
def test_at_constant_flux_torque_is_the_rotors_frequency_alone(circuit, low, high):
    """The same rotor frequency, the same torque and amperes, whatever the stator's (drag and core apart)."""
    bare = EquivalentCircuit(r1_ohm=circuit.r1_ohm, x1_ohm=circuit.x1_ohm, xm_ohm=circuit.xm_ohm, cages=circuit.cages,
                             poles=4, frequency_hz=60)  # fmt: skip
    unit = machine(bare).at(np.array([low, high])).kept(math.inf)
    one, other = unit.shaft_nm
    assert one == pytest.approx(other, rel=1e-9)
    assert unit.amps[0] == pytest.approx(unit.amps[1], rel=1e-9)


@BOTH
@pytest.mark.parametrize("k", [1.0, 1.5, 2.0])
def test_breakdown_is_the_circuits_and_never_below_the_inverse_square(circuit, k):
    """At constant volts; R_1 matters less the higher the frequency, so there is more than 1/k² of it."""
    bare = EquivalentCircuit(r1_ohm=circuit.r1_ohm, x1_ohm=circuit.x1_ohm, xm_ohm=circuit.xm_ohm, cages=circuit.cages,
                             poles=4, frequency_hz=60)  # fmt: skip
    top = float(machine(bare).at(np.array([k])).kept(460.0).breakdown_nm()[0])
    exact = breakdown(bare, volts_v=460.0, frequency_hz=60 * k).torque_nm
    # kept flux needs no more than the volts there are: at the top they are all used
    assert top == pytest.approx(exact, rel=0.01)
    assert top >= 0.99 * breakdown(bare, volts_v=460.0).torque_nm / k**2


def test_plain_volts_by_frequency_leave_a_third_of_breakdown_at_3_hertz():
    """The stator's drop eats the volts: what boost is for."""
    k = np.array([0.05])
    turning = machine(TEXTBOOK)
    plain = float(turning.at(k).fed(460 * k).breakdown_nm()[0])
    assert plain == pytest.approx(breakdown(TEXTBOOK, volts_v=23.0, frequency_hz=3.0).torque_nm, rel=0.02)
    kept = float(turning.at(k).kept(460.0).at_current(45.0)[0])
    assert plain < 0.4 * kept


def test_at_rest_it_gives_what_the_circuit_gives_locked():
    k = np.array([0.03, 0.08])
    volts = 460 * k + 30
    (amps,), (found,) = machine(TEXTBOOK).at(k).fed(volts, most=math.inf).turning(np.zeros(1))
    exact = [operate(TEXTBOOK, 1.0, volts_v=v, frequency_hz=60 * one) for one, v in zip(k, volts, strict=True)]
    assert found == pytest.approx([float(one.gap_torque_nm) for one in exact], rel=0.01)
    assert amps == pytest.approx([float(one.line_current_a) for one in exact], rel=0.01)


def made(limit):
    law = Law(vector=False, square=False, boost_v=5.0, plate_v=460.0, most_v=440.0)
    return Supplied(turning=machine(TEXTBOOK), plate_a=30.0, rated_nm=100.0, slip=0.022, law=law, cooling=cooled("fan"),
                    limit_a=limit, breakdown_times=1.3, highest_v=480.0, top_k=1.0)  # fmt: skip


def most_of(supplied, turns):
    """The most torque at a speed, per unit, that the circuit solved at four hundred frequencies gives in its amperes."""
    runs = [operate(TEXTBOOK, (k - turns) / k, volts_v=float(supplied.law.volts(np.array([k]))[0]), frequency_hz=60 * k)
            for k in np.linspace(turns + 0.005, 0.6, 400)]  # fmt: skip
    within = [float(run.gap_torque_nm) for run in runs if float(run.line_current_a) <= supplied.limit_a]
    return max(within, default=0.0)


@pytest.mark.parametrize("limit", [45.0, 60.0, 71.0, 90.0])
def test_from_rest_it_gives_the_most_that_its_amperes_reach_at_any_frequency(limit):
    """Scalar control: no steps between."""
    assert made(limit).from_rest[0] == pytest.approx(most_of(made(limit), 0.0), rel=0.05, abs=0.5)


@pytest.mark.parametrize("limit", [60.0, 71.0])
def test_once_it_turns_it_gives_no_less_than_that(limit):
    """No hole beside rest, where one frequency's own breakdown is low: it came from rest at a higher one."""
    turns = np.array([0.01, 0.02, 0.03, 0.05, 0.08])
    found = made(limit).short_at(turns * 1800)
    assert found == pytest.approx([most_of(made(limit), float(one)) for one in turns], rel=0.06)


def test_delta_in_place_of_wye_at_root_three_times_the_frequency():
    """230Δ/400Y at 87 Hz: the same flux and torque at √3 the speed, √3 the amperes, √3 the power and a little more."""
    bare = replace(TEXTBOOK, drag_w=0.0)
    wye, root = machine(bare), math.sqrt(3)
    delta = wye.strapped(root)
    at_base = wye.at(np.array([1.0])).kept(460.0).at_torque(np.array([70.0]))
    at_87 = delta.at(np.array([root])).kept(460.0).at_torque(np.array([70.0]))
    assert at_87.rotor_pu == pytest.approx(at_base.rotor_pu, rel=0.03)  # a little less flux is asked at the top
    assert at_87.amps == pytest.approx(root * at_base.amps, rel=0.03)
    assert at_87.volts <= 460.0 * (1 + 1e-6)
    power = [70.0 * (k - float(one.rotor_pu[0])) for k, one in ((1.0, at_base), (root, at_87))]
    assert power[1] / power[0] > root


def test_a_makers_curve_is_read_by_the_rotors_frequency():
    """The 25 hp circuit tabulated at 60 Hz and read at 6 Hz: torque at 0.132 Hz of slip, not at 2.2 %."""
    bare = EquivalentCircuit(r1_ohm=0.641, x1_ohm=1.106, xm_ohm=26.3, cages=TEXTBOOK.cages, poles=4, frequency_hz=60)
    shape = curves(bare, volts_v=460.0, count=801)
    curve = tabulate(speed=shape.speed_rpm, torque=shape.torque_nm, current=shape.line_current_a,
                     power_factor=shape.power_factor, volts_v=460.0, frequency_hz=60.0, top_rpm=1800.0,
                     phase_factor=3**0.5, rated_loss_w=1400.0)  # fmt: skip
    by_curve = turning_of(curve, volts_v=460.0, rated_slip=0.022).at(np.array([0.1])).kept(460.0)
    rotor = by_curve.unit.machine.rotor_pu
    nm = float(np.interp(0.0022, rotor, by_curve.shaft_nm[0]))
    assert nm == pytest.approx(6.0, rel=0.15)  # the circuit itself at 46 V and 6 Hz; a curve knows no stator drop
    assert nm < 0.15 * 62.8  # what reading by slip would give


def test_the_promise_holds_the_largest_torque_down():
    free = machine(TEXTBOOK).at(np.ones(1)).fed(np.array([460.0])).breakdown_nm()[0]
    held = machine(TEXTBOOK, most_nm=150.0).at(np.ones(1)).fed(np.array([460.0])).breakdown_nm()[0]
    assert free > 200
    assert held == pytest.approx(150.0)


def test_lead_resistance_counts_with_the_stators():
    bare, long = (machine(TEXTBOOK, lead_ohm=ohm).at(np.array([0.05])).kept(460.0) for ohm in (0.0, 0.5))
    asked = np.array([60.0])
    more = float(long.at_torque(asked).volts[0] - bare.at_torque(asked).volts[0])
    amps = float(bare.at_torque(asked).amps[0])
    assert 0.5 * math.sqrt(3) * 0.5 * amps < more <= math.sqrt(3) * 0.5 * amps * 1.001


def cooled(kind, **more):
    at_rest = {"fan": 0.2, "blower": 1.0, "open": 0.3}[kind]
    base = {"bears": 1.0, "derate": 1.0, "full_from_hz": None, "assumed": False}
    return Cooling(kind=kind, at_rest=at_rest, exponent=1, **base | more)


class TestCooling:
    def test_a_blower_cools_alike_at_every_speed(self):
        speeds = np.linspace(0, 1, 11)
        assert cooled("blower").current_pu(speeds).min() == 1.0
        assert cooled("fan").current_pu(speeds)[0] == pytest.approx(0.555, abs=0.001)

    def test_a_blower_at_half_speed_by_hand(self):
        """All its cooling is there: of 1.0 less core 0.2·0.5^1.5 and drag 0.15·0.5, over load losses 0.65, hot by 0.6."""
        amps = cooled("blower", bears=0.6).current_pu(np.array([0.5]))[0]
        assert amps == pytest.approx(math.sqrt((0.6 - 0.2 * 0.5**1.5 - 0.15 * 0.5) / 0.65), rel=1e-9)

    def test_it_never_cools_worse_the_faster_it_turns_up_to_rated_speed(self):
        assert (np.diff(cooled("fan").current_pu(np.linspace(0, 1, 41))) >= 0).all()

    def test_insulation_in_hand_carries_more_at_rest_and_never_more_than_rated(self):
        plain, spare = (cooled("fan", bears=b).current_pu(np.array([0.0, 1.0])) for b in (1.0, 105 / 80))
        assert spare[0] > plain[0]
        assert spare[1] == plain[1] == 1.0

    def test_what_its_maker_says_replaces_the_model(self):
        made = cooled("fan", full_from_hz=6.0, derate=0.95)
        assert made.band == 0
        found = made.current_pu(np.array([0.095, 0.085]), np.array([6.0, 5.4]))
        assert found[0] == 1.0
        assert found[1] < 0.65

    @pytest.mark.parametrize(
        ("facts", "code", "enclosure", "kind", "assumed"),
        [
            ({"cooling": "oil"}, "IC411", None, "oil", False),
            ({}, "IC 416", None, "blower", False),
            ({}, None, "TENV", "none", False),
            ({}, None, None, "fan", True),
        ],
    )
    def test_its_kind_is_the_facts_else_the_plates_else_assumed(self, facts, code, enclosure, kind, assumed):
        assert kind_of_cooling(Drive.model_validate(facts), code, enclosure) == (kind, assumed)


@given(limit=st.floats(15.0, 80.0), vector=st.booleans())
@examples(40)
def test_what_is_given_for_a_short_time_rises_with_the_amperes_and_falls_with_speed(limit, vector):
    law = Law(vector=vector, square=False, boost_v=20.0, plate_v=460.0, most_v=440.0)

    def given_by(amps):
        return Supplied(turning=machine(TEXTBOOK), plate_a=30.0, rated_nm=100.0, slip=0.022, law=law,
                        cooling=cooled("fan"), limit_a=amps, breakdown_times=1.3, highest_v=480.0, top_k=1.0)  # fmt: skip

    speeds = np.linspace(200, 3400, 17)
    less, more = (given_by(amps).short_at(speeds) for amps in (limit, 1.3 * limit))
    assert (more >= less - 0.5).all()
    assert (np.diff(less[speeds > 1800]) <= 0.5).all()  # above the corner never rising
    k = np.array([0.3, 0.6, 1.0, 1.4])
    assert (given_by(limit).continuous_nm(k) <= 100.0 + 1e-9).all()


@pytest.mark.parametrize("rpm", [9.0, 90.0, 360.0])
def test_a_speed_that_is_kept_bears_as_much_near_rest(rpm):
    """Vector control raises the frequency by the slip: full flux, `T = 3·E²/ω·f·R_2/(R_2² + (f·X_2)²)`, or what all of
    its volts give there; a scalar drive keeps its frequency and stalls.
    """
    law = Law(vector=True, square=False, boost_v=20.0, plate_v=460.0, most_v=440.0)
    vector, scalar = (replace(made(60.0), law=one) for one in (law, replace(law, vector=False)))
    run = operate(TEXTBOOK, 0.022, volts_v=460.0)
    current = float(run.line_current_a) * np.exp(-1j * math.acos(float(run.power_factor)))
    gap_v = abs(460 / math.sqrt(3) - current * complex(TEXTBOOK.r1_ohm, TEXTBOOK.x1_ohm))
    cage, turns, found = TEXTBOOK.cages[0], rpm / 1800, []
    for slip in np.linspace(0.01, 1.0, 400):
        whole = slip * cage.r_ohm / (cage.r_ohm**2 + (slip * cage.x_ohm) ** 2) * 3 * gap_v**2
        at = turns + slip
        most = operate(TEXTBOOK, slip / at, volts_v=440.0, frequency_hz=60 * at).gap_torque_nm
        found.append(min(whole / TEXTBOOK.synchronous_rad_s(), float(most)))
    speed, nm = np.array([rpm]), np.array([80.0])
    (short, breaks), (less, sooner) = (
        (float(end[0]) for end in one.most_at(speed, one.settle(speed, nm)[2])) for one in (vector, scalar)
    )
    assert breaks == pytest.approx(max(found), rel=0.03)  # read between frequencies
    assert short == pytest.approx(
        float(vector.most_at(np.array([900.0]), vector.near(np.array([900.0])))[0][0]), rel=0.03
    )
    assert sooner < 0.7 * breaks
    assert less < short


def test_the_carrier_takes_its_share():
    assert carrier_share(1.0) == 1.0
    assert carrier_share(2.0) == pytest.approx(0.748, abs=0.002)
    i = carrier_share(3.0)
    assert 0.35 * i + 0.25 * i**2 + 0.40 * i * 3 == pytest.approx(1.0)


def test_the_rotors_time_constant_is_that_of_an_open_stator():
    """(X_m + X_2)/(ω·R_2): 26.764/(377·0.332) = 0.2138 s."""
    assert rotor_constant_s(TEXTBOOK) == pytest.approx(26.764 / (2 * math.pi * 60 * 0.332), rel=1e-6)
