"""A machine by its maker's curve or its ohms: read in the units of its heads, and held against its plate."""

import re

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict
from vinegate.core.machine.curves import curves
from vinegate.core.machine.maker_curve import read_curve, to_machine
from vinegate.core.machine.simple import RatedPoint
from vinegate.core.numbers import QuantityError

RATED = RatedPoint(power_w=56080, volts_v=460, current_a=92, speed_rpm=1185, frequency_hz=60, power_factor=0.81)
MAKER = "speed_rpm,torque_%,current_x,power_factor\n0,150,6.1,0.32\n300,140,6.0,0.33\n600,145,5.7,0.36\n" + (
    "900,190,5.0,0.48\n1100,230,3.6,0.70\n1150,190,2.4,0.80\n1185,100,1.0,0.81\n"
)


def test_a_makers_curve_replaces_the_fit(p11):
    plan = p11({"machine.curve": MAKER})
    assert plan.machine.origin == "maker's curve"
    assert plan.figure("machine.start_torque").value == pytest.approx(150)
    found = curves(plan.machine.circuit, volts_v=230, count=300)
    assert float(found.torque_nm[0]) == pytest.approx(1.5 * plan.machine.rated_torque_nm / 4)
    assert float(found.line_current_a[0]) == pytest.approx(6.1 * 92 / 2)


def test_an_angle_that_is_not_on_the_curve_has_a_band(p11):
    """Input at rest is what crosses the gap and the losses: those that the plate tells are a seventh more or less, and
    what of them is the winding's is assumed. Without its column the input here is 150 % of torque times synchronous
    speed, and of the 2.8 kW that slip leaves half, and half with the square of 6.1 times: 138.8 kW of 447 kVA.
    """
    plan = p11({"machine.curve": MAKER})
    assert plan.figure("machine.pf").note == ""
    bare = "\n".join(row.rpartition(",")[0] for row in MAKER.split())
    found = p11({"machine.curve": bare}).figure("machine.pf")
    assert found.value == pytest.approx(0.310, abs=0.002)
    low, high = (float(end) for end in re.findall(r"0\.\d+", found.note))
    assert low < found.value - 0.02 < found.value + 0.02 < high
    assert high - low < 0.15


