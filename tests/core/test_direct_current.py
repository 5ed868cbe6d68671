"""A direct-current machine on its drive: the bridge from its waves, the start marched in time, and what is judged."""

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from tests.conftest import planner, whole
from tests.core.bands import load_bands
from tests.core.on_direct_current import IEC, NEC
from vinegate.core.grade import Kind, Verdict
from vinegate.core.load.stage import Asked
from vinegate.core.machine.simple import RatedPoint, direct_current
from vinegate.core.plan import plan_raw
from vinegate.core.rectifier import ONE, THREE, Armature
from vinegate.core.start.facts import Start
from vinegate.core.start.plant import build
from vinegate.core.start.simulate import simulate
from vinegate.core.supply.network import BASE_VA, Bus, Network

RATED = RatedPoint(power_w=22e3, volts_v=420, current_a=58, speed_rpm=1500, frequency_hz=50, power_factor=1.0)
OHMS, INERTIA, LOAD_NM, SOURCE = 0.35, 1.4, 120.0, complex(0.01, 0.05)
OMEGA = 1500 * math.pi / 30


def wave(three):
    """One cycle of what an ideal bridge lets through, fired at once: volts over the lines', and one line's current."""
    at = np.linspace(0, 2 * np.pi, 36_000, endpoint=False) + 1e-6
    if not three:
        return np.sqrt(2) * np.abs(np.sin(at)), np.sign(np.sin(at)), at
    phases = [np.sqrt(2 / 3) * np.sin(at - 2 * np.pi * n / 3) for n in range(3)]
    top, bottom = np.max(phases, axis=0), np.min(phases, axis=0)
    return top - bottom, (phases[0] == top) * 1.0 - (phases[0] == bottom) * 1.0, at


@pytest.mark.parametrize(("amps", "ohms"), [("3800", "100000 Ω"), ("42", "100000 Ω"), ("42", "0.5 Ω")])
def test_an_armature_that_no_machine_has_is_worked_no_further(amps, ohms):
    """25 hp of 3800 A and 100 kΩ leave it no current at rest: its ohms were divided by nought."""
    plate = {"kind": "dc-shunt", "power": "25 hp", "volts": "460", "full_load_current": amps, "speed": "1765",
             "frequency": "60 Hz"}  # fmt: skip
    job = {"supply": {"volts": "480", "frequency": "60 Hz", "fault_level": "20 kA"}}
    found = plan_raw("nec", job, {"plate": plate, "machine": {"armature_resistance": ohms}})
    assert found.verdict is (Verdict.UNKNOWN if ohms == "0.5 Ω" else Verdict.FAILS)
    assert (found.gate("start.dip").verdict is Verdict.PASSES) is False


@pytest.mark.parametrize(("bridge", "three"), [(THREE, True), (ONE, False)])
def test_a_bridge_by_its_own_waves(bridge, three):
    volts, amps, at = wave(three)
    assert bridge.ideal == pytest.approx(volts.mean(), rel=1e-4)
    assert bridge.rms == pytest.approx(math.sqrt((amps**2).mean()), rel=1e-3)
    assert bridge.wave == pytest.approx(2 * (amps * np.sin(at)).mean() / math.sqrt(2), rel=1e-3)


def armature(series=0.0):
    return Armature(bridge=THREE, volts_v=420.0, ohms=OHMS, rated_a=58.0, rated_rad_s=OMEGA,
                    rated_nm=RATED.torque_nm, series=series)  # fmt: skip


def run(start, kind="dc-shunt", series=0.0, load_nm=LOAD_NM):
    return runs_of(start, kind, armature(series), load_nm)["dc-drive"].course


def run_all(there):
    return set(runs_of(Start(), "dc-shunt", there, LOAD_NM))


def runs_of(start, kind, there, load_nm):
    machine = direct_current(RATED, kind=kind, resistance_ohm=OHMS)
    asked = Asked(
        kind="any", torque_nm=load_nm, full_speed_rpm=1500, shape=0.0, full_pu=1.0, breakaway_pu=1.0, points=None,
        inertia_kgm2=INERTIA, load_inertia_kgm2=INERTIA, **load_bands(INERTIA),
    )  # fmt: skip
    bus = Bus(key="main", name="main", parent=-1, z_pu=SOURCE * BASE_VA / 400**2, volts_v=400.0)
    plant = build(
        network=Network(buses=(bus,), emf_pu=1.0), at=0, model=machine, asked=asked, plate_v=420.0, frequency_hz=50,
        rated_current_a=58.0, rated_torque_nm=RATED.torque_nm, run_ohm=0j, phase_factor=math.sqrt(3),
        armature=there,
    )  # fmt: skip
    return simulate(plant, start, dip_limit_pu=None, margin_pu=0.1, most_i2t_s=10, loss_share=0.1, three_phase=False)


