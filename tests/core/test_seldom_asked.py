"""Lines that few circuits come to: each by its own example, worked by hand."""

import pytest

from tests.conftest import planner
from tests.core.starters import SHIPPED
from vinegate.core.grade import Verdict
from vinegate.core.load.facts import Load
from vinegate.core.numbers import QuantityError
from vinegate.core.plate.facts import Plate
from vinegate.core.starter.netlist import netlist_of

SOUND, LOCK = "skerry-sound.json", "harrowmere-lock.json"


@pytest.mark.parametrize(
    ("old", "new", "found", "again"),
    [
        (None, "6", Verdict.CHECK, True),  # more leads than one knew of: by its own diagram
        (None, "3", Verdict.PASSES, False),  # three are joined inside, whatever the old had
        ("12", "3", Verdict.CHECK, True),
        ("12", "12", Verdict.PASSES, False),
    ],
)
def test_other_leads_are_connected_by_their_own_diagram(old, new, found, again):
    gate = planner(LOCK, "P-12")({"plate.leads": old, "new_plate.leads": new}).gate("replacement.leads")
    assert gate.verdict is found
    assert ("its own diagram" in gate.remedy + gate.sentence) is again


def test_what_a_new_motor_is_asked_in_kilowatts():
    """69 hp at the pump are 51.5 kW; the faster motor is asked as the cube of speed."""
    plan = planner(LOCK, "P-12")()
    old, new = (plan.figure(f"replacement.{which}_load").value for which in ("old", "new"))
    assert old == pytest.approx(69 * 0.7457, rel=0.01)
    speeds = [plan.figure(f"replacement.{which}_speed").value for which in ("old", "new")]
    assert new / old == pytest.approx((speeds[1] / speeds[0]) ** 3, rel=0.002)


def test_a_brake_that_closes_at_rest_takes_no_heat():
    """Behind a ramp of 50 s, closed after 50 s; closed after 25 s it takes a quarter of what turns, and more."""
    fan = planner(SOUND, "F-3")
    ramp = {"stop.method": "drive-brake", "stop.drive_ramp": "50 s", "stop.brake_torque": "100 N·m"}
    assert fan(ramp | {"stop.brake_at": "50 s"}).figure("stop.brake_heat").value == 0
    half = fan(ramp | {"stop.brake_at": "25 s"})
    turning = half.figure("stop.energy").value
    assert 0.15 * turning < half.figure("stop.brake_heat").value <= 0.25 * turning


@pytest.mark.parametrize(("text", "share"), [("98 %", 0.98), ("3 %", 0.03)])
def test_static_head_up_to_nearly_all_of_it(text, share):
    assert Load.fields()["static"].read(text) == pytest.approx(share)


@pytest.mark.parametrize("text", ["99 %", "100 %"])
def test_all_of_it_is_no_share_of_static_head(text):
    with pytest.raises(QuantityError):
        Load.fields()["static"].read(text)


@pytest.mark.parametrize(("text", "celsius"), [("40 to 40 °C", 40.0), ("-20 to 40 °C", 40.0)])
def test_an_ambient_of_two_ends_is_its_upper(text, celsius):
    assert Plate.fields()["ambient"].read(text) == pytest.approx(celsius)


def test_an_ambient_whose_ends_are_exchanged_is_asked_back():
    with pytest.raises(QuantityError):
        Plate.fields()["ambient"].read("41 to 40 °C")


@pytest.mark.parametrize(("earthing", "clause"), [("tn", "411.4:"), ("it", "411.6:")])
def test_disconnection_by_the_clause_of_its_earthing(earthing, clause):
    assert clause in planner(SOUND, "H-1")({"supply.earthing": earthing}).gate("protection.loop").source


@pytest.mark.parametrize(("plate", "size"), [("127", "size 1"), ("220", "size 0")])
def test_a_single_phase_starter_by_its_own_volts(plate, size):
    """NEMA ICS 2: size 0 carries 1 hp at 115 V and 2 hp at 230 V, size 1 2 hp at 115 V."""
    facts = {"board_2.volts": "220Y/127", "plate.volts": plate, "plate.power": "1.5 hp",
             "plate.full_load_current": "18"}  # fmt: skip
    assert planner(LOCK, "C-71")(facts).protected.device("starter").advised == size


