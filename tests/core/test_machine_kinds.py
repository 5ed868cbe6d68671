"""Wound-rotor, single-phase and direct-current plates: what follows from them, and their simple stated models."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import planner
from tests.examples import examples
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Kind, Verdict
from vinegate.core.machine.circuit import breakdown, operate
from vinegate.core.machine.curves import curves, run_at
from vinegate.core.machine.simple import RatedPoint, direct_current, wound_rotor
from vinegate.core.plan import NOTHING, plan_raw
from vinegate.core.plate.kind import KINDS
from vinegate.core.tables import load

SINGLE = {
    "kind": "capacitor-start",
    "power": "5 hp",
    "volts": "115/230",
    "full_load_current": "56/28",
    "frequency": "60 Hz",
    "speed": "1740 rpm",
    "code_letter": "G",
}
WOUND = {
    "kind": "wound",
    "power": "75 hp",
    "volts": "460",
    "full_load_current": "95",
    "frequency": "60 Hz",
    "speed": "1165 rpm",
    "rotor_volts": "320 V",
    "rotor_current": "105 A",
}
SHUNT = {"kind": "dc-shunt", "power": "10 hp", "volts": "240", "full_load_current": "38", "speed": "1750 rpm"}


def planned(plate, machine=None, rules=RuleSetName.NEC, **stages):
    job = {"supply": {"volts": plate["volts"].split("/")[-1], "frequency": "60 Hz"}}
    return plan_raw(rules, job, {"plate": plate, "machine": machine or {}, **stages}, beside=NOTHING)


@pytest.mark.parametrize(("kind", "_"), KINDS)
def test_every_kind_plans_with_no_error(kind, _):
    for plate in (SINGLE, SHUNT, {}):
        plan = plan_raw(RuleSetName.NEC, {}, {"plate": plate | {"kind": kind}}, beside=NOTHING)
        assert plan.errors == ()


def test_single_phase_has_no_root_three():
    """Letter G at 5 hp and 230 V: 6.3·5000/230 = 137 A (NFPA 70 430.7(B); no √3)."""
    plan = planned(SINGLE)
    assert plan.figure("start.locked_rotor_high").value == pytest.approx(6.3 * 5000 / 230)
    implied = 5 * 745.699872 / (230 * 28)
    assert plan.figure("plate.eta_pf").value == pytest.approx(implied)
    assert plan.figure("plate.table_current").value == 28


def test_table_currents_by_kind():
    assert planned(WOUND).figure("plate.table_current").source.endswith("430.250")
    assert planned(SHUNT).figure("plate.table_current").value == 38
    assert planned(SHUNT).figure("plate.table_current").source.endswith("430.247")


@pytest.mark.parametrize(
    ("plate", "volts", "amps"),
    [(SINGLE, "230", 22.5), (SINGLE, "115", 45.0), (SHUNT, "240", 16.1)],  # 17 and 28, 34 and 56, 12.2 and 20 A
)
def test_four_horsepower_lie_between_the_rows_of_three_and_five(plate, volts, amps):
    """NFPA 70 tables 430.248 and 430.247."""
    found = planned(plate | {"power": "4 hp", "volts": volts}).figure("plate.table_current")
    assert found.value == pytest.approx(amps)
    assert "Between" in found.note


def test_wound_rotor_resistance_for_rated_torque_at_rest():
    """Rotor ohms go with slip at the same torque: R_ext = K·(1 − s), K = 320/(√3·105)."""
    plan = planned(WOUND)
    k, slip = 320 / (math.sqrt(3) * 105), (1200 - 1165) / 1200
    assert plan.figure("machine.rotor_external").value == pytest.approx(k * (1 - slip))
    assert any("slip rings" in note for note in plan.stage("start").notes)


def test_a_wound_rotors_breakdown_is_as_typed():
    """75 hp at 1165 rpm is 458 N·m (T = P/ω): the most along its curve is 2.8 times that."""
    plan = planned(WOUND, {"breakdown_torque": "280 %"})
    assert plan.figure("machine.breakdown_torque").value == pytest.approx(280)
    run = operate(plan.machine.circuit, np.linspace(0.01, 1, 400), volts_v=460)
    rated_nm = 75 * 745.7 / (1165 * math.pi / 30)
    assert float(run.gap_torque_nm.max()) == pytest.approx(2.8 * rated_nm, rel=0.03)


def test_wound_rotor_resistor_in_equal_ratios():
    """Five steps from 180 %: γ⁵ = K/(1.8·R_r), sections that add to the whole, and what the torque falls to."""
    plan = planned(WOUND, start={"rotor_steps": "5"}, load={"power": "65 hp"})
    k, slip = 320 / (math.sqrt(3) * 105), (1200 - 1165) / 1200
    ratio = (1 / (1.8 * slip)) ** 0.2
    sections = [plan.figure(f"machine.rotor_step_{n}").value for n in range(1, 6)]
    assert sum(sections) == pytest.approx(k / 1.8 - k * slip)
    assert all(ahead / after == pytest.approx(ratio) for ahead, after in itertools.pairwise(sections))
    assert plan.figure("machine.rotor_change").value == pytest.approx(1.8 / ratio)
    assert plan.gate("machine.rotor_steps").verdict is Verdict.PASSES
    assert planned(WOUND, start={"rotor_steps": "2"}).gate("machine.rotor_steps").verdict is Verdict.FAILS


@pytest.mark.parametrize(
    ("peak", "breakdown", "verdict"),
    [("190 %", None, "passes"), ("210 %", None, "check"), ("310 %", None, "fails"), ("240 %", "250 %", "passes"),
     ("260 %", "250 %", "fails")],
)  # fmt: skip
def test_a_first_torque_over_breakdown_hangs_on_what_that_is(peak, breakdown, verdict):
    """Between 200 and 300 % of rated where nobody gave it."""
    plan = planned(WOUND, start={"rotor_peak": peak}, machine={"breakdown_torque": breakdown})
    assert plan.gate("machine.rotor_peak").verdict == verdict


def test_the_least_steps_of_a_resistor_change_at_a_tenth_above_rated():
    """γ = 1.8/1.1 takes ln(1/(1.8·s))/ln γ steps, rounded up; from a lower first torque more of them."""
    slip = (1200 - 1165) / 1200
    for peak, asked in ((1.8, "180 %"), (1.5, "150 %"), (1.3, "130 %")):
        span = 1 / (peak * slip)
        least = min(max(math.ceil(math.log(span) / math.log(peak / 1.1) - 1e-9), 1), 7)
        assert planned(WOUND, start={"rotor_peak": asked}).figure("machine.rotor_steps").value == least


def test_wound_rotor_secondary_conductors():
    """NFPA 70 430.23: 125 % of 105 A continuous; medium intermittent resistor 75 %; 600 V copper THW of table 310.16."""
    wiring = {"size": "3 AWG", "grouped": "3", "ambient": "30 °C", "insulation": "75", "terminals": "75"}
    plan = planned(WOUND, start={"rotor_duty": "medium-intermittent"}, wiring=wiring)
    assert plan.figure("wiring.secondary").value == pytest.approx(131.25)
    assert plan.figure("wiring.resistor").value == pytest.approx(78.75)
    note = next(note for note in plan.stage("wiring").notes if note.startswith("Rotor circuit"))
    assert "1/0 AWG" in note
    assert "78.75 A, 4 AWG" in note


def test_a_wound_rotor_uses_the_circuit_that_is_typed():
    plan = planned(WOUND, {"r1": "0.12", "x1": "0.3", "xm": "9", "r2": "0.15", "x2": "0.35"})
    assert plan.machine.origin == "entered"
    assert plan.machine.circuit.cages[0].r_ohm == 0.15
    assert plan.figure("machine.rotor_external").value > 0


@pytest.mark.parametrize("path", ["code_letter", "locked_rotor_current"])
def test_one_locked_rotor_current_a_plan(path):
    """A typed circuit is believed by every stage, whatever letter is stamped; stamped amperes far off are told."""
    ohms = {"r1": "0.25", "x1": "0.5", "xm": "15", "r2": "0.2", "x2": "0.5"}
    stamped = {"code_letter": "D", "locked_rotor_current": "120 A"}[path]
    cage = {key: text for key, text in WOUND.items() if "rotor" not in key} | {"kind": "cage"}
    plan = planned(cage | {path: stamped}, ohms)
    own = abs(1 / (complex(0.25, 0.5) + 1 / (1 / 15j + 1 / complex(0.2, 0.5))))
    amps = plan.machine.volts_v / math.sqrt(3) * own
    assert plan.figure("start.locked_rotor_high").value == pytest.approx(amps, rel=1e-6)
    assert plan.figure("machine.start_current").value == pytest.approx(amps, rel=1e-6)
    if path == "locked_rotor_current":
        assert plan.gate("start.agrees").verdict is Verdict.FAILS
        near = planned(cage | {path: f"{0.9 * amps:.0f} A"}, ohms)
        assert near.gate("start.agrees").verdict is Verdict.PASSES


def test_direct_current_gets_no_three_phase_arithmetic():
    """The drop is 2·I·R of the armature's volts; a fault behind its bridge is its own fuses', by its maker."""
    wiring = {"size": "6 AWG", "metal": "copper", "length": "200 ft", "sets": "1", "raceway": "pvc"}
    plan = planned(SHUNT, wiring=wiring)
    ohms = next(figure.value for figure in plan.stage("wiring").figures if figure.symbol.startswith("R_")) / 1000
    assert plan.figure("wiring.drop").value == pytest.approx(100 * 2 * 38 * ohms / 240)
    assert plan.gate("protection.fast_fuses").kind is Kind.CONFIRM
    assert not [gate for gate in plan.gates if gate.key == "protection.clears"]


@pytest.mark.parametrize("ohms", [None, 0.0, 0.05, 0.2])
def test_wound_rotor_model_passes_through_its_plate(ohms):
    point = RatedPoint(power_w=55000, volts_v=400, current_a=102, speed_rpm=970, frequency_hz=50, power_factor=0.84)
    circuit = wound_rotor(point, poles=6, breakdown_pu=2.6, stator_ohm=ohms)
    assert circuit.r1_ohm == pytest.approx(circuit.cages[0].r_ohm if ohms is None else ohms, rel=1e-9)
    run = operate(circuit, 0.03, volts_v=400)
    assert float(run.torque_nm) == pytest.approx(point.torque_nm, rel=1e-9)
    assert float(run.line_current_a) == pytest.approx(102, rel=1e-9)
    assert breakdown(circuit, volts_v=400).torque_nm == pytest.approx(2.6 * point.torque_nm, rel=1e-9)


def test_a_guess_of_the_stators_ohms_always_leaves_a_breakdown_torque():
    """At much slip and much torque the rotor's ohms are too many for it: those that are measured so are refused."""
    point = RatedPoint(power_w=1500, volts_v=400, current_a=4.1, speed_rpm=1320, frequency_hz=50, power_factor=0.75)
    circuit = wound_rotor(point, poles=4, breakdown_pu=3.5)
    assert circuit.r1_ohm < circuit.cages[0].r_ohm
    assert breakdown(circuit, volts_v=400).torque_nm == pytest.approx(3.5 * point.torque_nm, rel=1e-9)
    assert wound_rotor(point, poles=4, breakdown_pu=3.5, stator_ohm=2 * circuit.r1_ohm) is None


