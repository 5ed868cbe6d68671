"""A start whose run to the motor is not known: approved only where the longest run that is allowed would not spoil it."""

import pytest

from tests.conftest import planner
from tests.core.good import GOOD
from vinegate.core.drive.stage import DRIVE
from vinegate.core.grade import Verdict

DIRECT, SOFT, MARGIN = GOOD["NEC, direct"], GOOD["NEC, soft starter"], GOOD["IEC, direct"]
UNKNOWN = {"wiring.length": None}
FULL = {"start.method": "full-voltage"}


def as_long_as_it_may_be(plan, facts):
    """The longest run whose terminals keep the least that is asked, by halving."""
    short, long = 1.0, 4000.0
    for _ in range(24):
        middle = (short + long) / 2
        found = plan({**facts, "wiring.length": f"{middle:.3f} m"}).figure("start.full.terminals").value
        short, long = (middle, long) if found > 85 else (short, middle)
    return plan({**facts, "wiring.length": f"{short:.3f} m"})


@pytest.mark.parametrize(
    ("load", "verdict"), [({}, Verdict.CHECK), ({"load.power": "20 hp", "load.breakaway": "110 %"}, Verdict.PASSES)]
)
def test_it_passes_only_where_it_would_behind_the_longest(load, verdict):
    facts = FULL | load
    unknown, longest = DIRECT(facts | UNKNOWN).gate("start.torque"), as_long_as_it_may_be(DIRECT, facts)
    assert unknown.verdict is verdict
    if verdict is Verdict.PASSES:
        assert longest.gate("start.torque").verdict is Verdict.PASSES
    else:
        assert "It rests on the run to the motor" in unknown.sentence
        assert longest.gate("start.torque").verdict is not Verdict.PASSES


@pytest.mark.parametrize("path", ["wiring.length", "wiring.size", "wiring.raceway", "wiring.metal"])
def test_whatever_of_the_run_lacks(path):
    assert DIRECT({path: None}).gate("start.torque").verdict is Verdict.CHECK
    assert DIRECT({}).gate("start.torque").verdict is Verdict.PASSES


def test_nobody_is_sent_to_a_dearer_way_for_it():
    known, unknown = DIRECT({}), DIRECT(UNKNOWN)
    assert unknown.comparison.chosen == known.comparison.chosen == "full-voltage"
    row = unknown.comparison.row("full-voltage")
    assert row.recommended
    assert row.verdict is Verdict.CHECK
    assert row.why == "To check until its run to the motor is known: torque to get away."


def test_what_holds_the_amperes_is_not_weaker_behind_a_run():
    assert SOFT(UNKNOWN).gate("start.torque").verdict is SOFT({}).gate("start.torque").verdict is Verdict.PASSES


def test_with_torque_to_spare_it_does_not_matter():
    assert MARGIN(UNKNOWN).gate("start.torque").verdict is Verdict.PASSES


BEHIND = planner("harrowmere-lock.json", "M-41")
CIRCUIT = ("protection.clears", "start.terminals", "protection.drop")
NETWORK = ("start.dip", "protection.clears", "protection.short_circuit_rating", "start.terminals", "protection.holds")


@pytest.mark.parametrize(
    ("gone", "label", "asking", "others"),
    [
        (["wiring.metal"], "the run's metal", CIRCUIT, NETWORK[:1]),
        (["wiring.size"], "the run's size", CIRCUIT, NETWORK[:1]),
        (["wiring.size", "wiring.length"], "the run to the motor", CIRCUIT, NETWORK[:1]),
        (["board_1.metal"], "metal of Digester MCC's feeder", NETWORK, CIRCUIT[2:]),
        (["supply.transformer_impedance"], "transformer impedance in %", NETWORK, CIRCUIT[2:]),
        (["supply.transformer_power", "supply.transformer_impedance", "supply.fault_level"],
         "utility fault level or transformer", NETWORK, CIRCUIT[2:]),
    ],
)  # fmt: skip
def test_what_lacks_is_named_by_itself(gone, label, asking, others):
    """Of a run or a supply of which nearly all is typed, the one fact that is not; what does not need it is judged."""
    plan = BEHIND(dict.fromkeys(gone))
    assert [plan.gate(key).needs for key in asking] == [(label,)] * len(asking)
    assert all(not plan.gate(key).needs for key in others)


@pytest.mark.parametrize(
    ("tag", "facts", "lack"),
    [
        ("F-3", {}, {"drive.power", "drive.overload", "drive.ramp_up"}),
        ("F-3", {"load.power": "24 kW"}, set()),
        ("P-4", {}, set()),
        ("D-6", {}, set()),
        ("X-51", {"start.method": "drive", "load.power": "59 hp"}, {"drive.power"}),  # 3 % of volts, and not 5
        ("X-51", {"start.method": "drive", "load.power": "52 hp"}, set()),
    ],
)
def test_behind_a_drive_it_passes_only_where_it_would_behind_the_longest(tag, facts, lack):
    """The longest keeps the drop that is recommended; the drop goes with the length. P-4 has three motors on one run."""
    plan = planner("harrowmere-lock.json" if tag == "X-51" else "skerry-sound.json", tag)
    sagging = plan({**facts, "wiring.length": "100 m"}).gate("protection.drop")
    longest = plan({**facts, "wiring.length": f"{100 * sagging.limit / sagging.value:.2f} m"}).stage("drive").gates
    unknown = plan(facts | UNKNOWN).stage("drive").gates
    assert {gate.key for gate in unknown if gate.needs == ("the run's length",)} == lack
    rows = plan(facts | UNKNOWN).of(DRIVE).driven.rows
    assert [row.verdict for row in rows] == [
        Verdict.UNKNOWN if "drive.power" in lack else Verdict.PASSES,
        *[Verdict.PASSES] * (len(rows) - 1),
    ]
    passing = {gate.key for gate in unknown if gate.verdict is Verdict.PASSES}
    assert {gate.key for gate in longest if gate.verdict is not Verdict.PASSES} & (passing | lack) == lack
