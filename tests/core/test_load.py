"""What the load asks of the shaft: power from what it does, gears, shapes, points."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import planner
from tests.examples import examples
from vinegate.core.grade import Verdict
from vinegate.core.load.facts import LOAD_KINDS
from vinegate.core.load.points import read_points
from vinegate.core.numbers import QuantityError
from vinegate.core.tables import load

P11 = planner("harrowmere-lock.json", "P-11")
NOTHING = dict.fromkeys(("load.power", "load.breakaway", "load.inertia", "load.kind"))


def asked(changes):
    return P11(NOTHING | changes)


def test_power_from_flow_and_head():
    """250 L/s against 15 m at 80 %: 1000·9.80665·0.25·15/0.8 = 45.97 kW."""
    plan = asked(
        {"load.kind": "pump-open", "load.flow": "250 L/s", "load.head": "15 m", "load.machine_efficiency": "80 %"}
    )
    assert plan.figure("load.power").value == pytest.approx(45.969, rel=1e-4)


def test_power_from_flow_and_pressure():
    plan = asked(
        {"load.kind": "fan-open", "load.flow": "20 m³/s", "load.pressure": "1200 Pa", "load.machine_efficiency": "60 %"}
    )
    assert plan.figure("load.power").value == pytest.approx(20 * 1200 / 0.6 / 1000)


def test_power_from_force_and_speed_through_a_gear():
    changes = {
        "load.kind": "hoist",
        "load.force": "42 kN",
        "load.line_speed": "0.3 m/s",
        "load.machine_efficiency": "80 %",
    }
    plan = asked(changes | {"load.gear_efficiency": "95 %"})
    assert plan.figure("load.power").value == pytest.approx(42 * 0.3 / 0.8 / 0.95)


def test_torque_at_the_loads_shaft_is_divided_by_the_gear():
    geared = {"load.kind": "constant", "load.torque": "3000 N·m", "load.gear_ratio": "10"}
    plan = asked(geared | {"load.gear_efficiency": "96 %"})
    assert plan.figure("load.torque").value == pytest.approx(300 / 0.96)


@pytest.mark.parametrize(
    ("changes", "verdict"),
    [
        ({"load.power": "68 hp", "load.gear_ratio": "10"}, Verdict.CHECK),  # 72 hp at the usual 94 %, 80 hp at 85 %
        ({"load.power": "68 hp", "load.gear_ratio": "10", "load.gear_efficiency": "94 %"}, Verdict.PASSES),
        ({"load.power": "62 hp", "load.gear_ratio": "10"}, Verdict.PASSES),
        ({"load.power": "76 hp", "load.gear_ratio": "10"}, Verdict.FAILS),  # of 75 hp, before any loss
        ({"load.power": "68 hp", "load.gear_ratio": "1"}, Verdict.PASSES),
        ({"load.power": "68 hp"}, Verdict.PASSES),
    ],
)
def test_a_gear_of_which_nothing_is_said_loses_what_is_usual(changes, verdict):
    plan = asked({"load.kind": "constant", "plate.service_factor": None} | changes)
    gate = plan.gate("load.power")
    assert gate.verdict is verdict
    if verdict is Verdict.CHECK:
        assert gate.turns.path == "load.gear_efficiency"
        assert plan.figure("load.power").value == pytest.approx(68 * 0.745700 / 0.94, rel=1e-4)


@pytest.mark.parametrize(
    ("power", "verdict"), [("7.6 hp", Verdict.PASSES), ("7.4 hp", Verdict.CHECK), ("69 W", Verdict.CHECK)]
)
def test_a_load_of_less_than_a_tenth_of_its_motor_was_mostly_read_wrongly(power, verdict):
    gate = asked({"load.kind": "quadratic", "load.power": power}).gate("load.power")
    assert gate.verdict is verdict
    assert verdict is Verdict.PASSES or gate.turns.passes == "from 7.54 hp"


@pytest.mark.parametrize(
    "text",
    ["9 kg·m²", "J = 9 kg·m²", "36 kg·m² GD²", "GD² 36 kg·m²", "GD2=36", "36 kgf·m²", "213.57 lb·ft²", "WK² 213.57 lb-ft²",
     "WR2: 213.57"],
)  # fmt: skip
def test_inertia_in_any_of_its_units_and_by_the_square_of_the_gear(text):
    plan = asked({"load.kind": "constant", "load.power": "40 hp", "load.inertia": text, "load.gear_ratio": "3"})
    assert plan.figure("load.inertia").value == pytest.approx(1.0, rel=1e-4)


def test_nothing_said_is_the_motors_power_and_is_called_an_assumption():
    plan = asked({"load.kind": "quadratic"})
    assert plan.figure("load.power").provenance == "assumed"
    assert plan.figure("load.inertia").soft
    assert plan.gate("load.power").verdict is Verdict.CHECK
    assert plan.gate("load.power").turns.path == "load.power"
    assert "load.inertia" in {missing.path for missing in plan.missing}


def test_no_kind_no_simulation():
    plan = asked({})
    assert plan.comparison is None
    assert plan.gate("load.power").verdict is Verdict.UNKNOWN


def test_too_much_load_is_shut(p11):
    assert p11({"load.power": "88 hp"}).gate("load.power").verdict is Verdict.FAILS


@pytest.mark.parametrize(("kind", "_"), LOAD_KINDS)
def test_every_kind_meets_its_table(kind, _):
    extra = {"load.points": "0,30\n50,40\n100,100"} if kind == "points" else {}
    found = asked({"load.kind": kind, "load.power": "50 hp", "load.inertia": "3"} | extra).load
    row = load("load_shape").find(kind=kind)
    full, rest = (float(row["full"]), float(row["breakaway"])) if row else (1.0, 0.3)
    torque = found.torque_at(np.array([0.0, found.full_speed_rpm]))
    assert torque[1] == pytest.approx(full * found.torque_nm)
    steady = 2.0 if kind == "constant-power" else full if row and row["shape"] == "0" else 0  # constant from half speed
    assert torque[0] == pytest.approx(max(rest, steady) * found.torque_nm)


@examples(50)
@given(share=st.floats(0.11, 1.0))
@pytest.mark.slow
def test_past_a_tenth_of_speed_only_the_shape_is_left(share):
    found = asked({"load.kind": "quadratic", "load.power": "50 hp", "load.breakaway": "90 %", "load.inertia": "3"}).load
    assert float(found.torque_at(np.array([share * found.full_speed_rpm]))[0]) == pytest.approx(
        share**2 * found.torque_nm
    )


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("10", "two"),
        ("0,1\n0,2", "do not rise"),
        ("0,1\n50,-2", "below zero"),
        ("0,1", "Two points"),
        ("0,1\nx,2", "Row 2"),
        ("0, nan\n100, 100", "Row 1"),
        ("0, 1\n100, 1e999", "Row 2"),
        ("speed_hz,torque_%\n0,30\n60,100", "hz"),
        ("speed,torque (bar)\n0,30\n100,451", "bar"),
        ("0,30\n1185,100", "1185 % of full speed"),
        ("0,0.3\n1,1", "1 % of full speed"),
        ("0,30\n49.9,100", "49.9 % of full speed"),
        ("0,30\n251,100", "251 % of full speed"),
        ("0,0.3\n100,1", "At most 1 % of the torque"),
    ],
)
def test_points_that_cannot_be_read_say_where(text, said):
    with pytest.raises(QuantityError, match=said):
        read_points(text)


BY_POINTS = {"load.kind": "points"}


@pytest.mark.parametrize("text", ["0 30\n50 100", "0 30\n250 100", "250 100\n0 30", "0,5; 100,5"])
def test_points_up_to_the_edges_are_read_from_either_end(text):
    found = read_points(text)
    assert found.speeds[0] == 0
    assert found.top_pu(1480) in (0.5, 1.0, 2.5)
    assert found.full_nm(1480) is None


def said_of(plan, key):
    return [gate.verdict for gate in plan.gates if gate.key == key]


@pytest.mark.parametrize(
    ("points", "gear", "watts"),
    [
        ("rpm, N·m\n0, 100\n600, 200\n1185, 400", {}, 400 * 1185 * math.pi / 30),
        ("rpm, lb-ft\n0, 73.756\n600, 147.512\n1185, 295.025", {}, 400 * 1185 * math.pi / 30),
        ("n [1/min]; T [Nm]\n1185; 400\n600; 200\n0; 100", {}, 400 * 1185 * math.pi / 30),
        ("%, N·m\n0, 100\n50.6329, 200\n100, 400", {}, 400 * 1185 * math.pi / 30),
        ("rpm, N·m\n0, 1000\n60, 2000\n118.5, 4000", {"load.gear_ratio": "10", "load.gear_efficiency": "80 %"},
         400 * 1185 * math.pi / 30 / 0.8),
    ],
)  # fmt: skip
def test_points_in_their_own_units_say_power_and_shape(points, gear, watts):
    plan = asked(BY_POINTS | {"load.points": points} | gear)
    assert plan.figure("load.power").value == pytest.approx(watts / 1000, rel=1e-4)
    assert plan.figure("load.breakaway").value == pytest.approx(25, rel=1e-4)
    whole, half = (float(plan.load.torque_at(np.array([rpm]))[0]) for rpm in (1185, 600))
    assert whole / half == pytest.approx(2, rel=1e-3)
    assert not plan.figure("load.power").soft


def test_points_far_from_the_shafts_speed_fail_and_are_not_planned_with():
    plan = asked(BY_POINTS | {"load.points": "rpm, N·m\n0, 1000\n118.5, 4000"})
    assert plan.gate("load.points").verdict is Verdict.FAILS
    assert plan.load is None
    assert plan.figure("load.power").soft
    geared = asked(BY_POINTS | {"load.points": "rpm, N·m\n0, 1000\n11.85, 4000", "load.gear_ratio": "10"})
    assert geared.gate("load.power").verdict is Verdict.CHECK  # the plate's own, assumed: never as if it were given
    assert "not given" in geared.gate("load.power").sentence
    assert not said_of(asked(BY_POINTS | {"load.points": "0 30\n100 100"}), "load.points")


@pytest.mark.parametrize(
    ("changes", "verdict"),
    [
        ({"load.power": "66 hp"}, None),  # 49.6 kW by its points, 49.2 kW given
        ({"load.power": "50 hp"}, Verdict.CHECK),
        ({"load.power": "66 hp", "load.gear_ratio": "2", "load.points": "rpm, N·m\n0, 200\n592.5, 800"}, None),
        ({"load.power": "66 hp", "load.gear_ratio": "2", "load.points": "rpm, N·m\n0, 100\n592.5, 400"}, Verdict.CHECK),
        ({"load.torque": "380 N·m"}, None),
        ({"load.torque": "250 N·m"}, Verdict.CHECK),
        ({"load.torque": "400 N·m", "load.flow": "250 L/s", "load.head": "150 m"}, Verdict.CHECK),
    ],
)
def test_what_is_said_beside_the_points_agrees_with_them(changes, verdict):
    plan = asked(BY_POINTS | {"load.points": "rpm, N·m\n0, 100\n1185, 400"} | changes)
    assert said_of(plan, "load.twice") == ([verdict] if verdict else [])


def test_torque_and_power_agree(p11):
    plan = p11()
    power, torque = plan.figure("load.power").value, plan.figure("load.torque").value
    assert torque * 1185 * math.pi / 30 / 1000 == pytest.approx(power)


class TestDuty:
    """A plate's duty against how the load runs (IEC 60034-1 4.2, NEMA MG 1 10.36)."""

    @pytest.mark.parametrize(
        ("duty", "runs", "verdict"),
        [
            ("CONT", {"runs": "continuous"}, "none"),
            ("S1", {"runs": "continuous"}, "none"),
            ("30 MIN", {"runs": "continuous"}, "fails"),
            ("S2 30 min", {"runs": "continuous"}, "fails"),
            ("S2 30 min", {"runs": "short", "stretch": "30 min", "an_hour": "1"}, "passes"),
            ("S2 30 min", {"runs": "short", "stretch": "31 min", "an_hour": "1"}, "fails"),
            ("S2 30 min", {"runs": "short", "stretch": "30 min", "an_hour": "3"}, "fails"),  # never cold, nor at rest
            ("S2 30 min", {"runs": "short", "stretch": "1 min", "an_hour": "3"}, "passes"),
            ("S2 30 min", {"runs": "short", "stretch": "5 min", "an_hour": "3"}, "check"),
            ("S2 30 min", {}, "not known"),
            ("S2 30 min", {"stretch": "30 min"}, "not known"),  # whether it is cold again in between
            ("S2 30 min", {"stretch": "31 min"}, "fails"),
            ("S2 30 min", {"runs": "intermittent", "stretch": "1 min", "an_hour": None}, "not known"),
            ("30 min", {"runs": "intermittent", "stretch": "1 min", "an_hour": "4"}, "passes"),
            ("30 min", {"runs": "intermittent", "stretch": "12 min", "an_hour": "4"}, "fails"),
            ("S3 40 %", {"runs": "continuous"}, "fails"),
            ("S3 40 %", {"runs": "intermittent", "stretch": "4 min", "an_hour": "6"}, "passes"),  # its own cycle
            ("S3 40 %", {"runs": "intermittent", "stretch": "4.3 min", "an_hour": "6"}, "fails"),
            ("S3 40 %", {"runs": "intermittent", "stretch": "2 min", "an_hour": "12"}, "passes"),
            ("S3 40 %", {"runs": "intermittent", "stretch": "48 min", "an_hour": "0.5"}, "fails"),  # nearly for ever
            ("S3 40 %", {"runs": "intermittent", "stretch": "4 min", "an_hour": None}, "not known"),
            ("S3 40 %", {"runs": "short", "an_hour": "1"}, "not known"),
            ("S3 40 %", {"runs": "short", "stretch": "10 min", "an_hour": "1"}, "passes"),
            ("S3 40 %", {"runs": "short", "stretch": "2 h", "an_hour": "1"}, "fails"),
            ("40 % ED", {"runs": "continuous"}, "fails"),
            ("S6 40 %", {"runs": "continuous"}, "fails"),
            ("S10", {"runs": "continuous"}, "fails"),
            ("1 HR", {"runs": "short", "stretch": "1 h", "an_hour": "1"}, "passes"),
            ("1/2 HR", {"runs": "short", "stretch": "1 h", "an_hour": "1"}, "fails"),
            ("as ordered", {"runs": "continuous"}, "not known"),
        ],
    )
    def test_short_time_machines_are_not_for_ever(self, p11, duty, runs, verdict):
        named = {"an_hour": "start.starts_per_hour"}
        plan = p11({"plate.duty": duty} | {named.get(name, f"load.{name}"): text for name, text in runs.items()})
        gates = {gate.key: gate for gate in plan.gates}
        if verdict == "none":
            assert "load.duty" not in gates
        else:
            assert gates["load.duty"].verdict == verdict