def test_external_rotor_resistance_moves_the_same_torque():
    """Twice the rotor resistance gives at twice the slip the same torque: the machine's own check of R_ext."""
    point = RatedPoint(power_w=55000, volts_v=400, current_a=102, speed_rpm=970, frequency_hz=50, power_factor=0.84)
    circuit = wound_rotor(point, poles=6, breakdown_pu=2.6)
    from dataclasses import replace

    cage = circuit.cages[0]
    doubled = replace(circuit, cages=(replace(cage, r_ohm=2 * cage.r_ohm),))
    here, there = operate(circuit, 0.1, volts_v=400), operate(doubled, 0.2, volts_v=400)
    assert float(there.gap_torque_nm) == pytest.approx(float(here.gap_torque_nm))


@examples(40)
@given(kind=st.sampled_from(["dc-shunt", "dc-series", "dc-compound", "dc-permanent"]), ohms=st.floats(0.05, 1.0))
def test_direct_current_curves_pass_the_plate_and_fall(kind, ohms):
    point = RatedPoint(power_w=7457, volts_v=240, current_a=38, speed_rpm=1750, frequency_hz=1, power_factor=1)
    machine = direct_current(point, kind=kind, resistance_ohm=ohms)
    at = 1 - point.speed_rpm / machine.top_rpm
    run = run_at(machine, np.array([at]), volts_v=240)
    assert float(run.torque_nm[0]) == pytest.approx(point.torque_nm, rel=0.02)
    assert float(run.line_current_a[0]) == pytest.approx(38, rel=0.02)
    assert all(later <= earlier for earlier, later in zip(machine.current_a, machine.current_a[1:], strict=False))
    assert machine.current_a[0] == pytest.approx(240 / ohms)


