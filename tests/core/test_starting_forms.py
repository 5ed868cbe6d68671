"""Closed forms that a simulated start must meet, whatever the machine."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.bands import load_bands
from tests.core.test_machine_fit import NEMA, catalogue
from tests.examples import examples
from vinegate.core.load.stage import Asked
from vinegate.core.machine.circuit import Cage, operate
from vinegate.core.machine.fit import Fit, fit
from vinegate.core.machine.tabulated import tabulate
from vinegate.core.start.connection import FULL, Connection, autotransformer, behave, in_series, series_for, wye
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.plant import build, speed_axis
from vinegate.core.start.reclosure import open_rotor_time_constant, reclosure
from vinegate.core.start.run_up import run_up
from vinegate.core.start.trace import Outcome, settled
from vinegate.core.supply.network import BASE_VA, Bus, Network

EMF = 480.0


def alone(runs, key):
    return in_turn(runs, [Turn(key=key)], dead_s=0.0, before=None)


def network(ohms=1e-9 + 0j):
    return Network(buses=(Bus(key="m", name="m", parent=-1, z_pu=ohms * BASE_VA / EMF**2, volts_v=EMF),), emf_pu=1.0)


def load_of(torque_nm, rpm, *, shape=0.0, inertia=2.0, breakaway=0.0):
    return Asked(
        kind="any", torque_nm=torque_nm, full_speed_rpm=rpm, shape=shape, full_pu=1.0, breakaway_pu=breakaway,
        points=None, inertia_kgm2=inertia, load_inertia_kgm2=inertia, **load_bands(inertia),
    )  # fmt: skip


def plant_of(target, *, load_share=0.0, ohms=1e-9 + 0j, run=0j, inertia=2.0, drag=True):
    found = fit(target)
    assert isinstance(found, Fit)
    circuit = found.circuit if drag else replace(found.circuit, drag_w=0.0)
    rated = target.power_w * 30 / math.pi / target.speed_rpm
    return build(
        network=network(ohms), at=0, model=circuit, asked=load_of(load_share * rated, target.speed_rpm, inertia=inertia),
        plate_v=target.volts_v, frequency_hz=60, rated_current_a=target.current_a, rated_torque_nm=rated, run_ohm=run,
        phase_factor=math.sqrt(3),
    )  # fmt: skip


TARGETS = [catalogue(*NEMA[index]) for index in range(0, len(NEMA), 9)]


def test_constant_torque_gives_the_schoolbook_time():
    """t = J·ω/T with constant accelerating torque."""
    speeds = np.linspace(0, 1800, 50)
    machine = tabulate(
        speed=speeds, torque=np.full(50, 100.0), current=np.full(50, 60.0), power_factor=np.full(50, 0.4),
        volts_v=EMF, frequency_hz=60, top_rpm=1800, phase_factor=math.sqrt(3),
        rated_loss_w=1200.0,
    )  # fmt: skip
    plant = build(
        network=network(), at=0, model=machine, asked=load_of(40.0, 1800, inertia=3.0, breakaway=1.0), plate_v=EMF,
        frequency_hz=60, rated_current_a=20, rated_torque_nm=80, run_ohm=0j, phase_factor=math.sqrt(3),
    )  # fmt: skip
    course = alone(run_up(plant, behave(plant, [FULL])), "full")
    omega = float(course.pieces[-1].speed_pu[-1]) * 1800 * math.pi / 30
    assert course.duration_s == pytest.approx(3.0 * omega / 60.0, rel=1e-6)


@pytest.mark.parametrize("target", TARGETS, ids=lambda t: f"{t.power_w:.0f} W {t.poles}p")
def test_rotor_heat_of_an_unloaded_start_is_the_kinetic_energy(target):
    """½·J·ω_s²·(1 − s²) up to slip s, whatever the torque curve: no drag, no load, any supply."""
    plant = plant_of(target, drag=False, ohms=0.01 + 0.05j)
    course = alone(run_up(plant, behave(plant, [FULL])), "full")
    slip = 1 - float(course.pieces[-1].speed_pu[-1])
    kinetic = 0.5 * plant.inertia_kgm2 * plant.synchronous_rad_s**2 * (1 - slip**2)
    assert course.rotor_j == pytest.approx(kinetic, rel=2e-3)


@pytest.mark.parametrize("target", TARGETS[::3], ids=lambda t: f"{t.power_w:.0f} W {t.poles}p")
def test_energy_in_is_losses_and_shaft(target):
    """Heat by the machine's own losses, added up from the circuit at the terminals' volts, within 0.5 %."""
    plant = plant_of(target, load_share=0.3, ohms=0.02 + 0.08j, run=0.03 + 0.01j)
    behaviour = behave(plant, [FULL])
    runs = run_up(plant, behaviour)
    course = alone(runs, "full")
    last = int(np.abs(plant.slip - (1 - course.pieces[-1].speed_pu[-1])).argmin())
    losses = []
    for slip, share in zip(plant.slip[: last + 1], behaviour.terminal[0], strict=False):
        run = operate(plant.model, slip, volts_v=share * plant.plate_v)
        losses.append(float(run.stator_loss_w + run.core_loss_w + run.rotor_loss_w))
    drag = plant.drag_nm * plant.omega
    heat = np.trapezoid(np.array(losses) + drag[: last + 1], runs.time_s[0, : last + 1])
    assert runs.heat_j[0, last] == pytest.approx(float(heat), rel=5e-3)


def test_wye_is_exactly_a_third_on_a_stiff_supply():
    plant = plant_of(TARGETS[3])
    found = behave(plant, [FULL, wye()])
    assert np.abs(found.line[1]) / np.abs(found.line[0]) == pytest.approx(1 / 3)
    gap = found.torque + plant.drag_nm
    assert gap[1] / gap[0] == pytest.approx(1 / 3)


@pytest.mark.parametrize("tap", [0.5, 0.65, 0.8])
def test_autotransformer_gives_on_what_it_takes(tap):
    """Line t², motor t, torque t² on a stiff supply; power in is power out at any supply."""
    plant = plant_of(TARGETS[4])
    found = behave(plant, [FULL, autotransformer("tap", tap, 0j)])
    assert np.abs(found.line[1]) / np.abs(found.line[0]) == pytest.approx(tap**2)
    assert found.motor[1] / found.motor[0] == pytest.approx(tap)
    weak = plant_of(TARGETS[4], ohms=0.03 + 0.12j)
    found = behave(weak, [autotransformer("tap", tap, 0j)])
    board = weak.seen.open_pu[0] - weak.seen.transfer_pu[0] * found.line[0]
    into = (board * np.conj(found.line[0])).real
    out = found.motor[0] ** 2 * weak.z_motor.real
    assert into == pytest.approx(out)


@pytest.mark.parametrize(("reactor", "k"), list(itertools.product([False, True], [0.5, 0.65, 0.8])))
def test_series_resistor_leaves_the_volts_asked_at_rest(reactor, k):
    plant = plant_of(TARGETS[5])
    found = behave(plant, [FULL, in_series("s", series_for(plant, k, reactor=reactor))])
    assert found.terminal[1, 0] / found.terminal[0, 0] == pytest.approx(k)
    assert found.terminal[1, -1] > found.terminal[1, 0]  # rising with speed


def test_a_current_limit_holds_and_is_lossless():
    plant = plant_of(TARGETS[6], ohms=0.01 + 0.04j)
    limit = 3.2 * plant.rated_current_pu
    found = behave(plant, [Connection(key="limit", limit_pu=limit)])
    held = np.abs(found.line[0])
    assert held.max() == pytest.approx(limit)
    board = plant.seen.open_pu[0] - plant.seen.transfer_pu[0] * found.line[0]
    into = (board * np.conj(found.line[0])).real
    assert into == pytest.approx(np.abs(found.line[0]) ** 2 * (plant.z_motor + plant.z_run).real)


@examples(30)
@given(share=st.floats(0.0, 0.9), more=st.floats(1.05, 3.0))
def test_more_inertia_takes_longer_in_proportion(share, more):
    one, two = (plant_of(TARGETS[2], load_share=share, inertia=j) for j in (1.0, more))
    first, second = (alone(run_up(p, behave(p, [FULL])), "full") for p in (one, two))
    assert second.duration_s == pytest.approx(more * first.duration_s, rel=1e-9)


def test_a_load_above_the_torque_at_rest_stalls_and_one_above_pull_up_hangs():
    target = TARGETS[3]
    still = alone(run_up(p := plant_of(target, load_share=4.0), behave(p, [FULL])), "full")
    assert still.outcome is Outcome.STALLS
    assert still.duration_s is None
    plant = plant_of(target, load_share=0.7)
    hung = alone(run_up(plant, behave(plant, [wye()])), "wye")
    assert hung.outcome in (Outcome.STALLS, Outcome.HANGS)


def test_the_axis_falls_from_standstill():
    slip = speed_axis()
    assert slip[0] == 1.0
    assert 0 < slip[-1] < 1e-3
    assert (np.diff(slip) < 0).all()


def test_open_rotor_time_constant_of_one_cage_and_of_two():
    """One cage: (X_2 + X_m)/(ω·R_2). Two equal cages in parallel are one of half the ohms."""
    circuit = fit(TARGETS[3]).circuit
    one = replace(circuit, cages=(Cage(r_ohm=0.4, x_ohm=0.9),))
    assert open_rotor_time_constant(one) == pytest.approx((0.9 + circuit.xm_ohm) / (2 * math.pi * 60 * 0.4))
    two = replace(circuit, cages=(Cage(r_ohm=0.8, x_ohm=1.8), Cage(r_ohm=0.8, x_ohm=1.8)))
    assert open_rotor_time_constant(two) == pytest.approx(open_rotor_time_constant(one))


def test_reclosing_at_once_onto_opposed_volts_doubles_the_inrush():
    plant = plant_of(TARGETS[8])
    place = float(np.interp(-0.02, -plant.slip, np.arange(plant.points)))
    at_once = reclosure(plant, place, dead_s=0.0, volts_before_pu=1.0)
    inrush = abs(complex(behave(plant, [FULL]).line[0, 0])) * plant.amps_per_pu
    assert 1.7 < at_once.most_a / inrush < 2.0
    later = reclosure(plant, place, dead_s=10.0, volts_before_pu=1.0)
    assert later.most_a == pytest.approx(inrush, rel=0.02)
    assert later.least_a == pytest.approx(inrush, rel=0.02)


def test_where_it_settles_between_two_speeds_the_volts_lie_on_the_straight_line():
    plant = plant_of(TARGETS[2], load_share=0.5, ohms=0.02 + 0.05j)
    runs = run_up(plant, behave(plant, [FULL]))
    volts = np.abs(runs.behaviour.seen.volts(runs.behaviour.line))[0][0]
    assert volts[250] < volts[251]
    assert settled(runs, 0, 250.25)[0] == pytest.approx(0.75 * volts[250] + 0.25 * volts[251], rel=1e-12)
