"""Lines that few circuits come to: each by its own example, worked by hand."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict
from vinegate.core.load.facts import Load
from vinegate.core.numbers import QuantityError
from vinegate.core.plate.facts import Plate

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