@pytest.mark.parametrize(("efficiency", "loss_w"), [(None, 5 * 745.7 * (1 / 0.85 - 1)), ("75 %", 5 * 745.7 / 3)])
def test_a_single_phase_machine_meets_its_plate_and_loses_something_idle(efficiency, loss_w):
    """28 A at 230 V and 1740 rpm: all of it in, 5 hp out. With half of its load half of its loss stays, and an eighth."""
    plan = planner("harrowmere-lock.json", "C-71")({"plate.efficiency": efficiency, "load.power": "2.5 hp"})
    machine = plan.machine
    run = run_at(machine.circuit, np.array([1 - 1740 / 1800, 1e-6, 1.0]), volts_v=machine.volts_v)
    assert run.line_current_a[0] == pytest.approx(28, rel=0.01)
    assert 14 <= run.line_current_a[1] < 28
    assert run.line_current_a[2] == pytest.approx(plan.figure("start.locked_rotor_high").value)
    assert run.shaft_w[0] == pytest.approx(5 * 745.7, rel=0.01)
    lost = run.input_w - run.shaft_w
    assert lost[0] == pytest.approx(loss_w, rel=0.02)
    assert lost[1] == pytest.approx(loss_w / 2, rel=0.02)
    assert plan.gate("start.per_hour").value == pytest.approx(62.5 + 6 * 0.2, abs=1.5)


