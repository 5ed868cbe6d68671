"""What is offered to the demo's machines, and the gates of the way in use."""

import math

import numpy as np
import pytest

from tests.conftest import stops
from vinegate.core.grade import Kind, Verdict
from vinegate.core.numbers import write

LOCK, SKERRY = "harrowmere-lock.json", "skerry-sound.json"


def test_a_suspended_load_gets_nothing_but_a_brake():
    for file, tag in ((LOCK, "G-21"), (SKERRY, "W-2")):
        found = stops(file, tag)({"stop.hold": None, "stop.distance": None}).stopping
        assert found.must_hold
        assert found.chosen == "brake"
        assert [row.method for row in found.rows if row.verdict is not Verdict.FAILS] == ["brake", "drive-brake"]
        assert all("hold" in row.why for row in found.rows if not row.holds)
        assert "runs away" in found.row("coast").on_failure


@pytest.mark.parametrize("hold", ["no", "with power on"])
@pytest.mark.parametrize(("tag", "file"), [("G-21", LOCK), ("W-2", SKERRY)])
def test_a_suspended_load_is_held_whatever_is_said_of_it(hold, tag, file):
    """What lets it fall fails, the drive too; its brake is judged by its torque, and passes."""
    plan = stops(file, tag)
    loose = {"stop.hold": hold, "stop.power_failure": "may coast", "stop.emergency": None, "stop.distance": None}
    for way in ("coast", "plugging", "dc", "drive"):
        gate = plan(loose | {"stop.method": way}).gate("stop.stop")
        assert gate.verdict is Verdict.FAILS, (way, gate.sentence)
    held = plan(loose | {"stop.method": "brake"})
    assert {held.gate(key).verdict for key in ("stop.stop", "stop.hold")} == {Verdict.PASSES}
    weak = plan(loose | {"stop.method": "brake", "stop.brake_torque": "10 N·m"})
    assert weak.gate("stop.hold").verdict is Verdict.FAILS


def test_a_load_that_drives_is_asked_whether_it_must_be_held():
    def stands(**stop):
        return {
            gate.key: gate.verdict for gate in stops(SKERRY, "F-3")({f"stop.{k}": v for k, v in stop.items()}).gates
        }

    assert stands(overhauls="yes", hold=None, power_failure=None)["stop.hold"] is Verdict.CHECK
    assert "stop.hold" not in stands(overhauls="yes", hold="no", power_failure=None)
    assert "stop.hold" not in stands(overhauls="no", hold=None, power_failure=None)


def test_holding_with_power_on_leaves_a_drive_and_nothing_else_without_a_brake():
    found = stops(SKERRY, "F-3")({"stop.hold": "with power on"}).stopping
    by = {row.method: row.verdict for row in found.rows}
    assert by["drive"] is by["regen"] is Verdict.PASSES
    assert by["coast"] is by["dc"] is by["plugging"] is Verdict.FAILS
    assert by["brake"] is Verdict.PASSES


def test_what_must_stop_when_power_fails_gets_a_brake():
    found = stops(LOCK, "X-51")({"stop.power_failure": "must stop", "stop.method": None}).stopping
    assert found.chosen == "brake"
    assert "When power fails" in found.row("dc").why


def test_the_rakes_loads_lie_too_far_apart_for_a_timer():
    rake = stops(LOCK, "R-31")
    wide = rake().stopping.row("plugging")
    assert "zero-speed switch is needed" in wide.why
    assert wide.least_s < wide.time_s
    assert rake({"stop.plug_timer": "0.2 s"}).gate("stop.stop").verdict is Verdict.FAILS
    narrow = rake({"stop.light": "95 %", "stop.friction": None}).stopping.row("plugging")
    assert "A timer between" in narrow.why


def test_friction_alone_widens_the_band():
    pump = stops(LOCK, "X-51")
    bare, rough = pump({"stop.friction": None}).stopping.used, pump({"stop.friction": "20 %"}).stopping.used
    assert not bare.band_s
    assert rough.least_s < bare.time_s < rough.time_s


def test_the_centrifuge_coasts_for_minutes_and_dc_brings_it_in():
    plan = stops(LOCK, "X-51")()
    assert plan.stopping.row("coast").verdict is Verdict.FAILS
    assert plan.stopping.row("coast").time_s > 200
    assert plan.stopping.row("dc").time_s < 60
    assert plan.stopping.row("dc").rotor_kj < plan.figure("stop.energy").value


def test_heat_of_plugging_against_what_the_machine_bears():
    hot = stops(LOCK, "X-51")({"machine.stall_hot": "6 s", "stop.method": "plugging"})
    assert hot.gate("stop.stop").verdict is Verdict.FAILS
    assert "from hot" in hot.gate("stop.stop").sentence


