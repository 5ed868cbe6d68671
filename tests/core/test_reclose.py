"""What closes by itself after an outage meets the machine's own field, unless it waits."""

import math

import pytest

from tests.conftest import planner
from vinegate.core.grade import Kind, Verdict

FULL = {"start.method": "full-voltage", "limits.dip": "10 %"}
plan = planner("harrowmere-lock.json", "P-11")


@pytest.mark.parametrize(
    ("changes", "verdict"),
    [
        ({"starter.ride": "2 s"}, Verdict.UNKNOWN),
        ({"starter.command": "two-wire"}, Verdict.UNKNOWN),
        ({"starter.command": "two-wire", "starter.restart": "0.5 s"}, Verdict.UNKNOWN),
        ({"starter.command": "two-wire", "starter.restart": "1 s"}, Verdict.PASSES),
        ({"starter.command": "two-wire", "start.restart_at": "1 s"}, Verdict.PASSES),  # as the restart order has it
        ({"starter.hands": "yes"}, Verdict.UNKNOWN),
        ({}, None),  # stays off until somebody starts it
        ({"start.method": "soft-starter", "starter.command": "two-wire"}, None),  # begins with its ramp
    ],
)
def test_what_closes_by_itself_waits_until_its_field_has_died(changes, verdict):
    found = {gate.key: gate for gate in plan(FULL | changes).gates}
    gate = found.get("starter.reclose")
    assert (gate.verdict if gate else None) is verdict
    assert gate is None or gate.kind is Kind.CONFIRM


@pytest.mark.parametrize(
    ("command", "switching", "asked"),
    [
        ("two-wire", "manual", True),
        ("two-wire", "rare", True),
        ("two-wire", "automatic", False),
        ("two-wire", None, False),
        ("three-wire", "manual", False),
    ],
)
def test_a_contact_that_may_be_a_floats_is_not_taken_for_a_hand(command, switching, asked):
    changes = FULL | {"starter.command": command, "start.switching": switching, "start.starts_per_hour": "2"}
    assert any(gate.key == "starter.switched" for gate in plan(changes).gates) is asked


def test_its_field_dies_with_the_rotors_own_inductance_over_its_resistance():
    """Two cages: slower than either alone, `(X_2 + X_m)/(2π·f·R_2)`, and no slower than both side by side."""
    circuit = plan(FULL).machine.circuit
    alone = [(cage.x_ohm + circuit.xm_ohm) / (2 * math.pi * 60 * cage.r_ohm) for cage in circuit.cages]
    said = plan(FULL | {"starter.ride": "2 s"}).gate("starter.reclose").sentence
    seconds = float(said.partition("within ")[2].partition(" s")[0])
    assert 1.5 * max(alone) * 0.98 <= seconds <= 1.5 * sum(alone) * 1.02