@pytest.mark.parametrize(
    "kind", ["split-phase", "capacitor-start", "capacitor-start-run", "permanent-split", "shaded-pole"]
)
def test_every_single_phase_kind_turns_at_its_rated_point(kind):
    """2 hp, 12 A and 1725 rpm: whether its starting winding is switched off or stays."""
    plate = {"plate.kind": kind, "plate.power": "2 hp", "plate.volts": "230", "plate.full_load_current": "12 A",
             "plate.speed": "1725 rpm", "plate.code_letter": "J", "load.power": "1.8 hp"}  # fmt: skip
    machine = planner("harrowmere-lock.json", "C-71")(plate).machine
    run = run_at(machine.circuit, np.array([1 - 1725 / 1800]), volts_v=machine.volts_v)
    assert (run.line_current_a[0], run.shaft_w[0]) == (pytest.approx(12, rel=0.01), pytest.approx(1491.4, rel=0.01))


def test_a_dc_machine_is_never_said_to_fit_an_ac_supply():
    plan = planned(SHUNT)
    assert "bridge" in plan.gate("plate.volts").sentence
    assert plan.gate("plate.form_factor").kind is Kind.CONFIRM
    assert plan.figure("machine.bare_inrush").value > 10 * 38 / 2
    assert plan.gate("start.dip").verdict is Verdict.UNKNOWN


def test_single_phase_table_keeps_its_ratios():
    """Article 430 derives the other columns of 430.248 from 230 V: twice at 115, 1.15 at 200, 1.10 at 208."""
    table = load("full_load_current_1ph")
    hps = ["1/6", "1/4", "1/3", "1/2", "3/4", "1", "1.5", "2", "3", "5", "7.5", "10"]
    again = [2.2, 2.9, 3.6, 4.9, 6.9, 8, 10, 12, 17, 28, 40, 50]
    for row, hp, amps in zip(table.rows, hps, again, strict=True):
        assert float(row["hp"]) == pytest.approx(eval(hp), rel=1e-5)
        assert float(row["230"]) == amps
        assert float(row["115"]) == pytest.approx(2 * amps, abs=0.05)
        assert float(row["200"]) == pytest.approx(1.15 * amps, abs=0.06)
        assert float(row["208"]) == pytest.approx(1.10 * amps, abs=0.06)


AT_240_V = """0.25 1.6|0.3333333 2|0.5 2.7|0.75 3.8|1 4.7|1.5 6.6|2 8.5|3 12.2|5 20|7.5 29|10 38|15 55|20 72|25 89|30 106
40 140|50 173|60 206|75 255|100 341|125 425|150 506|200 675"""