@pytest.mark.parametrize(
    ("cooled", "verdict"), [("IC411", "check"), ("IC416", "passes"), ("IC 4A1A6", "passes"), (None, "check")]
)
def test_what_cools_at_rest_as_when_it_runs_bears_the_more(p11, cooled, verdict):
    """4.5 min of 15 at 30 min of rating: 0.2 to 1 of the cooling while it stands; a blower keeps all of it."""
    facts = {
        "plate.duty": "30 MIN",
        "load.runs": "intermittent",
        "load.stretch": "4.5 min",
        "start.starts_per_hour": "4",
    }
    assert p11(facts | {"plate.cooling": cooled, "plate.enclosure": None}).gate("load.duty").verdict == verdict


@pytest.mark.parametrize(
    ("load", "factor", "method", "verdict"),
    [
        ("75 hp", "1.15", None, "passes"),
        ("82 hp", "1.15", None, "check"),
        ("87 hp", "1.15", None, "fails"),
        ("82 hp", "1.0", None, "fails"),
        ("82 hp", "1.15", "drive", "fails"),  # no service factor on a drive
    ],
)
def test_the_service_factor_counts_where_its_rule_allows_it(p11, load, factor, method, verdict):
    found = p11({"load.power": load, "plate.service_factor": factor, "start.method": method})
    assert found.gate("load.power").verdict == verdict


