"""A soft stop against a numerical solution of the same model written again, and what must hold of every one."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from tests.conftest import planner
from tests.core.starting_model import Model
from tests.core.test_starting_forms import EMF, TARGETS, plant_of
from tests.examples import examples
from vinegate.core.grade import Verdict
from vinegate.core.start.connection import FULL, behave
from vinegate.core.start.run_up import run_up
from vinegate.core.start.soft_stop import _read, soft_stop

SOURCE_PU, RUN_PU = 0.002 + 0.01j, 0.004 + 0.002j


def stopped(index, *, share, ramp_s, seconds, of_torque=False):
    """A plant that would coast about so many seconds, its running speed, and its stop."""
    target = TARGETS[index]
    rated = target.power_w * 30 / math.pi / target.speed_rpm
    inertia = seconds * share * rated / (target.speed_rpm * math.pi / 30)
    ohms, run = (pu * EMF**2 / target.power_w for pu in (SOURCE_PU, RUN_PU))
    plant = plant_of(target, load_share=share, ohms=ohms, run=run, inertia=inertia)
    runs = run_up(plant, behave(plant, [FULL]))
    running = runs.speed_pu_at(float(runs.stop[0]))
    if running < 0.9:  # it never came up: nothing to stop
        return plant, running, None
    return plant, running, soft_stop(plant, running_pu=running, ramp_s=ramp_s, of_torque=of_torque)


@examples(12)
@given(
    index=st.integers(0, len(TARGETS) - 1),
    share=st.floats(0.2, 0.9),
    ramp_s=st.floats(4, 15),
    seconds=st.floats(0.5, 4),
    of_torque=st.booleans(),
)
def test_against_solve_ivp(index, share, ramp_s, seconds, of_torque):
    plant, running, found = stopped(index, share=share, ramp_s=ramp_s, seconds=seconds, of_torque=of_torque)
    assume(found is not None)
    load = float(plant.load_nm[-1])
    base = EMF**2 / TARGETS[index].power_w
    model = Model(plant.model, EMF, SOURCE_PU * base, RUN_PU * base, plant.inertia_kgm2, lambda _: load)

    def rate(t, state):
        square = max(1 - t / ramp_s, 0) ** (1 if of_torque else 2)
        held = max(math.sqrt(square), 1e-3)
        return [(model.at(state[0], hold=held)[1] - load) / model.inertia]

    def there(_, state):
        return state[0] - 0.1 * model.synchronous

    def still(_, state):  # the largest amperes may come after a tenth of speed: as a falling rotor comes to rest
        return state[0]

    still.terminal = True
    again = solve_ivp(
        rate, (0, 60), [running * model.synchronous], events=(there, still), method="LSODA", rtol=1e-7, max_step=0.05
    )
    assert found.to_a_tenth_s == pytest.approx(float(again.t_events[0][0]), rel=5e-3)
    amps = [
        model.at(w, hold=max(math.sqrt(max(1 - t / ramp_s, 0) ** (1 if of_torque else 2)), 1e-3))[0]
        for t, w in zip(again.t, again.y[0], strict=True)
    ]
    assert found.peak_a == pytest.approx(max(amps), rel=0.02)


@given(share=st.floats(0.2, 0.9), ramp_s=st.floats(1, 20))
@examples(15)
def test_it_never_stops_sooner_than_coasting_and_always_slows(share, ramp_s):
    _, _, found = stopped(2, share=share, ramp_s=ramp_s, seconds=3)
    assert found.coasts_to_a_tenth_s == pytest.approx(2.7, rel=0.1)
    assert found.to_a_tenth_s >= found.coasts_to_a_tenth_s
    assert all(fast >= slow - 0.3 for fast, slow in zip(found.speed_pct, found.coasting_pct, strict=True))
    assert all(a >= b - 1e-9 for a, b in itertools.pairwise(found.speed_pct))


def test_coasting_on_the_march_is_the_schoolbook_time():
    """`t = J·Δω/T` with the machine's own drag small: the marched curve and the quadrature say the same."""
    _, _, found = stopped(2, share=0.6, ramp_s=5, seconds=4)
    crossed = float(np.interp(-10, -np.array(found.coasting_pct), found.time_s))
    assert crossed == pytest.approx(found.coasts_to_a_tenth_s, rel=2e-3)


def test_a_longer_ramp_takes_longer_and_heats_more():
    short, long = (stopped(3, share=0.5, ramp_s=seconds, seconds=2)[2] for seconds in (4, 12))
    assert short.to_a_tenth_s < long.to_a_tenth_s
    assert short.rotor_j < long.rotor_j


def test_between_levels_and_speeds_it_is_read_straight_both_ways():
    """What is straight in each, `2·s + 3·p + 5·s·p`, is read as it is."""
    plant = plant_of(TARGETS[0])
    levels, place = np.array([0.2, 0.4, 0.7, 1.0]), np.arange(plant.points)
    grid = 2 * levels[:, None] + 3 * place + 5 * levels[:, None] * place
    shares, places = np.array([0.25, 0.5, 0.9, 1.0]), np.array([10.25, 99.5, 200.75, 300.0])
    speeds = np.interp(places, plant.axis, plant.speed_pu)
    read = _read(plant, grid, levels, shares, speeds)
    assert read == pytest.approx(2 * shares + 3 * places + 5 * shares * places, rel=1e-9)