def test_direct_current_table_is_plausible_and_entered_twice():
    """Second entry of the 240 V column; each current leaves an efficiency that a machine can have."""
    again = dict(line.split() for line in AT_240_V.replace("\n", "|").split("|"))
    for row in load("full_load_current_dc").rows:
        assert float(row["240"]) == float(again[row["hp"]])
        for volts in ("90", "120", "180", "240", "500", "550"):
            if row[volts]:
                efficiency = float(row["hp"]) * 745.7 / (float(volts) * float(row[volts]))
                assert 0.45 < efficiency < 0.96, (row["hp"], volts)


FRAMES = {
    ("frame_nema", "4"): "143 145 145 182 184 213 215 254 256 284 286 324 326 364 365 405 444 445",
    ("frame_nema", "6"): "145 182 184 213 215 254 256 284 286 324 326 364 365 404 405 444 445",
    ("frame_nema_open", "2"): "143 145 145 182 184 213 215 254 256 284 286 324 326 364 365 404 405",
    ("frame_nema_open", "4"): "143 145 145 182 184 213 215 254 256 284 286 324 326 364 365 404 405 444",
    ("frame_iec", "4"): "71 80 80 90 90 100 100 112 132 132 160 160 180 180 200 225 225 250 280 280 315 315",
    ("frame_iec", "2"): "71 71 80 80 90 90 100 112 132 132 160 160 160 180 200 200 225 250 280 280 315 315",
}


@pytest.mark.parametrize(("name", "poles"), FRAMES)
def test_frames_entered_twice_and_never_shrink(name, poles):
    again = FRAMES[name, poles].split()
    column = [row[poles] for row in load(name).rows if row[poles]]
    assert column == again
    assert [int(frame) for frame in column] == sorted(int(frame) for frame in column)


def test_frame_against_pole_count(p11):
    assert p11().gate("plate.frame").verdict is Verdict.PASSES
    wrong = p11({"plate.frame": "365T"})
    assert wrong.gate("plate.frame").verdict is Verdict.CHECK
    assert "usual with 2 or 4 poles" in wrong.gate("plate.frame").sentence
    assert "plate.frame" not in {gate.key for gate in p11({"plate.frame": None}).gates}


@pytest.mark.parametrize(
    ("enclosure", "frame", "verdict"),
    [
        ("ODP", "215T", Verdict.PASSES),  # 15 hp at 3600: open 215T, closed 254T
        ("TEFC", "254T", Verdict.PASSES),
        ("TEFC", "215T", Verdict.CHECK),
        ("drip proof", "254T", Verdict.CHECK),
        (None, "215T", Verdict.PASSES),
        (None, "254T", Verdict.PASSES),
        (None, "184T", Verdict.CHECK),
    ],
)
def test_an_open_machine_stands_in_its_own_frame(p11, enclosure, frame, verdict):
    two_poles = {"plate.power": "15 hp", "plate.speed": "3520", "plate.full_load_current": "38/19"}
    found = p11(two_poles | {"plate.enclosure": enclosure, "plate.frame": frame}).gate("plate.frame")
    assert found.verdict is verdict


class TestTorquesOfOneMachine:
    """IEC 60034-1: breakdown is the largest torque on the way up, pull-up the smallest."""

    @pytest.mark.parametrize(
        ("torques", "design", "wrong"),
        [
            ({"breakdown_torque": "220 %", "locked_rotor_torque": "150 %", "pull_up_torque": "125 %"}, "B", ""),
            ({"breakdown_torque": "90 %"}, "B", "Breakdown torque 90 % is below rated torque 100 %."),
            ({"breakdown_torque": "150 %", "locked_rotor_torque": "180 %"}, "B", "below locked-rotor torque 180 %"),
            ({"breakdown_torque": "270 %", "locked_rotor_torque": "280 %"}, "D", ""),  # its torque only falls
            ({"breakdown_torque": "200 %", "pull_up_torque": "210 %"}, "B", "below pull-up torque 210 %"),
            ({"locked_rotor_torque": "100 %", "pull_up_torque": "101 %"}, "B", ""),  # rounding
            ({"locked_rotor_torque": "100 %", "pull_up_torque": "110 %"}, "B", "Locked-rotor torque 100 % is below"),
        ],
    )
    def test_order(self, p11, torques, design, wrong):
        typed = {"machine.locked_rotor_torque": None, "machine.pull_up_torque": None, "machine.breakdown_torque": None}
        plan = p11(
            {**typed, **{f"machine.{key}": text for key, text in torques.items()}, "plate.design_letter": design}
        )
        gate = plan.gate("machine.torques")
        assert gate.verdict is (Verdict.FAILS if wrong else Verdict.PASSES)
        assert wrong in gate.sentence

    def test_not_asked_where_none_is_stated(self):
        assert "machine.torques" not in {gate.key for gate in planned(SINGLE).gates}

    @pytest.mark.parametrize("plate", [WOUND, SINGLE])
    def test_a_breakdown_below_rated_is_drawn_all_the_same(self, plate):
        plan = planned(plate, {"breakdown_torque": "80 %"})
        assert plan.gate("machine.torques").verdict is Verdict.FAILS
        assert plan.machine is not None


