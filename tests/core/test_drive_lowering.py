"""A load that drives a motor on its drive: what it gives back must be taken, by the line, a resistor, or losses."""

import math

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict
from vinegate.core.tables import load

HOIST, FAN = planner("harrowmere-lock.json", "G-21"), planner("skerry-sound.json", "F-3")
DRIVE = {"start.method": "drive"}
PASSES, CHECK, FAILS, UNKNOWN = Verdict.PASSES, Verdict.CHECK, Verdict.FAILS, Verdict.UNKNOWN


def back_w():
    """21 kN at 0.2 m/s, lifted at 85 %; what is asked then comes back when it is lowered, 90 % of it at the bus."""
    return 0.9 * 21e3 * 0.2 / 0.85


def judged(**said):
    return HOIST(DRIVE | {key.replace("__", "."): text for key, text in said.items()}).gate("drive.lowering")


def test_a_hoist_without_a_resistor_is_not_passed():
    """Its ramp down neither: the load does not slow it."""
    plan = HOIST(DRIVE | {"stop.resistor": None, "drive.front_end": None})
    gate = plan.gate("drive.lowering")
    assert (gate.verdict, gate.needs) == (UNKNOWN, ("the braking resistor, or regeneration",))
    assert "drive.ramp_down" not in {one.key for one in plan.gates}
    assert plan.figure("drive.shortest_down") is None
    assert judged(drive__front_end="active").verdict is PASSES


def test_ohms_bear_the_peak():
    """U_B²/R: a bus of 760 V."""
    most = 760**2 / back_w()
    for share, verdict in ((0.99, PASSES), (1.01, FAILS)):
        gate = judged(stop__resistor=f"{share * most:.3f} Ω", stop__resistor_power="6 kW", stop__bus="760 V")
        assert gate.verdict is verdict, gate


def test_watts_bear_the_mean():
    for watts, share, verdict in (
        (1.01 * back_w(), None, PASSES),
        (0.99 * back_w(), None, CHECK),
        (0.41 * back_w(), "40 %", PASSES),
        (0.39 * back_w(), "40 %", FAILS),
        (0.01 * back_w(), None, FAILS),  # whatever share of the time can be typed
        (None, None, UNKNOWN),
    ):
        gate = judged(stop__resistor="60 Ω", stop__resistor_power=f"{watts:.1f} W" if watts else None,
                      stop__lowering=share)  # fmt: skip
        assert gate.verdict is verdict, gate


def test_the_share_that_is_named_settles_it():
    said = {"stop__resistor": "60 Ω", "stop__resistor_power": "1.5 kW"}
    turns = judged(**said).turns
    assert turns.path == "stop.lowering"
    assert judged(**said, stop__lowering=turns.passes_as).verdict is PASSES


def test_what_motor_and_drive_lose_needs_no_resistor():
    """A load that drives with less than the least of those losses; one that does not drive is not asked."""
    lost = float(load("preset").find(key="drive_ramp_loss")["low"])
    rated = 30e3 / (2955 * math.pi / 30)
    driven = {"stop.overhauls": "yes", "stop.resistor": None, "load.power": None}
    for share, verdict in ((0.95, PASSES), (1.05, UNKNOWN)):
        plan = FAN(driven | {"load.torque": f"{share * lost * rated:.4f} N·m"})
        assert plan.gate("drive.lowering").verdict is verdict
    assert "drive.lowering" not in {gate.key for gate in FAN({"stop.resistor": None}).gates}


RAMP = {"stop.drive_ramp": "20 s", "stop.brake_torque": "150 N·m", "stop.drive_least": "5 Ω"}


@pytest.mark.parametrize("method", ["drive", "drive-brake"])
def test_a_ramp_before_a_brake_needs_its_resistor_too(method):
    """Its ohms and watts are judged whichever way it comes to rest after the ramp."""
    plan = lambda more: FAN(RAMP | {"stop.method": method, "stop.per_hour": "10"} | more)  # noqa: E731
    assert plan({"stop.resistor": "8 Ω", "stop.resistor_power": "5 kW"}).gate("stop.ohms").verdict is PASSES
    assert plan({"stop.resistor": "5000 Ω"}).gate("stop.ohms").verdict is FAILS
    assert plan({"stop.resistor": "8 Ω", "stop.resistor_power": "1 W"}).gate("stop.watts").verdict is FAILS
    assert plan({"stop.resistor": None, "stop.drive_least": None}).gate("stop.ohms").verdict is UNKNOWN
    for front in ("active", "6-back"):
        back = plan({"stop.resistor": None, "drive.front_end": front})
        assert back.gate("stop.ohms").verdict is back.gate("drive.ramp_down").verdict is PASSES