def test_the_direct_currents_timer_must_outlast_the_slowest_stop():
    centrifuge = stops(LOCK, "X-51")
    slowest = centrifuge().stopping.used.time_s
    # Its torque is an estimate, from four to five quarters: so is the time.
    for share, verdict in ((0.7, Verdict.FAILS), (0.95, Verdict.CHECK), (1.05, Verdict.CHECK), (1.3, Verdict.PASSES)):
        timed = centrifuge({"stop.dc_time": f"{slowest * share:.1f} s"})
        assert timed.gate("stop.stop").verdict is verdict, share


def test_a_drives_ramp_takes_its_time_and_its_resistor_follows():
    fan = stops(SKERRY, "F-3")
    plan = fan({"stop.drive_ramp": "20 s", "stop.resistor": None})
    assert plan.stopping.row("drive").time_s == pytest.approx(20, rel=1e-3)
    ohms, peak = plan.figure("stop.ohms").value, plan.figure("stop.peak").value
    assert ohms == pytest.approx(720**2 / (1000 * peak), rel=1e-3)
    # J·ω/t·u − T·u² times u·ω, u the share of speed: largest by hand on a fine grid, 90 % of it
    j, omega = plan.figure("stop.inertia").value, 2955 * math.pi / 30
    u = np.linspace(0, 1, 20001)
    load = plan.figure("load.torque").value * u**2
    assert 1000 * peak == pytest.approx(0.9 * float(((j * omega / 20 - load) * u * omega).max()), rel=0.05)
    least = fan({"stop.drive_ramp": "20 s", "stop.drive_least": f"{2 * ohms:.1f} Ω", "stop.resistor": None})
    assert least.gate("stop.ohms").verdict is Verdict.FAILS
    high = fan({"stop.drive_ramp": "20 s", "stop.resistor": f"{1.15 * ohms:.1f} Ω"})
    assert high.gate("stop.ohms").verdict is Verdict.FAILS
    near = fan({"stop.drive_ramp": "20 s", "stop.resistor": f"{0.97 * ohms:.1f} Ω"})
    assert near.gate("stop.ohms").verdict is Verdict.CHECK
    assert fan({"stop.resistor_power": None}).gate("stop.watts").verdict is Verdict.UNKNOWN
    assert fan({"stop.resistor_power": "10 W"}).gate("stop.watts").verdict is Verdict.FAILS
    assert fan({"stop.drive_least": None}).gate("stop.ohms").verdict is Verdict.UNKNOWN


def test_a_ramp_beyond_what_a_drive_gives_is_shut():
    steep = stops(SKERRY, "F-3")({"stop.drive_ramp": "1 s"}).stopping
    assert steep.row("drive").verdict is Verdict.FAILS
    assert "of rated torque" in steep.row("drive").why


def test_energy_returned_and_its_price():
    """54 kJ or so a stop, 60 stops an hour, 5000 h, by hand."""
    plan = stops(SKERRY, "F-3")({"stop.per_hour": "60"})
    kwh = plan.figure("stop.joules").value * 60 * 5000 / 3600
    assert plan.figure("stop.returned").value == pytest.approx(kwh)
    assert plan.figure("stop.saving").value == pytest.approx(0.19 * kwh)


def test_the_brakes_heat_an_hour_and_its_lining():
    """40 stops of so many joules over 3600 s."""
    hoist = stops(LOCK, "G-21")
    plan = hoist()
    gate, joules = plan.gate("stop.heat"), 1000 * plan.stopping.row("brake").outside_kj
    assert gate.value == pytest.approx(40 * joules / 3600)
    assert hoist({"stop.brake_power": "10 W"}).gate("stop.heat").verdict is Verdict.FAILS
    assert hoist({"stop.brake_power": None}).gate("stop.heat").verdict is Verdict.UNKNOWN
    assert plan.figure("stop.lining_stops").value == pytest.approx(120e6 / joules)
    years = hoist({"wiring.hours": "500"}).figure("stop.lining_years").value
    assert years == pytest.approx(120e6 / joules / 40 / 500)
    assert hoist({"stop.brake_stop": "1 kJ"}).gate("stop.stop_heat").verdict is Verdict.FAILS


def test_a_brake_on_the_driven_shaft_counts_by_the_gear():
    hoist = stops(LOCK, "G-21")
    plan = hoist({"stop.brake_torque": "950 N·m", "stop.brake_side": "driven shaft", "load.gear_ratio": "10"})
    assert plan.figure("stop.torque").value == pytest.approx(95)
    assert "gear" not in plan.stopping.used.caution
    assert "through the gear" in hoist().stopping.used.caution