def test_what_the_machine_sheet_says_of_torque_is_its_own_curve():
    """Per cent of rated torque, P/ω at the plate's speed: at rest, at most, and the least between, off the curve."""
    plan = planner("harrowmere-lock.json", "D-61")()
    rated, speed = plan.figure("plate.power").value * 745.699872, plan.figure("plate.speed").value
    torque = rated / (speed * math.pi / 30)
    drawn = curves(plan.machine.circuit, volts_v=plan.machine.volts_v, count=2001)
    top = int(np.argmax(drawn.torque_nm))
    assert plan.figure("machine.start_torque").value == pytest.approx(100 * drawn.torque_nm[0] / torque, rel=0.02)
    assert plan.figure("machine.top_torque").value == pytest.approx(100 * drawn.torque_nm[top] / torque, rel=0.02)
    assert plan.figure("machine.top_speed").value == pytest.approx(drawn.speed_rpm[top], rel=0.01)
    assert plan.figure("machine.pull_up").value == pytest.approx(
        100 * drawn.torque_nm[: top + 1].min() / torque, rel=0.03
    )


def test_only_an_angle_that_was_fitted_has_a_band():
    fitted = planner("harrowmere-lock.json", "P-12")({"plate.code_letter": "G"})
    typed = planned(WOUND, {"r1": "0.12", "x1": "0.3", "xm": "9", "r2": "0.15", "x2": "0.35"})
    assert typed.machine.origin == "entered"
    assert typed.machine.factor_band is None
    assert fitted.machine.origin == "fitted"
    low, high = fitted.machine.factor_band
    assert low < fitted.machine.locked_rotor_power_factor.value < high


def test_a_makers_curve_is_summed_up_by_its_ends_and_its_top():
    """75 hp at 1185 r/min are 451 N·m: 600 N·m at rest are 133 %, 1000 N·m at 1120 r/min 222 %."""
    curve = "speed_rpm,torque_nm,current_a\n0, 600, 560\n600, 520, 540\n1000, 700, 480\n1120, 1000, 330\n1185, 451, 92\n1200, 0, 30"
    plan = planner("harrowmere-lock.json", "P-11")(
        {"machine.curve": curve} | {f"machine.{key}_torque": None for key in ("locked_rotor", "pull_up", "breakdown")}
    )
    rated = 75 * 745.7 / (1185 * math.pi / 30)
    for key, value in (("start_torque", 100 * 600 / rated), ("start_current", 560), ("top_torque", 100 * 1000 / rated),
                       ("top_speed", 1120)):  # fmt: skip
        assert plan.figure(f"machine.{key}").value == pytest.approx(value, rel=0.005), key


@pytest.mark.parametrize("plate", [SINGLE, WOUND, SHUNT], ids=["single-phase", "wound", "direct current"])
@pytest.mark.parametrize(("times", "verdict"), [(1.0, Verdict.PASSES), (1.12, Verdict.PASSES), (1.3, Verdict.FAILS)])
def test_a_curve_of_any_kind_belongs_to_its_plate_or_fails(plate, times, verdict):
    """Its own model's curve as if its maker had sent it, with so many times its amperes: 15 % are borne."""
    own = planned(plate).machine
    run = curves(own.circuit, volts_v=own.volts_v, count=60)
    rows = zip(run.speed_rpm, np.maximum(run.torque_nm, 0), times * run.line_current_a, strict=True)
    text = "\n".join(["rpm,N·m,A", *(f"{speed:.2f},{torque:.3f},{amps:.3f}" for speed, torque, amps in rows)])
    assert planned(plate, {"curve": text}).gate("machine.plate").verdict is verdict