def board_pu(amps, cosine):
    """Volts at the board while it gives so many line amperes at that angle: the supply's phase less its drop."""
    return abs(400 / math.sqrt(3) - SOURCE * amps * complex(cosine, -math.sqrt(1 - cosine**2))) / (400 / math.sqrt(3))


@pytest.mark.parametrize(("ramp", "limit"), [(4.0, 1.5), (0.2, 1.5), (0.2, 1.2)])
def test_a_start_on_ramp_and_limit_against_solve_ivp(ramp, limit):
    """Up to nine tenths of its speed: seconds, and the fall at rest by one phase of the supply."""
    course = run(Start(drive_ramp=f"{ramp} s", drive_limit=f"{limit}"))
    settles = course.final_speed_pu * direct_current(RATED, kind="dc-shunt", resistance_ohm=OHMS).synchronous_rad_s()
    rate = min(settles / ramp, (limit * RATED.torque_nm - LOAD_NM) / INERTIA)

    def there(_, omega):
        return omega[0] - 0.9 * settles

    there.terminal = True
    marched = solve_ivp(lambda *_: [rate], (0, 60), [0.0], events=there)
    speed, time = course.all("speed_pu") / course.final_speed_pu, course.all("time_s")
    assert float(np.interp(0.9, speed, time)) == pytest.approx(float(marched.t[-1]), rel=0.01)
    amps = 58 * (LOAD_NM + INERTIA * rate) / RATED.torque_nm
    assert float(course.all("motor_a")[0]) == pytest.approx(amps, rel=1e-3)
    assert float(course.all("line_a")[0]) == pytest.approx(math.sqrt(2 / 3) * amps, rel=1e-3)
    fixed = 420 * 58 - RATED.torque_nm * OMEGA - 58**2 * OHMS  # what its rating loses beside its copper
    heat = float(np.interp(0.9, speed, course.all("heat_j")))
    assert heat == pytest.approx((amps**2 * OHMS + fixed) * float(marched.t[-1]), rel=0.02)
    fired = amps * OHMS / (3 * math.sqrt(2) / math.pi * 400)
    assert float(course.all("bus_pu")[0][0]) == pytest.approx(board_pu(math.sqrt(6) / math.pi * amps, fired), rel=1e-4)


def test_armature_volts_are_the_plates_where_it_runs():
    """Loaded as rated it settles at rated speed on rated volts; with less load it is a little quicker."""
    course = run(Start(drive_ramp="5 s"), load_nm=RATED.torque_nm)
    machine = direct_current(RATED, kind="dc-shunt", resistance_ohm=OHMS)
    assert course.final_speed_pu * machine.top_rpm == pytest.approx(1500, rel=0.01)
    lighter = run(Start(drive_ramp="5 s"), load_nm=0.5 * RATED.torque_nm)
    assert lighter.final_speed_pu > course.final_speed_pu
    volts = float(armature().volts_at(np.array([58.0]), np.array([OMEGA]))[0])
    assert volts == pytest.approx(420)


@pytest.mark.parametrize(("series", "flux"), [(0.0, 1.0), (0.5, 0.75), (1.0, 0.5)])
def test_a_series_field_gives_its_volts_with_its_current(series, flux):
    """At half of rated current its share of the flux is half; over rated current it grows no more, as iron fills."""
    machine, electromotive = armature(series), 420 - 58 * OHMS
    half, twice = (float(machine.volts_at(np.array([58.0 * times]), np.array([OMEGA]))[0]) for times in (0.5, 2.0))
    assert half == pytest.approx(electromotive * flux + 29 * OHMS)
    assert twice == pytest.approx(electromotive + 116 * OHMS)