@pytest.mark.parametrize(("rated", "told"), [("100 A", False), ("170 A", True)])
def test_a_drive_of_several_motors_is_measured_by_all_of_them(rated, told):
    """P-4's three draw 31.5 A: a third of 100 A, less than a fifth of 170 A."""
    keys = {gate.key for gate in planner(SOUND, "P-4")({"drive.rated": rated}).gates}
    assert ("drive.too_large" in keys) is told


def test_a_motor_s_board_is_the_main_one_unless_it_is_said():
    assert planner(LOCK, "P-11")({"wiring.board": None}).protected.board == "main"
    assert planner(LOCK, "M-41")().protected.board == "board_1"


def test_a_lead_is_as_long_as_it_is_said_else_as_the_run():
    """F-3's lead is 85 m, its run 60 m."""
    fan = planner(SOUND, "F-3")
    own, run = fan(), fan({"drive.lead": None})
    assert (own.figure("drive.lead_m").value, own.figure("drive.lead_m").source) == (85, "entered")
    assert (run.figure("drive.lead_m").value, run.figure("drive.lead_m").source) == (60, "the run's length")


@pytest.mark.parametrize(
    ("wanted", "seen", "found", "asks"),
    [
        ("clockwise", "clockwise", Verdict.PASSES, ()),
        ("clockwise", "counter", Verdict.FAILS, ()),
        (None, "clockwise", Verdict.UNKNOWN, ("which way is wanted",)),  # it was bumped
        ("clockwise", None, Verdict.FAILS, ()),  # it ran, and was not
    ],
)
def test_a_bump_that_is_recorded_is_one(wanted, seen, found, asks):
    ran = {"record_start.plateau": "183 A", "record_start.time": "2.7 s"}
    plan = planner(SOUND, "H-1")(ran | {"record_rotation.wanted": wanted, "record_rotation.seen": seen})
    gate = plan.gate("record.rotation")
    assert (gate.verdict, gate.needs) == (found, asks)


def test_one_circuit_alone_is_not_derated_for_others():
    """IEC 60364-5-52 table B.52.17: one circuit has all of its amperes; two sets of its own lie side by side."""
    hoist = planner(SOUND, "H-1")
    alone = hoist({"wiring.grouped": None, "wiring.sets": None})
    assert alone.figure("wiring.grouping").value == 1.0
    assert hoist({"wiring.grouped": None, "wiring.sets": "2"}).figure("wiring.grouping").value == 0.8


def test_a_relay_ahead_of_capacitors_sees_less_reactive_current():
    """92 A at 0.8: 73.6 A active; 55.2 A reactive, less 15 kvar at 460 V (18.8 A), leave 36.4."""
    facts = {"protection.motor_capacitor": "15 kvar", "protection.overload_place": "capacitor"}
    plan = planner(LOCK, "P-11")(facts | {"plate.power_factor": "80 %"})
    assert plan.figure("overload.seen").value == pytest.approx((73.6**2 + 36.4**2) ** 0.5, abs=0.05)


@pytest.mark.parametrize(
    ("dial", "found"), [("92 A", Verdict.FAILS), ("80 A", Verdict.CHECK), ("72 A", Verdict.PASSES)]
)
def test_an_overload_is_held_against_what_height_leaves(dial, found):
    """At 2500 m 88 % of 92 A are left: 81 A, by an estimate good to a twentieth."""
    plan = planner(LOCK, "P-11")({"area_1.altitude": "2500 m", "protection.overload": dial})
    assert plan.gate("place.overload").verdict is found