@pytest.mark.parametrize(
    ("front", "verdict"), [("active", PASSES), ("6-back", PASSES), ("6", FAILS), ("18", FAILS), (None, UNKNOWN)]
)
def test_a_rectifier_lets_nothing_back(front, verdict):
    assert FAN(RAMP | {"stop.method": "regen", "drive.front_end": front}).gate("stop.returns").verdict is verdict


def test_a_bridge_beside_the_rectifier_leaves_its_harmonics():
    plain, back = (FAN({"drive.front_end": front}).gate("drive.harmonic_volts").value for front in ("6", "6-back"))
    assert back == plain


EDGES = [(0.89, PASSES), (0.91, CHECK), (1.09, CHECK), (1.11, FAILS)]
"""Of the most ohms: what a stop gives back is known to a tenth, here as on the stop's sheet."""


@pytest.mark.parametrize(("share", "verdict"), EDGES)
def test_a_ramp_into_a_resistor_is_no_shorter_than_that_takes(share, verdict):
    """However it is held after it: `(J·ω_0/t − T_L)·ω·0.9` at its greatest against 760² over the ohms."""
    known = {"stop.method": "brake", "stop.brake_torque": "150 N·m", "stop.drive_ramp": "20 s", "stop.bus": "760 V"}
    fan = planner("skerry-sound.json", "F-3")(known)
    omega = [fan.found["drive"].driven.path.omega[-1] * n / 400 for n in range(1, 401)]
    load_, top = fan.load, omega[-1]
    asked = [load_.inertia_kgm2 * top / 20 - float(load_.torque_at(one * 30 / math.pi)) for one in omega]
    most = 760**2 / (0.9 * max(nm * one for nm, one in zip(asked, omega, strict=True)))
    assert FAN(known | {"stop.resistor": f"{share * most:.4f} Ω"}).gate("drive.ramp_down").verdict is verdict


@pytest.mark.parametrize("method", ["brake", "drive", "coast"])
def test_fewer_ohms_than_its_chopper_bears_break_it(method):
    for ohms, verdict in (("10 Ω", PASSES), ("9.9 Ω", FAILS)):
        plan = FAN({"stop.method": method, "stop.resistor": ohms, "stop.drive_least": "10 Ω"})
        assert plan.gate("drive.least_resistor").verdict is verdict
    assert "drive.least_resistor" not in {gate.key for gate in FAN({"stop.drive_least": None}).gates}


@pytest.mark.parametrize(("motors", "verdict"), [("1", PASSES), ("2", FAILS)])
def test_a_hoists_motors_take_a_drive_each(motors, verdict):
    """Scalar control, all that serves several, holds none of them at rest; fans do with it."""
    plan = HOIST(DRIVE | {"drive.motors": motors, "drive.control": None if motors == "2" else "encoder"})
    assert plan.gate("drive.control").verdict is verdict
    assert FAN({"drive.motors": motors, "drive.control": None}).gate("drive.control").verdict is PASSES


@pytest.mark.parametrize(("share", "verdict"), EDGES)
def test_a_hoist_that_is_slowed_while_it_lowers_gives_back_both(share, verdict):
    """What hangs and what turns: `(T_L + J·ω_0/t)·ω_0·0.9` against 760² over the ohms."""
    known = DRIVE | {
        "stop.bus": "760 V",
        "stop.resistor_power": "10 kW",
        "start.drive_ramp": "1 s",
        "stop.drive_ramp": "1 s",
    }
    plan = HOIST(known | {"machine.inertia": "0.2 kg·m²"})
    top = plan.found["drive"].driven.path.omega[-1]
    nm = plan.load.torque_nm + plan.load.inertia_kgm2 * top / 1
    most = 760**2 / (0.9 * nm * top)
    said = known | {"machine.inertia": "0.2 kg·m²", "stop.resistor": f"{share * most:.4f} Ω"}
    assert HOIST(said).gate("drive.ramp_down").verdict is verdict
    assert HOIST(said | {"stop.resistor": "5000 Ω"}).gate("drive.ramp_down").verdict is FAILS


def test_too_many_ohms_fail_though_their_watts_are_not_given():
    assert judged(stop__resistor="600 Ω", stop__resistor_power=None).verdict is FAILS