@pytest.mark.parametrize(
    ("torque", "verdict"), [("40 N·m", Verdict.FAILS), ("60 N·m", Verdict.CHECK), ("66 N·m", Verdict.PASSES)]
)
def test_a_brake_holds_with_its_factor(torque, verdict):
    """The gate hangs on 42.5 N·m at the motor's shaft; half again is 63.7."""
    plan = stops(LOCK, "G-21")({"stop.brake_torque": torque, "stop.distance": None})
    assert plan.gate("stop.hold").verdict is verdict


def test_an_assumed_brake_is_judged_over_its_band():
    hoist = stops(LOCK, "G-21")
    assert hoist().gate("stop.hold").verdict is Verdict.PASSES
    for text in (None, "9 m"):  # not given, or not to be read
        found = hoist({"stop.brake_torque": text, "stop.hold_factor": "2"}).gate("stop.hold")
        assert (found.verdict, found.turns.path) == (Verdict.CHECK, "stop.brake_torque")


def test_a_holding_factor_that_is_asked_decides_and_the_usual_one_only_warns():
    brake = stops(LOCK, "G-21")
    weak = {"stop.brake_torque": "55 N·m", "stop.distance": None}  # 1.29 times the load
    usual = brake(weak).gate("stop.hold")
    assert (usual.verdict, usual.turns.path) == (Verdict.CHECK, "stop.hold_factor")
    assert brake(weak | {"stop.hold_factor": "1.5"}).gate("stop.hold").verdict is Verdict.FAILS
    assert brake(weak | {"stop.hold_factor": "1.25"}).gate("stop.hold").verdict is Verdict.PASSES


@pytest.mark.parametrize(
    ("fed", "method", "start", "verdict"),
    [
        ("starter's contact", "brake", "full-voltage", Verdict.PASSES),
        ("motor's leads", "brake", "full-voltage", Verdict.CHECK),
        ("motor's leads", "brake", "soft-starter", Verdict.FAILS),
        ("drive, on running", "brake", "full-voltage", Verdict.FAILS),
        ("drive, on running", "drive-brake", "full-voltage", Verdict.PASSES),
        ("drive, on no fault", "drive-brake", "drive", Verdict.FAILS),
        ("motor's leads", "drive-brake", "drive", Verdict.FAILS),
        ("starter's contact", "brake", "drive", Verdict.FAILS),
        (None, "brake", "full-voltage", Verdict.UNKNOWN),
    ],
)
def test_where_the_release_coil_is_fed(fed, method, start, verdict):
    plan = stops(LOCK, "G-21")({"stop.release_from": fed, "stop.method": method, "start.method": start})
    assert plan.gate("stop.release").verdict is verdict


def test_a_coil_at_the_motors_leads_needs_its_volts():
    plan = stops(LOCK, "G-21")({"stop.release_from": "motor's leads", "stop.release": None})
    assert plan.gate("stop.release").verdict is Verdict.UNKNOWN
    assert plan.gate("stop.release").needs == ("the release coil's volts",)


def test_a_coil_for_other_volts_is_shut():
    plan = stops(LOCK, "G-21")({"stop.release_from": "motor's leads", "stop.release": "230 V"})
    assert plan.gate("stop.release").verdict is Verdict.FAILS


@pytest.mark.parametrize(
    ("tag", "category", "verdict"),
    [
        ("X-51", "0", Verdict.FAILS),  # coasts for minutes, 60 s asked
        ("X-51", "1", Verdict.UNKNOWN),  # for the risk assessment: on the checklist
        ("G-21", "0", Verdict.PASSES),
        ("G-21", "1", Verdict.FAILS),  # a brake alone cuts power at once
    ],
)
def test_emergency_stop_by_category(tag, category, verdict):
    assert stops(LOCK, tag)({"stop.emergency": category}).gate("stop.emergency").verdict is verdict


def test_people_near_ask_for_a_guard_and_a_category():
    plan = stops(LOCK, "X-51")({"stop.people": "yes", "stop.emergency": None})
    assert plan.gate("stop.guard").kind is Kind.CONFIRM
    assert plan.gate("stop.emergency").verdict is Verdict.UNKNOWN


@pytest.mark.parametrize(
    ("changes", "longest"),
    [
        ({"stop.drive_ramp": "5 s"}, "coasts"),
        ({"stop.drive_ramp": "900 s"}, "900 s"),
        ({"stop.method": "drive-brake", "stop.drive_ramp": "5 s", "stop.brake_torque": "9 kN·m"}, "4.76 s"),
    ],
)
def test_a_guard_stays_locked_for_the_longest_stop(changes, longest):
    """By its ramp, or with power gone: a fan then coasts for minutes, or its brake closes at once; the brake behind a
    ramp closes at a twentieth of the speed.
    """
    given = stops(SKERRY, "F-3")
    gate = given({"stop.people": "yes", "stop.emergency": "1", **changes}).gate("stop.guard")
    coasts = given({"stop.method": "coast"}).stopping.used.time_s
    shown = f"{write(coasts, 3)} s" if longest == "coasts" else longest
    assert f"up to {shown}" in gate.sentence