@pytest.mark.parametrize(
    ("lining", "times", "found"),
    [(None, 1.913, Verdict.PASSES), ("60 %", 1.148, Verdict.PASSES), ("50 %", 0.957, Verdict.FAILS)],
)
def test_a_brake_holds_with_its_lining_at_its_worst(lining, times, found):
    """81.35 N·m against 42.5 of load are 1.913 times, 1.5 usual; what is stated of a lining has to hold the load."""
    brake = {"stop.method": "brake", "stop.brake_torque": "60 lb-ft", "stop.lining": lining}
    gate = planner(LOCK, "G-21")(brake).gate("stop.hold")
    assert gate.verdict is found
    assert gate.value == pytest.approx(times, rel=0.003)


def test_direct_current_s_supply_names_the_ohms_that_it_drives():
    """0.9 × 48 V drive 178 A through 0.243 Ω, which is 0.202 Ω cold, warmed by a fifth."""
    gate = planner(LOCK, "X-51")({"stop.dc_supply": "48 V"}).gate("stop.direct")
    assert f"with the winding's ohms between two leads under {0.9 * 48 / 178 / 1.2:.3f} Ω" in gate.sentence


@pytest.mark.parametrize(("raceway", "kft"), [("steel", 0.054), ("pvc", 0.052)])
def test_a_run_in_steel_has_more_ohms(raceway, kft):
    """NFPA 70 chapter 9 table 9, 250 kcmil of copper; 62 m."""
    plan = planner(LOCK, "P-11")({"wiring.size": "250 kcmil", "wiring.raceway": raceway})
    assert plan.figure("wiring.r").value == pytest.approx(kft * 62 / 0.3048)


def test_what_flows_between_two_lines_of_one_winding():
    """50 kVA at 240 V and 4 %: 5.2 kA; c_max over K_T makes it 5.6, the network's own impedance 5.5."""
    one_phase = {"supply.volts": "120/240", "supply.transformer_power": "50 kVA", "plate.kind": "capacitor-start",
                 "plate.volts": "230", "plate.power": "1.5 kW", "plate.full_load_current": "10 A"}  # fmt: skip
    found = planner(SOUND, "D-6")(one_phase).figure("supply.fault_largest").value
    assert found == pytest.approx(1.1 * 50 / 0.24 / 0.04 / 1.0212 / 1000, rel=0.02)


@pytest.mark.parametrize(
    ("said", "assumed"),
    [({"plate.efficiency": "75 %"}, False), ({"plate.efficiency": None, "plate.power_factor": None}, True)],
)
def test_an_efficiency_is_assumed_only_where_neither_it_nor_the_factor_is_given(said, assumed):
    plan = planner(LOCK, "C-71")(said)
    assert (plan.figure("machine.assumed_efficiency") is not None) is assumed


def test_a_size_of_run_for_one_phase_counts_both_of_its_wires():
    """80 m of 10 AWG leave 74.3 %: what is advised keeps, once it is laid, what it was said to keep."""
    pump = planner(LOCK, "C-71")
    thin = pump({"wiring.length": "80 m", "wiring.size": "10 AWG"}).gate("start.terminals")
    size, kept = thin.remedy.split(",")[0], float(thin.remedy.split("keeps ")[1].split(" %")[0])
    assert pump({"wiring.length": "80 m", "wiring.size": size}).gate("start.terminals").value == pytest.approx(
        kept, abs=0.1
    )


def test_a_pole_at_rest_has_marks_of_its_own():
    """Beside the poles 1-2 of a main contactor the one that closes at rest is R1-R2."""
    netlist = netlist_of(SHIPPED["dc-drive on its resistor"])
    marks = [netlist.marks[place] for place, one in enumerate(netlist.elements) if one.what == "rest pole"]
    assert marks == [("R1", "R2")]


@pytest.mark.parametrize(
    ("volts", "found"),
    [("115/230", Verdict.PASSES), ("230/115", Verdict.PASSES), ("230", Verdict.CHECK), ("460", Verdict.FAILS)],
)
def test_the_same_volts_in_another_order_are_the_same(volts, found):
    assert planner(LOCK, "C-71")({"new_plate.volts": volts}).gate("replacement.volts").verdict is found