@pytest.mark.parametrize(
    ("head", "rows"),
    [
        ("n [1/min],T [N·m],I [A]", [(0, 600, 560), (1185, 450, 92)]),
        ("speed %,torque pu,current pu", [(0, 600 / 451.9, 560 / 92), (1185 / 12, 450 / 451.9, 1)]),
        ("n/ns;M/MN;I/IN", [(0, 600 / 451.9, 560 / 92), (1185 / 1200, 450 / 451.9, 1)]),
        ("speed,torque_kNm,current_kA", [(0, 0.6, 0.56), (1185, 0.45, 0.092)]),
        ("rpm,torque (lb-ft),amps", [(0, 442.54, 560), (1185, 331.9, 92)]),
        ("% Speed,% Torque,% Current", [(0, 60000 / 451.9, 56000 / 92), (1185 / 12, 45000 / 451.9, 100)]),
        ("% sync speed,% FLT,% FLA", [(0, 60000 / 451.9, 56000 / 92), (1185 / 12, 45000 / 451.9, 100)]),
        ("Speed [% n_s],Torque [% of rated],I [%]", [(0, 60000 / 451.9, 56000 / 92), (1185 / 12, 45000 / 451.9, 100)]),
        ("RPM,% Torque,A", [(0, 60000 / 451.9, 560), (1185, 45000 / 451.9, 92)]),
        ("RPM;LB.-FT.;Amps", [(0, 442.54, 560), (1185, 331.9, 92)]),
        ("n/n_s,T/T_N,I/I_N", [(0, 600 / 451.9, 560 / 92), (1185 / 1200, 450 / 451.9, 1)]),
        ("slip,torque,current", [(1, 600, 560), (15 / 1200, 450, 92)]),
        ("Slip %;Nm;A", [(100, 600, 560), (1500 / 1200, 450, 92)]),
        ("rpm,Nm,A", [(1185, 450, 92), (0, 600, 560)]),
        ("Speed (rpm)   Torque (N·m)   Current (A)", [(0, 600, 560), (1185, 450, 92)]),
    ],
)
def test_a_curve_is_the_same_in_whatever_units_its_head_names(head, rows):
    mark, (first, last) = next((one for one in ";," if one in head), "  "), rows
    every = [[a + (b - a) * share for a, b in zip(first, last, strict=True)] for share in (0, 0.25, 0.5, 0.75, 1)]
    text = "\n".join([head, *(mark.join(f"{cell:.6f}" for cell in row) for row in every)])
    found = to_machine(read_curve(text), RATED, top_rpm=1200, slips=True, phase_factor=3**0.5)
    assert found.speed_rpm[4] == pytest.approx(1185, rel=1e-4)
    assert (found.torque_nm[0], found.current_a[0]) == (pytest.approx(600, rel=1e-4), pytest.approx(560, rel=1e-4))
    assert (found.torque_nm[4], found.current_a[4]) == (pytest.approx(450, rel=1e-4), pytest.approx(92, rel=1e-4))


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("0 1 2", "a table"),
        ("speed,torque\n0,1\n1,1", "current"),
        ("speed,torque,current\n0,1,1\n1,1,1", "too few"),
        ("speed,torque,current\n" + "0,1,1\n" * 6, "do not rise"),
        ("speed,torque,current\n0,1,1\n1,x,1\n2,1,1\n3,1,1\n4,1,1", "Row 3"),
        ("speed,torque,current\n0,1,1\n1,-1,1\n2,1,1\n3,1,1\n4,1,1", "below zero"),
        ("speed,torque (kgcm),current\n" + "\n".join(f"{n},1,1" for n in range(6)), "kgcm"),
        ("% speed,% torque,% LRA\n" + "\n".join(f"{n},1,1" for n in range(6)), "current"),
        ("rpm,torque (% BDT),A\n" + "\n".join(f"{n},1,1" for n in range(6)), "% BDT"),
        ("slip,torque,current\n" + "\n".join(f"{n},1,1" for n in range(6)), "standstill"),
        ("speed_hz,torque,current\n" + "\n".join(f"{n},1,1" for n in range(6)), "hz"),
    ],
)
def test_a_curve_that_cannot_be_read_says_where(text, said):
    with pytest.raises(QuantityError, match=said):
        read_curve(text)


@pytest.mark.parametrize(("head", "factors"), [("PF", (0.3, 0.5, 0.7, 0.8, 0.85)), ("cos φ [%]", (30, 50, 70, 80, 85))])
def test_a_curve_keeps_its_factor_and_ends_where_its_torque_does(head, factors):
    rows = [(0, 600, 560), (600, 550, 500), (900, 700, 420), (1100, 900, 300), (1185, 450, 92)]
    text = "\n".join([f"rpm;Nm;A;{head}", *(f"{a};{b};{c};{d}" for (a, b, c), d in zip(rows, factors, strict=True))])
    found = to_machine(read_curve(text), RATED, top_rpm=1200, slips=True, phase_factor=3**0.5)
    assert found.power_factor[:5] == pytest.approx((0.3, 0.5, 0.7, 0.8, 0.85))
    assert (found.speed_rpm[-1], found.torque_nm[-1]) == (1200, 0)
    whole = to_machine(read_curve(text), RATED, top_rpm=1185, slips=True, phase_factor=3**0.5)
    assert (len(whole.speed_rpm), whole.torque_nm[-1]) == (5, 450)


PERCENT = "\n0,150,620\n25,140,610\n50,140,600\n75,180,520\n90,220,400\n98,100,100"