def test_what_is_lowered_and_what_is_stopped_heat_one_resistor():
    """Each alone is borne, both together are not: their watts add."""
    said = DRIVE | {"stop.method": "drive-brake", "stop.per_hour": "60", "stop.resistor": "60 Ω", "stop.bus": "760 V",
                    "stop.drive_least": "20 Ω", "stop.drive_ramp": "2 s"}  # fmt: skip
    alone = HOIST(said | {"stop.resistor_power": "9 kW"}).gate("stop.watts").value
    both = HOIST(said | {"stop.resistor_power": "9 kW", "stop.lowering": "40 %"}).gate("stop.watts").value
    assert both - alone == pytest.approx(0.4 * back_w(), rel=2e-3)
    for watts, verdict in ((1.3 * both, PASSES), (both - 0.5 * alone, FAILS)):
        plan = HOIST(said | {"stop.lowering": "40 %", "stop.resistor_power": f"{watts:.0f} W"})
        assert plan.gate("stop.watts").verdict is verdict, (plan.gate("stop.watts"), alone, both)
        assert plan.gate("drive.lowering").verdict is PASSES


GENERATOR = {
    "supply.in_use": "standby", "standby.generator_power": "30 kVA", "standby.transient_reactance": "20 %",
    "board_1.load_power": None, "main_board.load_power_factor": None,
}  # fmt: skip


def on_generator(key, beside_w, **more):
    """What else runs is said in volt-amperes, at the power factor that is usual or `pf`."""
    factor = {"main_board.load_power_factor": more.pop("pf", None)}
    beside = {"main_board.load_power": f"{beside_w / float(factor['main_board.load_power_factor'] or 0.9):.1f} VA"}
    plan = HOIST(GENERATOR | factor | beside | more)
    return next((gate.verdict for gate in plan.gates if gate.key == key), None)


@pytest.mark.parametrize("pf", [None, "0.6"])
@pytest.mark.parametrize(
    ("key", "way"),
    [
        ("drive.lowering", {"start.method": "drive", "drive.front_end": "active"}),
        ("stop.to_generator", {"start.method": "full-voltage"}),
    ],
)
def test_a_generator_takes_what_is_lowered_no_further_than_its_engine_and_what_runs_beside(key, way, pf):
    """24 kW of rating drag 1.2 kW at least and 2.4 at most; of the load beside it a half runs surely, or all."""
    surely, at_best = 2 * (back_w() - 1200), back_w() - 2400
    for beside_w, verdict in (
        (1.02 * surely, PASSES), (0.98 * surely, CHECK), (1.02 * at_best, CHECK), (0.98 * at_best, FAILS),
    ):  # fmt: skip
        assert on_generator(key, beside_w, pf=pf, **way) is verdict


def test_on_the_grid_what_is_lowered_across_the_line_asks_nothing():
    assert on_generator("stop.to_generator", 0, **{"supply.in_use": "utility", "start.on_standby": "no"}) is None


def test_a_load_that_starts_empty_drives_with_all_of_it():
    """38 kW of a hydraulic machine that runs up unloaded: 90 % come back, on a drive and across the line."""
    driven = {"stop.overhauls": "yes", "standby.generator_power": "60 kVA", "standby.transient_reactance": "20 %"}
    pump, said = planner("skerry-sound.json", "H-1"), driven | {"supply.in_use": "standby"}
    on_drive = pump(said | {"start.method": "drive", "drive.front_end": "active"}).gate("drive.lowering")
    across = pump(said).gate("stop.to_generator")
    assert on_drive.value == pytest.approx(0.9 * 38, rel=0.01)
    assert across.value == pytest.approx(0.9 * 38, rel=0.02)


@pytest.mark.parametrize(
    ("power", "beside", "verdict"),
    [("38 kW", "30 kVA", FAILS), ("38 kW", "80 kVA", PASSES), (None, "30 kVA", CHECK), (None, "80 kVA", CHECK)],
)
def test_what_comes_back_of_a_load_whose_power_nobody_gave_has_its_band(power, beside, verdict):
    """22.5 to 51.7 kW of a 45 kW machine: no verdict on an assumption."""
    said = {
        "stop.overhauls": "yes", "load.power": power, "supply.in_use": "standby", "standby.generator_power": "60 kVA",
        "standby.transient_reactance": "20 %", "main_board.load_power": beside,
    }  # fmt: skip
    gate = planner("skerry-sound.json", "H-1")(said).gate("stop.to_generator")
    assert gate.verdict is verdict
    assert ("shaft power asked" in gate.rests_on) is (power is None)