def test_what_hangs_on_the_rope_moves_too():
    """42 kN is 4283 kg; at 0.3 m/s and 970 r/min: m·(v/ω)² = 0.0374 kg·m² at the motor's shaft."""
    plan = planner("skerry-sound.json", "W-2")()
    hung = 42000 / 9.80665 * (0.3 / (970 * math.pi / 30)) ** 2
    assert plan.figure("load.hung").value == pytest.approx(hung)
    assert plan.figure("load.inertia").value == pytest.approx(0.2 + hung)
    assert planner("skerry-sound.json", "H-1")().figure("load.hung") is None


def test_inertia_by_points_alone_may_be_a_fifth_to_fifty_times_the_rotors():
    found = asked({"load.kind": "points", "load.points": "0,30\n50,40\n100,100", "load.power": "50 hp"}).load
    assert (found.inertia.low / found.rotor.value, found.inertia.high / found.rotor.value) == (
        pytest.approx(0.2), pytest.approx(50)
    )  # fmt: skip


@pytest.mark.parametrize(
    ("file", "tag", "path"),
    [
        ("harrowmere-lock.json", "P-11", "load.torque"), ("skerry-sound.json", "P-4", "load.flow"),
        ("skerry-sound.json", "P-4", "load.head"), ("skerry-sound.json", "W-2", "load.force"),
        ("skerry-sound.json", "W-2", "load.line_speed"), ("skerry-sound.json", "F-3", "drive.overload_time"),
        ("harrowmere-lock.json", "X-51", "protection.holds"),
    ],
)  # fmt: skip
def test_nought_of_what_is_divided_by_is_refused_at_its_field(file, tag, path):
    plan = planner(file, tag)({path: "0"})
    assert [error.path for error in plan.errors] == [path]
    assert plan.answer


@pytest.mark.parametrize(
    "head", ["speed,torque", "speed torque", "speed % torque %", "n [%]; T [%]", "speed_%, torque_%"]
)
def test_points_have_a_head_or_none(head):
    rows = "0 30\n50 40\n100 100"
    assert read_points(f"{head}\n{rows}").torques == read_points(rows).torques


@pytest.mark.parametrize(
    ("facts", "asked"),
    [
        ({"load.gear_ratio": None}, True),  # 94 % of a gear of which nobody says what it is
        ({"load.gear_ratio": "1"}, False),
        ({"load.gear_ratio": None, "load.gear_efficiency": None}, False),  # none
        ({"load.gear_ratio": None, "load.inertia": None}, False),  # the usual inertia is the motor's own times over
    ],
)
def test_a_gear_of_which_its_losses_alone_are_given_is_asked_for_its_ratio(facts, asked):
    """D-61: 900 kg·m² behind 60 : 1 are 0.25 at the motor."""
    plan = planner("harrowmere-lock.json", "D-61")(facts)
    assert ("load.gear_ratio" in [one.path for one in plan.missing]) is asked
    assert (plan.load is None) is asked