@pytest.mark.parametrize(
    ("curve", "belongs"),
    [
        ("% speed,% torque,% current" + PERCENT, True),
        ("speed,torque,current" + PERCENT, False),  # 98 rpm and 220 N·m at most: their unit was not named
        ("% speed,% torque,% current" + PERCENT.replace("98,100,100", "98,100,130"), False),
        ("% speed,% torque,% current" + PERCENT.replace("98,100,100", "95,100,100"), False),
    ],
)
def test_a_curve_belongs_to_its_plate_or_fails(p11, curve, belongs):
    """75 hp at 1185 rpm of 1200 and 92 A, code G: 5.6 to 6.3 kVA for each hp, 527 to 593 A, and 20 % more."""
    plan = p11({"machine.curve": curve})
    verdicts = {plan.gate(key).verdict for key in ("machine.plate", "start.agrees")}
    assert (verdicts == {Verdict.PASSES}) is belongs
    assert (Verdict.FAILS in verdicts) is not belongs


def test_a_curve_that_ends_on_the_way_up_is_not_held_against_the_rated_point(p11):
    """To 90 % of synchronous speed: how it falls from there to no torque is nobody's word. Its torque and current at rest are."""
    part = "% speed,% torque,% current" + PERCENT.removesuffix("\n98,100,100")
    found = {gate.key: gate.verdict for gate in p11({"machine.curve": part}).gates}
    assert "machine.plate" not in found
    assert found["start.agrees"] is Verdict.PASSES
    weak = part.replace(",220,", ",90,").replace(",180,", ",80,").replace("140", "70").replace("150", "80")
    assert p11({"machine.curve": weak}).gate("machine.plate").verdict is Verdict.FAILS


@pytest.mark.parametrize(("times", "belongs"), [(1.0, True), (1.3, True), (0.4, False), (2.0, False)])
def test_ohms_belong_to_their_plate_or_fail(p11, times, belongs):
    """The rotor's ohms set its slip: a cold one's are a third less, twice as many are another machine's."""
    found = p11().machine.circuit
    whole = sum(1 / complex(cage.r_ohm / 0.0125, cage.x_ohm) for cage in found.cages)
    ohms = {"r1": found.r1_ohm, "x1": found.x1_ohm, "xm": found.xm_ohm, "rfe": found.rfe_ohm,
            "r2": times * 0.0125 * (1 / whole).real, "x2": (1 / whole).imag}  # fmt: skip
    plan = p11({f"machine.{name}": f"{value:.5f} Ω" for name, value in ohms.items() if value})
    assert plan.machine.origin == "entered"
    assert (plan.gate("machine.plate").verdict is Verdict.PASSES) is belongs


@pytest.mark.parametrize(
    ("ohms", "unlike"),
    [("0.075 Ω", False), ("75 mΩ", False), ("0.25 Ω", False), ("0.01 Ω", True), ("0.000075 Ω", True)],
)
def test_ohms_between_leads_go_with_power_and_amperes(p11, ohms, unlike):
    """92 A: 0.075 Ω lose 1.5·0.075·92² = 952 W, 1.7 % of 75 hp."""
    found = p11({"machine.dc_resistance": ohms})
    said = [gate.verdict for gate in found.gates if gate.key == "machine.resistance_size"]
    assert said == ([Verdict.CHECK] if unlike else [])


@pytest.mark.parametrize(
    ("inertia", "unlike"),
    [
        ("1.05 kg·m²", False),
        ("24.9 lb·ft²", False),
        ("24.9 kg·m²", True),  # pound-feet squared under another unit
        ("0.035 kg·m²", True),
        ("0.2 kg·m²", False),
        ("6 kg·m²", False),
    ],
)
def test_a_rotors_inertia_goes_with_its_power(p11, inertia, unlike):
    """75 hp of 6 poles: catalogues have 0.9 to 1.6 kg·m²."""
    found = [gate.verdict for gate in p11({"machine.inertia": inertia}).gates if gate.key == "machine.inertia_size"]
    assert found == ([Verdict.CHECK] if unlike else [])


