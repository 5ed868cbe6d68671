"""What a device is marked for, by the system's earthing: for the checklist, and asked only where it may matter."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Kind, Verdict

PUMP, HYDRAULIC = planner("harrowmere-lock.json", "P-11"), planner("skerry-sound.json", "H-1")


def asked(plan):
    found = [gate for gate in plan.gates if gate.key == "protection.straight"]
    assert all((gate.kind, gate.verdict) == (Kind.CONFIRM, Verdict.UNKNOWN) for gate in found)
    return found[0].sentence if found else ""


@pytest.mark.parametrize(
    ("volts", "device", "says"),
    [
        ("480 V delta", "inverse-time", "Breaker and controller are marked 480 V, not 480Y/277 V."),
        ("480 V delta", "time-delay", "Controller is marked 480 V, not 480Y/277 V."),
        (
            "480",
            "instantaneous",
            "Unless it is a solidly grounded 480Y/277 V system, breaker and controller are marked",
        ),
        ("240/120 high-leg", "inverse-time", "Toward the high leg its breaker and controller are marked 240 V"),
        ("480Y/277", "inverse-time", ""),
        ("240 delta", "inverse-time", ""),  # three poles are made for 240 V straight
        ("208Y/120", "inverse-time", ""),
    ],
)
def test_a_slash_rating_is_for_a_grounded_wye(volts, device, says):
    plan = PUMP({"supply.volts": volts, "protection.device_nec": device})
    assert asked(plan).startswith(says)
    assert bool(asked(plan)) == bool(says)


@pytest.mark.parametrize(
    ("earthing", "device", "there"),
    [("it", "motor-breaker", True), ("it", "gg", False), ("tn-s", "motor-breaker", False), ("tt", "mcb-d", False)],
)
def test_a_breaker_on_an_it_system_is_one_that_was_tried_for_it(earthing, device, there):
    plan = HYDRAULIC({"supply.earthing": earthing, "protection.device_iec": device})
    assert asked(plan).startswith("Tried for IT systems") == there