def test_a_distance_and_an_angle_are_limits_too():
    """The hoist travels 0.2 m/s · 60/1110 a turn."""
    given = stops(LOCK, "G-21")

    def hoist(changes=()):
        known = {"machine.inertia": "0.06 kg·m²", "stop.lining": "80 %", "stop.brake_delay": "0.1 s",
                 "stop.method": "brake"}  # fmt: skip
        return given(known | dict(changes))

    plan = hoist()
    travel = plan.figure("stop.travel").value
    assert travel == pytest.approx(plan.stopping.used.turns * 0.2 * 60 / 1110, rel=1e-3)
    assert hoist({"stop.distance": f"{travel * 0.9:.5f} m"}).gate("stop.stop").verdict is Verdict.FAILS
    assert hoist({"stop.distance": f"{travel * 1.1:.5f} m"}).gate("stop.stop").verdict is Verdict.PASSES
    turned = stops(LOCK, "D-61")({"stop.within_turns": "30°", "stop.method": "brake"})
    driven = turned.figure("stop.driven_turns").value
    assert (turned.gate("stop.stop").verdict is Verdict.FAILS) == (driven > 30 / 360)


def test_without_a_load_it_says_what_is_missing():
    plan = stops(LOCK, "P-11")({"load.kind": None})
    assert plan.stopping is None
    assert plan.gate("stop.stop").verdict is Verdict.UNKNOWN


def test_the_energy_is_that_of_all_that_turns():
    plan = stops(LOCK, "X-51")()
    omega = 1780 * math.pi / 30
    by_hand = plan.figure("load.inertia_total").value * omega**2 / 2000
    assert plan.figure("stop.energy").value == pytest.approx(by_hand)


def test_behind_a_ramp_the_brake_takes_a_four_hundredth():
    """It closes at a twentieth of speed: 1/400 of the energy, and the load's part of it; sooner, more."""
    winch = stops(SKERRY, "W-2")
    alone = winch({"stop.brake_delay": None}).gate("stop.heat")
    behind = winch({"stop.method": "drive-brake"}).gate("stop.heat")
    assert behind.value == pytest.approx(alone.value / 400, rel=0.02)
    half = winch({"stop.method": "drive-brake", "stop.drive_ramp": "4 s", "stop.brake_at": "2 s"}).gate("stop.heat")
    assert half.value == pytest.approx(alone.value / 4, rel=0.02)


def test_the_supply_of_direct_current_by_hand():
    centrifuge = stops(LOCK, "X-51")
    plan = centrifuge({"stop.dc_current": "150 A"})
    r_1 = plan.figure("machine.r1").value
    assert plan.figure("stop.direct_volts").value == pytest.approx(300 * r_1, rel=1e-3)
    assert plan.figure("stop.transformer").value == pytest.approx(300 * r_1 / 0.9 * 0.150, rel=1e-3)
    more = centrifuge({"stop.dc_current": "150 A", "stop.dc_supply": "60 V"})
    assert more.figure("stop.limiting").value == pytest.approx(54 / 150 - 2 * r_1, rel=1e-3)
    assert more.gate("stop.direct").verdict is Verdict.PASSES
    # 300·R_1/0.9 is its bridge's least; a tenth more is less than a warm winding asks
    scarce = centrifuge({"stop.dc_current": "150 A", "stop.dc_supply": f"{1.1 * 300 * r_1 / 0.9:.2f} V"})
    assert scarce.gate("stop.direct").verdict is Verdict.CHECK
    few = centrifuge({"stop.dc_current": "150 A", "stop.dc_supply": "20 V"})
    assert few.gate("stop.direct").verdict is Verdict.FAILS


@pytest.mark.parametrize(
    ("facts", "verdict", "passes"),
    [
        # a band of inertia whose light end stands before the delay: it stops all the same
        ({"machine.inertia": "0.3 kg·m²", "load.inertia": None, "stop.within": "8 s"}, "passes", ""),
        ({"machine.inertia": "0.3 kg·m²", "load.inertia": None, "stop.within": "3 s"}, "check", "under"),
        # as taken it stands before; the heavy end wants it
        ({"machine.inertia": "0.1 kg·m²", "load.inertia": None, "stop.within": "8 s"}, "check", "over"),
        ({"machine.inertia": "0.1 kg·m²", "load.inertia": "900 kg·m²", "stop.within": "8 s"}, "fails", ""),
    ],
)
def test_direct_current_that_comes_too_late_is_a_fault_only_where_it_always_does(facts, verdict, passes):
    gate = stops(LOCK, "D-61")({"stop.method": "dc"} | facts).gate("stop.stop")
    assert gate.verdict == verdict
    assert (gate.turns.passes if gate.turns else "").startswith(passes)