def as_curve(machine, *, with_factor):
    """What its maker would print of this machine: sixty rows, two places."""
    found = curves(machine.circuit, volts_v=machine.volts_v, count=60)
    columns = (found.speed_rpm, found.torque_nm, found.line_current_a, found.power_factor)[: 4 if with_factor else 3]
    rows = ("; ".join(f"{float(cell):.2f}" for cell in row) for row in zip(*columns, strict=True) if row[1] > 0)
    return "\n".join(["rpm; Nm; A" + ("; cos" if with_factor else ""), *rows])


@pytest.mark.parametrize("with_factor", [True, False])
@pytest.mark.parametrize(("load", "near"), [("69 hp", 3), ("30 hp", 9)])  # of its loss half is taken to be constant
def test_a_machine_loses_by_its_curve_what_it_loses_by_its_circuit(p11, load, near, with_factor):
    """A curve has seldom a power factor, and two powers read off it leave no loss: it passed 20 starts with 0 %."""
    facts = {"start.method": "full-voltage", "load.power": load, "start.starts_per_hour": "6"}
    ours = p11(facts)
    theirs = p11(facts | {"machine.curve": as_curve(ours.machine, with_factor=with_factor)})
    assert theirs.machine.origin == "maker's curve"
    theirs, ours = (plan.gate("start.per_hour") for plan in (theirs, ours))
    assert theirs.verdict is ours.verdict
    assert theirs.value == pytest.approx(ours.value, abs=near)


@pytest.mark.parametrize(
    ("tag", "facts", "key", "near"),
    [
        ("X-51", {}, "stop.stop", 0.02),  # seconds of direct current
        ("R-31", {}, "stop.stop", 0.1),  # seconds of plugging
        ("M-41", {"start.method": "drive"}, "drive.boost", 0.02),  # amperes of a scalar drive's boost
    ],
)
def test_what_a_curve_does_not_say_is_worked_by_the_circuit_behind_it(tag, facts, key, near):
    """Braking was not known with a maker's curve, and what an idle machine draws near rest passed by its curve."""
    plan = planner("harrowmere-lock.json", tag)
    ours = plan(facts)
    theirs = plan(facts | {"machine.curve": as_curve(ours.machine, with_factor=False)})
    assert theirs.gate(key).verdict is ours.gate(key).verdict
    assert theirs.gate(key).value == pytest.approx(ours.gate(key).value, rel=near)


def test_a_reclosing_meets_the_field_of_a_machine_known_by_its_curve(p11):
    open_wye = {"start.method": "wye-delta"}
    ours = p11(open_wye)
    theirs = p11(open_wye | {"machine.curve": as_curve(ours.machine, with_factor=False)})
    spike, bare = theirs.figure("start.used.spike").value, theirs.figure("start.used.spike_low").value
    assert spike == pytest.approx(ours.figure("start.used.spike").value, rel=0.05)
    assert spike > 1.3 * bare


def test_a_curve_without_power_and_speed_has_no_circuit(p11):
    assert p11({"machine.curve": MAKER}).machine.inside is not None
    slipless = p11({"machine.curve": MAKER, "plate.speed": "1200 rpm"})
    assert slipless.machine is None or slipless.machine.inside is None


def test_a_circuit_entered_beside_a_curve_is_taken_behind_it(p11):
    ohms = {"r1": 0.05, "x1": 0.2, "xm": 7.0, "r2": 0.04, "x2": 0.25}
    both = p11({"machine.curve": MAKER} | {f"machine.{name}": f"{value} Ω" for name, value in ohms.items()})
    assert both.machine.origin == "maker's curve"
    assert both.machine.inside.xm_ohm == both.figure("machine.xm").value == 7.0
