"""What is advised for the most amperes that nobody gave fails nothing which the least would pass, and the reverse."""

from __future__ import annotations

import pytest

from tests.conftest import planner
from tests.core.good import LOCK, SOUND
from vinegate.core.grade import Verdict

KEY = "plate.assumed.at_rest"
UNSAID = {"plate.starting_current_ratio": None, "plate.design_letter": None, "plate.code_letter": None}
PUMP = planner(SOUND, "K-5")
HEAVY = UNSAID | {"start.method": "full-voltage", "load.inertia": "5 kg·m²", "load.kind": "constant",
                  "supply.transformer_power": "1000 kVA", "protection.trip_class": "20"}  # fmt: skip
FAR = UNSAID | {"start.method": "full-voltage", "load.inertia": "20 kg·m²", "load.kind": "constant",
                "wiring.length": "500 m", "plate.efficiency_class": None}  # fmt: skip


def told(plan):
    return [gate for gate in plan.gates if gate.key == KEY]


@pytest.mark.parametrize(
    ("ratio", "verdict"), [(None, Verdict.CHECK), ("8", Verdict.FAILS), ("6.5", Verdict.PASSES), ("5", Verdict.PASSES)]
)
def test_a_device_that_holds_the_most_is_not_what_fails_it(ratio, verdict):
    """At 8 times a larger fuse is advised for the start, and does not open on a fault that a smaller one opens on."""
    gate = PUMP(HEAVY | {"plate.starting_current_ratio": ratio}).gate("protection.clears")
    assert gate.verdict is verdict
    if ratio is None:
        assert gate.turns.path == "plate.locked_rotor_current"
        assert "5 times I_N, it need not fail" in gate.sentence


def test_what_passes_with_the_most_and_fails_with_the_least_is_said():
    plan = PUMP(FAR)
    assert plan.gate("protection.withstand").verdict is Verdict.PASSES
    assert PUMP(FAR | {"plate.starting_current_ratio": "5"}).gate("protection.withstand").verdict is Verdict.FAILS
    (gate,) = told(plan)
    assert gate.verdict is Verdict.CHECK
    assert gate.name == "Current at rest not given"  # as other gates' names stand, whatever the rule set calls it
    assert "conductor bears the fault" in gate.sentence


@pytest.mark.parametrize(
    ("file", "tag", "facts"),
    [
        (SOUND, "K-5", FAR | {"plate.starting_current_ratio": "7"}),  # given
        (LOCK, "B-42", {"start.method": "full-voltage"}),  # by its letter
        (SOUND, "W-2", UNSAID),  # nothing turns
        (SOUND, "F-3", UNSAID),  # a drive turns it
    ],
)
def test_nothing_is_said_where_it_is_given_or_turns_nothing(file, tag, facts):
    assert told(planner(file, tag)(facts)) == []


@pytest.mark.parametrize(("ratio", "verdict"), [(None, Verdict.CHECK), ("8", Verdict.FAILS), ("5", Verdict.CHECK)])
def test_the_other_rule_set_as_well(ratio, verdict):
    """A limit sought for the most takes 1.6 % of volts, one for the least 1.0 of the 1 % that is allowed."""
    facts = {"limits.dip": "1 %", "limits.terminal": "90 %", "load.breakaway": "120 %"}
    gate = planner(LOCK, "X-51")(UNSAID | facts | {"plate.starting_current_ratio": ratio}).gate("start.dip")
    assert gate.verdict is verdict