def test_torque_goes_with_the_square_of_volts_on_its_way_down(p11):
    """Volts evenly leave a quarter of the torque half way down, torque evenly a half: the latter lets go later."""
    asked = {"start.method": "soft-starter", "start.soft_stop": "yes", "start.soft_stop_ramp": "8 s"}
    stops = [p11({**asked, "start.soft_ramp_of": of}).comparison.soft_stop for of in ("volts", "torque")]
    volts, torque = (float(np.interp(5.0, stop.time_s, stop.speed_pct)) for stop in stops)
    assert torque > volts + 1
    assert p11(asked).comparison.soft_stop == stops[0]


SOFTLY = {"start.method": "soft-starter", "start.soft_stop": "yes", "start.soft_stop_ramp": "30 s"}


@pytest.mark.parametrize(
    ("changes", "verdict"),
    [
        ({"stop.within": "15 s"}, Verdict.FAILS),  # it coasts in 13.7 s: its ramp of 30 s goes before
        ({"stop.within": "36 s"}, Verdict.CHECK),
        ({"stop.within": "44 s"}, Verdict.PASSES),  # 30 s and 13.7 s one after the other
        ({"stop.within": "15 s", "start.soft_stop": None, "start.soft_stop_ramp": None}, None),
        ({"stop.within": "15 s", "start.method": "full-voltage", "limits.dip": "10 %", "start.soft_stop": None}, None),
        ({"stop.within": "15 s", "start.soft_stop": "no"}, None),
        ({}, None),
    ],
)
def test_a_soft_stop_is_counted_in_the_time_that_is_asked(changes, verdict):
    found = [
        gate for gate in planner("harrowmere-lock.json", "P-11")(SOFTLY | changes).gates if gate.key == "stop.softly"
    ]
    assert [gate.verdict for gate in found] == ([verdict] if verdict else [])


def test_the_order_of_a_soft_stop_begins_with_its_ramp():
    plan = planner("harrowmere-lock.json", "P-11")
    assert "ramps it down over 30 s" in plan(SOFTLY).stage("stop").notes[0]
    assert not any("ramps it down" in note for note in plan(SOFTLY | {"start.soft_stop": "no"}).stage("stop").notes)


def test_a_guard_waits_for_a_soft_stop_too():
    people = {"stop.people": "yes", "stop.emergency": "0"}
    plan = planner("harrowmere-lock.json", "P-11")
    alone = {"start.soft_stop": None, "start.soft_stop_ramp": None}
    assert "up to 13.7 s" in plan(SOFTLY | alone | people).gate("stop.guard").sentence
    across = {"start.method": "full-voltage", "limits.dip": "10 %", "starter.runs_on": "20 s", "start.soft_stop": None}
    assert "up to 33.7 s" in plan(across | people).gate("stop.guard").sentence
    assert "up to 43.7 s" in plan(SOFTLY | people).gate("stop.guard").sentence


@pytest.mark.parametrize(("ramp", "verdict"), [("8 s", Verdict.PASSES), ("30 s", Verdict.CHECK)])
def test_soft_stops_heat_the_machine_beside_its_starts(ramp, verdict):
    """75 hp at 94.1 % lose 3.5 kW at rated load; three stops an hour add their heat over 3600 s."""
    plan = planner("harrowmere-lock.json", "P-11")(SOFTLY | {"start.soft_stop_ramp": ramp})
    gate, soft = plan.gate("stop.per_hour"), plan.comparison.soft_stop
    rated_w = 75 * 745.7 * (1 / 0.941 - 1)
    assert soft.heat_j > soft.rotor_j > 0
    added = 100 * 3 * soft.heat_j / 3600 / rated_w
    assert gate.value == pytest.approx(plan.gate("start.per_hour").value + added, abs=0.2)
    assert gate.verdict is verdict


@pytest.mark.parametrize(
    ("changes", "verdict", "passes"),
    [
        ({"start.soft_stop_ramp": "8 s"}, Verdict.PASSES, None),
        ({"start.soft_stop_ramp": "60 s", "protection.trip_class": "10"}, Verdict.CHECK, "30"),
        ({"start.soft_stop_ramp": "60 s", "protection.trip_class": "30"}, Verdict.PASSES, None),
        ({"start.soft_stop_ramp": "300 s", "protection.trip_class": "10"}, Verdict.FAILS, None),
        ({"start.soft_stop": None, "start.soft_stop_ramp": None}, None, None),
        ({"start.method": "drive", "start.soft_stop_ramp": "60 s"}, None, None),
    ],
)
def test_the_overload_bears_a_soft_stop(changes, verdict, passes):
    found = [
        gate for gate in planner("harrowmere-lock.json", "P-11")(SOFTLY | changes).gates
        if gate.key == "protection.soft_stop"
    ]  # fmt: skip
    assert [gate.verdict for gate in found] == ([verdict] if verdict else [])
    assert [gate.turns.passes_as for gate in found if gate.turns] == ([passes] if passes else [])