@pytest.mark.parametrize("series", [0.0, 0.5, 1.0])
def test_amperes_and_torque_are_each_others_inverse(series):
    machine = armature(series)
    for times in (0.2, 0.7, 1.0, 1.4):
        torque = machine.torque_at(times)
        assert float(machine.amps_for(np.array([torque]))[0]) == pytest.approx(58 * times)
    assert machine.torque_at(0.5) <= 0.5 * RATED.torque_nm * (1 + 1e-9)


@pytest.fixture(params=["NEC", "IEC"])
def machine(request):
    file, tag, facts = {
        "NEC": ("harrowmere-lock.json", "P-11", NEC),
        "IEC": ("skerry-sound.json", "H-1", IEC),
    }[request.param]
    plan = planner(file, tag)
    return lambda **changes: plan({**facts, **{path.replace("__", "."): text for path, text in changes.items()}})


def test_a_fully_stated_one_passes_everywhere(machine):
    plan = machine()
    assert [gate for gate in plan.weighing if gate.verdict is not Verdict.PASSES] == []
    assert "DC drive" in "".join(piece.text for piece in plan.answer)
    assert {gate.key for gate in plan.gates if gate.kind is Kind.CONFIRM} >= {
        "plate.form_factor", "protection.fast_fuses",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("key", "verdict", "changes"),
    [
        ("plate.volts", "check", {"plate__volts": "550 V"}),
        ("plate.volts", "passes", {"plate__volts": "550 V", "start__converter_volts": "550 V"}),
        ("plate.volts", "fails", {"plate__volts": "550 V", "start__converter_volts": "540 V"}),
        ("plate.volts", "fails", {"plate__volts": "650 V"}),
        ("plate.volts", "fails", {"start__converter_lines": "two"}),
        ("start.commutator", "check", {"start__drive_limit": "1.6"}),
        ("start.commutator", "passes", {"start__drive_ramp": "50 s"}),
        ("start.commutator", "fails", {"start__drive_ramp": "80 s", "load__power": "25 hp"}),
        ("start.torque", "fails", {"start__drive_limit": "0.9"}),
        ("start.torque", "passes", {"start__drive_limit": "1.3"}),
        ("start.torque", "fails", {"load__power": "750 hp"}),  # more than its armature gives at rest: it never moves
        ("protection.overspeed", "fails", {"protection__overspeed": "no"}),
        ("protection.overspeed", "not known", {"protection__overspeed": None}),
        ("protection.starter", "fails", {"protection__electronic": "40 A"}),
        ("protection.drive_input", "not known", {"protection__drive_input": None}),
        # 43 A are 33.5 A of fundamental: a 5th of 6.7 A, and 29 % in all, against 4 % and 5 % of the demand there
        ("drive.harmonic_current", "passes", {"drive__coupling_fault": "12 kA", "drive__coupling_load": "800 A"}),
        ("drive.harmonic_current", "fails", {"drive__coupling_fault": "1 kA", "drive__coupling_load": "60 A"}),
        ("drive.harmonic_current_total", "check", {"drive__coupling_fault": "3 kA", "drive__coupling_load": "200 A"}),
        ("drive.harmonic_volts", "passes", {}),
        ("drive.harmonic_volts", "fails", {"drive__others": "2000 A"}),
    ],
)
def test_each_requirement_on_both_sides(key, verdict, changes):
    plan = planner("harrowmere-lock.json", "P-11")
    found = plan({**NEC, **{path.replace("__", "."): text for path, text in changes.items()}})
    assert found.gate(key).verdict.value == verdict


def test_magnets_cannot_be_lost(machine):
    keys = {gate.key for gate in machine(plate__kind="dc-permanent", protection__overspeed=None).gates}
    assert "protection.overspeed" not in keys


def test_behind_two_lines_its_conductors_carry_half_as_much_again():
    """NFPA 70:2023 430.22(A)(2): 150 % of the table's current; ahead of the drive 125 % of its input (430.122(A))."""
    plan = planner("harrowmere-lock.json", "P-11")
    small = {
        **NEC, "plate.power": "5 hp", "plate.volts": "240 V", "plate.full_load_current": "18.5 A",
        "plate.efficiency": None, "load.power": "4 hp", "load.inertia": "0.1 kg·m²", "machine.inertia": "0.02 kg·m²",
        "start.converter_lines": "two", "protection.drive_input": "19 A",
    }  # fmt: skip
    assert plan(small).figure("wiring.need").value == pytest.approx(1.5 * 20)
    assert plan({**small, "protection.drive_input": "28 A"}).figure("wiring.need").value == pytest.approx(1.25 * 28)
    three = {**small, "start.converter_lines": "three"}
    assert plan(three).figure("wiring.need").value == pytest.approx(1.25 * 20)


