"""A start capacitor bears about 20 starts of 3 s an hour, whatever the winding bears."""

from __future__ import annotations

import pytest

from tests.conftest import planner
from tests.core.good import LOCK
from vinegate.core.grade import Verdict

C71 = planner(LOCK, "C-71")
KEY = "start.capacitor"
LIGHT = {"load.inertia": "0.005 kg·m²", "machine.inertia": "0.02 kg·m²"}  # so that its winding bears many starts


@pytest.mark.parametrize(
    ("facts", "verdict"),
    [
        ({"start.starts_per_hour": "6"}, Verdict.PASSES),
        ({"start.starts_per_hour": "20"} | LIGHT, Verdict.PASSES),
        ({"start.starts_per_hour": "21"} | LIGHT, Verdict.CHECK),
        ({"start.starts_per_hour": "6", "load.inertia": "4 kg·m²"}, Verdict.CHECK),  # 6 of so many seconds
        ({"start.starts_per_hour": "1", "load.inertia": "4 kg·m²"}, Verdict.PASSES),
    ],
)
def test_by_count_and_by_seconds(facts, verdict):
    gate = C71(facts).gate(KEY)
    assert gate.verdict is verdict
    assert (gate.turns is None) is (verdict is Verdict.PASSES)


def test_six_starts_of_ten_seconds_are_all_that_it_bears():
    """60 s an hour: held against the start's own course, read between its lines."""
    limits = []
    for inertia in range(1, 9):
        plan = C71({"start.starts_per_hour": "6", "load.inertia": f"{inertia} kg·m²", "machine.inertia": "0.02 kg·m²"})
        said = plan.gate(KEY)
        seconds = float(said.sentence.partition(" in for ")[2].partition(" s;")[0])
        limits.append((seconds, said.verdict is Verdict.PASSES))
    assert any(passes for _, passes in limits)
    assert all(6 * seconds <= 60 for seconds, passes in limits if passes)
    assert not all(passes for _, passes in limits)


def test_its_maker_s_word_stands_above_what_is_usual():
    facts = {"start.starts_per_hour": "40", **LIGHT}
    asked = C71(facts).gate(KEY)
    assert asked.turns.path == "machine.starts_per_hour"
    settled = C71(facts | {asked.turns.path: asked.turns.passes_as})
    assert all(gate.key != KEY for gate in settled.gates)
    assert settled.gate("start.per_hour").verdict is Verdict.PASSES


@pytest.mark.parametrize(("kind", "has"), [("capacitor-start-run", True), ("permanent-split", False)])
def test_only_where_a_switch_takes_one_out(kind, has):
    found = C71({"plate.kind": kind, "start.starts_per_hour": "60", **LIGHT})
    assert any(gate.key == KEY for gate in found.gates) is has