def test_no_other_machine_is_fed_so_and_no_other_way_feeds_it(machine):
    cage = planner("harrowmere-lock.json", "P-11")({"start.method": "dc-drive"})
    assert cage.gate("start.possible").verdict is Verdict.FAILS
    assert machine(start__method="full-voltage").gate("start.possible").verdict is Verdict.FAILS
    assert machine(start__method=None).comparison.chosen == "dc-drive"
    held = machine(start__method=None, stop__release_from="running")  # a coil on a drive's contact: on its own drive's
    assert held.comparison.chosen == "dc-drive"


def test_its_harmonics_are_one_over_their_order(machine):
    """Each order then leaves as many volts: `h·(I_1/h)/I_sc`, six of them as a sum of squares."""
    plan = machine()
    fundamental, fault = plan.figure("drive.input_a").value, plan.figure("supply.fault_at_board").value
    volts = plan.gate("drive.harmonic_volts").value  # IEC's largest fault has the voltage factor besides
    assert volts == pytest.approx(100 * math.sqrt(6) * fundamental / (1000 * fault), rel=0.12)
    assert fundamental == pytest.approx(math.sqrt(6) / math.pi * plan.figure("plate.current").value)


def test_a_bridge_of_two_lines_leaves_its_harmonics_to_its_maker():
    plan = planner("harrowmere-lock.json", "P-11")({**NEC, "start.converter_lines": "two"})
    assert plan.gate("drive.harmonic_current").kind is Kind.CONFIRM
    assert "drive.harmonic_volts" not in {gate.key for gate in plan.gates}


def test_a_speed_to_be_set_asks_no_drive_that_turns_a_field(machine):
    plan = machine(start__method=None, start__speed_control="yes")
    assert plan.comparison.chosen == "dc-drive"
    assert [gate for gate in plan.weighing if gate.verdict is not Verdict.PASSES] == []


def test_its_input_keeps_what_the_source_leaves_of_the_limit(machine):
    """All but reactive at rest: the phase volts less `I·(R cos φ + X sin φ)` of the source, at the limit's line amperes."""
    plan = machine(load__breakaway="150 %")
    r, x = (plan.figure(f"supply.source_{part}").value / 1000 for part in "rx")
    phase = plan.figure("plate.bridge_lines").value / math.sqrt(3)
    amps = math.sqrt(2 / 3) * 1.5 * plan.figure("plate.current").value
    assert plan.gate("start.terminals").value == pytest.approx(100 * (1 - amps * math.hypot(r, x) / phase), abs=0.05)


def test_it_is_run_for_an_armature_alone():
    """A plant without one has no such way among those that are run where none is named."""
    assert "dc-drive" in run_all(armature())
    assert "dc-drive" not in run_all(None)


@pytest.mark.parametrize(("said", "shown"), [(None, "assumed"), ("180 %", "stated")])
def test_a_limit_nobody_gave_is_shown_as_assumed(machine, said, shown):
    plan = machine(start__drive_limit=said)
    limit, line, amps = (plan.figure(f"start.bridge_{key}") for key in ("limit", "line", "rms"))
    assert limit.provenance.value == shown
    assert line.value == pytest.approx(limit.value * amps.value * plan.figure("plate.current").value)


@pytest.mark.parametrize(
    ("fed", "verdict"), [("running", "passes"), ("fault", "check"), ("motor", "fails"), ("contactor", "fails")]
)
def test_its_brake_is_let_go_by_its_drives_contact(machine, fed, verdict):
    """It has a drive: what tells that it runs follows the motor; its leads carry other volts, its line stays closed."""
    plan = machine(stop__method="brake", stop__brake_torque="300 N·m", stop__release_from=fed)
    assert plan.gate("stop.release").verdict.value == verdict


def test_reversing_it_asks_no_second_line_contactor():
    plan = whole("harrowmere-lock.json", "P-11")(NEC | {"start.reversing": "yes"})
    said = [note for note in plan.stage("start").notes if note.startswith("Reversing")]
    assert len(said) == 1
    assert "both directions" in said[0]
